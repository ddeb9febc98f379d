"""The pull-through: the hinge against a low line from behind, between the legs."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, hinge_path, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """How far the hips go back is solved for; where they come ahead of the feet against the pull, the trunk leans in line with
    the legs, the less the deeper it is bent."""
    return hinge_path(s, values["depth_deg"], free, "between", in_line=np.maximum(-free, 0.0) * s)


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
    variants=fixed_variants(Variant({})),
    title=titled("Pull-through"),
    cues=say("Arms long, the hips do the work"),
    cautions=say("Lower back: brace, ribs down."),
    family="legs",
    stances=("standing",),
    loaded=True,
    support=always(BodySupport("hand", "feet", "feet", Balance("weight", np.radians(-40), np.radians(75)))),
)
