"""The glute bridge: hips raised off the floor between the upper back and the feet."""

from __future__ import annotations

from oddswap.exercises.authoring import fixed_variants, say, titled
from oddswap.exercises.hip_thrust import MOVEMENT as HIP_THRUST
from oddswap.exercises.hip_thrust import edge_at_top, thrust
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

LOW, BENT = -89.0, 6.0
"""Lean of the trunk where it lies on the floor, and how far from straight hips are at the top, degrees (own estimates)."""
LEVELS = 92.0, 150.0
"""Lean of the thighs at the top between which the upper back comes to the floor, degrees."""
SHIN = 15.0
"""Lean of the shins toward the hips at the top, degrees (own estimate)."""
HALVINGS = 20


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """From lying to straight from shoulders to knees."""
    low, high = LEVELS
    for _ in range(HALVINGS):
        level = (low + high) / 2
        above = edge_at_top(body, BENT - level, level, SHIN)[0, 1] + body.height("ankle")
        low, high = (level, high) if above > 0 else (low, level)
    return thrust(values, s, body, LOW, BENT - level, level, SHIN)


MOVEMENT = Movement(
    id="glute_bridge",
    name="Glute bridge",
    parameters=(Parameter("one_leg", "legs that work", 0, 1, 0, {0.0: "both legs", 1.0: "one leg"}),),
    targets=("glute_max", "hamstrings"),
    hinge="right hip",
    reading=HIP_THRUST.reading,
    reading_words=HIP_THRUST.reading_words,
    path=path,
    variants=fixed_variants(Variant({}, "floor"), Variant({"one_leg": 1.0}, "floor")),
    title=titled("Glute bridge", one_leg={0.0: "", 1.0: "one leg"}),
    cues=say("Ribs down; straight from shoulders to knees at the top"),
    cautions=say("Pad what lies on the hips; roll it on and off."),
    family="legs",
    stances=("floor",),
    support=HIP_THRUST.support,
)
