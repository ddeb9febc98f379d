"""The calculators a coach reaches for: each with its inputs, its answer, a drawing, its formula and a worked example.

Every entry of ``CALCULATORS`` is one self-contained definition; adding one is adding an entry.
"""

from __future__ import annotations

from oddswap.coaching.calculators.base import Answer, Calculator, Curve, Input, Stroke, Values
from oddswap.coaching.calculators.loading import band, drops, plates, repetitions
from oddswap.coaching.calculators.pulling import lever, offset, split, strap
from oddswap.equipment.base.lines import RUBBER_MODULUS

__all__ = ["CALCULATORS", "Answer", "Calculator", "Curve", "Input", "Stroke", "Values"]

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
            "statics; the hand's grip 8 cm past the wrist",
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
            "Plates for a load",
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
