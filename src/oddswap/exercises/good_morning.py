"""The good morning: a hip hinge with the load across the back."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, hinge_path, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """How far the hips go back is solved for."""
    return hinge_path(s, values["depth_deg"], free, "back")


MOVEMENT = Movement(
    id="good_morning",
    name="Good morning",
    parameters=(Parameter("depth_deg", "trunk off upright at the bottom, degrees", 30, 85, 65),),
    targets=(
        "hamstrings",
        "glute_max",
        "erectors",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Good morning"),
    cues=say("Hips back, soft knees", "Long spine from bar to tailbone"),
    cautions=say("Lower back: start light, brace, and stop where the spine would round."),
    family="legs",
    stances=("standing",),
    support=always(BodySupport("back", "feet", "feet", Balance("weight", np.radians(-25), np.radians(70)))),
)
