"""What a coach set for all clients, and how equivalents are to be ranked, as documents."""

from __future__ import annotations

from functools import partial
from typing import Annotated, Literal

from pydantic import Field

from oddswap.coaching.restrictions import strains
from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.client import ClientDoc
from oddswap.equivalence.conversion import Conversion, Learned, lift_named
from oddswap.equivalence.filters import Complaint, SearchFilters
from oddswap.equivalence.lenses import Lens, lens_by_id
from oddswap.errors import DomainError
from oddswap.quantities import LengthUnit, MassUnit, Units


class CoachDoc(Versioned):
    """What a coach set for all clients."""

    model_config = example({"lens": "same_profile", "weights": {"lengthened": {"lengthened": 0.7, "load": 0.3}}})

    format: Literal["odd-swap/coach/2"] = "odd-swap/coach/2"
    lens: str = "same_profile"
    """Lens to start with."""
    weights: dict[str, dict[str, float]] = {}
    """Own weights of the parts, by lens."""
    mass_unit: MassUnit = "kg"
    """Unit that masses are shown in where no client is meant: kit, calculators, new clients."""
    length_unit: LengthUnit = "cm"
    """The same for lengths."""
    names: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=80)]] = Field(default={}, max_length=500)
    """The coach's own names of lifts, each with the name that it stands for."""

    @property
    def units(self) -> Units:
        """What the coach reads masses and lengths in."""
        return Units(self.mass_unit, self.length_unit)

    def verify(self) -> None:
        """Raise ``DomainError`` where a lens, part or weight does not exist."""
        lens_by_id(self.lens)
        for name, weights in self.weights.items():
            try:
                lens_by_id(name).weighed(weights)
            except DomainError as error:
                raise error.at(f"weights.{name}" if error.field != "lens" else "weights") from None


class RankDoc(Document):
    """How the equivalents of a line are to be ranked at a place, beyond what the client's own document says."""

    model_config = example({"lens": "lengthened", "without": ["twin"]})

    lens: str = "same_profile"
    """Lens to rank under."""
    weights: dict[str, float] = {}
    """Weights of the match's parts in its place, 0 to 1; scaled to sum to one. Empty for the lens's own."""
    equivalence: Literal["hardest", "mean", "lengthened"] = "hardest"
    """By what loads are equal: effort at the hardest point, on average over the range, or in its long half."""
    law: Literal["epley", "brzycki"] = "epley"
    """Law by which repetitions are restated."""
    without: list[str] = Field(default=[], max_length=100)
    """Ids of kit items that are in use by others."""
    one_side: bool = False
    """Whether only one-sided lifts are wanted."""
    known_only: bool = False
    """Whether only movements that the client knows are wanted."""
    unlike: bool = False
    """Whether to show what is nearest, however unlike: as a rule nothing under a match of 40 is offered."""

    def resolve_lens(self) -> Lens:
        """The lens in the core's terms.

        Raises:
            DomainError: For a lens, part or weight that does not exist.
        """
        found = lens_by_id(self.lens)
        return found.weighed(self.weights) if self.weights else found

    def filters(self, client: ClientDoc) -> SearchFilters:
        """What is wanted of the search for a client."""
        known = frozenset(client.knows) if self.known_only else None
        lists = frozenset(client.banned), frozenset(client.pinned), frozenset(self.without)
        spared = partial(strains, restrictions=client.core_restrictions())
        told = {x.lift: Complaint(x.hurt, x.words) for x in client.complaints}
        return SearchFilters(spared, *lists, known, self.one_side, told, self.conversion(client), self.unlike)

    def conversion(self, client: ClientDoc) -> Conversion:
        """How loads are converted for a client."""
        learned = {lift_named(one.movement, one.kit): Learned(one.factor, one.sets, one.spread) for one in client.learned}
        kit = {one.item: Learned(one.factor, 0, one.spread) for one in client.learned_kit}
        return Conversion(self.equivalence, self.law, learned, kit)
