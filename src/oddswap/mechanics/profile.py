"""The computed curves of one set-up: torques, load shapes, muscle lengths, shares, forces and positions at every pose."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import cast

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.clearance import bench_clearance, line_clearance
from oddswap.mechanics.motion import BINS, POSES, Motion, Push, binned, perform
from oddswap.mechanics.movements import Variant, movement
from oddswap.mechanics.movements.base import Contact
from oddswap.mechanics.muscles import AXES, Group, muscle_table
from oddswap.mechanics.sharing import Shares, doubtful, share
from oddswap.mechanics.sources import Setting
from oddswap.mechanics.stance import Stance, StanceKind
from oddswap.mechanics.tempo import along_path
from oddswap.mechanics.types import Bools, Floats


@dataclass(frozen=True)
class SetUp:
    """A movement done with given kit, without the client.

    Args:
        movement: Movement id.
        parameters: Its parameter values; defaults fill what is missing.
        sources: Load sources; they add up. None where the body is its own load.
        stance: How the body is carried, see ``Stance``.
        recline_deg: Spine to floor, degrees; 90 upright, 0 level.
        seat_cm: Height of the bench's seat, cm.
        pad: Whether an arm pad carries the upper arm.
        lift_s: Duration of the lifting phase, s, where moving weights shall count; None for slow lifting.
    """

    movement: str
    sources: Sequence[Setting]
    parameters: Mapping[str, float] = field(default_factory=dict)
    stance: str = "standing"
    recline_deg: float = 90.0
    seat_cm: float = 45.0
    pad: bool = False
    lift_s: float | None = None

    def variant(self) -> Variant:
        """The movement's variant that this set-up does, defaults filled in.

        Raises:
            DomainError: For a movement or parameter that does not exist.
        """
        values = movement(self.movement).complete(self.parameters)
        return Variant(values, self.stance, self.recline_deg, self.pad)

    @property
    def both_arms(self) -> bool:
        """Whether both sides work at once."""
        kind = movement(self.movement)
        return all(s.both_arms for s in self.sources) and not kind.way(kind.complete(self.parameters)).one_side

    def stands(self) -> Stance:
        """The stance; standing feet are staggered when a line pulls from ahead or behind."""
        pulled = any(getattr(s, "forward_cm", 0) for s in self.sources)
        recline = (
            np.pi / 2 if self.stance in ("standing", "kneeling", "hanging", "floor") else float(np.radians(self.recline_deg))
        )
        return Stance(cast(StanceKind, self.stance), recline, self.seat_cm / 100, staggered=pulled)

    def perform(self, body: Body, poses: int = POSES, muscles: bool = True) -> Motion:
        """The movement of ``body`` in this set-up, with its ``muscles`` unless they are followed later.

        Raises:
            DomainError: If a parameter is out of range, a pose out of reach, or there is no balance.
        """
        variant, kind = self.variant(), movement(self.movement)
        if self.stance not in kind.stances:
            raise DomainError("stance", self.stance, f"{kind.name} is done {' or '.join(kind.stances)}", "Pick one of these")
        loads = (lambda m: borne(self, m)) if kind.way(variant.values).balance is not None else None
        return perform(body, kind, dict(variant.values), self.stands(), self.pad, poses, self.both_arms, loads, muscles)


def contact_of(source: Setting, motion: Motion) -> tuple[Contact, Floats]:
    """Where a source bears on the body, and the point at every pose, m, (pose, xyz)."""
    at = source.attachment
    contact: Contact = motion.way.contact if at.at == "usual" else at.at
    return contact, motion.point(contact, at.along, at.across_cm / 100)


def hinge_axis(motion: Motion) -> Floats:
    """Axis of a machine in line with the movement's hinge, (xyz,): the moving limb's mean axis of turning."""
    contact = motion.way.contact
    arm = motion.point(contact) - motion.joints[motion.movement.hinge]
    turn = np.cross(arm[:-1], arm[1:]).sum(axis=0)
    size = float(np.linalg.norm(turn))
    return turn / size if size > 1e-9 else np.array([0.0, 1.0, 0.0])


def pushes(set_up: SetUp, motion: Motion) -> list[tuple[Push, float]]:
    """Every source's push on the body, and its amount."""
    out = []
    for source in set_up.sources:
        contact, point = contact_of(source, motion)
        made = getattr(source, "law_at", None)
        law = made(motion.joints[motion.movement.hinge], hinge_axis(motion)) if made else source.law()
        force = np.broadcast_to(law.force(point), (1, *point.shape))[0] * source.amount
        moves = getattr(law, "inertia", None)
        if set_up.lift_s is not None and moves is not None:
            velocity, acceleration = along_path(point, motion.part, set_up.lift_s)
            force = force + np.broadcast_to(moves(point, velocity, acceleration), (1, *point.shape))[0] * source.amount
        steady = getattr(law, "constant", None)
        if steady is not None:
            force = force + np.broadcast_to(steady(point), (1, *point.shape))[0]
        single = contact in ("back", "hips") or motion.way.one_side
        out.append((Push(contact, point, force, mirrored=source.both_arms and not single), source.amount))
    return out


