"""A movement done by one client on given supports: joint coordinates, positions and muscles at every pose.

Everything here belongs to the movement and is shared by all the load sources that may be tried on it.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import Arm, cross, dot, place_arm
from oddswap.mechanics.body import GRAVITY, Body, within_ranges
from oddswap.mechanics.movements import Movement
from oddswap.mechanics.muscles import Group, MuscleState, muscle_table
from oddswap.mechanics.posture import Posture, Stance, take
from oddswap.mechanics.types import Bools, Floats

POSES = 31
"""Poses along a repetition."""
BINS = 120
"""Bins of a target's normalised length."""


@dataclass(frozen=True)
class Motion:
    """One client's movement without a load.

    Args:
        body: The client.
        posture: How they are carried.
        part: Parts of the way from long end to short end, (pose,).
        coords: Joint coordinates, radians, (pose, 5).
        arm: Positions and directions, (pose, ...).
        muscles: Lengths and leverage of the table's muscles, (pose, muscle, ...).
        pad: Whether a pad carries the upper arm, and with it the moment about the shoulder.
    """

    body: Body
    posture: Posture
    part: Floats
    coords: Floats
    arm: Arm
    muscles: MuscleState
    pad: bool

    @cached_property
    def weight_moment(self) -> Floats:
        """Moment of the arm's own segments, N·m, (pose, 5)."""
        forces = np.zeros_like(self.arm.centres)
        forces[..., 2] = -GRAVITY * self.arm.masses
        return self.moment(self.arm.centres, forces, beyond_elbow=np.array([False, True, True]))

    def moment(self, points: Floats, forces: Floats, beyond_elbow: Bools) -> Floats:
        """Moment of external forces about the joints, by the general law M = sum of (p - joint) x F.

        Args:
            points: Where forces act, world, m, (..., pose, point, xyz).
            forces: Forces, world, N, (..., pose, point, xyz).
            beyond_elbow: Which points are on forearm or hand, (point,).

        Returns:
            N·m on the five ``MOMENT_AXES``, the shoulder's three in the torso frame, (..., pose, 5). What muscles must give
            is its negative. With the upper arm on a pad the shoulder's three are zero: the pad gives what is needed.
        """
        shoulder = cross(points - self.arm.shoulder[..., None, :], forces).sum(axis=-2)
        at_elbow = cross(points - self.arm.elbow[..., None, :], forces)
        at_elbow = (at_elbow * beyond_elbow[:, None]).sum(axis=-2)
        torso = np.einsum("...ji,...j->...i", self.arm.torso, shoulder)
        if self.pad:
            torso = np.zeros_like(torso)
        return np.concatenate(
            [torso, dot(at_elbow, self.arm.elbow_axis)[..., None], dot(at_elbow, self.arm.pronation_axis)[..., None]], axis=-1
        )

    def grip_moment(self, force: Floats) -> Floats:
        """Moment of a force on the hand, world, N, (..., pose, xyz); N·m on the five axes, (..., pose, 5)."""
        return self.moment(self.arm.grip[:, None, :], force[..., None, :], np.array([True]))

    def leverage(self, group: Group) -> Floats:
        """Leverage of a muscle group, m on the five axes, (pose, 5); without the shoulder's on a pad."""
        out: Floats = np.einsum("pmx,m->px", self.muscles.leverage, group.weights)
        if self.pad:
            out[:, :3] = 0.0
        return out

    def direction(self, group: Group) -> Floats:
        """Leverage scaled to length one, r/|r|, (pose, 5)."""
        r = self.leverage(group)
        return np.asarray(r / np.maximum(np.linalg.norm(r, axis=-1, keepdims=True), 1e-9))

    def target_length(self, group: Group) -> Floats:
        """Normalised length of a group, 0 longest to 1 shortest its joints allow, (pose,)."""
        return np.asarray(muscle_table().normalised(self.muscles.length) @ group.weights)

    def capacity(self, group: Group) -> Floats:
        """What all muscles together can give along the group's own direction, N·m, (pose,).

        c = sum over muscles of F_i(length) max(0, r_i . r/|r|): helpers count as far as they pull the same way.
        """
        direction = self.direction(group)
        leverage = self.muscles.leverage.copy()
        if self.pad:
            leverage[..., :3] = 0.0
        aligned = np.maximum(0.0, np.einsum("pmx,px->pm", leverage, direction))
        return np.asarray((muscle_table().capacity(self.muscles.length) * aligned).sum(axis=-1))

    def share(self, group: Group, moment: Floats) -> Floats:
        """Part of a load that a group carries when every muscle pulls as far as it is strong and well placed for it.

        share = sum over the group of F_i max(0, r_i . m)^2 over the same sum of all muscles, with m the direction that must
        be given (minus the load's moment): activation in proportion to alignment.

        Args:
            group: The muscle group.
            moment: Moment of the load, N·m, (..., pose, 5).

        Returns:
            The share, mean over poses weighed by the size of the moment, (...).
        """
        size = np.linalg.norm(moment, axis=-1)
        needed = -moment / np.maximum(size, 1e-9)[..., None]
        leverage = self.muscles.leverage.copy()
        if self.pad:
            leverage[..., :3] = 0.0
        # (pose, muscle, axis) @ (..., pose, axis, 1): alignment of every muscle with what is needed.
        aligned = np.maximum(0.0, (leverage @ needed[..., None])[..., 0])
        carried = muscle_table().capacity(self.muscles.length) * aligned**2
        member = group.weights > 0
        part = carried[..., member].sum(axis=-1) / np.maximum(carried.sum(axis=-1), 1e-12)
        return np.asarray((part * size).sum(axis=-1) / np.maximum(size.sum(axis=-1), 1e-9))

    def virtual_path(self, group: Group) -> Floats:
        """How the hand moves per unit of the group's direction, m, world, (pose, xyz).

        Virtual work: the effective torque of a force F on the hand is ``-F . G``; G is made once a movement, so that a
        placement costs one inner product.
        """
        d = self.direction(group)
        torso_axis = np.einsum("pij,pj->pi", self.arm.torso, d[:, :3])
        lever, below = self.arm.grip - self.arm.shoulder, self.arm.grip - self.arm.elbow
        return np.asarray(
            cross(torso_axis, lever)
            + d[:, 3:4] * cross(self.arm.elbow_axis, below)
            + d[:, 4:5] * cross(self.arm.pronation_axis, below)
        )

    def own_demand(self, group: Group) -> Floats:
        """Effective torque of the arm's own weight on the group, signed, N·m, (pose,)."""
        return np.asarray(-dot(self.weight_moment, self.direction(group)))

    def binning(self, group: Group) -> Floats:
        """Matrix (bin, pose) that turns values along the path into means per bin of the group's normalised length.

        Bins the movement does not reach are zero rows. Between poses values are taken as linear.
        """
        fine = np.linspace(0, len(self.part) - 1, 16 * len(self.part))
        low = np.minimum(fine.astype(int), len(self.part) - 2)
        spread = np.zeros((len(fine), len(self.part)))
        rows = np.arange(len(fine))
        spread[rows, low], spread[rows, low + 1] = 1 - (fine - low), fine - low
        where = np.clip((spread @ self.target_length(group) * BINS).astype(int), 0, BINS - 1)
        member = where == np.arange(BINS)[:, None]
        return np.asarray((member @ spread) / np.maximum(member.sum(axis=1), 1)[:, None])


def perform(
    body: Body, movement: Movement, values: dict[str, float], stance: Stance, pad: bool = False, poses: int = POSES
) -> Motion:
    """Lead the arm of ``body`` along ``movement``.

    Raises:
        DomainError: For parameter values outside their ranges, or poses that no joint reaches.
    """
    complete = movement.complete(values)
    part = np.linspace(0.0, 1.0, poses)
    path = movement.path(complete, part)
    coords = path.coordinates()
    if not within_ranges(*np.moveaxis(coords, -1, 0)).all():
        raise DomainError(
            "parameters",
            {k: round(v, 1) for k, v in complete.items()},
            "every pose must lie within the published joint ranges",
            "Choose values nearer the movement's defaults",
        )
    posture = take(body, stance)
    torso = np.broadcast_to(posture.torso, (poses, 3, 3))
    arm = place_arm(body, path, np.broadcast_to(posture.shoulder, (poses, 3)), torso)
    return Motion(body, posture, part, coords, arm, muscle_table().evaluate(coords), pad)
