"""Resisted supination: the bent forearm turned palm up against a weight off the hand's middle."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import aim, ramp, say, titled, ways
from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant, Way
from oddswap.mechanics.types import Floats

END_CM = 7.0
"""How far off the hand's middle a load bears that is gripped at its end, or hangs on one end of a handle (own estimate)."""


def path(values: Values, s: Floats, free: Floats) -> Path:
    """Elbow near a right angle, forearm from palm down past palm up."""
    u = np.broadcast_to(aim(0.02, 0.10, -1.0), (*s.shape, 3))
    pit = np.broadcast_to(aim(1.0, 0.0, 0.0), u.shape)
    return Path(s, arm=ArmPath(u, pit, np.full_like(s, np.radians(90)), ramp(s, 70, -80)))


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
    reading_words="palm turned down {}°",
    path=path,
    # Held in its middle a load resists no turning: only what hangs on the little-finger side is offered.
    variants=ways(Variant({"off_cm": -END_CM})),
    way=lambda values: Way(across_cm=values["off_cm"]),
    title=titled("Resisted supination"),
    cues=cues,
    cautions=say(),
    family="arms",
    stances=("standing", "bench"),
)
