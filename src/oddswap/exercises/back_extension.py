"""The back extension: hips on a pad, ankles held, the trunk raised until it is in line with the legs."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, say
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Hold, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "chest", 1.0: "hang"}
ROUNDED = 0.25
"""Part of the bend that the lower back takes at the bottom (own estimate); the hips take the rest."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The trunk from hanging over the pad to the line of the legs, which stay where they lie."""
    lean = np.radians(values["depth_deg"]) * (1 - s)
    lumbar = ROUNDED * lean
    leg = leg_angles(s, lean - lumbar, np.radians(4.0), np.radians(-10.0))
    return Path(s, leg=leg, lean=lean, lumbar=lumbar, hold=HOLDS[values["hold"]])


def title(v: Variant) -> str:
    """For example ``45° back extension``."""
    angle = f"{v.recline_deg:.0f}° back extension" if v.recline_deg > 5 else "Back extension"
    return angle if v.values["hold"] == 0 else f"{angle}, weight hanging"


MOVEMENT = Movement(
    id="back_extension",
    name="Back extension",
    parameters=(
        Parameter("depth_deg", "trunk bent from the line of the legs at the bottom, degrees", 30, 95, 75),
        Parameter("hold", "where the load is held", 0, 1, 0, {0.0: "before the chest", 1.0: "weight hanging"}),
    ),
    targets=("glute_max", "hamstrings", "erectors"),
    hinge="right hip",
    reading=lambda coords: np.degrees(coords["leg"][:, 0]),
    reading_words="hip bent {}°",
    path=path,
    variants=fixed_variants(*(Variant({"hold": h}, "hip_pad", 45.0) for h in (0.0, 1.0))),
    title=title,
    cues=say("Pad just below the hip bones, so that the hips can bend", "Stop in line with the legs: no leaning back"),
    cautions=say("Lower back: come up slowly, ribs down, no swing at the bottom."),
    family="legs",
    stances=("hip_pad",),
    support=always(BodySupport("hand", "hips", "thighs and ankles")),
    needs=lambda values: (("hip_pad",),),
)
