"""What both hands can hold together in a variant: one bar, or one dumbbell; judged by somebody of average size."""

from __future__ import annotations

from functools import cache

import numpy as np

from oddswap.coaching.lines_of_pull import BAR_ASIDE
from oddswap.equipment.base.item import hands_serve_bar, hands_serve_dumbbell
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equivalence.set_up import AVERAGE, SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.clearance import bar_limits
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Movement, Variant


def bar_clears(kind: Movement, variant: Variant) -> bool:
    """Whether a bar in both hands clears the body as the variant goes, by somebody of average size; one on the back does."""
    support = kind.support(variant.values)
    if support.contact != "hand" or support.base == "feet":
        return True
    by = sorted(variant.values.items())
    return hands_keep_apart(kind.id, variant.stance, variant.recline_deg, *by, aside=0.0)


@cache
def hands_keep_apart(
    movement: str, stance: str, recline_deg: float, *values: tuple[str, float], aside: float = BAR_ASIDE
) -> bool:
    """Whether both hands could hold one bar all the way, held off the body by so much (m), by somebody of average size."""
    motion = _in_hands(movement, stance, recline_deg, values)
    if motion is None:
        return False
    clear = all(float(np.min(limit.margin)) > -aside for limit in bar_limits(motion))
    return clear and not {"arm", "wrist"}.isdisjoint(motion.coords) and hands_serve_bar(motion.arm.grip)


def dumbbell_between(kind: Movement, variant: Variant) -> str:
    """Where both hands of somebody of average size could hold one dumbbell all the way: ``chest`` or ``hands``; else empty."""
    if not kind.shares_dumbbell or kind.support(variant.values).contact != "hand":
        return ""
    return _between(kind.id, variant.stance, variant.recline_deg, *sorted(variant.values.items()))


@cache
def _between(movement: str, stance: str, recline_deg: float, *values: tuple[str, float]) -> str:
    motion = _in_hands(movement, stance, recline_deg, values)
    if motion is None:
        return ""
    return ("chest" if motion.hold == "chest" else "hands") if hands_serve_dumbbell(motion.point("hand")) else ""


def _in_hands(movement: str, stance: str, recline_deg: float, values: tuple[tuple[str, float], ...]) -> Motion | None:
    """The motion with something in each hand; None where it cannot be."""
    try:
        return SetUp(movement, (DumbbellHold(5.0),), dict(values), stance, recline_deg).perform(AVERAGE, 9)
    except DomainError:
        return None
