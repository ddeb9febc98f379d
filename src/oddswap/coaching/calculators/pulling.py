"""How attachments, straps, grips and levers change what a load does."""

from __future__ import annotations

import numpy as np

from oddswap.coaching.calculators.base import Answer, Curve, Stroke, Values, number
from oddswap.equipment.lever import Swing
from oddswap.mechanics.body import GRAVITY
from oddswap.quantities import cm, kg


def split(v: Values) -> Answer:
    """Two strands from one ring: each holds W / (2 cos(spread / 2))."""
    load, spread = number(v, "load_kg"), np.radians(number(v, "spread_deg"))
    each = load / (2 * np.cos(spread / 2))
    x, y = float(np.sin(spread / 2)), float(np.cos(spread / 2))
    strokes = [
        Stroke("kit", (0, 1.1), (0, 0), kg(load)),
        Stroke("pull", (0, 0), (-x, -y), kg(each, 3)),
        Stroke("pull", (0, 0), (x, -y), kg(each, 3)),
    ]
    angles = np.linspace(0, 160, 81)
    points = [(float(a), float(1 / (2 * np.cos(np.radians(a) / 2)))) for a in angles]
    at = (float(np.degrees(spread)), float(each / load))
    rows = [("Each hand", kg(each, 3)), ("Of the cable's tension", f"{each / load:.2f} times")]
    caution = "Spread this wide, each hand holds more than the whole cable." if each > load else ""
    return Answer(
        rows, f"Each hand holds {kg(each, 3)}.", strokes, Curve(points, "spread, °", "part of the tension", at), caution
    )


def strap(v: Values) -> Answer:
    """A strap up the arm shortens the lever of a straight-arm lift."""
    load, part = number(v, "load_kg"), number(v, "along_pct") / 100
    upper, fore = number(v, "upper_cm"), number(v, "fore_cm")
    hand, here = upper + fore + 8, upper + part * fore
    torque = load * GRAVITY * here / 100
    strokes = [
        Stroke("limb", (0, 0), (upper, 0), "upper arm"),
        Stroke("limb", (upper, 0), (upper + fore, 0), "forearm"),
        Stroke("lever", (0, -7), (here, -7), cm(here)),
        Stroke("pull", (here, 0), (here, -28), kg(load)),
    ]
    rows = [
        ("Torque at the shoulder", f"{torque:.1f} N·m"),
        ("In the hand for the same", kg(load * here / hand, 3)),
        ("Here for the same as in the hand", kg(load * hand / here, 3)),
    ]
    return Answer(
        rows,
        f"The lever is {here / hand:.0%} of the hand's: {kg(load)} in the hand is {kg(load * hand / here, 3)} here.",
        strokes,
    )


def offset(v: Values) -> Answer:
    """Uneven ends or an offset grip turn the forearm."""
    thumb, little, apart = number(v, "thumb_kg"), number(v, "little_kg"), number(v, "handle_cm")
    off = number(v, "off_cm")
    torque = GRAVITY * (little * (apart / 2 + off) - thumb * (apart / 2 - off)) / 100
    strokes = [
        Stroke("kit", (-apart / 2 - off, 0), (apart / 2 - off, 0)),
        Stroke("plate", (-apart / 2 - off, -4 - little / 6), (-apart / 2 - off, 4 + little / 6), kg(little)),
        Stroke("plate", (apart / 2 - off, -4 - thumb / 6), (apart / 2 - off, 4 + thumb / 6), kg(thumb)),
        Stroke("limb", (0, 0), (0, -14), "fist"),
    ]
    mechanics = (
        "against turning the palm up" if torque > 0.05 else "against turning the palm down" if torque < -0.05 else "neither way"
    )
    rows = [("Torque along the forearm", f"{abs(torque):.2f} N·m"), ("It works", mechanics)]
    return Answer(rows, f"With the forearm level the dumbbell turns the fist with {abs(torque):.2f} N·m, {mechanics}.", strokes)


def lever(v: Values) -> Answer:
    """A plate-loaded lever: what the hand feels as it swings."""
    plates, horn, handle = number(v, "plates_kg"), number(v, "horn_cm") / 100, number(v, "handle_cm") / 100
    swing = np.radians(number(v, "angle_deg"))
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
            kg(plates),
        ),
        Stroke("lever", (0, 100 * horn * arm[1]), (100 * horn * arm[0], 100 * horn * arm[1]), cm(abs(100 * horn * arm[0]))),
    ]
    rows = [("In the hand", kg(now, 3)), ("At most, lever level", kg(effort_per_newton(np.pi / 2), 3))]
    curve = Curve(points, "swing from hanging, °", "in the hand, kg", (float(np.degrees(swing)), now))
    return Answer(rows, f"At {np.degrees(swing):.0f}° from hanging the hand holds {kg(now, 3)}.", strokes, curve)
