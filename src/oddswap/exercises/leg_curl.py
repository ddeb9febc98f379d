"""The leg curl: the knee bent lying on the front, or seated."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Hips still: bent when seated, nearly straight when lying."""
    seated = values["seated"] > 0.5
    hip, end = (np.radians(85.0), 105.0) if seated else (np.radians(8.0), 115.0)
    return Path(s, leg=leg_angles(s, hip, ramp(s, 5, end), np.radians(5)), hold="hips")


MOVEMENT = Movement(
    id="leg_curl",
    name="Leg curl",
    parameters=(Parameter("seated", "lying or seated", 0, 1, 0, {0.0: "lying", 1.0: "seated"}),),
    targets=(
        "hamstrings",
        "short_hamstring",
        "gastrocnemius",
    ),
    hinge="right knee",
    reading=lambda coords: np.degrees(coords["leg"][:, 3]),
    reading_words="knee bent {}°",
    path=path,
    variants=fixed_variants(Variant({"seated": 0.0}, "chest_supported", 0.0), Variant({"seated": 1.0}, "bench", 85.0)),
    title=titled("Leg curl", seated={0.0: "lying", 0.5: "seated"}),
    cues=say("Knee in line with the machine's axis", "Hips stay down"),
    cautions=say("Hamstrings cramp when short: start light."),
    family="legs",
    stances=("chest_supported", "bench"),
    support=always(BodySupport("shank", thigh="held")),
)
