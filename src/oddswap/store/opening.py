"""Opening the database file: migrations first, then the shared connection settings."""

from __future__ import annotations

import shutil
from pathlib import Path

from peewee import SqliteDatabase
from playhouse.migrations import Runner

from oddswap.store.models import database

MIGRATIONS = Path(__file__).parent / "migrations"
PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "synchronous": 1, "cache_size": -16_000}


class StoreError(RuntimeError):
    """The database file cannot be used; the message says why and what to do."""


def migrate(path: Path) -> list[str]:
    """Bring the file at ``path`` up to date; returns the names of the steps applied.

    The helpers that change columns rebuild tables, and with foreign keys on that silently deletes every row that hangs
    on one by ON DELETE CASCADE. So the steps run on a connection of their own with foreign keys off, references are
    checked afterwards, and an existing file is copied first.

    Raises:
        StoreError: If the check finds broken references; the copy is kept and named.
    """
    own = SqliteDatabase(str(path), pragmas={"foreign_keys": 0})
    own.connect()
    try:
        runner = Runner(own, directory=str(MIGRATIONS))
        waiting = [m.name for m in runner.status() if m.path is not None and not m.applied]
        kept = path.with_suffix(".before-" + waiting[0]) if waiting and runner.applied() else None
        if kept is not None:
            own.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
            shutil.copy2(path, kept)
        applied: list[str] = runner.up()
        broken = own.execute_sql("PRAGMA foreign_key_check").fetchall()
        if broken:
            raise StoreError(f"{len(broken)} broken references after migration; the file as it was is kept at {kept}")
        return applied
    finally:
        own.close()


def open_store(path: Path) -> None:
    """Make ``path`` the database of this process, creating or migrating it.

    Raises:
        StoreError: If the file is no database or cannot be migrated.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        migrate(path)
    except StoreError:
        raise
    except Exception as error:
        raise StoreError(f"{path.name} cannot be opened as a database: {error}. Move it away, or name another file") from error
    if not database.is_closed():
        database.close()
    database.init(str(path), timeout=15, pragmas=PRAGMAS)
