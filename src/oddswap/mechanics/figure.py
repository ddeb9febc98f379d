"""What a drawing of a set-up needs: joints, lines of pull, force and moment arm at every pose. Numbers only."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.mechanics.arm import dot, unit
from oddswap.mechanics.movements import movement
from oddswap.mechanics.posture import left_arm
from oddswap.mechanics.profile import Profile, SetUp
from oddswap.mechanics.types import Floats

FORWARD = np.array([1.0, 0.0, 0.0])
MIRROR = np.array([1.0, -1.0, 1.0])


@dataclass(frozen=True)
class Pull:
    """One load source as drawn.

    Args:
        prop: What it looks like: ``kind`` and figures.
        ends: Far ends of its line, one per working arm, m, (arm, xyz); empty for weight.
        force: Force on the right hand, N, (pose, xyz).
    """

    prop: dict[str, Any]
    ends: Floats
    force: Floats


@dataclass(frozen=True)
class Slab:
    """A cushion of a bench or pad: a flat box about a line, m."""

    kind: str
    start: Floats
    end: Floats
    half_width: float
    thickness: float


@dataclass(frozen=True)
class Figure:
    """A set-up as drawn; positions m, world frame.

    Args:
        joints: Positions by name, (pose, xyz) each.
        pulls: Load sources.
        slabs: Cushions that carry the body.
        hinge: Where the moment arm starts, (pose, xyz).
        foot: Where it meets the line of the total pull, square to it, (pose, xyz).
        moment_arm: Its length, m, (pose,).
    """

    joints: dict[str, Floats]
    pulls: list[Pull]
    slabs: list[Slab]
    hinge: Floats
    foot: Floats
    moment_arm: Floats


def figure(set_up: SetUp, profile: Profile) -> Figure:
    """The drawing's numbers of a profile."""
    motion = profile.motion
    shape = motion.arm.grip.shape
    quiet = {k: np.broadcast_to(v, shape) for k, v in motion.posture.joints.items()}
    left = left_arm(motion.posture, motion.arm, set_up.both_arms, motion.body)
    working = {"right elbow": motion.arm.elbow, "right wrist": motion.arm.wrist, "right grip": motion.arm.grip}
    # A hand's breadth along the thumb shows which way a handle lies in the fist.
    working["right thumb"] = motion.arm.grip + 0.1 * motion.arm.thumb
    if set_up.both_arms:
        left["left thumb"] = working["right thumb"] * MIRROR
    joints = quiet | left | working
    pulls = []
    for source, force in zip(set_up.sources, profile.force, strict=True):
        end = source.law().far_end
        ends = np.empty((0, 3)) if end is None else np.stack([end, end * MIRROR] if source.both_arms else [end])
        pulls.append(Pull(source.prop(), ends, force))
    hinge = joints[movement(set_up.movement).hinge]
    along = unit(profile.force.sum(axis=0))
    foot = motion.arm.grip + dot(hinge - motion.arm.grip, along)[:, None] * along
    return Figure(joints, pulls, slabs(set_up, profile), hinge, foot, np.linalg.norm(foot - hinge, axis=-1))


def slabs(set_up: SetUp, profile: Profile) -> list[Slab]:
    """Seat and back rest of a bench, and the arm pad."""
    motion = profile.motion
    stance, joints, body = motion.posture.stance, motion.posture.joints, motion.body
    ahead, spine = motion.posture.torso[:, 0], motion.posture.torso[:, 2]
    out = []
    if stance.kind == "bench":
        under = np.array([0.0, 0.0, stance.seat - 0.03])
        out.append(Slab("seat", under - 0.10 * FORWARD, under + 0.30 * FORWARD, 0.14, 0.06))
        back = joints["hips"] - (body.own("trunk_radius") + 0.03) * ahead
        out.append(Slab("rest", back + 0.02 * spine, back + 0.78 * spine, 0.14, 0.06))
    if set_up.pad:
        elbow, shoulder = motion.arm.elbow[0], motion.arm.shoulder[0]
        along = unit(shoulder - elbow)
        below = np.array([0.0, 0.0, -1.0]) - along * -along[2]
        offset = 0.06 * unit(below)
        out.append(Slab("pad", elbow + offset - 0.05 * along, elbow + offset + 0.32 * along, 0.14, 0.05))
    return out
