"""Scapular retraction: the shoulder blades drawn together with straight arms ahead."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Arms ahead, the shoulder blades from forward to back."""
    forward, back = np.array([0.028, 0.0, 0.0]), np.array([-0.020, 0.0, 0.0])
    return Path(
        s,
        arm=hinge_arm(s, direction(1.0, 0.10, -0.12), direction(0.0, 0.0, 1.0), 6, 6),
        scapula=forward + s[:, None] * (back - forward),
    )


MOVEMENT = Movement(
    id="scapular_retraction",
    name="Scapular retraction",
    parameters=(),
    targets=(
        "middle_traps",
        "rhomboids",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["scapula"][:, 0]),
    reading_words="shoulder blades {}° forward",
    path=path,
    variants=lambda notches, pads: [Variant({}), *(Variant({}, "chest_supported", n) for n in notches if 20 <= n <= 45)],
    title=titled("Scapular retraction"),
    cues=say("Only the blades move"),
    cautions=say(),
    family="back",
    stances=("bench", "chest_supported", "bent_over", "standing", "half_kneeling", "chest_rested"),
)
