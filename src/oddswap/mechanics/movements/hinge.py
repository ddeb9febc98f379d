"""The hinge: hips sent back with soft knees and a long spine."""

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
    always,
    leg_angles,
    say,
    titled,
    ways,
)
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Trunk from bent over to upright, knees soft; how far the hips go back is solved for."""
    d = 1 - s
    lean = np.radians(values["depth_deg"]) * d
    knee = np.radians(12 + 14 * d)
    leg = leg_angles(s, free + lean, knee, knee - free, np.radians(-4))
    return Path(s, leg=leg, lean=lean, hold="close")


MOVEMENT = Movement(
    id="hinge",
    name="Hinge",
    parameters=(Parameter("depth_deg", "trunk off upright at the bottom, degrees", 40, 90, 75),),
    targets=(
        "hamstrings",
        "glute_max",
        "adductors",
        "erectors",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=ways(Variant({})),
    title=titled("Hinge"),
    cues=say("Hips back, weight over the middle of the foot", "Long spine, bar close"),
    cautions=say("Lower back: brace, ribs down; stop where the spine would round."),
    family="legs",
    stances=("standing",),
    way=always(Way("hand", "feet", "feet", Balance("weight", np.radians(-25), np.radians(70)))),
)
