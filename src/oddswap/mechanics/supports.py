"""What supports give back to the loads on a body: floor, bar, bench and pad, in the plane of symmetry.

Where equilibrium leaves a force free, people choose it so that they have least to do.
"""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from oddswap.mechanics.arm import cross, unit
from oddswap.mechanics.bar_push import press_along_bar
from oddswap.mechanics.body import tables
from oddswap.mechanics.movement import Base, Contact
from oddswap.mechanics.push import Push
from oddswap.mechanics.skeleton import bench_edge
from oddswap.mechanics.types import Floats

if TYPE_CHECKING:
    from oddswap.mechanics.motion import Motion


ON_FLOOR_CM = 10.0
"""Height up to which hands stand on the floor with plumb forearms, cm."""


def reactions(motion: Motion, force: Floats, about: Floats, below: Floats | None = None) -> list[Push]:
    """Supports' pushes that balance a total force with its moment about the world's origin, in the plane of symmetry.

    Args:
        force: N, (..., pose, xyz).
        about: N·m, (..., pose, xyz).
        below: What of the force bears below the lower back, N, (..., pose, xyz); None for nothing of it.
    """
    kind = motion.support.base
    if kind == "seat":
        return []
    if kind == "pelvis":
        # The floor carries the pelvis as it comes; what the trunk turns about the lower back, the abs hold.
        at = motion.joints["hips"]
        return [Push("hips", at, -force, -(about - cross(at, force)), mirrored=False)]
    if kind == "lower back":
        # Buttocks carry pelvis and legs, the back the rest; what legs turn about the buttocks the abs hold.
        back, hips = motion.joints["lumbosacral"], motion.joints["hips"]
        sits = np.zeros_like(force) if below is None else below
        turn = about - cross(hips, sits) - cross(back, force - sits)
        return [Push("hips", hips, -sits, mirrored=False), Push("back", back, sits - force, -turn, mirrored=False)]
    left_over, pitch, feet = -force, np.array([0.0, 1.0, 0.0]), motion.foot
    middle = feet * np.array([1.0, 0.0, 1.0])
    if kind == "two feet":
        # The rear foot stands on its toes; what it carries does not load the working leg.
        rear = motion.joints["left toe"] * np.array([1.0, 0.0, 1.0])
        turning = (about - cross(rear, force))[..., 1]
        upright = turning / (middle - rear)[..., 0]
        front = np.stack([0 * upright, 0 * upright, upright], axis=-1)
        # Feet fore and aft press apart so that neither leg works more than it must: their pushes meet near the body's
        # centre, here the middle of the trunk (own assumption), whatever the load.
        rise = 0.5 * (motion.joints["hips"] + motion.joints["shoulders"]) - feet
        front[..., 0] = upright * rise[..., 0] / rise[..., 2]
        return [Push("foot", feet, front, mirrored=False)]
    if kind in ("feet", "hands"):
        contact: Contact = "foot" if kind == "feet" else "hand"
        at = feet if kind == "feet" else motion.arm.grip
        both = motion.sides.legs if kind == "feet" else motion.sides.arms
        share = 0.5 if both else 1.0
        ground = middle if kind == "feet" else at * np.array([1.0, 0.0, 1.0])
        turn = -(about[..., 1:2] - cross(ground, force)[..., 1:2]) * pitch
        pushed = share * left_over
        return [Push(contact, at, _inward(motion, pushed) if kind == "feet" else pushed, share * turn, mirrored=both)]
    return _two_supports(motion, kind, left_over, force, about)


