"""The split squat: one leg works ahead, the other steadies behind."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.movements.base import (
    Contact,
    Hold,
    Movement,
    Parameter,
    Path,
    Values,
    Variant,
    Way,
    leg_angles,
    say,
    titled,
    ways,
)
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "back", 1.0: "hang", 2.0: "chest"}


def way(values: Values) -> Way:
    """What the front foot carries follows from where the weight is between the two."""
    contact: Contact = "back" if values["hold"] == 0 else "hand"
    return Way(contact, "feet", "two feet")


def path(values: Values, s: Floats, free: Floats) -> Path:
    """The front leg by depth; the rear foot stays on its toes a stride behind."""
    d = 1 - s
    thigh, shank = np.radians(8 + (values["depth_deg"] - 8) * d), np.radians(4 + (values["shin_deg"] - 4) * d)
    # Hips from the front ankle, parts of stature; thigh and shank are nearly as long as each other.
    back, up = 0.245 * np.sin(thigh) - 0.246 * np.sin(shank), 0.245 * np.cos(thigh) + 0.246 * np.cos(shank) + 0.039
    rear = np.stack([back - values["stride_cm"] / 175, values["rear_cm"] / 175 + 0.105 - up], axis=-1)
    reach = np.minimum(np.linalg.norm(rear, axis=-1), 0.488)
    bend = np.pi - np.arccos((2 * 0.2455**2 - reach**2) / (2 * 0.2455**2))
    other = np.arctan2(rear[:, 0], -rear[:, 1]) + bend / 2
    lean = np.radians(values["lean_deg"]) * np.ones_like(s)
    leg = leg_angles(s, thigh + lean, thigh + shank, shank, np.radians(-2))
    return Path(s, leg=leg, other_leg=leg_angles(s, other + lean, bend, np.radians(15)), lean=lean, hold=HOLDS[values["hold"]])


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
            "hold", "where the load is held", 0, 2, 1, {0.0: "bar on the back", 1.0: "bells hanging", 2.0: "before the chest"}
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
    variants=ways(*(Variant({"hold": h, "rear_cm": r}) for h in (0.0, 1.0) for r in (0.0, 40.0))),
    title=titled(
        "Split squat",
        hold={0.0: "bar on the back", 1.0: "bells hanging", 2.0: "before the chest"},
        rear_cm={0.0: "", 20.0: "rear foot raised"},
    ),
    cues=say("Most of the weight on the front foot", "Rear knee straight down"),
    cautions=say("Weaker side first."),
    family="legs",
    stances=("standing",),
    way=way,
)
