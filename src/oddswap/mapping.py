"""The work that web service and command line share: documents in, matches out, remembered while nothing changes."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from functools import lru_cache
from typing import TypeVar

from oddswap import __version__
from oddswap.errors import DomainError
from oddswap.formats.documents import ClientDoc, LineDoc, PlaceDoc, ProgramDoc, check_program
from oddswap.formats.reports import PurchaseDoc, ReachDoc
from oddswap.formats.results import ExampleDoc, MatchDoc, SwapDoc, SwapsDoc, match_doc
from oddswap.mechanics.movements import movement
from oddswap.swaps.library import example, variants_of
from oddswap.swaps.match import lens
from oddswap.swaps.reach import Cell, purchases, reach, settings
from oddswap.swaps.search import Wishes, find_swaps, reassessed
from oddswap.swaps.sore import strains
from oddswap.swaps.trial import aim_at

T = TypeVar("T")


def match_line(client: ClientDoc, line: LineDoc, place: PlaceDoc, lens_id: str, curves: bool = True) -> MatchDoc:
    """Rank the equivalents of a line for a client at a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place`` or ``lens``.
    """
    return _match(client.model_dump_json(), line.model_dump_json(), place.model_dump_json(), lens_id, curves)


@lru_cache(maxsize=128)
def _match(client: str, line: str, place: str, lens_id: str, curves: bool) -> MatchDoc:
    # Keyed by content, so an edited client, line or place is computed anew and an undone edit is remembered.
    by = lens(lens_id)
    client_doc, line_doc = ClientDoc.model_validate_json(client), LineDoc.model_validate_json(line)
    place_doc = PlaceDoc.model_validate_json(place)
    body = under("client", client_doc.body)
    room = under("place", place_doc.place)
    prescribed = line_doc.line()
    aim = under("line", lambda: aim_at(prescribed, body))
    sore, spared = client_doc.sores(), dict[str, int]()
    swaps = under("place", lambda: find_swaps(prescribed, room, body, by, wishes=Wishes(sore), spared=spared))
    strained = strains(aim.profile.motion, sore)
    return match_doc(line_doc.name, place_doc.name, aim, swaps, by, curves, spared, strained)


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


def match_program(client: ClientDoc, program: ProgramDoc, place: PlaceDoc, lens_id: str) -> SwapsDoc:
    """Map every line of a program to a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``program``, ``place`` or ``lens``.
    """
    under("program", lambda: check_program(program))
    matches = []
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                matches.append(match_line(client, line, place, lens_id, curves=False))
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
