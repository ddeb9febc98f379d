"""Whether accepted swaps still are what they were, once a client, a place or the rules have changed.

The stored load is kept, and so are lens, weights and conversion: what is asked is what this set-up, as the client will do it,
is worth today.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from oddswap.application.inputs import core_place, core_prescription
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.equivalence.candidates import evaluate_set_up, with_kit_of
from oddswap.errors import DomainError
from oddswap.store import swaps

STALE = 5.0
"""Points of match by which an accepted swap must have moved to be called stale."""


@dataclass(frozen=True)
class StaleSwap:
    """An accepted swap whose match moved.

    Args:
        client: The client's name.
        line: What the coach calls the line.
        line_id: Number of the line.
        title: What was accepted.
        was: Match when it was accepted, 0 to 100.
        now: Match today, 0 where it cannot be done any more.
    """

    client: str
    line: str
    line_id: int
    title: str
    was: float
    now: float


def match_today(client: ClientDoc, line: LineDoc, place: PlaceDoc, accepted: AcceptedDoc) -> float:
    """The match of an accepted swap with today's figures, its load kept, 0 to 100; 0 where it cannot be done any more."""
    try:
        prescription, room, lens = core_prescription(client, line), core_place(place), accepted.ranking.resolve_lens()
        set_up = with_kit_of(accepted.swap.set_up.set_up(), room)
        if set_up is None:
            return 0.0
        conversion = accepted.ranking.conversion(client).keeping()
        return round(evaluate_set_up(prescription, room, lens, set_up, conversion).match, 1)
    except DomainError:
        return 0.0


def recheck_place(place: int) -> list[StaleSwap]:
    """Check all swaps accepted at a place, keep what was found, and list those that are stale."""
    return _recheck(swaps.swaps_accepted_at(place))


def recheck_client(client: int) -> list[StaleSwap]:
    """Check all swaps accepted for a client, keep what was found, and list those that are stale."""
    return _recheck(swaps.swaps_accepted_for(client))


def _recheck(every: Iterable[swaps.AcceptedInContext]) -> list[StaleSwap]:
    out = []
    for held in every:
        accepted = AcceptedDoc.model_validate_json(held.swap.document)
        now, was = match_today(held.client, held.line.document, held.place, accepted), accepted.swap.match
        stale = abs(now - was) > STALE
        swaps.keep_match(held.swap.id, now if stale else None)
        if stale:
            out.append(StaleSwap(held.client.name, held.line.document.name, held.line.id, accepted.swap.title, was, now))
    return out
