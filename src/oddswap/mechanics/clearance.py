"""What limits a line of pull beside the kit itself: it must clear the body, and a standing client must hold against it."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import GRAVITY, tables
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.types import Floats


def segment_distance(a0: Floats, a1: Floats, b0: Floats, b1: Floats) -> Floats:
    """Least distance between segments a0-a1 and b0-b1, (..., xyz) each, broadcast; (...).

    The closest points of two lines, clamped to the segments (Ericson 2005, from memory).
    """
    u, v, w = a1 - a0, b1 - b0, a0 - b0
    a, b, c, d, e = dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)
    parallel = a * c - b * b
    s = np.clip(np.where(parallel > 1e-12, (b * e - c * d) / np.where(parallel > 1e-12, parallel, 1.0), 0.0), 0.0, 1.0)
    t = (b * s + e) / np.maximum(c, 1e-12)
    t_kept = np.clip(t, 0.0, 1.0)
    s = np.where(t == t_kept, s, np.clip((b * t_kept - d) / np.maximum(a, 1e-12), 0.0, 1.0))
    gap = w + s[..., None] * u - t_kept[..., None] * v
    return np.asarray(np.sqrt(dot(gap, gap)))


def line_clearance(motion: Motion, far_end: Floats) -> Floats:
    """Room between a line of pull and the body, m, negative where it cuts through; least over poses, (placement...).

    Args:
        motion: The movement; its hands are where the line starts.
        far_end: Pulley or anchor, m, (placement..., xyz).
    """
    body, joints = motion.body, motion.posture.joints
    capsules = [
        (joints["hips"], joints["shoulders"], body.own("trunk_radius")),
        (joints["neck"], joints["head"], body.own("head_radius")),
        *((joints[f"{side} hip"], joints[f"{side} knee"], body.own("thigh_radius")) for side in ("right", "left")),
    ]
    # A third of the poses is dense enough: the line sweeps a few centimetres between them.
    hand = motion.arm.grip[::3]
    end = np.broadcast_to(far_end[..., None, :], (*far_end.shape[:-1], *hand.shape))
    room = [segment_distance(hand, end, lower, upper) - radius for lower, upper, radius in capsules]
    return np.asarray(np.min(np.stack(room), axis=(0, -1)))


def standing_hold(motion: Motion, force: Floats, both_arms: bool) -> Floats:
    """How much of a standing client's hold against tipping a pull leaves, N·m, negative where it would topple them.

    The level part of the pull times its height must stay under body weight times half the base that staggered feet and a
    leaning trunk give (``[balance]`` in the body data). With both arms, sideways pulls cancel.

    Args:
        motion: The movement; anything but standing holds.
        force: Force on the hand, N, (placement..., pose, xyz).
        both_arms: Whether the left hand is pulled alike.

    Returns:
        Least over poses, (placement...).
    """
    if motion.posture.stance.kind != "standing":
        return np.full(force.shape[:-2], np.inf)
    level = 2 * np.abs(force[..., 0]) if both_arms else np.hypot(force[..., 0], force[..., 1])
    base = tables()["balance"]["half_base"] * motion.body.stature
    return np.asarray((motion.body.mass * GRAVITY * base - level * motion.arm.grip[:, 2]).min(axis=-1))
