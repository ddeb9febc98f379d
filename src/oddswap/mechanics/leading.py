"""Limbs led by the load: where the elbow goes is the movement's, where the forearm points is the load's.

In a pull the forearm hangs in the line of pull; in a press it stands in it. A rigid bar keeps the hands' distance, and a
rope's strands lead to where they meet.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from oddswap.mechanics.arm import ArmPath, cross, dot, path_from_coordinates, square_to, turn, unit
from oddswap.mechanics.body import Body, tables
from oddswap.mechanics.types import Floats

Led = Literal["", "pull", "press", "hang"]
"""How a movement's arm follows the load: the forearm along its line, or against it; or the arm hangs plumb at the start alone
where its load does; or not at all."""
FAR = 1000.0
"""So far off, m, that a line's direction is the same wherever on the body it starts."""
MIDDLE = np.array([1.0, 0.0, 1.0])
"""Leaves of a place what lies in the body's middle plane."""


@dataclass(frozen=True)
class Lead:
    """What a load makes of the forearm's direction.

    Args:
        toward: Where its line leads from the right hand, m; None where it hangs.
        hands: ``free``; on one rigid ``bar`` that keeps them apart; or each on its strand of a ``rope``.
        strand: Length of a rope's strand, m.
        straight: Whether what the hands press runs straight along its line.
    """

    toward: tuple[float, float, float] | None = None
    hands: Literal["free", "bar", "rope"] = "free"
    strand: float = 0.0
    straight: bool = False

    def line(self, start: Floats) -> Floats:
        """Unit direction of the load's pull at places ``start``, m, (pose, xyz)."""
        if self.toward is None:
            return np.broadcast_to([0.0, 0.0, -1.0], start.shape)
        return unit(np.array(self.toward) - start)


UPRIGHT = 0.95
"""Upward part of the trunk's axis from which on it is upright."""


def far_along(way: Floats) -> Lead:
    """What a line of pull makes of the forearm whose far end lies a long way off along ``way``, unit, (xyz,)."""
    x, y, z = (round(float(v) * FAR, 1) for v in way)
    return Lead((x, y, z))


@dataclass(frozen=True)
class Following:
    """How a movement's arm follows a load.

    Args:
        led: Its forearm along the load's line, against it, or hanging plumb at the start alone.
        way: Parts of the way at every pose, (pose,); an arm hangs in the line at 0.
        whole: How many poses, from the first, go over the whole way.
        lean_in: How far a press's hands lean in from over the elbows, radians.
        grip: How far apart hands hold a bar, m; 0 for as far as the movement has them on average.
    """

    led: Led
    way: Floats
    whole: int
    lean_in: float = 0.0
    grip: float = 0.0


def lead_arm(body: Body, following: Following, path: ArmPath, lead: Lead, shoulder: Floats, torso: Floats) -> ArmPath:
    """The arm with its forearm in the load's line, as far as its joints turn.

    Args:
        body: The client.
        following: How the movement follows.
        path: The arm as the movement has it, (pose,).
        lead: What the load asks.
        shoulder: m, world, (pose, xyz).
        torso: Torso axes as columns, (pose, 3, 3).
    """
    led = following.led
    if not led:
        return path
    if led == "hang":
        plumb = torso[0].T @ lead.line(shoulder[0])
        return (
            path
            if lead.toward is not None
            else replace(path, upper_arm=_swing_start(unit(path.upper_arm), plumb, following.way))
        )
    upper, fore = body.length("upper_arm"), body.to_hand
    across = np.abs(_hand_across(path, shoulder, torso, upper, fore))
    # The hands of free loads go in and out; a bar's stay where those are on average.
    apart = following.grip / 2 or float(across[: following.whole].mean())
    u = unit(path.upper_arm)
    if led == "pull":
        start = lead.line(shoulder[0] * (1.0 if lead.hands == "free" else MIDDLE))
        if lead.hands == "bar":
            start = with_across(start, (-apart - shoulder[0, 1]) / (upper + fore))
            if lead.toward is None and torso[0, 2, 2] > UPRIGHT:
                # Who stands upright has the bar before the thighs.
                ahead = max(0.0, body.own("thigh_radius") - shoulder[0, 0]) / (upper + fore)
                start = unit(start + ahead * np.array([1.0, 0.0, 0.0]))
        elif lead.hands == "rope":
            start = with_across(start, -shoulder[0, 1] / (upper + fore + lead.strand))
        u = _swing_start(u, torso[0].T @ start, following.way)
    elif lead.straight:
        u = _rotate(np.swapaxes(torso, -1, -2), _run_straight(_rotate(torso, u), lead.line(shoulder * MIDDLE)[0]))
    elbow = shoulder + upper * _rotate(torso, u)
    sign = 1.0 if led == "pull" else -1.0
    if lead.hands == "bar":
        f = with_across(sign * lead.line(elbow * MIDDLE), (-apart - elbow[:, 1]) / fore)
    elif lead.hands == "rope" and led == "pull":
        f = with_across(sign * lead.line(elbow * MIDDLE), -elbow[:, 1] / (fore + lead.strand))
    else:
        f = sign * lead.line(elbow)
        if led == "press" and following.lean_in:
            f = unit(f + np.tan(following.lean_in) * np.array([0.0, 1.0, 0.0]))
    return _within_reach(body, arm_along(u, _rotate(np.swapaxes(torso, -1, -2), f), path.pronation, path.antecubital))


