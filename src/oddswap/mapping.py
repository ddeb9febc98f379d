"""The work that web service and command line share: documents in, matches out, remembered while nothing changes."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import TypeVar

from oddswap.errors import DomainError
from oddswap.formats.documents import ClientDoc, LineDoc, PlaceDoc, ProgramDoc, check_program
from oddswap.formats.results import ExampleDoc, MatchDoc, SwapsDoc, match_doc
from oddswap.mechanics.movements import movement
from oddswap.swaps.library import example, variants_of
from oddswap.swaps.match import lens
from oddswap.swaps.search import aim_at, find_swaps

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
    swaps = under("place", lambda: find_swaps(prescribed, room, body, by))
    return match_doc(line_doc.name, place_doc.name, aim, swaps, by, curves)


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
