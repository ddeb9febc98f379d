"""A look at what most likely stands first among a line's equivalents, for many lines at a time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import ClassVar, NamedTuple

from oddswap.equivalence.candidates import Candidate, Swap, item_of
from oddswap.equivalence.filters import NO_FILTERS, SearchFilters
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.picks import Pick
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.ranking import Ranking
from oddswap.equivalence.search import Search
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.shortlist import LEAST
from oddswap.mechanics.movement import Variant

FEW_PICKS, LOOKED_AT = 3, 8
"""Rows of the table that are looked at before all others, and that are at all."""
KNOWN, VARIED = 40, 400
"""Rows of the table that stand in where the kit of others goes, and rows through which they are picked: more than a list shows,
and a fourth of what a search looks through (of 140 looks none differed for it)."""
SHORT = 2.0
"""Points by which their answer may fall short of what the table promises of the others: it is no more exact."""


class Glimpse(NamedTuple):
    """What was not answered: evaluated as the table has it, or only known from there.

    Args:
        match: 0 to 100.
        set_up: With its load as it is placed.
        variant: What it does.
    """

    match: float
    set_up: SetUp
    variant: Variant

    @staticmethod
    def of(pick: Pick) -> Glimpse:
        """A pick as the table knows it."""
        amount, example = float(pick.ranking.amount[pick.row]), pick.example
        sources = () if example is None else (example.with_amount(amount),)
        return Glimpse(pick.match, pick.mechanics.set_up(*sources), pick.mechanics.variant)


class Seen(NamedTuple):
    """What is seen at first look.

    Args:
        first: What most likely stands first.
        others: What was seen besides on other kit or supports: what was evaluated, then what the table knows, the best first.
    """

    first: Swap
    others: list[Glimpse]


@dataclass
class FirstLook(Search):
    """A search that ends with the first answer, and places nothing anew."""

    looked_at: ClassVar[int] = KNOWN
    varied: ClassVar[int] = VARIED
    digs: ClassVar[bool] = False
    picks: Sequence[Pick] = ()
    evaluated: list[Candidate] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__post_init__()
        self.shortlist = replace(self.shortlist, refine=None, most=1)

    def starts(self, place: int) -> int:
        """See ``Search``."""
        return 1

    def answer(self, picks: Sequence[Pick], rankings: Sequence[Ranking]) -> list[Swap]:
        """See ``Search``; of a few picks alone where the table promises no more of any other."""
        self.picks, few, others = picks, picks[:FEW_PICKS], picks[FEW_PICKS:LOOKED_AT]
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
        self.evaluated = [c for c in every if c is not None] + self.find_prescribed()
        return self.evaluated

    @property
    def others(self) -> list[Glimpse]:
        """See ``Seen``."""
        told = [Glimpse(c.match, c.set_up, c.mechanics.variant) for c in sorted(self.evaluated, key=lambda c: -c.match)]
        kept: dict[object, Glimpse] = {}
        for one in [*told, *(Glimpse.of(pick) for pick in self.picks)]:
            if one.match >= LEAST:
                kept.setdefault((item_of(one.set_up), one.variant.stance, one.variant.pad), one)
        return list(kept.values())


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
