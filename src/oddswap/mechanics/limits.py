"""Hard limits of a set-up beside the kit's own, each written once, for any number of placements.

A line of pull must clear the body, a column must stand off the client and inside the room, a bench must clear the column, a
standing client must hold against the pull, and hands and head must stay under the ceiling.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import GRAVITY, Body, tables
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.push import Push
from oddswap.mechanics.types import Bools, Floats, Ints

TOLERANCE = 1e-6
"""Metres, or newton metres, of rounding that are forgiven."""


@dataclass(frozen=True)
class Limit:
    """A hard limit at each placement: broken where ``margin`` (placement...) is negative.

    Args:
        field: The setting's field it hangs on.
        margin: What is to spare, m, or N·m where a moment is held, (placement...).
        words: What is allowed, in words with units.
        way_out: What to do about it.
    """

    field: str
    margin: Floats
    words: str
    way_out: str

    @property
    def kept(self) -> Bools:
        """Where the limit holds, (placement...)."""
        return np.asarray(self.margin >= -TOLERANCE)


def segment_distance(a0: Floats, a1: Floats, b0: Floats, b1: Floats) -> Floats:
    """Least distance between segments a0-a1 and b0-b1, m, (..., xyz) each, broadcast; (...).

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
class Posture:
    """What of a motion its limits hang on; several of one kind may be stacked along leading axes.

    Args:
        lower: One end of trunk, head and thighs as rounded rods, m, (..., rod, pose, xyz).
        upper: Their other ends, m, (..., rod, pose, xyz).
        radius: m, (..., rod, 1); negative where a line may pass: between the legs in a pull-through, before or behind them
            from a cuff.
        point: Where a line starts, m, (..., pose, xyz).
        height: Height of that point at every pose of the motion, m, (..., all poses).
        on_bench: Whether a bench carries the body, (...).
        recline: Angle of its back rest to the floor, radians, (...).
        feet_alone: Whether the feet alone hold against tipping, (...).
        hold: Greatest toppling moment held, N·m, (...).
    """

    lower: Floats
    upper: Floats
    radius: Floats
    point: Floats
    height: Floats
    on_bench: Bools
    recline: Floats
    feet_alone: Bools
    hold: Floats

    @staticmethod
    def of(motion: Motion, contact: Contact | None = None, apart: int = 3) -> Posture:
        """Of a motion whose lines start at ``contact``; rods at every third pose, or another part of them, are dense enough:
        a line sweeps a few centimetres between them."""
        body, joints = motion.body, {k: v[::apart] for k, v in motion.joints.items()}
        thigh = body.own("thigh_radius")
        rods = [("hips", "shoulders"), ("neck", "head"), ("right hip", "right knee"), ("left hip", "left knee")]
        radius = np.array([body.own("trunk_radius"), body.own("head_radius"), thigh, thigh])[:, None]
        contact = contact or motion.support.contact
        if motion.between_legs or contact in ("thigh", "shank", "foot"):
            radius[2:] = -1.0
        lower, upper = (np.stack([joints[rod[end]] for rod in rods]) for end in (0, 1))
        point = motion.point(contact)
        stance = motion.stance
        return Posture(
            lower, upper, radius, point[::apart], point[:, 2], np.array(stance.kind == "bench"), np.array(stance.recline),
            np.array(stands(motion)), np.array(base_hold(body)),
        )  # fmt: skip

    @staticmethod
    def stack(postures: Sequence[Posture]) -> Posture:
        """Several as one, along a new first axis."""
        return Posture(*(np.stack(parts) for parts in zip(*(p.arrays for p in postures), strict=True)))

    @property
    def arrays(self) -> tuple[Any, ...]:
        """All fields in their order."""
        return (
            self.lower, self.upper, self.radius, self.point, self.height, self.on_bench, self.recline, self.feet_alone,
            self.hold,
        )  # fmt: skip

    def select(self, rows: Ints) -> Posture:
        """Some of those that are stacked, by index, (row,)."""
        return Posture(*(a[rows] for a in self.arrays))

    def in_middle(self) -> Posture:
        """With lines that start midway between the hands, where one bar or rope is hooked; they may touch the body there."""
        thinner = np.where(self.radius > 0, self.radius - tables()["clearance"]["middle_line"], self.radius)
        return replace(self, point=self.point * np.array([1.0, 0.0, 1.0]), radius=thinner)

    def line_room(self, far_end: Floats) -> Floats:
        """Room between lines of pull and the body, m, negative where one cuts through; least over rods and poses, (...).

        Args:
            far_end: Pulley or anchor, m, (..., xyz), one for each stacked posture, or any number for a single one.
        """
        end = far_end[..., None, None, :]
        gap = segment_distance(self.point[..., None, :, :], end, self.lower, self.upper) - self.radius
        return np.asarray(gap.min(axis=(-1, -2)))

    def bench_room(self, far_end: Floats) -> Floats:
        """Floor between a bench and the column or wall that a line of pull comes from, m, (...); infinite without a bench.

        Args:
            far_end: Pulley or anchor, m, (..., xyz).
        """
        bench = tables()["bench"]
        back = bench["rest"] * np.cos(self.recline) + bench["behind"]
        beyond_x = np.maximum(far_end[..., 0] - bench["front"], -back - far_end[..., 0])
        beyond_y = np.abs(far_end[..., 1]) - bench["half_width"]
        room = np.maximum(beyond_x, beyond_y) - bench["column"]
        return np.asarray(np.where(self.on_bench, room, np.inf))

    def toppling(self, force: Floats, both_sides: bool) -> Floats:
        """Greatest toppling moment over poses, N·m, (...): the level part of a pull times its height above the floor.

        Args:
            force: On the contact, N, (..., all poses, xyz).
            both_sides: Whether the left side is pulled alike; sideways pulls then cancel.
        """
        level = 2 * np.abs(force[..., 0]) if both_sides else np.hypot(force[..., 0], force[..., 1])
        return np.asarray((level * self.height).max(axis=-1) * self.feet_alone)


