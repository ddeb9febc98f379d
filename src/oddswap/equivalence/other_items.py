"""A set-up on other items of its place: where one of a kind is better than another, and for when its own is in use."""

from __future__ import annotations

from dataclasses import dataclass, replace

from oddswap.equivalence.candidates import Answerer, Candidate, Swap, is_counted
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.local_search import FEW_STEPS, LocalSearch
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import mechanics_of
from oddswap.errors import DomainError

NAMED = 3
"""Other items named at most for when a set-up's own is in use."""
AS_GOOD = 0.5
"""Points of match under a set-up's own within which the same on another item stands as well as it can."""
ALIKE_PART = 0.6
"""Part of a set-up's match that the same on another item must reach to stand in for it."""


@dataclass(frozen=True)
class Elsewhere:
    """The same set-up on another item of the place.

    Args:
        name: The item's name.
        id: Its id.
        match: 0 to 100.
        set_up: What to do there, with its load.
    """

    name: str
    id: str
    match: float
    set_up: SetUp


def on_other_items(local_search: LocalSearch, place: Place, candidate: Candidate) -> list[Candidate]:
    """A set-up as it stands on every other item of its kind, the best of each; none where two sources load it."""
    out = list[Candidate]()
    if len(candidate.set_up.sources) != 1 or candidate.set_up.sources[0].item is None:
        return out
    first = candidate.set_up.sources[0]
    for item in place.kit:
        if not item.searched or first.is_from(item) or item.kind != first.item.kind:
            continue
        if not item.serves(candidate.mechanics.bearing):
            continue
        changed = first.with_item(item)
        if changed is not None:
            out += local_search.evaluate_settings(candidate.mechanics, [changed], item.amounts())
    return out


def steps_there(other: Candidate, own: Candidate) -> int:
    """Steps that a set-up is placed anew with on another item: none where it lost nothing on the way there."""
    return FEW_STEPS if other.match < own.match - AS_GOOD else 0


def find_elsewhere(
    prescription: PrescriptionProfile, place: Place, lens: Lens, swap: Swap, filters: SearchFilters
) -> list[Elsewhere]:
    """The same set-up on other items, placed finely there where that makes up for something; in order of likeness.

    Args:
        prescription: What the line asks of the client.
        place: Where.
        lens: How parts are weighed.
        swap: The set-up, with its load.
        filters: What is left out, how loads are converted, and what a client's joints must be spared.
    """
    room = replace(place, kit=[k for k in place.kit if k.id not in filters.without])
    local_search = LocalSearch(prescription, lens, room.farthest)
    answerer = Answerer(prescription, room, lens, filters.conversion, filters.strains)
    own = Candidate(swap.match, swap.set_up, mechanics_of(prescription.body, swap.set_up), swap.existing)
    others = sorted(on_other_items(local_search, room, own), key=lambda c: -c.match)[:NAMED]
    out = list[Elsewhere]()
    for one in (local_search.climb([[other]], steps=steps_there(other, own))[0] for other in others):
        try:
            answer = answerer.answer(local_search.plainest(one).set_up)
        except DomainError:
            continue  # its final load breaks a limit there
        if answer.match > ALIKE_PART * swap.match and is_counted(answer, prescription.line):
            item = answer.set_up.sources[0].item
            out.append(Elsewhere(item.name, item.id, answer.match, answer.set_up))
    return sorted(out, key=lambda one: -one.match)
