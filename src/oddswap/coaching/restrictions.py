"""What of a movement a client's restricted joints rule out, read off the pose by the rules of ``data/restrictions.toml``."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.mechanics.motion import COORDINATES, Motion
from oddswap.mechanics.movement import ON_FEET
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class Restriction:
    """A joint that hurts, and what of it.

    Args:
        joint: Which joint.
        action: In what position or use; ``any`` for all.
        side: ``left``, ``right`` or ``both``; both sides are restricted alike, since most lifts use both.
    """

    joint: str
    action: str = "any"
    side: str = "both"

    @property
    def words(self) -> str:
        """For people, for example ``right shoulder``."""
        return self.joint if self.side == "both" else f"{self.side} {self.joint}"


@cache
def restriction_rules() -> tuple[dict[str, Any], ...]:
    """``data/restrictions.toml``."""
    return tuple(tomllib.loads((files("oddswap.coaching") / "data" / "restrictions.toml").read_text())["rule"])


def strains(motion: Motion, restrictions: Sequence[Restriction]) -> str:
    """What the movement does to a restricted joint, in words; empty where it does nothing to them."""
    for one in restrictions:
        for rule in restriction_rules():
            if rule["joint"] == one.joint and one.action in rule["actions"] and _beyond(quantity(motion, rule["of"]), rule):
                return f"{one.words}: {rule['words']}"
    return ""


def _beyond(values: Floats | None, rule: dict[str, Any]) -> bool:
    if values is None:
        return False
    if "moves" in rule:
        return bool(np.ptp(values) > rule["moves"])
    return bool(values.max() > rule["above"]) if "above" in rule else bool(values.min() < rule["below"])


def quantity(motion: Motion, which: str) -> Floats | None:
    """A quantity of the rules at every pose, degrees, or 1 where something is so; None where it does not apply."""
    if which == "grip":
        return np.array([float(motion.support.contact == "hand")])
    if which == "carried":
        return np.array([float(motion.support.contact == "back")])
    if which == "lean":
        rests = motion.stance.kind in ("bench", "chest_supported") or motion.support.base not in ("seat", *ON_FEET)
        upright = motion.skeleton.torso[:, 2, 2]
        return None if rests else np.degrees(np.arccos(np.clip(upright, -1.0, 1.0)))
    if "arm" in motion.coords and which in ("behind", "wide"):
        plane, elevation = np.degrees(motion.coords["arm"][:, 0]), np.degrees(motion.coords["arm"][:, 1])
        if which == "behind":
            # How far the upper arm points back, off the plane of the trunk.
            return np.where(plane < 0, elevation * -np.sin(np.radians(plane)), 0.0)
        return np.where(np.abs(plane) < 35, elevation, 0.0)
    region, _, name = which.partition(".")
    if region not in motion.coords:
        return None
    return np.degrees(motion.coords[region][:, COORDINATES[region].index(name)])
