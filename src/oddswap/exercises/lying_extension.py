"""The lying extension: the elbow straightened above the forehead."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm ahead of the chest, tipped toward the head."""
    return Path(s, arm=hinge_arm(s, direction(0.92, 0.06, values["toward_head"]), direction(-0.3, -0.08, 1.0), 118, 8, 0.0))


MOVEMENT = Movement(
    id="lying_extension",
    name="Lying extension",
    parameters=(Parameter("toward_head", "upper arm plumb over the shoulder (0) or tipped toward the head (1)", 0, 1, 0.3),),
    targets=(
        "triceps_long",
        "triceps_short",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=lambda notches, pads: [Variant({}, "bench", n) for n in notches if n <= 45],
    title=titled("Lying extension"),
    cues=say("Upper arms still, tipped a little toward the head"),
    cautions=say("Keep a way out over the face.", "Deep elbow bends only after build-up: elbow tendons."),
    family="arms",
    stances=("bench",),
)
