"""The squat: hips lowered between the heels; the trunk leans so that the load stays over the feet."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Contact, Hold, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "back", 1.0: "hang", 2.0: "chest", 3.0: "ahead"}


def support(values: Values) -> BodySupport:
    """On both feet; a bar lies on the back, all else is held."""
    contact: Contact = "back" if values["hold"] == 0 else "hand"
    return BodySupport(contact, "feet", "feet", Balance("weight", np.radians(-60), np.radians(89)))


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Thigh and shank by depth from the bottom up; the trunk's lean is solved for, a little of it in the lower back.

    Leaning back against a line from ahead, the legs tip back with the trunk, the more the straighter they are.
    """
    d = 1 - s
    thigh = np.radians(values["depth_deg"]) * d
    shank = np.radians(values["shin_deg"]) * np.sin(d * np.pi / 2)
    back = np.maximum(-free, 0.0) * 0.6 * s
    leg = leg_angles(s, thigh + back + 0.85 * free, thigh + shank, shank - back, np.radians(-8), 0.0)
    return Path(s, leg=leg, lean=free, lumbar=0.15 * free, hold=HOLDS[values["hold"]])


MOVEMENT = Movement(
    id="squat",
    name="Squat",
    parameters=(
        Parameter("depth_deg", "thigh off plumb at the bottom, degrees; 90 is level", 30, 110, 80),
        Parameter("shin_deg", "shin off plumb at the bottom, degrees", 5, 42, 36),
        Parameter(
            "hold",
            "where the load is held",
            0,
            3,
            0,
            {0.0: "bar on the back", 1.0: "dumbbells hanging", 2.0: "before the chest", 3.0: "handles ahead"},
        ),
    ),
    targets=(
        "quads",
        "glute_max",
        "adductors",
    ),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(*(Variant({"hold": h}) for h in (0.0, 1.0, 2.0))),
    title=titled(
        "Squat", hold={0.0: "bar on the back", 1.0: "dumbbells hanging", 2.0: "before the chest", 3.0: "handles ahead"}
    ),
    cues=say("Weight over the middle of the foot", "Knees follow the toes"),
    cautions=say("Brace; set pins or stand where the weight can be let go."),
    family="legs",
    stances=("standing",),
    support=support,
)
