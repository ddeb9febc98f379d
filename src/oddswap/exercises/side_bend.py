"""The side bend: standing, a load in one hand, the trunk bent toward it and brought up past upright by the other side."""

from __future__ import annotations

import numpy as np

from oddswap.exercises.authoring import fixed_variants, ramp, say
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import BodySupport, Movement, Parameter, Path, Values, Variant, always
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """From bent toward the load to a little past upright; the hips stay, the loaded arm hangs."""
    return Path(s, side=ramp(s, -values["depth_deg"], values["past_deg"]), hold="hang")


MOVEMENT = Movement(
    id="side_bend",
    name="Side bend",
    parameters=(
        Parameter("depth_deg", "trunk bent toward the load at the bottom, degrees", 10, 35, 25),
        Parameter("past_deg", "trunk bent past upright at the top, degrees", 0, 20, 8),
    ),
    targets=("waist",),
    hinge="lumbosacral",
    reading=lambda coords: np.degrees(coords["waist"][:, 0]),
    reading_words=lambda degrees: f"trunk bent {abs(degrees):.0f}° {'away from' if degrees > 0 else 'toward'} the load",
    path=path,
    variants=fixed_variants(Variant({})),
    title=lambda v: "Side bend",
    cues=say("Load in one hand only, the other on the hip", "Bend straight to the side, hips still", "Each side in turn"),
    cautions=say("Slow and without a jerk; stop where the back itself hurts."),
    family="trunk",
    support=always(BodySupport("hand", one_side=True)),
    loaded=True,
)
