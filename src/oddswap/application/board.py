"""Cells of the board filled a session at a time: swaps that are chosen together for all lines without one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oddswap.application.beside import search_beside
from oddswap.application.inputs import core_place
from oddswap.application.jobs import LONG_WORK
from oddswap.application.matching import watched_match
from oddswap.application.stations import lift_of
from oddswap.application.versions import digest, match_digest
from oddswap.documents.board import CellChoiceDoc, SessionChoiceDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equipment.base.floor import lay_out
from oddswap.errors import DomainError
from oddswap.planning.joint import Option, choose_together

WITHIN, MOST = 8.0, 6
"""Points behind the best of its line within which a swap may be chosen for the others' sake, and how many are looked at."""


def board_digest(client: ClientDoc, lines: Sequence[tuple[int, LineDoc]], place: PlaceDoc, ranking: RankDoc) -> str:
    """Name of the work of choosing swaps for a session."""
    return digest("board", *(match_digest(client, line, place, ranking) for _, line in lines))


def choose_session(
    client: ClientDoc,
    lines: Sequence[tuple[int, LineDoc]],
    place: PlaceDoc,
    accepted: Mapping[int, SwapDoc],
    ranking: RankDoc,
) -> SessionChoiceDoc:
    """Swaps for the lines of a session that have none at a place, chosen together with those that have one.

    For a caller who says for how long it is wanted, by ``board_digest``.

    Args:
        client: Who.
        lines: All lines of the session, with their numbers.
        place: Where.
        accepted: Swaps in force there, by line: they stay.
        ranking: Lens and filters.

    Raises:
        DomainError: Where the client or the place cannot be.
        AbandonedError: Once nobody wants it.
    """
    name, room = board_digest(client, lines, place, ranking), core_place(place)
    spots = {s.item: s for s in lay_out(place.kit, place.room.room(), place.chosen_spots())}
    options: list[list[Option]] = []
    found: list[tuple[int, list[SwapDoc]]] = []
    nothing: dict[int, str] = {}
    wanted = [line for number, line in lines if number not in accepted]
    search_beside(client, wanted, place, ranking, lambda part: LONG_WORK.tell(name, part))
    for done, (number, line) in enumerate(lines):
        LONG_WORK.tell(name, max(done / len(lines), LONG_WORK.part(name) or 0.0))
        swaps = [accepted[number]] if number in accepted else []
        if not swaps:
            own = match_digest(client, line, place, ranking)
            try:
                with LONG_WORK.wanted(own):
                    every = watched_match(client, line, place, ranking).swaps
            except DomainError as error:
                nothing[number] = error.limit
                continue
            swaps = [s for s in every[:MOST] if s.match >= every[0].match - WITHIN]
        if not swaps:
            nothing[number] = "nothing here is like enough"
            continue
        found.append((number, swaps))
        options.append([Option(s.match, lift_of(client, number, line, s.set_up, room, spots)) for s in swaps])
    choice = choose_together(options)
    cells = [
        CellChoiceDoc.of(number, swaps[k], swaps[0])
        for (number, swaps), k in zip(found, choice.chosen, strict=True)
        if number not in accepted
    ]
    return SessionChoiceDoc(cells=cells, nothing=nothing, proven=choice.proven)
