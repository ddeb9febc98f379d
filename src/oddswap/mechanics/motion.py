"""A movement done by one client on given supports: joint coordinates, positions and muscles at every pose.

Everything here belongs to the movement and is shared by all the load sources that may be tried on it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import COORDINATES as ARM_COORDINATES
from oddswap.mechanics.arm import Arm, cross, dot, norm, unit
from oddswap.mechanics.body import GRAVITY, Body, tables, within_ranges
from oddswap.mechanics.leg import COORDINATES as LEG_COORDINATES
from oddswap.mechanics.leg import Leg, within_leg_ranges
from oddswap.mechanics.movement import Contact, Movement, Path, Way
from oddswap.mechanics.muscles import DATASET_STATURE, Group, MuscleState, muscle_table
from oddswap.mechanics.skeleton import MIRROR, Skeleton, build
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.types import Bools, Floats

POSES = 31
"""Poses along a repetition."""
LOOKED, STEPS, SETTLED = 9, 60, 1e-10
"""Angles looked at first, most steps to a balance, and what counts as reached, radians, m or N·m."""
BINS = 120
"""Bins of a target's normalised length."""
FINE = 16
"""Steps between two poses when values along a path are sorted into bins of length."""
COORDINATES = {
    "arm": ARM_COORDINATES,
    "leg": LEG_COORDINATES,
    "trunk": ("trunk flexion",),
    "girdle": ("girdle forward", "girdle up"),
}
"""Joint coordinates by region."""
# Which of a region's moment axes lie between a contact and the trunk.
LOADS: dict[Contact, dict[str, Bools]] = {
    "hand": {"arm": np.array([1, 1, 1, 1, 1], bool)},
    "forearm": {"arm": np.array([1, 1, 1, 1, 0], bool)},
    "upper_arm": {"arm": np.array([1, 1, 1, 0, 0], bool)},
    "back": {},
    "hips": {},
    "thigh": {"leg": np.array([1, 1, 1, 0, 0], bool)},
    "shank": {"leg": np.array([1, 1, 1, 1, 0], bool)},
    "foot": {"leg": np.array([1, 1, 1, 1, 1], bool)},
}
GIRDLE_RADIUS = 0.082
"""Collarbone's inner end to the shoulder's centre, part of stature: turns shifts of the girdle into angles."""
ABOVE_LOINS: tuple[Contact, ...] = ("hand", "forearm", "upper_arm", "back")


@dataclass(frozen=True)
class Push:
    """One external force on the body.

    Args:
        contact: Where on the body it bears.
        point: Its point of attack, world, m, (pose, xyz).
        force: World, N, (..., pose, xyz).
        couple: A free moment besides, world, N·m, (..., pose, xyz), or None.
        mirrored: Whether the left side gets its mirror image too.
    """

    contact: Contact
    point: Floats
    force: Floats
    couple: Floats | None = None
    mirrored: bool = True

    def total(self) -> tuple[Floats, Floats]:
        """Force of both sides together, N, and its moment about the world's origin, N·m, (..., pose, xyz) each."""
        force, about = self.force, cross(self.point, self.force)
        if self.couple is not None:
            about = about + self.couple
        # A moment is a pseudo-vector: its mirror image keeps the component across the mirror.
        return (force + force * MIRROR, about - about * MIRROR) if self.mirrored else (force, about)


