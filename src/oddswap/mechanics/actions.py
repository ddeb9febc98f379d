"""What kind of lift a motion is: which joints go which way, and which muscles shorten to take them there.

Neither needs a load: a press stays a press whatever resists it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.arm import cross, dot, path_from_coordinates, square_to
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.types import Floats

TURNING = 0.35
"""What turning a limb about its own axis counts against swinging it (own estimate): hands and arms turn along in most lifts."""
ARM, LEG, TRUNK, SCAPULA = slice(0, 6), slice(6, 11), slice(11, 12), slice(12, 14)
WRIST, WAIST = slice(14, 15), slice(15, 16)
ARM_SWING = slice(0, 4)
"""Where each region's actions stand."""


@dataclass(frozen=True)
class LiftKind:
    """A kind of lift, or many; both vectors have length one.

    Args:
        actions: Joint actions from the lengthened to the shortened end: the shoulder's swing in the torso frame, its turn,
            elbow, forearm, hip (three), knee, ankle, trunk, shoulder blade (two), wrist, waist, (..., action).
        shortening: How far every muscle shortens times its greatest force, (..., muscle).
    """

    actions: Floats
    shortening: Floats

    @staticmethod
    def of(motion: Motion) -> LiftKind:
        """Of a motion, its first pose being the lengthened end."""
        return LiftKind(_scaled(_actions(motion)), _scaled(_shortening(motion)))

    def joints(self) -> dict[str, float]:
        """How much each joint moves, parts of all, by name; of one kind."""
        places = {"shoulder": ARM_SWING, "elbow": slice(4, 5), "hip": slice(6, 9), "knee": slice(9, 10), "ankle": slice(10, 11)}
        every = places | {"trunk": TRUNK, "shoulder blade": SCAPULA, "wrist": WRIST, "waist": WAIST}
        return {name: float(np.linalg.norm(self.actions[at])) for name, at in every.items()}

    def likeness(self, other: LiftKind) -> Floats:
        """How alike two kinds are, 0 to 1, (...): the mean cosine of what joints do and of what muscles do."""
        return np.asarray((np.maximum(0.0, dot(self.actions, other.actions)) + dot(self.shortening, other.shortening)) / 2)


def _scaled(vector: Floats) -> Floats:
    return vector / max(float(np.linalg.norm(vector)), 1e-9)


def _actions(motion: Motion) -> Floats:
    """Angles from the first to the last pose, radians, (action,); what turns about a limb's own axis counts for less."""
    out, coords = np.zeros(WAIST.stop), motion.coords
    if "arm" in coords:
        out[ARM] = [*_shoulder(coords["arm"]), *(coords["arm"][-1, 3:] - coords["arm"][0, 3:])]
        out[5] *= TURNING
    if "leg" in coords:
        out[LEG] = coords["leg"][-1] - coords["leg"][0]
        out[8] *= TURNING
    if "trunk" in coords:
        out[TRUNK] = coords["trunk"][-1] - coords["trunk"][0]
    if "scapula" in coords:
        out[SCAPULA] = coords["scapula"][-1] - coords["scapula"][0]
    if "wrist" in coords:
        out[WRIST] = coords["wrist"][-1] - coords["wrist"][0]
    if "waist" in coords:
        out[WAIST] = coords["waist"][-1] - coords["waist"][0]
    return out


def _shoulder(coords: Floats) -> list[float]:
    """Of coordinates (pose, 5): the upper arm's swing about the torso's axes, and its turn about its own, radians."""
    path = path_from_coordinates(coords)
    arm, crook = path.upper_arm, square_to(path.antecubital, path.upper_arm)
    frames = np.stack([arm, crook, cross(arm, crook)], axis=-1)
    turned = frames[1:] @ frames[:-1].transpose(0, 2, 1)
    # The axis of a small turn times its angle is half of what the matrix is off its mirror image.
    about = 0.5 * np.stack([turned[:, i, j] - turned[:, j, i] for i, j in ((2, 1), (0, 2), (1, 0))], axis=-1)
    middle = 0.5 * (arm[1:] + arm[:-1])
    turn = dot(about, middle)
    swing = (about - turn[:, None] * middle).sum(axis=0)
    return [*swing, TURNING * float(turn.sum())]


def _shortening(motion: Motion) -> Floats:
    """Greatest force times shortening of every muscle of the body, N·m, (muscle,); zero for what lengthens or stays."""
    out = []
    for name, region in muscle_table().regions.items():
        if name in motion.muscles:
            length = motion.muscles[name].length
            out.append(region.strongest * np.maximum(0.0, length[0] - length[-1]))
        else:
            out.append(np.zeros(len(region.names)))
    return np.concatenate(out)
