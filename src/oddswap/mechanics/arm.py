"""The right arm: joint coordinates from limb directions, and positions from joint coordinates.

Torso frame: x forward, y left, z up along the spine. Shoulder coordinates are swing and twist: *plane of elevation* (90
deg ahead, 0 to the right side, -90 behind), *elevation* (0 hanging) and *axial rotation* (internal positive, 0 when a
bent forearm of the hanging arm points ahead). Elbow flexion is 0 when straight; pronation 0 is thumb in line with the
crook of the elbow (neutral), +90 palm away from it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.body import Body
from oddswap.mechanics.types import Floats

DOWN = np.array([0.0, 0.0, -1.0])
COORDINATES = ("plane", "elevation", "rotation", "elbow", "pronation")
MOMENT_AXES = ("shoulder x", "shoulder y", "shoulder z", "elbow flexion", "forearm pronation")
"""What the five components of the arm's moments are about, in this order."""


SHORT = 3_000
"""Numbers from which on arrays count as large: slices, or one product of all axes, are then faster over the last axis."""


def norm(v: Floats) -> Floats:
    """Length of vectors over the last axis, (...)."""
    return np.sqrt(dot(v, v))


def unit(v: Floats) -> Floats:
    """Vectors (..., xyz) scaled to length one; zero stays zero."""
    size = norm(v)[..., None]
    return np.asarray(v / np.where(size > 0, size, 1.0))


def dot(a: Floats, b: Floats) -> Floats:
    """Inner product over the last axis."""
    if a.size < SHORT and b.size < SHORT:
        return np.asarray(np.vecdot(a, b))
    return np.asarray(np.einsum("...i,...i->...", a, b))


def greatest(values: Floats, axis: int = -1) -> Floats:
    """Largest over one axis, such as poses, which is left out. On a short last axis slices are several times faster."""
    if axis != -1 or values.ndim < 2 or values.size < SHORT:
        return np.asarray(values.max(axis=axis))
    out = values[..., 0].copy()
    for k in range(1, values.shape[-1]):
        np.maximum(out, values[..., k], out=out)
    return out


