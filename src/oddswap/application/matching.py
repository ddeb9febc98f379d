"""The work that web service and command line share: documents in, matches out, remembered while nothing changes."""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from functools import lru_cache, partial
from typing import TypeVar

from oddswap import __version__
from oddswap.coaching.library import example, variants_of
from oddswap.documents.documents import ClientDoc, LineDoc, MoveDoc, PlaceDoc, ProgramDoc, RankDoc, SetUpDoc, check_program
from oddswap.documents.reports import PurchaseDoc, ReachDoc
from oddswap.documents.results import DetailDoc, ExampleDoc, MatchDoc, SwapDoc, SwapsDoc, match_doc, swap_doc
from oddswap.equivalence.candidates import Swap, assessed, reassessed
from oddswap.equivalence.conversion import Conversion
from oddswap.equivalence.coverage import Cell, purchases, reach, settings
from oddswap.equivalence.evaluate import Aim, aim_at
from oddswap.equivalence.lenses import Lens, lens
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.search import find_swaps
from oddswap.errors import DomainError
from oddswap.exercises import movement

T = TypeVar("T")


MATCHES = 128
"""Matches kept in memory, by content: an edited client, line or place is computed anew, an undone edit is remembered."""
_matches: OrderedDict[tuple[object, ...], MatchDoc] = OrderedDict()
_lock = threading.Lock()
PROGRESS: dict[str, float] = {}
"""Part done, 0 to 1, of searches under way, by whatever name their caller gave them."""


def match_line(
    client: ClientDoc, line: LineDoc, place: PlaceDoc, how: RankDoc, curves: bool = True, name: str = ""
) -> MatchDoc:
    """Rank the equivalents of a line for a client at a place.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where.
        how: Lens and filters.
        curves: Whether curves are wanted with every swap.
        name: Under which ``PROGRESS`` is kept; empty for none.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place`` or ``rank``.
    """
    key = (*_digests(client, line, place, how), curves)
    with _lock:
        if key in _matches:
            _matches.move_to_end(key)
            return _matches[key]
    try:
        found = _matched(*key, name)
    finally:
        PROGRESS.pop(name, None)
    with _lock:
        _matches[key] = found
        while len(_matches) > MATCHES:
            _matches.popitem(last=False)
    return found


def _digests(client: ClientDoc, line: LineDoc, place: PlaceDoc, how: RankDoc) -> tuple[str, str, str, str]:
    # What does not bear on the search is left out, so that a weighing does not cost a search.
    who = client.model_dump_json(exclude={"weights", "mass_unit", "length_unit", "weaker_side", "experience"})
    return who, line.model_dump_json(), _kit(place), how.model_dump_json()


@lru_cache(maxsize=256)
def _aim(client: str, line: str) -> Aim:
    body = under("client", ClientDoc.model_validate_json(client).body)
    prescribed = LineDoc.model_validate_json(line).line()
    return under("line", lambda: aim_at(prescribed, body))


def _matched(client: str, line: str, place: str, how: str, curves: bool, name: str) -> MatchDoc:
    rank_doc, client_doc = RankDoc.model_validate_json(how), ClientDoc.model_validate_json(client)
    line_doc, place_doc = LineDoc.model_validate_json(line), PlaceDoc.model_validate_json(place)
    by = under("rank", rank_doc.by)
    room, aim = under("place", place_doc.place), _aim(client, line)
    wishes, spared = rank_doc.wishes(client_doc), dict[str, int]()

    def progress(part: float) -> None:
        if name:
            PROGRESS[name] = part

    swaps = under("place", lambda: find_swaps(aim, room, by, progress, wishes, spared))
    strained = wishes.strains(aim.profile.motion)
    return match_doc(line_doc.name, place_doc.name, aim, swaps, by, curves, spared, strained)


def tried(
    client: ClientDoc,
    line: LineDoc,
    place: PlaceDoc,
    how: RankDoc,
    set_up: SetUpDoc,
    solve: bool = False,
    moves: Sequence[MoveDoc] = (),
) -> SwapDoc:
    """A set-up as someone set it by hand, held against a line.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where, for the amounts there are.
        how: The lens.
        set_up: What is set.
        solve: Whether its load shall be converted anew; else it is kept.
        moves: What is done to it first.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place``, ``rank`` or ``set_up``.
    """
    wanted = how.conversion(client)
    aim, by, swap = _assessed(client, line, place, how, set_up, wanted if solve else wanted.keeping(), moves)
    return swap_doc(aim, swap, by.weights, curves=True)


