"""The hip thrust: hips raised between a bench under the back and the feet."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body, tables
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

LOW, HIGH, LEVEL = -38.0, -86.0, 92.0
"""Lean of the trunk at the bottom and at the top, and of the thighs at the top, degrees."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The back turns about the edge of the bench; at the top the shins are plumb, the thighs level."""
    return thrust(values, s, body, LOW, HIGH, LEVEL)


def thrust(values: Values, s: Floats, body: Body, low: float, high: float, level: float, drawn_in: float = 0.0) -> Path:
    """The upper back turns about what it rests on and the feet stay.

    Args:
        values: The movement's parameters.
        s: Parts of the way, (pose,).
        body: The client.
        low: Lean of the trunk at the bottom, degrees.
        high: The same at the top.
        level: Lean of the thighs at the top, degrees.
        drawn_in: Lean of the shins toward the hips at the top, degrees.
    """
    thigh, shank = body.length("thigh"), body.length("shank")
    lean = ramp(s, low, high)
    # Hips and edge as seen from the ankle, m, (pose, xz).
    edge = edge_at_top(body, high, level, drawn_in)
    hips = edge - _to_edge(body, lean)
    reach = np.hypot(hips[:, 0], hips[:, 1])
    knee = np.pi - np.arccos((thigh**2 + shank**2 - reach**2) / (2 * thigh * shank))
    # The knee lies above the line from ankle to hips.
    shin = np.arctan2(hips[:, 0], hips[:, 1]) + np.arccos((shank**2 + reach**2 - thigh**2) / (2 * shank * reach))
    other = leg_angles(s, np.radians(95), np.radians(95), 0.0) if values["one_leg"] else None
    return Path(s, leg=leg_angles(s, knee - shin + lean, knee, shin, np.radians(-6)), other_leg=other, lean=lean, hold="hips")


def edge_at_top(body: Body, high: float, level: float, shin: float = 0.0) -> Floats:
    """From the ankle to what the back rests on, m, (1, xz), by the lean of trunk, thighs and shins at the top, degrees."""
    limbs = body.length("thigh"), body.length("shank")
    at, below = np.radians([level, shin])
    knee = limbs[1] * np.array([-np.sin(below), np.cos(below)])
    return knee + limbs[0] * np.array([-np.sin(at), np.cos(at)]) + _to_edge(body, np.radians([high]))


def _to_edge(body: Body, lean: Floats) -> Floats:
    """From the hips to where the back meets the edge of the bench, m, (pose, xz), by the trunk's lean, radians, (pose,)."""
    trunk = tables()["lying"]["bench_edge"] * (body.height("shoulder") - body.height("hip"))
    spine, ahead = np.stack([np.sin(lean), np.cos(lean)], -1), np.stack([np.cos(lean), -np.sin(lean)], -1)
    return np.asarray(trunk * spine - body.own("trunk_radius") * ahead)


MOVEMENT = Movement(
    id="hip_thrust",
    name="Hip thrust",
    parameters=(Parameter("one_leg", "legs that work", 0, 1, 0, {0.0: "both legs", 1.0: "one leg"}, on_machine="free"),),
    targets=(
        "glute_max",
        "hamstrings",
        "quads",
    ),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "floor"), Variant({"one_leg": 1.0}, "floor")),
    title=titled("Hip thrust", one_leg={0.0: "", 1.0: "one leg"}),
    cues=say("Chin in, ribs down, shins plumb at the top"),
    cautions=say("Pad the bar; roll it on and off."),
    family="legs",
    stances=("floor",),
    support=lambda values: BodySupport("hips", "feet", "back and feet", one_foot=values["one_leg"] > 0),
    needs=lambda values: (("bench", "box"),),
)
