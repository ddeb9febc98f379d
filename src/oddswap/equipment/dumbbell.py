"""The dumbbell: weight, straight down, at the middle of the fist, or shared by both hands."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len, MinLen

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.equipment.base.setting import Placements, Setting, SettingRow
from oddswap.equipment.handle import count_fitting
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.types import Floats
from oddswap.quantities import kg

HALF_HANDLE = 0.10
"""From the middle of the fist to the middle of a head, m (own estimate from usual dumbbells)."""

ON_HIPS = Attachment("hips")
Mass = Annotated[Real, Gt(0), Le(100)]


@dataclass(frozen=True)
class Weight(Law):
    """Force on each hand = m g / hands, down; amount in kg.

    Args:
        hands: How many hold one dumbbell.
    """

    hands: int = 1

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Force, N per kg, that speeding up the dumbbell adds, (1, pose, xyz): minus m a."""
        return np.asarray(-acceleration[None] / self.hands)

    def force(self, grip: Floats) -> Floats:
        """The same at every pose, (1, pose, xyz)."""
        out = np.zeros((1, *grip.shape))
        out[..., 2] = -GRAVITY / self.hands
        return out


@dataclass(frozen=True)
class DumbbellHold(Setting):
    """A dumbbell in the hand, one in each, one in both together, or one hung from a belt."""

    mass_kg: Mass = field(metadata={"description": "Mass of one dumbbell, kg"})
    hands: Literal["both", "one", "shared", "belt"] = field(
        default="both",
        metadata={
            "description": "A dumbbell in each hand, one arm at a time, one in both hands together, or one hung from a belt"
        },
    )
    thumb_part: Annotated[Real, Ge(0), Le(1)] = field(
        default=0.5, metadata={"description": "Part of the mass at the thumb end; a half when loaded evenly"}
    )
    held: Attachment = field(default=USUAL, metadata={"description": "Where the dumbbell or cuff is held"})
    kind: Literal["dumbbell"] = "dumbbell"
    __pydantic_config__ = EDGE

    @property
    def fills_hand(self) -> bool:
        """Each holds one, but for what both share or hangs from a belt."""
        return self.hands in ("both", "one")

    @property
    def between_hands(self) -> bool:
        """One dumbbell in both."""
        return self.hands == "shared"

    @property
    def attachment(self) -> Attachment:
        """Its mass centre off the hand's middle: two ends of unequal mass balance away from the fist."""
        if self.hands == "belt":
            return ON_HIPS
        off = (2 * self.thumb_part - 1) * HALF_HANDLE * 100
        return Attachment(self.held.at, self.held.along, self.held.across_cm + off)

    def law(self) -> Weight:
        """Its weight."""
        return Weight(2 if self.between_hands else 1)

    @property
    def amount(self) -> float:
        """Mass, kg."""
        return self.mass_kg

    @property
    def lead(self) -> Lead:
        """It hangs plumb."""
        return Lead()

    @property
    def both_sides(self) -> bool:
        """Whether both arms work; a belt bears on both sides."""
        return self.hands != "one"

    def with_amount(self, amount: float) -> DumbbellHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, mass_kg=amount)

    def amount_words(self, amount: float) -> str:
        """For example ``12.5 kg a hand``."""
        if self.hands == "belt":
            return f"{kg(amount)} on the belt"
        if self.held.at == "hips":
            return f"{kg(amount)} across the hips"
        return kg(amount) + {"both": " a hand", "one": ", one arm", "shared": " in both hands"}[self.hands]

    def rows(self) -> list[SettingRow]:
        """Which dumbbells."""
        if self.hands == "belt":
            return [SettingRow("Belt", "a dumbbell or plates hung from a belt around the hips", "hands")]
        if self.held.at == "hips":
            return [SettingRow("Hold", "one dumbbell across the hips, on a pad or a towel", "hands")]
        words = {"both": "a dumbbell in each hand", "one": "one dumbbell, one arm at a time"}.get(
            self.hands, "one dumbbell in both hands, palms under its upper end"
        )
        where = self.attachment.words()
        return [SettingRow("Hold", f"{words}, {where}" if where else words, "hands")]

    def short(self) -> str:
        """Dumbbells."""
        if self.hands == "belt":
            return "weight on a belt"
        return "a dumbbell in each hand" if self.hands == "both" else "one dumbbell"

    def cautions(self) -> list[str]:
        """Heavy dumbbells."""
        if self.mass_kg >= 30:
            return ["Dumbbells this heavy are hard to get into place and down again: plan both before the set."]
        return []

    @property
    def use_label(self) -> str:
        """One in each hand, one alone, one in both, or hung."""
        return self.hands

    @property
    def splits(self) -> bool:
        """Two dumbbells are two."""
        return self.hands == "both"

    def on_one_side(self) -> DumbbellHold:
        """One of the two."""
        return replace(self, hands="one") if self.splits else self

    def can_be_held(self, kit: Sequence[Any], contact: Contact) -> bool:
        """By hand; what hangs needs a belt."""
        return self.hands != "belt" or count_fitting(kit, "hips") >= 1

    def is_from(self, item: KitItem) -> bool:
        """Any set will do; two are needed where there is one in each hand."""
        return isinstance(item, Dumbbells) and (item.pairs or not self.splits)

    def prop(self) -> dict[str, Any]:
        """A dumbbell in the fist, between the hands, or hung."""
        kind = {"belt": "hung", "shared": "shared dumbbell"}.get(self.hands, "dumbbell")
        return {"kind": kind, "mass_kg": self.mass_kg}


