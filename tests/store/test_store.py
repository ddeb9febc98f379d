"""The database: migrations, what is kept across restarts, and what faults leave behind."""

from __future__ import annotations

import json
import threading

import pytest
from peewee import SqliteDatabase
from playhouse.migrations import Runner

from oddswap.documents.client import ClientDoc
from oddswap.store import records, swaps
from oddswap.store.demo import load_demo
from oddswap.store.models import TABLES, database
from oddswap.store.opening import MIGRATIONS, StoreError, migrate, open_store


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


def test_accepted_swaps_survive_a_restart_and_undo_brings_back_the_one_before(store):
    with database.connection_context():
        swaps.accept_swap(1, 1, '{"n": 1}')
        swaps.accept_swap(1, 1, '{"n": 2}')
        swaps.accept_swap(1, 2, '{"n": 3}')
    open_store(store)
    with database.connection_context():
        assert [(t.place, t.document) for t in swaps.accepted([1])] == [(1, '{"n": 2}'), (2, '{"n": 3}')]
        assert swaps.undo_swap(1, 1)
    open_store(store)
    with database.connection_context():
        assert [(t.place, t.document) for t in swaps.accepted([1])] == [(1, '{"n": 1}'), (2, '{"n": 3}')]
        assert swaps.undo_swap(1, 1)
        assert not swaps.undo_swap(1, 1)


def test_missing_records_are_named_and_nothing_is_written(store):
    with database.connection_context():
        for call in (lambda: swaps.accept_swap(999, 1, "{}"), lambda: swaps.accept_swap(1, 999, "{}")):
            with pytest.raises(records.MissingError, match="there is no"):
                call()
        assert swaps.accepted([1, 999]) == []


def test_threads_do_not_lose_each_others_writes(store):
    def accept_swap_for_line(n: int) -> None:
        with database.connection_context():
            for k in range(10):
                swaps.accept_swap(1, 1, f'{{"n": {n * 10 + k}}}')

    threads = [threading.Thread(target=accept_swap_for_line, args=(n,)) for n in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    with database.connection_context():
        undone = 0
        while swaps.undo_swap(1, 1):
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


def test_what_version_1_stored_is_read_after_the_migration_with_nothing_lost(tmp_path):
    path = tmp_path / "old.db"
    own = SqliteDatabase(str(path), pragmas={"foreign_keys": 0})
    own.connect()
    Runner(own, directory=str(MIGRATIONS)).up("0004_coach_settings")
    details = {"sore": [{"joint": "knee", "action": "any"}], "ranges_deg": {"girdle_up": {"low": -5, "high": 30}}}
    details |= {"banned": ["hinge"], "learned": [{"movement": "shrug_up", "kit": "dumbbell", "factor": 1.1, "sets": 3}]}
    machine = {"kind": "machine", "id": "m", "name": "m", "movement": "shrug_up", "masses_kg": [10], "cam": "bell"}
    place = {"format": "odd-swap/place/1", "name": "Old", "room": {"length_cm": 300, "width_cm": 300, "ceiling_cm": 240}}
    set_up = {"movement": "hinge", "stance": "standing", "sources": [{"kind": "dumbbell", "mass_kg": 12}]}
    line = {"name": "Hinge", "target": "hamstrings", "set_up": set_up, "sets": 3, "reps_low": 8, "reps_high": 10}
    swap = {"key": "shrug_back:0:bent-15:m:", "set_up": set_up | {"stance": "bent"}}
    coach = {"lens": "long_end", "weights": {"same_shape": {"shape": 0.6, "steadiness": 0.4}}}
    rows = {
        "coach": {"name": "C", "settings": coach},
        "client": {"coach_id": 1, "name": "I", "stature_cm": 170, "mass_kg": 60, "sex": "female", "details": details},
        "place": {"coach_id": 1, "name": "Old", "document": place | {"kit": [machine]}},
        "program": {"client_id": 1, "name": "P"},
        "line": {"program_id": 1, "session": "A", "position": 0, "name": "Hinge", "document": line},
        "taken_swap": {"line_id": 1, "place_id": 1, "document": swap, "taken_at": "2026-01-02"},
    }
    for table, row in rows.items():
        values = [json.dumps(v) if isinstance(v, dict) else v for v in row.values()]
        names = ", ".join(f'"{name}"' for name in row)
        own.execute_sql(f'INSERT INTO "{table}" ({names}) VALUES ({", ".join("?" * len(row))})', values)
    own.close()
    open_store(path)
    with database.connection_context():
        client = records.client(1).document
        assert [r.joint for r in client.restrictions] == ["knee"]
        assert client.ranges_deg["scapula_up"].high == 30
        assert (client.banned, client.learned[0].movement) == (["romanian_deadlift"], "shrug")
        kept = records.place(1).document.kit[0]
        assert (kept.movement, kept.cam) == ("shrug", "peaked")
        assert records.line(1).document.set_up.movement == "romanian_deadlift"
        assert records.settings().weights == {"same_profile": {"profile": 0.6, "stability": 0.4}}
        (stored,) = swaps.accepted([1])
        assert json.loads(stored.document)["swap"]["key"].startswith("scapular_retraction:")
        assert json.loads(stored.document)["swap"]["set_up"]["stance"] == "bent_over"
    database.close()
