"""The shrug up: shoulders lifted toward the ears under hanging weight."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, hinged, say, titled, ways
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Arms hang, the girdle rises."""
    up = np.array([0.0, 0.0, 0.032])
    return Path(s, arm=hinged(s, aim(0.02, 0.10, -1.0), aim(1.0, 0.0, 0.0), 6, 6), girdle=s[:, None] * up)


MOVEMENT = Movement(
    id="shrug_up",
    name="Shrug up",
    parameters=(),
    targets=("upper_traps",),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["girdle"][:, 1]),
    reading_words="girdle {}° up",
    path=path,
    variants=ways(Variant({})),
    title=titled("Shrug up"),
    cues=say("Straight up, no rolling", "Arms long"),
    cautions=say(),
    family="back",
    stances=("standing", "bench"),
)
