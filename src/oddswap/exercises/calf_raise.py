"""The calf raise: heels lifted over the balls of the feet, knees straight or bent."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, leg_angles, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Balance, BodySupport, Contact, Hold, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

HOLDS: dict[float, Hold] = {0.0: "back", 1.0: "hang"}


def support(values: Values) -> BodySupport:
    """Standing on the balls of the feet, or seated with the load coming through the foot."""
    if values["knee_deg"] > 45:
        return BodySupport("foot", thigh="held", knee_locked=True)
    contact: Contact = "back" if values["hold"] == 0 else "hand"
    law = Balance("weight", np.radians(-10), np.radians(30))
    return BodySupport(contact, "toes", "feet", law, rest_cm=10, one_foot=values["one_leg"] > 0)


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """From the heels below the step to high on the toes; the body tips to stand over the balls of the feet."""
    knee = np.radians(values["knee_deg"])
    if values["knee_deg"] > 45:
        # On a usual seat long shanks leave less room above the floor to point the foot.
        return Path(s, leg=leg_angles(s, np.radians(85.0), knee, ramp(s, 18, -24)), hold="hips")
    other = leg_angles(s, 0.0, np.radians(75), 0.0) if values["one_leg"] else None
    leg = leg_angles(s, 0.0, knee, ramp(s, 18, -32))
    return Path(s, leg=leg, other_leg=other, lean=free, hold=HOLDS[values["hold"]])


MOVEMENT = Movement(
    id="calf_raise",
    name="Calf raise",
    parameters=(
        Parameter("knee_deg", "knee bend, degrees: straight, or 85 seated", 0, 90, 3),
        Parameter("hold", "where the load is held", 0, 1, 0, {0.0: "on the shoulders", 1.0: "dumbbells hanging"}),
        Parameter("one_leg", "legs that work", 0, 1, 0, {0.0: "both legs", 1.0: "one leg"}, on_machine="free"),
    ),
    targets=(
        "gastrocnemius",
        "soleus",
    ),
    hinge="right ankle",
    reading=lambda coords: np.degrees(-coords["leg"][:, 4]),
    reading_words="foot pointed {}°",
    path=path,
    variants=fixed_variants(
        Variant({}), Variant({"hold": 1.0}), Variant({"hold": 1.0, "one_leg": 1.0}), Variant({"knee_deg": 85.0}, "bench", 85.0)
    ),
    title=titled(
        "Calf raise",
        knee_deg={0.0: "", 45.0: "knees bent"},
        hold={0.0: "", 1.0: "dumbbells hanging"},
        one_leg={0.0: "", 1.0: "one leg"},
    ),
    cues=say("Pause at the bottom", "Over the big toe"),
    cautions=say(),
    family="legs",
    stances=("standing", "bench"),
    support=support,
)
