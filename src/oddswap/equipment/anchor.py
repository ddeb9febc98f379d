"""Anchor points: what a band can be fixed to."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import KitItem


@dataclass(frozen=True)
class AnchorPoints(KitItem):
    """Fixed points such as a door strap, a rack or wall hooks, with free floor before them."""

    id: Name
    name: Name
    heights_cm: Annotated[list[Annotated[Real, Ge(0), Le(350)]], Len(1, 60)] = field(
        metadata={"description": "Heights of the points, cm"}
    )
    kind: Literal["anchor"] = "anchor"
    loads: ClassVar[bool] = False
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 0.6, 0.2

    @property
    def anchor_heights_cm(self) -> tuple[float, ...]:
        """Heights at which a band can be fixed, cm."""
        return tuple(self.heights_cm)


SETTING, KIT = None, AnchorPoints
