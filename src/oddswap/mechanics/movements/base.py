"""What a movement is: a name, parameters, muscles it may target, and the path it leads the arm along."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import ArmPath, dot, pit_at, slerp, square_to, unit
from oddswap.mechanics.types import Floats

Values = Mapping[str, float]
Hold = Literal["rest", "hang", "between", "close", "back", "chest", "ahead", "hips"]
"""Where arms are that only hold."""
Root = Literal["hips", "feet", "toes", "heels", "knees", "hands"]
"""What stays in its place while the movement goes on."""
Support = Literal["seat", "feet", "two feet", "hands", "hands and feet", "hands and knees", "back and feet"]
"""What gives the reaction that whole-body equilibrium needs; a seat takes what comes."""
Contact = Literal["hand", "forearm", "upper_arm", "back", "hips", "thigh", "shank", "foot"]
"""Where a load bears on the body."""


@dataclass(frozen=True)
class Path:
    """How a movement leads the body, one row a pose; what is None is left to the stance.

    Args:
        part: Parts of the way from long end to short end, (pose,).
        arm: The right arm, read in the torso frame.
        leg: The right leg's coordinates, radians, (pose, 5).
        other_leg: The left leg's where it does not mirror the right, mirrored, (pose, 5).
        lean: How far the torso pitches forward of the stance, radians, (pose,) or one value.
        lumbar: How far the torso is bent forward on the pelvis, radians.
        girdle: Shift of the shoulder centre, torso frame, parts of stature, (pose, xyz).
        hold: Where arms are that only hold.
    """

    part: Floats
    arm: ArmPath | None = None
    leg: Floats | None = None
    other_leg: Floats | None = None
    lean: Floats | float = 0.0
    lumbar: Floats | float = 0.0
    girdle: Floats | None = None
    hold: Hold = "rest"


def aim(ahead: float, out: float, up: float) -> Floats:
    """Unit direction in the torso frame of the right side, (xyz,)."""
    return np.asarray(unit(np.array([ahead, -out, up])))


def swing(s: Floats, start: Floats, end: Floats, soft_deg: float, rotation_deg: tuple[float, float] = (0, 0)) -> ArmPath:
    """A nearly straight arm swept along the great circle between two directions, (xyz,) each.

    Args:
        s: Parts of the way, (pose,).
        start: Upper arm at the long end.
        end: Upper arm at the short end.
        soft_deg: Fixed bend of the elbow, degrees.
        rotation_deg: Axial rotation at both ends, degrees.
    """
    u = slerp(unit(start), unit(end), s)
    return ArmPath(u, pit_at(u, ramp(s, *rotation_deg)), np.full_like(s, np.radians(soft_deg)), np.full_like(s, 0.0))


def hinged(s: Floats, upper: Floats, pit: Floats, start_deg: float, end_deg: float, pronation_deg: float = 0.0) -> ArmPath:
    """A still upper arm, (xyz,), and an elbow that goes from one bend to another with the pit facing ``pit``."""
    shape = (*s.shape, 3)
    turned = np.full_like(s, np.radians(pronation_deg))
    return ArmPath(np.broadcast_to(unit(upper), shape), np.broadcast_to(pit, shape), ramp(s, start_deg, end_deg), turned)


def pushing(s: Floats, angle_deg: float | Floats, flare_deg: float, depth_deg: float, pronation_deg: float = 70.0) -> ArmPath:
    """The arm of a press: forearm along the push, elbow from below the shoulder line to straight.

    Args:
        s: Parts of the way, (pose,).
        angle_deg: Push from straight ahead of the chest (0) toward overhead (90), degrees, one value or (pose,).
        flare_deg: Elbow from tucked (0) to wide (90), degrees.
        depth_deg: How far the elbow goes behind the shoulder line at the long end, degrees.
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
    return arm_along(slerp(unit(start), unit(end), s), fore, pronation_deg, pit=push)


