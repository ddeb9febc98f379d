"""What most likely stands first for many lines at a place, told within seconds, before any of them is searched."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oddswap.application.beside import get_ready_beside, look_beside
from oddswap.application.inputs import core_place
from oddswap.application.jobs import LONG_WORK
from oddswap.application.looks import TAKEN, Name, TakenLook
from oddswap.application.matching import take_look
from oddswap.application.versions import digest, match_digest
from oddswap.documents.board import FirstLookDoc, LookDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.kit import affected_by_loss, changed_kit

Earlier = tuple[PlaceDoc, dict[Name, TakenLook]]
"""A place as it was, and what was seen there, by what the lines' looks are named now."""
PLACES, EARLIER = 64, 4
"""Places kept in memory, and how many of each as they were lately."""
_lately: SharedCache[str, tuple[PlaceDoc, ...]] = SharedCache(PLACES)


def forget_looks() -> None:
    """Forget all looks, and the places they were taken at."""
    TAKEN.clear()
    _lately.clear()


def look_over(
    client: ClientDoc, lines: Sequence[tuple[int, LineDoc]], place: PlaceDoc, ranking: RankDoc, known: bool = False
) -> list[FirstLookDoc]:
    """First looks at lines, by number, in their order.

    Args:
        client: Who.
        lines: What is prescribed.
        place: Where.
        ranking: Lens and filters.
        known: Whether only those shall be told that were taken already; where the place changed since, what was seen before
            and needs nothing that changed stands in for them, until they are taken anew.

    Raises:
        BusyError: Where too much is being computed already.
    """
    by_number = {number: (match_digest(client, line, place, ranking), client.units) for number, line in lines}
    documents = dict(zip(by_number.values(), (line for _, line in lines), strict=True))
    taken = TAKEN.known(documents)
    missing = {name: line for name, line in documents.items() if name not in taken}
    earlier = _lately.known([place.name]).get(place.name, ())
    _lately.put({place.name: (place, *(p for p in earlier if p != place))[:EARLIER]})
    seen = [_seen_at(client, missing, before, ranking) for before in earlier if missing and before != place]
    still = _still_true(seen, place)
    TAKEN.put(still)

    def compute(wanted: Sequence[Name]) -> list[TakenLook]:
        asked, name = [documents[m] for m in wanted], digest("first look", *(m for m, _ in wanted))
        with LONG_WORK.wanted(name), LONG_WORK.taken(name):
            found = look_beside(client, asked, place, ranking)
            return [take_look(client, line, place, ranking) for line in asked] if found is None else found

    if known:
        get_ready_beside(client, [line for name, line in missing.items() if name not in still], place, ranking)
        looks = _passing(seen, place) | {name: one.look for name, one in (taken | still).items()}
    else:
        looks = {name: one.look for name, one in zip(documents, TAKEN.get_many(list(documents), compute), strict=True)}
    return [FirstLookDoc(line=number, look=looks[name]) for number, name in by_number.items() if name in looks]


def _seen_at(client: ClientDoc, lines: Mapping[Name, LineDoc], before: PlaceDoc, ranking: RankDoc) -> Earlier:
    names = {(match_digest(client, line, before, ranking), client.units): name for name, line in lines.items()}
    return before, {names[old]: one for old, one in TAKEN.known(names).items()}


def _still_true(earlier: Sequence[Earlier], place: PlaceDoc) -> dict[Name, TakenLook]:
    """Looks taken at a place before it lost some kit: what does without that kit still stands, and where nothing was seen there
    is no more to see."""
    found: dict[Name, TakenLook] = {}
    for before, seen in earlier:
        affected = affected_by_loss(core_place(before), core_place(place))
        for name, one in seen.items() if affected else ():
            if one.look is None:
                found.setdefault(name, one)
            elif affected is not None and not affected & set(one.look.items):
                others = [x for x in one.others if not affected & set(x.items)]
                found.setdefault(name, TakenLook(look=one.look.model_copy(update={"settled": False}), others=others))
    return found


def _passing(earlier: Sequence[Earlier], place: PlaceDoc) -> dict[Name, LookDoc | None]:
    """The best that was seen before a place changed and is done with what did not change."""
    found: dict[Name, LookDoc | None] = {}
    for before, seen in earlier:
        changed = changed_kit(core_place(before), core_place(place))
        for name, one in seen.items() if changed is not None else ():
            look = one.without(changed or set())
            if look is not None:
                found.setdefault(name, look.model_copy(update={"settled": False, "passing": True}))
    return found
