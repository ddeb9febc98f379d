"""What limits a line of pull beside the kit itself: it must clear the body, and a standing client must hold against it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import GRAVITY, Body, tables
from oddswap.mechanics.motion import Motion, Push
from oddswap.mechanics.types import Floats


def segment_distance(a0: Floats, a1: Floats, b0: Floats, b1: Floats) -> Floats:
    """Least distance between segments a0-a1 and b0-b1, (..., xyz) each, broadcast; (...).

    The closest points of two lines, clamped to the segments (Ericson 2005, from memory).
    """
    u, v, w = a1 - a0, b1 - b0, a0 - b0
    a, b, c, d, e = dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)
    parallel = a * c - b * b
    s = np.clip(np.where(parallel > 1e-12, (b * e - c * d) / np.where(parallel > 1e-12, parallel, 1.0), 0.0), 0.0, 1.0)
    t = np.clip((b * s + e) / np.maximum(c, 1e-12), 0.0, 1.0)
    # Given t the best s follows; this also mends what clamping t or a segment of no length left.
    s = np.clip((b * t - d) / np.maximum(a, 1e-12), 0.0, 1.0)
    gap = w + s[..., None] * u - t[..., None] * v
    return np.asarray(np.sqrt(dot(gap, gap)))


@dataclass(frozen=True)
class Capsules:
    """Trunk, head and thighs of a body as rounded rods, and the hand that a line starts at.

    Some ten poses are dense enough: the line sweeps a few centimetres between them.

    Args:
        lower: One end of every rod, m, (..., rod, pose, xyz).
        upper: Its other end.
        radius: m, (rod, 1).
        hand: m, (..., pose, xyz).
    """

    lower: Floats
    upper: Floats
    radius: Floats
    hand: Floats

    @staticmethod
    def of(motion: Motion, apart: int = 3) -> Capsules:
        """Of a movement, of every third pose or another part of them."""
        body, joints = motion.body, {k: v[::apart] for k, v in motion.joints.items()}
        thigh = body.own("thigh_radius")
        rods = [("hips", "shoulders"), ("neck", "head"), ("right hip", "right knee"), ("left hip", "left knee")]
        radius = np.array([body.own("trunk_radius"), body.own("head_radius"), thigh, thigh])[:, None]
        lower, upper = (np.stack([joints[rod[end]] for rod in rods]) for end in (0, 1))
        return Capsules(lower, upper, radius, motion.arm.grip[::apart])

    def room(self, far_end: Floats) -> Floats:
        """Room between lines and the body, m, negative where one cuts through; least over rods and poses, (...).

        Args:
            far_end: Pulley or anchor, m, (..., xyz), as many as there are bodies or more.
        """
        end = far_end[..., None, None, :]
        gap = segment_distance(self.hand[..., None, :, :], end, self.lower, self.upper) - self.radius
        return np.asarray(gap.min(axis=(-1, -2)))


def line_clearance(motion: Motion, far_end: Floats) -> Floats:
    """Room between a line of pull and the body, m, negative where it cuts through; least over poses, (placement...).

    Args:
        motion: The movement; its hands are where the line starts.
        far_end: Pulley or anchor, m, (placement..., xyz).
    """
    return Capsules.of(motion).room(far_end)


def bench_clearance(motion: Motion, far_end: Floats) -> Floats:
    """Floor between a bench and the column or wall that a line of pull comes from, m, negative where they collide.

    Args:
        motion: The movement; without a bench there is no limit.
        far_end: Pulley or anchor, m, (placement..., xyz).
    """
    stance = motion.stance
    if stance.kind != "bench":
        return np.full(far_end.shape[:-1], np.inf)
    return bench_gap(np.array(stance.recline), far_end)


def bench_gap(recline: Floats, far_end: Floats) -> Floats:
    """``bench_clearance`` for back rests at angles to the floor, radians (...), and far ends (..., xyz); (...)."""
    bench = tables()["bench"]
    back = bench["rest"] * np.cos(recline) + bench["behind"]
    beyond_x = np.maximum(far_end[..., 0] - bench["front"], -back - far_end[..., 0])
    beyond_y = np.abs(far_end[..., 1]) - bench["half_width"]
    return np.asarray(np.maximum(beyond_x, beyond_y) - bench["column"])


def standing_hold(motion: Motion, force: Floats, both_arms: bool, lean: float = 1.0) -> Floats:
    """How much of a standing client's hold against tipping a pull leaves, N·m, negative where it would topple them.

    Args:
        motion: The movement; anything but standing holds.
        force: Force on the hand, N, (placement..., pose, xyz).
        both_arms: Whether the left hand is pulled alike.
        lean: Times the usual hold that is allowed, for who leans into it.

    Returns:
        Least over poses, (placement...).
    """
    if not stands(motion):
        return np.full(force.shape[:-2], np.inf)
    height = motion.point(motion.way.contact)[:, 2]
    return np.asarray(lean * base_hold(motion.body) - toppling(force, height, both_arms))


def stands(motion: Motion) -> bool:
    """Whether a pull could topple: the feet alone hold, and nothing is balanced over them pose by pose."""
    return motion.stance.kind == "standing" and motion.way.support == "seat"


def lean_of(motion: Motion, pushes: Sequence[Push]) -> float:
    """How many times the usual hold against tipping pulls ask for, each by itself; 0 where nothing could topple."""
    if not stands(motion):
        return 0.0
    contact = motion.way.contact
    height = motion.point(contact)[:, 2]
    asked = [float(toppling(p.force, height, p.mirrored)) for p in pushes if p.contact == contact]
    return max(asked, default=0.0) / base_hold(motion.body)


def base_hold(body: Body) -> float:
    """Greatest toppling moment a standing client holds, N·m: body weight times half the base that staggered feet and a leaning
    trunk give (``[balance]`` in the body data)."""
    return float(body.mass * GRAVITY * tables()["balance"]["half_base"] * body.stature)


def toppling(force: Floats, height: Floats, both_arms: bool) -> Floats:
    """Greatest toppling moment over poses, N·m, (...): the level part of a pull times its height above the floor.

    Args:
        force: On the hand, N, (..., pose, xyz).
        height: Of the hand, m, (..., pose).
        both_arms: Whether the left hand is pulled alike; sideways pulls then cancel.
    """
    level = 2 * np.abs(force[..., 0]) if both_arms else np.hypot(force[..., 0], force[..., 1])
    return np.asarray((level * height).max(axis=-1))
