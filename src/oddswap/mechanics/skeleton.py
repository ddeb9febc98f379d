"""The whole body placed in the world at every pose of a movement.

World frame: x forward (where the client faces), y to the client's left, z up, origin on the floor: below the middle of the
hips where these rest, below the middle of the feet where those stand, below the hands where they hold. Only the right side
is computed; the left is its mirror when both sides work, else it rests.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from typing import TypeVar

import numpy as np

from oddswap.mechanics.arm import Arm, ArmPath, dot, norm, place_arm, turn, unit
from oddswap.mechanics.body import Body, tables
from oddswap.mechanics.leg import HEEL, Leg, about_y, place_leg
from oddswap.mechanics.movement import BOTH_SIDES, Hold, Movement, Path, Sides, Values
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.types import Floats

Limb = TypeVar("Limb", Arm, Leg)
MIRROR = np.array([1.0, -1.0, 1.0])
TOES_GIVE = 0.09
"""How far below the floor a one-piece foot's toe may reach while it stands on the ball, m."""
FEW = 200
"""Poses up to which rows are copied rather than shared."""
UPPER_PART, HIGH_AT, LOW_AT = 0.70, 0.651, 0.10
"""Trunk mass above the lower back, and where the two parts' centres lie from hips to shoulders: together de Leva's centre."""


@dataclass(frozen=True)
class Skeleton:
    """Positions m in the world frame, (pose, xyz) each.

    Args:
        joints: By name, both sides.
        torso: Torso axes as columns, (pose, 3, 3).
        pelvis: Pelvis axes as columns, (pose, 3, 3).
        arm: The right arm.
        leg: The right leg.
        masses: Of all segments, kg, (segment,).
        centres: Their mass centres, (pose, segment, xyz).
        upper: Which segments lie above the lower back, (segment,).
    """

    joints: dict[str, Floats]
    torso: Floats
    pelvis: Floats
    arm: Arm
    leg: Leg
    masses: Floats
    centres: Floats
    upper: Floats


