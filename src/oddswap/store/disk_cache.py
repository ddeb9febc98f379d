"""What is computed and kept between runs, in files of their own: they may be deleted at any time and are made anew."""

from __future__ import annotations

import hashlib
import logging
import os
import time
from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any, TypeVar

from peewee import (
    BlobField,
    CharField,
    DateTimeField,
    IntegerField,
    Model,
    OperationalError,
    PeeweeException,
    SqliteDatabase,
    fn,
)

from oddswap.store.models import now

MOST_BYTES = 300_000_000
"""Size of all parts together from which on the ones unused longest are dropped."""
TRIES, PAUSE_S = 6, 0.05
"""How often a locked file is tried, and how long between, s: who opens it while another makes or closes it is not kept waiting
by the file, but turned away."""
log = logging.getLogger(__name__)
Value = TypeVar("Value")


class DiskCache:
    """Parts of reach tables, or matches, by name. Work goes on without it where the file cannot be used.

    Args:
        path: The file; only its owner may read a new one.
        version: Digest of the rules that parts are computed by; those of other rules are never found.
        most_bytes: How much it holds.
    """

    def __init__(self, path: Path, version: str, most_bytes: int = MOST_BYTES) -> None:
        self.path, self.version, self.most_bytes = path, version, most_bytes
        # Several requests may read and write at a time: each takes the write lock before it reads what it changes.
        self.database = SqliteDatabase(
            str(path), timeout=15, lock_type="IMMEDIATE", pragmas={"journal_mode": "wal", "synchronous": 0}
        )
        self.parts = _parts_in(self.database)

    def _name(self, name: str) -> str:
        return hashlib.sha256(f"{self.version}{name}".encode()).hexdigest()

    def _connected(self, work: Callable[[], Value]) -> Value:
        """What ``work`` makes of the open file; tried again while others are making or closing it."""
        for left in range(TRIES - 1, 0, -1):
            try:
                return self._once(work)
            except OperationalError as error:
                if "locked" not in str(error):
                    raise
                log.debug("the file is locked; %d more tries", left)
                time.sleep(PAUSE_S)
        return self._once(work)

    def _once(self, work: Callable[[], Value]) -> Value:
        if not self.path.exists():
            with suppress(OSError):  # what cannot be made is told by who opens it
                os.close(os.open(self.path, os.O_CREAT | os.O_RDWR, 0o600))
        with self.database.connection_context():
            self.parts.create_table(safe=True)
            return work()

    def get(self, names: Sequence[str]) -> dict[str, bytes]:
        """What there is of these; nothing of another version of the program."""
        parts, wanted = self.parts, {self._name(name): name for name in names}

        def work() -> list[Any]:
            rows = list(parts.select(parts.name, parts.data).where(parts.name.in_(list(wanted))))
            if rows:
                parts.update(used_at=now()).where(parts.name.in_([r.name for r in rows])).execute()
            return rows

        try:
            rows = self._connected(work)
        except PeeweeException as error:
            log.warning("what was kept in %s cannot be read and is computed anew: %s", self.path.name, error)
            return {}
        return {wanted[r.name]: bytes(r.data) for r in rows}

    def put(self, items: Mapping[str, bytes]) -> None:
        """Keep these, and drop what was unused longest where it grows too large."""
        parts = self.parts
        rows = [{"name": self._name(n), "data": data, "size": len(data), "used_at": now()} for n, data in items.items()]

        def work() -> None:
            with self.database.atomic():
                parts.replace_many(rows).execute()
                excess = (parts.select(fn.SUM(parts.size)).scalar() or 0) - self.most_bytes
                for row in parts.select(parts.name, parts.size).order_by(parts.used_at) if excess > 0 else ():
                    if excess <= 0:
                        break
                    parts.delete().where(parts.name == row.name).execute()
                    excess -= row.size

        try:
            self._connected(work)
        except PeeweeException as error:
            log.warning("what is computed cannot be kept in %s: %s", self.path.name, error)

    def clear(self) -> None:
        """Drop everything, and give the room back."""

        def work() -> None:
            self.parts.delete().execute()
            self.database.execute_sql("VACUUM")

        try:
            self._connected(work)
        except PeeweeException as error:
            log.warning("what is kept in %s cannot be dropped: %s", self.path.name, error)


def _parts_in(file: SqliteDatabase) -> Any:
    """The table of parts in a file: a model of its own, since one that is bound for a while is bound for all threads."""

    class ReachPart(Model):
        """What one item of kit adds to the reach table of a client at a place, or a match."""

        name = CharField(primary_key=True)
        data = BlobField()
        size = IntegerField()
        used_at = DateTimeField(default=now, index=True)

        class Meta:
            database = file

    return ReachPart