def borne(set_up: SetUp, motion: Motion) -> list[Push]:
    """What a body finds its balance under: the sources' pushes, a machine's as that of the weight it stands for.

    A guide does not say where a body stands under it; people stand as under a bar.
    """
    out = []
    for source, (push, amount) in zip(set_up.sources, pushes(set_up, motion), strict=True):
        weighs = source.kind == "machine" and push.contact in ("back", "hand")
        down = np.broadcast_to([0.0, 0.0, -GRAVITY * amount], push.force.shape)
        out.append(replace(push, force=down) if weighs else push)
    return out


@dataclass(frozen=True)
class Profile:
    """Everything computed for one set-up and client.

    Args:
        set_up: What was computed.
        motion: The movement.
        pushes: Each source's push on the body.
        moment: Moment of loads, weights and supports by region, N·m, (pose, axis).
        groups: Muscle groups of the regions that move, in the order of the next three.
        length: Normalised length of each group, (group, pose).
        effective: Effective resistance torque on each group, N·m, not below zero, (group, pose).
        shape: Load shape: mean of that per bin of the group's own length, N·m, (group, bin).
        effort: Effective torque over what the muscles can give there, (group, pose).
    """

    set_up: SetUp
    motion: Motion
    pushes: Sequence[Push]
    moment: dict[str, Floats]
    groups: Sequence[Group]
    length: Floats
    effective: Floats
    shape: Floats
    effort: Floats

    @property
    def force(self) -> Floats:
        """Force of each source on its contact, N, (source, pose, xyz)."""
        if not self.pushes:
            return np.zeros((0, len(self.motion.part), 3))
        return np.stack([p.force for p in self.pushes])

    @property
    def demand(self) -> dict[str, Floats]:
        """Torque the muscles must give by region, N·m, (pose, axis)."""
        return {region: -m for region, m in self.moment.items()}

    @property
    def upper_arm(self) -> Floats:
        """Direction of the humerus in the torso frame, (pose, xyz)."""
        arm = self.motion.arm
        world = (arm.elbow - arm.shoulder) / self.motion.body.length("upper_arm")
        return np.asarray(np.einsum("pji,pj->pi", arm.torso, world))

    def row(self, group: str) -> int:
        """Index of a muscle group."""
        return [g.id for g in self.groups].index(group)

    def shares(self, power: int = 2) -> dict[str, Shares]:
        """Who carries the load, by region."""
        out = {}
        for region in self.motion.regions:
            coords = self.motion.coords[region]
            upper = self.upper_arm if region == "arm" else None
            state = self.motion.muscles[region]
            muscles, held, strong = muscle_table().regions[region], self.motion.held(region), self.motion.body.strength
            out[region] = share(muscles, state, coords, self.demand[region], upper, held, power, strong)
        return out

    @cached_property
    def shown(self) -> dict[str, Shares]:
        """Shares as shown to people, activations to the third power in the cost."""
        return self.shares(int(muscle_table().settings["sharing"]["power_shown"]))

    def carried(self, group: str, joint: str) -> Floats:
        """Part of what is given at a joint that a group gives, along what is demanded there, (pose,).

        Args:
            group: Muscle group.
            joint: ``shoulder``, ``elbow``, ``forearm``, ``hip``, ``knee``, ``ankle``, ``trunk`` or ``girdle``.
        """
        g = muscle_table().groups[group]
        shares, leverage = self.shown[g.region], self.motion.muscles[g.region].leverage
        axes = np.array([name.startswith(joint) for name in AXES[g.region]])
        demand = shares.demand * axes
        direction = demand / np.maximum(np.linalg.norm(demand, axis=1, keepdims=True), 1e-9)
        given = np.maximum(shares.force * np.einsum("pma,pa->pm", leverage, direction), 0.0)
        part: Floats = given[:, g.weights > 0].sum(axis=1) / np.maximum(given.sum(axis=1), 1e-9)
        return part

    def carried_mean(self, group: str, joint: str) -> float:
        """``carried`` averaged over the movement, poses weighed by what is demanded at the joint."""
        g = muscle_table().groups[group]
        axes = np.array([name.startswith(joint) for name in AXES[g.region]])
        size = np.linalg.norm(self.shown[g.region].demand * axes, axis=1)
        return float((self.carried(group, joint) * size).sum() / max(float(size.sum()), 1e-9))

    def activation(self, group: str) -> Floats:
        """Strength-weighted mean activation of a group, (pose,)."""
        g = muscle_table().groups[group]
        return np.asarray(self.shown[g.region].activation @ g.weights)

    def doubt(self, region: str) -> Bools:
        """Poses at which the shares are not to be believed, (pose,)."""
        return doubtful(self.shown[region], self.motion.coords[region], region == "arm", self.motion.held(region))