def build(body: Body, movement: Movement, path: Path, stance: Stance, values: Values, sides: Sides = BOTH_SIDES) -> Skeleton:
    """The body of this size along a path; ``sides`` says which working limbs the left side mirrors."""
    count = len(path.part)
    # A trunk that keeps still, and the legs under it, are placed once and shared by all poses.
    side = np.zeros(1) if path.side is None else path.side
    lean, lumbar, side = np.broadcast_arrays(np.atleast_1d(np.asarray(path.lean, float)), np.asarray(path.lumbar, float), side)
    trunk_poses, pitch = len(lean), stance.pitch + lean
    torso, pelvis = about_y(pitch), about_y(pitch - lumbar)
    # The other as the left side has it, mirrored.
    torso, other_torso = (torso, torso) if path.side is None else (pelvis @ to_left(k) @ about_y(lumbar) for k in (side, -side))
    trunk, extra = body.height("shoulder") - body.height("hip"), tables()["lying"]
    lumbosacral = extra["lumbosacral"] * body.stature
    rests_on_hips = movement.support(values).root == "hips"
    hips = np.zeros((trunk_poses, 3)) + (hip_place(body, stance) if rests_on_hips else 0.0)
    bend = hips + pelvis @ np.array([0, 0, lumbosacral])
    shoulders = bend + torso @ np.array([0, 0, trunk - lumbosacral])
    scapula = np.zeros((1, 3)) if path.scapula is None else path.scapula * body.stature
    half, hip_half = body.own("shoulder_half_breadth"), body.own("hip_half_breadth")
    offset = np.array([0.0, -half, 0.0]) + scapula
    shoulder = shoulders + (torso @ offset[..., None])[..., 0]
    hip = hips + pelvis @ np.array([0.0, -hip_half, 0.0])

    tilt = pitch - lumbar
    leg_coords = path.leg if path.leg is not None else quiet_leg(body, stance, tilt)
    leg = place_leg(body, leg_coords, hip, pelvis)
    arm_path = path.arm if path.arm is not None else held_arm(path.hold, torso)
    arm = place_arm(body, arm_path, shoulder, torso)
    if path.arm is None and path.hold == "close":
        arm = place_arm(body, before_legs(body, arm_path, arm, leg), shoulder, torso)

    ahead, spine = torso[..., :, 0], torso[..., :, 2]
    neck = shoulders + body.own("neck") * spine
    head = neck + (body.stature - body.height("chin")) * 0.62 * unit(spine + 0.12 * ahead)
    joints = {"hips": hips, "lumbosacral": bend, "chest": bend + 0.66 * (shoulders - bend), "shoulders": shoulders}
    joints |= {"neck": neck, "head": head}
    right = arm_joints(arm) | leg_joints(leg) | {"shoulder": shoulder}
    works = path.arm is not None, path.leg is not None
    other_arm = arm
    if (works[0] and not sides.arms) or path.side is not None:
        high = bend + other_torso @ np.array([0, -half, trunk - lumbosacral])
        other_arm = place_arm(body, resting_arm(trunk_poses), high, other_torso)
    left_arm = arm_joints(other_arm) | {"shoulder": other_arm.shoulder}
    left_place = leg
    if path.other_leg is not None or (works[1] and not sides.legs):
        other = path.other_leg if path.other_leg is not None else quiet_leg(body, stance, tilt)
        left_place = place_leg(body, other, hip, pelvis)
    # The mirror plane of the body is y = 0: every pitch turns about y, and what bends to a side bends to the other in it.
    joints |= {f"right {name}": at for name, at in right.items()}
    joints |= {f"left {name}": at * MIRROR for name, at in (left_arm | leg_joints(left_place)).items()}
    joints = {k: _spread(v, count) for k, v in joints.items()}

    arms, legs = (arm, other_arm), (leg, left_place)
    masses, centres, upper = segment_masses(body, count, hips, shoulders, head, arms, legs)
    frames = _spread(torso, count), _spread(pelvis, count)
    limbs = _spread_limb(arm, count), _spread_limb(leg, count)
    whole = Skeleton(joints, *frames, *limbs, masses, centres, upper)
    if not rests_on_hips:
        whole = translate(whole, root_shift(movement, whole, values))
    bend_toes(whole.joints)
    return whole


def to_left(angle: Floats) -> Floats:
    """Turns to the left about the axis forward by angles, radians, (pose,), as matrices, (pose, 3, 3)."""
    out = np.zeros((len(angle), 3, 3))
    out[:, 0, 0] = 1.0
    out[:, 1, 1] = out[:, 2, 2] = np.cos(angle)
    out[:, 1, 2], out[:, 2, 1] = np.sin(angle), -np.sin(angle)
    return out


def bend_toes(joints: dict[str, Floats]) -> None:
    """Lay toes flat where they meet the floor, which the one-piece foot does not; joints by name, m, (pose, xyz)."""
    for side in ("right toe", "left toe"):
        toe = joints[side]
        low = (toe[:, 2] < 0) & (toe[:, 2] > -TOES_GIVE)
        joints[side] = np.where(low[:, None], toe * np.array([1.0, 1.0, 0.0]), toe)


def segment_masses(
    body: Body, count: int, hips: Floats, shoulders: Floats, head: Floats, arms: tuple[Arm, Arm], legs: tuple[Leg, Leg]
) -> tuple[Floats, Floats, Floats]:
    """Masses, kg, (segment,), their centres, m, (pose, segment, xyz), and which lie above the lumbosacral joint, (segment,).

    Args:
        body: The client.
        count: Poses.
        hips: Middle of the hips, m, (pose or 1, xyz).
        shoulders: Middle of the shoulders, m, (pose or 1, xyz).
        head: m, (pose or 1, xyz).
        arms: The right arm, and the left one's mirror image.
        legs: The right leg, and the left one's mirror image.
    """
    trunk_mass = body.segment_mass("trunk")
    places = [hips + HIGH_AT * (shoulders - hips), hips + LOW_AT * (shoulders - hips), head]
    masses = [UPPER_PART * trunk_mass, (1 - UPPER_PART) * trunk_mass, body.segment_mass("head")]
    upper = [1.0, 0.0, 1.0]
    for k in range(3):
        places += [arms[0].centres[:, k], legs[0].centres[:, k], arms[1].centres[:, k] * MIRROR, legs[1].centres[:, k] * MIRROR]
        masses += [arms[0].masses[k], legs[0].masses[k]] * 2
        upper += [1.0, 0.0, 1.0, 0.0]
    centres = np.empty((count, len(places), 3))
    for k, place in enumerate(places):
        centres[:, k] = place
    return np.array(masses), centres, np.array(upper)


