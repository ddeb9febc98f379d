"""The step-up: one leg lifts the body onto a box, the other only hangs."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import ON_PLATES_CM, fixed_variants, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Hold, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "back", 1.0: "hang", 2.0: "chest"}
STRETCHED, TIPTOE, TOP_KNEE = 0.985, 0.04, np.radians(6.0)
"""The rear leg at the bottom, part of its length, the height its foot adds on its toes, part of stature, and the bend of the
working knee at the top."""
CLEARS = np.radians(70.0)
"""How far the idle knee bends on the way so that its foot passes the edge of the box (own estimate)."""


def support(values: Values) -> BodySupport:
    """On the box with one foot; the trunk leans until the weight is over it."""
    contact = "back" if values["hold"] == 0 else "hand"
    law = Balance("weight", np.radians(-30), np.radians(89))
    return BodySupport(contact, "feet", "feet", law, rest_cm=values["box_cm"], one_foot=True)  # type: ignore[arg-type]


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The hips from where the other foot stands on the floor up over the box, straight, the working leg following."""
    thigh, shank = body.length("thigh"), body.length("shank")
    shin = np.radians(values["shin_deg"])
    # Hips as seen from the working ankle, m: behind and above.
    low = STRETCHED * (thigh + shank) + TIPTOE * body.stature - values["box_cm"] / 100
    bent = np.arccos(np.clip((low - shank * np.cos(shin)) / thigh, np.cos(np.radians(115.0)), 1.0))
    first = np.array([thigh * np.sin(bent) - shank * np.sin(shin), thigh * np.cos(bent) + shank * np.cos(shin)])
    high = np.sqrt(thigh**2 + shank**2 + 2 * thigh * shank * np.cos(TOP_KNEE))
    back, up = ((1 - s) * a + s * b for a, b in zip(first, (0.0, high), strict=True))
    reach = np.hypot(back, up)
    knee = np.pi - np.arccos(np.clip((thigh**2 + shank**2 - reach**2) / (2 * thigh * shank), -1.0, 1.0))
    upper = np.arctan2(back, up) + np.arctan2(shank * np.sin(knee), thigh + shank * np.cos(knee))
    hang = CLEARS * np.sin(np.pi * s)
    leg = leg_angles(s, upper + 0.9 * free, knee, knee - upper, np.radians(-2))
    idle = leg_angles(s, 0.15 * hang + 0.9 * free, np.radians(10.0) + hang, np.radians(-35.0))
    return Path(s, leg=leg, other_leg=idle, lean=free, lumbar=0.1 * free, hold=HOLDS[values["hold"]])


MOVEMENT = Movement(
    id="step_up",
    name="Step-up",
    parameters=(
        Parameter("box_cm", "height of the box, cm", 15, 50, 30),
        Parameter("shin_deg", "working shin off plumb at the bottom, degrees", 15, 40, 36),
        Parameter(
            "hold",
            "where the load is held",
            0,
            2,
            1,
            {0.0: "bar on the back", 1.0: "dumbbells hanging", 2.0: "before the chest"},
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
    variants=fixed_variants(*(Variant({"hold": h}) for h in (0.0, 1.0))),
    title=titled("Step-up", hold={0.0: "bar on the back", 1.0: "dumbbells hanging", 2.0: "before the chest"}),
    cues=say("Whole foot on the box, lean in over it", "No push from the foot on the floor; lower it slowly"),
    cautions=say("Weaker side first. The box must stand fast and bear client and load."),
    family="legs",
    stances=("standing",),
    support=support,
    needs=lambda values: (("bench", "box", "step"),) if values["box_cm"] > ON_PLATES_CM else (),
)