def _assessed(
    client: ClientDoc,
    line: LineDoc,
    place: PlaceDoc,
    how: RankDoc,
    set_up: SetUpDoc,
    conversion: Conversion,
    moves: Sequence[MoveDoc] = (),
) -> tuple[Aim, Lens, Swap]:
    who, what, where, _ = _digests(client, line, place, how)
    aim, room, by = _aim(who, what), _place(where), under("rank", how.by)
    wanted = set_up.set_up()
    for i, move in enumerate(moves):
        wanted = under(f"moves.{i}", partial(move.applied, wanted, room.kit))
    return aim, by, under("set_up", lambda: assessed(aim, room, by, wanted, conversion))


@lru_cache(maxsize=64)
def _place(place: str) -> Place:
    return under("place", PlaceDoc.model_validate_json(place).place)


def detail(client: ClientDoc, line: LineDoc, place: PlaceDoc, how: RankDoc, set_up: SetUpDoc) -> DetailDoc:
    """Tolerances, muscles, remedies and checks of one set-up.

    Raises:
        DomainError: See ``tried``.
    """
    conversion = how.conversion(client)
    aim, by, swap = _assessed(client, line, place, how, set_up, conversion.keeping())
    return DetailDoc.of(aim, _place(_kit(place)), by, swap, conversion)


def reach_map(client: ClientDoc, place: PlaceDoc) -> ReachDoc:
    """How well a place can load a client.

    Raises:
        DomainError: Where client or place cannot be.
    """
    return ReachDoc.of(client.name, place.name, _cells(_size(client), _kit(place)), settings()["fair"])


def map_digest(client: ClientDoc, place: PlaceDoc) -> str:
    """Names what a reach map is computed from: size, kit, settings and the program's version."""
    parts = (_size(client), _kit(place), repr(settings()), __version__)
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def purchase_list(client: ClientDoc, place: PlaceDoc) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first."""
    return list(_purchases(_size(client), _kit(place)))


def _size(client: ClientDoc) -> str:
    """What of a client decides the map."""
    return client.model_dump_json(include={"name", "stature_cm", "mass_kg", "sex", "measured_cm", "ranges_deg"})


def _kit(place: PlaceDoc) -> str:
    return place.model_dump_json(exclude={"busy"})


@lru_cache(maxsize=64)
def _cells(client: str, place: str) -> list[Cell]:
    body = under("client", ClientDoc.model_validate_json(client).body)
    room = under("place", PlaceDoc.model_validate_json(place).place)
    return reach(body, room)


@lru_cache(maxsize=64)
def _purchases(client: str, place: str) -> tuple[PurchaseDoc, ...]:
    body, room = ClientDoc.model_validate_json(client).body(), PlaceDoc.model_validate_json(place).place()
    return tuple(PurchaseDoc.of(p) for p in purchases(body, room, _cells(client, place)))


STALE = 5.0
"""Points of match that new figures may move a taken swap before it is called stale."""


def stale(client: ClientDoc, line: LineDoc, place: PlaceDoc, swap: SwapDoc, lens_id: str = "same_shape") -> float | None:
    """The match of a taken swap with the place's figures of today, where it moved by more than ``STALE`` points."""
    try:
        now = reassessed(line.line(), place.place(), client.body(), lens(lens_id), swap.set_up.set_up())
    except DomainError:
        now = 0.0
    return round(now, 1) if abs(now - swap.match) > STALE else None


def movement_example(client: ClientDoc, name: str, way: int, kit: str) -> ExampleDoc:
    """A movement of the library on generic kit for a client.

    Raises:
        DomainError: With the field, where there is no such movement, way or kit, or this client cannot do it.
    """
    return _example(client.model_dump_json(), name, way, kit)


@lru_cache(maxsize=256)
def _example(client: str, name: str, way: int, kit: str) -> ExampleDoc:
    doc = ClientDoc.model_validate_json(client)
    kind = movement(name)
    variants = variants_of(kind)
    if not 0 <= way < len(variants):
        raise DomainError("way", way, f"{kind.name} has the ways 0 to {len(variants) - 1}", "Pick one of these")
    body = under("client", doc.body)
    return ExampleDoc.of(doc.name, variants[way], example(body, kind, variants[way], kit))


def match_program(client: ClientDoc, program: ProgramDoc, place: PlaceDoc, how: RankDoc) -> SwapsDoc:
    """Map every line of a program to a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``program``, ``place`` or ``rank``.
    """
    under("program", lambda: check_program(program))
    matches = []
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                matches.append(match_line(client, line, place, how, curves=False))
            except DomainError as error:
                inside = error.field.removeprefix("line.")
                if inside == error.field:
                    raise
                raise DomainError(f"program.sessions.{s}.lines.{i}.{inside}", error.value, error.limit, error.way_out) from None
    return SwapsDoc(client=client.name, program=program.name, place=place.name, lines=matches)


def under(prefix: str, work: Callable[[], T]) -> T:
    """Run ``work``; a domain error is seen from under ``prefix``."""
    try:
        return work()
    except DomainError as error:
        raise error.at(prefix) from None
