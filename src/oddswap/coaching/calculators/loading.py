"""What to load: drops, plates, bands, repetitions."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from oddswap.coaching.calculators.base import Answer, Curve, Stroke, Values, counted, number, numbers
from oddswap.equipment.barbell import Barbell, PlatePair
from oddswap.equipment.base.lines import rubber_force
from oddswap.equivalence.conversion import drop_ladder, one_repetition_maximum, repetitions_at
from oddswap.mechanics.body import GRAVITY
from oddswap.quantities import cm, kg, plain, unit_shown


def drops(v: Values) -> Answer:
    """A drop set down the loads there are."""
    start, loads = number(v, "start_kg"), numbers(str(v["loads"]), "loads")
    existing = np.unique(np.array([*loads, start]))
    steps = drop_ladder(existing, start, lambda a: a)
    strokes = [Stroke("plate", (0, 0), (0, start), kg(start))]
    strokes += [Stroke("plate", (i + 1.0, 0), (i + 1.0, s.amount), kg(s.amount)) for i, s in enumerate(steps)]
    rows = [(f"Drop {i + 1}", f"{kg(s.amount)}, {1 - s.part:.0%} off") for i, s in enumerate(steps)]
    coarse = [kg(s.amount) for s in steps if s.coarse]
    caution = f"The step to {' and '.join(coarse)} is coarse: reps rise instead of holding." if coarse else ""
    says = "From " + ", then ".join([kg(start), *(kg(s.amount) for s in steps)]) + "."
    return Answer(rows or [("Drops", "none: nothing lighter here")], says, strokes, None, caution)


def plates(v: Values) -> Answer:
    """Which plates go on each side for a mass."""
    wanted, bar = number(v, "mass_kg"), number(v, "bar_kg")
    pairs = [PlatePair(mass, count) for mass, count in counted(str(v["plates"]))]
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
    strokes, at = [Stroke("kit", (-30, 0), (-5, 0), f"bar {kg(bar)}"), Stroke("kit", (-5, 0), (8 + 11 * len(side), 0))], 0.0
    for mass in side:
        strokes.append(Stroke("plate", (at, -3 - mass / 2), (at, 3 + mass / 2), plain(mass)))
        at += 11
    words = " + ".join(plain(m) for m in side) + f" {unit_shown('kg')}" if side else "nothing"
    rows = [("Each side", words), ("Together", kg(made))]
    off = made - wanted
    caution = (
        f"{kg(wanted)} cannot be made; {kg(made)} is {kg(abs(off))} {'over' if off > 0 else 'under'}."
        if abs(off) > 1e-6
        else ""
    )
    return Answer(rows, f"Each side: {words}.", strokes, None, caution)


def _made(left: float, rest: Sequence[tuple[float, int]]) -> bool:
    if left < -1e-6:
        return False
    if not rest:
        return abs(left) < 1e-6
    (mass, count), *others = rest
    return any(_made(left - used * mass, others) for used in range(min(count, int(left / mass + 1e-6)) + 1))


def band(v: Values) -> Answer:
    """What a rubber band pulls at a stretch."""
    rest, area, now = number(v, "rest_cm"), number(v, "area_mm2"), number(v, "length_cm")
    lengths = np.linspace(rest, 3.2 * rest, 60)
    forces = rubber_force(lengths / 100, rest / 100, area * 1e-6)
    force = float(rubber_force(np.array([now / 100]), rest / 100, area * 1e-6)[0])
    strokes = [
        Stroke("lever", (0, 6), (rest, 6), f"slack {cm(rest)}"),
        Stroke("pull", (0, 0), (now, 0), f"{force:.0f} N"),
    ]
    ratio = now / rest
    rows = [("Pull", f"{force:.0f} N, as {kg(force / GRAVITY, 3)}"), ("Stretch", f"{ratio:.2f} times its slack length")]
    caution = "Over two and a half times its slack length: bands tear there, and their makers say less." if ratio > 2.5 else ""
    points = [(float(x), float(y)) for x, y in zip(lengths, forces, strict=True)]
    return Answer(
        rows, f"At {cm(now)} it pulls {force:.0f} N.", strokes, Curve(points, "length, cm", "pull, N", (now, force)), caution
    )


def repetitions(v: Values) -> Answer:
    """What can be lifted once, and what at other repetitions, by two laws side by side."""
    load, reps = number(v, "load_kg"), number(v, "reps") + number(v, "rir")
    tops = {name: one_repetition_maximum(load, reps, name) for name in ("epley", "brzycki")}
    wanted = number(v, "wanted")
    rows = [(f"Once, {name.title()}", kg(top, 3)) for name, top in tops.items()]
    at = {}
    for name, top in tops.items():
        # The load whose repetitions to failure are the wanted ones.
        at[name] = top / one_repetition_maximum(1.0, wanted, name)
        rows.append((f"For {wanted:g} to failure, {name.title()}", kg(at[name], 3)))
    counts = np.arange(1, 21)
    points = [(float(n), float(tops["epley"] / one_repetition_maximum(1.0, float(n), "epley"))) for n in counts]
    caution = "Over about 12 repetitions such laws scatter widely." if max(reps, wanted) > 12 else ""
    says = f"About {kg(tops['epley'], 3)} once (Epley), {kg(tops['brzycki'], 3)} (Brzycki)."
    curve = Curve(points, "repetitions to failure", "load, kg (Epley)", (wanted, at["epley"]))
    assert abs(repetitions_at(load, tops["epley"], "epley") - reps) < 1e-6
    return Answer(rows, says, (), curve, caution)
