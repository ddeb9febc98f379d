"""The Y-raise: nearly straight arms raised overhead and out."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, say, swing, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """From hanging ahead of the chest to in line with the trunk, half way between the side and overhead."""
    out = np.radians(values["out_deg"])
    arm = swing(s, direction(1.0, 0.10, -0.10), direction(0.10, np.sin(out), np.cos(out)), 10, (20, 20))
    up = np.array([-0.004, 0.0, 0.010])
    return Path(s, arm=arm, scapula=s[:, None] * up)


MOVEMENT = Movement(
    id="y_raise",
    name="Y-raise",
    parameters=(Parameter("out_deg", "arms out from overhead at the top, degrees", 15, 70, 40),),
    targets=("side_delt",),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=lambda notches, pads: [
        Variant({}, "bent_over", 15.0),
        *(Variant({}, "chest_supported", n) for n in notches if 20 <= n <= 45),
    ],
    title=titled("Y-raise"),
    cues=say("Thumbs up, arms long", "Shoulder blades down and back as the arms rise"),
    cautions=say("Light: stop lower where lifting overhead pinches."),
    family="shoulders",
    stances=("bent_over", "chest_supported"),
    led="hang",
)
