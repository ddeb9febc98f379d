"""What is remembered of what stands first for lines at places, and of what comes after it on other kit."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from collections.abc import Set as AbstractSet

from pydantic import BaseModel

from oddswap.application.inputs import core_place
from oddswap.application.stations import kit_needed
from oddswap.documents.board import LookDoc
from oddswap.documents.match import MatchDoc
from oddswap.documents.place import PlaceDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.quantities import Units

Name = tuple[str, Units]
"""What a look follows from, see ``match_digest``, and what it is worded in."""
LOOKS = 4000
"""Looks kept in memory, two kilobytes each."""
MOST = 6
"""How many of a line's looks are kept."""


class TakenLook(BaseModel):
    """A line's look, and others on other kit, the best first: what may take its place where its kit goes."""

    look: LookDoc | None
    others: list[LookDoc] = []

    @staticmethod
    def of(looks: Iterable[LookDoc]) -> TakenLook:
        """Of looks, the best first: of each kit its first one."""
        kept: dict[frozenset[str], LookDoc] = {}
        for look in looks:
            kept.setdefault(frozenset(look.items), look)
            if len(kept) == MOST:
                break
        every = list(kept.values())
        return TakenLook(look=every[0] if every else None, others=every[1:])

    def without(self, gone: AbstractSet[str]) -> LookDoc | None:
        """The best of them that does without some kit; None where none does.

        Args:
            gone: Ids of the kit.
        """
        every = self.others if self.look is None else [self.look, *self.others]
        return next((x for x in every if not gone & set(x.items)), None)


TAKEN: SharedCache[Name, TakenLook] = SharedCache(LOOKS)
"""Looks by name."""


def keep_search(name: str, units: Units, found: MatchDoc, place: PlaceDoc) -> None:
    """Remember what stands first where a line was searched, instead of what was seen of it before.

    Args:
        name: What it is computed from, see ``match_digest``.
        units: What it is worded in.
        found: The line's list there.
        place: Where.
    """
    room = core_place(place)

    def looks() -> Iterator[LookDoc]:
        for swap in found.swaps:
            items = sorted(kit_needed(swap.set_up.set_up(), room))
            yield LookDoc(match=swap.match, title=swap.title, load=swap.load.words, items=items, settled=True)

    if found.swaps:
        TAKEN.put({(name, units): TakenLook.of(looks())})
