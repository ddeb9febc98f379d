"""The upright row: the hands drawn up before the body with the elbows leading."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, limbs, say, titled, ways
from oddswap.mechanics.movement import Movement, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Elbows lead out and up to shoulder level."""
    arm = limbs(s, [aim(0.12, 0.12, -1.0), aim(0.22, 1.0, 0.0)], [aim(0.22, -0.02, -1.0), aim(0.25, -0.55, -0.80)], 60.0,
                pit=aim(1.0, -0.4, 0.0))  # fmt: skip
    return Path(s, arm=arm)


MOVEMENT = Movement(
    id="upright_row",
    name="Upright row",
    parameters=(),
    targets=(
        "side_delt",
        "upper_traps",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 1]),
    reading_words="arm {}° off hanging",
    path=path,
    variants=ways(Variant({})),
    title=titled("Upright row"),
    cues=say("Elbows lead, stop at shoulder level"),
    cautions=say("Ends at shoulder level: higher pinches some shoulders."),
    family="shoulders",
    stances=("standing",),
)
