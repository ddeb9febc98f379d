"""The hip extension: the nearly straight leg swung back against a line from ahead, standing on the other."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The thigh from ahead of the trunk to behind it, the trunk leaning on a hold."""
    lean = np.radians(values["lean_deg"])
    hip = ramp(s, 35, -16) + lean
    return Path(s, leg=leg_angles(s, hip, np.radians(3.0)), other_leg=leg_angles(s, lean, 0.05, 0.05), lean=lean, hold="hips")


MOVEMENT = Movement(
    id="hip_extension",
    name="Hip extension",
    parameters=(Parameter("lean_deg", "trunk forward onto a hold, degrees", 0, 60, 20),),
    targets=("glute_max", "hamstrings"),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Hip extension"),
    cues=say("Hold on to the rack", "Pelvis still, no arching to win range"),
    cautions=say("Lower back: brace, ribs down."),
    family="legs",
    support=always(BodySupport("shank", one_side=True, knee_locked=True)),
)
