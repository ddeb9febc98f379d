"""Limbs that only carry or hold: legs under a stance, arms that hang, hold a bar or rest."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oddswap.mechanics.arm import Arm, ArmPath, dot, norm, turn, unit
from oddswap.mechanics.body import Body, tables
from oddswap.mechanics.leg import HEEL, Leg
from oddswap.mechanics.movement import Hold
from oddswap.mechanics.stance import KNEELING, STANDING, Stance
from oddswap.mechanics.types import Floats


def hip_place(body: Body, stance: Stance) -> Floats:
    """Where the middle of the hips rests, m, (xyz,)."""
    lying = stance.seat + 1.6 * body.own("thigh_radius")
    if stance.kind in ("bench", "chest_supported"):
        return np.array([0.0, 0.0, lying])
    if stance.kind == "sitting":
        return np.array([0.0, 0.0, 1.6 * body.own("thigh_radius")])
    if stance.kind == "lying":
        return np.array([0.0, 0.0, body.own("trunk_radius")])
    if stance.kind == "hip_pad":
        # The legs lie along the pad, the ankles near the floor.
        legs = body.length("thigh") + body.length("shank")
        return np.array([0.0, 0.0, max(legs * np.sin(stance.recline), body.own("hip_pad_height")) + body.height("ankle")])
    if stance.kind in KNEELING:
        return np.array([0.0, 0.0, body.length("thigh") + 0.03 * body.stature])
    if stance.kind == "bent_over":
        # The hips go back as the trunk comes forward, so that the feet stay under the whole.
        turn = np.sin(stance.pitch)
        return np.array([-0.10 * turn * body.stature, 0.0, body.height("hip") - 0.035 * turn * body.stature])
    return np.array([0.0, 0.0, body.height("hip")])


KNEES_UP = 0.55
"""How far from the hips the ankles of somebody who lies with bent knees are, parts of the leg."""
FOOT_AHEAD = 0.95
"""How far ahead of the hips the ankle of somebody on one knee is, parts of the thigh: shin about plumb."""
LEGS_OUT = 0.95
"""How far ahead of the hips the ankles of somebody who sits on the floor are, parts of the leg: knees a little bent."""


def ankle_ahead(body: Body) -> Floats:
    """Where the ankles are of somebody who sits on the floor, heels down, m, (xyz,), the side left out."""
    leg = body.length("thigh") + body.length("shank")
    return np.array([LEGS_OUT * leg, 0.0, -HEEL * body.length("foot")])


def sole_ahead(body: Body) -> Floats:
    """Where the middle of their soles is, m, (xyz,), the side left out."""
    return np.asarray(ankle_ahead(body) + np.array([body.height("ankle"), 0.0, 0.25 * body.length("foot")]))


def quiet_leg(body: Body, stance: Stance, pitch: Floats) -> Floats:
    """Coordinates of a leg that only carries under a pelvis at ``pitch`` (pose,), (pose, 5), radians."""
    hips = hip_place(body, stance)
    thigh, shank, ankle_height = body.length("thigh"), body.length("shank"), body.height("ankle")
    out = np.zeros((len(pitch), 5))
    if stance.kind in (*STANDING, "bent_over"):
        ankle = np.array([-0.25 * body.length("foot") * (stance.kind == "bent_over") - 0.02 * body.stature, 0.0, ankle_height])
        return _reached(thigh, shank, ankle - hips, pitch, out)
    if stance.kind == "bench":
        return _reached(thigh, shank, np.array([0.66 * thigh, 0.0, ankle_height]) - hips, pitch, out)
    if stance.kind == "lying":
        return _reached(thigh, shank, np.array([KNEES_UP * (thigh + shank), 0.0, ankle_height]) - hips, pitch, out)
    if stance.kind == "sitting":
        ahead, _, low = ankle_ahead(body)
        out = _reached(thigh, shank, np.array([ahead, 0.0, low]) - hips, pitch, out)
        out[:, 4] += np.pi / 2  # toes up, the soles plumb
        return out
    if stance.kind in KNEELING:
        # The shank rises a little to the stretched foot.
        out[:, 3] = np.radians(98)
        out[:, 0] = pitch
        out[:, 4] = np.radians(-45)
    elif stance.kind == "chest_supported":
        if stance.recline > 0.1:
            # Long legs slant back to the toes on the floor.
            down = (hips[2] - ankle_height - 0.3 * body.length("foot")) / (thigh + shank)
            out[:, 0] = np.clip(pitch - np.arccos(np.clip(down, 0.0, 1.0)), np.radians(-20), np.radians(60))
        out[:, 4] = np.radians(20 if stance.recline > 0.1 else -30)
    return out


def other_quiet_leg(body: Body, stance: Stance, pitch: Floats) -> Floats | None:
    """The same of the leg on the side that does not work, where it is carried otherwise; None where it is not."""
    if stance.kind != "half_kneeling":
        return None
    thigh, shank = body.length("thigh"), body.length("shank")
    foot = np.array([FOOT_AHEAD * thigh, 0.0, body.height("ankle")])
    return _reached(thigh, shank, foot - hip_place(body, stance), pitch, np.zeros((len(pitch), 5)))


def _reached(thigh: float, shank: float, to: Floats, pitch: Floats, out: Floats) -> Floats:
    """Hip, knee and ankle angles that put the ankle at ``to`` from the hips, knee forward and sole level, into ``out``."""
    distance = min(float(np.hypot(to[0], to[2])), (thigh + shank) * 0.9995)
    knee = np.pi - np.arccos((thigh**2 + shank**2 - distance**2) / (2 * thigh * shank))
    lift = np.arccos((thigh**2 + distance**2 - shank**2) / (2 * thigh * distance))
    raised = np.arctan2(to[0], -to[2]) + lift
    out[:, 0] = raised + pitch
    out[:, 3] = knee
    out[:, 4] = knee - raised
    return out


def held_arm(hold: Hold, torso: Floats) -> ArmPath:
    """An arm that only holds: hanging plumb, on a bar across the back, before the chest, at a low handle ahead.

    ``torso`` are frames in the world, (pose, xyz, axis); angles of the path are radians.
    """
    down = np.einsum("pji,j->pi", torso, np.array([0.0, 0.0, -1.0]))
    count = len(torso)
    zero, shape = np.zeros(count), (count, 3)
    ahead = np.broadcast_to(np.array([1.0, 0.0, 0.0]), shape)
    if hold == "hang":
        upper = unit(down + np.array([0.0, -0.20, 0.0]))
        return ArmPath(upper, ahead, zero + np.radians(6), zero)
    if hold == "between":
        # Hands together before the thighs, for a line between the legs.
        return ArmPath(unit(down + np.array([0.0, 0.24, 0.0])), ahead, zero + np.radians(6), zero)
    if hold == "close":
        # Upright, the load hangs before the thighs; bent over, the arms slant back to keep it near the legs.
        turn = np.einsum("pji,j->pi", torso, np.array([-0.20, 0.0, -1.0]))
        upright = (-down[:, 2])[:, None]
        slanted = unit(upright * (down + 0.13 * ahead) + (1 - upright) * turn + np.array([0.0, -0.10, 0.0]))
        return ArmPath(slanted, ahead, zero + np.radians(6), zero)
    if hold == "back":
        upper = np.broadcast_to(unit(np.array([-0.45, -0.75, -0.75])), shape)
        return ArmPath(upper, np.broadcast_to(np.array([0.3, 0.1, 1.0]), shape), zero + np.radians(140), zero)
    if hold == "head":
        # Hands beside the temples, elbows ahead.
        upper = np.broadcast_to(unit(np.array([0.80, -0.16, -0.10])), shape)
        return ArmPath(upper, np.broadcast_to(np.array([-0.1, 0.32, 1.0]), shape), zero + np.radians(122), zero)
    if hold == "chest":
        upper = np.broadcast_to(unit(np.array([0.36, -0.22, -1.0])), shape)
        return ArmPath(upper, np.broadcast_to(np.array([1.0, 0.08, 0.2]), shape), zero + np.radians(138), zero)
    if hold == "ahead":
        forward = np.einsum("pji,j->pi", torso, np.array([1.0, 0.0, -1.0]))
        return ArmPath(unit(forward), np.broadcast_to(np.array([0.2, 0.0, 1.0]), shape), zero + np.radians(8), zero)
    if hold == "hips":
        upper = unit(np.array([0.30, -0.40, -1.0]))
        return ArmPath(np.broadcast_to(upper, shape), np.broadcast_to(np.array([1.0, 0.3, 0.2]), shape), zero + 0.3, zero)
    return resting_arm(count)


SWUNG = np.radians(np.linspace(0.0, 40.0, 21))
"""How far arms that hold a bar close to the legs may swing ahead of them, radians."""


def before_legs(body: Body, path: ArmPath, arm: Arm, leg: Leg) -> ArmPath:
    """Arms that hold a bar close, swung ahead just as far as it takes for the bar to pass before thighs and shins.

    Args:
        body: The client.
        path: How they hang.
        arm: The same placed, (pose, ...).
        leg: The leg, (pose, ...).
    """
    reach = (arm.grip - arm.shoulder)[:, [0, 2]]
    c, s = np.cos(SWUNG)[:, None], np.sin(SWUNG)[:, None]
    # Ahead and up, m, (angle, pose, 2): turned about the shoulders, from down to ahead.
    turned = np.stack([reach[:, 0] * c - reach[:, 1] * s, reach[:, 0] * s + reach[:, 1] * c], axis=-1)
    grip, room = arm.shoulder[:, [0, 2]] + turned, np.full(turned.shape[:-1], np.inf)
    for top, bottom, radius in ((leg.hip, leg.knee, "thigh_radius"), (leg.knee, leg.ankle, "shank_radius")):
        along = (bottom - top)[:, [0, 2]]
        long = np.maximum(norm(along), 1e-9)
        along = along / long[:, None]
        rel = grip - top[:, [0, 2]]
        down = dot(rel, np.broadcast_to(along, rel.shape))
        off = rel[..., 1] * along[:, 0] - rel[..., 0] * along[:, 1]  # positive before the leg
        past = down - np.clip(down, 0.0, long)
        off = np.where(past == 0.0, off, np.hypot(off, past))
        room = np.minimum(room, off - body.own(radius) - tables()["clearance"]["bar_radius"])
    # Where none of the angles does, the widest is the best there is.
    clear = room >= 0
    swung = SWUNG[np.where(clear.any(axis=0), clear.argmax(axis=0), room.argmax(axis=0))]
    # A trunk only pitches, so that a turn about its side to side axis is one about the world's.
    return replace(path, upper_arm=turn(np.array([0.0, -1.0, 0.0]), swung, path.upper_arm))


def resting_arm(count: int) -> ArmPath:
    """The idle arm: hand on the hip."""
    shape = (count, 3)
    upper = np.broadcast_to(unit(np.array([-0.25, -0.42, -1.0])), shape)
    return ArmPath(upper, np.broadcast_to(np.array([0.9, 0.75, 0.0]), shape), np.full(count, np.radians(80)), np.zeros(count))


def holding_arm(count: int) -> ArmPath:
    """The idle arm: hand at an upright beside and a little ahead, as high as the chest."""
    shape = (count, 3)
    upper = np.broadcast_to(unit(np.array([0.30, -0.75, -0.65])), shape)
    return ArmPath(upper, np.broadcast_to(np.array([0.9, 0.0, 0.75]), shape), np.full(count, np.radians(60)), np.zeros(count))
