"""Opening the database file: whose it is and whether it is whole, migrations, then the shared connection settings."""

from __future__ import annotations

import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from peewee import PeeweeException, SqliteDatabase
from playhouse.migrations import Runner

from oddswap.store.models import database

MIGRATIONS = Path(__file__).parent / "migrations"
APPLICATION_ID = 0x4F445357
"""What SQLite keeps in a file's head to tell whose it is: ODSW."""
# An answer that promises to have stored must outlive the machine's power: synchronous FULL.
# Every connection has a page cache of its own, kB: forty at a time must stay small.
PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "synchronous": 2, "cache_size": -2_000}


class StoreError(RuntimeError):
    """The database file cannot be used; the message says why and what to do."""


class GoneError(StoreError):
    """The database file was moved, deleted or replaced under the running app."""


_opened: tuple[int, int] | None = None
"""Device and number of the file that was opened: another one of its name is not it."""


@contextmanager
def connected() -> Iterator[None]:
    """A connection of this thread to the file that was opened.

    Raises:
        GoneError: If that file is no longer where it was; nothing is written to an empty one made in its place.
    """
    path = path_in_use()
    try:
        now = path.stat()
    except OSError:
        now = None
    if now is None or (_opened is not None and (now.st_dev, now.st_ino) != _opened):
        raise GoneError(f"{path.name} was moved, deleted or replaced. Put it back, or stop the app and start it again")
    with database.connection_context():
        yield


def content() -> tuple[object, ...]:
    """Names what the file holds without reading it: it changes with whatever this process or another one writes."""
    path, out = path_in_use(), list[object]([database.written])
    for file in (path, path.with_name(path.name + "-wal")):
        # The log of what is not yet in the file comes and goes with connections; empty it says nothing.
        at = file.stat() if file.exists() else None
        out.append((at.st_mtime_ns, at.st_size) if at is not None and at.st_size else None)
    return str(path), *out


def inspect(path: Path, filled: bool = False) -> None:
    """Whether a file is this program's, not newer than it, and whole.

    Args:
        path: The file.
        filled: Whether one without any tables will not do.

    Raises:
        StoreError: If it is not.
    """
    with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=5)) as own:
        (application,) = own.execute("PRAGMA application_id").fetchone()
        tables = {name for (name,) in own.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        if application not in (0, APPLICATION_ID) or (tables and not {"coach", "client"} <= tables):
            raise StoreError(f"{path.name} is the database of another program. Name another file with --data")
        applied = {r[0] for r in own.execute("SELECT name FROM schema_migration")} if "schema_migration" in tables else set()
        if filled and not tables:
            raise StoreError(f"{path.name} is empty: there is nothing in it to restore. Name another file")
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
    global _opened
    there = path.stat()
    _opened = there.st_dev, there.st_ino


def disk_is_full(error: BaseException) -> bool:
    """Whether an error says that nothing more can be written for want of room."""
    # SQLite gives the transaction up by itself then, so that what is told first is that it cannot be rolled back.
    links: list[BaseException] = [error]
    while (before := links[-1].__cause__ or links[-1].__context__) is not None and len(links) < 10:
        links.append(before)
    told = [str(one) for one in links if isinstance(one, sqlite3.Error | PeeweeException | OSError)]
    return any("is full" in text or "No space left" in text for text in told)


def reason(path: Path, error: Exception) -> str:
    """Why a file cannot be used, and what to do."""
    text = str(error)
    if "locked" in text:
        return f"{path.name} is in use by another program. Close it, then start again"
    if disk_is_full(error):
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


MEDIA_TYPE = "application/vnd.sqlite3"


def path_in_use() -> Path:
    """The database file of this process."""
    return Path(str(database.database))


def restore_running(copy: Path) -> Path:
    """Put a backup's contents into the database that this process is using; returns where a copy of what was there is.

    Readers see all of the one or all of the other. The backup may be of an earlier version: it is brought up to date first.

    Raises:
        StoreError: If the backup is none; then nothing is changed.
    """
    try:
        inspect(copy, filled=True)
        migrate(copy)
        path = path_in_use()
        kept = free_name(path.with_suffix(".before-restore"))
        backup(path, kept)
        with closing(sqlite3.connect(copy)) as source, closing(sqlite3.connect(path, timeout=15)) as own:
            source.backup(own)
        return kept
    except StoreError:
        raise
    except Exception as error:
        raise StoreError(reason(copy, error)) from error


def restore(copy: Path, target: Path) -> Path | None:
    """Put a backup in a database's place; returns where what was there is kept, None where there was nothing.

    Raises:
        StoreError: If the backup is none, or the place cannot be written.
    """
    try:
        inspect(copy, filled=True)
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
