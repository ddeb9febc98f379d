"""The wrist curl: the hand bent over the knee against its load, palm up for the flexors, palm down for the extensors."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oddswap.exercises.authoring import direction, ramp, say, titled
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import arm_along
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats

LEAN, BEHIND = np.radians(55.0), np.radians(32.0)
"""How far the trunk leans forward for the forearms to lie on the thighs, and how far behind plumb the upper arms hang (own
estimates)."""
TURNED = {0.0: -85.0, 1.0: 84.0}
"""Forearm rotation by where the palm faces, degrees: common practice, no source."""
BACK, BENT = 50.0, 60.0
"""How far the hand goes toward its back and toward the palm, degrees (own estimates)."""


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Elbows on the thighs, forearms level, hands beyond the knees; only the hand moves, up against its load."""
    upper = direction(np.sin(LEAN - BEHIND), -0.04, -np.cos(LEAN - BEHIND))
    fore = direction(np.cos(LEAN), 0.04, np.sin(LEAN))
    turned = np.full_like(s, np.radians(TURNED[values["palm"]]))
    arm = arm_along(np.tile(upper, (len(s), 1)), np.tile(fore, (len(s), 1)), turned)
    bent = ramp(s, -BACK, BENT) if values["palm"] == 0 else ramp(s, BENT, -BACK)
    return Path(s, arm=replace(arm, wrist=bent), lean=LEAN)


MOVEMENT = Movement(
    id="wrist_curl",
    name="Wrist curl",
    parameters=(Parameter("palm", "where the palm faces", 0, 1, 0, {0.0: "palms up", 1.0: "palms down"}),),
    targets=("wrist_flexors", "wrist_extensors"),
    hinge="right wrist",
    reading=lambda coords: np.degrees(np.abs(coords["wrist"][:, 0])),
    reading_words="hand bent {}°",
    path=path,
    # At the end of a bench, clear of its rest.
    variants=lambda notches, pads: [Variant({"palm": palm}, "bench", 90.0) for palm in (0.0, 1.0) if tuple(notches)],
    title=titled("Wrist curl", palm={0.0: "palms up", 1.0: "palms down"}),
    cues=say("Forearms stay on the thighs", "Let the hand sink all the way, then bend it up"),
    cautions=say("Light and slow: stop where the wrist itself hurts."),
    family="arms",
    stances=("bench",),
    support=always(BodySupport("hand", forearm_rests=True)),
    loaded=True,
)