@dataclass(frozen=True)
class Motion:
    """One client's movement without a load.

    Args:
        body: The client.
        movement: What is done.
        values: Its parameter values.
        stance: How they are carried.
        part: Parts of the way from long end to short end, (pose,).
        coords: Joint coordinates by region, radians, (pose, coordinate).
        skeleton: Positions and directions.
        muscles: Lengths and leverage by region, (pose, muscle, ...).
        pad: Whether a pad carries the upper arm, and with it the moment about the shoulder.
        both: Whether both sides work alike.
    """

    body: Body
    movement: Movement
    values: dict[str, float]
    stance: Stance
    part: Floats
    coords: dict[str, Floats]
    skeleton: Skeleton
    muscles: dict[str, MuscleState]
    pad: bool
    both: bool

    @property
    def arm(self) -> Arm:
        """The right arm."""
        return self.skeleton.arm

    @property
    def leg(self) -> Leg:
        """The right leg."""
        return self.skeleton.leg

    @cached_property
    def way(self) -> Way:
        """How the body rests and is loaded."""
        return self.movement.way(self.values)

    @property
    def foot(self) -> Floats:
        """Where the foot's reaction acts, m, (pose, xyz)."""
        return {"toes": self.leg.ball, "heels": self.leg.heel}.get(self.way.root, self.leg.sole)

    @property
    def joints(self) -> dict[str, Floats]:
        """Positions by name, both sides, (pose, xyz) each."""
        return self.skeleton.joints

    @property
    def regions(self) -> tuple[str, ...]:
        """Regions that the movement leads."""
        return tuple(self.muscles)

    def point(self, contact: Contact, along: float = 1.0, across: float = 0.0) -> Floats:
        """Where a load bears, m, (pose, xyz).

        Args:
            contact: Place on the body.
            along: Part of the way from the segment's upper joint to its end (forearm, upper arm, thigh, shank).
            across: Off where the hand is loaded as a rule, toward the thumb, m.
        """
        arm, leg, joints = self.arm, self.leg, self.joints
        if contact == "hand":
            return arm.grip + (across + self.way.across_cm / 100) * arm.thumb
        if contact == "foot":
            return leg.ball if self.way.root == "toes" else leg.sole
        if contact == "back":
            lying = tables()["lying"]
            return joints["shoulders"] + self.skeleton.torso @ (
                np.array([-lying["bar_back"], 0.0, lying["bar_top"]]) * self.body.stature
            )
        if contact == "hips":
            return joints["hips"] + self.skeleton.pelvis @ (np.array([0.06, 0.0, 0.01]) * self.body.stature)
        ends = {
            "forearm": (arm.elbow, arm.wrist),
            "upper_arm": (arm.shoulder, arm.elbow),
            "thigh": (leg.hip, leg.knee),
            "shank": (leg.knee, leg.ankle),
        }
        start, end = ends[contact]
        return np.asarray(start + min(along, 0.86 if contact == "shank" else 0.97) * (end - start))

    def moment(self, region: str, push: Push) -> Floats:
        """Moment of an external force about a region's joints, by the general law M = (p - joint) x F.

        Returns:
            N·m on the region's axes, (..., pose, axis): the ball joints' three in the torso or pelvis frame. What muscles must
            give is its negative. With the upper arm on a pad the shoulder's three are zero: the pad gives what is needed.
        """
        force, couple = push.force, push.couple
        if region == "trunk":
            if push.contact not in ABOVE_LOINS:
                return np.zeros((*force.shape[:-1], 1))
            about = cross(push.point - self.joints["loins"], force)
            about = about if couple is None else about + couple
            twice = 2.0 if push.mirrored and push.contact != "back" else 1.0
            # Bending forward turns about the axis to the left.
            return np.asarray(twice * about[..., 1:2])
        if region == "girdle":
            return self._girdle(push)
        mask = LOADS[push.contact].get(region)
        if mask is None:
            return np.zeros((*force.shape[:-1], 5))
        whole = np.zeros((*np.broadcast_shapes(push.point.shape, force.shape)[:-1], 5))
        first = 0
        for joint, axes in self._hinges(region):
            last = first + axes.shape[-1]
            if mask[first]:
                about = cross(push.point - joint, force)
                about = about if couple is None else about + couple
                whole[..., first:last] = np.einsum("...ji,...j->...i", axes, about)
            first = last
        whole *= mask
        whole[..., : self.held(region)] = 0.0
        return np.asarray(whole)

    def held(self, region: str) -> int:
        """How many axes of the ball joint, from the first, are not the muscles' because a pad carries the upper arm, or a
        seat the thigh: all three where it is held, the two level ones where a seat carries its weight."""
        if region == "arm":
            return 3 if self.pad else 0
        return {"free": 0, "rests": 2, "held": 3}[self.way.thigh] if region == "leg" else 0

    def _girdle(self, push: Push) -> Floats:
        """Moment of a force on the arm about the inner end of the collarbone, as it reaches the girdle at the shoulder's
        centre: up and forward, N·m, (..., pose, 2)."""
        if push.contact not in LOADS or "arm" not in LOADS[push.contact]:
            return np.zeros((*push.force.shape[:-1], 2))
        lever = muscle_table().settings["girdle"]["shoulder_from_collarbone_m"]
        scale = self.body.stature / DATASET_STATURE
        force = np.einsum("...ji,...j->...i", self.skeleton.torso, push.force)
        about = cross(np.broadcast_to(np.array(lever) * scale, force.shape), force)
        return np.stack([-about[..., 0], about[..., 2]], axis=-1)

    def _hinges(self, region: str) -> Sequence[tuple[Floats, Floats]]:
        """A region's joints from the trunk outward, m, (pose, xyz), and what turns there, columns, (pose, xyz, axis)."""
        arm, leg = self.arm, self.leg
        if region == "arm":
            return (arm.shoulder, arm.torso), (arm.elbow, np.stack([arm.elbow_axis, arm.pronation_axis], axis=-1))
        return (leg.hip, leg.pelvis), (leg.knee, leg.knee_axis[..., None]), (leg.ankle, leg.ankle_axis[..., None])

    @cached_property
    def weight_moment(self) -> dict[str, Floats]:
        """Moment of the segments' own weight by region, with what the supports give back, N·m, (pose, axis)."""
        return self.moving_weight_moment(None)

    def moving_weight_moment(self, acceleration: Floats | None) -> dict[str, Floats]:
        """Moments of m (g - a) of every segment by region, N·m, (pose, axis); accelerations (pose, segment, xyz), m/s^2."""
        at = self.skeleton
        # One row for all poses while nothing is thrown.
        pull = np.zeros((1, *at.centres.shape[1:])) if acceleration is None else -acceleration * at.masses[:, None]
        pull[..., 2] -= GRAVITY * at.masses
        out = {}
        for region in self.regions:
            if region == "girdle":
                held = np.zeros((len(self.part), 3))
                held[:, 2] = -GRAVITY * self.arm.masses.sum()
                out[region] = self._girdle(Push("hand", self.arm.grip, held))
            elif region == "trunk":
                bears = pull * at.upper[:, None]
                out[region] = self._forward(at.centres - self.joints["loins"][:, None], bears)[:, None]
            else:
                out[region] = self._limb_weight(region, pull)
        if self.way.support == "seat":
            return out
        every = np.broadcast_to(pull.sum(axis=1), (len(self.part), 3))
        about = cross(at.centres, pull).sum(axis=1)
        return self._with_reaction(out, every, about)

    def _forward(self, arm: Floats, force: Floats) -> Floats:
        """Moment about the axis to the left of forces (pose or 1, segment, xyz) at ``arm`` from it, N·m, (pose,)."""
        return np.asarray((arm[..., 2] * force[..., 0] - arm[..., 0] * force[..., 2]).sum(axis=-1))

    def _limb_weight(self, region: str, pull: Floats) -> Floats:
        """Moment of a limb's three segments out of what pulls on all, (pose or 1, segment, xyz), N·m, (pose, axis)."""
        limb: Arm | Leg = self.arm if region == "arm" else self.leg
        first = 3 if region == "arm" else 4
        bears: tuple[Contact, ...] = ("upper_arm", "hand", "hand") if region == "arm" else ("thigh", "shank", "foot")
        out = np.zeros((len(self.part), 5))
        for k, contact in enumerate(bears):
            out += self.moment(region, Push(contact, limb.centres[:, k], pull[:, first + 4 * k]))
        return out

    def _with_reaction(self, moments: dict[str, Floats], force: Floats, about: Floats) -> dict[str, Floats]:
        """Add what the supports give back to a total force (..., pose, xyz) with moment ``about`` the world's origin."""
        out = dict(moments)
        for push in self.reaction(force, about):
            for region in self.regions:
                out[region] = out[region] + self.moment(region, push)
        return out

    def reaction(self, force: Floats, about: Floats) -> list[Push]:
        """Supports' pushes that balance a total force with its moment about the world's origin, in the plane of symmetry.

        Args:
            force: N, (..., pose, xyz).
            about: N·m, (..., pose, xyz).
        """
        kind = self.way.support
        if kind == "seat":
            return []
        left_over = -force
        pitch = np.array([0.0, 1.0, 0.0])
        feet = self.foot
        middle = feet * np.array([1.0, 0.0, 1.0])
        if kind == "two feet":
            # The rear foot stands on its toes; what it carries does not load the working leg.
            rear = self.joints["left toe"] * np.array([1.0, 0.0, 1.0])
            turning = (about - cross(rear, force))[..., 1]
            upright = turning / (middle - rear)[..., 0]
            front = np.zeros_like(force)
            front[..., 2] = upright
            # Feet fore and aft press apart so that neither leg works more than it must: their pushes meet near the body's
            # centre, here the middle of the trunk (own assumption), whatever the load.
            rise = 0.5 * (self.joints["hips"] + self.joints["shoulders"]) - feet
            front[..., 0] = upright * rise[..., 0] / rise[..., 2]
            return [Push("foot", feet, front, mirrored=False)]
        if kind in ("feet", "hands"):
            contact: Contact = "foot" if kind == "feet" else "hand"
            at = feet if kind == "feet" else self.arm.grip
            share = 0.5 if self.both else 1.0
            ground = middle if kind == "feet" else at * np.array([1.0, 0.0, 1.0])
            turn = -(about[..., 1:2] - cross(ground, force)[..., 1:2]) * pitch
            pushed = share * left_over
            return [Push(contact, at, self._inward(pushed) if kind == "feet" else pushed, share * turn, mirrored=self.both)]
        hold = {"hands and feet": "hand", "hands and knees": "hand", "back and feet": "back"}[kind]
        near = self.arm.grip if hold == "hand" else self.bench_edge
        if kind == "hands and knees":
            feet, middle = self.leg.knee, self.leg.knee * np.array([1.0, 0.0, 1.0])
        # Two supports carry upright forces; whatever pushes along the floor is held by the feet. Hanging from a bar the pull
        # leads along the forearms instead: heels and bar can hold any push between them, and people let the arms hang in it.
        way = np.broadcast_to(np.array([0.0, 0.0, 1.0]), near.shape)
        if self.way.root == "heels":
            way = unit((self.arm.grip - self.arm.elbow) * np.array([1.0, 0.0, 1.0]))
        turning = (about - cross(middle, force))[..., 1]
        upright = (-turning / cross(near - middle, way)[..., 1])[..., None] * way
        far: Contact = "thigh" if kind == "hands and knees" else "foot"
        below = 0.5 * (left_over - upright)
        first = Push(hold, near, (0.5 if hold == "hand" else 1.0) * upright, mirrored=hold == "hand")  # type: ignore[arg-type]
        return [first, Push(far, feet, self._inward(below) if far == "foot" else below)]

    def _inward(self, force: Floats) -> Floats:
        """A foot's push (..., pose, xyz) with what two feet add by spreading the floor: the line leads through the hip.

        Standing wide, the feet could press apart or together by any amount; people let the ground hold them, so that the
        hips need neither open nor close.
        """
        if not self.both:
            return force
        rise = self.leg.hip - self.foot
        out = force.copy()
        out[..., 1] = force[..., 2] * rise[..., 1] / np.maximum(rise[..., 2], 0.2)
        return out

    @property
    def bench_edge(self) -> Floats:
        """Where the upper back bears on the edge of a bench, m, (pose, xyz)."""
        hips, shoulders = self.joints["hips"], self.joints["shoulders"]
        edge, behind = tables()["lying"]["bench_edge"], self.body.own("trunk_radius")
        return np.asarray(hips + edge * (shoulders - hips) - behind * self.skeleton.torso[..., :, 0])

    def response(self, push: Push) -> dict[str, Floats]:
        """Moments of one load by region with what the supports give back, N·m, (..., pose, axis)."""
        out = {region: self.moment(region, push) for region in self.regions}
        if self.way.support == "seat":
            return out
        force, about = push.total()
        return self._with_reaction(out, force, about)

    def leverage(self, group: Group) -> Floats:
        """Leverage of a muscle group, m on its region's axes, (pose, axis); without the shoulder's on a pad."""
        out: Floats = np.einsum("pmx,m->px", self.muscles[group.region].leverage, group.weights)
        out[:, : self.held(group.region)] = 0.0
        return out

    def direction(self, group: Group) -> Floats:
        """Leverage scaled to length one, r/|r|, (pose, axis)."""
        r = self.leverage(group)
        return np.asarray(r / np.maximum(np.linalg.norm(r, axis=-1, keepdims=True), 1e-9))

    def target_length(self, group: Group) -> Floats:
        """Normalised length of a group, 0 longest to 1 shortest its joints allow, (pose,)."""
        region = muscle_table().regions[group.region]
        return np.asarray(region.normalised(self.muscles[group.region].length) @ group.weights)

    def _aligned(self, region: str) -> Floats:
        leverage = self.muscles[region].leverage
        if self.held(region):
            leverage = leverage.copy()
            leverage[..., : self.held(region)] = 0.0
        return leverage

    def capacity(self, group: Group) -> Floats:
        """What all muscles together can give along the group's own direction, N·m, (pose,).

        c = sum over muscles of F_i(length) max(0, r_i . r/|r|): helpers count as far as they pull the same way.
        """
        region = muscle_table().regions[group.region]
        aligned = np.maximum(0.0, np.einsum("pmx,px->pm", self._aligned(group.region), self.direction(group)))
        strongest = region.capacity(self.muscles[group.region].length) * self.body.strength
        return np.asarray((strongest * aligned).sum(axis=-1))

    def share(self, group: Group, moment: Floats) -> Floats:
        """Part of a load that a group carries when every muscle pulls as far as it is strong and well placed for it.

        share = sum over the group of F_i max(0, r_i . m)^2 over the same sum of all muscles, with m the direction that must
        be given (minus the load's moment): activation in proportion to alignment.

        Args:
            group: The muscle group.
            moment: Moment of the load on the group's region, N·m, (..., pose, axis).

        Returns:
            The share, mean over poses weighed by the size of the moment, (...).
        """
        size = norm(moment)
        needed = -moment / np.maximum(size, 1e-9)[..., None]
        # (pose, muscle, axis) @ (..., pose, axis, 1): alignment of every muscle with what is needed.
        aligned = np.maximum(0.0, (self._aligned(group.region) @ needed[..., None])[..., 0])
        region = muscle_table().regions[group.region]
        carried = region.capacity(self.muscles[group.region].length) * aligned**2
        member = group.weights > 0
        part = carried[..., member].sum(axis=-1) / np.maximum(carried.sum(axis=-1), 1e-12)
        return np.asarray((part * size).sum(axis=-1) / np.maximum(size.sum(axis=-1), 1e-9))

    def virtual_path(self, group: Group, contact: Contact = "hand") -> Floats:
        """How a contact on the limb moves per unit of the group's direction, m, world, (pose, xyz).

        Virtual work: the effective torque of a force F there is ``-F . G``; G is made once a movement, so that a
        placement costs one inner product. It holds where no support gives anything back.
        """
        d, point = self.direction(group), self.point(contact)
        mask = LOADS[contact].get(group.region)
        if mask is None:
            return np.zeros_like(point)
        d = d * mask
        out = np.zeros_like(point)
        first = 0
        for joint, axes in self._hinges(group.region):
            last = first + axes.shape[-1]
            turning = np.einsum("pij,pj->pi", axes, d[:, first:last])
            out = out + cross(turning, point - joint)
            first = last
        return out

    def own_demand(self, group: Group) -> Floats:
        """Effective torque of the body's own weight on the group, signed, N·m, (pose,)."""
        return np.asarray(-dot(self.weight_moment[group.region], self.direction(group)))

    def binning(self, group: Group) -> Floats:
        """Matrix (bin, pose) that turns values along the path into means per bin of the group's normalised length.

        Bins the movement does not reach are zero rows. Between poses values are taken as linear.
        """
        return np.asarray(binned(self.target_length(group)[None], range(BINS + 1))[0])