def limbs(
    s: Floats, upper: Sequence[Floats], fore: Sequence[Floats], pronation_deg: float | Floats = 0.0, pit: Floats | None = None
) -> ArmPath:
    """An arm led through key directions of upper arm and forearm, evenly spaced, along great circles between them.

    Args:
        s: Parts of the way, (pose,).
        upper: Key directions of the upper arm, (xyz,) each.
        fore: Key directions of the forearm, as many.
        pronation_deg: Forearm rotation, degrees, one value or (pose,).
        pit: Where the elbow pit faces when the arm is straight and its two directions leave it open, (xyz,).
    """
    return arm_along(through(s, upper), through(s, fore), pronation_deg, pit)


def arm_along(u: Floats, f: Floats, pronation_deg: float | Floats = 0.0, pit: Floats | None = None) -> ArmPath:
    """An arm whose upper arm and forearm point along ``u`` and ``f``, unit, (pose, xyz) each; see ``limbs``."""
    elbow = np.arccos(np.clip(dot(u, f), -1.0, 1.0))
    facing = f - dot(u, f)[:, None] * u
    if pit is not None:
        # A little of the hint everywhere keeps the turn smooth as the arm straightens.
        facing = facing + 0.03 * square_to(np.broadcast_to(np.asarray(pit), u.shape), u)
    return ArmPath(u, facing, elbow, np.broadcast_to(np.radians(pronation_deg), elbow.shape))


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


def leg_angles(
    s: Floats, hip: Floats | float, knee: Floats | float, ankle: Floats | float = 0.0, adduction: Floats | float = 0.0,
    rotation: Floats | float = 0.0,
) -> Floats:  # fmt: skip
    """Leg coordinates (pose, 5) from angles in radians, each (pose,) or one value."""
    parts = (hip, adduction, rotation, knee, ankle)
    return np.stack([np.broadcast_to(np.asarray(v, float), s.shape) for v in parts], axis=-1)


def hinging(s: Floats, depth_deg: float, thigh: Floats, hold: Hold) -> Path:
    """The body of a hinge: trunk from bent over to upright, soft knees, hips as far back as ``thigh``, radians, says."""
    d = 1 - s
    lean, knee = np.radians(depth_deg) * d, np.radians(12 + 14 * d)
    return Path(s, leg=leg_angles(s, thigh + lean, knee, knee - thigh, np.radians(-4)), lean=lean, hold=hold)


@dataclass(frozen=True)
class Parameter:
    """A free choice of a movement, in the unit its name ends in; ``choices`` names the values of a closed list.

    ``kept`` choices stay as prescribed when a swap is the same movement: they decide which muscles help, not the shape.
    """

    id: str
    name: str
    low: float
    high: float
    default: float
    choices: Mapping[float, str] = field(default_factory=dict)
    kept: bool = False


@dataclass(frozen=True)
class Variant:
    """One way a movement is done on given supports: parameter values, stance, and the support it needs.

    Args:
        values: Parameter values.
        stance: ``standing`` or ``bench``.
        recline_deg: Spine to floor; for a bench the notch it must have.
        pad: Whether the upper arm rests on an arm pad, which then carries the moment about the shoulder.
    """

    values: Values
    stance: str = "standing"
    recline_deg: float = 90.0
    pad: bool = False


@dataclass(frozen=True)
class Balance:
    """A movement whose free angle is solved at every pose.

    Args:
        held: ``weight``: the load on the support's middle; ``hands``: the hands at their height.
        low: Least value of the free angle, radians.
        high: Its greatest value.
    """

    held: Literal["weight", "hands"]
    low: float
    high: float


@dataclass(frozen=True)
class Way:
    """How the body rests and is loaded.

    Args:
        contact: Where it is loaded as a rule.
        root: What stays in place.
        support: Where the reaction acts.
        balance: What is solved at every pose, if anything.
        rest_cm: Height of what stays in place, cm.
        hand_cm: Height that the hands are held at, cm.
        thigh: ``held`` where seat or pad carries the moment about the hip; ``rests`` where a seat carries only its weight.
        one_side: Whether one leg works while the other stands.
        across_cm: How far off the hand's middle it is loaded as a rule, thumb side positive, cm.
    """

    contact: Contact = "hand"
    root: Root = "hips"
    support: Support = "seat"
    balance: Balance | None = None
    rest_cm: float = 0.0
    hand_cm: float = 0.0
    thigh: Literal["free", "rests", "held"] = "free"
    one_side: bool = False
    across_cm: float = 0.0


