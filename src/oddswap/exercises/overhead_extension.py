"""The overhead extension: the elbow straightened with the upper arm beside the head."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm up beside the head."""
    return Path(s, arm=hinge_arm(s, direction(0.30, 0.06, 1.0), direction(-1.0, -0.30, 0.3), 130, 8, values["forearm_deg"]))


MOVEMENT = Movement(
    id="overhead_extension",
    name="Overhead extension",
    parameters=(Parameter("forearm_deg", "forearm rotation, degrees", -90, 85, 0, kept=True),),
    targets=(
        "triceps_long",
        "triceps_short",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=lambda notches, pads: [Variant({}), *([Variant({}, "bench", 90.0)] if tuple(notches) else [])],
    title=titled("Overhead extension"),
    cues=say("Upper arms beside the head and still", "Ribs down"),
    cautions=say("Test an overhead weight first and keep a way out.", "Deep elbow bends only after build-up: elbow tendons."),
    family="arms",
    stances=("standing", "bench", "kneeling", "half_kneeling", "holding_on", "back_rested"),
)
