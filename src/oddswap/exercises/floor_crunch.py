"""The floor crunch: lying on the back, the ribs curled toward a still pelvis."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Hold, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "head", 1.0: "chest"}


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """The trunk curls up off the floor; pelvis and feet stay."""
    curl = ramp(s, 3, values["curl_deg"])
    return Path(s, lean=curl, lumbar=curl, hold=HOLDS[values["hold"]])


MOVEMENT = Movement(
    id="floor_crunch",
    name="Floor crunch",
    parameters=(
        Parameter("curl_deg", "how far the ribs curl up, degrees", 20, 50, 38),
        Parameter("hold", "where the hands are", 0, 1, 0, {0.0: "at the head", 1.0: "weight before the chest"}),
    ),
    targets=(
        "abs",
        "obliques",
    ),
    hinge="lumbosacral",
    reading=lambda coords: np.degrees(coords["trunk"][:, 0]),
    reading_words="spine curled {}°",
    path=path,
    variants=fixed_variants(Variant({}, "lying"), Variant({"hold": 1.0}, "lying")),
    title=titled("Floor crunch", hold={0.0: "", 1.0: "weight before the chest"}),
    cues=say("Lower back stays down, ribs to pelvis", "Shoulder blades off the floor, no more"),
    cautions=say("Curl the spine slowly; leave it out with a back that complains. Do not pull at the neck."),
    family="trunk",
    stances=("lying",),
    support=lambda values: BodySupport("hand" if values["hold"] else "foot", "hips", "pelvis"),
)
