"""The kneeling crunch: the spine curled against a line from above, hips still."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Kneeling and bent at the hips, so that the trunk lies along the line of pull, hands at the head; the trunk curls on a
    still pelvis."""
    curl = ramp(s, -12, 50)
    return Path(s, lumbar=curl, lean=curl + np.radians(values["bent_deg"]), hold="head")


MOVEMENT = Movement(
    id="kneeling_crunch",
    name="Kneeling crunch",
    parameters=(Parameter("bent_deg", "how far the hips are bent, degrees", 0, 80, 55),),
    targets=(
        "abs",
        "obliques",
    ),
    hinge="lumbosacral",
    reading=lambda coords: np.degrees(coords["trunk"][:, 0]),
    reading_words="spine curled {}°",
    path=path,
    variants=fixed_variants(Variant({}, "kneeling")),
    title=titled("Kneeling crunch"),
    cues=say("Ribs to pelvis, hips still", "Bent at the hips, the trunk along the cable", "Hands stay at the head"),
    cautions=say("Curl the spine slowly; leave it out with a back that complains."),
    family="trunk",
    stances=("kneeling",),
)
