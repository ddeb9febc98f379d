"""The plate-loaded swinging lever, and what is hooked onto it.

A lever on a pivot is drawn down by its plates: moment = sum of m g x horizontal distance from the pivot. At the handle that
is a force square to the line from pivot to hand. A cable or band hooked to the lever adds its own moment.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.equipment.base.lines import Cable
from oddswap.equipment.base.setting import AdjustableParameter, Placements, Setting, SettingRow
from oddswap.equipment.cable import CablePull
from oddswap.mechanics.arm import cross, dot
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.leg import about_y
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm, kg

AXIS = np.array([0.0, 1.0, 0.0])


SLIDES = 0.35
"""How far a hand may slide along a lever during a repetition, m (own estimate)."""


@dataclass(frozen=True)
class Swing(Law):
    """Force on the handle per kg on the horn.

    Args:
        pivot: m, (placement..., xyz).
        horn: Distance of the plates from the pivot, m.
        offset: Angle from the handle's arm on to the horn's, radians, forward-down positive.
        hands: How many hands share the lever.
        hook: Distance from the pivot of whatever is hooked on along the handle's arm, m.
        hooked: The law of it and its amount, or None.
    """

    placed_by: ClassVar[str] = "pivot"
    pivot: Floats
    horn: float
    offset: float = 0.0
    hands: int = 1
    hook: float = 0.0
    hooked: tuple[Cable, float] | None = None

    def _arm(self, grip: Floats) -> tuple[Floats, Floats]:
        """Line from pivot to hand in the plane of swing, and its length."""
        arm = (grip - self.pivot[..., None, :]) * np.array([1.0, 0.0, 1.0])
        size = np.linalg.norm(arm, axis=-1, keepdims=True)
        return arm / size, size

    def force(self, grip: Floats) -> Floats:
        """N per kg, (placement..., pose, xyz)."""
        along, size = self._arm(grip)
        horn = along @ about_y(np.array(self.offset)).T * self.horn
        # r x m g down, about the axis to the left: g times how far the plates lie ahead of the pivot.
        turning = GRAVITY * horn[..., 0:1]
        return np.asarray(turning / size * cross(np.broadcast_to(AXIS, along.shape), along) / self.hands)

    def constant(self, grip: Floats) -> Floats:
        """What the hooked cable adds, N, (placement..., pose, xyz)."""
        along, size = self._arm(grip)
        if self.hooked is None:
            return np.zeros_like(along)
        law, amount = self.hooked
        at = self.pivot[..., None, :] + self.hook * along
        turning = dot(cross(self.hook * along, law.force(at) * amount), np.broadcast_to(AXIS, along.shape))[..., None]
        return np.asarray(turning / size * cross(np.broadcast_to(AXIS, along.shape), along) / self.hands)

    def limits(self, grip: Floats) -> list[Limit]:
        """The hand must stay a hand's breadth away from the pivot."""
        size = self._arm(grip)[1][..., 0]
        slides = SLIDES - np.ptp(size, axis=-1)
        limit = f"the hand slides at most {cm(SLIDES * 100)} along the lever"
        return [
            Limit(
                "pivot_forward_cm",
                size.min(axis=-1) - 0.15,
                "the hand stays at least 15 cm from the pivot",
                "Stand farther off",
            ),
            Limit("pivot_forward_cm", slides, limit, "Stand so that the hand goes round the pivot"),
        ]


@dataclass(frozen=True)
class SwingLever(KitItem):
    """A lever that swings on a pivot, with a horn for plates."""

    id: Name
    name: Name
    pivot_height_cm: Annotated[Real, Ge(0), Le(300)] = field(metadata={"description": "Height of the pivot, cm"})
    horn_cm: Annotated[Real, Gt(0), Le(250)] = field(metadata={"description": "Pivot to the middle of the plates, cm"})
    masses_kg: Annotated[list[Annotated[Real, Gt(0), Le(300)]], Len(1, 200)] = field(
        metadata={"description": "Masses that can be put on the horn, kg"}
    )
    tare_kg: Annotated[Real, Ge(0), Le(60)] = field(
        default=0.0, metadata={"description": "The lever's own weight as felt at the horn, kg"}
    )
    offset_deg: Annotated[Real, Ge(-90), Le(90)] = field(
        default=0.0, metadata={"description": "From the handle's arm on to the horn's, degrees"}
    )
    kind: Literal["lever"] = "lever"
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 1.6, 1.4

    def amounts(self) -> Floats:
        """Plates and the lever's own weight, kg at the horn."""
        return np.unique(np.array(self.masses_kg)) + self.tare_kg

    def serves(self, bearing: Bearing) -> bool:
        """Pulls and presses: its arc is not that of a single joint."""
        return bearing.guided and bearing.led

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """Pivots ahead and behind at the lever's height."""
        forward = np.arange(-1.2, 1.21, 0.15)
        pivot = np.stack([forward, 0 * forward, 0 * forward + self.pivot_height_cm / 100], axis=-1)
        law = Swing(pivot, self.horn_cm / 100, float(np.radians(self.offset_deg)), 2 if scene.both else 1)

        def setting(i: int, amount: float) -> LeverHold:
            return LeverHold(self, round(float(forward[i]) * 100, 1), amount - self.tare_kg, "both" if scene.both else "one")

        yield Placements(law, len(forward), setting)


