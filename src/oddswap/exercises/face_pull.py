"""The face pull: hands drawn to the sides of the head with the elbows high."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import blades_drawn, direction, fixed_variants, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """From reaching ahead, blades and all, to elbows out just under shoulder level, hands beside the head."""
    arm = limbs(
        s,
        [direction(1.0, 0.14, -0.07), direction(-0.06, 0.92, -0.07)],
        [direction(1.0, -0.05, 0.05), direction(0.62, 0.10, 0.70)],
        60.0,
        antecubital=direction(0.0, -0.2, 1.0),
    )
    return Path(s, arm=arm, scapula=blades_drawn(s))


MOVEMENT = Movement(
    id="face_pull",
    name="Face pull",
    parameters=(),
    targets=(
        "rear_delt",
        "middle_traps",
        "external_rotators",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Face pull"),
    cues=say(
        "Elbows out just under shoulder level, thumbs end beside the ears", "Let the blades reach, then draw them together"
    ),
    cautions=say(),
    family="shoulders",
    stances=("standing", "half_kneeling", "chest_rested"),
    led="pull",
)
