"""The kneeling leg curl: on the knees with the ankles held, the body lowered and drawn up by the hamstrings."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

UPRIGHT, LEVEL = 6.0, 98.0
"""Lean of the body at the top, and the bend of a knee whose thigh is plumb over a shank that rises to the stretched foot,
degrees."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Hips nearly straight, the body in one line from knees to shoulders turns about the knees."""
    lean = np.radians(values["depth_deg"]) + s * np.radians(UPRIGHT - values["depth_deg"])
    hips = np.radians(values["hips_deg"])
    knee = np.radians(LEVEL) - (lean - hips)
    return Path(s, leg=leg_angles(s, hips, knee, np.radians(-45)), lean=lean, hold="chest")


MOVEMENT = Movement(
    id="kneeling_leg_curl",
    name="Kneeling leg curl",
    parameters=(
        Parameter("depth_deg", "body forward of upright at the bottom, degrees", 25, 80, 60),
        Parameter("hips_deg", "hips bent, degrees: more makes it easier", 0, 60, 8),
    ),
    targets=(
        "hamstrings",
        "short_hamstring",
    ),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(
        Variant({}, "kneeling"), Variant({"depth_deg": 40.0}, "kneeling"), Variant({"hips_deg": 45.0}, "kneeling")
    ),
    title=titled("Kneeling leg curl", depth_deg={0.0: "the upper half", 50.0: ""}, hips_deg={0.0: "", 30.0: "hips bent"}),
    cues=say("One line from knees to shoulders", "Pad under the knees; hands ready to catch the body"),
    cautions=say("Hamstrings: start with the upper half and few repetitions; stop at any sharp pull behind the thigh."),
    family="legs",
    stances=("kneeling",),
    support=always(BodySupport("foot", "knees", "knees and ankles", rest_cm=4)),
    needs=lambda values: (("bench", "hip_pad"),),
)
