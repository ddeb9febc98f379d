"""The next lift when one has been kept long enough: of like profile, and not done lately."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence

from oddswap.application.lessons import Book, day_of
from oddswap.application.matching import match_line
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.log_view import DueDoc, NextLiftDoc, NextLiftsDoc
from oddswap.documents.match import SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.conversion import lift_named
from oddswap.store import log, swaps
from oddswap.training_log.rotation import rotation_due
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet

OFFERED = 3
"""Lifts named at most; own choice."""


def due_lifts(book: Book, line: int, sets: Sequence[LoggedSet], by_key: Mapping[str, log.Entry]) -> list[DueDoc]:
    """Set-ups of a line that have been kept long enough, the newest first.

    Args:
        book: The client's log as it holds today.
        line: Number of the line.
        sets: Its sets.
        by_key: All entries of the log by their ids.
    """
    ways: dict[object, list[LoggedSet]] = {}
    for s in sorted(sets, key=lambda s: -s.day):
        ways.setdefault((s.family, tuple(s.items), by_key[s.id].place), []).append(s)
    out = []
    for mine in ways.values():
        last = by_key[mine[0].id]
        assert last.context is not None  # sets have one
        basis = last.context.basis
        # Whatever a coach chose for it is a choice to keep it.
        chosen = [
            day_of(e.done_at)
            for e in book.entries
            if e.document.choice is not None and e.document.line == line and e.context is not None
            and (e.context.basis.family, e.context.basis.items) == (basis.family, basis.items)
        ]  # fmt: skip
        words = rotation_due(mine, book.today, max(chosen, default=float("-inf")))
        if words and last.place is not None:
            c = last.context
            told = {"place": last.place, "place_name": c.place_name, "title": c.title, "kit": c.kit, "lift": basis.family}
            out.append(DueDoc(**told, words=words, like=last.key))
    return out


def still_due(due: Sequence[tuple[int, DueDoc]]) -> list[tuple[int, DueDoc]]:
    """Those, by line, in whose place no other lift was accepted by now."""
    now = {(s.line, s.place): _accepted_lift(s) for s in swaps.accepted([n for n, _ in due])} if due else {}
    return [(n, d) for n, d in due if now.get((n, d.place), d.lift) == d.lift]


_lifts: SharedCache[tuple[int, int], str] = SharedCache(4000)
"""By number and contents of an accepted swap, which lift it is."""


def _accepted_lift(swap: swaps.AcceptedSwapRecord) -> str:
    return _lifts.get((swap.id, hash(swap.document)), lambda: _family(AcceptedDoc.model_validate_json(swap.document).swap))


def next_lifts(
    client: ClientDoc, number: int, line: LineDoc, place: PlaceDoc, ranking: RankDoc, book: Book, where: int
) -> NextLiftsDoc:
    """What could stand in a line's place at a place next.

    Args:
        client: Who.
        number: Of the line.
        line: What is prescribed.
        place: Where.
        ranking: Lens and filters.
        book: The client's log.
        where: Number of the place.

    Raises:
        DomainError: Where nothing there can load the target.
    """
    done: dict[str, str] = {}
    for e in book.entries:
        if e.document.set is None or e.place != where or e.context is None:
            continue
        own = e.document.line == number
        if book.today - day_of(e.done_at) <= rules("next")["lately_days" if own else "rotate_days"]:
            whose = "" if own else f" in {e.context.line_name}"
            done[e.context.basis.family] = f"{e.context.title}{whose}, last on {_date(e.done_at)}"
    lifts, passed = dict[str, NextLiftDoc](), list[str]()
    for swap in match_line(client, line, place, ranking, curves=False).swaps:
        family = _family(swap)
        like = next((p.value for p in swap.parts if p.name == "profile"), 0.0)
        if family in done:
            passed.append(done[family])
        elif like >= rules("next")["like_profile"] and len(lifts) < OFFERED and family not in lifts:
            words = f"hard where the written lift is: {100 * like:.0f} % of the profile in common"
            told = {"key": swap.key, "title": swap.title, "kit": swap.kit, "load": swap.load.words, "match": swap.match}
            lifts[family] = NextLiftDoc(**told, words=words)
    return NextLiftsDoc(lifts=list(lifts.values()), passed=list(dict.fromkeys(passed)))


def _family(swap: SwapDoc) -> str:
    return lift_named(swap.set_up.movement, "+".join(s.kind for s in swap.set_up.sources) or "body")


def _date(moment: dt.datetime) -> str:
    return f"{moment.day} {moment:%b}"
