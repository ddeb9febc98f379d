"""The hinge: hips sent back with soft knees and a long spine, on both legs or on one with the other held behind."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oddswap.exercises.authoring import fixed_variants, hinge_path, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """How far the hips go back is solved for; a free leg keeps in line with the trunk."""
    both = hinge_path(s, values["depth_deg"], free, "close")
    return replace(both, other_leg=leg_angles(s, 0.0, np.radians(20), 0.0)) if values["one_leg"] else both


def cues(variant: Variant) -> list[str]:
    """What is said before a set."""
    if variant.values.get("one_leg"):
        return [
            "Hips level, the free leg in line with the trunk",
            "A finger on a rack or wall where balance ends the set first",
        ]
    return ["Hips back, weight over the middle of the foot", "Long spine, bar close"]


def support(values: Values) -> BodySupport:
    """On the feet, or on one of them."""
    law = Balance("weight", np.radians(-25), np.radians(70))
    return BodySupport("hand", "feet", "feet", law, one_foot=values["one_leg"] > 0)


MOVEMENT = Movement(
    id="romanian_deadlift",
    name="Romanian deadlift",
    parameters=(
        Parameter("depth_deg", "trunk off upright at the bottom, degrees", 40, 90, 75),
        Parameter("one_leg", "legs that work", 0, 1, 0, {0.0: "both legs", 1.0: "one leg"}),
    ),
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
    variants=fixed_variants(Variant({}), Variant({"one_leg": 1.0})),
    title=titled("Romanian deadlift", one_leg={0.0: "", 1.0: "one leg"}),
    cues=cues,
    cautions=say("Lower back: brace, ribs down; stop where the spine would round."),
    family="legs",
    stances=("standing",),
    support=support,
)
