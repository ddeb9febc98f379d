"""What gives back what a place leaves out of a muscle's week: another swap, or more sets, each at its price."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil

from oddswap.application.inputs import core_place
from oddswap.application.matching import match_line
from oddswap.application.stations import lift_of
from oddswap.application.week import work_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.documents.week import MendDoc, MendsDoc, loss_words
from oddswap.equipment.base.floor import lay_out
from oddswap.errors import DomainError
from oddswap.mechanics.types import Floats
from oddswap.planning.balance import Loss

WORTH = 0.5
"""Sets that a mend must give back to be worth a word; own choice."""
POINT = 0.05
"""Sets that a point of match is worth where mends are compared; own choice."""
MOST_MORE = 3
"""Sets that are added to a line at most; own choice."""


def find_mends(
    client: ClientDoc,
    lines: Sequence[tuple[int, LineDoc]],
    place: PlaceDoc,
    accepted: Mapping[int, SwapDoc],
    ranking: RankDoc,
    group: str,
    third: int | None,
) -> MendsDoc:
    """Ways to mend a loss at a place.

    Args:
        client: Who.
        lines: Numbers and lines of all programs.
        place: Where.
        accepted: Swaps in force there, by line.
        ranking: Lens and filters.
        group: Muscle group that loses.
        third: Third of its length, 0 the lengthened one; None where it is the muscle altogether.

    Raises:
        DomainError: Where nothing is lost.
    """

    def sets(line: LineDoc, taken: SetUpDoc | None) -> float:
        work: Floats | None = work_of(client, line, taken).get(group)
        return 0.0 if work is None else float(work.sum() if third is None else work[third])

    held = [(number, line) for number, line in lines if number in accepted]
    written = sum(sets(line, None) for _, line in held)
    left = sum(sets(line, accepted[number].set_up) for number, line in held)
    if written - left < WORTH:
        raise DomainError("group", group, "a muscle that loses at least half a set here", "Choose one that does")
    room, missing, out = core_place(place), written - left, list[tuple[float, MendDoc]]()
    spots = {s.item: s for s in lay_out(place.kit, place.room.room(), place.chosen_spots())}
    for number, line in held:
        swap, own = accepted[number], sets(line, accepted[number].set_up)
        # Lines that are for it, and those that helped it as written and do not here.
        if line.target != group and sets(line, None) - own < WORTH:
            continue
        others = [(min(sets(line, s.set_up) - own, missing), s) for s in _others(client, line, place, swap, ranking)]
        if made := _by_another(number, line, swap, [(gain, s) for gain, s in others if gain >= WORTH]):
            out.append(made)
        each = own / line.sets
        count = ceil(missing / each - 1e-6) if each > 0 else MOST_MORE + 1
        if line.target == group and 0 < count <= MOST_MORE:
            done = lift_of(client, number, line, swap.set_up, room, spots)
            minutes = count * (done.set_s + done.rest_s) / 60
            out.append(_by_more_sets(number, line, count, minutes, min(count * each, missing)))
    out.sort(key=lambda m: -m[0])
    return MendsDoc(group=group, words=loss_words(Loss(group, third, written, left)), mends=[m for _, m in out])


def _by_another(
    number: int, line: LineDoc, swap: SwapDoc, others: Sequence[tuple[float, SwapDoc]]
) -> tuple[float, MendDoc] | None:
    """Another swap: what it gives back, sets, against the points that it costs; None where there is no other."""
    if not others:
        return None
    worth, gain, best = max(((g - POINT * (swap.match - s.match), g, s) for g, s in others), key=lambda o: o[0])
    words = f"{line.name}: {best.title}, {best.kit}, {best.load.words}"
    price = f"match {best.match:.0f} in place of {swap.match:.0f}"
    return worth, MendDoc(line=number, name=line.name, words=words, gains=round(gain, 1), price=price, key=best.key)


def _by_more_sets(number: int, line: LineDoc, count: int, minutes: float, gain: float) -> tuple[float, MendDoc]:
    """More sets of what is there: what they give back, sets, against the minutes that they cost."""
    words = f"{line.name}: {count} more set{'s' if count > 1 else ''}"
    price = f"about {ceil(minutes)} minutes a week"
    made = MendDoc(line=number, name=line.name, words=words, gains=round(gain, 1), price=price, key="")
    return gain - minutes * POINT, made


def _others(client: ClientDoc, line: LineDoc, place: PlaceDoc, swap: SwapDoc, ranking: RankDoc) -> list[SwapDoc]:
    """What else could be accepted for a line; nothing where nothing can."""
    try:
        return [s for s in match_line(client, line, place, ranking, curves=False).swaps if s.key != swap.key]
    except DomainError:
        return []
