"""Attachments that a place has: what can be clipped to a cable, a band or a lever, and straps for the wrist."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Le

from oddswap.equipment.base.fields import EDGE, Name, Real, Whole
from oddswap.equipment.base.item import KitItem
from oddswap.mechanics.movement import Contact

ONE_HAND, ONE_LEG, BELT = ("strap", "loop", "cuff"), ("ankle_cuff", "strap", "loop", "cuff"), "belt"
"""Attachments that serve one hand, one leg, without a cuff a strap around the foot, and the hips."""


@dataclass(frozen=True)
class Handle(KitItem):
    """One kind of attachment."""

    id: Name
    name: Name
    shape: Literal["strap", "bar", "rope", "loop", "cuff", "ankle_cuff", "belt", "wrist_strap"] = field(
        metadata={"description": "Strap handle, bar, rope, loop, cuff for forearm or upper arm, ankle cuff, belt, wrist strap"}
    )
    spread_cm: Annotated[Real, Ge(0), Le(200)] = field(
        default=0.0, metadata={"description": "Between its two ends or hands, cm; 0 for one end"}
    )
    count: Annotated[Whole, Ge(1), Le(50)] = field(default=1, metadata={"description": "How many there are"})
    kind: Literal["handle"] = "handle"
    loads: ClassVar[bool] = False
    __pydantic_config__ = EDGE


def count_handles(kit: Sequence[Any], shapes: Iterable[str]) -> float:
    """How many attachments of some shapes a place has; no end of them where it lists no attachments at all, since then nobody
    looked."""
    listed = [k for k in kit if isinstance(k, Handle)]
    return float(sum(k.count for k in listed if k.shape in set(shapes))) if listed else np.inf


def count_fitting(kit: Sequence[Any], contact: Contact) -> float:
    """How many attachments serve a hand, a leg or thigh, or the hips, at one line; one belt at most, where it is listed."""
    if contact == "hips":
        return float(any(isinstance(k, Handle) and k.shape == BELT for k in kit))
    return count_handles(kit, ONE_HAND if contact == "hand" else ONE_LEG)


@dataclass(frozen=True)
class AttachmentsThere:
    """What of a place's attachments decides how a cable is held.

    Args:
        hand: How many serve one hand, at most two.
        leg: The same for a leg or thigh.
        hips: The same for the hips.
        bar: Whether there is a bar.
        rope: Whether there is a rope.
    """

    hand: float
    leg: float
    hips: float
    bar: bool
    rope: bool

    @staticmethod
    def of(kit: Sequence[Any]) -> AttachmentsThere:
        """Of a place's kit."""
        hand, leg = count_handles(kit, ONE_HAND), count_handles(kit, ONE_LEG)
        bar, rope = count_handles(kit, ["bar"]) >= 1, count_handles(kit, ["rope"]) >= 1
        return AttachmentsThere(min(hand, 2.0), min(leg, 2.0), count_fitting(kit, "hips"), bar, rope)

    def fitting(self, contact: Contact) -> float:
        """How many serve a contact, at most two."""
        return self.hips if contact == "hips" else self.hand if contact == "hand" else self.leg


SETTING, KIT = None, Handle
