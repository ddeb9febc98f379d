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
class Figure:
    """A set-up as drawn; positions m, world frame.

    Args:
        joints: Positions by name, (pose, xyz) each.
        pulls: Load sources.
        hinge: Where the moment arm starts, (pose, xyz).
        foot: Where it meets the line of the total pull, square to it, (pose, xyz).
        moment_arm: Its length, m, (pose,).
    """

    joints: dict[str, Floats]
    pulls: list[Pull]
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
    joints = quiet | left | working
    pulls = []
    for source, force in zip(set_up.sources, profile.force, strict=True):
        end = source.law().far_end
        ends = np.empty((0, 3)) if end is None else np.stack([end, end * MIRROR] if source.both_arms else [end])
        pulls.append(Pull(source.prop(), ends, force))
    hinge = joints[movement(set_up.movement).hinge]
    along = unit(profile.force.sum(axis=0))
    foot = motion.arm.grip + dot(hinge - motion.arm.grip, along)[:, None] * along
    return Figure(joints, pulls, hinge, foot, np.linalg.norm(foot - hinge, axis=-1))
