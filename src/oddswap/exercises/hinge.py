"""The hinge: hips sent back with soft knees and a long spine."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import hinging, say, titled, ways
from oddswap.mechanics.movement import Balance, Movement, Parameter, Path, Values, Variant, Way, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """How far the hips go back is solved for."""
    return hinging(s, values["depth_deg"], free, "close")


MOVEMENT = Movement(
    id="hinge",
    name="Hinge",
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
    variants=ways(Variant({})),
    title=titled("Hinge"),
    cues=say("Hips back, weight over the middle of the foot", "Long spine, bar close"),
    cautions=say("Lower back: brace, ribs down; stop where the spine would round."),
    family="legs",
    stances=("standing",),
    way=always(Way("hand", "feet", "feet", Balance("weight", np.radians(-25), np.radians(70)))),
)