def binned(length: Floats, edges: Sequence[int]) -> Floats:
    """Matrices (way, span, pose) that turn values along a path into sums over bins of normalised length.

    A value's mean in each of the ``BINS`` bins is summed over the bins of every span between two ``edges``; bins that a way
    does not reach count zero. Between poses values are taken as linear.

    Args:
        length: Normalised lengths, (way, pose).
        edges: Bins where spans begin and end, ascending, (span + 1,).
    """
    count, poses = length.shape
    fine = np.linspace(0, poses - 1, FINE * poses)
    low = np.minimum(fine.astype(int), poses - 2)
    part = fine - low
    where = ((length[:, low] * (1 - part) + length[:, low + 1] * part) * BINS).astype(int)
    where = np.clip(where, 0, BINS - 1)
    flat = where + BINS * np.arange(count)[:, None]
    weight = 1.0 / np.bincount(flat.ravel(), minlength=count * BINS)[flat]
    spans = len(edges) - 1
    span = np.searchsorted(np.asarray(edges), where, side="right") - 1
    cell = ((spans * np.arange(count)[:, None] + span) * poses + low).ravel()
    out = np.bincount(cell, (weight * (1 - part)).ravel(), count * spans * poses)
    out += np.bincount(cell + 1, (weight * part).ravel(), count * spans * poses)
    return np.asarray(out.reshape(count, spans, poses))


