"""The cross-body extension: the elbow straightened outward against a line from the other side."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm out ahead of the side, forearm from across the chest to straight."""
    return Path(s, arm=hinge_arm(s, direction(0.45, 0.70, -0.55), direction(0.55, -0.80, 0.25), 118, 6, 30.0))


MOVEMENT = Movement(
    id="cross_body_extension",
    name="Cross-body extension",
    parameters=(),
    targets=(
        "triceps_short",
        "triceps_long",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Cross-body extension"),
    cues=say("Upper arm in line with the cable and still"),
    cautions=say(),
    family="arms",
    stances=("standing", "bench", "kneeling", "half_kneeling", "holding_on", "back_rested"),
)
