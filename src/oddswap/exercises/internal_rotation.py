"""Internal rotation of the upper arm: the bent forearm swung inward."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, ramp, say, titled
from oddswap.mechanics.arm import ArmPath, antecubital_at
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm still at the side or raised to level, elbow at a right angle; only the twist changes."""
    raised = np.radians(values["raised_deg"])
    upper = direction(0.22, np.sin(raised) + 0.16, -np.cos(raised))
    u = np.broadcast_to(upper, (*s.shape, 3))
    turn = ramp(s, -45, 55)
    return Path(s, arm=ArmPath(u, antecubital_at(u, turn), np.full_like(s, np.pi / 2), np.full_like(s, 0.0)))


MOVEMENT = Movement(
    id="internal_rotation",
    name="Internal rotation",
    parameters=(Parameter("raised_deg", "upper arm from the side (0) to level (90), degrees", 0, 90, 0),),
    targets=("chest", "internal_rotators", "lats"),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 2]),
    reading_words="turned in {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Internal rotation"),
    cues=say("Elbow at a right angle and still", "Light and slow"),
    cautions=say("Stay off the locked end of rotation with the arm raised."),
    family="shoulders",
    stances=("standing", "bench", "chest_supported", "half_kneeling"),
)
