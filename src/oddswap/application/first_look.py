"""What most likely stands first for many lines at a place, told within seconds, before any of them is searched."""

from __future__ import annotations

from collections.abc import Sequence

from oddswap.application.beside import look_beside
from oddswap.application.jobs import LONG_WORK
from oddswap.application.matching import match_in_memory, take_look
from oddswap.application.versions import digest, match_digest
from oddswap.documents.board import FirstLookDoc, LookDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.quantities import Units

LOOKS = 4000
"""First looks kept in memory, a few hundred bytes each."""
_looks: SharedCache[tuple[str, Units], LookDoc | None] = SharedCache(LOOKS)


def forget_looks() -> None:
    """Forget all first looks."""
    _looks.clear()


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
    looks: dict[tuple[str, Units], LookDoc | None] = {k: s for k in documents if (s := _settled(*k)) is not None}
    wanted = [name for name in documents if name not in looks]

    def compute(missing: Sequence[tuple[str, Units]]) -> list[LookDoc | None]:
        asked, name = [documents[m] for m in missing], digest("first look", *(m for m, _ in missing))
        with LONG_WORK.wanted(name), LONG_WORK.taken(name):
            found = look_beside(client, asked, place, ranking)
            return [take_look(client, line, place, ranking) for line in asked] if found is None else found

    looks |= _looks.known(wanted) if known else dict(zip(wanted, _looks.get_many(wanted, compute), strict=True))
    return [FirstLookDoc(line=number, look=looks[name]) for number, name in by_number.items() if name in looks]


def _settled(name: str, units: Units) -> LookDoc | None:
    """What stands first where the line was searched since the start."""
    found = match_in_memory(name, units)
    if found is None or not found.swaps:
        return None
    first = found.swaps[0]
    return LookDoc(match=first.match, title=first.title, load=first.load.words, settled=True)
