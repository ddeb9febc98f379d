"""Files that cannot be the database are refused in words and left alone; backups are whole, and nothing old is overwritten."""

from __future__ import annotations

import sqlite3
import stat
from contextlib import closing

import pytest

from oddswap.documents.client import ClientDoc
from oddswap.store import records
from oddswap.store.models import database
from oddswap.store.opening import APPLICATION_ID, StoreError, backup, free_name, open_store, restore


def sql(path, *statements):
    with closing(sqlite3.connect(path, isolation_level=None)) as own:
        for statement in statements:
            own.execute(statement)


def test_a_new_file_says_whose_it_is_and_only_its_owner_reads_it(store):
    with closing(sqlite3.connect(store)) as own:
        assert own.execute("PRAGMA application_id").fetchone() == (APPLICATION_ID,)
    assert stat.S_IMODE(store.stat().st_mode) == 0o600
    with database.connection_context():
        assert database.pragma("synchronous") == 2


@pytest.mark.parametrize(
    ("statements", "words"),
    [
        (["PRAGMA application_id = 77"], "another program"),
        (["INSERT INTO schema_migration (name, applied) VALUES ('9999_later', '2030-01-01')"], "newer Odd Swap"),
    ],
)
def test_files_of_others_and_of_later_programs_are_refused(store, statements, words):
    sql(store, *statements)
    before = store.read_bytes()
    with pytest.raises(StoreError, match=words):
        open_store(store)
    assert store.read_bytes() == before


def test_a_database_of_something_else_is_refused(tmp_path):
    path = tmp_path / "other.db"
    sql(path, "CREATE TABLE recipes (name TEXT)")
    with pytest.raises(StoreError, match="another program"):
        open_store(path)


def test_a_damaged_file_names_the_way_back(store):
    database.close()
    sql(store, "PRAGMA wal_checkpoint(TRUNCATE)", "PRAGMA journal_mode = DELETE")
    held = bytearray(store.read_bytes())
    for at in range(5 * 4096, len(held), 4096):
        held[at : at + 200] = b"\xff" * 200
    store.write_bytes(held)
    with pytest.raises(StoreError, match=r"damaged.*odd-swap restore"):
        open_store(store)


def test_a_file_in_use_is_not_called_no_database(store):
    database.close()
    sql(store, "PRAGMA wal_checkpoint(TRUNCATE)", "PRAGMA journal_mode = DELETE")
    with closing(sqlite3.connect(store, isolation_level=None)) as other:
        other.execute("BEGIN EXCLUSIVE")
        with pytest.raises(StoreError, match="in use by another program"):
            open_store(store)


def test_a_backup_taken_while_writing_is_whole_and_comes_back(store, tmp_path):
    copy = tmp_path / "copy.db"
    with database.connection_context():
        records.save_client(1, ClientDoc(name="Before", stature_cm=160, mass_kg=60, sex="female"))
        backup(store, copy)
        records.save_client(1, ClientDoc(name="After", stature_cm=160, mass_kg=60, sex="female"))
    with pytest.raises(StoreError, match="there already"):
        backup(store, copy)
    database.close()
    kept = restore(copy, store)
    open_store(store)
    with database.connection_context():
        assert records.client(1).document.name == "Before"
    assert kept is not None
    database.close()
    open_store(kept)
    with database.connection_context():
        assert records.client(1).document.name == "After"


def test_a_backup_takes_the_place_of_a_damaged_file(store, tmp_path):
    copy = tmp_path / "copy.db"
    backup(store, copy)
    database.close()
    store.write_bytes(b"SQLite format 3\0" + b"\xff" * 20_000)
    with pytest.raises(StoreError):
        open_store(store)
    kept = restore(copy, store)
    assert kept is not None
    assert kept.read_bytes().endswith(b"\xff" * 100)
    open_store(store)
    with database.connection_context():
        assert len(records.client_ids()) == 3


def test_an_older_copy_is_never_overwritten(tmp_path):
    path = tmp_path / "t.before-0002"
    assert free_name(path) == path
    path.touch()
    assert free_name(path).name == "t.before-0002-2"
    free_name(path).touch()
    assert free_name(path).name == "t.before-0002-3"