@dataclass(frozen=True)
class Dumbbells(KitItem):
    """A set of fixed dumbbells, or the steps of an adjustable one."""

    id: Name
    name: Name
    masses_kg: Annotated[list[Mass], MinLen(1), Len(1, 200)] = field(metadata={"description": "Masses that exist, kg each"})
    pairs: bool = field(default=True, metadata={"description": "Whether there are two of each"})
    adjustable: bool = field(default=False, metadata={"description": "One handle, or two, that are loaded to these masses"})
    uneven: bool = field(default=False, metadata={"description": "Whether the two ends may be loaded unevenly"})
    kind: Literal["dumbbells"] = "dumbbells"
    __pydantic_config__ = EDGE

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 1.6, 0.5

    def serves(self, bearing: Bearing) -> bool:
        """In hands; across the hips one, where it can lie there; not what a line pulls: hanging, that is another lift."""
        return not bearing.line_on_feet and (super().serves(bearing) or bearing.contact == "hips")

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """One a way to hold them: in the hand or in each, and one in both."""
        if scene.contact == "hips":
            yield Placements(Weight(), 1, lambda i, amount: DumbbellHold(amount, "one", held=ON_HIPS))
            return
        hands: Literal["both", "one"] = "both" if self.pairs and scene.both else "one"
        yield Placements(Weight(), 1, lambda i, amount: DumbbellHold(amount, hands))
        if scene.both and scene.contact == "hand":
            yield Placements(Weight(2), 1, lambda i, amount: DumbbellHold(amount, "shared"))

    @property
    def source_kind(self) -> str:
        """A dumbbell."""
        return "dumbbell"

    @property
    def likeness(self) -> object:
        """All sets count as one, but for those without pairs."""
        return self.kind, self.pairs

    def amounts(self) -> Floats:
        """The masses, kg."""
        return np.unique(np.array(self.masses_kg))

    def verify(self) -> None:
        """Masses must differ."""
        if len(set(self.masses_kg)) < len(self.masses_kg):
            twice = next(m for m in self.masses_kg if self.masses_kg.count(m) > 1)
            raise DomainError("masses_kg", twice, "each mass is listed once", "Remove the second entry")


SETTING, KIT = DumbbellHold, Dumbbells
