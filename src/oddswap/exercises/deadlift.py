"""The deadlift: a bar lifted from the floor to the thighs by hips and knees together."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

SLANT = 0.98
"""Height that a stretched arm takes of its length where it slants back to keep the bar near the legs (own estimate)."""
SOFT = 0.998
"""Of the leg's length, how far hips are over the ankles at the end: knees straight, not pushed back."""
ROUNDED = 0.12
"""Part of the lean that the lower back takes (own estimate)."""
LOWEST = np.radians(112.0)
"""Thigh off plumb where the hips are lowest."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The bar goes straight up. The shins come to plumb before the trunk is upright; its lean is solved for, and hips and
    knees bend by as much as leaves the hands at the bar."""
    thigh, shank, trunk = body.length("thigh"), body.length("shank"), body.height("shoulder") - body.height("hip")
    arm = SLANT * (body.length("upper_arm") + body.to_hand)
    start = values["start_cm"] / 100
    top = body.height("ankle") + SOFT * (thigh + shank) + trunk - arm
    shin = np.radians(values["shin_deg"]) * (1 - s) ** 2
    hips = start + s * (top - start) + arm - trunk * np.cos(free)
    above = np.clip((hips - body.height("ankle") - shank * np.cos(shin)) / thigh, np.cos(LOWEST), SOFT)
    bent = np.arccos(above)
    return Path(
        s,
        leg=leg_angles(s, bent + (1 - ROUNDED) * free, bent + shin, shin, np.radians(-6)),
        lean=free,
        lumbar=ROUNDED * free,
        hold="close",
    )


MOVEMENT = Movement(
    id="deadlift",
    name="Deadlift",
    parameters=(
        Parameter("start_cm", "hands above the floor at the start, cm; usual plates hold a bar at 22", 15, 55, 22),
        Parameter("shin_deg", "shin off plumb at the start, degrees", 0, 35, 18),
    ),
    targets=(
        "glute_max",
        "hamstrings",
        "quads",
        "adductors",
        "erectors",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({}), Variant({"start_cm": 40.0})),
    title=titled("Deadlift", start_cm={0.0: "", 30.0: "from blocks"}),
    cues=say("Bar over the middle of the foot and close all the way", "Push the floor away, hips and shoulders rise together"),
    cautions=say("Lower back: brace before the bar leaves the floor; end the set where the spine rounds."),
    family="legs",
    stances=("standing",),
    loaded=True,
    support=always(BodySupport("hand", "feet", "feet", Balance("weight", np.radians(-20), np.radians(89)))),
)
