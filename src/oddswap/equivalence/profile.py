"""The computed curves of one set-up: torques, resistance profiles, muscle lengths, shares, forces and positions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oddswap.equivalence.set_up import SetUp, check_set_up, pushes, total_moment
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.lengths import BINS, bin_matrices
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.muscle_regions import AXES
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.performing import POSES
from oddswap.mechanics.push import Push
from oddswap.mechanics.sharing import Shares, doubtful, share
from oddswap.mechanics.types import Bools, Floats


@dataclass(frozen=True)
class Profile:
    """Everything computed for one set-up and client.

    Args:
        set_up: What was computed.
        motion: The movement.
        pushes: Each source's push on the body.
        moment: Moment of loads, weights and supports by region, N·m, (pose, axis).
    """

    set_up: SetUp
    motion: Motion
    pushes: Sequence[Push]
    moment: dict[str, Floats]

    # Computed where asked for: of the set-ups that are answered few are shown.
    @cached_property
    def groups(self) -> Sequence[Group]:
        """Muscle groups of the regions that move, in the order of what follows."""
        return [g for g in muscle_table().groups.values() if g.region in self.motion.regions]

    @cached_property
    def length(self) -> Floats:
        """Normalised length of each group, (group, pose)."""
        return np.stack([self.motion.target_length(g) for g in self.groups])

    @cached_property
    def effective(self) -> Floats:
        """Effective resistance torque on each group, N·m, not below zero, (group, pose)."""
        return np.stack([np.maximum(0.0, -dot(self.moment[g.region], self.motion.direction(g))) for g in self.groups])

    @cached_property
    def resistance_profile(self) -> Floats:
        """Mean of that per bin of the group's own length, N·m, (group, bin)."""
        return np.asarray((bin_matrices(self.length, range(BINS + 1)) @ self.effective[..., None])[..., 0])

    @cached_property
    def relative_effort(self) -> Floats:
        """Effective torque over what the muscles can give there, (group, pose)."""
        return np.asarray(self.effective / np.stack([np.maximum(self.motion.capacity(g), 1e-6) for g in self.groups]))

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
            joint: ``shoulder``, ``elbow``, ``forearm``, ``hip``, ``knee``, ``ankle``, ``trunk``, ``waist``, ``scapula`` or
                ``wrist``.
        """
        g = muscle_table().groups[group]
        shares, moment_arm = self.shown[g.region], self.motion.muscles[g.region].moment_arm
        axes = np.array([name.startswith(joint) for name in AXES[g.region]])
        demand = shares.demand * axes
        direction = demand / np.maximum(np.linalg.norm(demand, axis=1, keepdims=True), 1e-9)
        given = np.maximum(shares.force * np.einsum("pma,pa->pm", moment_arm, direction), 0.0)
        part: Floats = given[:, g.weights > 0].sum(axis=1) / np.maximum(given.sum(axis=1), 1e-9)
        return part

    def carried_mean(self, group: str, joint: str) -> float:
        """``carried`` averaged over the movement, 0 to 1, poses weighed by what is demanded at the joint."""
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
    return profile_motion(set_up, set_up.perform(body, poses), check)


def profile_motion(set_up: SetUp, motion: Motion, check: bool = True) -> Profile:
    """All curves of a set-up whose motion is known; ``check`` holds it against its hard limits first.

    Raises:
        DomainError: Where it breaks one.
    """
    if check:
        check_set_up(set_up, motion)
    loads = pushes(set_up, motion)
    return Profile(set_up, motion, loads, total_moment(set_up, motion, loads))


def bin_edges() -> Floats:
    """Edges of the bins of normalised length, (bin + 1,)."""
    return np.linspace(0.0, 1.0, BINS + 1)
