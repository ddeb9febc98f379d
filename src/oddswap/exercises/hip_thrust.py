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
    """The back turns about the edge of the bench and the feet stay; at the top the shins are plumb, the thighs level."""
    thigh, shank = body.length("thigh"), body.length("shank")
    lean, top = ramp(s, LOW, HIGH), np.radians([HIGH])
    # Hips and edge as seen from the ankle, m, (pose, xz).
    level = np.radians(LEVEL)
    edge = np.array([-thigh * np.sin(level), shank + thigh * np.cos(level)]) + _to_edge(body, top)
    hips = edge - _to_edge(body, lean)
    reach = np.hypot(hips[:, 0], hips[:, 1])
    knee = np.pi - np.arccos((thigh**2 + shank**2 - reach**2) / (2 * thigh * shank))
    # The knee lies above the line from ankle to hips.
    shin = np.arctan2(hips[:, 0], hips[:, 1]) + np.arccos((shank**2 + reach**2 - thigh**2) / (2 * shank * reach))
    other = leg_angles(s, np.radians(95), np.radians(95), 0.0) if values["one_leg"] else None
    return Path(s, leg=leg_angles(s, knee - shin + lean, knee, shin, np.radians(-6)), other_leg=other, lean=lean, hold="hips")


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
    needs=lambda values: ("bench", "box"),
)
