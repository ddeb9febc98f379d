"""The arm pad: a slanted rest for the upper arm."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, Literal

from annotated_types import Ge, Le

from oddswap.equipment.protocols import EDGE, Name, Real


@dataclass(frozen=True)
class ArmPad:
    """A pad that carries the upper arm in front of the torso."""

    id: Name
    name: Name
    angle_deg: Annotated[Real, Ge(20), Le(80)] = field(
        metadata={"description": "Upper arm on the pad, degrees forward of the upright torso"}
    )
    moveable: bool = field(default=False, metadata={"description": "Whether it can be taken to a column or an anchor"})
    kind: Literal["arm_pad"] = "arm_pad"
    __pydantic_config__ = EDGE

    def verify(self) -> None:
        """Nothing beyond the fields' own limits."""


SETTING, KIT = None, ArmPad