Loads = Callable[[Motion], Sequence[Push]]
"""The loads on a body at given poses; what is solved for balance depends on them."""


def perform(
    body: Body,
    movement: Movement,
    values: dict[str, float],
    stance: Stance,
    pad: bool = False,
    poses: int = POSES,
    both: bool = True,
    loads: Loads | None = None,
    muscles: bool = True,
) -> Motion:
    """Lead ``body`` along ``movement``.

    Args:
        body: The client.
        movement: What is done.
        values: Parameter values; defaults fill what is missing.
        stance: How the body is carried.
        pad: Whether a pad carries the upper arm.
        poses: How many poses.
        both: Whether both sides work alike.
        loads: What loads the body, where balance is solved for.
        muscles: Whether muscles are followed too; ``with_muscles`` does it for many motions at once.

    Raises:
        DomainError: For parameter values outside their ranges, poses that no joint reaches, or no balance.
    """
    complete = movement.complete(values)
    part = np.linspace(0.0, 1.0, poses)
    free = np.zeros(poses)
    if movement.way(complete).balance is not None:
        free = solve_balance(body, movement, complete, stance, part, both, loads)
    motion = posed(body, movement, complete, stance, movement.path(complete, part, free), pad, both, muscles)
    check_ranges(motion)
    return motion


