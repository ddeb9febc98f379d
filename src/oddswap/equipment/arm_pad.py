"""The arm pad: a slanted rest for the upper arm."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import KitItem


@dataclass(frozen=True)
class ArmPad(KitItem):
    """A pad that carries the upper arm in front of the torso."""

    id: Name
    name: Name
    angle_deg: Annotated[Real, Ge(20), Le(80)] = field(
        metadata={"description": "Upper arm on the pad, degrees forward of the upright torso"}
    )
    moveable: bool = field(default=False, metadata={"description": "Whether it can be moved to a column or an anchor"})
    kind: Literal["arm_pad"] = "arm_pad"
    loads: ClassVar[bool] = False
    __pydantic_config__ = EDGE

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 0.8, 0.7

    @property
    def pad_angles(self) -> tuple[float, ...]:
        """The pad's angle, degrees."""
        return (self.angle_deg,)

    @property
    def comes_along(self) -> bool:
        """As its owner says."""
        return self.moveable


SETTING, KIT = None, ArmPad
