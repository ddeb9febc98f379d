"""The pushdown: the elbow straightened beside the ribs against a line from above."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, hinge_arm, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Upper arm still beside the ribs."""
    return Path(
        s,
        arm=hinge_arm(s, direction(0.20, 0.0, -1.0), direction(1.0, -0.22, 0.0), 115, 6, values["forearm_deg"]),
        lean=np.radians(8.0),
    )


MOVEMENT = Movement(
    id="pushdown",
    name="Pushdown",
    parameters=(Parameter("forearm_deg", "forearm rotation, degrees: 0 thumb up, 70 palm down", -90, 85, 30, kept=True),),
    targets=(
        "triceps_short",
        "triceps_long",
    ),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(Variant({})),
    title=titled("Pushdown"),
    cues=say("Elbow stays beside the ribs", "Push until the elbow is straight, wrist in line with the forearm"),
    cautions=say(),
    family="arms",
    stances=("standing", "kneeling", "holding_on", "back_rested"),
)
