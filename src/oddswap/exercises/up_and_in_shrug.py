"""The shrug up and in: shoulders drawn up and back against lines from low and wide."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Arms a little out, the shoulder blades from down and forward to up and back."""
    low, high = np.array([0.012, 0.0, -0.004]), np.array([-0.012, 0.0, 0.030])
    return Path(
        s,
        arm=hinge_arm(s, direction(0.05, 0.45, -1.0), direction(1.0, 0.0, 0.0), 8, 8),
        scapula=low + s[:, None] * (high - low),
    )


MOVEMENT = Movement(
    id="up_and_in_shrug",
    name="Up-and-in shrug",
    parameters=(),
    targets=(
        "upper_traps",
        "middle_traps",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["scapula"][:, 1]),
    reading_words="shoulders {}° up",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Up-and-in shrug"),
    cues=say("Up and in along the cable's line"),
    cautions=say(),
    family="back",
    stances=("standing",),
)
