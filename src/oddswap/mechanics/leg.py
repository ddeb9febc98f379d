"""The right leg: joint coordinates, frames and positions.

Hip coordinates turn the thigh from hanging below the pelvis: *flexion* (forward positive), *adduction* (inward positive) and
*rotation* (internal positive), in this order about axes that move along. Knee flexion bends the shank back, ankle
dorsiflexion lifts the toes; all radians, zero when standing.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.arm import DOWN
from oddswap.mechanics.body import Body
from oddswap.mechanics.types import Floats

COORDINATES = ("hip flexion", "hip adduction", "hip rotation", "knee", "ankle")
HEEL, BALL, TOE = -0.25, 0.50, 0.72
"""Places along the foot from below the ankle, parts of its length."""


def _about(angle: Floats, i: int, j: int) -> Floats:
    """Rotation matrices (..., 3, 3) that turn axis ``i`` toward axis ``j`` by ``angle`` (...), radians."""
    angle = np.asarray(angle)
    out = np.zeros((*angle.shape, 3, 3))
    out[..., 3 - i - j, 3 - i - j] = 1.0
    out[..., i, i] = out[..., j, j] = np.cos(angle)
    out[..., j, i] = np.sin(angle)
    out[..., i, j] = -out[..., j, i]
    return out


def about_x(angle: Floats) -> Floats:
    """Rotation matrices (..., 3, 3) about x by ``angle`` (...), radians."""
    return _about(angle, 1, 2)


def about_y(angle: Floats) -> Floats:
    """Rotation matrices (..., 3, 3) about y by ``angle`` (...), radians; positive pitches forward."""
    return _about(angle, 2, 0)


def about_z(angle: Floats) -> Floats:
    """Rotation matrices (..., 3, 3) about z by ``angle`` (...), radians."""
    return _about(angle, 0, 1)


@dataclass(frozen=True)
class Leg:
    """The right leg in the world at every pose; positions m, directions unit, all (pose, xyz)."""

    hip: Floats
    knee: Floats
    ankle: Floats
    heel: Floats
    ball: Floats
    toe: Floats
    sole: Floats
    """Middle of the foot on the sole."""
    shin: Floats
    """A hand's breadth above the ankle, where cuffs and pads bear."""
    centres: Floats
    """Mass centres of thigh, shank and foot, (pose, 3, xyz)."""
    masses: Floats
    """Their masses, kg, (3,)."""
    knee_axis: Floats
    """Axis of positive knee flexion."""
    ankle_axis: Floats
    """Axis of positive dorsiflexion."""
    pelvis: Floats
    """World axes of the pelvis as columns, (pose, 3, 3)."""


def place_leg(body: Body, coords: Floats, hip: Floats, pelvis: Floats) -> Leg:
    """Put the leg of ``body`` at ``hip`` (pose, xyz) with coordinates (pose, 5) read in the frame ``pelvis`` (pose, 3, 3)."""
    flexion, adduction, rotation, knee_angle, ankle_angle = np.moveaxis(coords, -1, 0)
    thigh = pelvis @ about_y(-flexion) @ about_x(adduction) @ about_z(rotation)
    shank = thigh @ about_y(knee_angle)
    foot = shank @ about_y(-ankle_angle)
    knee = hip + body.length("thigh") * (thigh @ DOWN)
    ankle = knee + body.length("shank") * (shank @ DOWN)
    length, below = body.length("foot"), body.height("ankle")

    def on_sole(along: float) -> Floats:
        return np.asarray(ankle + foot @ np.array([along * length, 0.0, -below]))

    centres = np.stack(
        [hip + (knee - hip) * body.centre_part("thigh"), knee + (ankle - knee) * body.centre_part("shank"), on_sole(0.15)],
        axis=-2,
    )
    masses = np.array([body.segment_mass(s) for s in ("thigh", "shank", "foot")])
    return Leg(
        hip,
        knee,
        ankle,
        on_sole(HEEL),
        on_sole(BALL),
        on_sole(TOE),
        on_sole(0.25),
        ankle + (knee - ankle) * 0.14,
        centres,
        masses,
        thigh[..., :, 1],
        -shank[..., :, 1],
        pelvis,
    )


def within_leg_ranges(coords: Floats, ranges: dict[str, tuple[float, float]]) -> Floats:
    """How far each coordinate (pose, 5) lies outside its range, degrees, (pose, 5); zero inside."""
    names = ("hip_flexion", "hip_adduction", "hip_rotation", "knee", "ankle")
    low, high = np.array([ranges[n] for n in names]).T
    degrees = np.degrees(coords)
    return np.asarray(np.maximum(0, np.maximum(low - degrees, degrees - high)))
