"""The straight-arm pulldown: the nearly straight arm from overhead to the thigh."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, ramp, say, through, titled
from oddswap.mechanics.arm import ArmPath, antecubital_at
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Swept down in front, trunk leaning a little."""
    u = through(s, [direction(0.55, 0.06, 0.95), direction(1.0, 0.06, -0.15), direction(0.10, 0.06, -1.0)])
    bend, none = np.full_like(s, np.radians(values["elbow_deg"])), np.zeros_like(s)
    arm = ArmPath(u, antecubital_at(u, ramp(s, 20, 10)), bend, none)
    return Path(s, arm=arm, lean=np.radians(20.0))


MOVEMENT = Movement(
    id="straight_arm_pulldown",
    name="Straight-arm pulldown",
    parameters=(Parameter("elbow_deg", "fixed bend of the elbow, degrees", 0, 60, 15),),
    targets=(
        "lats",
        "teres_major",
        "triceps_long",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Straight-arm pulldown"),
    cues=say("Hips back, long spine", "Hands to the thighs, blades down"),
    cautions=say(),
    family="back",
    stances=("standing", "kneeling", "holding_on"),
)
