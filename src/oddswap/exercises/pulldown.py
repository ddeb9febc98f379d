"""The pulldown: hands drawn from overhead to the upper chest or to the sides."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import GRIP, direction, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Arm from reaching up to elbow at the side (tucked) or out below the shoulder (wide), forearm along the pull."""
    w = values["width"]
    top = direction(0.30, 0.16 + 0.30 * w, 1.0)
    bottom = direction(-0.10 * w, 0.45 + 0.40 * w, -0.80 + 0.15 * w)
    fore = [direction(0.22, 0.06, 1.0), direction(0.50 - 0.28 * w, 0.10, 1.0)]
    arm = limbs(s, [top, bottom], fore, values["forearm_deg"], antecubital=direction(1.0, 0.0, 0.4))
    return Path(s, arm=arm, lean=np.radians(-values["lean_deg"]))


MOVEMENT = Movement(
    id="pulldown",
    name="Pulldown",
    parameters=(
        Parameter("width", "elbows from tucked (0) to wide (1)", 0, 1, 0.3, on_machine="free"),
        GRIP,
        Parameter("lean_deg", "how far the trunk leans back, degrees", -10, 45, 12),
        Parameter(
            "forearm_deg", "forearm rotation, degrees: -80 palm to the face, 0 thumb back, 70 palm away", -90, 85, 60, kept=True
        ),
    ),
    targets=(
        "lats",
        "teres_major",
        "biceps",
        "brachialis",
        "rear_delt",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=lambda notches, pads: (
        [Variant({"width": w}, st) for w in (0.0, 0.5, 1.0) for st in ("kneeling", "sitting")]
        + [Variant({"width": w}, "bench", 85.0) for w in (0.0, 0.5, 1.0) if any(n >= 80 for n in notches)]
    ),
    title=titled("Pulldown", width={0.0: "elbows tucked", 0.3: "elbows half wide", 0.8: "elbows wide"}),
    cues=say("Forearm and cable stay one straight line", "Reach up at the top, elbows down to the sides"),
    cautions=say("Hook grips annoy some elbows: hold lightly, or use straps."),
    family="back",
    stances=("bench", "kneeling", "standing", "sitting", "half_kneeling"),
    led="pull",
)
