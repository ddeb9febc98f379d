"""What authors of movements write with: arms and legs moved through key directions, titles and words."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence

import numpy as np

from oddswap.mechanics.arm import ArmPath, antecubital_at, slerp, unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import arm_along
from oddswap.mechanics.movement import Hold, Parameter, Path, Variant
from oddswap.mechanics.types import Floats

GRIP = Parameter("grip_cm", "hands apart on a bar, cm; 0 over the elbows", 0, 110, 0)
"""How far apart hands hold a bar."""
ON_PLATES_CM = 15.0
"""Height that plates on the floor give hands or feet, cm; over it something to lean on is needed (own estimate)."""


def direction(ahead: float, out: float, up: float) -> Floats:
    """Unit direction in the torso frame of the right side, (xyz,)."""
    return np.asarray(unit(np.array([ahead, -out, up])))


def swing(s: Floats, start: Floats, end: Floats, soft_deg: float, rotation_deg: tuple[float, float] = (0, 0)) -> ArmPath:
    """A nearly straight arm swept along the great circle between two directions, (xyz,) each.

    Args:
        s: Parts of the way, (pose,).
        start: Upper arm at the lengthened end.
        end: Upper arm at the shortened end.
        soft_deg: Fixed bend of the elbow, degrees.
        rotation_deg: Axial rotation at both ends, degrees.
    """
    u = slerp(unit(start), unit(end), s)
    return ArmPath(u, antecubital_at(u, ramp(s, *rotation_deg)), np.full_like(s, np.radians(soft_deg)), np.full_like(s, 0.0))


def hinge_arm(
    s: Floats, upper: Floats, antecubital: Floats, start_deg: float, end_deg: float, pronation_deg: float = 0.0
) -> ArmPath:
    """A still upper arm, (xyz,), and an elbow that goes from one bend to another with its crook facing ``antecubital``."""
    shape = (*s.shape, 3)
    turned = np.full_like(s, np.radians(pronation_deg))
    return ArmPath(
        np.broadcast_to(unit(upper), shape), np.broadcast_to(antecubital, shape), ramp(s, start_deg, end_deg), turned
    )


def press_arm(s: Floats, angle_deg: float | Floats, flare_deg: float, depth_deg: float, pronation_deg: float = 70.0) -> ArmPath:
    """The arm of a press: forearm along the push, elbow from below the shoulder line to straight.

    Args:
        s: Parts of the way, (pose,).
        angle_deg: Push from straight ahead of the chest (0) toward overhead (90), degrees, one value or (pose,).
        flare_deg: Elbow from tucked (0) to wide (90), degrees.
        depth_deg: How far the elbow goes behind the shoulder line at the lengthened end, degrees.
        pronation_deg: Forearm rotation; 70 is palm to the feet.
    """
    f, d = np.radians([flare_deg, depth_deg])
    a = np.broadcast_to(np.radians(angle_deg), s.shape)
    zero = np.zeros_like(s)
    push = np.stack([np.cos(a), zero, np.sin(a)], axis=-1)
    below, out = np.stack([np.sin(a), zero, -np.cos(a)], axis=-1), np.array([0.0, -1.0, 0.0])
    start = (out * np.sin(f) + below * np.cos(f)) * np.cos(d) - push * np.sin(d)
    end = push + 0.10 * out + 0.12 * below
    fore = slerp(unit(push + 0.02 * out), unit(push - 0.06 * out + 0.06 * below), s)
    return arm_along(slerp(unit(start), unit(end), s), fore, np.radians(pronation_deg), push)


def limbs(
    s: Floats,
    upper: Sequence[Floats],
    fore: Sequence[Floats],
    pronation_deg: float | Floats = 0.0,
    antecubital: Floats | None = None,
) -> ArmPath:
    """An arm moved through key directions of upper arm and forearm, evenly spaced, along great circles between them.

    Args:
        s: Parts of the way, (pose,).
        upper: Key directions of the upper arm, (xyz,) each.
        fore: Key directions of the forearm, as many.
        pronation_deg: Forearm rotation, degrees, one value or (pose,).
        antecubital: Where the crook of the elbow faces when the arm is straight and its two directions leave it open, (xyz,).
    """
    return arm_along(through(s, upper), through(s, fore), np.radians(pronation_deg), antecubital)


def through(s: Floats, keys: Sequence[Floats]) -> Floats:
    """Directions (pose, xyz) through evenly spaced keys (xyz,), rounded off so that the turn has no corner."""
    spans = len(keys) - 1
    where = np.clip(s * spans, 0, spans - 1e-9)
    out = np.empty((len(s), 3))
    for i in range(spans):
        inside = (where >= i) & (where < i + 1)
        out[inside] = slerp(unit(keys[i]), unit(keys[i + 1]), where[inside] - i)
    if spans == 1:
        return out
    # Quadratic blend of the key directions: smooth at inner keys, exact at both ends.
    weights = np.stack([_bernstein(spans, i, s) for i in range(spans + 1)], axis=-1)
    return unit(weights @ np.stack([unit(k) for k in keys]))


def _bernstein(n: int, i: int, s: Floats) -> Floats:
    from math import comb

    return np.asarray(comb(n, i) * s**i * (1 - s) ** (n - i))


def ramp(s: Floats, start_deg: float, end_deg: float) -> Floats:
    """Angles from start to end, radians, (pose,)."""
    return np.asarray(np.radians(start_deg + (end_deg - start_deg) * s))


def blades_drawn(s: Floats) -> Floats:
    """Shoulders shifted as the blades go from reaching ahead to drawn together, parts of stature, (pose, xyz)."""
    forward, back = np.array([0.020, 0.0, 0.0]), np.array([-0.015, 0.0, 0.0])
    return np.asarray(forward + s[:, None] * (back - forward))


def leg_angles(
    s: Floats, hip: Floats | float, knee: Floats | float, ankle: Floats | float = 0.0, adduction: Floats | float = 0.0,
    rotation: Floats | float = 0.0,
) -> Floats:  # fmt: skip
    """Leg coordinates (pose, 5) from angles in radians, each (pose,) or one value."""
    parts = (hip, adduction, rotation, knee, ankle)
    return np.stack([np.broadcast_to(np.asarray(v, float), s.shape) for v in parts], axis=-1)


def legs_along(
    body: Body, s: Floats, deepest: float, off: float, line: float = 0.0, straight_deg: float = 8.0
) -> tuple[Floats, Floats]:
    """Hip and knee of legs whose feet go straight along a line, from a bend of the hips to nearly straight knees.

    Args:
        body: The client.
        s: Part of the way, (pose,).
        deepest: Hip bent at the start, radians.
        off: How far the feet's way passes before the hips, m, seen along the line; negative where it passes behind them.
        line: The line to the trunk's own, radians; 0 for feet that go straight away from the shoulders.
        straight_deg: Knee at the end, degrees.

    Returns:
        Radians, (pose,) each.
    """
    thigh, shank = body.length("thigh"), body.length("shank")
    bend = np.radians(np.linspace(straight_deg, 135.0, 200))
    reach = np.sqrt(thigh**2 + shank**2 + 2 * thigh * shank * np.cos(bend))
    along = np.sqrt(np.maximum(reach**2 - off**2, 0.0))
    hips = line + np.arctan2(off, along) + np.arccos((thigh**2 + reach**2 - shank**2) / (2 * thigh * reach))
    start = np.interp(deepest, hips, along)
    at = start + s * (along[0] - start)
    hip, knee = (np.interp(at, along[::-1], angle[::-1]) for angle in (hips, bend))
    return hip, knee


def hinge_path(s: Floats, depth_deg: float, thigh: Floats, hold: Hold, in_line: Floats | float = 0.0) -> Path:
    """The body of a hinge: trunk from bent over to upright, off it by ``in_line`` too, radians, soft knees, hips as far back
    as ``thigh``, radians, says."""
    d = 1 - s
    lean, knee = np.radians(depth_deg) * d + in_line, np.radians(12 + 14 * d)
    return Path(s, leg=leg_angles(s, thigh + lean, knee, knee - thigh, np.radians(-4)), lean=lean, hold=hold)


def say(*words: str) -> Callable[[Variant], list[str]]:
    """The same words for every variant."""
    return lambda variant: list(words)


CARRIED = {
    "kneeling": "kneeling",
    "half_kneeling": "half-kneeling",
    "sitting": "sitting on the floor",
    "holding_on": "holding on",
    "back_rested": "back against the pad",
    "chest_rested": "chest against the pad",
}
"""How somebody upright is carried where not on both feet alone."""


def stood(name: str, stance: str) -> str:
    """What is done upright on one's own legs, with how: standing press; half-kneeling press; standing press, holding on."""
    how = CARRIED.get(stance, "")
    if "kneeling" in stance:
        return f"{how.capitalize()} {name}"
    return f"Standing {name}, {how}" if how else f"Standing {name}"


def titled(name: str, **words: Mapping[float, str]) -> Callable[[Variant], str]:
    """A title that tells the variants of a movement apart.

    Args:
        name: The movement's name.
        words: By parameter, what its values from a number on are called; empty words are left out.
    """

    def title(v: Variant) -> str:
        parts = [name]
        for parameter, names in words.items():
            value = v.values.get(parameter, 0.0)
            word = names[max((k for k in names if k <= value + 1e-9), default=min(names))]
            parts += [word] if word else []
        rest = "seated" if v.recline_deg >= 80 else f"{v.recline_deg:.0f}° incline" if v.recline_deg > 5 else "lying"
        carried = {
            "bench": rest,
            "bent_over": "bent over",
            "chest_supported": f"chest-supported at {v.recline_deg:.0f}°" if v.recline_deg > 5 else "chest-supported",
            **CARRIED,
        }
        if v.stance in carried and not any(carried[v.stance] in part.lower() for part in parts):
            parts.append(carried[v.stance])
        return ", ".join(parts)

    return title


def fixed_variants(*variants: Variant) -> Callable[[Iterable[float], Iterable[float]], Iterable[Variant]]:
    """Variants that need no bench notch and no arm pad."""
    return lambda notches, pads: variants
