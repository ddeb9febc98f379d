"""The pull-up: the body drawn up to a bar."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, leg_angles, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """As the pulldown, but the hands stay and the body comes; it hangs where its weight is under the hands."""
    w = values["width"]
    upper = [direction(0.28, 0.20 + 0.30 * w, 1.0), direction(0.03 * w, 0.45 + 0.40 * w, -0.80 + 0.15 * w)]
    fore = [direction(0.20, 0.06, 1.0), direction(0.50 - 0.16 * w, 0.10, 1.0)]
    arm = limbs(s, upper, fore, values["forearm_deg"], antecubital=direction(1.0, 0.0, 0.4))
    return Path(s, arm=arm, leg=leg_angles(s, 0.05, np.radians(75.0), np.radians(-25.0)), lean=free)


MOVEMENT = Movement(
    id="pull_up",
    name="Pull-up",
    parameters=(
        Parameter("width", "elbows from tucked (0) to wide (1)", 0, 1, 0.5),
        Parameter("forearm_deg", "forearm rotation, degrees: -80 palm to the face, 70 palm away", -90, 85, 65, kept=True),
    ),
    targets=(
        "lats",
        "teres_major",
        "biceps",
        "brachialis",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=fixed_variants(Variant({"width": 0.0}, "hanging"), Variant({}, "hanging"), Variant({"width": 1.0}, "hanging")),
    title=titled("Pull-up", width={0.0: "elbows tucked", 0.3: "elbows half wide", 0.8: "elbows wide"}),
    cues=say("Grip about one and a half shoulder widths", "Hang long, then elbows to the sides"),
    cautions=say("Step down to a foothold rather than drop."),
    family="back",
    stances=("hanging",),
    support=always(BodySupport("hand", "hands", "hands", Balance("weight", np.radians(-60), np.radians(50)), rest_cm=225)),
    needs=lambda values: (("pull_up_bar",),),
)