def placement_limits(
    posture: Posture,
    far_end: Floats | None,
    force: Floats | None,
    both_sides: bool,
    farthest: float = np.inf,
    lean: float = 1.0,
) -> list[Limit]:
    """All limits that hang on where a line of pull leads.

    Args:
        posture: The body, one for all placements or one for each.
        far_end: Pulley or anchor, m, (..., xyz); None where there is no line, and so no limit.
        force: On the contact, N, (..., pose, xyz); None where the load is not known yet.
        both_sides: Whether the left side is pulled alike.
        farthest: How far off the room allows a line to reach, m.
        lean: Times the usual hold against tipping that is allowed, for who leans into it.
    """
    if far_end is None:
        return []
    rule = tables()["clearance"]
    off = np.hypot(far_end[..., 0], far_end[..., 1])
    # What is held under a foot stands in nobody's way.
    stands_off = np.where(far_end[..., 2] > rule["under_foot"], off - rule["nearest"], np.inf)
    nearest, place = f"{rule['nearest'] * 100:.0f} cm", "forward_cm"
    out = [
        Limit(place, stands_off, f"the column or wall stands at least {nearest} from the hips", "Stand farther off"),
        Limit(place, farthest - off, "the pull must come from inside the room", "Stand closer"),
        Limit(place, posture.bench_room(far_end), "the bench must clear the column or wall", "Move the bench, or turn it"),
        Limit(place, posture.line_room(far_end), "the line of pull must not cut through the body",
              "Turn, or bring the hand across on the other side"),
    ]  # fmt: skip
    if force is not None:
        held = np.where(posture.feet_alone, lean * posture.hold - posture.toppling(force, both_sides), np.inf)
        out.append(Limit(place, held, "the pull must not topple the client", "Take less, lean into it, or sit or kneel"))
    return out


def room_limits(motion: Motion, ceiling: float) -> list[Limit]:
    """Limits of a motion whatever loads it: hands over the floor, hands and head under the ceiling.

    Args:
        motion: The movement.
        ceiling: Height of the room, m; infinite where it is not known.
    """
    rule, out = tables()["clearance"], []
    grip = motion.arm.grip[:, 2]
    if "arm" in motion.coords and motion.support.root == "hips":
        words = "the hand must stay above the floor"
        out.append(Limit("seat_cm", np.asarray(grip.min()), words, "Raise the seat or shorten the range"))
    top = max(float(motion.joints["head"][:, 2].max()) + motion.body.own("head_radius"), float(grip.max()) + rule["in_hand"])
    words = f"head and hands stay under the ceiling, {ceiling * 100:.0f} cm" if np.isfinite(ceiling) else ""
    out.append(Limit("stance", np.asarray(ceiling - top), words, "Sit, kneel, or take another lift"))
    return out


def bar_limits(motion: Motion) -> list[Limit]:
    """Limits of a straight bar in both hands: it reaches from hand to hand, and passes neither trunk, head nor thighs."""
    rule, grip = tables()["clearance"], motion.arm.grip
    half = (np.abs(grip[:, 1]) + rule["bar_over"])[:, None] * np.array([0.0, 1.0, 0.0])
    posture = Posture.of(motion, apart=1)
    middle = grip * np.array([1.0, 0.0, 1.0])
    gap = segment_distance(middle - half, middle + half, posture.lower, posture.upper) - posture.radius
    give = np.array([rule["bar_at_trunk"]] * 2 + [rule["bar_at_thigh"]] * 2)
    room = (gap.min(axis=1) + give).min()
    rel = grip - motion.joints["hips"]
    ahead, along = dot(rel, motion.skeleton.torso[..., 0]), dot(rel, motion.skeleton.torso[..., 2])
    ahead = ahead[along < np.linalg.norm(motion.joints["shoulders"] - motion.joints["hips"], axis=-1)]
    passed = min(ahead.max(), -ahead.min()) if len(ahead) else -1.0
    words = "a straight bar must clear trunk, head and thighs"
    margin = np.asarray(min(room, rule["bar_past"] - passed))
    return [Limit("use", margin, words, "Take a rope, handles or dumbbells")]


def stands(motion: Motion) -> bool:
    """Whether a pull could topple: the feet alone hold, and nothing is balanced over them pose by pose."""
    return motion.stance.kind == "standing" and motion.support.base == "seat"


def lean_of(motion: Motion, pushes: Sequence[Push]) -> float:
    """Ratio of what pulls ask for, each by itself, to the usual hold against tipping; 0 where nothing could topple."""
    if not stands(motion):
        return 0.0
    contact = motion.support.contact
    posture = Posture.of(motion, contact)
    asked = [float(posture.toppling(p.force, p.mirrored)) for p in pushes if p.contact == contact]
    return max(asked, default=0.0) / base_hold(motion.body)


def base_hold(body: Body) -> float:
    """Greatest toppling moment a standing client holds, N·m: body weight times half the base that staggered feet and a leaning
    trunk give (``[balance]`` in the body data)."""
    return float(body.mass * GRAVITY * tables()["balance"]["half_base"] * body.stature)


def with_point(posture: Posture, point: Floats, apart: int = 3) -> Posture:
    """A posture whose lines start elsewhere, m, (pose, xyz)."""
    return replace(posture, point=point[::apart], height=point[:, 2])
