"""The raise: the nearly straight arm lifted to level in a plane between the side and the front."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from oddswap.exercises.authoring import CARRIED, ramp
from oddswap.mechanics.arm import ArmPath, antecubital_at, slerp, unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

# Common practice: a soft, fixed elbow bend of about ten degrees.
SOFT_ELBOW = np.radians(10)
BESIDE, BEFORE, BEHIND = 0.0, 1.0, 2.0
STARTS = {BESIDE: "hand beside the thigh", BEFORE: "hand across in front", BEHIND: "hand behind the hip"}
# Where the upper arm points at the lengthened end, torso frame.
START_DIRECTION = {
    BESIDE: unit(np.array([0.0, -0.13, -1.0])),
    BEFORE: unit(np.array([0.36, 0.21, -1.0])),
    BEHIND: unit(np.array([-0.36, -0.11, -1.0])),
}
TOP = np.radians(92)


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Great circle from the start side to level in the plane."""
    plane = np.radians(values["plane_deg"])
    start = START_DIRECTION[values["start"]]
    if values["start"] == BESIDE:
        # Beside the thigh, as far toward the plane of the raise as the thigh leaves room.
        start = unit(np.array([0.02 * np.sin(plane), -0.13 - 0.03 * np.sin(plane), -1.0]))
    # Raised to the front, hands stay apart by a dumbbell each.
    aside = np.cos(plane) + 0.12 * max(float(np.sin(plane)), 0.0)
    end = unit(np.array([np.sin(plane) * np.sin(TOP), -aside * np.sin(TOP), -np.cos(TOP)]))
    u = slerp(start, end, s)
    # A little inward turn keeps the knuckles up, more of it the further the plane comes forward.
    rotation = np.radians(10 + 40 * values["plane_deg"] / 90) * s
    bend = np.full_like(s, SOFT_ELBOW)
    return Path(s, arm=ArmPath(u, antecubital_at(u, rotation), bend, ramp(s, 0, 30)))


def variants(notches: Iterable[float], pads: Iterable[float]) -> Iterator[Variant]:
    """Standing from each start in three planes; seated upright from beside."""
    for plane in (0.0, 30.0, 90.0):
        for start in STARTS:
            if plane > 60 and start == BEHIND:
                continue  # the thigh is in the way
            yield Variant({"plane_deg": plane, "start": start})
        for notch in notches:
            if notch >= 80:
                yield Variant({"plane_deg": plane, "start": BESIDE}, "bench", notch)


def title(v: Variant) -> str:
    """For example ``Lateral raise, hand across in front``."""
    plane = v.values["plane_deg"]
    name = "Front raise" if plane > 60 else "Lateral raise" if plane < 15 else f"Raise {plane:.0f}° ahead of the side"
    seated = ", seated" if v.stance == "bench" else ""
    start = "" if v.values["start"] == BESIDE else f", {STARTS[v.values['start']]}"
    carried = f", {CARRIED[v.stance]}" if v.stance in CARRIED else ""
    return f"{name}{seated}{start}{carried}"


def cues(v: Variant) -> list[str]:
    """What to look at."""
    out = ["Soft elbow, the same bend all the way", "Stop with the arm level; shoulder stays down"]
    if v.values["start"] != BESIDE:
        out.append(f"Start with the {STARTS[v.values['start']]}")
    return out


def cautions(v: Variant) -> list[str]:
    """Shoulder behind the body, swinging."""
    out = []
    if v.values["start"] == BEHIND:
        out.append("Arm behind the body: in line or slightly behind is enough.")
    if v.stance == "standing":
        out.append("No swing from the hips: momentum hides the load and the lower back pays.")
    return out


MOVEMENT = Movement(
    id="lateral_raise",
    name="Raise",
    parameters=(
        Parameter("plane_deg", "plane of the raise, degrees: 0 to the side, 90 to the front, under 0 behind it", -30, 90, 0),
        Parameter("start", "where the hand starts", 0, 2, BESIDE, STARTS),
    ),
    targets=("side_delt", "front_delt"),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=variants,
    title=title,
    cues=cues,
    cautions=cautions,
    stances=("standing", "bench", "bent_over", "kneeling", "half_kneeling", "holding_on", "back_rested", "chest_rested"),
    family="shoulders",
)
