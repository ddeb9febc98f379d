"""Loads that the body's posture follows: lifts on the feet, balanced anew under every load."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.profile import profile
from oddswap.equivalence.response import response
from oddswap.equivalence.scoring import off_by
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import VariantMechanics, mechanics_of, perform_loaded
from oddswap.errors import DomainError
from oddswap.mechanics.types import Floats

LIGHTER = 0.7
"""Part of the load begun with that is tried beside it."""
LEAST_RISE = 1e-6
"""Relative effort per unit of amount under which two efforts say nothing of where to look."""


def target_mechanics(prescription: PrescriptionProfile, set_up: SetUp) -> VariantMechanics:
    """The variant that a set-up does, see ``mechanics_of``.

    Raises:
        DomainError: If it cannot be, or is of no movement for the prescription's muscle.
    """
    mechanics = mechanics_of(prescription.body, set_up)
    if prescription.line.target not in mechanics.demands:
        limit = f"a variant of a movement for the {prescription.group.name}"
        raise DomainError("movement", set_up.movement, limit, "Choose another movement")
    return mechanics


def balanced_effort(prescription: PrescriptionProfile, set_up: SetUp) -> Floats:
    """Relative effort of the target where the body's posture follows its load, (pose,).

    Raises:
        DomainError: Where no posture balances that load.
    """
    if set_up.lift_s is not None:
        p = profile(prescription.body, set_up, check=False)
        return np.asarray(p.relative_effort[p.row(prescription.line.target)])
    first, *rest = set_up.sources
    own, per_unit = response(target_mechanics(prescription, set_up), prescription.group, first, rest)
    return np.maximum(0.0, own + first.amount * per_unit)


def carried_amount(prescription: PrescriptionProfile, set_up: SetUp, amounts: Floats) -> float:
    """The amount there is whose peak effort is nearest the prescription's, where the body's posture follows its load.

    Each try balances the body anew, so two are balanced in step. By secants, until a pair of neighbours has the wanted effort
    between them; where the body balances the lighter one alone, that is it.

    Args:
        prescription: What the line asks of the client.
        set_up: The set-up; its own load only says where to begin.
        amounts: Amounts there are of its first source, ascending, (amount,).
    """
    tried = dict[int, float]()
    wanted, last = prescription.relative_effort, len(amounts) - 1

    def attempt(*which: int) -> None:
        new = [k for k in dict.fromkeys(which) if k not in tried]
        tried.update(zip(new, _peaks(prescription, [set_up.with_amount(float(amounts[k])) for k in new]), strict=True))

    first = set_up.sources[0].amount
    attempt(_nearest(amounts, first), _nearest(amounts, LIGHTER * first))
    while True:
        under = max((k for k, effort in tried.items() if effort <= wanted), default=-1)
        over = min((k for k, effort in tried.items() if effort > wanted and k > under), default=last + 1)
        if over - under <= 1:
            break
        if over in tried and not np.isfinite(tried[over]):
            attempt((under + over) // 2)
            continue
        guess = min(max(_secant(amounts, tried, under, over, wanted), under + 1), over - 1)
        attempt(guess, min(guess + 1, over - 1))
    pair = [k for k in (under, over) if k in tried]
    off = off_by(np.log(np.maximum([tried[k] for k in pair], 1e-9) / wanted))
    return float(amounts[pair[int(np.argmin(off))]])


def _nearest(amounts: Floats, wanted: float) -> int:
    return int(np.abs(amounts - wanted).argmin())


def _secant(amounts: Floats, tried: Mapping[int, float], under: int, over: int, wanted: float) -> int:
    """The amount at or below the one that a line leads to: through the efforts on either side of the wanted one, or where all
    tried ones are on one side through the two nearest; midway to the least where no line can be drawn."""
    finite = sorted((k for k, effort in tried.items() if np.isfinite(effort)), key=lambda k: abs(tried[k] - wanted))
    ends = [under, over] if under in tried and over in tried else finite[:2]
    rise = (tried[ends[0]] - tried[ends[1]]) / (amounts[ends[0]] - amounts[ends[1]]) if len(ends) == 2 else 0.0
    if rise <= LEAST_RISE:
        return (under + over) // 2
    return int(np.searchsorted(amounts, amounts[ends[0]] + (wanted - tried[ends[0]]) / rise, side="right")) - 1


def _peaks(prescription: PrescriptionProfile, set_ups: Sequence[SetUp]) -> list[float]:
    """Peak effort of the target, balanced anew under each load, (set-up,); infinite where no posture balances it."""
    perform_loaded(prescription.body, set_ups)
    out = list[float]()
    for set_up in set_ups:
        try:
            out.append(float(balanced_effort(prescription, set_up).max()))
        except DomainError:
            out.append(np.inf)
    return out


def line_about_load(prescription: PrescriptionProfile, set_up: SetUp) -> tuple[Floats, Floats]:
    """Relative effort without and per unit of a load that the posture follows, (pose,) each: a line through two loads."""
    low, high = 0.8 * set_up.sources[0].amount, set_up.sources[0].amount
    both = [set_up.with_amount(amount) for amount in (low, high)]
    perform_loaded(prescription.body, both)
    light, heavy = (balanced_effort(prescription, one) for one in both)
    slope = (heavy - light) / (high - low)
    return heavy - slope * high, slope
