"""The leg extension: the knee straightened from the seat."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Seated, hips still."""
    return Path(s, leg=leg_angles(s, np.radians(values["hip_deg"]), ramp(s, 105, 5)), hold="hips")


MOVEMENT = Movement(
    id="leg_extension",
    name="Leg extension",
    parameters=(Parameter("hip_deg", "hip bent by the seat, degrees", 20, 100, 85, on_machine="free"),),
    targets=(
        "quads",
        "rectus_femoris",
    ),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "bench", 85.0), Variant({"hip_deg": 60.0}, "bench", 60.0)),
    title=titled("Leg extension"),
    cues=say("Knee in line with the machine's axis"),
    cautions=say("Mind the last degrees where a knee complains."),
    family="legs",
    stances=("bench",),
    support=always(BodySupport("shank", thigh="held")),
)
