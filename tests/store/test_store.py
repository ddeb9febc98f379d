"""The database: migrations, what is kept across restarts, and what faults leave behind."""

from __future__ import annotations

import threading

import pytest
from peewee import SqliteDatabase

from oddswap.documents.documents import ClientDoc
from oddswap.store import records
from oddswap.store.demo import load_demo
from oddswap.store.models import TABLES, database
from oddswap.store.opening import StoreError, migrate, open_store


@pytest.fixture
def store(tmp_path):
    path = tmp_path / "t.db"
    open_store(path)
    load_demo()
    yield path
    if not database.is_closed():
        database.close()


def test_migrations_build_the_models_tables(store):
    with database.connection_context():
        for table in TABLES:
            columns = {c.name: (c.data_type, c.null) for c in database.get_columns(table._meta.table_name)}
            declared = {f.column_name: f.null for f in table._meta.sorted_fields}
            assert {k: v[1] for k, v in columns.items()} == declared, table
    assert migrate(store) == []


def test_the_file_has_the_promised_settings(store):
    with database.connection_context():
        assert database.pragma("journal_mode") == "wal"
        assert database.pragma("foreign_keys") == 1
        assert database.execute_sql("PRAGMA foreign_key_check").fetchall() == []


def test_demo_has_three_clients_of_different_sizes_and_at_least_six_lines_each(store):
    assert load_demo() is False
    with database.connection_context():
        clients = [records.client(i) for i in records.client_ids()]
    assert len(clients) == 3
    assert len({c.document.stature_cm for c in clients}) == 3
    assert all(sum(len(p.lines) for p in c.programs) >= 6 for c in clients)
    assert {p.id for c in clients for p in c.places} == {1, 2, 3}


def test_taken_swaps_survive_a_restart_and_undo_brings_back_the_one_before(store):
    with database.connection_context():
        records.take_swap(1, 1, '{"n": 1}')
        records.take_swap(1, 1, '{"n": 2}')
        records.take_swap(1, 2, '{"n": 3}')
    open_store(store)
    with database.connection_context():
        assert [(t.place, t.document) for t in records.taken([1])] == [(1, '{"n": 2}'), (2, '{"n": 3}')]
        assert records.undo_swap(1, 1)
    open_store(store)
    with database.connection_context():
        assert [(t.place, t.document) for t in records.taken([1])] == [(1, '{"n": 1}'), (2, '{"n": 3}')]
        assert records.undo_swap(1, 1)
        assert not records.undo_swap(1, 1)


def test_missing_records_are_named_and_nothing_is_written(store):
    with database.connection_context():
        for call in (lambda: records.take_swap(999, 1, "{}"), lambda: records.take_swap(1, 999, "{}")):
            with pytest.raises(records.MissingError, match="there is no"):
                call()
        assert records.taken([1, 999]) == []


def test_threads_do_not_lose_each_others_writes(store):
    def take(n: int) -> None:
        with database.connection_context():
            for k in range(10):
                records.take_swap(1, 1, f'{{"n": {n * 10 + k}}}')

    threads = [threading.Thread(target=take, args=(n,)) for n in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    with database.connection_context():
        undone = 0
        while records.undo_swap(1, 1):
            undone += 1
    assert undone == 60


def test_a_file_that_is_no_database_is_refused_and_left_alone(tmp_path):
    path = tmp_path / "notes.txt"
    path.write_text("these are my notes, not a database" * 50)
    before = path.read_bytes()
    with pytest.raises(StoreError, match="cannot be opened as a database"):
        open_store(path)
    assert path.read_bytes() == before


def test_migrating_with_broken_references_is_refused(tmp_path):
    path = tmp_path / "t.db"
    migrate(path)
    raw = SqliteDatabase(str(path), pragmas={"foreign_keys": 0})
    raw.execute_sql("INSERT INTO place (coach_id, name, document) VALUES (99, 'x', '{}')")
    raw.close()
    with pytest.raises(StoreError, match="broken references"):
        migrate(path)


def test_saving_a_client_changes_only_that_client(store):
    with database.connection_context():
        records.save_client(1, ClientDoc(name="Ilka M", stature_cm=163, mass_kg=59, sex="female"))
        assert records.client(1).document.stature_cm == 163
        assert records.client(2).document.stature_cm != 163
        with pytest.raises(records.MissingError):
            records.save_client(99, records.client(1).document)
