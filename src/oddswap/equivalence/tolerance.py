"""How exactly a set-up must be set: how far each of its choices may be off before the match falls."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from oddswap.equipment.protocols import Freedom
from oddswap.equivalence.evaluate import Aim, exact_ways, extra_of, listed, score
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import job_for
from oddswap.mechanics.types import Floats

FALL = 5.0
"""Points of match that a choice may cost."""
STEPS = 40
"""Values of a choice that are looked at, at most."""


@dataclass(frozen=True)
class Choice:
    """A choice of a set-up, and how far it may be off.

    Args:
        source: Which of the set-up's sources it belongs to.
        freedom: What can be chosen.
        low: Least value that costs at most ``FALL`` points, the load kept.
        high: Greatest such value.
        cost: Points that a usual slip costs at worst.
    """

    source: int
    freedom: Freedom
    low: float
    high: float
    cost: float


def choices(aim: Aim, place: Place, by: Lens, set_up: SetUp, match: float) -> list[Choice]:
    """The free choices of a set-up's sources with their tolerances, the dearest slip first.

    Args:
        aim: The line's demand.
        place: Where, for what there is to choose from.
        by: The lens.
        set_up: The set-up with its load.
        match: Its match.
    """
    way = exact_ways(aim.body, [job_for(set_up)])[0]
    if way is None:
        return []
    out = []
    for k, source in enumerate(set_up.sources):
        others = [s for i, s in enumerate(set_up.sources) if i != k]
        extra = extra_of(way, aim.group, others)
        for freedom in source.freedoms(place.kit):
            values = looked_at(freedom)
            settings: Sequence[Any] = [source.moved(freedom.id, float(v)) for v in values]
            amounts = np.array([source.amount])
            scored = score(listed(way, settings), way, amounts, aim, by, extra=extra, fixed=source.amount)
            matches = np.full(len(values), -1.0) if scored is None else scored.match
            out.append(_choice(k, freedom, values, matches, match))
    return sorted(out, key=lambda c: -c.cost)


def looked_at(freedom: Freedom) -> Floats:
    """The values of a freedom nearest to the present one, ascending."""
    values = freedom.values()
    near = np.sort(np.argsort(np.abs(values - freedom.value), kind="stable")[:STEPS])
    slips = [v for v in (freedom.value - freedom.slip, freedom.value + freedom.slip) if freedom.low <= v <= freedom.high]
    return np.unique(np.concatenate([values[near], [] if freedom.choices else slips]))


def _choice(source: int, freedom: Freedom, values: Floats, matches: Floats, match: float) -> Choice:
    here = int(np.abs(values - freedom.value).argmin())
    fine = matches >= match - FALL
    low = high = here
    while low > 0 and fine[low - 1]:
        low -= 1
    while high + 1 < len(values) and fine[high + 1]:
        high += 1
    slipped = np.abs(values - freedom.value) <= freedom.slip + 1e-6
    cost = match - float(np.maximum(matches[slipped], 0.0).min())
    return Choice(source, freedom, float(values[low]), float(values[high]), max(0.0, cost))


def moved(set_up: SetUp, source: int, name: str, value: float) -> SetUp:
    """A set-up with one choice of one source made otherwise."""
    sources = list(set_up.sources)
    sources[source] = sources[source].moved(name, value)
    return replace(set_up, sources=tuple(sources))
