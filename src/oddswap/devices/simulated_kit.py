"""Stand-ins of kit and joints: what a perfect instrument would show, off from the stored figures as real kit is."""

from __future__ import annotations

import hashlib
from typing import Any, Literal

import numpy as np

from oddswap.devices.simulated import Simulated
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.pchip import interpolate
from oddswap.quantities import cm, kg

HOLD = 6.0
"""Seconds that a stand-in is read for at each point."""

Direction = Literal["up", "down"]


def hidden(item: Any) -> np.random.Generator:
    """Random numbers of an item's own: the stand-in's truth differs from the stored figures, and stays the same."""
    return np.random.default_rng(int(hashlib.sha256(item.id.encode()).hexdigest()[:8], 16))


KINDS = {"band": "band", "column": "cable_column", "cam": "machine"}
"""Kind of kit that each run is for."""


def check_item(what: str, item: Any) -> None:
    """Raise ``DomainError`` where an item is not of a run's kind, or cannot be."""
    kind = KINDS.get(what)
    if kind is None:
        raise DomainError("what", what, ", ".join(KINDS), "Pick what is measured")
    if item.kind != kind:
        raise DomainError("item", item.id, f"a {kind.replace('_', ' ')}", "Pick another item or another run")
    try:
        item.verify()
    except DomainError as error:
        raise error.at("item") from None


def truth(what: str, item: Any, position: float, direction: Direction, stack_kg: float, arm_cm: float) -> float:
    """What a perfect scale would show at a point, N: the stored figures off by what real kit is off by.

    Raises:
        DomainError: Where the point cannot be measured on this item.
    """
    check_item(what, item)
    own = hidden(item)
    factor = own.uniform(0.88, 1.12)
    if what == "band":
        lengths, forces = np.array([[p.length_cm, p.force_n] for p in item.curve()]).T
        if not 0 < position <= item.most_cm:
            raise DomainError("at", position, f"up to the allowed {cm(item.most_cm)}", "Pull less far")
        # Older bands are a little longer than sold, and softer.
        return float(factor * interpolate(lengths * own.uniform(0.98, 1.03), forces, np.array(position)))
    if what == "column":
        if not item.least_kg <= position <= item.most_kg:
            raise DomainError(
                "at", position, f"a pin from {kg(item.least_kg)} to {kg(item.most_kg)}", "Pick a pin of this column"
            )
        friction = max(item.friction, own.uniform(0.02, 0.08))
        return float(GRAVITY * item.ratio * factor * position * (1 + friction if direction == "up" else 1 - friction) + 3.0)
    if what == "cam":
        if not 0 <= position <= 180:
            raise DomainError("at", position, "an angle of the arm from 0 to 180 degrees", "Read the angle finder again")
        shape = 1 + own.uniform(-0.3, 0.3) * np.cos(np.radians(position) * 1.5)
        return float(item.radius_cm * factor * shape * stack_kg * GRAVITY / arm_cm)
    raise AssertionError("a run of another kind")


def simulated_joint(low: float, high: float, seed: int, seconds: float = 24.0) -> list[tuple[float, float]]:
    """Angles, degrees, of an angle finder's stand-in on a joint moved through its range, with times, s; drop-outs left out.

    Args:
        low: Low end that is stored, degrees; the hidden truth lies a few degrees inside it.
        high: High end that is stored, degrees.
        seed: Of its random numbers.
        seconds: How long it is recorded.
    """
    own = np.random.default_rng(int(abs(low * 31 + high) * 10))
    a, b = low + own.uniform(3, 9), high - own.uniform(4, 12)
    angle = Simulated(lambda t: (a + b) / 2 - (b - a) / 2 * float(np.cos(2 * np.pi * t / 4)), "deg", 1.0, 0.0, 0.0, seed=seed)
    return [(r.time, round(r.value, 1)) for r in angle.readings(seconds) if np.isfinite(r.value)]
