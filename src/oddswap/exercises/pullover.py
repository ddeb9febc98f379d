"""The pullover: the arm from overhead behind the head to over the chest."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, say, swing, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Swept from overhead to straight ahead of the chest."""
    arm = swing(s, direction(0.06, 0.16, 1.0), direction(1.0, 0.10, -0.18), values["elbow_deg"], (10, 10))
    return Path(s, arm=arm)


MOVEMENT = Movement(
    id="pullover",
    name="Pullover",
    parameters=(Parameter("elbow_deg", "fixed bend of the elbow, degrees", 0, 100, 20),),
    targets=(
        "lats",
        "chest",
        "triceps_long",
        "teres_major",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=lambda notches, pads: [Variant({}, "bench", n) for n in notches if n <= 30],
    title=titled("Pullover"),
    cues=say("Ribs down, lower back on the bench", "Lower until the arms are level, no deeper"),
    cautions=say("Dumbbells over the face: check the collars and keep a way out."),
    family="back",
    stances=("bench",),
)
