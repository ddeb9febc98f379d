"""The leg press: feet push a sled or plate away from the seat."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Hips and knees from bent to nearly straight."""
    return Path(
        s, leg=leg_angles(s, ramp(s, values["depth_deg"], 55), ramp(s, 105, 8), ramp(s, 12, -12), np.radians(-6)), hold="hips"
    )


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