def posed(
    body: Body,
    movement: Movement,
    values: dict[str, float],
    stance: Stance,
    path: Path,
    pad: bool,
    both: bool,
    muscles: bool = True,
) -> Motion:
    """The body along a path, without a look at joint ranges."""
    count = len(path.part)
    skeleton = build(body, movement, path, stance, values, both)
    coords: dict[str, Floats] = {}
    if path.arm is not None:
        coords["arm"] = path.arm.coordinates()
    if path.leg is not None:
        coords["leg"] = path.leg
    if path.arm is not None or path.girdle is not None:
        shift = np.zeros((count, 3)) if path.girdle is None else path.girdle
        coords["girdle"] = shift[:, [0, 2]] / GIRDLE_RADIUS
    if stance.kind not in ("bench", "chest_pad"):
        # On a bench the rest carries the trunk.
        coords["trunk"] = np.broadcast_to(np.asarray(path.lumbar, float), (count,))[:, None]
    regions = muscle_table().regions if muscles else {}
    states = {n: regions[n].evaluate_many(c) for n, c in coords.items()} if muscles else {}
    return Motion(body, movement, values, stance, path.part, coords, skeleton, states, pad, both)


def with_muscles(motions: Sequence[Motion]) -> list[Motion]:
    """Motions led without their muscles, with them: one evaluation a region for all."""
    states: list[dict[str, MuscleState]] = [{} for _ in motions]
    for name, region in muscle_table().regions.items():
        where = [i for i, m in enumerate(motions) if name in m.coords]
        if where:
            whole = region.evaluate_many(np.concatenate([motions[i].coords[name] for i in where]))
            end = 0
            for i in where:
                start, end = end, end + len(motions[i].part)
                states[i][name] = MuscleState(whole.length[start:end], whole.leverage[start:end])
    return [replace(m, muscles=state) for m, state in zip(motions, states, strict=True)]


