"""The belt squat: a squat whose load hangs from a belt around the hips, so that the back carries none of it."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say
from oddswap.exercises.squat import MOVEMENT as SQUAT
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

LEAN = np.radians(20.0)
"""How far the trunk leans at the bottom (own estimate)."""
TIPPED = 0.7
"""How far the hips are behind the feet at the top, parts of how far they are at the bottom (own estimate)."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Thigh and shank by depth from the bottom up; hands at a hold keep the balance, the trunk stays nearly upright."""
    depth, shin = np.radians(values["depth_deg"]), np.radians(values["shin_deg"])
    long, short = body.length("thigh"), body.length("shank")
    lowest = long * np.sin(depth) - short * np.sin(shin)
    # Held by the hands one stands tipped back a little, so that the hips rise nearly straight.
    tipped = np.arcsin(TIPPED * lowest / (long + short))
    thigh = depth + (tipped - depth) * s
    sunk = (np.cos(tipped) - np.cos(thigh)) / (np.cos(tipped) - np.cos(depth))
    shank = np.arcsin((long * np.sin(thigh) - lowest * (TIPPED + (1 - TIPPED) * sunk)) / short)
    lean = LEAN * (1 - s)
    return Path(s, leg=leg_angles(s, thigh + lean, thigh + shank, shank, np.radians(-10), 0.0), lean=lean, hold="ahead")


MOVEMENT = Movement(
    id="belt_squat",
    name="Belt squat",
    parameters=(
        Parameter("depth_deg", "thigh off plumb at the bottom, degrees; 90 is level", 30, 110, 80),
        Parameter("shin_deg", "shin off plumb at the bottom, degrees", 10, 38, 30),
    ),
    targets=SQUAT.targets,
    hinge=SQUAT.hinge,
    reading=SQUAT.reading,
    reading_words=SQUAT.reading_words,
    path=path,
    variants=fixed_variants(Variant({})),
    title=lambda v: "Belt squat",
    cues=say("Belt low around the hips, the line between the legs", "Hands at a hold, the trunk tall", "Knees follow the toes"),
    cautions=say("Stand where the load can be let go at the bottom."),
    family="legs",
    support=always(BodySupport("hips", "feet", "feet at a hold")),
    loaded=True,
)
