"""External forces on the body, and where they bear."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.arm import cross
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.skeleton import MIRROR
from oddswap.mechanics.types import Bools, Floats

# Which of a region's moment axes lie between a contact and the trunk.
LOADS: dict[Contact, dict[str, Bools]] = {
    "hand": {"arm": np.array([1, 1, 1, 1, 1], bool)},
    "forearm": {"arm": np.array([1, 1, 1, 1, 0], bool)},
    "upper_arm": {"arm": np.array([1, 1, 1, 0, 0], bool)},
    "back": {},
    "hips": {},
    "thigh": {"leg": np.array([1, 1, 1, 0, 0], bool)},
    "shank": {"leg": np.array([1, 1, 1, 1, 0], bool)},
    "foot": {"leg": np.array([1, 1, 1, 1, 1], bool)},
}

ABOVE_LUMBOSACRAL: tuple[Contact, ...] = ("hand", "forearm", "upper_arm", "back")


@dataclass(frozen=True)
class Push:
    """One external force on the body.

    Args:
        contact: Where on the body it bears.
        point: Its point of attack, world, m, (pose, xyz).
        force: World, N, (..., pose, xyz).
        couple: A free moment besides, world, N·m, (..., pose, xyz), or None.
        mirrored: Whether the left side gets its mirror image too.
    """

    contact: Contact
    point: Floats
    force: Floats
    couple: Floats | None = None
    mirrored: bool = True

    def about(self, points: Floats) -> Floats:
        """Its moment about points, m, (pose, xyz), one side alone, N·m, (..., pose, xyz)."""
        turning = cross(self.point - points, self.force)
        return turning if self.couple is None else turning + self.couple

    def total(self) -> tuple[Floats, Floats]:
        """Force of both sides together, N, and its moment about the world's origin, N·m, (..., pose, xyz) each."""
        force, about = self.force, cross(self.point, self.force)
        if self.couple is not None:
            about = about + self.couple
        # A moment is a pseudo-vector: its mirror image keeps the component across the mirror.
        return (force + force * MIRROR, about - about * MIRROR) if self.mirrored else (force, about)
