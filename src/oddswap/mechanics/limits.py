"""Hard limits of a set-up beside the kit's own, each written once, for any number of placements.

A line of pull must clear the body, a column must stand off the client and inside the room, a bench must clear the column, a
standing client must hold against the pull, and hands and head must stay under the ceiling.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from oddswap.mechanics.arm import dot, greatest, unit
from oddswap.mechanics.body import GRAVITY, Body, tables
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.push import Push
from oddswap.mechanics.stance import UPRIGHT
from oddswap.mechanics.types import Bools, Floats, Ints
from oddswap.quantities import cm

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
        rested: Where a pad holds against it, see ``Stance.rested``, (...).
        hold: Greatest toppling moment held, N·m, (...).
        cushions: A back or chest rest and a seat: the middle of one end, m, direction to the other, normal, unit, and length,
            m, (..., cushion, 4, xyz); zero where there is none.
        near: Places of limbs and head that a column must not stand in, m, (..., place, pose, xyz).
    """

    lower: Floats
    upper: Floats
    radius: Floats
    point: Floats
    height: Floats
    on_bench: Bools
    recline: Floats
    feet_alone: Bools
    rested: Floats
    hold: Floats
    cushions: Floats
    near: Floats

    @staticmethod
    def of(motion: Motion, contact: Contact | None = None, apart: int = 3, whole: bool = True) -> Posture:
        """Of a motion whose lines start at ``contact``; rods at every third pose, or another part of them, are dense enough:
        a line sweeps a few centimetres between them. Not the ``whole`` body is trunk, head and thighs alone, for a first
        look."""
        body, joints = motion.body, {k: v[::apart] for k, v in motion.joints.items()}
        thigh = body.own("thigh_radius")
        rods = [("hips", "shoulders"), ("neck", "head"), ("right hip", "right knee"), ("left hip", "left knee")]
        sizes = [body.own("trunk_radius"), body.own("head_radius"), thigh, thigh]
        contact = contact or motion.support.contact
        cushions, near = np.zeros((2, 4, 3)), np.empty((0, 1, 3))
        if whole:
            rods += [("right knee", "right ankle"), ("left knee", "left ankle")]
            sizes += [body.own("shank_radius")] * 2
            rods += [("right shoulder", "right elbow")]
            # A press's line runs along the forearm, and so past the elbow.
            sizes += [body.own("arm_radius") if contact == "hand" and motion.movement.led != "press" else -1.0]
            cushions, near = cushions_of(motion), _near_column(joints)
        radius = np.array(sizes)[:, None] - tables()["clearance"]["line_at_body"]
        if motion.hold == "head":
            # Hands beside the temples: a strand of the rope passes on each side.
            radius[1] -= tables()["clearance"]["rope_at_head"]
        if motion.between_legs:
            radius[2:] = -1.0
        elif contact in ("thigh", "shank", "foot"):
            # A cuff's line may run along its own leg, and an idle leg moves out of the way unless one stands on it.
            there = "left" if whole and motion.support.one_side else "none"
            legs = [i for i, rod in enumerate(rods) if rod[0].endswith(("hip", "knee")) and not rod[0].startswith(there)]
            radius[legs] = -1.0
        if whole and motion.stance.kind == "sitting":
            # What is held around the feet runs along the legs, which part or sink for it.
            radius[[i for i, rod in enumerate(rods) if rod[0].endswith(("hip", "knee"))]] = -1.0
        lower, upper = (np.stack([joints[rod[end]] for rod in rods]) for end in (0, 1))
        if motion.hold != "head":
            # Hands and a rope's strands beside the temples are below the vertex.
            upper[1] += body.own("crown") * unit(upper[1] - lower[1])
        if whole:
            # The trunk is broader than deep.
            aside = 0.5 * body.own("trunk_radius") * np.array([0.0, 1.0, 0.0])
            lower, upper = (np.concatenate([ends, ends[:1] + aside, ends[:1] - aside]) for ends in (lower, upper))
            radius = np.concatenate([radius, radius[:1], radius[:1]])
            # The other arm last: it is in the way only where both hands are loaded.
            lower, upper = (
                np.concatenate([ends, joints[f"left {joint}"][None]]) for ends, joint in ((lower, "shoulder"), (upper, "elbow"))
            )
            radius = np.concatenate([radius, radius[OWN_ARM : OWN_ARM + 1]])
        point = motion.point(contact)
        stance = motion.stance
        return Posture(
            lower, upper, radius, point[::apart], point[:, 2], np.array(stance.kind == "bench"), np.array(stance.recline),
            np.array(stands(motion)), np.array(stance.rested), np.array(base_hold(body)), cushions, near,
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
            self.rested, self.hold, self.cushions, self.near,
        )  # fmt: skip

    def select(self, rows: Ints, *names: str) -> Posture:
        """Some of those that are stacked, by index, (row,); only the fields ``names``, where they are all that is asked for."""
        if names:
            return replace(self, **{name: np.take(getattr(self, name), rows, axis=0) for name in names})
        return Posture(*(np.take(a, rows, axis=0) for a in self.arrays))

    def in_middle(self, rope: bool = False) -> Posture:
        """With lines that start midway between the hands, where one bar or rope is hooked; they may touch the body there, but
        for the head."""
        rule, give = tables()["clearance"], np.full((self.radius.shape[-2], 1), tables()["clearance"]["middle_line"])
        give[1] = 0.0
        thinner = np.where(self.radius > 0, self.radius - give, self.radius)
        beyond = self.point + np.where(self.point[..., 1:2] < 0, -1, 1) * rule["bar_over"] * np.array([0.0, 1.0, 0.0])
        middle = self.point * np.array([1.0, 0.0, 1.0])
        bar = np.stack([beyond, beyond * np.array([1.0, -1.0, 1.0]), middle], axis=-3)
        near = self.near if rope or not self.near.shape[-3] else np.concatenate([bar, self.near], axis=-3)
        return replace(self, point=middle, radius=thinner, near=near)

    def line_room(self, far_end: Floats, both_sides: bool) -> Floats:
        """Room between lines of pull and the body, m, negative where one cuts through; least over rods and poses, (...).

        Args:
            far_end: Pulley or anchor, m, (..., xyz), one for each stacked posture, or any number for a single one.
            both_sides: Whether the left side is pulled alike: its arm stands in the way of a line that crosses over.
        """
        end = far_end[..., None, None, :]
        rods = slice(None) if both_sides and (far_end[..., 1] > 0).any() else slice(-1)
        lower, upper, radius = self.lower[..., rods, :, :], self.upper[..., rods, :, :], self.radius[..., rods, :]
        gap = segment_distance(self.point[..., None, :, :], end, lower, upper) - radius
        return np.asarray(gap.min(axis=(-1, -2)))

    def cushion_room(self, far_end: Floats) -> Floats:
        """How far lines of pull pass a bench's cushions by, m, negative where one would have to go through, (...).

        Args:
            far_end: Pulley or anchor, m, (..., xyz).
        """
        if not self.cushions.any():
            return np.full(far_end.shape[:-1], np.inf)
        origin, along, normal, long = np.moveaxis(self.cushions[..., None, :, :, :], -2, 0)
        start, end = self.point[..., :, None, :], far_end[..., None, None, :]
        bench, there, room = tables()["bench"], dot(normal, normal) > 0, np.array(np.inf)
        thick, long = np.full(long.shape[:-1], bench["half_thickness"]), long[..., 0]
        # A line enters and leaves by a face or an end.
        for across, way, low, high, face in (
            (normal, along, np.zeros(long.shape), long, -thick),
            (normal, along, np.zeros(long.shape), long, thick),
            (along, normal, -thick, thick, np.zeros(long.shape)),
            (along, normal, -thick, thick, long),
        ):
            from_start, from_end = dot(start - origin, across) - face, dot(end - origin, across) - face
            part = np.clip(from_start / np.where(from_start == from_end, 1.0, from_start - from_end), 0.0, 1.0)
            crossing = start + part[..., None] * (end - start) - origin
            up, aside = dot(crossing, way), np.abs(crossing[..., 1]) - bench["half_rest"] - bench["seam"]
            past = np.maximum(np.maximum(aside, up - high), low - up)
            room = np.minimum(room, np.where((from_start * from_end < 0) & there, past, np.inf).min(axis=(-1, -2)))
        return np.asarray(room)

    def column_room(self, far_end: Floats, both_sides: bool, overhang: float = 0.0) -> Floats:
        """Room between limbs and the column or wall that a line comes from, m, (...): it stands behind its pulley.

        Args:
            far_end: Pulley or anchor, m, (..., xyz).
            both_sides: Whether the left arm works too.
            overhang: How far the far end stands out before it, m.
        """
        near = self.near if both_sides else self.near[..., :-LEFT_ARM, :, :]
        if not near.shape[-3]:
            return np.full(far_end.shape[:-1], np.inf)
        rule = tables()["column"]
        away = unit(far_end * np.array([1.0, 1.0, 0.0]))[..., None, None, :]
        rel = near - far_end[..., None, None, :]
        deep, aside = dot(rel, away) - overhang, np.abs(rel[..., 1] * away[..., 0] - rel[..., 0] * away[..., 1])
        size = np.full(near.shape[-3], rule["limb"])
        size[HEAD - (LEFT_ARM if both_sides else 0)] = rule["head"]
        room = np.maximum(np.maximum(-deep, deep - rule["depth"]), aside - rule["half_width"]) - size[:, None]
        return np.asarray(room.min(axis=(-1, -2)))

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
        rested = self.rested[..., None]
        along = np.where(rested == 0, np.abs(force[..., 0]), np.maximum(force[..., 0] * rested, 0.0))
        level = 2 * along if both_sides else np.hypot(along, force[..., 1])
        return np.asarray(greatest(level * self.height) * self.feet_alone)


