"""Resisted supination: the bent forearm turned palm up against a weight off the hand's middle."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.movements.base import Movement, Path, Values, Variant, aim, ramp, say, titled, ways
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Elbow near a right angle, forearm from palm down past palm up."""
    u = np.broadcast_to(aim(0.02, 0.10, -1.0), (*s.shape, 3))
    pit = np.broadcast_to(aim(1.0, 0.0, 0.0), u.shape)
    return Path(s, arm=ArmPath(u, pit, np.full_like(s, np.radians(90)), ramp(s, 70, -80)))


MOVEMENT = Movement(
    id="supination",
    name="Resisted supination",
    parameters=(),
    targets=("biceps",),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 4]),
    reading_words="palm turned down {}°",
    path=path,
    variants=ways(Variant({})),
    title=titled("Resisted supination"),
    cues=say("Elbow near a right angle", "Turn past palm up"),
    cautions=say(),
    family="arms",
    searched=False,
    stances=("standing", "bench"),
)
