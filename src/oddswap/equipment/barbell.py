"""The barbell and the smith bar: one weight shared by two hands, or carried across back or hips."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real, Whole
from oddswap.equipment.base.item import BAR_GIVES, BAR_HANDS, MOST_AMOUNTS, Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.equipment.base.positions import HEAVY_ENOUGH, LIGHT_ENOUGH
from oddswap.equipment.base.setting import Placements, Setting, SettingRow
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.types import Floats
from oddswap.quantities import kg, plain


@dataclass(frozen=True)
class Bar(Law):
    """Force on each hand, or on back or hips, per kg of bar and plates.

    A free bar pulls straight down. A bar on rails gives only what acts along them: m g sin(rail), the rails hold the rest.

    Args:
        hands: Over how many hands the weight is shared: 2, or 1 for back and hips.
        rail: Angle of the rails to the floor, radians; None for a free bar.
    """

    hands: int = 2
    rail: float | None = None

    def force(self, grip: Floats) -> Floats:
        """The same at every pose, N per kg, (1, pose, xyz)."""
        out = np.zeros((1, *grip.shape))
        if self.rail is None:
            out[..., 2] = -GRAVITY / self.hands
        else:
            along = np.array([np.cos(self.rail), 0.0, np.sin(self.rail)])
            out[:] = -GRAVITY / self.hands * np.sin(self.rail) * along
        return out

    def limits(self, grip: Floats) -> list[Limit]:
        """Two hands must be able to hold one bar throughout."""
        if self.hands == 1:
            return []
        apart = np.abs(grip[..., 1])
        give, out = BAR_GIVES - np.ptp(apart, axis=-1), BAR_HANDS - apart.max(axis=-1)
        limit = "both hands hold one bar, so that they cannot come together or go wide"
        return [Limit("bar", np.minimum(give, out), limit, "Take dumbbells or cables")]

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Force, N per kg, that speeding up the bar adds, (1, pose, xyz)."""
        return np.asarray(-acceleration[None] / self.hands)


RACKED_KG = 15.0
"""Mass from which a free bar is long enough for a rack, kg: usual makes."""


@dataclass(frozen=True)
class PlatePair:
    """Plates of one mass."""

    mass_kg: Annotated[Real, Gt(0), Le(50)] = field(metadata={"description": "Mass of one plate, kg"})
    count: Annotated[Whole, Ge(1), Le(40)] = field(metadata={"description": "How many there are; only pairs count"})
    __pydantic_config__ = EDGE