def _spread(at: Floats, count: int) -> Floats:
    """One row a pose, (pose, ...), where there may be a single one for all."""
    if len(at) == count:
        return at
    if count < FEW:
        return at.repeat(count, axis=0)  # a copy costs less than a view of it
    return np.broadcast_to(at, (count, *at.shape[1:]))


def _spread_limb(limb: Limb, count: int) -> Limb:
    return replace(limb, **{f.name: _spread(getattr(limb, f.name), count) for f in fields(limb) if f.name != "masses"})


def root_shift(movement: Movement, at: Skeleton, values: Values) -> Floats:
    """How far the body, built about its hips, must be moved to rest on what the movement rests on, (pose, xyz)."""
    support = movement.support(values)
    rests = {"feet": at.leg.sole, "toes": at.leg.ball, "heels": at.leg.heel, "knees": at.leg.knee, "hands": at.arm.grip}
    out = -rests[support.root]
    out[:, 1] = 0.0
    out[:, 2] += support.rest_cm / 100
    return out


def bench_edge(body: Body, at: Skeleton) -> Floats:
    """Where the upper back bears on the edge of a bench, m, (pose, xyz)."""
    hips, shoulders = at.joints["hips"], at.joints["shoulders"]
    along, behind = tables()["lying"]["bench_edge"], body.own("trunk_radius")
    return np.asarray(hips + along * (shoulders - hips) - behind * at.torso[..., :, 0])


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
    if stance.kind == "kneeling":
        return np.array([0.0, 0.0, body.length("thigh") + 0.03 * body.stature])
    if stance.kind == "bent_over":
        # The hips go back as the trunk comes forward, so that the feet stay under the whole.
        turn = np.sin(stance.pitch)
        return np.array([-0.10 * turn * body.stature, 0.0, body.height("hip") - 0.035 * turn * body.stature])
    return np.array([0.0, 0.0, body.height("hip")])


KNEES_UP = 0.55
"""How far from the hips the ankles of somebody who lies with bent knees are, parts of the leg."""
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
    if stance.kind in ("standing", "bent_over"):
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
    if stance.kind == "kneeling":
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


def arm_joints(arm: Arm) -> dict[str, Floats]:
    """The arm's points as drawn."""
    return {"elbow": arm.elbow, "wrist": arm.wrist, "grip": arm.grip, "thumb": arm.grip + 0.1 * arm.thumb}


def leg_joints(leg: Leg) -> dict[str, Floats]:
    """The leg's points as drawn."""
    return {"hip": leg.hip, "knee": leg.knee, "ankle": leg.ankle, "heel": leg.heel, "toe": leg.toe}


def translate(at: Skeleton, by: Floats) -> Skeleton:
    """The whole body moved by (pose, xyz)."""
    vectors = {"centres", "elbow_axis", "pronation_axis", "thumb", "torso", "knee_axis", "ankle_axis", "pelvis", "masses"}

    def shifted(part: Arm | Leg) -> dict[str, Floats]:
        out = {f.name: getattr(part, f.name) + by for f in fields(part) if f.name not in vectors}
        return out | {"centres": part.centres + by[:, None]}

    return replace(
        at,
        joints={k: v + by for k, v in at.joints.items()},
        arm=replace(at.arm, **shifted(at.arm)),
        leg=replace(at.leg, **shifted(at.leg)),
        centres=at.centres + by[:, None],
    )
