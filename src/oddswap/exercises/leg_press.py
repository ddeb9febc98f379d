"""The leg press: feet push a sled or plate away from the seat."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say, titled
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
    thigh, shank, off = body.length("thigh"), body.length("shank"), HIGH * body.stature
    bend = np.radians(np.linspace(STRAIGHT, 135.0, 200))
    reach = np.sqrt(thigh**2 + shank**2 + 2 * thigh * shank * np.cos(bend))
    along = np.sqrt(np.maximum(reach**2 - off**2, 0.0))
    hips = np.radians(LINE) + np.arctan2(off, along) + np.arccos((thigh**2 + reach**2 - shank**2) / (2 * thigh * reach))
    start = np.interp(np.radians(values["depth_deg"]), hips, along)
    at = start + s * (along[0] - start)
    hip, knee = (np.interp(at, along[::-1], angle[::-1]) for angle in (hips, bend))
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
