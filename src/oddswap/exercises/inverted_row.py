"""The inverted row: the body, straight on its heels, drawn up to a bar."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import ON_PLATES_CM, blades_drawn, direction, fixed_variants, leg_angles, say, titled
from oddswap.mechanics.arm import square_to, unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import arm_along
from oddswap.mechanics.leg import HEEL
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

# The hand from the shoulder where the arms are stretched, parts of the arm's length: ahead, out and up, nearly straight arms to
# a bar over the lower chest (own estimate).
START = np.array([0.894, -0.093, -0.398])
CHEST = 0.252
"""From the line of the shoulders to the bar at the chest, part of the arm's length: who has long arms draws the elbows no
further behind (own estimate)."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The body turns about its heels while the hands stay on the bar, until the bar is at the chest.

    Seen from the body the bar runs round the heels at its distance from them; the elbow follows from both links' lengths.
    """
    w = values["width"]
    upper, fore = body.length("upper_arm"), body.to_hand
    trunk = body.height("shoulder") - body.height("hip")
    along_body = trunk + body.length("thigh") + body.length("shank") + body.height("ankle")
    blades = blades_drawn(s)
    drawn = blades * body.stature
    # From the shoulders at rest: stretched arms reach as far as the blades let them.
    heel, start = -HEEL * body.length("foot"), START * (upper + fore) + drawn[0]
    ahead, along = start[0] + heel, along_body + start[2]
    distance, first = np.hypot(ahead, along), np.arctan2(ahead, along)
    turn = first + s * (np.arcsin((CHEST * (upper + fore) + heel) / distance) - first)
    out = np.full_like(s, start[1])
    hand = np.stack([distance * np.sin(turn) - heel, out, distance * np.cos(turn) - along_body], axis=-1) - drawn
    size = np.linalg.norm(hand, axis=1)
    reach = np.clip((size**2 + upper**2 - fore**2) / (2 * size), -upper, upper)
    toward = square_to(np.broadcast_to(direction(-0.5, 0.25 + 0.9 * w, -0.8 + 0.5 * w), hand.shape), unit(hand))
    elbow = reach[:, None] * unit(hand) + np.sqrt(np.maximum(upper**2 - reach**2, 0.0))[:, None] * toward
    arm = arm_along(unit(elbow), unit(hand - elbow), np.radians(values["forearm_deg"]), direction(0.2, 0.0, 1.0))
    return Path(s, arm=arm, leg=leg_angles(s, 0.0, 0.0, 0.0), scapula=blades, lean=free)


TITLE = titled("Inverted row", width={0.0: "elbows tucked", 0.3: "elbows half wide", 0.8: "elbows wide"})


def title(v: Variant) -> str:
    """For example ``Inverted row, elbows wide, feet raised``."""
    return TITLE(v) + (", feet raised" if v.values["feet_cm"] else "")


MOVEMENT = Movement(
    id="inverted_row",
    name="Inverted row",
    parameters=(
        Parameter("bar_cm", "height of the bar, cm", 50, 130, 95),
        Parameter("feet_cm", "feet above the floor, cm", 0, 60, 0),
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
    variants=fixed_variants(Variant({}, "floor"), Variant({"feet_cm": 40.0, "bar_cm": 110.0}, "floor")),
    title=title,
    cues=say("Grip about 5 cm outside the shoulders", "Hips in line with heels and shoulders"),
    cautions=say(),
    family="back",
    stances=("floor",),
    support=lambda values: BodySupport(
        "hand",
        "heels",
        "hands and feet",
        Balance("hands", np.radians(-100), np.radians(-5)),
        rest_cm=3 + values["feet_cm"],
        hand_cm=values["bar_cm"],
    ),
    needs=lambda values: (("low_bar",), *((("bench", "box", "step"),) if values["feet_cm"] > ON_PLATES_CM else ())),
)
