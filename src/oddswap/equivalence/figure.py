"""What a drawing of a set-up needs: joints, lines of pull, cushions, and the lever about the joint that matters."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.equivalence.profile import Profile
from oddswap.equivalence.set_up import SetUp, contact_of, law_on
from oddswap.mechanics.arm import dot, unit
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.skeleton import MIRROR, bench_edge
from oddswap.mechanics.stance import ONE_HANDED, UPRIGHT
from oddswap.mechanics.supports import reactions
from oddswap.mechanics.types import Floats

FORWARD = np.array([1.0, 0.0, 0.0])
POST, POST_RADIUS = 2.0, 0.03
"""Height of what a hand holds on to, and half its thickness, m."""
ON_FLOOR = 0.1
"""Height up to which the back lies on the floor and on no bench, m."""


@dataclass(frozen=True)
class Pull:
    """One load source as drawn.

    Args:
        prop: What it looks like: ``kind`` and figures.
        ends: Far ends of its line, one per working side, m, (side, xyz); empty for weight.
        contact: Where on the body it bears.
        at: The point on the right side, m, (pose, xyz).
        force: Force there, N, (pose, xyz).
        mirrored: Whether the left side is loaded alike.
    """

    prop: dict[str, Any]
    ends: Floats
    contact: Contact
    at: Floats
    force: Floats
    mirrored: bool


@dataclass(frozen=True)
class Slab:
    """A cushion of a bench or pad, a step or a bar's rest: a flat box about a line, m."""

    kind: str
    start: Floats
    end: Floats
    half_width: float
    thickness: float


@dataclass(frozen=True)
class Figure:
    """A set-up as drawn; positions m, world frame.

    Args:
        joints: Positions by name, (pose, xyz) each.
        pulls: Load sources.
        slabs: Cushions that carry the body.
        hinge: Where the moment arm starts, (pose, xyz).
        foot: Where it meets the line of the total pull, square to it, (pose, xyz).
        moment_arm: Its length, m, (pose,).
    """

    joints: dict[str, Floats]
    pulls: list[Pull]
    slabs: list[Slab]
    hinge: Floats
    foot: Floats
    moment_arm: Floats


def figure(set_up: SetUp, profile: Profile) -> Figure:
    """The drawing's numbers of a profile."""
    motion = profile.motion
    pulls = []
    for source, push in zip(set_up.sources, profile.pushes, strict=True):
        end = law_on(source, motion).far_end
        ends = np.empty((0, 3)) if end is None else np.stack([end, end * MIRROR] if source.mirrors_line else [end])
        contact, at = contact_of(source, motion)
        pulls.append(Pull(source.prop(), ends, contact, at, push.force, push.mirrored))
    hinge = motion.joints[motion.movement.hinge]
    at, force = acting(profile)
    along = unit(force)
    foot = at + dot(hinge - at, along)[:, None] * along
    return Figure(motion.joints, pulls, slabs(set_up, motion), hinge, foot, np.linalg.norm(foot - hinge, axis=-1))


def acting(profile: Profile) -> tuple[Floats, Floats]:
    """The force whose lever is drawn, and its point, (pose, xyz) each: the load's, or the support's under the limb."""
    motion = profile.motion
    led = profile.pushes and (motion.support.base == "seat" or profile.pushes[0].contact == motion.support.contact)
    if led and motion.support.base in ("seat", "hands"):
        return profile.pushes[0].point, profile.force.sum(axis=0)
    weights = np.zeros_like(motion.skeleton.centres)
    weights[..., 2] = -GRAVITY * motion.skeleton.masses
    total, about = weights.sum(axis=1), np.cross(motion.skeleton.centres, weights).sum(axis=1)
    for push in profile.pushes:
        one, turn = push.total()
        total, about = total + one, about + turn
    wanted = "foot" if motion.movement.hinge.split()[-1] in ("hip", "knee", "ankle") else "hand"
    for push in reactions(motion, total, about):
        if push.contact == wanted:
            return push.point, push.force
    if profile.pushes:
        return motion.point(motion.support.contact), total
    # Only weight is left: what lies above the joint that the trunk curls about, else all of it.
    at = motion.skeleton
    mass = at.masses * at.upper if motion.movement.hinge == "lumbosacral" else at.masses
    return (mass[:, None] * at.centres).sum(axis=1) / mass.sum(), np.array([0.0, 0.0, -GRAVITY * mass.sum()]) + 0 * total


def hip_bench(motion: Motion) -> list[Slab]:
    """The pad under hips and thighs and the bar behind the ankles of a back extension."""
    level = np.array([1.0, 0.0, 1.0])
    hip, knee = (joint[0] * level for joint in (motion.leg.hip, motion.leg.knee))
    down = unit(knee - hip)
    front = np.array([-down[2], 0.0, down[0]])
    pad = hip + (motion.body.own("thigh_radius") + 0.05) * front
    return [Slab("rest", pad + 0.04 * down, pad + 0.34 * down, 0.30, 0.08), ankle_bar(motion)]


def ankle_bar(motion: Motion) -> Slab:
    """The bar behind the ankles that holds them."""
    knee, ankle = (joint[0] * np.array([1.0, 0.0, 1.0]) for joint in (motion.leg.knee, motion.leg.ankle))
    up = unit(knee - ankle)
    behind, across = ankle + 0.06 * up + 0.07 * np.array([-up[2], 0.0, up[0]]), np.array([0.0, 0.28, 0.0])
    return Slab("bar", behind - across, behind + across, 0.03, 0.06)


