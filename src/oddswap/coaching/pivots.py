"""Where a usual landmine stands: behind who rows it up between the legs, before who presses it away."""

from __future__ import annotations

import tomllib
from collections.abc import Callable
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.equipment.landmine import PIVOT_HEIGHT, Landmine, LandmineHold
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Variant

LANDMINE = Landmine("landmine", "landmine", [2.5 * k for k in range(41)])
"""A usual one: a bar of 20 kg, 205 cm from pivot to end, plates in steps of 2.5 kg (own choice)."""
OFF_M = np.arange(0.5, 3.0, 0.05)
"""How far off the hips its pivot is looked for, m; own choice, on either side of a bar's length."""


@cache
def _uses() -> list[dict[str, Any]]:
    return list(tomllib.loads((files("oddswap.coaching") / "data" / "pivots.toml").read_text("utf-8"))["use"])


def use_of(kind: Movement, variant: Variant) -> dict[str, Any] | None:
    """How a landmine is usual for a variant; None where it is not."""
    for use in _uses():
        alike = (use["movement"], use["stance"]) == (kind.id, variant.stance)
        if alike and all(abs(variant.values[k] - v) < 1e-6 for k, v in use["values"].items()):
            return use
    return None


def on_landmine(body: Body, kind: Movement, variant: Variant, set_up: Callable[..., SetUp]) -> LandmineHold:
    """A landmine with the bar's end where the hands are, so near as one can stand.

    Args:
        body: The client.
        kind: The movement.
        variant: Which way of it.
        set_up: Makes a set-up of a source.

    Raises:
        DomainError: Where it is not usual.
    """
    use = use_of(kind, variant)
    if use is None:
        raise DomainError("kit", "landmine", f"{kind.name} is not usual on a landmine", "Take other kit")
    held = LandmineHold(LANDMINE, 100.0, 0.0, 0.0, use["hands"])
    grip = set_up(held).perform(body, muscles=False).arm.grip
    middle = grip * np.array([1.0, 0.0, 1.0]) if held.both_sides else grip
    aside = 0.0 if held.both_sides else float(grip[:, 1].mean())
    ahead = OFF_M * (-1.0 if use["behind"] else 1.0)
    pivots = np.stack([ahead, np.full_like(ahead, aside), np.full_like(ahead, PIVOT_HEIGHT)], axis=-1)
    length = np.linalg.norm(middle - pivots[:, None], axis=-1)
    best = ahead[np.abs(length - LANDMINE.length_cm / 100).max(axis=1).argmin()]
    return LandmineHold(LANDMINE, round(float(best) * 100), round(-aside * 100), 0.0, use["hands"])