def joined(motions: Sequence[Motion]) -> Motion:
    """Motions of one body laid end to end, so that what depends on poses alone is computed for all at once.

    They must rest and be held alike; movement, values and stance are the first one's.
    """
    first = motions[0]
    at = [m.skeleton for m in motions]

    def limb(which: str) -> Any:
        parts = [getattr(s, which) for s in at]
        names = [f.name for f in fields(parts[0]) if f.name != "masses"]
        return replace(parts[0], **{n: np.concatenate([getattr(p, n) for p in parts]) for n in names})

    skeleton = Skeleton(
        {k: np.concatenate([s.joints[k] for s in at]) for k in at[0].joints},
        np.concatenate([s.torso for s in at]),
        np.concatenate([s.pelvis for s in at]),
        limb("arm"),
        limb("leg"),
        at[0].masses,
        np.concatenate([s.centres for s in at]),
        at[0].upper,
    )
    states = {
        region: MuscleState.of(
            np.concatenate([m.muscles[region].length.T for m in motions], axis=-1),
            np.concatenate([m.muscles[region].leverage.T for m in motions], axis=-1),
            (sum(len(m.part) for m in motions),),
        )
        for region in first.muscles
        if all(region in m.muscles for m in motions)
    }
    part = np.concatenate([m.part for m in motions])
    return replace(first, part=part, skeleton=skeleton, muscles=states)


