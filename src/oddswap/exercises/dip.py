"""The dip: the body lowered and raised between two bars."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, leg_angles, say, through, titled
from oddswap.mechanics.arm import unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import arm_along
from oddswap.mechanics.movement import Balance, BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbows back and a little out; how far the forearms slant follows from hanging under the hands."""
    u = through(s, [direction(-0.72, 0.34, -0.44), direction(-0.10, 0.16, -1.0)])
    f = np.stack([np.sin(free), np.full_like(s, -0.02), -np.cos(free)], axis=-1)
    arm = arm_along(u, unit(f), np.zeros(len(u)), direction(1.0, 0.0, 0.0))
    lean = np.radians(values["lean_deg"])
    return Path(s, arm=arm, leg=leg_angles(s, -0.15, np.radians(80.0)), lean=lean)


MOVEMENT = Movement(
    id="dip",
    name="Dip",
    parameters=(Parameter("lean_deg", "trunk forward, degrees", 0, 45, 18),),
    targets=(
        "chest",
        "triceps_short",
        "front_delt",
        "triceps_long",
    ),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=fixed_variants(Variant({}, "hanging")),
    title=titled("Dip"),
    cues=say("Lean forward for the chest, upright for the triceps", "Shoulders away from the ears"),
    cautions=say("Stop where the front of the shoulder complains."),
    family="chest",
    stances=("hanging",),
    support=always(BodySupport("hand", "hands", "hands", Balance("weight", np.radians(-40), np.radians(88)), rest_cm=125)),
    needs=lambda values: (("dip_bars",),),
)
