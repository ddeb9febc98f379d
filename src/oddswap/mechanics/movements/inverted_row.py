"""The inverted row: the body, straight on its heels, drawn up to a bar."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.movements.base import (
    Balance,
    Movement,
    Parameter,
    Path,
    Values,
    Variant,
    Way,
    aim,
    leg_angles,
    limbs,
    say,
    titled,
    ways,
)
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Arm from reaching ahead to elbow behind the ribs (tucked) or out level with the shoulder (wide)."""
    w = values["width"]
    end = aim(-0.36 + 0.02 * w, 0.18 + 0.80 * w, -0.90 + 0.66 * w)
    arm = limbs(s, [aim(1.0, 0.10, -0.40), end], [aim(1.0, 0.0, -0.38), aim(1.0, 0.0, -0.12 + 0.10 * w)], values["forearm_deg"],
                pit=aim(0.2, 0.0, 1.0))  # fmt: skip
    return Path(s, arm=arm, leg=leg_angles(s, 0.0, 0.0, 0.0), lean=free)


MOVEMENT = Movement(
    id="inverted_row",
    name="Inverted row",
    parameters=(
        Parameter("bar_cm", "height of the bar, cm", 50, 130, 95),
        Parameter("width", "elbows from tucked (0) to wide (1)", 0, 1, 0.5),
        Parameter("forearm_deg", "forearm rotation, degrees", -90, 85, 65, kept=True),
    ),
    targets=(
        "lats",
        "rear_delt",
        "middle_traps",
        "rhomboids",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=ways(Variant({}, "floor")),
    title=titled("Inverted row", width={0.0: "elbows tucked", 0.3: "elbows half wide", 0.8: "elbows wide"}),
    cues=say("Grip about 5 cm outside the shoulders", "Hips in line with heels and shoulders"),
    cautions=say(),
    family="back",
    stances=("floor",),
    way=lambda values: Way(
        "hand",
        "heels",
        "hands and feet",
        Balance("hands", np.radians(-100), np.radians(-5)),
        rest_cm=3,
        hand_cm=values["bar_cm"],
    ),
)
