"""The whole body placed in the world at every pose of a movement.

World frame: x forward (where the client faces), y to the client's left, z up, origin on the floor: below the middle of the
hips where these rest, below the middle of the feet where those stand, below the hands where they hold. Only the right side
is computed; the left is its mirror when both sides work, else it rests.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any, TypeVar

import numpy as np

from oddswap.mechanics.arm import Arm, ArmPath, place_arm, unit
from oddswap.mechanics.body import Body, tables
from oddswap.mechanics.leg import Leg, about_y, place_leg
from oddswap.mechanics.movement import BOTH_SIDES, Movement, Path, Sides, Values
from oddswap.mechanics.quiet_limbs import before_legs, held_arm, hip_place, holding_arm, other_quiet_leg, quiet_leg, resting_arm
from oddswap.mechanics.stance import ONE_HANDED, Stance
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

    def cut(self, rows: slice) -> Skeleton:
        """Some of the poses."""
        joints = {name: at[rows] for name, at in self.joints.items()}
        frames = self.torso[rows], self.pelvis[rows]
        limbs = _each_pose(self.arm, lambda at: at[rows]), _each_pose(self.leg, lambda at: at[rows])
        return Skeleton(joints, *frames, *limbs, self.masses, self.centres[rows], self.upper)


@dataclass(frozen=True)
class Built:
    """What a body is placed by.

    Args:
        movement: What is done.
        path: How it leads the body, (pose,).
        stance: How the body is carried.
        values: The movement's parameter values.
        sides: Which working limbs the left side mirrors.
    """

    movement: Movement
    path: Path
    stance: Stance
    values: Values
    sides: Sides = BOTH_SIDES

    @property
    def likeness(self) -> object:
        """Equal for those that can be placed as one with all their poses in a row."""
        path, support = self.path, self.movement.support(self.values)
        given = tuple(getattr(path, name) is None for name in PARTS)
        wrist = path.arm is not None and path.arm.wrist is not None
        return self.stance, self.sides, path.hold, given, wrist, support.root, support.rest_cm


PARTS = ("arm", "leg", "other_leg", "side", "scapula")
"""Parts of a path that may be left to the stance."""


def build_many(body: Body, wanted: Sequence[Built]) -> list[Skeleton]:
    """Bodies of one size along many paths: those that rest and are led alike placed together."""
    alike: dict[object, list[int]] = {}
    for i, one in enumerate(wanted):
        alike.setdefault(one.likeness, []).append(i)
    out: dict[int, Skeleton] = {}
    for where in alike.values():
        if len(where) == 1:
            out[where[0]] = build(body, wanted[where[0]])
            continue
        whole = build(body, replace(wanted[where[0]], path=_in_a_row([wanted[i].path for i in where])))
        end = 0
        for i in where:
            start, end = end, end + len(wanted[i].path.part)
            out[i] = whole.cut(slice(start, end))
    return [out[i] for i in range(len(wanted))]


def _in_a_row(paths: Sequence[Path]) -> Path:
    """Paths of one likeness laid end to end."""
    counts = [len(p.part) for p in paths]

    def joined(name: str, parts: Sequence[Any]) -> Floats | None:
        values = [getattr(one, name) for one in parts]
        if values[0] is None:
            return None
        return np.concatenate([_row_a_pose(v, n) for v, n in zip(values, counts, strict=True)])

    arms = [p.arm for p in paths]
    arm = None if arms[0] is None else ArmPath(**{f.name: joined(f.name, arms) for f in fields(ArmPath)})  # type: ignore[arg-type]
    rest = {f.name: joined(f.name, paths) for f in fields(Path) if f.name not in ("arm", "hold")}
    return Path(arm=arm, hold=paths[0].hold, **rest)  # type: ignore[arg-type]


def _row_a_pose(values: Floats | float, poses: int) -> Floats:
    if isinstance(values, np.ndarray) and values.ndim and len(values) == poses:
        return values
    return np.broadcast_to(values, (poses, *np.shape(values)[1:]))


def build(body: Body, built: Built) -> Skeleton:
    """The body of this size along a path."""
    movement, path, stance, values, sides = built.movement, built.path, built.stance, built.values, built.sides
    count = len(path.part)
    # A trunk that keeps still, and the legs under it, are placed once and shared by all poses.
    side = np.zeros(1) if path.side is None else path.side
    lean, lumbar, side = np.broadcast_arrays(np.atleast_1d(np.asarray(path.lean, float)), np.asarray(path.lumbar, float), side)
    # A trunk against a pad stays as that stands.
    trunk_poses, pitch = len(lean), stance.pitch + lean * (not stance.rested)
    torso, pelvis = about_y(pitch), about_y(pitch - lumbar)
    # The other as the left side has it, mirrored.
    torso, other_torso = (torso, torso) if path.side is None else (pelvis @ to_left(k) @ about_y(lumbar) for k in (side, -side))
    trunk, extra = body.height("shoulder") - body.height("hip"), tables()["lying"]
    lumbosacral = extra["lumbosacral"] * body.stature
    rests_on_hips = movement.support(values).root == "hips"
    hips = np.zeros((trunk_poses, 3)) + (hip_place(body, stance) if rests_on_hips else 0.0)
    bend = hips + pelvis @ np.array([0, 0, lumbosacral])
    shoulders = bend + torso @ np.array([0, 0, trunk - lumbosacral])
    half, hip_half = body.own("shoulder_half_breadth"), body.own("hip_half_breadth")
    offset = np.array([[0.0, -half, 0.0]]) + (0.0 if path.scapula is None else path.scapula * body.stature)
    shoulder = shoulders + (torso @ offset[..., None])[..., 0]
    hip = hips + pelvis @ np.array([0.0, -hip_half, 0.0])

    tilt = pitch - lumbar
    leg_coords = path.leg if path.leg is not None else quiet_leg(body, stance, tilt)
    leg = place_leg(body, leg_coords, hip, pelvis)
    arm_path = path.arm if path.arm is not None else held_arm(path.hold, torso)
    arm = place_arm(body, arm_path, shoulder, torso)
    if path.arm is None and path.hold == "close":
        arm = place_arm(body, before_legs(body, arm_path, arm, leg), shoulder, torso)
    spine = torso[..., :, 2]
    neck = shoulders + body.own("neck") * spine
    head = neck + (body.stature - body.height("chin")) * 0.62 * unit(spine + 0.12 * torso[..., :, 0])
    chest = bend + 0.66 * (shoulders - bend)
    joints = {"hips": hips, "lumbosacral": bend, "chest": chest, "shoulders": shoulders, "neck": neck, "head": head}
    right = arm_joints(arm) | leg_joints(leg) | {"shoulder": shoulder}
    other_arm = arm
    if (path.arm is not None and not sides.arms) or path.side is not None:
        high = bend + other_torso @ np.array([0, -half, trunk - lumbosacral])
        idle = holding_arm if stance.kind in ONE_HANDED else resting_arm
        other_arm = place_arm(body, idle(trunk_poses), high, other_torso)
    left_arm = arm_joints(other_arm) | {"shoulder": other_arm.shoulder}
    other = path.other_leg
    if other is None and not (path.leg is not None and sides.legs):
        other = (other_quiet_leg if path.leg is None else quiet_leg)(body, stance, tilt)
    left_place = leg if other is None else place_leg(body, other, hip, pelvis)
    # The mirror plane of the body is y = 0: every pitch turns about y, and what bends to a side bends to the other in it.
    joints |= {f"right {name}": at for name, at in right.items()}
    joints |= {f"left {name}": at * MIRROR for name, at in (left_arm | leg_joints(left_place)).items()}
    joints = {k: _spread(v, count) for k, v in joints.items()}

    arms, legs = (arm, other_arm), (leg, left_place)
    masses, centres, upper = segment_masses(body, count, hips, shoulders, head, arms, legs)
    frames = _spread(torso, count), _spread(pelvis, count)
    limbs = _each_pose(arm, lambda at: _spread(at, count)), _each_pose(leg, lambda at: _spread(at, count))
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


def _spread(values: Floats, count: int) -> Floats:
    """One row a pose, (pose, ...), where there may be a single one for all."""
    if len(values) == count:
        return values
    if count < FEW:
        return values.repeat(count, axis=0)  # a copy costs less than a view of it
    return np.broadcast_to(values, (count, *values.shape[1:]))


def _each_pose(limb: Limb, change: Callable[[Floats], Floats]) -> Limb:
    """A limb with all that it has one row a pose of changed."""
    return replace(limb, **{f.name: change(getattr(limb, f.name)) for f in fields(limb) if f.name != "masses"})


def root_shift(movement: Movement, skeleton: Skeleton, values: Values) -> Floats:
    """How far the body, built about its hips, must be moved to rest on what the movement rests on, (pose, xyz)."""
    support = movement.support(values)
    rests = {
        "feet": skeleton.leg.sole,
        "toes": skeleton.leg.ball,
        "heels": skeleton.leg.heel,
        "knees": skeleton.leg.knee,
        "hands": skeleton.arm.grip,
    }
    out = -rests[support.root]
    out[:, 1] = 0.0
    out[:, 2] += support.rest_cm / 100
    return out


def bench_edge(body: Body, skeleton: Skeleton) -> Floats:
    """Where the upper back bears on the edge of a bench, m, (pose, xyz)."""
    hips, shoulders = skeleton.joints["hips"], skeleton.joints["shoulders"]
    along, behind = tables()["lying"]["bench_edge"], body.own("trunk_radius")
    return np.asarray(hips + along * (shoulders - hips) - behind * skeleton.torso[..., :, 0])


def arm_joints(arm: Arm) -> dict[str, Floats]:
    """The arm's points as drawn."""
    return {"elbow": arm.elbow, "wrist": arm.wrist, "grip": arm.grip, "thumb": arm.grip + 0.1 * arm.thumb}


def leg_joints(leg: Leg) -> dict[str, Floats]:
    """The leg's points as drawn."""
    return {"hip": leg.hip, "knee": leg.knee, "ankle": leg.ankle, "heel": leg.heel, "toe": leg.toe}


def translate(skeleton: Skeleton, shift: Floats) -> Skeleton:
    """The whole body moved by (pose, xyz)."""
    vectors = {"centres", "elbow_axis", "pronation_axis", "thumb", "torso", "knee_axis", "ankle_axis", "pelvis", "masses"}

    def shifted(part: Arm | Leg) -> dict[str, Floats]:
        out = {f.name: getattr(part, f.name) + shift for f in fields(part) if f.name not in vectors}
        return out | {"centres": part.centres + shift[:, None]}

    return replace(
        skeleton,
        joints={k: v + shift for k, v in skeleton.joints.items()},
        arm=replace(skeleton.arm, **shifted(skeleton.arm)),
        leg=replace(skeleton.leg, **shifted(skeleton.leg)),
        centres=skeleton.centres + shift[:, None],
    )