def placement_limits(
    posture: Posture,
    far_end: Floats | None,
    force: Floats | None,
    both_sides: bool,
    farthest: float = np.inf,
    lean: float = 1.0,
    overhang: float = 0.0,
) -> list[Limit]:
    """All limits that hang on where a line of pull leads.

    Args:
        posture: The body, one for all placements or one for each.
        far_end: Pulley or anchor, m, (..., xyz); None where there is no line, and so no limit.
        force: On the contact, N, (..., pose, xyz); None where the load is not known yet.
        both_sides: Whether the left side is pulled alike.
        farthest: How far off the room allows a line to reach, m.
        lean: Times the usual hold against tipping that is allowed, for who leans into it.
        overhang: How far the far end stands out before its column or wall, m.
    """
    if far_end is None:
        return []
    out = [*place_limits(posture, far_end, both_sides, farthest, overhang), *line_limits(posture, far_end, both_sides)]
    if force is not None:
        held = np.where(posture.feet_alone, lean * posture.hold - posture.toppling(force, both_sides), np.inf)
        words = "the pull must not topple the client"
        out.append(Limit("forward_cm", held, words, "Take less, lean into it, or sit or kneel"))
    return out


def place_limits(
    posture: Posture, far_end: Floats, both_sides: bool, farthest: float = np.inf, overhang: float = 0.0
) -> list[Limit]:
    """Limits of where a line leads to; see ``placement_limits``."""
    rule = tables()["clearance"]
    off = np.hypot(far_end[..., 0], far_end[..., 1])
    stands_off = off + overhang - rule["nearest"]
    nearest, place, bench = cm(rule["nearest"] * 100), "forward_cm", posture.bench_room(far_end) + overhang
    return [
        Limit(place, stands_off, f"the column or wall stands at least {nearest} from the hips", "Stand farther off"),
        Limit(place, farthest - off, "the pull must come from inside the room", "Stand closer"),
        Limit(place, bench, "the bench must clear the column or wall", "Move the bench, or turn it"),
        Limit(place, posture.column_room(far_end, both_sides, overhang),
              "the column or wall must not stand in the way of arms and legs", "Stand farther off, or turn"),
    ]  # fmt: skip


