"""A movement done by one client on given supports: joint coordinates, positions and muscles at every pose.

Everything here belongs to the movement and is shared by all the load sources that may be tried on it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oddswap.mechanics.arm import COORDINATES as ARM_COORDINATES
from oddswap.mechanics.arm import Arm, cross, dot, unit
from oddswap.mechanics.body import GRAVITY, Body, borne_across, tables
from oddswap.mechanics.leg import COORDINATES as LEG_COORDINATES
from oddswap.mechanics.leg import Leg
from oddswap.mechanics.lengths import BINS, bin_matrices
from oddswap.mechanics.movement import BodySupport, Contact, Hold, Movement, Sides
from oddswap.mechanics.muscle_regions import DATASET_STATURE, MuscleState
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.push import ABOVE_LUMBOSACRAL, LOADS, Push
from oddswap.mechanics.sharing import share_of_load
from oddswap.mechanics.skeleton import Skeleton
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.supports import reactions
from oddswap.mechanics.types import Floats

COORDINATES = {
    "arm": ARM_COORDINATES,
    "leg": LEG_COORDINATES,
    "trunk": ("trunk flexion",),
    "waist": ("side bend",),
    "scapula": ("scapula forward", "scapula up"),
    "wrist": ("wrist flexion",),
}
"""Joint coordinates by region."""
SCAPULA_RADIUS = 0.082
"""Collarbone's inner end to the shoulder's centre, part of stature: turns shifts of the shoulder blades into angles."""

KNEE, HAND = 3, 11
"""Places of the knee among a leg's axes, and of the right hand among the body's segments."""
LEFT = np.array([0.0, 1.0, 0.0])


@dataclass(frozen=True)
class Motion:
    """One client's movement without a load.

    Args:
        body: The client.
        movement: What is done.
        values: Its parameter values.
        stance: How they are carried.
        part: Parts of the way from lengthened end to shortened end, (pose,).
        coords: Joint coordinates by region, radians, (pose, coordinate).
        skeleton: Positions and directions.
        muscles: Lengths and moment arms by region, (pose, muscle, ...).
        pad: Whether a pad carries the upper arm, and with it the moment about the shoulder.
        sides: Which limbs work on both sides.
        hold: Where arms are that only hold.
        eased: Whether the forearm follows whatever line of pull comes, so that a load in the hand is felt at the elbow.
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
    sides: Sides
    hold: Hold = "rest"
    eased: bool = False

    @property
    def arm(self) -> Arm:
        """The right arm."""
        return self.skeleton.arm

    @property
    def leg(self) -> Leg:
        """The right leg."""
        return self.skeleton.leg

    @cached_property
    def support(self) -> BodySupport:
        """How the body rests and is loaded."""
        return self.movement.support(self.values)

    @property
    def foot(self) -> Floats:
        """Where the foot's reaction acts, m, (pose, xyz)."""
        return {"toes": self.leg.ball, "heels": self.leg.heel}.get(self.support.root, self.leg.sole)

    @property
    def joints(self) -> dict[str, Floats]:
        """Positions by name, both sides, (pose, xyz) each."""
        return self.skeleton.joints

    @property
    def between_legs(self) -> bool:
        """Whether what is held or hangs from the hips is between the legs, so that a line may pass there."""
        return self.hold == "between" or (self.support.contact == "hips" and self.support.base == "feet at a hold")

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
            return arm.grip + (across + self.support.across_cm / 100) * arm.thumb
        if contact == "foot":
            return leg.ball if self.support.root == "toes" else leg.sole
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

    def felt(self, contact: Contact) -> Floats:
        """Where a load on a contact is felt, m, (pose, xyz): where it bears, but at the elbow, or as far inside of it as a
        press's hands lean in, where the forearm follows its line."""
        if not self.eased or contact != "hand":
            return self.point(contact)
        inward = np.sin(np.radians(self.values.get("lean_in_deg", 0.0)))
        return np.asarray(self.arm.elbow + inward * np.linalg.norm(self.arm.grip - self.arm.elbow, axis=-1)[:, None] * LEFT)

    def moment(self, region: str, push: Push) -> Floats:
        """Moment of an external force about a region's joints, by the general law M = (p - joint) x F.

        Returns:
            N·m on the region's axes, (..., pose, axis): the ball joints' three in the torso or pelvis frame. What muscles must
            give is its negative. With the upper arm on a pad the shoulder's three are zero: the pad gives what is needed.
        """
        if region in ("trunk", "waist"):
            return self._lower_back(region, push)
        if region == "scapula":
            return self._scapula(push)
        if region == "wrist":
            return self._wrist(push)
        mask = LOADS[push.contact].get(region)
        if mask is None:
            return np.zeros((*push.force.shape[:-1], 5))
        whole = np.zeros((*np.broadcast_shapes(push.point.shape, push.force.shape)[:-1], 5))
        first = 0
        for joint, axes in self.hinges(region):
            last = first + axes.shape[-1]
            if mask[first]:
                whole[..., first:last] = np.einsum("...ji,...j->...i", axes, push.about(joint))
            first = last
        whole *= mask
        whole[..., : self.held(region)] = 0.0
        if region == "leg" and self.support.knee_locked:
            whole[..., KNEE] = 0.0
        return np.asarray(whole)

    def held(self, region: str) -> int:
        """How many axes of the ball joint, from the first, are not the muscles' because a pad carries the upper arm, or a
        seat the thigh: all three where it is held, the two level ones where a seat carries its weight."""
        if region == "arm":
            return 3 if self.pad else 0
        return {"free": 0, "rests": 2, "held": 3}[self.support.thigh] if region == "leg" else 0

    def _scapula(self, push: Push) -> Floats:
        """Moment of a force on the arm about the inner end of the collarbone, as it reaches the shoulder blades.

        It reaches them at the shoulder's centre; up and forward, N·m, (..., pose, 2).
        """
        if push.contact not in LOADS or "arm" not in LOADS[push.contact]:
            return np.zeros((*push.force.shape[:-1], 2))
        lever = muscle_table().settings["scapula"]["shoulder_from_collarbone_m"]
        scale = self.body.stature / DATASET_STATURE
        force = np.einsum("...ji,...j->...i", self.skeleton.torso, push.force)
        about = cross(np.broadcast_to(np.array(lever) * scale, force.shape), force)
        return np.stack([-about[..., 0], about[..., 2]], axis=-1)

    def _wrist(self, push: Push) -> Floats:
        """Moment of a force on the hand about the wrist, toward the palm, N·m, (..., pose, 1)."""
        if push.contact != "hand":
            return np.zeros((*push.force.shape[:-1], 1))
        about = push.about(self.arm.wrist)
        return np.asarray(dot(about, np.broadcast_to(self.arm.thumb, about.shape))[..., None])

    def _lower_back(self, region: str, push: Push) -> Floats:
        """Moment of a force above the lower back about its middle, N·m, (..., pose, 1): forward, or for the waist to the left.

        What bears on both sides alike turns the trunk twice as much forward and to neither side.
        """
        if push.contact not in ABOVE_LUMBOSACRAL or (region == "waist" and push.mirrored):
            return np.zeros((*push.force.shape[:-1], 1))
        about = push.about(self.joints["lumbosacral"])
        if region == "waist":
            return np.asarray(-dot(about, np.broadcast_to(self.skeleton.pelvis[..., 0], about.shape))[..., None])
        # Bending forward turns about the axis to the left.
        return np.asarray((2.0 if push.mirrored and push.contact != "back" else 1.0) * about[..., 1:2])

    def hinges(self, region: str) -> Sequence[tuple[Floats, Floats]]:
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
            if region == "scapula":
                held = np.zeros((len(self.part), 3))
                held[:, 2] = -GRAVITY * self.arm.masses.sum()
                out[region] = self._scapula(Push("hand", self.arm.grip, held))
            elif region == "wrist":
                hand = np.broadcast_to(pull[:, HAND], (len(self.part), 3))
                out[region] = self._wrist(Push("hand", self.arm.centres[:, 2], hand))
            elif region in ("trunk", "waist"):
                arm, bears = at.centres - self.joints["lumbosacral"][:, None], pull * at.upper[:, None]
                forward = region == "trunk"
                turned = self._forward(arm, bears) if forward else -dot(cross(arm, bears).sum(axis=1), at.pelvis[..., 0])
                out[region] = turned[:, None]
            else:
                out[region] = self._limb_weight(region, pull)
        if self.support.base == "seat":
            return out
        every = np.broadcast_to(pull.sum(axis=1), (len(self.part), 3))
        about = cross(at.centres, pull).sum(axis=1)
        below = np.broadcast_to((pull * (1 - at.upper[:, None])).sum(axis=1), every.shape)
        return self._with_reaction(out, every, about, below)

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

    def _with_reaction(self, moments: dict[str, Floats], force: Floats, about: Floats, below: Floats) -> dict[str, Floats]:
        """Add what the supports give back to a total force (..., pose, xyz) with moment ``about`` the world's origin, so much
        of it ``below`` the lower back."""
        out = dict(moments)
        for push in reactions(self, force, about, below):
            for region in self.regions:
                out[region] = out[region] + self.moment(region, push)
        return out

    @cached_property
    def leg_strength(self) -> Floats:
        """What the leg's joints can give about their axes, either way alike, N·m, (pose, axis)."""
        if "leg" not in self.muscles:
            return np.ones((len(self.part), 5))
        given = self.strongest("leg")[..., None] * np.abs(self.free_moment_arm("leg"))
        return np.asarray(np.maximum(given.sum(axis=1) / 2, 1.0))

    def response(self, push: Push) -> dict[str, Floats]:
        """Moments of one load by region with what the supports give back, N·m, (..., pose, axis)."""
        out = {region: self.moment(region, push) for region in self.regions}
        if self.support.base == "seat":
            return out
        force, about = push.total()
        below = np.zeros_like(force) if push.contact in ABOVE_LUMBOSACRAL else force
        return self._with_reaction(out, force, about, below)

    @cached_property
    def hand_moments(self) -> tuple[Floats, Floats, Floats]:
        """Moments at shoulder, elbow and across it per newton in the hand, m, (pose, axis, xyz), and what the arm can give
        against positive and negative ones, N·m, (pose, axis) each."""
        unit_forces = np.broadcast_to(np.eye(3)[:, None], (3, len(self.part), 3))
        moments = np.moveaxis(self.moment("arm", Push("hand", self.point("hand"), unit_forces)), 0, -1)[:, :4]
        arms, strongest = self.free_moment_arm("arm")[..., :4], self.strongest("arm")[..., None]
        against = [np.maximum((strongest * np.maximum(0.0, sign * arms)).sum(axis=1), 1.0) for sign in (-1.0, 1.0)]
        # What goes across the elbow's hinge its sides bear.
        sideways = cross(self.across_elbow, self.point("hand") - self.arm.elbow)
        along = dot(unit(self.arm.elbow - self.arm.shoulder), unit(self.arm.wrist - self.arm.elbow))
        borne = borne_across("elbow", np.degrees(np.arccos(np.clip(along, -1.0, 1.0))))[:, None]
        whole = np.concatenate([moments, sideways[:, None]], axis=1)
        return whole, np.concatenate([against[0], borne], axis=1), np.concatenate([against[1], borne], axis=1)

    @property
    def across_elbow(self) -> Floats:
        """Axis square to forearm and elbow hinge, unit, (pose, xyz)."""
        return unit(cross(self.arm.grip - self.arm.elbow, self.arm.elbow_axis))

    def moment_arm(self, group: Group) -> Floats:
        """Moment arm of a muscle group, m on its region's axes, (pose, axis); without the shoulder's on a pad."""
        out: Floats = np.einsum("pmx,m->px", self.muscles[group.region].moment_arm, group.weights)
        out[:, : self.held(group.region)] = 0.0
        return out

    def direction(self, group: Group) -> Floats:
        """Moment arm scaled to length one, r/|r|, (pose, axis)."""
        return self._groups[group.region][group.id][0]

    @cached_property
    def _groups(self) -> dict[str, dict[str, tuple[Floats, Floats]]]:
        """By region, every group's direction, (pose, axis), and capacity along it, N·m, (pose,)."""
        out = {}
        for region in self.regions:
            groups = [g for g in muscle_table().groups.values() if g.region == region]
            weights, arms = np.stack([g.weights for g in groups]), self.free_moment_arm(region)
            r = weights @ arms
            way = r / np.maximum(np.sqrt(dot(r, r))[..., None], 1e-9)
            given = np.maximum(0.0, way @ arms.transpose(0, 2, 1)) @ self.strongest(region)[..., None]
            out[region] = {g.id: (way[:, i], given[:, i, 0]) for i, g in enumerate(groups)}
        return out

    def target_length(self, group: Group) -> Floats:
        """Normalised length of a group, 0 longest to 1 shortest its joints allow, (pose,)."""
        region = muscle_table().regions[group.region]
        return np.asarray(region.normalised(self.muscles[group.region].length) @ group.weights)

    def free_moment_arm(self, region: str) -> Floats:
        """Moment arms of a region's muscles, m, (pose, muscle, axis), without the axes that a pad or seat holds."""
        if region not in self._free:
            moment_arm, held = self.muscles[region].moment_arm, self.held(region)
            if held:
                moment_arm = moment_arm.copy()
                moment_arm[..., :held] = 0.0
            self._free[region] = moment_arm
        return self._free[region]

    def strongest(self, region: str) -> Floats:
        """Greatest force of a region's muscles at their lengths, for this client, N, (pose, muscle)."""
        if region not in self._strongest:
            given = muscle_table().regions[region].capacity(self.muscles[region].length)
            self._strongest[region] = given * self.body.strength
        return self._strongest[region]

    @cached_property
    def _free(self) -> dict[str, Floats]:
        """Moment arms by region, once somebody asked for them."""
        return {}

    @cached_property
    def _strongest(self) -> dict[str, Floats]:
        """Greatest forces by region, once somebody asked for them."""
        return {}

    def capacity(self, group: Group) -> Floats:
        """What all muscles together can give along the group's own direction, N·m, (pose,).

        c = sum over muscles of F_i(length) max(0, r_i . r/|r|): helpers count as far as they pull the same way.
        """
        return self._groups[group.region][group.id][1]

    def share(self, group: Group, moment: Floats) -> Floats:
        """Part of a load that a group carries, (...); see ``share_of_load``.

        Args:
            group: The muscle group.
            moment: Moment of the load on the group's region, N·m, (..., pose, axis).
        """
        region = group.region
        return share_of_load(moment, self.free_moment_arm(region), self.strongest(region), group.weights > 0)

    def binning(self, group: Group) -> Floats:
        """Matrix (bin, pose) that turns values along the path into means per bin of the group's normalised length.

        Bins the movement does not reach are zero rows. Between poses values are linear.
        """
        return np.asarray(bin_matrices(self.target_length(group)[None], range(BINS + 1))[0])
