"""Swaps that were accepted: in force, past, and with all that they were accepted for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.store.models import AcceptedSwap, Line, Place, Program, database, now
from oddswap.store.records import LineRecord, client, line, place


@dataclass(frozen=True)
class AcceptedSwapRecord:
    """A swap in force."""

    id: int
    line: int
    place: int
    document: str
    match_now: float | None = None
    locked: bool = False


@dataclass(frozen=True)
class PastSwap:
    """A swap that was accepted for a line, with its times, UTC, and whether it is in force."""

    place: int
    place_name: str
    document: str
    accepted_at: dt.datetime
    undone_at: dt.datetime | None
    in_force: bool


@dataclass(frozen=True)
class AcceptedInContext:
    """A swap in force, with all that it was accepted for."""

    swap: AcceptedSwapRecord
    line: LineRecord
    client: ClientDoc
    place: PlaceDoc


def swaps_accepted_at(place_number: int) -> list[AcceptedInContext]:
    """The swaps in force at a place."""
    at = AcceptedSwap.select(AcceptedSwap.line).join(Line).where(AcceptedSwap.place == place_number, Line.removed_at.is_null())
    return [held for held in _in_context(list({r.line_id for r in at})) if held.swap.place == place_number]


def swaps_accepted_for(client_number: int) -> list[AcceptedInContext]:
    """The swaps in force for a client, at all places."""
    return _in_context([line.id for program in client(client_number).programs for line in program.lines])


def _in_context(lines: Sequence[int]) -> list[AcceptedInContext]:
    out = []
    for swap in accepted(lines):
        held = line(swap.line)
        out.append(AcceptedInContext(swap, held, client(held.client).document, place(swap.place).document))
    return out


@dataclass(frozen=True)
class StaleSwap:
    """A swap in force whose match is not what it was when it was accepted, and the name of its line."""

    swap: AcceptedSwapRecord
    name: str


def stale_swaps(client_number: int) -> list[StaleSwap]:
    """What was accepted for a client and is worth less today."""
    mine = (Program.client == client_number) & Line.removed_at.is_null() & Program.put_away_at.is_null()
    held = AcceptedSwap.match_now.is_null(False) & AcceptedSwap.undone_at.is_null()
    rows = Line.select(Line.id, Line.name).join(Program).switch(Line).join(AcceptedSwap).where(mine & held).distinct()
    names = {row.id: row.name for row in rows}
    return [StaleSwap(s, names[s.line]) for s in accepted(list(names)) if s.match_now is not None] if names else []


def keep_match(swap: int, match: float | None) -> None:
    """Keep an accepted swap's match today, 0 to 100, where it is stale, None where it is not."""
    AcceptedSwap.update(match_now=match).where(AcceptedSwap.id == swap).execute()


def accept_swap(line_number: int, place_number: int, document: str) -> int:
    """Accept a swap for a line at a place; returns its number.

    Raises:
        MissingError: If line or place do not exist.
    """
    line(line_number)
    place(place_number)
    with database.atomic():
        return int(AcceptedSwap.create(line=line_number, place=place_number, document=document).id)


def lock_swap(line_number: int, place_number: int, locked: bool) -> bool:
    """Lock the swap in force for a line at a place, or unlock it. False if there is none.

    Raises:
        MissingError: If line or place do not exist.
    """
    line(line_number)
    place(place_number)
    held = next((s for s in accepted([line_number]) if s.place == place_number), None)
    return held is not None and bool(AcceptedSwap.update(locked=locked).where(AcceptedSwap.id == held.id).execute())


def accepted(line_numbers: Sequence[int]) -> list[AcceptedSwapRecord]:
    """The swaps in force for these lines: per line and place the newest that is not undone."""
    rows = (
        AcceptedSwap.select()
        .where(AcceptedSwap.line.in_(list(line_numbers)), AcceptedSwap.undone_at.is_null())
        .order_by(AcceptedSwap.id)
    )
    newest = {(r.line_id, r.place_id): r for r in rows}
    return [AcceptedSwapRecord(r.id, r.line_id, r.place_id, r.document, r.match_now, r.locked) for r in newest.values()]


def swap_history(line_number: int) -> list[PastSwap]:
    """All that was ever accepted for a line, newest first.

    Raises:
        MissingError: If there is no such line.
    """
    line(line_number)
    now_valid = {swap.id for swap in accepted([line_number])}
    rows = AcceptedSwap.select(AcceptedSwap, Place).join(Place).where(AcceptedSwap.line == line_number)
    return [
        PastSwap(r.place_id, r.place.name, r.document, r.accepted_at, r.undone_at, r.id in now_valid)
        for r in rows.order_by(AcceptedSwap.id.desc())
    ]


def undo_swap(line_number: int, place_number: int) -> bool:
    """Undo the newest accepted swap of a line at a place; the one before is in force again. False if there is none.

    Raises:
        MissingError: If there is no such line.
    """
    line(line_number)
    with database.atomic():
        row = (
            AcceptedSwap.select()
            .where(AcceptedSwap.line == line_number, AcceptedSwap.place == place_number, AcceptedSwap.undone_at.is_null())
            .order_by(AcceptedSwap.id.desc())
            .first()
        )
        if row is None:
            return False
        row.undone_at = now()
        row.save()
        return True