def arm_along(u: Floats, f: Floats, pronation: Floats, antecubital: Floats | None = None) -> ArmPath:
    """An arm whose upper arm and forearm point along ``u`` and ``f``, unit, (pose, xyz) each.

    Args:
        u: Upper arm.
        f: Forearm.
        pronation: Forearm rotation, radians, (pose,).
        antecubital: Where the crook of the elbow faces when the arm is straight and its two directions leave it open,
            (xyz,) or (pose, xyz).
    """
    elbow = np.arccos(np.clip(dot(u, f), -1.0, 1.0))
    facing = f - dot(u, f)[:, None] * u
    if antecubital is not None:
        # A little of the hint everywhere keeps the turn smooth as the arm straightens.
        facing = facing + 0.03 * square_to(np.broadcast_to(np.asarray(antecubital), u.shape), u)
    return ArmPath(u, facing, elbow, np.broadcast_to(pronation, elbow.shape))


def hands_stay(path: ArmPath, body: Body, antecubital: Floats, grip: float = 0.0) -> ArmPath:
    """A symmetric path of the arm, in the torso frame, with its hands as far apart all along as they are on average.

    For hands on the floor, which hold their place as they do on a bar; ``antecubital`` as in ``arm_along``, and ``grip`` how
    far apart they are, m, where that is not the movement's own.
    """
    upper, fore = body.length("upper_arm"), body.to_hand
    u, half = unit(path.upper_arm), body.own("shoulder_half_breadth")
    f = turn(cross(u, square_to(path.antecubital, u)), path.elbow, u)
    elbow = upper * u[:, 1] - half
    apart = grip / 2 or float(np.abs(elbow + fore * f[:, 1]).mean())
    return arm_along(u, with_across(f, (-apart - elbow) / fore), path.pronation, antecubital)


def _rotate(axes: Floats, v: Floats) -> Floats:
    return np.asarray((axes @ v[..., None])[..., 0])


def _swing_start(u: Floats, start: Floats, way: Floats) -> Floats:
    """Upper arm directions (pose, xyz) that begin at ``start``, (xyz,), where the arm hangs in the load's line, and end as
    they were.

    The turn from one to the other start fades along the way; it is limited, for what hangs far off is another movement.
    """
    axis = unit(cross(u[:1], start[None]))
    most = np.radians(tables()["leading"]["most_swing_deg"])
    angle = np.minimum(np.arccos(np.clip(u[0] @ start, -1.0, 1.0)), most)
    return turn(np.broadcast_to(axis, u.shape), angle * (1.0 - way), u)


def _run_straight(u: Floats, line: Floats) -> Floats:
    """Upper arm directions (pose, xyz) of a press whose forearm stays along a line in the middle plane, (xyz,): the elbow keeps
    as far off the line as it starts, so that the hand runs along it too."""
    off = np.array([-line[2], 0.0, line[0]])
    along, across, beside = u @ line, u[:, 1], np.full(len(u), u[0] @ off)
    rest = np.sqrt(np.maximum(1.0 - beside**2, 0.0)) / np.maximum(np.hypot(along, across), 1e-9)
    left = np.array([0.0, 1.0, 0.0])
    return np.asarray((rest * along)[:, None] * line + (rest * across)[:, None] * left + beside[:, None] * off)


def _hand_across(path: ArmPath, shoulder: Floats, torso: Floats, upper: float, fore: float) -> Floats:
    """Where the movement's own path has the hand across the body, m, (pose,)."""
    u = unit(path.upper_arm)
    f = turn(cross(u, square_to(path.antecubital, u)), path.elbow, u)
    return np.asarray((shoulder + _rotate(torso, upper * u + fore * f))[:, 1])


def with_across(v: Floats, across: Floats | float) -> Floats:
    """Unit directions (..., xyz) with a given part across the body, (...), and the rest as in ``v``."""
    across = np.clip(across, -0.9, 0.9)[..., None]
    return np.asarray(unit(v * MIDDLE) * np.sqrt(1 - across**2) + across * np.array([0.0, 1.0, 0.0]))


def _within_reach(body: Body, path: ArmPath) -> ArmPath:
    """The path with its shoulder raised and turned and its elbow bent no farther than they go.

    Where the forearm would leave the load's line by much it is left as it is, for its joint ranges to refuse it.
    """
    rule = tables()["leading"]
    coords = path.coordinates()
    norm, held = tables()["range"], coords.copy()
    most = np.radians(np.interp(np.degrees(coords[:, 0]), norm["plane_nodes"], norm["most_elevation"]))
    held[:, 1] = np.minimum(coords[:, 1], most)
    for column, name in ((2, "rotation"), (3, "elbow")):
        low, high = np.radians(body.range(name))
        held[:, column] = np.clip(coords[:, column], low, high)
    # Turning a nearly straight arm hardly moves its forearm.
    off = np.abs(held[:, 2] - coords[:, 2]) * np.sin(np.clip(coords[:, 3], 0.0, np.pi / 2))
    beyond = off > np.radians(rule["most_given_deg"])
    held[beyond, 2] = coords[beyond, 2]
    return path if np.array_equal(held, coords) else path_from_coordinates(held)
