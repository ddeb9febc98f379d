"""How the client stands, sits or lies: where the torso is, and the quiet rest of the body.

World frame: x forward (where the client faces), y to the client's left, z up, origin on the floor below the middle of
the hips. Stances are what kit supports: the floor, or a bench with a back rest at one of its notches.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from oddswap.mechanics.arm import Arm, unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class Stance:
    """What carries the body.

    Args:
        kind: ``standing`` or ``bench``.
        recline: Angle of the spine to the floor, radians; a right angle is upright, 0 lies flat.
        seat: Height of the bench's seat, m.
        staggered: Whether the feet stand one before the other, for steadiness against a pull.
    """

    kind: Literal["standing", "bench"] = "standing"
    recline: float = np.pi / 2
    seat: float = 0.45
    staggered: bool = False


@dataclass(frozen=True)
class Posture:
    """The placed body; positions m in the world frame.

    ``joints`` holds the quiet body for drawing and for what cables must clear.
    """

    torso: Floats
    """Torso axes as columns, (3, 3)."""
    shoulder: Floats
    """Right shoulder centre, (xyz,)."""
    joints: dict[str, Floats]
    stance: Stance


def take(body: Body, stance: Stance) -> Posture:
    """The body of this size in this stance."""
    c, s = np.cos(stance.recline), np.sin(stance.recline)
    spine, ahead, left = np.array([-c, 0.0, s]), np.array([s, 0.0, c]), np.array([0.0, 1.0, 0.0])
    torso = np.stack([ahead, left, spine], axis=-1)
    hip_half, shoulder_half = body.own("hip_half_breadth"), body.own("shoulder_half_breadth")
    trunk = body.height("shoulder") - body.height("hip")
    # On a bench the hip joint lies about a thigh's radius and some padding above the seat.
    seated = stance.seat + 1.6 * body.own("thigh_radius")
    hip_height = body.height("hip") if stance.kind == "standing" else seated
    hips = np.array([0.0, 0.0, hip_height])
    neck = hips + (trunk + body.own("neck")) * spine
    joints = {
        "hips": hips,
        "chest": hips + 0.72 * trunk * spine,
        "shoulders": hips + trunk * spine,
        "neck": neck,
        "head": neck + (body.stature - body.height("chin")) * 0.62 * unit(spine + 0.12 * ahead),
    }
    for side, sign in (("right", -1.0), ("left", 1.0)):
        joints[f"{side} hip"] = hips + sign * hip_half * left
        joints[f"{side} shoulder"] = joints["shoulders"] + sign * shoulder_half * left
        joints |= {f"{side} {k}": v for k, v in leg(body, joints[f"{side} hip"], stance, sign).items()}
    return Posture(torso, joints["right shoulder"], joints, stance)


def leg(body: Body, hip: Floats, stance: Stance, sign: float) -> dict[str, Floats]:
    """Knee, ankle and toe of one leg; ``sign`` -1 right, +1 left."""
    thigh, shank, ankle_height = body.length("thigh"), body.length("shank"), body.height("ankle")
    foot = np.array([0.75 * body.length("foot"), 0.0, -0.6 * ankle_height])
    if stance.kind == "standing":
        stride = 0.10 * body.stature * (sign if stance.staggered else 0.0)
        ankle = np.array([hip[0] + stride - 0.02 * body.stature, hip[1] + sign * 0.02 * body.stature, ankle_height])
    else:
        ankle = np.array([hip[0] + 0.9 * thigh, hip[1] + sign * 0.06 * body.stature, ankle_height])
    knee = bend(hip, ankle, thigh, shank, np.array([1.0, 0.1 * sign, 0.3]))
    return {"knee": knee, "ankle": ankle, "toe": ankle + foot}


def bend(start: Floats, end: Floats, first: float, second: float, toward: Floats) -> Floats:
    """The joint between two links of given lengths from ``start`` to ``end``, bent ``toward``; straight if out of reach."""
    reach = end - start
    distance = float(np.linalg.norm(reach))
    along = reach / distance
    if distance >= first + second:
        return np.asarray(start + along * distance * first / (first + second))
    x = (distance**2 + first**2 - second**2) / (2 * distance)
    side = unit(toward - (toward @ along) * along)
    return np.asarray(start + x * along + np.sqrt(max(first**2 - x**2, 0.0)) * side)


def left_arm(posture: Posture, arm: Arm, both: bool, body: Body) -> dict[str, Floats]:
    """Elbow, wrist and grip of the left arm, (pose, xyz): the mirror of the right when both work, else resting at the hip."""
    if both:
        # Both stances keep the torso square to the world's y axis, so the body's mirror plane is y = 0.
        mirror = np.array([1.0, -1.0, 1.0])
        return {"left elbow": arm.elbow * mirror, "left wrist": arm.wrist * mirror, "left grip": arm.grip * mirror}
    shoulder, hip, torso = posture.joints["left shoulder"], posture.joints["left hip"], posture.torso
    wrist = hip + torso @ np.array([0.06, 0.045, 0.04]) * body.stature
    elbow = bend(shoulder, wrist, body.length("upper_arm"), body.length("forearm"), torso @ np.array([-0.6, 0.7, 0.0]))
    grip = wrist + body.own("grip") * unit(torso @ np.array([0.6, -0.6, -0.3]))
    shape = arm.elbow.shape
    return {k: np.broadcast_to(v, shape) for k, v in [("left elbow", elbow), ("left wrist", wrist), ("left grip", grip)]}
