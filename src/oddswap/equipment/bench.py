"""Benches and arm pads: they load nothing, but carry the body and allow other poses."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import KitItem


@dataclass(frozen=True)
class Bench(KitItem):
    """A bench with a back rest at one or several notches."""

    id: Name
    name: Name
    notches_deg: Annotated[list[Annotated[Real, Ge(0), Le(90)]], Len(1, 20)] = field(
        metadata={
            "description": "Angles of the back rest to the floor, degrees; 0 lies flat, 90 is upright. A ball to lean on is "
            "one of 30 to 45"
        }
    )
    seat_cm: Annotated[Real, Ge(20), Le(80)] = field(default=45.0, metadata={"description": "Height of the seat, cm"})
    moveable: bool = field(default=True, metadata={"description": "Whether it can be moved to a column or an anchor"})
    kind: Literal["bench"] = "bench"
    loads: ClassVar[bool] = False
    __pydantic_config__ = EDGE

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 1.3, 0.6

    @property
    def notches(self) -> tuple[float, ...]:
        """Angles of the back rest, degrees."""
        return tuple(self.notches_deg)

    @property
    def comes_along(self) -> bool:
        """As its owner says."""
        return self.moveable


SETTING, KIT = None, Bench