def check_set_up(set_up: SetUp, motion: Motion) -> None:
    """Hold a set-up against its hard limits.

    Raises:
        DomainError: With the field of the source that breaks one.
    """
    if not set_up.sources and motion.way.support == "seat":
        raise DomainError("sources", [], "a set-up has at least one load source", "Add a bell, a cable or a band")
    if "arm" in motion.coords and motion.way.root == "hips" and motion.arm.grip[:, 2].min() < 0:
        raise DomainError(
            "seat_cm", set_up.seat_cm, "the hand must stay above the floor", "Raise the seat or shorten the range"
        )
    for i, source in enumerate(set_up.sources):
        if source.kind == "barbell" and set_up.movement == "press" and contact_of(source, motion)[0] == "hand":
            arm = motion.arm
            ahead = ((arm.grip - arm.shoulder) * arm.torso[..., :, 0]).sum(axis=-1).min()
            if ahead < motion.body.own("trunk_radius"):
                depth = set_up.variant().values["depth_deg"]
                limit = "a bar stops at the chest; separate handles may pass it"
                raise DomainError("parameters.depth_deg", depth, limit, "Go less deep, or take bells or cables")
        try:
            source.verify()
        except DomainError as error:
            raise error.at(f"sources.{i}") from None
        if hasattr(source, "law_at"):
            continue
        law = source.law()
        contact, point = contact_of(source, motion)
        for check in law.checks(point):
            if not check.kept.all():
                value = getattr(source, check.field, None)
                short = -float(np.min(check.margin)) * 100
                limit = f"{check.limit}; here it is {short:.0f} cm off"
                raise DomainError(f"sources.{i}.{check.field}", value, limit, check.way_out)
        if law.far_end is None or contact != "hand":
            continue
        if float(bench_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the bench must clear the column or wall",
                "Move the bench farther off, or turn it",
            )
        if float(line_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the line of pull must not cut through the body",
                "Turn, or bring the hand across on the other side",
            )


def profile(body: Body, set_up: SetUp, poses: int = POSES, check: bool = True) -> Profile:
    """Compute all curves of a set-up for a client; ``check`` holds it against its hard limits first.

    Raises:
        DomainError: If the set-up cannot be: unknown movement, value out of range, slack cable, overstretched band.
    """
    motion = set_up.perform(body, poses)
    if check:
        check_set_up(set_up, motion)
    loads = [push for push, _ in pushes(set_up, motion)]
    if set_up.lift_s is None:
        moment = dict(motion.weight_moment)
    else:
        moment = motion.moving_weight_moment(along_path(motion.skeleton.centres, motion.part, set_up.lift_s)[1])
    for push in loads:
        for region, added in motion.response(push).items():
            moment[region] = moment[region] + added
    return curves(set_up, motion, loads, moment)


def curves(set_up: SetUp, motion: Motion, loads: Sequence[Push], moment: dict[str, Floats]) -> Profile:
    """All curves that follow from the moments."""
    groups = [g for g in muscle_table().groups.values() if g.region in motion.regions]
    effective = np.stack([np.maximum(0.0, -dot(moment[g.region], motion.direction(g))) for g in groups])
    effort = effective / np.stack([np.maximum(motion.capacity(g), 1e-6) for g in groups])
    length = np.stack([motion.target_length(g) for g in groups])
    shape = (binned(length, range(BINS + 1)) @ effective[..., None])[..., 0]
    return Profile(set_up, motion, loads, moment, groups, length, effective, shape, effort)


def bin_edges() -> Floats:
    """Edges of the bins of normalised length, (bin + 1,)."""
    return np.linspace(0.0, 1.0, BINS + 1)
