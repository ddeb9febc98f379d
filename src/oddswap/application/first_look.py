"""What most likely stands first for many lines at a place, told within seconds, before any of them is searched."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oddswap.application.beside import look_beside
from oddswap.application.inputs import core_place
from oddswap.application.jobs import LONG_WORK
from oddswap.application.matching import match_in_memory, take_look
from oddswap.application.stations import items_of
from oddswap.application.versions import digest, match_digest
from oddswap.documents.board import FirstLookDoc, LookDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.kit import affected_by_loss
from oddswap.quantities import Units

Name = tuple[str, Units]
"""What a first look follows from, and what it is worded in."""
LOOKS, PLACES, EARLIER = 4000, 64, 4
"""First looks kept in memory, a few hundred bytes each; places, and how many of each as they were lately."""
_looks: SharedCache[Name, LookDoc | None] = SharedCache(LOOKS)
_lately: SharedCache[str, tuple[PlaceDoc, ...]] = SharedCache(PLACES)


def forget_looks() -> None:
    """Forget all first looks, and the places they were taken at."""
    _looks.clear()
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
        known: Whether only those shall be told that were taken already.

    Raises:
        BusyError: Where too much is being computed already.
    """
    by_number = {number: (match_digest(client, line, place, ranking), client.units) for number, line in lines}
    documents = dict(zip(by_number.values(), (line for _, line in lines), strict=True))
    looks: dict[Name, LookDoc | None] = {k: s for k in documents if (s := _settled(*k, place)) is not None}
    wanted = [name for name in documents if name not in looks]
    taken = _looks.known(wanted)
    _looks.put(_still_true(client, {name: documents[name] for name in wanted if name not in taken}, place, ranking))

    def compute(missing: Sequence[Name]) -> list[LookDoc | None]:
        asked, name = [documents[m] for m in missing], digest("first look", *(m for m, _ in missing))
        with LONG_WORK.wanted(name), LONG_WORK.taken(name):
            found = look_beside(client, asked, place, ranking)
            return [take_look(client, line, place, ranking) for line in asked] if found is None else found

    looks |= _looks.known(wanted) if known else dict(zip(wanted, _looks.get_many(wanted, compute), strict=True))
    return [FirstLookDoc(line=number, look=looks[name]) for number, name in by_number.items() if name in looks]


def _still_true(
    client: ClientDoc, lines: Mapping[Name, LineDoc], place: PlaceDoc, ranking: RankDoc
) -> dict[Name, LookDoc | None]:
    """First looks taken at a place before it lost some kit, by their names now: what does without that kit still stands, and
    where nothing was seen there is no more to see."""
    earlier = _lately.known([place.name]).get(place.name, ())
    _lately.put({place.name: (place, *(p for p in earlier if p != place))[:EARLIER]})
    found: dict[Name, LookDoc | None] = {}
    for before in earlier if lines else ():
        affected = affected_by_loss(core_place(before), core_place(place))
        if not affected:
            continue
        names = {(match_digest(client, line, before, ranking), client.units): name for name, line in lines.items()}
        looks = _looks.known(names) | {old: look for old in names if (look := _settled(*old, before)) is not None}
        for old, look in looks.items():
            if look is None or not affected & set(look.items):
                found.setdefault(names[old], look and look.model_copy(update={"settled": False}))
    return found


def _settled(name: str, units: Units, place: PlaceDoc) -> LookDoc | None:
    """What stands first where the line was searched since the start."""
    found = match_in_memory(name, units)
    if found is None or not found.swaps:
        return None
    first = found.swaps[0]
    items = sorted(items_of(first.set_up.set_up(), core_place(place)))
    return LookDoc(match=first.match, title=first.title, load=first.load.words, items=items, settled=True)
