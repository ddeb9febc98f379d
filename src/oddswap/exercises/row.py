"""The row: the hand drawn from straight ahead of the chest to the ribs or hip."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import GRIP, blades_drawn, direction, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Arm from reaching ahead to elbow behind the ribs (tucked) or out level with the shoulder (wide)."""
    w = values["width"]
    end = direction(-0.36 + 0.02 * w, 0.18 + 0.80 * w, -0.90 + 0.66 * w)
    arm = limbs(
        s,
        [direction(1.0, 0.10, -0.12), end],
        [direction(1.0, 0.0, -0.10), direction(1.0, 0.0, -0.12 + 0.10 * w)],
        values["forearm_deg"],
        antecubital=direction(0.2, 0.0, 1.0),
    )
    return Path(s, arm=arm, scapula=blades_drawn(s))


MOVEMENT = Movement(
    id="row",
    name="Row",
    parameters=(
        Parameter("width", "elbows from tucked (0) to wide (1)", 0, 1, 0.2, on_machine="free"),
        GRIP,
        Parameter(
            "forearm_deg",
            "forearm rotation, degrees: -80 palm up, 0 thumb up, 70 palm down",
            -90,
            85,
            0,
            kept=True,
            on_machine="free",
        ),
    ),
    targets=(
        "lats",
        "rear_delt",
        "teres_major",
        "middle_traps",
        "rhomboids",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=lambda notches, pads: [
        Variant({"width": w, "forearm_deg": turned}, st, r)
        for w, turned in ((0.0, 0.0), (0.5, 60.0), (1.0, 60.0))  # wide elbows turn the palms down, as a bar does
        for st, r in [
            ("bent_over", 20.0),
            ("standing", 90.0),
            ("sitting", 90.0),
            *(("bench", 85.0) for n in list(notches)[-1:] if n >= 80),
            *(("chest_supported", n) for n in notches if 20 <= n <= 45),
        ]
    ],
    title=titled("Row", width={0.0: "elbows tucked", 0.3: "elbows half wide", 0.8: "elbows wide"}),
    cues=say("Blades move: reach, then draw them together", "Tripod of two feet and a hand, or chest on a pad"),
    cautions=say("Brace; no swing from the lower back."),
    family="back",
    stances=(
        "bench",
        "bent_over",
        "chest_supported",
        "standing",
        "kneeling",
        "sitting",
        "half_kneeling",
        "holding_on",
        "chest_rested",
    ),
    led="pull",
)
