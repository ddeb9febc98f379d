"""How exactly a set-up must be set: how far each of its choices may be off before the match falls."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.equipment.base.setting import AdjustableParameter
from oddswap.equivalence.evaluate import Question, evaluate
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.variants import placed_mechanics
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
        parameter: What can be chosen.
        low: Least value that costs at most ``FALL`` points, the load kept.
        high: Greatest such value.
        cost: Points that a usual slip costs at worst.
    """

    source: int
    parameter: AdjustableParameter
    low: float
    high: float
    cost: float


def choices(prescription: PrescriptionProfile, place: Place, lens: Lens, set_up: SetUp, match: float) -> list[Choice]:
    """The free choices of a set-up's sources with their tolerances, the dearest slip first.

    Args:
        prescription: The line's demand.
        place: Where, for what there is to choose from.
        lens: The lens.
        set_up: The set-up with its load.
        match: Its match.
    """
    mechanics = placed_mechanics(prescription.body, set_up)
    out = []
    for k, source in enumerate(set_up.sources):
        others = [s for i, s in enumerate(set_up.sources) if i != k]
        amounts = np.array([source.amount])
        question = Question(mechanics, prescription, lens, amounts, others, source.amount, farthest=place.farthest)
        for parameter in source.adjustable_parameters(place.kit):
            values = values_near(parameter)
            settings = [source.with_parameter(parameter.id, float(v)) for v in values]
            found = evaluate(question, batch_settings(mechanics, settings))
            matches = np.full(len(values), -1.0) if found is None else found.match
            # Compared with what the same look says of the set-up as it is.
            here = float(matches[np.abs(values - parameter.value).argmin()])
            out.append(_choice(k, parameter, values, matches, here if here > 0 else match))
    return sorted(out, key=lambda c: -c.cost)


def values_near(parameter: AdjustableParameter) -> Floats:
    """The values of a parameter nearest to the present one, ascending."""
    values = parameter.values()
    near = np.sort(np.argsort(np.abs(values - parameter.value), kind="stable")[:STEPS])
    slips = [
        v for v in (parameter.value - parameter.slip, parameter.value + parameter.slip) if parameter.low <= v <= parameter.high
    ]
    return np.unique(np.concatenate([values[near], [] if parameter.choices else slips]))


def _choice(source: int, parameter: AdjustableParameter, values: Floats, matches: Floats, match: float) -> Choice:
    here = int(np.abs(values - parameter.value).argmin())
    fine = matches >= match - FALL
    low = high = here
    while low > 0 and fine[low - 1]:
        low -= 1
    while high + 1 < len(values) and fine[high + 1]:
        high += 1
    slipped = np.abs(values - parameter.value) <= parameter.slip + 1e-6
    cost = match - float(np.maximum(matches[slipped], 0.0).min())
    return Choice(source, parameter, float(values[low]), float(values[high]), max(0.0, cost))


def change_parameter(set_up: SetUp, source: int, name: str, value: float) -> SetUp:
    """A set-up with one choice of one source made otherwise."""
    return set_up.with_source(source, set_up.sources[source].with_parameter(name, value))
