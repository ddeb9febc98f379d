"""The shrug up: shoulders lifted toward the ears under hanging weight."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Arms hang, the shoulder blades rises."""
    up = np.array([0.0, 0.0, 0.032])
    return Path(s, arm=hinge_arm(s, direction(0.14, 0.10, -1.0), direction(1.0, 0.0, 0.0), 6, 6), scapula=s[:, None] * up)


MOVEMENT = Movement(
    id="shrug",
    name="Shrug",
    parameters=(),
    targets=("upper_traps",),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["scapula"][:, 1]),
    reading_words="shoulders {}° up",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Shrug"),
    cues=say("Straight up, no rolling", "Arms long"),
    cautions=say(),
    family="back",
    stances=("standing", "bench"),
)
