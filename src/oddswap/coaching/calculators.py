"""The calculators a coach reaches for: each with its inputs, its answer, a drawing, its formula and a worked example.

Every module-level ``Calculator`` in ``CALCULATORS`` is one self-contained definition; adding one is adding an entry.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.equipment.barbell import Barbell, PlatePair
from oddswap.equipment.base.lines import RUBBER_MODULUS, rubber_force
from oddswap.equipment.lever import Swing
from oddswap.equivalence.conversion import drop_ladder, one_repetition_maximum, repetitions_at
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY

Values = Mapping[str, float | str]


@dataclass(frozen=True)
class Input:
    """What a sum asks for; a text where ``text`` is set, a number else."""

    id: str
    name: str
    unit: str = ""
    default: float = 0.0
    low: float = 0.0
    high: float = 0.0
    step: float = 1.0
    text: str = ""


@dataclass(frozen=True)
class Stroke:
    """A stroke of a drawing, any unit: ``limb``, ``kit``, ``pull`` (an arrow), ``lever`` (dashed), ``plate``, or a ``mark``."""

    kind: str
    start: tuple[float, float]
    end: tuple[float, float]
    label: str = ""


@dataclass(frozen=True)
class Curve:
    """A curve beside a drawing: points (x, y), axis titles with units, and where on it the answer stands."""

    points: Sequence[tuple[float, float]]
    x: str
    y: str
    at: tuple[float, float]


@dataclass(frozen=True)
class Answer:
    """What a sum comes to.

    Args:
        rows: What, and its value with unit.
        says: The same in one sentence.
        strokes: The drawing, x to the right, y up.
        curve: A curve, if there is one.
        caution: What to mind; empty for nothing.
    """

    rows: Sequence[tuple[str, str]]
    says: str
    strokes: Sequence[Stroke] = ()
    curve: Curve | None = None
    caution: str = ""


@dataclass(frozen=True)
class Calculator:
    """One small calculator.

    Args:
        id: Name in addresses.
        name: Name for people.
        question: What it answers.
        inputs: What it asks for.
        formula: The formula in words and signs.
        source: Where it comes from.
        example: Values of a worked example.
        worked: The example worked by hand.
        work: Values to answer.
    """

    id: str
    name: str
    question: str
    inputs: Sequence[Input]
    formula: str
    source: str
    example: dict[str, float | str]
    worked: str
    work: Callable[[Values], Answer]

    def answer(self, given: Values) -> Answer:
        """The answer for some values; defaults fill what is missing.

        Raises:
            DomainError: With the input that cannot be.
        """
        known = {i.id: i for i in self.inputs}
        for name in given:
            if name not in known:
                raise DomainError(f"values.{name}", given[name], f"the inputs are {', '.join(known)}", "Use one of these names")
        values: dict[str, float | str] = {}
        for name, one in known.items():
            value = given.get(name, one.text or one.default)
            if one.text:
                values[name] = str(value)
                continue
            if not isinstance(value, int | float) or not np.isfinite(value) or not one.low <= value <= one.high:
                limit = f"{one.name} is a number from {one.low:g} to {one.high:g} {one.unit}".strip()
                raise DomainError(f"values.{name}", value, limit, "Pick a value in this range")
            values[name] = float(value)
        try:
            return self.work(values)
        except DomainError as error:
            raise error.at("values") from None


def _n(values: Values, name: str) -> float:
    return float(values[name])


def split(v: Values) -> Answer:
    """Two strands from one ring: each holds W / (2 cos(spread / 2))."""
    load, spread = _n(v, "load_kg"), np.radians(_n(v, "spread_deg"))
    each = load / (2 * np.cos(spread / 2))
    x, y = float(np.sin(spread / 2)), float(np.cos(spread / 2))
    strokes = [
        Stroke("kit", (0, 1.1), (0, 0), f"{load:g} kg"),
        Stroke("pull", (0, 0), (-x, -y), f"{each:.3g} kg"),
        Stroke("pull", (0, 0), (x, -y), f"{each:.3g} kg"),
    ]
    angles = np.linspace(0, 160, 81)
    points = [(float(a), float(1 / (2 * np.cos(np.radians(a) / 2)))) for a in angles]
    at = (float(np.degrees(spread)), float(each / load))
    rows = [("Each hand", f"{each:.3g} kg"), ("Of the cable's tension", f"{each / load:.2f} times")]
    caution = "Spread this wide, each hand holds more than the whole cable." if each > load else ""
    return Answer(
        rows, f"Each hand holds {each:.3g} kg.", strokes, Curve(points, "spread, °", "part of the tension", at), caution
    )


def strap(v: Values) -> Answer:
    """A strap up the arm shortens the lever of a straight-arm lift."""
    load, part = _n(v, "load_kg"), _n(v, "along_pct") / 100
    upper, fore = _n(v, "upper_cm"), _n(v, "fore_cm")
    hand, here = upper + fore + 8, upper + part * fore
    torque = load * GRAVITY * here / 100
    strokes = [
        Stroke("limb", (0, 0), (upper, 0), "upper arm"),
        Stroke("limb", (upper, 0), (upper + fore, 0), "forearm"),
        Stroke("lever", (0, -7), (here, -7), f"{here:.0f} cm"),
        Stroke("pull", (here, 0), (here, -28), f"{load:g} kg"),
    ]
    rows = [
        ("Torque at the shoulder", f"{torque:.1f} N·m"),
        ("In the hand for the same", f"{load * here / hand:.3g} kg"),
        ("Here for the same as in the hand", f"{load * hand / here:.3g} kg"),
    ]
    return Answer(
        rows,
        f"The lever is {here / hand:.0%} of the hand's: {load:g} kg in the hand is {load * hand / here:.3g} kg here.",
        strokes,
    )


def offset(v: Values) -> Answer:
    """Uneven ends or an offset grip turn the forearm."""
    thumb, little, apart = _n(v, "thumb_kg"), _n(v, "little_kg"), _n(v, "handle_cm")
    off = _n(v, "off_cm")
    torque = GRAVITY * (little * (apart / 2 + off) - thumb * (apart / 2 - off)) / 100
    strokes = [
        Stroke("kit", (-apart / 2 - off, 0), (apart / 2 - off, 0)),
        Stroke("plate", (-apart / 2 - off, -4 - little / 6), (-apart / 2 - off, 4 + little / 6), f"{little:g} kg"),
        Stroke("plate", (apart / 2 - off, -4 - thumb / 6), (apart / 2 - off, 4 + thumb / 6), f"{thumb:g} kg"),
        Stroke("limb", (0, 0), (0, -14), "fist"),
    ]
    mechanics = (
        "against turning the palm up" if torque > 0.05 else "against turning the palm down" if torque < -0.05 else "neither way"
    )
    rows = [("Torque along the forearm", f"{abs(torque):.2f} N·m"), ("It works", mechanics)]
    return Answer(rows, f"With the forearm level the dumbbell turns the fist with {abs(torque):.2f} N·m, {mechanics}.", strokes)


def lever(v: Values) -> Answer:
    """A plate-loaded lever: what the hand feels as it swings."""
    plates, horn, handle = _n(v, "plates_kg"), _n(v, "horn_cm") / 100, _n(v, "handle_cm") / 100
    swing = np.radians(_n(v, "angle_deg"))
    law = Swing(np.zeros(3), horn, 0.0, 1)

    def effort_per_newton(angle: float) -> float:
        grip = handle * np.array([[np.sin(angle), 0.0, -np.cos(angle)]])
        return float(np.linalg.norm(law.force(grip)) * plates / GRAVITY)

    angles = np.linspace(0, 120, 61)
    points = [(float(a), effort_per_newton(float(np.radians(a)))) for a in angles]
    now = effort_per_newton(float(swing))
    arm = (float(np.sin(swing)), float(-np.cos(swing)))
    strokes = [
        Stroke("kit", (0, 0), (100 * handle * arm[0], 100 * handle * arm[1])),
        Stroke(
            "pull",
            (100 * horn * arm[0], 100 * horn * arm[1]),
            (100 * horn * arm[0], 100 * horn * arm[1] - 30),
            f"{plates:g} kg",
        ),
        Stroke(
            "lever", (0, 100 * horn * arm[1]), (100 * horn * arm[0], 100 * horn * arm[1]), f"{abs(100 * horn * arm[0]):.0f} cm"
        ),
    ]
    rows = [("In the hand", f"{now:.3g} kg"), ("At most, lever level", f"{effort_per_newton(np.pi / 2):.3g} kg")]
    curve = Curve(points, "swing from hanging, °", "in the hand, kg", (float(np.degrees(swing)), now))
    return Answer(rows, f"At {np.degrees(swing):.0f}° from hanging the hand holds {now:.3g} kg.", strokes, curve)


def drops(v: Values) -> Answer:
    """A drop set down the loads there are."""
    start, loads = _n(v, "start_kg"), _numbers(str(v["loads"]), "loads")
    existing = np.unique(np.array([*loads, start]))
    steps = drop_ladder(existing, start, lambda a: a)
    strokes = [Stroke("plate", (0, 0), (0, start), f"{start:g} kg")]
    strokes += [Stroke("plate", (i + 1.0, 0), (i + 1.0, s.amount), f"{s.amount:g} kg") for i, s in enumerate(steps)]
    rows = [(f"Drop {i + 1}", f"{s.amount:g} kg, {1 - s.part:.0%} off") for i, s in enumerate(steps)]
    coarse = [f"{s.amount:g} kg" for s in steps if s.coarse]
    caution = f"The step to {' and '.join(coarse)} is coarse: reps rise instead of holding." if coarse else ""
    says = "From " + ", then ".join([f"{start:g} kg", *(f"{s.amount:g} kg" for s in steps)]) + "."
    return Answer(rows or [("Drops", "none: nothing lighter here")], says, strokes, None, caution)


def plates(v: Values) -> Answer:
    """Which plates go on each side for a mass."""
    wanted, bar = _n(v, "mass_kg"), _n(v, "bar_kg")
    pairs = [PlatePair(mass, count) for mass, count in _counted(str(v["plates"]))]
    amounts = Barbell("bar", "bar", bar, pairs).amounts()
    made = float(amounts[np.abs(amounts - wanted).argmin()])
    side, left = [], round((made - bar) / 2, 4)
    # The heaviest that still leaves a sum that the rest can make.
    rest = sorted(((p.mass_kg, p.count // 2) for p in pairs), reverse=True)
    for i, (mass, count) in enumerate(rest):
        for used in range(min(count, int(left / mass + 1e-6)), -1, -1):
            if _made(left - used * mass, rest[i + 1 :]):
                side += [mass] * used
                left = round(left - used * mass, 4)
                break
    strokes, at = [Stroke("kit", (-30, 0), (-5, 0), f"bar {bar:g} kg"), Stroke("kit", (-5, 0), (8 + 11 * len(side), 0))], 0.0
    for mass in side:
        strokes.append(Stroke("plate", (at, -3 - mass / 2), (at, 3 + mass / 2), f"{mass:g}"))
        at += 11
    words = " + ".join(f"{m:g}" for m in side) or "nothing"
    rows = [("Each side", f"{words} kg" if side else "nothing"), ("Together", f"{made:g} kg")]
    off = made - wanted
    caution = (
        f"{wanted:g} kg cannot be made; {made:g} kg is {abs(off):g} kg {'over' if off > 0 else 'under'}."
        if abs(off) > 1e-6
        else ""
    )
    return Answer(rows, f"Each side: {words} kg.", strokes, None, caution)


def _made(left: float, rest: Sequence[tuple[float, int]]) -> bool:
    if left < -1e-6:
        return False
    if not rest:
        return abs(left) < 1e-6
    (mass, count), *others = rest
    return any(_made(left - used * mass, others) for used in range(min(count, int(left / mass + 1e-6)) + 1))


def band(v: Values) -> Answer:
    """What a rubber band pulls at a stretch."""
    rest, area, now = _n(v, "rest_cm"), _n(v, "area_mm2"), _n(v, "length_cm")
    lengths = np.linspace(rest, 3.2 * rest, 60)
    forces = rubber_force(lengths / 100, rest / 100, area * 1e-6)
    force = float(rubber_force(np.array([now / 100]), rest / 100, area * 1e-6)[0])
    strokes = [
        Stroke("lever", (0, 6), (rest, 6), f"slack {rest:g} cm"),
        Stroke("pull", (0, 0), (now, 0), f"{force:.0f} N"),
    ]
    ratio = now / rest
    rows = [("Pull", f"{force:.0f} N, as {force / GRAVITY:.3g} kg"), ("Stretch", f"{ratio:.2f} times its slack length")]
    caution = "Over two and a half times its slack length: bands tear there, and their makers say less." if ratio > 2.5 else ""
    points = [(float(x), float(y)) for x, y in zip(lengths, forces, strict=True)]
    return Answer(
        rows, f"At {now:g} cm it pulls {force:.0f} N.", strokes, Curve(points, "length, cm", "pull, N", (now, force)), caution
    )


def repetitions(v: Values) -> Answer:
    """What can be lifted once, and what at other repetitions, by two laws side by side."""
    load, reps = _n(v, "load_kg"), _n(v, "reps") + _n(v, "rir")
    tops = {name: one_repetition_maximum(load, reps, name) for name in ("epley", "brzycki")}
    wanted = _n(v, "wanted")
    rows = [(f"Once, {name.title()}", f"{top:.3g} kg") for name, top in tops.items()]
    at = {}
    for name, top in tops.items():
        # The load whose repetitions to failure are the wanted ones.
        at[name] = top / one_repetition_maximum(1.0, wanted, name)
        rows.append((f"For {wanted:g} to failure, {name.title()}", f"{at[name]:.3g} kg"))
    counts = np.arange(1, 21)
    points = [(float(n), float(tops["epley"] / one_repetition_maximum(1.0, float(n), "epley"))) for n in counts]
    caution = "Over about 12 repetitions such laws scatter widely." if max(reps, wanted) > 12 else ""
    says = f"About {tops['epley']:.3g} kg once (Epley), {tops['brzycki']:.3g} kg (Brzycki)."
    curve = Curve(points, "repetitions to failure", "load, kg (Epley)", (wanted, at["epley"]))
    assert abs(repetitions_at(load, tops["epley"], "epley") - reps) < 1e-6
    return Answer(rows, says, (), curve, caution)


def _numbers(text: str, name: str) -> list[float]:
    parts = [p for p in re.split(r"[\s;]+|,\s+", text.strip()) if p]
    try:
        out = [float(p.replace(",", ".")) for p in parts]
    except ValueError:
        raise DomainError(name, text, "masses in kg with spaces between, as in 10 12.5 15", "Mend the list") from None
    if not out or min(out) <= 0 or len(out) > 200:
        raise DomainError(name, text, "one to 200 masses over 0 kg", "Mend the list")
    return out


def _counted(text: str) -> list[tuple[float, int]]:
    out = []
    for part in text.split():
        found = re.fullmatch(r"(\d+)[x×](\d+(?:[.,]\d+)?)", part)
        if not found:
            raise DomainError("plates", part, "counts and masses as in 4x20 2x10 2x2.5", "Mend this entry")
        out.append((float(found[2].replace(",", ".")), min(int(found[1]), 40)))
    return out


_LOAD = Input("load_kg", "load", "kg", 20, 1, 300, 0.5)
CALCULATORS: dict[str, Calculator] = {
    s.id: s
    for s in (
        Calculator(
            "split",
            "Split attachment",
            "How much each hand holds when one cable ends in two strands.",
            [_LOAD, Input("spread_deg", "spread between the strands", "°", 60, 0, 160, 5)],
            "each = W / (2 cos(spread / 2))",
            "statics; the sling tension factors of rigging practice",
            {"load_kg": 20, "spread_deg": 120},
            "cos 60° = 0.5, so each hand holds 20 / (2 x 0.5) = 20 kg: as much as the whole cable.",
            split,
        ),
        Calculator(
            "strap",
            "Strap position",
            "What a strap up the forearm does to the lever of a straight-arm lift.",
            [
                _LOAD,
                Input("along_pct", "strap from elbow (0) to wrist (100)", "%", 30, 0, 100, 5),
                Input("upper_cm", "upper arm", "cm", 29, 20, 45, 0.5),
                Input("fore_cm", "forearm", "cm", 25, 15, 40, 0.5),
            ],
            "torque = W g d, with d from shoulder to strap, the pull square to the arm",
            "statics; the hand's grip taken 8 cm past the wrist",
            {"load_kg": 10, "along_pct": 0, "upper_cm": 30, "fore_cm": 25},
            "At the elbow d = 30 cm, in the hand 30 + 25 + 8 = 63 cm: 10 kg at the elbow load it as 4.76 kg in the hand.",
            strap,
        ),
        Calculator(
            "offset",
            "Offset grip",
            "How much a dumbbell that is loaded unevenly, or held off its middle, turns the fist.",
            [
                Input("thumb_kg", "at the thumb end", "kg", 5, 0, 60, 0.5),
                Input("little_kg", "at the little-finger end", "kg", 10, 0, 60, 0.5),
                Input("handle_cm", "between the ends' middles", "cm", 22, 10, 50, 1),
                Input("off_cm", "fist off the middle, toward the thumb end", "cm", 0, -8, 8, 0.5),
            ],
            "torque = g (m_little (L/2 + off) - m_thumb (L/2 - off)), forearm level",
            "statics",
            {"thumb_kg": 5, "little_kg": 10, "handle_cm": 20, "off_cm": 0},
            "Half the handle is 10 cm: 9.81 x (10 - 5) x 0.10 = 4.9 N·m against turning the palm up.",
            offset,
        ),
        Calculator(
            "lever",
            "Swinging lever",
            "What the hand feels of plates on a lever as it swings up.",
            [
                Input("plates_kg", "plates, lever's own weight included", "kg", 20, 1, 300, 1),
                Input("horn_cm", "pivot to the plates", "cm", 90, 10, 250, 1),
                Input("handle_cm", "pivot to the hand", "cm", 120, 20, 300, 1),
                Input("angle_deg", "swing from hanging", "°", 45, 0, 120, 5),
            ],
            "hand = m (horn / handle) sin(swing), square to the lever",
            "statics",
            {"plates_kg": 30, "horn_cm": 80, "handle_cm": 120, "angle_deg": 90},
            "Level, sin 90° = 1: 30 x 80 / 120 = 20 kg. Hanging it is free.",
            lever,
        ),
        Calculator(
            "drops",
            "Drop ladder",
            "Which loads to take in a drop set of about a fifth less each time.",
            [
                Input("start_kg", "first set", "kg", 20, 0.5, 400, 0.5),
                Input("loads", "loads there are", "kg", text="2.5 5 7.5 10 12.5 15 17.5 20"),
            ],
            "next = the load nearest to 0.8 x the one before",
            "common practice, no source",
            {"start_kg": 20, "loads": "10 12.5 15 16 20"},
            "0.8 x 20 = 16 kg; 0.8 x 16 = 12.8, the nearest is 12.5 kg; 0.8 x 12.5 = 10 kg.",
            drops,
        ),
        Calculator(
            "plates",
            "Plate sums",
            "Which plates go on each side of a bar.",
            [
                Input("mass_kg", "bar and plates together", "kg", 67.5, 1, 500, 0.5),
                Input("bar_kg", "bar", "kg", 20, 0, 60, 0.5),
                Input("plates", "plates there are", "count x kg", text="4x20 2x15 2x10 2x5 2x2.5 2x1.25"),
            ],
            "mass = bar + 2 x one side; a plate without a partner stays on the floor",
            "arithmetic",
            {"mass_kg": 67.5, "bar_kg": 20, "plates": "2x20 2x2.5 2x1.25"},
            "(67.5 - 20) / 2 = 23.75 a side: 20 + 2.5 + 1.25.",
            plates,
        ),
        Calculator(
            "band",
            "Band stretch",
            "What a rubber band pulls at a length, from its section, until it is measured.",
            [
                Input("rest_cm", "slack length", "cm", 100, 10, 300, 1),
                Input("area_mm2", "rubber in the section", "mm²", 80, 5, 800, 5),
                Input("length_cm", "stretched to", "cm", 180, 10, 900, 5),
            ],
            "F = G A (s - 1/s²), with s the stretch and G about 0.4 MPa",
            f"neo-Hookean rubber (Treloar 1975, from memory); G = {RUBBER_MODULUS / 1e6:g} MPa",
            {"rest_cm": 100, "area_mm2": 100, "length_cm": 200},
            "s = 2: 0.4 x 100 x (2 - 0.25) = 70 N, as 7.1 kg.",
            band,
        ),
        Calculator(
            "reps",
            "Repetition maxima",
            "What a set says about one repetition, and about other numbers of them.",
            [
                _LOAD,
                Input("reps", "repetitions done", "", 10, 1, 30, 1),
                Input("rir", "left in reserve", "", 1, 0, 6, 1),
                Input("wanted", "repetitions to failure wanted", "", 6, 1, 20, 1),
            ],
            "Epley: W (1 + n / 30); Brzycki: 36 W / (37 - n), n to failure",
            "Epley 1985; Brzycki 1993; both from memory",
            {"load_kg": 60, "reps": 9, "rir": 1, "wanted": 6},
            "n = 10: Epley 60 x (1 + 10/30) = 80 kg; Brzycki 36 x 60 / 27 = 80 kg: there the two laws cross.",
            repetitions,
        ),
    )
}
