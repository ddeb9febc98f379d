"""The leg press: feet push a sled or plate away from the seat."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, legs_along, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

LINE = 62.0
"""Way that the feet go to the trunk, degrees: the seat is set so that this is along the rail (own estimate)."""
HIGH = 0.045
"""How far the feet's way passes before the hips, part of stature: feet high enough on the plate (own estimate)."""
STRAIGHT, TILT = 8.0, 20.0
"""Knee at the end, and how far the plate leans away from square to its way, degrees (own estimates)."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The feet go straight along the rail, from a bend of the hips to nearly straight knees; both links follow."""
    line = np.radians(LINE)
    hip, knee = legs_along(body, s, np.radians(values["depth_deg"]), HIGH * body.stature, line, STRAIGHT)
    ankle = np.radians(LINE - TILT) - hip + knee
    return Path(s, leg=leg_angles(s, hip, knee, ankle, np.radians(-1)), hold="hips")


MOVEMENT = Movement(
    id="leg_press",
    name="Leg press",
    parameters=(Parameter("depth_deg", "hip bent at the bottom, degrees", 90, 118, 110),),
    targets=(
        "quads",
        "glute_max",
        "adductors",
    ),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "bench", 45.0)),
    title=titled("Leg press"),
    cues=say("Lower back stays on the pad", "Heels stay down"),
    cautions=say("Set the stops; never lock the knees under load."),
    family="legs",
    stances=("bench",),
    support=always(BodySupport("foot")),
)