def cross(a: Floats, b: Floats) -> Floats:
    """Vector product over the last axis (x, y, z); faster than ``numpy.cross`` on batches."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    first = ay * bz - az * by
    out = np.empty((*first.shape, 3))
    out[..., 0] = first
    out[..., 1] = az * bx - ax * bz
    out[..., 2] = ax * by - ay * bx
    return out


def turn(axis: Floats, angle: Floats, v: Floats) -> Floats:
    """Vectors ``v`` (..., xyz) turned about unit ``axis`` (..., xyz) by ``angle`` (...), radians (Rodrigues' formula)."""
    c, s = np.cos(angle)[..., None], np.sin(angle)[..., None]
    return np.asarray(v * c + cross(axis, v) * s + axis * dot(axis, v)[..., None] * (1 - c))


def slerp(start: Floats, end: Floats, s: Floats) -> Floats:
    """Directions along the great circle from ``start`` to ``end``, (xyz,) or (pose, xyz), at parts ``s`` (pose,) of the way."""
    angle = np.arccos(np.clip(dot(start, end), -1, 1))
    axis = unit(cross(start, end))
    return turn(np.broadcast_to(axis, (*s.shape, 3)), s * angle, np.broadcast_to(start, (*s.shape, 3)))


@dataclass(frozen=True)
class ArmPath:
    """How a movement leads the arm: directions in the torso frame, one row a pose.

    Args:
        upper_arm: Unit direction from shoulder to elbow, (pose, xyz).
        antecubital: Direction the crook of the elbow faces, where the forearm goes when it bends, (pose, xyz); made square to
            the arm.
        elbow: Elbow flexion, radians, (pose,).
        pronation: Forearm rotation, radians, (pose,).
        wrist: Hand bent toward the palm, radians, (pose,); None for a straight wrist.
    """

    upper_arm: Floats
    antecubital: Floats
    elbow: Floats
    pronation: Floats
    wrist: Floats | None = None

    def coordinates(self) -> Floats:
        """Joint coordinates (pose, 5) in the order of ``COORDINATES``, radians."""
        u = unit(self.upper_arm)
        axis = cross(np.broadcast_to(DOWN, u.shape), u)
        sine = np.linalg.norm(axis, axis=-1)
        elevation = np.arctan2(sine, -u[..., 2])
        plane = np.where(sine > 1e-9, np.arctan2(u[..., 0], -u[..., 1]), 0.0)
        # Planes run from straight behind, over the side and ahead, to across the body.
        plane = np.where(plane < -np.pi / 2 - 1e-9, plane + 2 * np.pi, plane)
        antecubital = square_to(self.antecubital, u)
        # Undo the swing, then read the twist off the direction of the elbow's crook.
        back = turn(unit(axis), -elevation, antecubital)
        rotation = np.arctan2(back[..., 1], back[..., 0])
        return np.stack([plane, elevation, rotation, self.elbow, self.pronation], axis=-1)


def square_to(v: Floats, u: Floats) -> Floats:
    """The part of ``v`` square to unit ``u``, scaled to length one; (..., xyz)."""
    return unit(v - dot(v, u)[..., None] * u)


def path_from_coordinates(coords: Floats) -> ArmPath:
    """The inverse of ``ArmPath.coordinates``; ``coords`` (pose, 5), radians."""
    plane, elevation, rotation, elbow, pronation = np.moveaxis(coords, -1, 0)
    zero = np.zeros_like(plane)
    level = np.stack([np.sin(plane), -np.cos(plane), zero], axis=-1)
    axis = unit(cross(np.broadcast_to(DOWN, level.shape), level))
    u = turn(axis, elevation, np.broadcast_to(DOWN, level.shape))
    antecubital = turn(axis, elevation, np.stack([np.cos(rotation), np.sin(rotation), zero], axis=-1))
    return ArmPath(u, antecubital, elbow, pronation)


@dataclass(frozen=True)
class Arm:
    """The arm in the world at every pose; positions m, directions unit, all (pose, xyz).

    ``elbow_axis`` is the axis of positive flexion, ``pronation_axis`` of positive pronation.
    """

    shoulder: Floats
    elbow: Floats
    wrist: Floats
    grip: Floats
    centres: Floats
    """Mass centres of upper arm, forearm and hand, (pose, 3, xyz)."""
    masses: Floats
    """Their masses, kg, (3,)."""
    elbow_axis: Floats
    pronation_axis: Floats
    thumb: Floats
    """Direction the thumb side of the hand faces; bending the hand toward the palm turns about it."""
    torso: Floats
    """World axes of the torso frame as columns, (pose, 3, 3)."""


def place_arm(body: Body, path: ArmPath, shoulder: Floats, torso: Floats) -> Arm:
    """Put the arm of ``body`` at ``shoulder`` (pose, xyz), its path read in the frame ``torso`` (pose, 3, 3)."""

    def to_world(v: Floats) -> Floats:
        return np.asarray(np.einsum("...ij,...j->...i", torso, v))

    u = unit(path.upper_arm)
    antecubital = square_to(path.antecubital, u)
    axis = cross(u, antecubital)
    f = turn(axis, path.elbow, u)
    upper, lower, axis = to_world(u), to_world(f), to_world(axis)
    elbow = shoulder + body.length("upper_arm") * upper
    wrist = elbow + body.length("forearm") * lower
    # Fully supinated the thumb lies along the elbow axis; pronation turns it about minus the forearm, past its crook at 0.
    thumb = turn(-lower, path.pronation + np.pi / 2, axis)
    hand = lower if path.wrist is None else turn(thumb, path.wrist, lower)
    centres = np.stack(
        [
            shoulder + body.centre("upper_arm") * upper,
            elbow + body.centre("forearm") * lower,
            wrist + body.centre("hand") * hand,
        ],
        axis=-2,
    )
    masses = np.array([body.segment_mass(s) for s in ("upper_arm", "forearm", "hand")])
    return Arm(shoulder, elbow, wrist, wrist + body.own("grip") * hand, centres, masses, axis, -lower, thumb, torso)


def antecubital_at(upper_arm: Floats, rotation: Floats) -> Floats:
    """Where the crook of the elbow faces for arm directions (pose, xyz) at axial rotation (pose,) or one value, radians."""
    axis = cross(np.broadcast_to(DOWN, upper_arm.shape), upper_arm)
    elevation = np.arctan2(np.linalg.norm(axis, axis=-1), -upper_arm[..., 2])
    rotation = np.broadcast_to(rotation, elevation.shape)
    return turn(unit(axis), elevation, np.stack([np.cos(rotation), np.sin(rotation), 0 * elevation], axis=-1))
