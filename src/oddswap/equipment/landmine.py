"""The landmine: a bar that pivots on the floor, plates on its free end, held there."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.equipment.base.positions import bearing_words, change_position, position_parameters, step_position
from oddswap.equipment.base.setting import AdjustableParameter, Placements, Setting, SettingRow
from oddswap.mechanics.arm import norm
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm, kg

PIVOT_HEIGHT = 0.05
"""Height of the pivot over the floor, m (own estimate)."""
SLIDES = 0.20
"""How far the hands may go along the bar from its end, m (own estimate)."""
REACH = 0.08
"""From the middle of the bar's end to each of two hands around it, m (own estimate)."""
APART = 0.30
"""How far apart two hands around the end may be, m (own estimate)."""
BEARINGS_DEG = (0.0, 30.0, -30.0, 60.0, -60.0, 90.0, -90.0)
"""Where a pivot is tried around the hips, degrees: ahead, to the working side (+) and to the other."""


@dataclass(frozen=True)
class Pivoting(Law):
    """Force on the hands per kg at the bar's end.

    Gravity turns the bar about its pivot, m g h with h the end's horizontal distance; the hands give the force square to the
    bar, in the upright plane through it, that holds this moment: F = m g h / r, straight down only while the bar lies level.

    Args:
        pivot: m, (placement..., xyz).
        length: From pivot to the bar's end, m.
        hands: How many hands share it.
    """

    placed_by: ClassVar[str] = "pivot"
    pivot: Floats
    length: float
    hands: int = 1

    def _bar(self, grip: Floats) -> tuple[Floats, Floats]:
        """From pivot to where the bar is held, m, (placement..., pose, xyz), and its length, (placement..., pose, 1)."""
        held = grip * np.array([1.0, 0.0, 1.0]) if self.hands == 2 else grip
        bar = held - self.pivot[..., None, :]
        return bar, norm(bar)[..., None]

    def force(self, grip: Floats) -> Floats:
        """N per kg, (placement..., pose, xyz)."""
        bar, size = self._bar(grip)
        along = bar / size
        up = np.array([0.0, 0.0, 1.0]) - along[..., 2:3] * along
        # |up| is the cosine of the bar's rise: h = length |up|, so that F along the unit of up is g length / r times up.
        return np.asarray(-GRAVITY / self.hands * self.length / size * up)

    def limits(self, grip: Floats) -> list[Limit]:
        """The hands stay at the end of the bar, two of them together."""
        size = self._bar(grip)[1][..., 0]
        words = f"the hands stay within {cm(SLIDES * 100)} of the bar's end, {cm(self.length * 100)} from the pivot"
        near, far = size.min(axis=-1) - (self.length - SLIDES), self.length + SLIDES - size.max(axis=-1)
        out = [Limit("forward_cm", np.minimum(near, far), words, "Stand nearer to the pivot, or farther off")]
        if self.hands == 2:
            apart = 2 * np.abs(grip[..., 1]).max(axis=-1)
            together = f"both hands around the bar's end are at most {cm(APART * 100)} apart"
            out.append(
                Limit("hands", np.full(size.shape[:-1], APART - apart), together, "Bring the hands together, or use one")
            )
        return out

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Force, N per kg, that speeding up the end adds, (placement..., pose, xyz)."""
        bar, size = self._bar(grip)
        along = bar / size
        square = acceleration - (acceleration * along).sum(axis=-1, keepdims=True) * along
        return np.asarray(-square * (self.length / size) ** 2 / self.hands)


@dataclass(frozen=True)
class Landmine(KitItem):
    """A bar in a pivot on the floor."""

    id: Name
    name: Name
    masses_kg: Annotated[list[Annotated[Real, Ge(0), Le(200)]], Len(1, 200)] = field(
        metadata={"description": "Plates that can be put on the free end, kg; 0 for the bar alone"}
    )
    length_cm: Annotated[Real, Gt(50), Le(260)] = field(default=205.0, metadata={"description": "Pivot to the free end, cm"})
    bar_kg: Annotated[Real, Ge(0), Le(60)] = field(default=20.0, metadata={"description": "The bar's own mass, kg"})
    kind: Literal["landmine"] = "landmine"
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 0.6, 0.6

    @property
    def tare_kg(self) -> float:
        """What of the bar is felt at its end: half of it, as its middle lies halfway, kg."""
        return self.bar_kg / 2

    def amounts(self) -> Floats:
        """Plates and the bar's own part, kg at the end, ascending, (amount,)."""
        return np.unique(np.array(self.masses_kg)) + self.tare_kg

    def serves(self, bearing: Bearing) -> bool:
        """Pulls, presses and lifts on the feet: its arc is not that of a single joint."""
        return bearing.guided

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """Pivots around the client, for one hand and, where both can, for two on one bar straight ahead."""
        if scene.contact != "hand":
            return
        off = np.arange(0.8, self.length_cm / 100 + 0.81, 0.2)
        for both in (False, True) if scene.both else (False,):
            turned = np.radians(np.array(BEARINGS_DEG[:1] if both else BEARINGS_DEG))
            distance, bearing = (v.ravel() for v in np.meshgrid(off, turned))
            yield self.batch(distance * np.cos(bearing), distance * np.sin(bearing), both)

    def batch(self, forward: Floats, right: Floats, both: bool) -> Placements:
        """Placements of the pivot ahead and to the right of the hips, m, (placement,)."""
        pivot = np.stack([forward, -right, np.full(forward.shape, PIVOT_HEIGHT)], axis=-1)
        law = Pivoting(pivot, self.length_cm / 100, 2 if both else 1)
        hands: Literal["both", "one"] = "both" if both else "one"

        def setting(i: int, amount: float) -> LandmineHold:
            x, y = (round(float(v[i]) * 100, 1) for v in (forward, right))
            return LandmineHold(self, x, y, amount - self.tare_kg, hands)

        return Placements(law, len(forward), setting)


