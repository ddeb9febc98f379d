"""Stations and supports: bars to hang and press from, boxes, steps, balls and mats. They load nothing by themselves."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le

from oddswap.equipment.base.fields import EDGE, Name, Real, Whole
from oddswap.equipment.base.item import KitItem

Use = Literal["pull_up_bar", "dip_bars", "low_bar", "box", "step", "ball", "mat", "hip_pad"]

FLOOR = {"pull_up_bar": (1.4, 0.5), "dip_bars": (1.1, 1.1), "low_bar": (1.5, 0.8), "mat": (1.8, 0.7), "hip_pad": (1.3, 0.7)}
"""What of the floor they take, along a wall and out from it, m (own estimates)."""


@dataclass(frozen=True)
class Station(KitItem):
    """Something fixed to hang, lean, stand or lie on."""

    id: Name
    name: Name
    use: Use = field(metadata={"description": "What it is for"})
    height_cm: Annotated[Real, Ge(0), Le(350)] = field(
        default=0.0, metadata={"description": "Height of the bar, box, step, ball or pad, cm"}
    )
    count: Annotated[Whole, Ge(1), Le(50)] = field(default=1, metadata={"description": "How many there are"})
    moveable: bool = field(default=False, metadata={"description": "Whether it can be moved to a column or an anchor"})
    kind: Literal["station"] = "station"
    loads: ClassVar[bool] = False
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return FLOOR.get(self.use, (0.7, 0.6))

    @property
    def station_use(self) -> str:
        """What it is for."""
        return self.use

    @property
    def anchor_heights_cm(self) -> tuple[float, ...]:
        """A bar to hang from holds a band too."""
        return (self.height_cm,) if self.use in ("pull_up_bar", "low_bar") else ()

    @property
    def comes_along(self) -> bool:
        """As its owner says."""
        return self.moveable


SETTING, KIT = None, Station
