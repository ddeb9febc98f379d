"""A law: the force that a load source puts on the body, NumPy in, NumPy out, SI units, any number of placements at once."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Le

from oddswap.equipment.base.fields import EDGE, Real
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm


@dataclass(frozen=True)
class Attachment:
    """Where on the body a load bears, when it is not the movement's usual place, and how far off the middle."""

    at: Contact | Literal["usual"] = field(
        default="usual", metadata={"description": "Part of the body; usual: where the movement is loaded as a rule"}
    )
    along: Annotated[Real, Ge(0), Le(1)] = field(
        default=1.0, metadata={"description": "Part of the way down the segment from its upper joint, for straps and cuffs"}
    )
    across_cm: Annotated[Real, Ge(-25), Le(25)] = field(
        default=0.0, metadata={"description": "Off the hand's middle, thumb side positive, cm"}
    )
    __pydantic_config__ = EDGE

    def words(self) -> str:
        """Where it bears, for people; empty for the usual place."""
        where = {
            "forearm": f"strap on the forearm, {self.along:.0%} of the way from elbow to wrist",
            "upper_arm": "strap above the elbow",
            "shank": "cuff above the ankle",
            "thigh": "above the knee",
            "foot": "on the foot",
            "back": "across the back",
            "hips": "at the hips",
            "hand": "in the hand",
        }.get(self.at, "")
        if self.across_cm:
            side = "thumb" if self.across_cm > 0 else "little-finger"
            where = f"{where}, " if where else ""
            where += f"{cm(abs(self.across_cm))} off the middle, {side} side"
        return where


USUAL = Attachment()


class Law:
    """Force on the contact, mostly a hand, for a unit of the source's amount; what most kinds answer alike stands here.

    A law is a frozen dataclass of NumPy arrays. The field named by ``placed_by`` has a leading placement axis.
    """

    overhang: float = 0.0
    """How far the far end stands out before the column or wall that it hangs on, m."""
    placed_by: ClassVar[str] = ""
    """Field that says where the source is placed, m, (placement..., xyz); empty where it is placed nowhere."""

    def force(self, grip: Floats) -> Floats:
        """Force, N per unit amount, (placement..., pose, xyz), on a contact at ``grip`` (pose, xyz), m."""
        raise NotImplementedError

    def limits(self, grip: Floats) -> list[Limit]:
        """The hard limits at this path of the contact, m, (pose, xyz); none as a rule."""
        return []

    @property
    def far_end(self) -> Floats | None:
        """Where the line of pull leads, m, (placement..., xyz); None for weight and guides."""
        return None

    def constant(self, grip: Floats) -> Floats | None:
        """Part of the force that does not grow with the amount, N, (placement..., pose, xyz); None for none."""
        return None

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats | None:
        """Force, N per unit amount, that moving the source's mass adds, (placement..., pose, xyz); None where it has none.

        Args:
            grip: m, (pose, xyz).
            velocity: m/s, (pose, xyz).
            acceleration: m/s^2, (pose, xyz).
        """
        return None

    def leading(self, forearm: float) -> Law:
        """What it comes to on the hands of a pull that go free where it would lead them, the forearm so long, m."""
        return self

    def with_variant_axis(self) -> Law:
        """The law with an axis for several variants after that of its placements."""
        return self._placed(lambda where: where[:, None]) if self.placed_by else self

    def _placed(self, change: Callable[[Floats], Floats]) -> Law:
        changed: Law = replace(self, **{self.placed_by: change(getattr(self, self.placed_by))})  # type: ignore[type-var]
        return changed

    @staticmethod
    def concatenate(laws: Sequence[Law]) -> Law:
        """Laws that differ in nothing but where they are placed, as one."""
        first = laws[0]
        if not first.placed_by:
            return first
        return first._placed(lambda _: np.concatenate([getattr(law, law.placed_by) for law in laws]))
