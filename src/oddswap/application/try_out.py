"""A set-up as someone set it by hand, held against a line, and its detail."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from oddswap.application.fields import name_field
from oddswap.application.inputs import core_place, core_prescription
from oddswap.documents.client import ClientDoc
from oddswap.documents.detail import DetailDoc
from oddswap.documents.match import SwapDoc, swap_doc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.set_up import MoveDoc, SetUpDoc
from oddswap.equivalence.candidates import Swap, evaluate_set_up
from oddswap.equivalence.conversion import Conversion
from oddswap.quantities import shown_in


def try_out(
    client: ClientDoc,
    line: LineDoc,
    place: PlaceDoc,
    ranking: RankDoc,
    set_up: SetUpDoc,
    solve: bool = False,
    moves: Sequence[MoveDoc] = (),
) -> SwapDoc:
    """A set-up as someone set it by hand, held against a line.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where, for the amounts there are.
        ranking: The lens.
        set_up: What is set.
        solve: Whether its load shall be converted anew; else it is kept.
        moves: What is done to it first.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place``, ``rank`` or ``set_up``.
    """
    wanted = ranking.conversion(client)
    swap = _evaluate(client, line, place, ranking, set_up, wanted if solve else wanted.keeping(), moves)
    with shown_in(client.units):
        return swap_doc(core_prescription(client, line), swap, ranking.resolve_lens(), curves=True)


def read_detail(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, set_up: SetUpDoc) -> DetailDoc:
    """Tolerances, muscles, remedies, checks and other items of one set-up.

    Raises:
        DomainError: See ``try_out``.
    """
    filters = ranking.filters(client)
    swap = _evaluate(client, line, place, ranking, set_up, filters.conversion.keeping())
    prescription = core_prescription(client, line)
    with shown_in(client.units):
        return DetailDoc.of(prescription, core_place(place), ranking.resolve_lens(), swap, filters)


def _evaluate(
    client: ClientDoc,
    line: LineDoc,
    place: PlaceDoc,
    ranking: RankDoc,
    set_up: SetUpDoc,
    conversion: Conversion,
    moves: Sequence[MoveDoc] = (),
) -> Swap:
    prescription, room, lens = core_prescription(client, line), core_place(place), name_field("rank", ranking.resolve_lens)
    wanted = set_up.set_up()
    for i, move in enumerate(moves):
        wanted = name_field(f"moves.{i}", partial(move.applied, wanted, room.kit))
    with shown_in(client.units):
        return name_field("set_up", lambda: evaluate_set_up(prescription, room, lens, wanted, conversion))
