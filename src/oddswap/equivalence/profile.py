"""The computed curves of one set-up: torques, load shapes, muscle lengths, shares, forces and positions at every pose."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oddswap.equivalence.set_up import SetUp, check_set_up, pushes
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.motion import BINS, POSES, Motion, Push, binned
from oddswap.mechanics.muscles import AXES, Group, muscle_table
from oddswap.mechanics.sharing import Shares, doubtful, share
from oddswap.mechanics.tempo import along_path
from oddswap.mechanics.types import Bools, Floats


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