def check_ranges(motion: Motion) -> None:
    """Raise ``DomainError`` where a pose lies outside the joint ranges, published or the client's own."""
    given = {k: round(v, 1) for k, v in motion.values.items()}
    way = "Choose values nearer the movement's defaults"
    plane, elevation, rotation, elbow, pronation = (
        np.moveaxis(motion.coords["arm"], -1, 0) if "arm" in motion.coords else np.zeros((5, 1))
    )
    if not within_ranges(plane, elevation, rotation, elbow, pronation, motion.body).all():
        raise DomainError("parameters", given, "every pose must lie within the arm's joint ranges", way)
    if "leg" in motion.coords:
        names = ("hip_flexion", "hip_adduction", "hip_rotation", "knee", "ankle")
        off = within_leg_ranges(motion.coords["leg"], {n: motion.body.range(n) for n in names}).max(axis=0)
        if off.max() > 0.01:
            worst = LEG_COORDINATES[int(off.argmax())]
            limit = f"every pose must lie within the joint ranges; {worst} is {off.max():.0f}° over"
            raise DomainError("parameters", given, limit, way)


def solve_balance(
    body: Body, movement: Movement, values: dict[str, float], stance: Stance, part: Floats, both: bool, loads: Loads | None
) -> Floats:
    """The free angle of every pose, radians, (pose,): by halving the bracket where what must vanish changes sign.

    Raises:
        DomainError: Where no angle within the bracket balances the body.
    """
    way = movement.way(values)
    law = way.balance
    assert law is not None

    def left_over(part: Floats, free: Floats) -> Floats:
        motion = posed(body, movement, values, stance, movement.path(values, part, free), False, both, muscles=False)
        if law.held == "hands":
            return np.asarray(motion.arm.grip[:, 2] - way.hand_cm / 100)
        at = motion.skeleton
        pull = np.zeros_like(at.centres)
        pull[..., 2] = -GRAVITY * at.masses
        middle = (motion.arm.grip if way.support == "hands" else motion.foot) * np.array([1.0, 0.0, 1.0])
        about = cross(at.centres - middle[:, None], pull).sum(axis=1)[:, 1]
        for push in loads(motion) if loads else ():
            force, turning = push.total()
            about = about + (turning - cross(middle, force))[..., 1]
        return np.asarray(about)

    # A look at a few angles at once narrows the bracket before it is closed step by step.
    angles, rows = np.linspace(law.low, law.high, LOOKED), np.arange(len(part))
    every = left_over(np.tile(part, LOOKED), np.repeat(angles, len(part))).reshape(LOOKED, -1)
    turns = every[:-1] * every[1:] <= 0
    if not turns.any(axis=0).all():
        where = part[np.argmin(turns.any(axis=0))]
        raise DomainError(
            "parameters",
            {k: round(v, 1) for k, v in values.items()},
            f"the body must find its balance; {where:.0%} of the way it cannot",
            "Take less load, stand nearer, or change depth or stance",
        )
    at = turns.argmax(axis=0)
    low, high, at_low, at_high = angles[at], angles[at + 1], every[at, rows], every[at + 1, rows]
    # False position that halves the value of an end kept twice (Dowell and Jarratt 1971): some eight steps where plain
    # halving takes forty, and the sign change stays bracketed all the same.
    for _ in range(STEPS):
        middle = high - at_high * (high - low) / np.where(at_high == at_low, 1.0, at_high - at_low)
        value = left_over(part, middle)
        crossed = value * at_high < 0
        low, at_low = np.where(crossed, high, low), np.where(crossed, at_high, at_low / 2)
        high, at_high = middle, value
        if np.abs(high - low).max() < SETTLED or np.abs(value).max() < SETTLED:
            break
    return np.asarray(high)
