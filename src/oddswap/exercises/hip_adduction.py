"""Hip adduction: the thigh moved inward, seated on a machine or standing on the other leg."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Seated with bent knees, or standing with a straight leg."""
    seated = values["seated"] > 0.5
    hip, knee = (np.radians(80.0), np.radians(85.0)) if seated else (np.radians(4.0), np.radians(4.0))
    other = None if seated else leg_angles(s, 0.0, 0.05, 0.05)
    return Path(s, leg=leg_angles(s, hip, knee, 0.0, ramp(s, -38, 8)), other_leg=other, hold="hips")


MOVEMENT = Movement(
    id="hip_adduction",
    name="Hip adduction",
    parameters=(Parameter("seated", "standing or seated", 0, 1, 1, {0.0: "standing", 1.0: "seated"}),),
    targets=("adductors",),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 1]),
    reading_words="thigh turned in {}°",
    path=path,
    variants=fixed_variants(Variant({"seated": 0.0}), Variant({"seated": 1.0}, "bench", 80.0)),
    title=titled("Hip adduction", seated={0.0: "standing", 0.5: "seated"}),
    cues=lambda v: ["Pelvis still", *([] if v.values["seated"] > 0.5 else ["Hold on to the column or a rack"])],
    cautions=say(),
    family="legs",
    stances=("bench", "standing"),
    support=lambda values: (
        BodySupport("thigh", thigh="rests") if values["seated"] > 0.5 else BodySupport("shank", one_side=True)
    ),
)
