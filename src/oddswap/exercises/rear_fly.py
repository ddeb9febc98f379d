"""The rear-delt fly: the nearly straight arm from in front of the chest out to the side."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, say, swing, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Swept level with the shoulder; fly out, not back."""
    start = direction(0.98, values["across"] * -0.45, -0.06)
    return Path(s, arm=swing(s, start, direction(-0.10, 1.0, -0.06), 14, (25, 0)))


MOVEMENT = Movement(
    id="rear_fly",
    name="Rear-delt fly",
    parameters=(Parameter("across", "hands start apart (0) or crossed before the chest (1)", 0, 1, 0),),
    targets=(
        "rear_delt",
        "side_delt",
        "middle_traps",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 0]),
    reading_words="arm {}° round from the side",
    path=path,
    variants=lambda notches, pads: [
        Variant({}, "bent_over", 15.0),
        Variant({"across": 1.0}),
        *(Variant({}, "chest_supported", n) for n in notches if 20 <= n <= 45),
    ],
    title=titled("Rear-delt fly", across={0.0: "", 0.5: "from across"}),
    cues=say("Fly out, not back: blades quiet", "Soft elbow, the same all the way"),
    cautions=say(),
    family="shoulders",
    stances=("bent_over", "chest_supported", "standing", "bench", "half_kneeling", "holding_on", "chest_rested"),
    led="hang",
)
