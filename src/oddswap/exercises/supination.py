"""Resisted supination: the bent forearm turned palm up against a weight off the hand's middle."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import direction, fixed_variants, ramp, say, titled
from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

END_CM = 7.0
"""How far off the hand's middle a load bears that is gripped at its end, or hangs on one end of a handle (own estimate)."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbow near a right angle, forearm from palm down past palm up."""
    u = np.broadcast_to(direction(0.02, 0.10, -1.0), (*s.shape, 3))
    antecubital = np.broadcast_to(direction(1.0, 0.0, 0.0), u.shape)
    return Path(s, arm=ArmPath(u, antecubital, np.full_like(s, np.radians(90)), ramp(s, 70, -80)))


def palm_words(pronation_deg: float) -> str:
    """Where the palm faces at a forearm rotation, degrees."""
    return "palm up" if pronation_deg < -45 else "palm facing in" if pronation_deg <= 45 else "palm down"


def cues(v: Variant) -> list[str]:
    """What to look at."""
    off = v.values["off_cm"]
    side = "little-finger" if off < 0 else "thumb"
    hold = [f"Grip at the end: the load hangs on the {side} side of the hand"] if off else []
    return [*hold, "Elbow near a right angle", "Turn past palm up"]


MOVEMENT = Movement(
    id="supination",
    name="Resisted supination",
    parameters=(
        Parameter("off_cm", "load off the hand's middle, cm: thumb side (+) or little-finger side (-)", -10, 10, 0, kept=True),
    ),
    targets=("biceps",),
    hinge="right elbow",
    reading=lambda coords: np.degrees(coords["arm"][:, 4]),
    reading_words=palm_words,
    path=path,
    # Held in its middle a load resists no turning: only what hangs on the little-finger side is offered.
    variants=fixed_variants(Variant({"off_cm": -END_CM})),
    support=lambda values: BodySupport(across_cm=values["off_cm"]),
    title=titled("Resisted supination"),
    cues=cues,
    cautions=say(),
    family="arms",
    stances=("standing", "bench"),
)
