"""The push-up: the body lifted between hands and feet, or hands and knees."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oddswap.exercises.authoring import GRIP, ON_PLATES_CM, direction, fixed_variants, leg_angles, press_arm, say
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import hands_stay
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

CLOSE_CM = 45
"""Hands no farther apart than this are called close; common practice."""


def support(values: Values) -> BodySupport:
    """On hands and feet, or hands and knees; how far the trunk tips follows from the hands' height."""
    balance = Balance("hands", np.radians(-75), np.radians(45))
    if values["knees"]:
        return BodySupport(
            "hand", "knees", "hands and knees", balance, rest_cm=4 + values["feet_cm"], hand_cm=4 + values["hands_cm"]
        )
    return BodySupport("hand", "toes", "hands and feet", balance, rest_cm=values["feet_cm"], hand_cm=4 + values["hands_cm"])


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Straight from toes or knees to shoulders; the hands under the chest, or square to it where they are raised."""
    lean = np.pi / 2 - 0.25 + free
    plumb = 0.0 if values["hands_cm"] > 5 else np.degrees(lean) - 90
    arm = press_arm(s, values["angle_deg"] + plumb, values["flare_deg"], values["depth_deg"])
    if values["hands_cm"] <= ON_PLATES_CM:
        arm = hands_stay(arm, body, direction(1.0, 0.0, 0.0), values["grip_cm"] / 100)
    knee = np.radians(85.0) if values["knees"] else 0.0
    return Path(s, arm=arm, leg=leg_angles(s, 0.0, knee, 0.0), lean=lean)


def title(v: Variant) -> str:
    """For example ``Push-up, hands close, feet raised``."""
    values = v.values
    close_on_floor = 0 < values["grip_cm"] <= CLOSE_CM and values["hands_cm"] <= ON_PLATES_CM
    hands = (", hands close" if close_on_floor else "") + (", hands raised" if values["hands_cm"] else "")
    return f"Push-up{hands}{', from the knees' if values['knees'] else ', feet raised' if values['feet_cm'] else ''}"


def close(**values: float) -> Variant:
    """With the hands no wider than the shoulders and the elbows kept in."""
    return Variant({"grip_cm": 35.0, "flare_deg": 45.0, **values}, "floor")


MOVEMENT = Movement(
    id="push_up",
    name="Push-up",
    parameters=(
        Parameter("hands_cm", "hands above the floor, cm", 0, 90, 0),
        Parameter("feet_cm", "feet above the floor, cm", 0, 70, 0),
        Parameter("knees", "from the feet or the knees", 0, 1, 0, {0.0: "from the feet", 1.0: "from the knees"}),
        Parameter("flare_deg", "elbow from tucked (0) to wide (90), degrees", 15, 85, 50),
        Parameter("depth_deg", "how far the elbow goes below the shoulder line, degrees", 0, 45, 30),
        replace(GRIP, name="hands apart on the floor, cm; 0 under the elbows", high=90),
        Parameter("angle_deg", "hands below (-) or above (+) the shoulders, degrees", -25, 25, 5),
    ),
    targets=(
        "chest",
        "upper_chest",
        "front_delt",
        "triceps_short",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(
        Variant({}, "floor"),
        Variant({"feet_cm": 40.0}, "floor"),
        Variant({"hands_cm": 45.0}, "floor"),
        Variant({"knees": 1.0}, "floor"),
        close(),
        close(feet_cm=40.0),
        close(knees=1.0),
    ),
    title=title,
    cues=say("One line from heels to head", "Hands under the chest, forearms plumb"),
    cautions=say(),
    family="chest",
    stances=("floor",),
    support=support,
    needs=lambda values: (
        (("bench", "box", "step"),) if values["hands_cm"] > ON_PLATES_CM or values["feet_cm"] > ON_PLATES_CM else ()
    ),
)
