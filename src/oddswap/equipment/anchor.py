"""Anchor points: what a band can be fixed to."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, Literal

from annotated_types import Ge, Le, Len

from oddswap.equipment.protocols import EDGE, Name, Real


@dataclass(frozen=True)
class AnchorPoints:
    """Fixed points such as a door strap, a rack or wall hooks, with free floor before them."""

    id: Name
    name: Name
    heights_cm: Annotated[list[Annotated[Real, Ge(0), Le(350)]], Len(1, 60)] = field(
        metadata={"description": "Heights of the points, cm"}
    )
    kind: Literal["anchor"] = "anchor"
    __pydantic_config__ = EDGE

    def verify(self) -> None:
        """Nothing beyond the fields' own limits."""


SETTING, KIT = None, AnchorPoints