@dataclass(frozen=True)
class LandmineHold(Setting):
    """Hands on the free end of the bar."""

    landmine: Landmine
    forward_cm: Annotated[Real, Ge(-300), Le(300)] = field(
        metadata={"description": "Pivot ahead of the hips (negative: behind), cm"}
    )
    right_cm: Annotated[Real, Ge(-300), Le(300)] = field(
        metadata={"description": "Pivot to the right of the hips (negative: left), cm"}
    )
    plates_kg: Annotated[Real, Ge(0), Le(200)] = field(metadata={"description": "Plates on the free end, kg"})
    hands: Literal["both", "one"] = "one"
    attachment: Attachment = USUAL
    kind: Literal["landmine"] = "landmine"
    item_field: ClassVar[str] = "landmine"
    __pydantic_config__ = EDGE

    def law(self) -> Pivoting:
        """The bar about its pivot."""
        pivot = np.array([self.forward_cm / 100, -self.right_cm / 100, PIVOT_HEIGHT])
        return Pivoting(pivot, self.landmine.length_cm / 100, 2 if self.both_sides else 1)

    @property
    def amount(self) -> float:
        """Plates and the bar's own part, kg at the end."""
        return self.plates_kg + self.landmine.tare_kg

    @property
    def carries_across(self) -> bool:
        """Two hands around one end press against each other through it."""
        return self.both_sides

    @property
    def on_an_arc(self) -> bool:
        """Always."""
        return True

    @property
    def lead(self) -> Lead | None:
        """Two hands around the end come together there, and it hangs plumb from them; one goes the movement's own way."""
        return Lead(None, "rope", REACH) if self.both_sides else None

    @property
    def both_sides(self) -> bool:
        """Whether both hands hold it."""
        return self.hands == "both"

    @property
    def use_label(self) -> str:
        """Both hands, or one."""
        return self.hands

    def with_item(self, item: Any) -> LandmineHold:
        """On another landmine, as much nearer or farther off as its bar is shorter or longer."""
        farther = np.copysign(item.length_cm - self.landmine.length_cm, self.forward_cm)
        return replace(self, landmine=item, forward_cm=round(self.forward_cm + float(farther), 1))

    def with_amount(self, amount: float) -> LandmineHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, plates_kg=amount - self.landmine.tare_kg)

    def amount_words(self, amount: float) -> str:
        """For example ``20 kg on the end``."""
        plates = amount - self.landmine.tare_kg
        return f"{kg(plates)} on the end" if plates > 0 else "the bar alone"

    def rows(self) -> list[SettingRow]:
        """Where the pivot is, and how the end is held."""
        off = float(np.hypot(self.forward_cm, self.right_cm))
        facing = bearing_words(self.forward_cm, 0.0 if self.both_sides else self.right_cm, "pivot")
        facing = "astride the bar" if self.both_sides and self.forward_cm < 0 else facing
        held = "both hands around the end of the bar" if self.both_sides else "one hand at the end of the bar"
        return [
            SettingRow("Landmine", f"{self.landmine.name}, pivot {cm(off)} from the hips, {facing}", "forward_cm"),
            SettingRow("Hold", held, "hands"),
        ]

    def short(self) -> str:
        """The landmine and the hands."""
        return f"{self.landmine.name}, {'both hands' if self.both_sides else 'one hand'}"

    def cautions(self) -> list[str]:
        """The pivot and the way of the bar."""
        return ["Wedge the pivot so that it cannot slide, and keep feet and face out of the bar's way."]

    def adjustable_parameters(self, kit: Sequence[Any]) -> list[AdjustableParameter]:
        """How far off and in which direction the pivot is."""
        return position_parameters(self.forward_cm, self.right_cm)

    def with_parameter(self, name: str, value: float) -> LandmineHold:
        """With the pivot elsewhere."""
        forward, right = change_position(self.forward_cm, self.right_cm, name, value)
        return replace(self, forward_cm=forward, right_cm=right)

    def with_far_end_near(self, point: Floats, kit: Sequence[Any]) -> LandmineHold:
        """With the pivot at a point of the floor."""
        x, y = (round(float(v) * 100, 1) for v in point[:2])
        return replace(self, forward_cm=x, right_cm=-y)

    def nearby(self, part: float) -> Placements:
        """A distance and direction either way."""
        ahead, right = step_position(self.forward_cm / 100, self.right_cm / 100, part, not self.both_sides)
        return self.landmine.batch(ahead, right, self.both_sides)

    def prop(self) -> dict[str, Any]:
        """The pivot; the bar leads from it to the hands."""
        return {"kind": "lever", "pivot_m": [self.forward_cm / 100, -self.right_cm / 100, PIVOT_HEIGHT]}


SETTING, KIT = LandmineHold, Landmine
