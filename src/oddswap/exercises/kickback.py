"""The kickback: the elbow straightened with the upper arm along the trunk, bent over."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, hinged, say, titled, ways
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Upper arm along the ribs."""
    return Path(s, arm=hinged(s, aim(-0.14, 0.12, -1.0), aim(1.0, 0.0, 0.0), 95, 5, 0.0))


MOVEMENT = Movement(
    id="kickback",
    name="Kickback",
    parameters=(),
    targets=(
        "triceps_short",
        "triceps_long",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=ways(Variant({}, "bent", 15.0), Variant({})),
    title=titled("Kickback"),
    cues=say("Upper arm level and still"),
    cautions=say(),
    family="arms",
    stances=("bent", "chest_pad", "standing"),
)
