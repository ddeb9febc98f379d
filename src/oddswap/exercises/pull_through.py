"""The pull-through: the hinge against a low line from behind, between the legs."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import hinging, say, titled, ways
from oddswap.mechanics.movement import Balance, Movement, Parameter, Path, Values, Variant, Way, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """How far the hips go back is solved for."""
    return hinging(s, values["depth_deg"], free, "between")


MOVEMENT = Movement(
    id="pull_through",
    name="Pull-through",
    parameters=(Parameter("depth_deg", "trunk off upright at the bottom, degrees", 40, 85, 65),),
    targets=(
        "glute_max",
        "hamstrings",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=ways(Variant({})),
    title=titled("Pull-through"),
    cues=say("Arms long, the hips do the work"),
    cautions=say("Lower back: brace, ribs down."),
    family="legs",
    stances=("standing",),
    way=always(Way("hand", "feet", "feet", Balance("weight", np.radians(-40), np.radians(75)))),
)
