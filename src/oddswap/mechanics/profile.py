"""The computed curves of one set-up: torques, load shapes, muscle lengths, forces and positions at every pose."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.mechanics.clearance import bench_clearance, line_clearance
from oddswap.mechanics.motion import BINS, POSES, Motion, perform
from oddswap.mechanics.movements import Variant, movement
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.posture import Stance
from oddswap.mechanics.sources import Setting
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class SetUp:
    """A movement done with given kit, without the client.

    Args:
        movement: Movement id.
        parameters: Its parameter values; defaults fill what is missing.
        sources: Load sources on the working hand; they add up.
        stance: ``standing`` or ``bench``.
        recline_deg: Spine to floor, degrees; 90 upright, 0 lying.
        seat_cm: Height of the bench's seat, cm.
        pad: Whether an arm pad carries the upper arm.
    """

    movement: str
    sources: Sequence[Setting]
    parameters: Mapping[str, float] = field(default_factory=dict)
    stance: str = "standing"
    recline_deg: float = 90.0
    seat_cm: float = 45.0
    pad: bool = False

    def variant(self) -> Variant:
        """The movement's variant that this set-up does, defaults filled in.

        Raises:
            DomainError: For a movement or parameter that does not exist.
        """
        values = movement(self.movement).complete(self.parameters)
        return Variant(values, self.stance, self.recline_deg, self.pad)

    @property
    def both_arms(self) -> bool:
        """Whether both arms work at once."""
        return all(s.both_arms for s in self.sources)

    def stands(self) -> Stance:
        """The stance; standing feet are staggered when a line pulls from ahead or behind."""
        pulled = any(getattr(s, "forward_cm", 0) for s in self.sources)
        if self.stance == "standing":
            return Stance("standing", np.pi / 2, staggered=pulled)
        return Stance("bench", float(np.radians(self.recline_deg)), self.seat_cm / 100)

    def perform(self, body: Body, poses: int = POSES) -> Motion:
        """The movement of ``body`` in this set-up.

        Raises:
            DomainError: If a parameter is out of range or a pose out of reach.
        """
        variant = self.variant()
        return perform(body, movement(self.movement), dict(variant.values), self.stands(), self.pad, poses)


@dataclass(frozen=True)
class Profile:
    """Everything computed for one set-up and client.

    Args:
        motion: The movement.
        force: Force of each source on the hand, N, (source, pose, xyz).
        demand: Torque the muscles must give, N·m on the five ``MOMENT_AXES``, (pose, 5).
        groups: Muscle groups, in the order of the next three.
        length: Normalised length of each group, (group, pose).
        effective: Effective resistance torque on each group, N·m, not below zero, (group, pose).
        shape: Load shape: mean of that per bin of the group's own length, N·m, (group, bin).
        effort: Effective torque over what the muscles can give there, (group, pose).
    """

    motion: Motion
    force: Floats
    demand: Floats
    groups: Sequence[Group]
    length: Floats
    effective: Floats
    shape: Floats
    effort: Floats


def check_set_up(set_up: SetUp, motion: Motion) -> None:
    """Hold a set-up against its hard limits.

    Raises:
        DomainError: With the field of the source that breaks one.
    """
    if not set_up.sources:
        raise DomainError("sources", [], "a set-up has at least one load source", "Add a bell, a cable or a band")
    if motion.arm.grip[:, 2].min() < 0:
        raise DomainError(
            "seat_cm", set_up.seat_cm, "the hand must stay above the floor", "Raise the seat or shorten the range"
        )
    for i, source in enumerate(set_up.sources):
        try:
            source.verify()
        except DomainError as error:
            raise error.at(f"sources.{i}") from None
        law = source.law()
        for check in law.checks(motion.arm.grip):
            if not check.kept.all():
                value = getattr(source, check.field, None)
                short = -float(np.min(check.margin)) * 100
                limit = f"{check.limit}; here it is {short:.0f} cm off"
                raise DomainError(f"sources.{i}.{check.field}", value, limit, check.way_out)
        if law.far_end is not None and float(bench_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the bench must clear the column or wall",
                "Move the bench farther off, or turn it",
            )
        if law.far_end is not None and float(line_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the line of pull must not cut through the body",
                "Turn, or bring the hand across on the other side",
            )


def profile(body: Body, set_up: SetUp, poses: int = POSES) -> Profile:
    """Compute all curves of a set-up for a client.

    Raises:
        DomainError: If the set-up cannot be: unknown movement, value out of range, slack cable, overstretched band.
    """
    motion = set_up.perform(body, poses)
    check_set_up(set_up, motion)
    force = np.stack([np.broadcast_to(s.law().force(motion.arm.grip), (1, poses, 3))[0] * s.amount for s in set_up.sources])
    moment = motion.weight_moment + motion.grip_moment(force.sum(axis=0))
    groups = list(muscle_table().groups.values())
    effective = np.stack([np.maximum(0.0, -(moment * motion.direction(g)).sum(axis=-1)) for g in groups])
    shape = np.stack([motion.binning(g) @ e for g, e in zip(groups, effective, strict=True)])
    effort = effective / np.stack([np.maximum(motion.capacity(g), 1e-6) for g in groups])
    length = np.stack([motion.target_length(g) for g in groups])
    return Profile(motion, force, -moment, groups, length, effective, shape, effort)


def bin_edges() -> Floats:
    """Edges of the bins of normalised length, (bin + 1,)."""
    return np.linspace(0.0, 1.0, BINS + 1)