def always(way: Way) -> Callable[[Values], Way]:
    """The same way whatever the values."""
    return lambda values: way


BY_HAND = always(Way())
"""Loaded in the hand, the seat or the feet taking what comes."""


def say(*words: str) -> Callable[[Variant], list[str]]:
    """The same words for every variant."""
    return lambda variant: list(words)


def titled(name: str, **words: Mapping[float, str]) -> Callable[[Variant], str]:
    """A title that tells the ways of a movement apart.

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
        rest = "seated" if v.recline_deg >= 80 else f"rest {v.recline_deg:.0f}°" if v.recline_deg > 5 else "lying"
        carried = {
            "bench": rest,
            "bent": "bent over",
            "chest_pad": f"face down at {v.recline_deg:.0f}°" if v.recline_deg > 5 else "face down",
            "kneeling": "kneeling",
        }
        if v.stance in carried and not any(carried[v.stance] in part.lower() for part in parts):
            parts.append(carried[v.stance])
        return ", ".join(parts)

    return title


def ways(*variants: Variant) -> Callable[[Iterable[float], Iterable[float]], Iterable[Variant]]:
    """Variants that need no bench notch and no arm pad."""
    return lambda notches, pads: variants


@dataclass(frozen=True)
class Movement:
    """A movement definition; see the modules of this package.

    Args:
        id: Name in documents.
        name: Name for people.
        parameters: Its free choices.
        targets: Muscle groups it may be prescribed for.
        reading: What a person reads off the moving joint: coordinates by region to degrees (pose,).
        reading_words: Words around that number, with ``{}`` for it.
        hinge: Joint of the figure that the moment arm is drawn from, for example ``right elbow``.
        path: The body along the movement: values, parts of the way (pose,) and the free angle (pose,), which is zero
            where nothing is solved, to a ``Path``.
        variants: Ways to do it given bench notches (deg) and arm-pad angles (deg) at hand, for the search.
        title: Short words for one variant, without the load source.
        cues: What to look at to know it is right, for one variant.
        cautions: Usual cautions of this variant, by rule from its values.
        family: Chapter of the movement library.
        stances: How the body may be carried, the usual way first.
        way: How the body rests and is loaded, by the values.
    """

    id: str
    name: str
    parameters: tuple[Parameter, ...]
    targets: tuple[str, ...]
    hinge: str
    reading: Callable[[Mapping[str, Floats]], Floats]
    reading_words: str
    path: Callable[[Values, Floats, Floats], Path]
    variants: Callable[[Iterable[float], Iterable[float]], Iterable[Variant]]
    title: Callable[[Variant], str]
    cues: Callable[[Variant], list[str]]
    cautions: Callable[[Variant], list[str]]
    family: str = "arms"
    stances: tuple[str, ...] = ("standing",)
    way: Callable[[Values], Way] = BY_HAND

    def complete(self, given: Values) -> dict[str, float]:
        """All parameter values, defaults filled in.

        Raises:
            DomainError: For an unknown parameter or a value outside its range.
        """
        known = {p.id: p for p in self.parameters}
        for name, value in given.items():
            if name not in known:
                raise DomainError(
                    f"parameters.{name}", value, f"{self.name} has the parameters {', '.join(known)}", "Use one of these names"
                )
            p = known[name]
            if p.choices and value not in p.choices:
                offered = ", ".join(f"{k:g} ({v})" for k, v in p.choices.items())
                raise DomainError(f"parameters.{name}", value, f"{p.name} is one of {offered}", "Pick one of these")
            if not p.low <= value <= p.high:
                raise DomainError(
                    f"parameters.{name}", value, f"{p.name} runs from {p.low:g} to {p.high:g}", "Pick a value in this range"
                )
        return {p.id: float(given.get(p.id, p.default)) for p in self.parameters}
