"""The hinge: hips sent back with soft knees and a long spine."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, hinge_path, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """How far the hips go back is solved for."""
    return hinge_path(s, values["depth_deg"], free, "close")


MOVEMENT = Movement(
    id="romanian_deadlift",
    name="Romanian deadlift",
    parameters=(Parameter("depth_deg", "trunk off upright at the bottom, degrees", 40, 90, 75),),
    targets=(
        "hamstrings",
        "glute_max",
        "adductors",
        "erectors",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Romanian deadlift"),
    cues=say("Hips back, weight over the middle of the foot", "Long spine, bar close"),
    cautions=say("Lower back: brace, ribs down; stop where the spine would round."),
    family="legs",
    stances=("standing",),
    support=always(BodySupport("hand", "feet", "feet", Balance("weight", np.radians(-25), np.radians(70)))),
)
