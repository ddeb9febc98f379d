"""The leg raise: legs lifted by hips and abs, hanging from a bar or lying on the floor."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.arm import unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import arm_along
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

LOW, BENT_KNEE = {0.0: -4.0, 1.0: 6.0}, {0.0: (4.0, 8.0), 1.0: (10.0, 95.0)}
"""Thigh before the line of the pelvis at the bottom, hanging and lying, and bends of the knee at both ends, straight and bent,
degrees."""
OUT = np.array([0.0, -0.08, 0.0])
"""How far elbows of hanging arms stand out, part of the arm: the body hangs freely between them."""
AHEAD = np.radians(9.0)
"""Least angle of a raised arm before the line of the trunk: shoulders go no further back."""
BAR_CM = 225.0
"""Height of the bar, cm."""
TOES_LOW = 0.08
"""How far the toes of a hanging foot are below its standing sole, m, with room to the floor (own estimate)."""
LIES_ON = 0.4
"""Part of the curl that a pelvis on the floor can make: its back stays down (own estimate)."""


def support(values: Values) -> BodySupport:
    """Hanging under the hands, or lying with the lower back pressed to the floor."""
    if values["lying"]:
        return BodySupport("foot", "hips", "lower back")
    return BodySupport("foot", "hands", "hands", Balance("weight", np.radians(-60), np.radians(60)), rest_cm=BAR_CM)


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Hips bend first; the pelvis curls toward the ribs on the way."""
    lies = values["lying"] > 0
    curl = np.radians(values["curl_deg"]) * (LIES_ON if lies else 1.0) * s**1.3
    low = LOW[values["lying"]] if lies else max(LOW[0.0], _clears_floor(body))
    knee = ramp(s, *BENT_KNEE[values["knees"]])
    leg = leg_angles(s, ramp(s, low, values["to_deg"]), knee, np.radians(-10))
    if lies:
        return Path(s, leg=leg, lumbar=curl, hold="hips")
    # The arms hang plumb from the bar whatever the trunk does, hands over the shoulders.
    ahead = np.maximum(-free, AHEAD)
    up = np.stack([np.sin(ahead), np.zeros_like(s), np.cos(ahead)], axis=-1)
    arm = arm_along(unit(up + OUT), unit(up - OUT), np.radians(65.0), direction(1.0, 0.0, 0.4))
    return Path(s, arm=arm, leg=leg, lean=free, lumbar=curl)


def _clears_floor(body: Body) -> float:
    """Least bend of the hips, degrees, at which the straight legs of somebody who hangs from the bar are off the floor."""
    arm = body.length("upper_arm") + body.to_hand
    left = BAR_CM / 100 - arm - (body.height("shoulder") - body.height("hip")) - body.height("ankle") - TOES_LOW
    return float(np.degrees(np.arccos(np.clip(left / (body.length("thigh") + body.length("shank")), -1.0, 1.0))))


MOVEMENT = Movement(
    id="leg_raise",
    name="Leg raise",
    parameters=(
        Parameter("lying", "where the body is", 0, 1, 0, {0.0: "hanging", 1.0: "lying"}),
        Parameter("knees", "how the knees are", 0, 1, 0, {0.0: "knees straight", 1.0: "knees bent"}),
        Parameter("to_deg", "hips bent at the top, degrees", 60, 120, 90),
        Parameter("curl_deg", "how far the pelvis curls up to the ribs, degrees", 0, 45, 30),
    ),
    targets=(
        "abs",
        "hip_flexors",
        "obliques",
        "rectus_femoris",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(
        Variant({}, "hanging"),
        Variant({"knees": 1.0}, "hanging"),
        Variant({"lying": 1.0}, "lying"),
        Variant({"lying": 1.0, "knees": 1.0}, "lying"),
    ),
    title=titled("Leg raise", lying={0.0: "hanging", 1.0: "lying"}, knees={0.0: "", 1.0: "knees bent"}),
    cues=say("Curl the pelvis up, not the legs alone", "No swing: pause at the bottom"),
    cautions=say("Lower back: bend the knees, or stop higher, where it arches at the bottom."),
    family="trunk",
    stances=("hanging", "lying"),
    support=support,
    needs=lambda values: () if values["lying"] else (("pull_up_bar",),),
)
