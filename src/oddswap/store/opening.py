"""Opening the database file: whose it is and whether it is whole, migrations, then the shared connection settings."""

from __future__ import annotations

import os
import shutil
import sqlite3
from contextlib import closing
from pathlib import Path

from peewee import SqliteDatabase
from playhouse.migrations import Runner

from oddswap.store.models import database

MIGRATIONS = Path(__file__).parent / "migrations"
APPLICATION_ID = 0x4F445357
"""What SQLite keeps in a file's head to tell whose it is: ODSW."""
# An answer that promises to have stored must outlive the machine's power: synchronous FULL.
PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "synchronous": 2, "cache_size": -16_000}


class StoreError(RuntimeError):
    """The database file cannot be used; the message says why and what to do."""


def inspect(path: Path) -> None:
    """Whether a file is this program's, not newer than it, and whole.

    Raises:
        StoreError: If it is not.
    """
    with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=5)) as own:
        (application,) = own.execute("PRAGMA application_id").fetchone()
        tables = {name for (name,) in own.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        if application not in (0, APPLICATION_ID) or (tables and not {"coach", "client"} <= tables):
            raise StoreError(f"{path.name} is the database of another program. Name another file with --data")
        applied = {r[0] for r in own.execute("SELECT name FROM schema_migration")} if "schema_migration" in tables else set()
        newer = sorted(applied - {m.stem for m in MIGRATIONS.glob("[0-9]*.py")})
        if newer:
            raise StoreError(
                f"{path.name} was written by a newer Odd Swap ({newer[-1]}). Update this one, or open a copy from before"
            )
        found = [row[0] for row in own.execute("PRAGMA quick_check(5)")]
        if found != ["ok"]:
            raise StoreError(f"{path.name} is damaged ({found[0]}). Restore the last backup: odd-swap restore BACKUP")


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
        kept = free_name(path.with_suffix(".before-" + waiting[0])) if waiting and runner.applied() else None
        if kept is not None:
            own.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
            shutil.copy2(path, kept)
        applied: list[str] = runner.up()
        own.execute_sql(f"PRAGMA application_id = {APPLICATION_ID}")
        broken = own.execute_sql("PRAGMA foreign_key_check").fetchall()
        if broken:
            raise StoreError(f"{len(broken)} broken references after migration; the file as it was is kept at {kept}")
        return applied
    finally:
        own.close()


def free_name(path: Path) -> Path:
    """This name, or with a number behind it one that no file has: an older copy is never overwritten."""
    found, number = path, 2
    while found.exists():
        found, number = path.with_name(f"{path.name}-{number}"), number + 1
    return found


def open_store(path: Path) -> None:
    """Make ``path`` the database of this process, creating or migrating it; only its owner may read a new one.

    Raises:
        StoreError: If the file cannot be used, in words that say what to do.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists() and path.stat().st_size:
            inspect(path)
        else:
            os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
        migrate(path)
    except StoreError:
        raise
    except Exception as error:
        raise StoreError(reason(path, error)) from error
    if not database.is_closed():
        database.close()
    database.init(str(path), timeout=15, pragmas=PRAGMAS)


def reason(path: Path, error: Exception) -> str:
    """Why a file cannot be used, and what to do."""
    text = str(error)
    if "locked" in text:
        return f"{path.name} is in use by another program. Close it, then start again"
    if "full" in text or "No space left" in text:
        return f"The disk is full, so {path.name} cannot be written. Make room, then start again"
    if "readonly" in text or "read-only" in text or isinstance(error, PermissionError):
        return f"{path.name} may not be written. Change its permissions, or name another file with --data"
    if "malformed" in text:
        return f"{path.name} is damaged. Restore the last backup: odd-swap restore BACKUP"
    if "not a database" in text:
        return f"{path.name} cannot be opened as a database: it is another kind of file. Name another with --data"
    return f"{path.name} cannot be opened as a database: {text}. Name another file with --data"


def backup(source: Path, target: Path) -> None:
    """Copy a database consistently, also while the app runs on it.

    Raises:
        StoreError: If the source is no database of this program, or the target cannot be written.
    """
    try:
        inspect(source)
        with closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True)) as own:
            os.close(os.open(target, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600))
            with closing(sqlite3.connect(target)) as copy:
                own.backup(copy)
    except StoreError:
        raise
    except FileExistsError:
        raise StoreError(f"{target.name} is there already. Name another file") from None
    except Exception as error:
        raise StoreError(reason(target, error)) from error


def restore(copy: Path, target: Path) -> Path | None:
    """Put a backup in a database's place; returns where what was there is kept, None where there was nothing.

    Raises:
        StoreError: If the backup is none, or the place cannot be written.
    """
    try:
        inspect(copy)
        target.parent.mkdir(parents=True, exist_ok=True)
        kept = free_name(target.with_suffix(".before-restore")) if target.exists() else None
        made = free_name(target.with_suffix(".restoring"))
        backup(copy, made)
        if kept is not None:
            # Set aside as it is, unread: a damaged file is why people restore.
            for beside in ("", "-wal", "-shm"):
                if (part := target.with_name(target.name + beside)).exists():
                    part.rename(kept.with_name(kept.name + beside))
        made.replace(target)
        return kept
    except StoreError:
        raise
    except Exception as error:
        raise StoreError(reason(target, error)) from error
