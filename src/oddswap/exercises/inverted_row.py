"""The inverted row: the body, straight on its heels, drawn up to a bar."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, arm_along, leg_angles, say, titled, ways
from oddswap.mechanics.arm import square_to, unit
from oddswap.mechanics.movement import Balance, Movement, Parameter, Path, Values, Variant, Way
from oddswap.mechanics.types import Floats

# Parts of stature along the straight body: heel to shoulder, heel behind the ankle, upper arm, elbow to grip.
BODY, HEEL, UPPER, FORE = 0.818, 0.038, 0.186, 0.191
# The hand from the shoulder at the long end: nearly straight arms to a bar over the lower chest.
START = np.array([0.337, -0.035, -0.150])
CHEST = 0.095


def path(values: Values, s: Floats, free: Floats) -> Path:
    """The body turns about its heels while the hands stay on the bar, until the bar is at the chest.

    Seen from the body the bar runs round the heels at its distance from them; the elbow follows from both links' lengths.
    """
    w = values["width"]
    ahead, along = START[0] + HEEL, BODY + START[2]
    distance, first = np.hypot(ahead, along), np.arctan2(ahead, along)
    turn = first + s * (np.arcsin((CHEST + HEEL) / distance) - first)
    out = np.full_like(s, START[1])
    hand = np.stack([distance * np.sin(turn) - HEEL, out, distance * np.cos(turn) - BODY], axis=-1)
    size = np.linalg.norm(hand, axis=1)
    reach = (size**2 + UPPER**2 - FORE**2) / (2 * size)
    toward = square_to(np.broadcast_to(aim(-0.5, 0.25 + 0.9 * w, -0.8 + 0.5 * w), hand.shape), unit(hand))
    elbow = reach[:, None] * unit(hand) + np.sqrt(np.maximum(UPPER**2 - reach**2, 0.0))[:, None] * toward
    arm = arm_along(unit(elbow), unit(hand - elbow), values["forearm_deg"], pit=aim(0.2, 0.0, 1.0))
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