def slabs(set_up: SetUp, motion: Motion) -> list[Slab]:
    """Seat and back rest of a bench, a hip pad, the arm pad, a step under the toes, a raised rest for hands or feet."""
    stance, joints, body, support = motion.stance, motion.joints, motion.body, motion.support
    ahead, spine, hips = motion.skeleton.torso[0, :, 0], motion.skeleton.torso[0, :, 2], joints["hips"][0]
    out = []
    if stance.kind == "bench":
        under = np.array([0.0, 0.0, stance.seat - 0.03])
        out.append(Slab("seat", under - 0.10 * FORWARD, under + 0.30 * FORWARD, 0.14, 0.06))
        # The rest stays as it is set, whoever leans forward from it.
        up = np.array([np.sin(stance.pitch), 0.0, np.cos(stance.pitch)])
        back = hips - (body.own("trunk_radius") + 0.03) * np.array([up[2], 0.0, -up[0]])
        if stance.recline < UPRIGHT:
            out.append(Slab("rest", back + 0.02 * up, back + 0.78 * up, 0.14, 0.06))
    if stance.kind == "chest_supported":
        front = hips + (body.own("trunk_radius") + 0.03) * ahead
        out.append(Slab("rest", front - 0.35 * spine * (stance.recline < 0.2), front + 0.62 * spine, 0.14, 0.06))
    if stance.rested:
        at = hips - stance.rested * (body.own("trunk_radius") + 0.03) * ahead
        out.append(Slab("rest", at - 0.10 * spine, at + 0.68 * spine, 0.14, 0.06))
    if stance.kind in ONE_HANDED:
        foot = joints["left grip"][0] * np.array([1.0, 1.0, 0.0]) + np.array([0.0, 0.0, POST_RADIUS])
        out.append(Slab("bar", foot, foot + np.array([0.0, 0.0, POST]), POST_RADIUS, 2 * POST_RADIUS))
    if support.base == "back and feet":
        edge = bench_edge(motion.body, motion.skeleton)[0]
        if edge[2] > ON_FLOOR:
            out.append(Slab("rest", edge - np.array([0.30, 0, 0.03]), edge - np.array([0.02, 0, 0.03]), 0.3, 0.06))
    if support.base == "pad and feet":
        behind = (body.own("trunk_radius") + 0.03) * ahead
        out.append(Slab("rest", hips - behind, joints["shoulders"][-1] - behind, 0.16, 0.06))
        # The plate lies under the soles, which tilt with it.
        level = np.array([1.0, 0.0, 1.0])
        heel, toe = (joint[0] * level for joint in (motion.leg.heel, motion.leg.toe))
        along = unit(toe - heel)
        below = 0.04 * np.array([along[2], 0.0, -along[0]])
        out.append(Slab("step", heel + below - 0.06 * along, toe + below + 0.08 * along, 0.25, 0.06))
    if support.base == "thighs and ankles":
        out += hip_bench(motion)
    if support.base == "knees and ankles":
        out.append(ankle_bar(motion))
    if support.base == "hands" or (support.base == "hands and feet" and support.root == "heels"):
        grip = motion.arm.grip[0]
        across = ("dip_bars",) not in motion.movement.needs(motion.values)
        reach = np.array([0.0, 0.75, 0.0]) if across else np.array([0.3, 0.0, 0.0])
        for hand in [grip * np.array([1.0, 0.0, 1.0])] if across else [grip, grip * MIRROR]:
            out.append(Slab("bar", hand - reach, hand + reach, 0.016, 0.032))
    out += steps(motion)
    if set_up.pad:
        elbow, shoulder = motion.arm.elbow[0], motion.arm.shoulder[0]
        along = unit(shoulder - elbow)
        below = np.array([0.0, 0.0, -1.0]) - along * -along[2]
        offset = 0.06 * unit(below)
        out.append(Slab("pad", elbow + offset - 0.05 * along, elbow + offset + 0.32 * along, 0.14, 0.05))
    return out


def steps(motion: Motion) -> list[Slab]:
    """What raises hands or feet."""
    support, out = motion.support, list[Slab]()
    for name, height in (("toes", support.rest_cm), ("hands", support.hand_cm)):
        if name == "toes" and support.root == "feet" and support.base != "pad and feet" and height > 5:
            sole = motion.leg.sole[0]
            out.append(Slab("step", sole + np.array([-0.14, 0, -0.03]), sole + np.array([0.32, 0, -0.03]), 0.25, 0.06))
        if name == "toes" and support.root == "heels" and height > 5:
            heel = motion.leg.heel[0] * np.array([1.0, 0.0, 1.0])
            out.append(Slab("step", heel + np.array([-0.22, 0, -0.03]), heel + np.array([0.14, 0, -0.03]), 0.25, 0.06))
        if name == "toes" and support.root == "toes" and height > 5:
            ball = motion.leg.ball[0] * np.array([1.0, 0.0, 1.0])
            out.append(Slab("step", ball + np.array([-0.06, 0, -0.03]), ball + np.array([0.16, 0, -0.03]), 0.2, 0.06))
        if name == "hands" and support.base.startswith("hands and") and 8 < height < 45:
            grip = motion.arm.grip[0] * np.array([1.0, 0.0, 1.0])
            out.append(Slab("step", grip + np.array([-0.15, 0, -0.06]), grip + np.array([0.15, 0, -0.06]), 0.3, 0.06))
    return out
