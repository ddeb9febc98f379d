"""The log: entries are added, never changed. The same one sent twice, or from two phones, is one."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from peewee import fn

from oddswap.documents.log import EntryDoc
from oddswap.documents.log_context import ContextDoc
from oddswap.store.models import ItemEvidence, LogContext, LogEntry, database


@dataclass(frozen=True)
class Entry:
    """An entry as it is kept.

    Args:
        seq: In the order in which entries came.
        key: The entry's id; of one that came with another text under an id that was there, another.
        done_at: When, UTC, by the server's clock.
        off_s: By how much the sender's clock was ahead, s.
        conflicts: Id of the entry that it disagrees with; None for none.
        document: What was noted.
        context: What it was done by then; None for a weighing or a note.
        place: Where.
    """

    seq: int
    key: str
    done_at: dt.datetime
    off_s: int
    conflicts: str | None
    document: EntryDoc
    context: ContextDoc | None
    place: int | None


@dataclass(frozen=True)
class NewEntry:
    """An entry to be kept; see ``Entry``."""

    document: EntryDoc
    done_at: dt.datetime
    off_s: int = 0
    context: ContextDoc | None = None
    place: int | None = None


def _same(document: EntryDoc, row: LogEntry) -> bool:
    return document.model_dump_json(exclude={"device"}) == EntryDoc.model_validate_json(row.document).model_dump_json(
        exclude={"device"}
    )


def append(client: int, entries: Sequence[NewEntry]) -> list[str]:
    """Keep entries, all or none; returns the ids that are kept now. What is there already is not kept again."""
    kept = []
    with database.atomic():
        for one in entries:
            key, conflicts = one.document.id, None
            held = LogEntry.get_or_none(LogEntry.client == client, LogEntry.key == key)
            kept.append(key)
            if held is not None:
                if _same(one.document, held):
                    continue
                # Another text under the same id: both are kept, and the coach is shown both.
                text = one.document.model_dump_json(exclude={"device"})
                conflicts, key = key, f"{key}:{hashlib.sha256(text.encode()).hexdigest()[:12]}"
                if LogEntry.get_or_none(LogEntry.client == client, LogEntry.key == key) is not None:
                    continue
            LogEntry.create(
                client=client,
                key=key,
                kind=one.document.kind,
                line=one.document.line,
                place=one.place,
                done_at=one.done_at,
                off_s=one.off_s,
                conflicts=conflicts,
                document=one.document.model_dump_json(),
                context=_context_number(client, one.context) if one.context else None,
            )
    return kept


def entries(client: int, since: dt.datetime | None = None) -> list[Entry]:
    """All entries of a client, in the order of their times; from ``since``, UTC, on."""
    e: Any = LogEntry
    # Rows are read as they are: thousands of them as records would take as long again.
    rows = e.select(e.id, e.key, e.done_at, e.off_s, e.conflicts, e.document, e.context, e.place).where(e.client == client)
    if since is not None:
        rows = rows.where(LogEntry.done_at >= since)
    contexts = {c.id: _context(c.document) for c in LogContext.select().where(LogContext.client == client)}
    return [
        Entry(n, key, at, off_s, conflicts, EntryDoc.model_validate_json(text), contexts.get(context), place)
        for n, key, at, off_s, conflicts, text, context, place in rows.order_by(e.done_at, e.id).tuples()
    ]


def _context_number(client: int, context: ContextDoc) -> int:
    """Number of a context that is kept; many sets share one."""
    text = context.model_dump_json()
    digest = hashlib.sha256(text.encode()).hexdigest()
    held = LogContext.get_or_none(LogContext.client == client, LogContext.digest == digest)
    return int((held or LogContext.create(client=client, digest=digest, document=text)).id)


@lru_cache(8192)
def _context(text: str) -> ContextDoc:
    """A context, read once."""
    return ContextDoc.model_validate_json(text)


def state(client: int, before: dt.datetime | None = None) -> tuple[str, int, int, str]:
    """Names what a client's log holds without reading it: the file, how many entries, the newest and when it came.

    Args:
        client: Whose.
        before: Only entries of sets done before, UTC.
    """
    rows = LogEntry.select(fn.COUNT(LogEntry.id), fn.MAX(LogEntry.id), fn.MAX(LogEntry.received_at))
    rows = rows.where(LogEntry.client == client)
    if before is not None:
        rows = rows.where(LogEntry.done_at < before)
    found: Any = rows.tuples().get()
    return str(database.database), int(found[0]), int(found[1] or 0), str(found[2])


def in_force(every: Sequence[Entry]) -> list[Entry]:
    """Entries less those that a fix stands for or that were taken back, and less what disagrees with an earlier one.

    Of several fixes of one entry the last counts; what was taken back by an entry that was itself taken back counts again.
    """
    by_target: dict[str, list[Entry]] = {}
    for one in every:
        if one.document.replaces is not None and one.conflicts is None:
            by_target.setdefault(one.document.replaces, []).append(one)

    def holds(one: Entry) -> bool:
        return not any(holds(later) for later in by_target.get(one.key, ()))

    def newest(one: Entry) -> bool:
        rivals = [e for e in by_target.get(one.document.replaces or "", ()) if holds(e)]
        return not rivals or max(rivals, key=lambda e: (e.document.kind == "withdrawn", e.seq)) is one

    out = [one for one in every if one.document.kind != "withdrawn" and one.conflicts is None and holds(one)]
    return [one for one in out if one.document.replaces is None or newest(one)]


def in_conflict(every: Sequence[Entry]) -> list[Entry]:
    """Entries that disagree with another: the same id with another text, or a second fix of the same entry."""
    fixes: dict[str, list[Entry]] = {}
    for one in every:
        if one.document.replaces is not None:
            fixes.setdefault(one.document.replaces, []).append(one)
    twice = [e for several in fixes.values() if len(several) > 1 for e in several]
    return [e for e in every if e.conflicts or e in twice]


def keep_evidence(client: int, messages: Mapping[str, tuple[float, float]]) -> None:
    """Keep what a client's log says of kit items, mean and precision, in place of what it said before."""
    with database.atomic():
        ItemEvidence.delete().where(ItemEvidence.client == client).execute()
        for item, (mean, precision) in messages.items():
            ItemEvidence.create(client=client, item=item, mean=mean, precision=precision)


def evidence(but: int) -> list[dict[str, tuple[float, float]]]:
    """What the logs of all clients but one say of kit items, a mapping a client."""
    out: dict[int, dict[str, tuple[float, float]]] = {}
    for row in ItemEvidence.select().where(ItemEvidence.client != but):
        out.setdefault(row.client_id, {})[row.item] = (row.mean, row.precision)
    return list(out.values())
