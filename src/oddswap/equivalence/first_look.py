"""A look at what most likely stands first among a line's equivalents, for many lines at a time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import ClassVar, NamedTuple

from oddswap.equivalence.candidates import Candidate, Swap
from oddswap.equivalence.filters import NO_FILTERS, SearchFilters
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.picks import Pick
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.ranking import Ranking
from oddswap.equivalence.search import Search
from oddswap.equivalence.shortlist import LEAST

FEW_PICKS = 3
"""Rows of the table that are looked at before all others."""
SHORT = 2.0
"""Points by which their answer may fall short of what the table promises of the others: it is no more exact."""


class Seen(NamedTuple):
    """What is seen at first look.

    Args:
        first: What most likely stands first.
        others: What else was looked at, the best first, with loads as they are placed and not as they are answered.
    """

    first: Swap
    others: list[Candidate]


@dataclass
class FirstLook(Search):
    """A search that ends with the first answer, and places nothing anew."""

    looked_at: ClassVar[int] = 8
    varied: ClassVar[int] = 400
    digs: ClassVar[bool] = False
    others: list[Candidate] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__post_init__()
        self.shortlist = replace(self.shortlist, refine=None, most=1)

    def starts(self, place: int) -> int:
        """See ``Search``."""
        return 1

    def answer(self, picks: Sequence[Pick], rankings: Sequence[Ranking]) -> list[Swap]:
        """See ``Search``; of a few picks alone where the table promises no more of any other."""
        few, others = picks[:FEW_PICKS], picks[FEW_PICKS:]
        promised = max((p.match for p in others), default=0.0)
        found = self.look_at(few)
        if found and found[0][0].match > promised:
            swaps = self.shortlist.choose(self.find(found, rankings))
            if swaps and swaps[0].match > promised - SHORT:
                return swaps
        return self.shortlist.choose(self.find(found + self.look_at(others), rankings))

    def find(self, starts: Sequence[Sequence[Candidate]], rankings: Sequence[Ranking]) -> list[Candidate]:
        """Every pick as the table has it, and the prescription as it is; its own movement with its load solved for."""
        own = self.prescription.line.set_up.movement
        every = [self.settle(s[0]) if s[0].set_up.movement == own else s[0] for s in starts]
        found = [c for c in every if c is not None] + self.find_prescribed()
        self.others = sorted((c for c in found if c.match >= LEAST), key=lambda c: -c.match)
        return found


def take_first_look(prescription: PrescriptionProfile, place: Place, lens: Lens, filters: SearchFilters = NO_FILTERS) -> Seen:
    """What most likely stands first among a line's equivalents, in a tenth of a search's time: placed as the table has it,
    which a search betters, and on the item that the table knows. All that is said of it holds as it stands.

    Args:
        prescription: What is prescribed, for this client.
        place: Where it shall be done.
        lens: The lens to rank under.
        filters: What to leave out or put first.

    Raises:
        DomainError: If the place cannot be, or nothing is seen there that can load the target.
    """
    place.verify()
    look = FirstLook(prescription, place, lens, filters)
    return Seen(look.run()[0], look.others)
