"""The computed curves of a set-up as a document. Numbers are rounded to what is known."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from oddswap.documents.base import Result, rounded
from oddswap.equivalence.figure import figure
from oddswap.equivalence.profile import Profile, bin_edges
from oddswap.equivalence.set_up import SetUp
from oddswap.exercises import movement
from oddswap.mechanics.motion import COORDINATES
from oddswap.mechanics.muscle_regions import AXES
from oddswap.mechanics.muscles import muscle_table

SHAPE_POINTS = 24
"""Lengths at which a shape is kept."""


class TargetCurves(Result):
    """One muscle group over the movement."""

    name: str
    length: list[float]
    """Normalised length at every pose: 0 the longest, 1 the shortest that the joints allow."""
    effective_nm: list[float]
    """Effective resistance torque at every pose, N·m."""
    relative_effort: list[float]
    """That torque over what all muscles can give in this direction at every pose."""
    resistance_profile_nm: list[float]
    """Resistance profile: mean effective torque per bin of normalised length, N·m; 0 where the movement does not go."""


class MomentArm(Result):
    """Lever of the load's total pull about the joint that matters most, as drawn."""

    hinge_m: list[list[float]]
    foot_m: list[list[float]]
    length_cm: list[float]


class Pull(Result):
    """One load source as drawn."""

    prop: dict[str, Any]
    """What it looks like."""
    ends_m: list[list[float]]
    """Far ends of its line, one per working arm; empty for weight."""
    contact: str
    """Where on the body it bears."""
    at_m: list[list[float]]
    """The point on the right side at every pose."""
    force_n: list[list[float]]
    """Force there at every pose, N, world axes x forward, y left, z up."""
    mirrored: bool
    """Whether the left side is loaded alike."""


class Slab(Result):
    """A cushion of a bench or pad, as drawn: a flat box about a line."""

    kind: str
    start_m: list[float]
    end_m: list[float]
    half_width_m: float
    thickness_m: float


class ShapeDoc(Result):
    """How a set-up loads its target over the lengths that it goes through, in little: what a board draws."""

    low: float
    """The target's shortest normalised length there is 1, its longest 0; here where the movement begins."""
    high: float
    """And where it ends."""
    torque_nm: list[float]
    """Effective torque at evenly spaced lengths between them, N·m."""

    @staticmethod
    def of(profile: Profile, target: str) -> ShapeDoc:
        """Of a profile's curves for a muscle group."""
        row = profile.row(target)
        low, high = float(profile.length[row].min()), float(profile.length[row].max())
        edges = bin_edges()
        middles, torque = (edges[:-1] + edges[1:]) / 2, profile.resistance_profile[row]
        reached = (edges[1:] > low) & (edges[:-1] < high)
        shown = np.interp(np.linspace(low, high, SHAPE_POINTS), middles[reached], torque[reached])
        return ShapeDoc(low=round(low, 3), high=round(high, 3), torque_nm=rounded(shown, 1))


class ProfileDoc(Result):
    """The computed curves of one set-up for one client."""

    format: Literal["odd-swap/profile/2"] = "odd-swap/profile/2"
    part: list[float]
    """Part of the way from the lengthened to the shortened end, one entry a pose."""
    reading: list[str]
    """The moving joint's angle in words at every pose."""
    joint_angles_deg: dict[str, list[float]]
    """Joint coordinates of the regions that move: shoulder, elbow, forearm; hip, knee, ankle; trunk; scapula; wrist; waist."""
    torques_nm: dict[str, list[float]]
    """Torque that the muscles must give, by joint and axis; the shoulder's axes are the torso's, the hip's the pelvis's."""
    targets: dict[str, TargetCurves]
    """By muscle group."""
    length_bins: list[float]
    """Edges of the bins of the resistance profiles."""
    muscle_lengths_cm: dict[str, list[float]]
    """Muscle-tendon length of every muscle of the table."""
    works: list[str]
    """Regions that the movement is for: arm, leg, trunk, scapula, wrist, waist."""
    both: bool
    """Whether both sides work alike."""
    positions_m: dict[str, list[list[float]]]
    """Joints of the figure at every pose, world axes; the origin lies on the floor below the hips."""
    pulls: list[Pull]
    """Load sources with their contact forces."""
    slabs: list[Slab]
    """Cushions that carry the body."""
    moment_arm: MomentArm

    @staticmethod
    def of(set_up: SetUp, profile: Profile, only: str | None = None) -> ProfileDoc:
        """The document of a profile; with ``only`` the curves of one muscle group and what is drawn."""
        table, motion = muscle_table(), profile.motion
        kind = movement(set_up.movement)
        drawn = figure(set_up, profile)
        scale = table.stature_scale(motion.body) * 100
        regions = motion.regions if only is None else ()
        lengths = {n: motion.muscles[r].length[:, i] * scale for r in regions for i, n in enumerate(table.regions[r].names)}
        targets = {
            g.id: TargetCurves(
                name=g.name,
                length=rounded(profile.length[i], 4),
                effective_nm=rounded(profile.effective[i], 2),
                relative_effort=rounded(profile.relative_effort[i], 4),
                resistance_profile_nm=rounded(profile.resistance_profile[i], 2),
            )
            for i, g in enumerate(profile.groups)
            if only in (None, g.id)
        }
        return ProfileDoc(
            part=rounded(motion.part, 4),
            reading=[kind.describe_reading(float(a)) for a in kind.reading(motion.coords)],
            joint_angles_deg={
                n: rounded(np.degrees(motion.coords[r][:, i]), 2) for r in regions for i, n in enumerate(COORDINATES[r])
            },
            torques_nm={n: rounded(profile.demand[r][:, i], 3) for r in regions for i, n in enumerate(AXES[r])},
            targets=targets,
            length_bins=rounded(bin_edges(), 4),
            muscle_lengths_cm={n: rounded(v, 2) for n, v in lengths.items()},
            works=[r for r in motion.regions if r in {table.groups[t].region for t in kind.targets}],
            both=motion.sides.arms if {"arm", "wrist"} & set(motion.coords) else motion.sides.legs,
            positions_m={n: rounded(v, 4) for n, v in drawn.joints.items()},
            pulls=[
                Pull(
                    prop=p.prop,
                    ends_m=rounded(p.ends, 4),
                    contact=p.contact,
                    at_m=rounded(p.at, 4),
                    force_n=rounded(p.force, 3),
                    mirrored=p.mirrored,
                )
                for p in drawn.pulls
            ],
            slabs=[
                Slab(
                    kind=s.kind,
                    start_m=rounded(s.start, 4),
                    end_m=rounded(s.end, 4),
                    half_width_m=s.half_width,
                    thickness_m=s.thickness,
                )
                for s in drawn.slabs
            ],
            moment_arm=MomentArm(
                hinge_m=rounded(drawn.hinge, 4), foot_m=rounded(drawn.foot, 4), length_cm=rounded(drawn.moment_arm * 100, 1)
            ),
        )
