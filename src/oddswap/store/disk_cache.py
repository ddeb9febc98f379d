"""Segments of reach tables kept between runs, in a file of their own: it may be deleted at any time and is made anew."""

from __future__ import annotations

import hashlib
import logging
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from peewee import BlobField, CharField, DateTimeField, IntegerField, Model, PeeweeException, SqliteDatabase, fn

from oddswap.store.models import now

MOST_BYTES = 300_000_000
"""Size of all parts together from which on the ones unused longest are dropped."""
log = logging.getLogger(__name__)


class DiskCache:
    """Where ``oddswap.equivalence.index`` keeps what it computed. Work goes on without it where the file cannot be used.

    Args:
        path: The file.
        version: Digest of the rules that segments are computed by; those of other rules are never found.
        most_bytes: How much it holds.
    """

    def __init__(self, path: Path, version: str, most_bytes: int = MOST_BYTES) -> None:
        self.version, self.most_bytes = version, most_bytes
        # Several requests may read and write at a time: each takes the write lock before it reads what it changes.
        self.database = SqliteDatabase(
            str(path), timeout=15, lock_type="IMMEDIATE", pragmas={"journal_mode": "wal", "synchronous": 0}
        )
        self.parts = _parts_in(self.database)

    def _name(self, name: str) -> str:
        return hashlib.sha256(f"{self.version}{name}".encode()).hexdigest()

    def get(self, names: Sequence[str]) -> dict[str, bytes]:
        """What there is of these; nothing of another version of the program."""
        parts, wanted = self.parts, {self._name(name): name for name in names}
        try:
            with self.database.connection_context():
                parts.create_table(safe=True)
                rows = list(parts.select(parts.name, parts.data).where(parts.name.in_(list(wanted))))
                if rows:
                    parts.update(used_at=now()).where(parts.name.in_([r.name for r in rows])).execute()
        except PeeweeException as error:
            log.warning("parts of reach tables cannot be read and are computed anew: %s", error)
            return {}
        return {wanted[r.name]: bytes(r.data) for r in rows}

    def put(self, items: Mapping[str, bytes]) -> None:
        """Keep these, and drop what was unused longest where it grows too large."""
        parts = self.parts
        rows = [{"name": self._name(n), "data": data, "size": len(data), "used_at": now()} for n, data in items.items()]
        try:
            with self.database.connection_context():
                parts.create_table(safe=True)
                with self.database.atomic():
                    parts.replace_many(rows).execute()
                    excess = (parts.select(fn.SUM(parts.size)).scalar() or 0) - self.most_bytes
                    for row in parts.select(parts.name, parts.size).order_by(parts.used_at) if excess > 0 else ():
                        if excess <= 0:
                            break
                        parts.delete().where(parts.name == row.name).execute()
                        excess -= row.size
        except PeeweeException as error:
            log.warning("parts of reach tables cannot be kept: %s", error)


def _parts_in(file: SqliteDatabase) -> Any:
    """The table of parts in a file: a model of its own, since one that is bound for a while is bound for all threads."""

    class ReachPart(Model):
        """What one item of kit adds to the reach table of a client at a place."""

        name = CharField(primary_key=True)
        data = BlobField()
        size = IntegerField()
        used_at = DateTimeField(default=now, index=True)

        class Meta:
            database = file

    return ReachPart
