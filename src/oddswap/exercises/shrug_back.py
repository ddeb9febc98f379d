"""The shrug back: the shoulder blades drawn together with straight arms ahead."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, hinged, say, titled
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Arms ahead, the girdle from forward to back."""
    forward, back = np.array([0.028, 0.0, 0.0]), np.array([-0.020, 0.0, 0.0])
    return Path(
        s, arm=hinged(s, aim(1.0, 0.10, -0.12), aim(0.0, 0.0, 1.0), 6, 6), girdle=forward + s[:, None] * (back - forward)
    )


MOVEMENT = Movement(
    id="shrug_back",
    name="Shrug back",
    parameters=(),
    targets=(
        "middle_traps",
        "rhomboids",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["girdle"][:, 0]),
    reading_words="girdle {}° forward",
    path=path,
    variants=lambda notches, pads: [Variant({}), *(Variant({}, "chest_pad", n) for n in notches if 20 <= n <= 45)],
    title=titled("Shrug back"),
    cues=say("Only the blades move"),
    cautions=say(),
    family="back",
    stances=("bench", "chest_pad", "bent", "standing"),
)