def _two_supports(motion: Motion, kind: Base, left_over: Floats, force: Floats, about: Floats) -> list[Push]:
    """Pushes of two supports, one near the middle of the body and one far, that balance a total force.

    Both carry upright forces; whatever pushes along the floor is held by the far one. Hanging from a bar the pull leads
    along the forearms instead: heels and bar can hold any push between them, and people let the arms hang in it. A pad that
    slides on rails behind the back pushes square to it, in the mean at the upper back, where the legs have least to do.
    Hands at a hold ahead of somebody who stands pull or push level, which keeps the body from tipping.
    """
    nears: dict[str, tuple[Contact, Floats]] = {
        "hands and feet": ("hand", motion.arm.grip),
        "hands and knees": ("hand", motion.arm.grip),
        "feet at a hold": ("hand", motion.arm.grip),
        "back and feet": ("back", bench_edge(motion.body, motion.skeleton)),
        "pad and feet": ("back", bench_edge(motion.body, motion.skeleton)),
        "knees and ankles": ("thigh", motion.leg.knee),
        "thighs and ankles": ("thigh", motion.leg.hip + tables()["lying"]["hip_pad"] * (motion.leg.knee - motion.leg.hip)),
    }
    fars: dict[str, tuple[Contact, Floats]] = {
        "hands and knees": ("thigh", motion.leg.knee),
        "knees and ankles": ("shank", motion.leg.shin),
        "thighs and ankles": ("shank", motion.leg.shin),
    }
    (hold, near), (far, end) = nears[kind], fars.get(kind, ("foot", motion.foot))
    middle = end * np.array([1.0, 0.0, 1.0])
    way = np.broadcast_to(np.array([0.0, 0.0, 1.0]), near.shape)
    if motion.support.root == "heels":
        way = unit((motion.arm.grip - motion.arm.elbow) * np.array([1.0, 0.0, 1.0]))
    if kind == "feet at a hold":
        way = np.broadcast_to(np.array([1.0, 0.0, 0.0]), near.shape)
    if kind == "pad and feet":
        way = motion.skeleton.torso[..., :, 0]
    turning = (about - cross(middle, force))[..., 1]
    upright = (-turning / cross(near - middle, way)[..., 1])[..., None] * way
    both = motion.sides.legs or far != "foot"
    share, paired = 0.5 if both else 1.0, hold != "back"
    below = share * (left_over - upright)
    if kind == "back and feet":
        pressed = _press_apart(motion, near, end, below)
        upright, below = upright - pressed / share, below + pressed
    first = Push(hold, near, (0.5 if paired else 1.0) * upright, mirrored=paired)
    if kind.startswith("hands") and motion.support.hand_cm <= ON_FLOOR_CM and motion.support.root != "heels":
        # Hands that the floor holds press toward each other as on a bar.
        first = replace(first, force=press_along_bar(motion, first.force))
    return [first, Push(far, end, _inward(motion, below) if far == "foot" else below, mirrored=both)]


def _press_apart(motion: Motion, back: Floats, foot: Floats, below: Floats) -> Floats:
    """What a foot presses along the line to the back, N, (..., pose, xyz), besides its push ``below``.

    Back and feet could press apart or together by any amount; people do it so that hip, knee and ankle have least to do:
    the sum of their squared torques, each over what the joint can give, is least.
    """
    way = unit((back - foot) * np.array([1.0, 0.0, 1.0]))
    per_newton, asked = (motion.moment("leg", Push("foot", foot, f)) / motion.leg_strength for f in (way, below))
    free = -(per_newton * asked).sum(axis=-1) / np.maximum((per_newton * per_newton).sum(axis=-1), 1e-12)
    return np.asarray(free[..., None] * way)


def _inward(motion: Motion, force: Floats) -> Floats:
    """A foot's push (..., pose, xyz) with what two feet add by spreading the floor: the line leads through the hip.

    Standing wide, the feet could press apart or together by any amount; people let the ground hold them, so that the
    hips need neither open nor close.
    """
    if not motion.sides.legs:
        return force
    rise = motion.leg.hip - motion.foot
    out = force.copy()
    out[..., 1] = force[..., 2] * rise[..., 1] / np.maximum(rise[..., 2], 0.2)
    return out
