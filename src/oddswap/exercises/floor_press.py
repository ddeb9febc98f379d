"""The floor press: lying on the floor, which stops the upper arms, the hand pushed straight up."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import GRIP, fixed_variants, press_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Forearm along the push, upper arm from the floor to straight."""
    return Path(s, arm=press_arm(s, 0.0, values["flare_deg"], values["depth_deg"], values["forearm_deg"]))


MOVEMENT = Movement(
    id="floor_press",
    name="Floor press",
    parameters=(
        Parameter("flare_deg", "elbow from tucked (0) to wide (90), degrees", 15, 75, 65),
        # The shoulder lies half a trunk's depth above the floor, so that the upper arm soon meets it (own estimate).
        Parameter("depth_deg", "how far the elbow goes below the shoulder line, degrees", -10, 12, 8),
        Parameter("lean_in_deg", "how far the hands lean in from over the elbows, degrees", 0, 20, 8),
        GRIP,
        Parameter("forearm_deg", "forearm rotation, degrees: 0 palms facing, 70 palms to the feet", -30, 85, 70),
    ),
    targets=("chest", "triceps_short", "front_delt", "upper_chest", "triceps_long"),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "lying")),
    title=titled("Floor press"),
    cues=say("Let the upper arms settle on the floor, then press", "Knees bent, feet flat, shoulder blades back"),
    cautions=say("Get the weights up from the thighs, or have them handed over; never drop the elbows onto the floor."),
    family="chest",
    stances=("lying",),
    led="press",
)