@dataclass(frozen=True)
class Barbell(KitItem):
    """A bar and its plates; ``rail_deg`` makes it a bar on rails."""

    id: Name
    name: Name
    bar_kg: Annotated[Real, Ge(0), Le(60)] = field(metadata={"description": "Bar with collars, or what rails leave of it, kg"})
    plates: Annotated[list[PlatePair], Len(0, 20)] = field(metadata={"description": "Plates that exist"})
    rail_deg: Annotated[Real, Ge(60), Le(90)] | None = field(
        default=None, metadata={"description": "Angle of the rails to the floor, degrees; empty for a free bar"}
    )
    kind: Literal["barbell"] = "barbell"
    __pydantic_config__ = EDGE

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 2.2, 1.3

    def verify(self) -> None:
        """A bar without mass needs plates."""
        if self.bar_kg == 0 and not self.plates:
            raise DomainError("bar_kg", 0, "a bar or its plates must weigh something", "Weigh the bar")
        if len(self._totals) > MOST_AMOUNTS:
            limit = f"plates make at most {MOST_AMOUNTS} amounts"
            raise DomainError("plates", len(self.plates), limit, "List fewer kinds of plates")

    def amounts(self) -> Floats:
        """Every mass that the pairs make with the bar, kg; a plate short of a pair stays on the floor."""
        return self._amounts

    @cached_property
    def _amounts(self) -> Floats:
        out = np.unique(np.array(sorted(self._totals)) + self.bar_kg)
        out.flags.writeable = False
        return out

    @cached_property
    def _totals(self) -> set[float]:
        """What the pairs make, kg; no further once there are too many."""
        totals = {0.0}
        for plate in self.plates:
            totals = {round(a + 2 * k * plate.mass_kg, 4) for a in totals for k in range(plate.count // 2 + 1)}
            if len(totals) > MOST_AMOUNTS:
                break
        return totals

    @property
    def sort(self) -> str:
        """Rails guide a bar, so that it cannot do all that a free one can."""
        return "barbell" if self.rail_deg is None else "rail"

    @property
    def versatility(self) -> tuple[float, ...]:
        """The heavier the more."""
        return (-float(self.amounts()[-1]),)

    def covers(self, other: Barbell) -> bool:
        """One that goes as light and nearly as heavy, on the same rails or none."""
        mine, theirs = self.amounts(), other.amounts()
        enough = mine[0] <= LIGHT_ENOUGH * theirs[0] and mine[-1] >= HEAVY_ENOUGH * theirs[-1]
        return bool(enough and self.rail_deg == other.rail_deg)

    def serves(self, bearing: Bearing) -> bool:
        """In hands that can hold one straight bar, on back or hips; across the hips of a body that is the load as well."""
        if not bearing.carried:
            return bearing.contact == "hips"
        if bearing.neutral or bearing.off_middle:
            return False
        # Hanging from the hands a bar meets the legs, but for lifts made for it.
        hangs = bearing.contact == "hand" and (bearing.base == "seat" or bearing.bar_hangs)
        # A light one is short or bent, and lies in no rack to be taken on the back, or over a bench, from.
        racked = bearing.contact == "back" or (bearing.led and bearing.variant.stance == "bench")
        if racked and self.rail_deg is None and self.bar_kg < RACKED_KG:
            return False
        return hangs or bearing.contact == "back" or (bearing.contact == "hips" and not bearing.line_on_feet)

    def law(self, hands: int = 2) -> Bar:
        """Its weight."""
        return Bar(hands, None if self.rail_deg is None else float(np.radians(self.rail_deg)))

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """One: where the movement holds a bar."""
        if scene.both:
            hands = 1 if scene.contact in ("back", "hips", "thigh") else 2
            yield Placements(self.law(hands), 1, lambda i, amount: BarbellHold(self, amount, carried=hands == 1))


@dataclass(frozen=True)
class BarbellHold(Setting):
    """A bar in both hands, or where the attachment says."""

    bar: Barbell
    mass_kg: Annotated[Real, Gt(0), Le(500)] = field(metadata={"description": "Bar and plates together, kg"})
    attachment: Attachment = USUAL
    carried: bool = field(default=False, metadata={"description": "Carried on back, hips or thighs and not by the hands"})
    kind: Literal["barbell"] = "barbell"
    item_field: ClassVar[str] = "bar"
    __pydantic_config__ = EDGE

    @property
    def grip(self) -> Literal["handle", "bar", "rope"]:
        """Both hands hold one bar, unless it is carried."""
        return "handle" if self.carried else "bar"

    @property
    def shares_bar(self) -> bool:
        """Where the hands hold it."""
        return not self.carried

    def verify(self) -> None:
        """The mass must be one that the plates make."""
        existing = self.bar.amounts()
        if not np.isclose(existing, self.mass_kg).any():
            near = existing[np.abs(existing - self.mass_kg).argsort()[:2]]
            limit = f"{self.bar.name} with its pairs of plates makes {' or '.join(kg(m) for m in sorted(near))} nearby"
            raise DomainError("mass_kg", self.mass_kg, limit, "Pick one of these")

    def law(self) -> Bar:
        """Its weight."""
        return self.bar.law(1 if self.carried else 2)

    @property
    def amount(self) -> float:
        """Mass, kg."""
        return self.mass_kg

    @property
    def lead(self) -> Lead:
        """It hangs plumb and keeps the hands apart."""
        return Lead(hands="bar")

    @property
    def both_sides(self) -> bool:
        """Always both."""
        return True

    def with_amount(self, amount: float) -> BarbellHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, mass_kg=amount)

    def amount_words(self, amount: float) -> str:
        """For example ``60 kg: 20 a side``."""
        side = (amount - self.bar.bar_kg) / 2
        return kg(amount) + (f": {plain(side)} a side" if side > 0 else ": the bar alone")

    def rows(self) -> list[SettingRow]:
        """Which bar."""
        rail = "" if self.bar.rail_deg is None else f" on rails at {self.bar.rail_deg:.0f}°"
        return [SettingRow("Bar", f"{self.bar.name}{rail}, centred before loading", "mass_kg")]

    def short(self) -> str:
        """The bar."""
        return self.bar.name

    def cautions(self) -> list[str]:
        """A way out."""
        return ["Set pins or have a spotter, and test the weight before the first full rep."]

    def prop(self) -> dict[str, Any]:
        """A bar with plates."""
        return {"kind": "bar", "mass_kg": self.mass_kg}


SETTING, KIT = BarbellHold, Barbell
