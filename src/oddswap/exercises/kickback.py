"""The kickback: the elbow straightened with the upper arm along the trunk, bent over."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm along the ribs."""
    return Path(s, arm=hinge_arm(s, direction(-0.14, 0.12, -1.0), direction(1.0, 0.0, 0.0), 95, 5, 0.0))


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
    variants=fixed_variants(Variant({}, "bent_over", 15.0), Variant({})),
    title=titled("Kickback"),
    cues=say("Upper arm level and still"),
    cautions=say(),
    family="arms",
    stances=("bent_over", "chest_supported", "standing"),
)
