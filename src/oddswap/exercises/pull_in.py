"""The pull-in from the side: the arm drawn down to the ribs in the plane of the body."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, say, swing, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Swept down from above shoulder level at the side."""
    return Path(s, arm=swing(s, direction(0.08, 0.90, 0.55), direction(0.02, 0.14, -1.0), values["elbow_deg"], (-20, 0)))


MOVEMENT = Movement(
    id="pull_in",
    name="Pull-in from the side",
    parameters=(Parameter("elbow_deg", "fixed bend of the elbow, degrees", 0, 90, 20),),
    targets=(
        "lats",
        "teres_major",
        "chest",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Pull-in from the side"),
    cues=say("Elbow to the hip, trunk upright"),
    cautions=say(),
    family="back",
    stances=("standing", "kneeling", "bench", "half_kneeling", "holding_on"),
    led="pull",
)
