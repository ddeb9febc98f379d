"""The hip thrust: hips raised between a bench under the back and the feet."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Shins plumb at the top, trunk from slanting to level."""
    lean = ramp(s, -38, -86)
    thigh = ramp(s, 118, 92)
    shank = ramp(s, -12, 0)
    leg = leg_angles(s, thigh + lean, thigh + shank, shank, np.radians(-6))
    return Path(s, leg=leg, lean=lean, hold="hips")


MOVEMENT = Movement(
    id="hip_thrust",
    name="Hip thrust",
    parameters=(),
    targets=(
        "glute_max",
        "hamstrings",
        "quads",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "floor")),
    title=titled("Hip thrust"),
    cues=say("Chin in, ribs down, shins plumb at the top"),
    cautions=say("Pad the bar; roll it on and off."),
    family="legs",
    stances=("floor",),
    support=always(BodySupport("hips", "feet", "back and feet")),
    needs=lambda values: ("bench", "box"),
)
