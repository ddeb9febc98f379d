"""The shrug up and in: shoulders drawn up and back against lines from low and wide."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, hinged, say, titled, ways
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Arms a little out, the girdle from down and forward to up and back."""
    low, high = np.array([0.012, 0.0, -0.004]), np.array([-0.012, 0.0, 0.030])
    return Path(s, arm=hinged(s, aim(0.05, 0.45, -1.0), aim(1.0, 0.0, 0.0), 8, 8), girdle=low + s[:, None] * (high - low))


MOVEMENT = Movement(
    id="shrug_up_in",
    name="Shrug up and in",
    parameters=(),
    targets=(
        "upper_traps",
        "middle_traps",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["girdle"][:, 1]),
    reading_words="girdle {}° up",
    path=path,
    variants=ways(Variant({})),
    title=titled("Shrug up and in"),
    cues=say("Up and in along the cable's line"),
    cautions=say(),
    family="back",
    stances=("standing",),
)
