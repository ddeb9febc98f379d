"""Where something stands around a client: grids of places, steps between them, and what they are called."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np

from oddswap.equipment.base.item import Bearing
from oddswap.equipment.base.setting import AdjustableParameter
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm

RINGS, STEP_DEG = 6, 30.0
"""Grid of distances and facings in the first pass of a search."""

COARSE_RINGS, COARSE_DEG = 5, 45.0
"""The same where a few placements will do."""

NEAREST, FARTHER = 0.3, 1.5
"""How near a client comes to where a line leads, m (own estimate), and the factor from one distance to the next."""


@lru_cache(maxsize=256)
def hole_heights(lowest_cm: float, highest_cm: float, holes: int) -> Floats:
    """Heights of holes that are evenly spread over a column, m, (hole,); not to be written to, since they are shared."""
    out: Floats = np.linspace(lowest_cm, highest_cm, holes) / 100
    out.setflags(write=False)
    return out


def all_round(most: float, coarse: bool) -> tuple[Floats, Floats]:
    """Distances up to ``most``, m, and bearings, radians, (place,), on all sides.

    What a line does hangs on its direction, so that distances grow by a factor. Every other ring is turned by half a step, so
    that no narrow way in between two bearings is missed at all distances; where a few will do, rings are alike.
    """
    rings, step = (
        np.geomspace(NEAREST, max(most, NEAREST), COARSE_RINGS if coarse else RINGS),
        np.radians(COARSE_DEG if coarse else STEP_DEG),
    )
    bearings = np.arange(round(2 * np.pi / step)) * step
    turned = [bearings + (0.0 if coarse or i % 2 == 0 else step / 2) for i in range(len(rings))]
    return np.repeat(rings, len(bearings)), np.concatenate(turned)


def step_position(forward: float, right: float, part: float, turning: bool = True) -> tuple[Floats, Floats]:
    """Ahead and right, m, (place,), of a step either way of the distance and, if ``turning``, the facing of where something
    lies."""
    distance, facing, ways = np.hypot(forward, right), np.arctan2(right, forward), np.array([-1.0, 1.0])
    d, f = np.maximum(distance * FARTHER ** (ways * part), NEAREST), np.full(2, facing)
    if turning:
        d, f = np.append(d, [distance, distance]), np.append(f, facing + ways * part * np.radians(STEP_DEG))
    return d * np.cos(f), d * np.sin(f)


def position_parameters(forward_cm: float, right_cm: float) -> list[AdjustableParameter]:
    """Distance, cm, and facing, degrees, of something that lies so far ahead and to the right, cm."""
    distance, facing = float(np.hypot(forward_cm, right_cm)), float(np.degrees(np.arctan2(right_cm, forward_cm)))
    return [
        AdjustableParameter("distance", "distance", "cm", round(distance, 1), 20, 350, 5, 15),
        # A quarter turn either way of where it is, so that turning goes on past a half turn.
        AdjustableParameter(
            "facing", "turned away", "°", round(facing, 1), round(facing, 1) - 90, round(facing, 1) + 90, 5, 15
        ),
    ]


def change_position(forward_cm: float, right_cm: float, name: str, value: float) -> tuple[float, float]:
    """Ahead and right, cm, once distance or facing is chosen otherwise."""
    distance, facing = float(np.hypot(forward_cm, right_cm)), float(np.arctan2(right_cm, forward_cm))
    distance, facing = (value, facing) if name == "distance" else (distance, float(np.radians(value)))
    return round(distance * float(np.cos(facing)), 1), round(distance * float(np.sin(facing)), 1)


ELBOW_ROOM = 0.6
"""Floor a client needs beyond where they stand, m (own estimate)."""
LIGHT_ENOUGH, HEAVY_ENOUGH, SAME_HEIGHT_CM = 2.0, 0.75, 5.0
"""An item covers another whose least it stays within twice of and whose most it reaches three quarters of, with pulleys within
these centimetres (own estimates): what it lacks makes no difference that a map shows."""


def serves_line(bearing: Bearing) -> bool:
    """Whether a line of pull can load a variant: a hand or, by a cuff, a shank; on the feet only lifts made for a line."""
    if not bearing.carried:
        return False
    return bearing.contact == "shank" or (bearing.contact == "hand" and (bearing.base == "seat" or bearing.line_on_feet))


STEP_CM = 70.0
"""A step, cm: common practice, no source."""


def distance_words(distance_cm: float, what: str) -> str:
    """How far off, in steps with the centimetres behind, for example ``one long step from the pulley (70 cm)``."""
    halves = round(2 * distance_cm / STEP_CM)
    steps = {0: "close to", 1: "half a step from", 2: "one long step from", 3: "a step and a half from", 4: "two steps from"}
    words = steps.get(halves, f"{halves / 2:g} steps from")
    return f"{words} the {what} ({cm(distance_cm)})"


def bearing_words(forward: float, right: float, what: str = "cable", brief: bool = False) -> str:
    """How the client faces something that lies ``forward`` and ``right`` of them, any unit.

    Args:
        forward: Ahead; behind is negative.
        right: To the working side.
        what: What it is called, for the side of the working arm.
        brief: Whether to leave out the side.
    """
    angle = abs(np.degrees(np.arctan2(-right, forward)))
    words = "face away"
    for limit, facing in [(22.5, "face it"), (67.5, "45° turned toward it"), (112.5, "side-on"), (157.5, "45° turned away")]:
        if angle <= limit:
            words = facing
            break
    if brief or words in ("face it", "face away"):
        return words
    return f"{words}, working arm on {f'the {what} side' if right > 0 else 'the far side'}"


def anchor_heights(kit: Sequence[Any], *own: float) -> tuple[float, ...]:
    """Heights of a place's anchors, cm, and of ``own``, ascending."""
    return tuple(sorted({h for item in kit for h in item.anchor_heights_cm} | set(own)))


def foot_words(forward_cm: float, right_cm: float) -> str:
    """Where the foot that holds the band stands, seen from the hips."""
    words = []
    if abs(forward_cm) > 4:
        words.append(f"{cm(abs(forward_cm))} {'ahead' if forward_cm > 0 else 'behind'}")
    if abs(right_cm) > 4:
        words.append(f"{cm(abs(right_cm))} to the {'working' if right_cm > 0 else 'other'} side")
    return " and ".join(words) or "below the hips"
