"""The curl: elbow flexion with the upper arm held behind, beside or before the torso."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from oddswap.exercises.authoring import stood
from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

SUPINATED, NEUTRAL, PRONATED = -80.0, 0.0, 70.0
STRAIGHT, BENT = np.radians(4), np.radians(135)
BEFORE = 12.0
"""Upper arm before the ribs, degrees, where a bar clears the thighs."""
FACING_DOWN = {"chest_supported": "Chest-supported", "bent_over": "Bent-over"}
"""Stances in which the trunk leans over the arm, in words."""
# Arms hang some degrees away from the side, so that elbow and dumbbell clear ribs, rest and thigh.
OUTWARD = np.radians(10)
# Behind the body they hang beside the hips, and farther out.
BEHIND_OUTWARD = np.radians(8)


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbow from nearly straight to bent; the upper arm is still, or drifts forward by as much as is chosen."""
    angle = np.radians(values["arm_angle_deg"] + values["drift_deg"] * s)
    behind, aside = np.maximum(np.sin(-angle), 0.0), np.radians(values["out_deg"])
    out = np.maximum(OUTWARD + BEHIND_OUTWARD * behind, aside)
    u = np.stack([np.sin(angle) * np.cos(out), -np.sin(out), -np.cos(angle) * np.cos(out)], axis=-1)
    # The farther out the arm, the more its crook faces up, so that the hand comes to the head.
    antecubital = np.stack([np.cos(angle) * np.cos(aside), -0.36 * behind, np.sin(angle) + np.sin(aside)], axis=-1)
    rotation = np.full_like(s, np.radians(values["forearm_deg"]))
    return Path(s, arm=ArmPath(u, antecubital, STRAIGHT + s * (BENT - STRAIGHT), rotation))


def variants(notches: Iterable[float], pads: Iterable[float]) -> Iterator[Variant]:
    """Standing beside and slightly behind; hanging from a reclined bench or over its edge, or bent over; on an arm pad."""
    for forearm in (SUPINATED, NEUTRAL, PRONATED):
        for angle in (-15.0, 0.0, BEFORE):
            yield Variant({"arm_angle_deg": angle, "forearm_deg": forearm})
        for notch in notches:
            if 40 <= notch <= 90:
                yield Variant({"arm_angle_deg": notch - 90, "forearm_deg": forearm}, "bench", notch)
        if any(notch <= 10 for notch in notches):
            yield Variant({"arm_angle_deg": 90.0, "forearm_deg": forearm}, "bench", 0.0)
        if forearm == SUPINATED:
            # Over the arm, which hangs plumb.
            yield Variant({"arm_angle_deg": 50.0, "forearm_deg": forearm}, "bent_over", 40.0)
            for notch in notches:
                if 40 <= notch <= 50:
                    yield Variant({"arm_angle_deg": 90.0 - notch, "forearm_deg": forearm}, "chest_supported", notch)
            yield Variant({"out_deg": 90.0, "arm_angle_deg": 0.0, "forearm_deg": forearm})
        for angle in pads:
            yield Variant({"arm_angle_deg": angle, "forearm_deg": forearm}, pad=True)


def title(v: Variant) -> str:
    """For example ``45° incline curl``."""
    grips = {SUPINATED: "curl", NEUTRAL: "hammer curl", PRONATED: "reverse curl"}
    grip = grips[min(grips, key=lambda turned: abs(turned - v.values["forearm_deg"]))]
    if v.pad:
        return f"Preacher {grip}"
    if v.values["arm_angle_deg"] > 120:
        return f"Behind-the-head {grip}"
    if v.stance == "bench" and v.recline_deg < 10:
        return f"Lying {grip}"
    if v.stance == "bench":
        return f"{v.recline_deg:.0f}° incline {grip}" if v.recline_deg < 85 else f"Seated {grip}"
    if v.stance in FACING_DOWN:
        return f"{FACING_DOWN[v.stance]} {grip}"
    if v.values["out_deg"] > 45:
        return stood(f"{grip}, arm out to the side", v.stance)
    where = ", arm back" if v.values["arm_angle_deg"] < -5 else ", elbow forward" if v.values["arm_angle_deg"] > 5 else ""
    return stood(f"{grip}{where}", v.stance)


def cues(v: Variant) -> list[str]:
    """What to look at."""
    if v.pad:
        return ["Upper arm flat on the pad from armpit to elbow", "Stop just short of a locked elbow"]
    if v.stance == "bench":
        return ["Upper arms hang plumb from the shoulder and stay there", "Shoulder blades back against the rest"]
    if v.stance in FACING_DOWN:
        return ["Upper arm hangs plumb and stays there", "Turn the palm up all the way, no swing from the shoulder"]
    if v.values["out_deg"] > 45:
        return ["Upper arm level and still, hand to the temple", "Shoulder stays down"]
    where = "slightly behind the ribs" if v.values["arm_angle_deg"] < -5 else "beside the ribs"
    return [f"Elbow stays {where}; only the forearm moves", "Hips and shoulders square, ribs down"]


def cautions(v: Variant) -> list[str]:
    """Elbow tendons, shoulder behind the torso, wrists."""
    out = []
    if v.values["arm_angle_deg"] < -25:
        out.append("Upper arm well behind the torso: come forward if the front of the shoulder complains.")
    if v.pad:
        out.append("On the pad the straight elbow carries load: lower slowly and build up over weeks.")
    if v.values["forearm_deg"] < -60:
        out.append("Palm fully up can hurt some wrists: turn the thumb up a little if it does.")
    return out


MOVEMENT = Movement(
    id="curl",
    name="Curl",
    parameters=(
        Parameter("drift_deg", "how far the elbow drifts forward by the top, degrees", 0, 45, 0),
        Parameter("out_deg", "upper arm out to the side, degrees", 0, 100, 0),
        Parameter("arm_angle_deg", "upper arm before (+) or behind (-) the torso, degrees", -55, 160, 0),
        Parameter(
            "forearm_deg",
            "forearm rotation, degrees: -80 palm up, 0 thumb up, 70 palm down",
            -90,
            85,
            SUPINATED,
            kept=True,
            on_machine="free",
        ),
    ),
    targets=("biceps", "brachialis", "brachioradialis"),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=variants,
    title=title,
    cues=cues,
    cautions=cautions,
    stances=(
        "standing",
        "bench",
        "kneeling",
        "bent_over",
        "chest_supported",
        "half_kneeling",
        "holding_on",
        "back_rested",
        "chest_rested",
    ),
)