@dataclass(frozen=True)
class LeverHold(Setting):
    """Hands on a swinging lever."""

    lever: SwingLever
    pivot_forward_cm: Annotated[Real, Ge(-300), Le(300)] = field(
        metadata={"description": "Pivot ahead of the hips (negative: behind), cm"}
    )
    plates_kg: Annotated[Real, Ge(0), Le(300)] = field(metadata={"description": "Plates on the horn, kg"})
    hands: Literal["both", "one"] = "both"
    hook_cm: Annotated[Real, Ge(0), Le(250)] = field(default=0.0, metadata={"description": "Pivot to the hook, cm"})
    hooked: CablePull | None = field(default=None, metadata={"description": "A cable hooked to the lever"})
    attachment: Attachment = USUAL
    kind: Literal["lever"] = "lever"
    item_field: ClassVar[str] = "lever"
    __pydantic_config__ = EDGE

    @property
    def use_label(self) -> str:
        """Both hands, or one."""
        return self.hands

    def law(self) -> Swing:
        """Moment of the plates, and of what is hooked on."""
        pivot = np.array([self.pivot_forward_cm, 0.0, self.lever.pivot_height_cm]) / 100
        hooked = None if self.hooked is None else (self.hooked.law(), self.hooked.stack_kg)
        offset, hands = float(np.radians(self.lever.offset_deg)), 2 if self.hands == "both" else 1
        return Swing(pivot, self.lever.horn_cm / 100, offset, hands, self.hook_cm / 100, hooked)

    @property
    def amount(self) -> float:
        """Plates and the lever's own weight, kg at the horn."""
        return self.plates_kg + self.lever.tare_kg

    @property
    def both_sides(self) -> bool:
        """Whether both hands hold it."""
        return self.hands == "both"

    def with_amount(self, amount: float) -> LeverHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, plates_kg=amount - self.lever.tare_kg)

    def amount_words(self, amount: float) -> str:
        """For example ``40 kg on the lever``."""
        return f"{kg(amount - self.lever.tare_kg)} on the lever"

    def rows(self) -> list[SettingRow]:
        """Where the lever stands."""
        side = "ahead" if self.pivot_forward_cm > 0 else "behind"
        return [SettingRow("Lever", f"{self.lever.name}, pivot {cm(abs(self.pivot_forward_cm))} {side}", "pivot_forward_cm")]

    def short(self) -> str:
        """The lever."""
        return self.lever.name

    def cautions(self) -> list[str]:
        """Load one side at a time."""
        return ["Load and unload close to the body; keep clear of the lever's swing."]

    def adjustable_parameters(self, kit: Sequence[Any]) -> list[AdjustableParameter]:
        """How far ahead the pivot is."""
        return [AdjustableParameter("pivot", "pivot ahead", "cm", self.pivot_forward_cm, -120, 120, 5, 10)]

    def with_parameter(self, name: str, value: float) -> LeverHold:
        """With the pivot elsewhere."""
        return replace(self, pivot_forward_cm=value)

    def with_far_end_near(self, point: Floats, kit: Sequence[Any]) -> LeverHold:
        """With the pivot so far ahead."""
        return replace(self, pivot_forward_cm=round(float(point[0]) * 100, 1))

    def prop(self) -> dict[str, Any]:
        """The lever's pivot."""
        return {"kind": "lever", "pivot_m": [self.pivot_forward_cm / 100, 0.0, self.lever.pivot_height_cm / 100]}


SETTING, KIT = LeverHold, SwingLever
