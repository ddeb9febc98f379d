"""The hack squat: the back on a pad that slides along rails, the feet on a plate ahead of it."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, legs_along, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

AHEAD = 0.18
"""How far the soles are ahead of the hips' way, part of stature (own estimate)."""
PLATE_CM = 25
"""Height of the foot plate (own estimate)."""
RAIL = 60.0
"""The usual rails to the floor, degrees; common practice, no source."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The hips go straight along the rails, from deep to nearly straight knees; the plate lies square to the rails."""
    hip, knee = legs_along(body, s, np.radians(values["depth_deg"]), AHEAD * body.stature)
    leg = leg_angles(s, hip, knee, knee - hip, np.radians(-6))
    return Path(s, leg=leg, lean=np.radians(values["back_deg"] - 90.0), hold="chest")


MOVEMENT = Movement(
    id="hack_squat",
    name="Hack squat",
    parameters=(
        Parameter("depth_deg", "hip bent at the bottom, degrees", 60, 118, 100),
        Parameter("back_deg", "back pad to the floor, degrees", 45, 80, RAIL),
    ),
    targets=("quads", "glute_max", "adductors"),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Hack squat"),
    cues=say("Back and hips stay on the pad", "Knees follow the toes"),
    cautions=say("Set the stops; never lock the knees under load."),
    family="legs",
    stances=("standing",),
    support=always(BodySupport("back", "feet", "pad and feet", rest_cm=PLATE_CM)),
    loaded=True,
    machine_only=True,
)
