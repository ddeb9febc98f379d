"""The upright row: the hands drawn up before the body with the elbows leading."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbows lead out and up to shoulder level."""
    arm = limbs(
        s,
        [direction(0.20, 0.14, -1.0), direction(0.22, 1.0, 0.0)],
        [direction(0.30, -0.02, -1.0), direction(0.45, -0.45, -0.80)],
        60.0,
        antecubital=direction(1.0, -0.4, 0.0),
    )
    return Path(s, arm=arm)


MOVEMENT = Movement(
    id="upright_row",
    name="Upright row",
    parameters=(),
    targets=(
        "side_delt",
        "upper_traps",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Upright row"),
    cues=say("Elbows lead, stop at shoulder level"),
    cautions=say("Ends at shoulder level: higher pinches some shoulders."),
    family="shoulders",
    stances=("standing", "half_kneeling", "holding_on"),
    led="pull",
)