def line_limits(posture: Posture, far_end: Floats, both_sides: bool) -> list[Limit]:
    """Limits of what a line passes; see ``placement_limits``."""
    place, turn = "forward_cm", "Turn, or bring the hand across on the other side"
    return [
        Limit(place, posture.cushion_room(far_end), "the line of pull must not cut through the bench", "Move the bench"),
        Limit(place, posture.line_room(far_end, both_sides), "the line of pull must not cut through the body", turn),
    ]


def cushions_of(motion: Motion) -> Floats:
    """A bench's back or chest rest and its seat, as in ``Posture.cushions``; who sits upright leans on no rest."""
    stance, bench, out = motion.stance, tables()["bench"], np.zeros((2, 4, 3))
    if stance.kind == "chest_supported" or stance.rested or (stance.kind == "bench" and stance.recline < UPRIGHT):
        ahead, spine = motion.skeleton.torso[0, :, 0], motion.skeleton.torso[0, :, 2]
        side = 1.0 if stance.kind.startswith("chest") else -1.0
        off = motion.body.own("trunk_radius") + bench["half_thickness"]
        out[0] = motion.joints["hips"][0] + side * off * ahead, spine, ahead, (bench["rest"], 0, 0)
    if stance.kind == "bench":
        out[1] = (bench["seat_from"], 0, stance.seat - bench["half_thickness"]), (1, 0, 0), (0, 0, 1), (bench["seat"], 0, 0)
    return out


OWN_ARM = 6
"""Which rod the working arm is."""
LEFT_ARM, HEAD = 3, -1
"""The last of the places that a column must not stand in are so many of the left arm; the head is the last before them."""


def _near_column(joints: Mapping[str, Floats]) -> Floats:
    """Limbs' ends and head, m, (place, pose, xyz); the left arm's last, which moves out of the way where it is idle."""

    def arm(side: str) -> list[Floats]:
        elbow, grip = joints[f"{side} elbow"], joints[f"{side} grip"]
        return [elbow, 0.5 * (elbow + grip), grip]

    names = [f"{s} {n}" for s in ("right", "left") for n in ("shoulder", "knee", "ankle", "toe")]
    # Legs stretched out ahead may pass a column with knee and ankle and not with the shin.
    shins = [0.5 * (joints[f"{s} knee"] + joints[f"{s} ankle"]) for s in ("right", "left")]
    # Who leans forward has the crown of the head ahead of its middle.
    crown = joints["head"] + 0.5 * (joints["head"] - joints["neck"])
    return np.stack([*(joints[n] for n in names), crown, *shins, *arm("right"), joints["head"], *arm("left")])


def stands(motion: Motion) -> bool:
    """Whether a pull could topple: the feet alone hold, and nothing is balanced over them pose by pose."""
    return (motion.stance.kind == "standing" or motion.stance.rested != 0) and motion.support.base == "seat"


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
