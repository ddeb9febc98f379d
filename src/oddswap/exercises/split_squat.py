"""The split squat: one leg works ahead, the other steadies behind."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import ON_PLATES_CM, fixed_variants, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.leg import TOE
from oddswap.mechanics.movement import BodySupport, Contact, Hold, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

STEEP, LIFTED = 50.0, 30.0
"""The rear foot's slope on its toes, degrees, and how far the ankle can lift them: steeper where the shank lies back further
(own estimate)."""
TURNS = 40
"""Rounds in which slope of foot and place of ankle are brought together; each shrinks what is left by half or more."""
TOP_KNEE = 8.0
"""Bend of the front knee where the hips are highest, degrees."""
STRETCHED = 0.995
"""Longest rear leg, part of thigh and shank in one line (own estimate)."""
STRIDES = {0.0: 80.0, 40.0: 70.0}
"""Usual strides, cm, by the height of what the rear foot rests on, cm: a raised foot stands nearer."""
HOLDS: dict[float, Hold] = {0.0: "back", 1.0: "hang", 2.0: "chest"}


def support(values: Values) -> BodySupport:
    """What the front foot carries follows from where the weight is between the two."""
    contact: Contact = "back" if values["hold"] == 0 else "hand"
    return BodySupport(contact, "feet", "two feet")


def about_ankle(part: Floats, slope: Floats | float) -> Floats:
    """Part of the foot, (ahead, up) of the ankle, m, once the heel is raised by ``slope``, radians; given for a flat foot."""
    sin, cos = np.sin(slope), np.cos(slope)
    return np.stack([cos * part[0] + sin * part[1], cos * part[1] - sin * part[0]], axis=-1)


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The hips straight down from standing to the front leg's depth; the rear foot stays on its toes a stride behind."""
    lowest = np.radians([values["depth_deg"], values["shin_deg"]])
    upper, lower = body.length("thigh"), body.length("shank")
    # Hips behind the front ankle, m.
    back = upper * np.sin(lowest[0]) - lower * np.sin(lowest[1])
    knee = np.radians(TOP_KNEE) + (lowest.sum() - np.radians(TOP_KNEE)) * (1 - s)
    long = np.sqrt(upper**2 + lower**2 + 2 * upper * lower * np.cos(knee))
    slant = np.arcsin(np.clip(back / long, -1.0, 1.0))
    thigh = slant + np.arctan2(lower * np.sin(knee), upper + lower * np.cos(knee))
    up = long * np.cos(slant) + body.height("ankle")
    toes = np.array([TOE * body.length("foot"), -body.height("ankle")])
    raised = values["rear_cm"] / 100 - about_ankle(toes, np.radians(STEEP))[..., 1]
    # A stride that the rear leg cannot span at the top is shortened to what it can.
    spanned = back + np.sqrt(np.maximum((STRETCHED * (upper + lower)) ** 2 - (up - raised).max() ** 2, 0.0))
    stride = min(values["stride_cm"] / 100, float(spanned))
    # From the hips to the toes that stay where they are; the ankle turns about them.
    ahead = back - stride + about_ankle(toes, np.radians(STEEP))[..., 0]
    rests = np.stack([ahead + 0 * s, values["rear_cm"] / 100 - up], axis=-1)
    steep = np.full_like(s, np.radians(STEEP))
    for _ in range(TURNS):
        rear = rests - about_ankle(toes, steep)
        reach = np.minimum(np.linalg.norm(rear, axis=-1), STRETCHED * (upper + lower))
        bend = np.pi - np.arccos((upper**2 + lower**2 - reach**2) / (2 * upper * lower))
        other = np.arctan2(rear[:, 0], -rear[:, 1]) + np.arctan2(lower * np.sin(bend), upper + lower * np.cos(bend))
        # Half of each step: in a deep bend a whole one would overshoot and swing for ever.
        steep = 0.5 * (steep + np.maximum(np.radians(STEEP), bend - other - np.radians(LIFTED)))
    lean = np.radians(values["lean_deg"]) * np.ones_like(s)
    leg = leg_angles(s, thigh + lean, knee, knee - thigh, np.radians(-2))
    behind = leg_angles(s, other + lean, bend, bend - other - steep)
    return Path(s, leg=leg, other_leg=behind, lean=lean, hold=HOLDS[values["hold"]])


MOVEMENT = Movement(
    id="split_squat",
    name="Split squat",
    parameters=(
        Parameter("depth_deg", "front thigh off plumb at the bottom, degrees", 40, 100, 85),
        Parameter("shin_deg", "front shin off plumb at the bottom, degrees", -5, 35, 15),
        Parameter("stride_cm", "rear foot behind the front, cm", 50, 110, 80),
        Parameter("rear_cm", "rear foot above the floor, cm", 0, 50, 0),
        Parameter("lean_deg", "trunk forward, degrees", 0, 50, 12),
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
    variants=fixed_variants(
        *(Variant({"hold": h, "rear_cm": r, "stride_cm": STRIDES[r]}) for h in (0.0, 1.0) for r in STRIDES)
    ),
    title=titled(
        "Split squat",
        hold={0.0: "bar on the back", 1.0: "dumbbells hanging", 2.0: "before the chest"},
        rear_cm={0.0: "", 20.0: "rear foot raised"},
    ),
    cues=say("Most of the weight on the front foot", "Rear knee straight down"),
    cautions=say("Weaker side first."),
    family="legs",
    stances=("standing",),
    support=support,
    needs=lambda values: (("bench", "box"),) if values["rear_cm"] > ON_PLATES_CM else (),
)
