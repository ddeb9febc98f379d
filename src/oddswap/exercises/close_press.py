"""The triceps press to the forehead: half press, half elbow extension."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, limbs, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbows ahead of the chest, forearms folding back toward the forehead."""
    arm = limbs(
        s,
        [direction(0.72, 0.22, -0.50), direction(0.98, 0.16, 0.05)],
        [direction(0.25, 0.05, 0.97), direction(0.99, 0.06, 0.12)],
        70.0,
        antecubital=direction(0.2, 0.0, 1.0),
    )
    return Path(s, arm=arm)


MOVEMENT = Movement(
    id="close_press",
    name="Triceps press to the forehead",
    parameters=(),
    targets=(
        "triceps_short",
        "triceps_long",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=lambda notches, pads: [Variant({}, "bench", n) for n in notches if n <= 30],
    title=titled("Triceps press to the forehead"),
    cues=say("Hands about shoulder-wide, elbows in", "Lower toward the line of the forehead"),
    cautions=say("Deep elbow bends only after build-up: elbow tendons."),
    family="arms",
    stances=("bench",),
)
