"""Loads that the body's posture follows: lifts on the feet, balanced anew under every load."""

from __future__ import annotations

import numpy as np

from oddswap.equivalence.evaluate import response
from oddswap.equivalence.loads import beside
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.profile import profile
from oddswap.equivalence.scoring import off_by
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import VariantMechanics, mechanics_of
from oddswap.errors import DomainError
from oddswap.mechanics.types import Floats

SECANTS = 6
"""Steps to the load that a leaning body carries."""
NEAR = 0.01
"""Part by which two steps differ where the load is found."""


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


def follows_load(set_up: SetUp) -> bool:
    """Whether the body's posture follows its load, so that the amount must be found step by step."""
    balance = set_up.support.balance
    return balance is not None and balance.held == "weight"


def carried_amount(prescription: PrescriptionProfile, set_up: SetUp, amounts: Floats) -> float:
    """The amount there is whose peak effort is nearest the prescription's, where the body's posture follows its load.

    By secants through the efforts of loads that were tried: each try balances the body anew.
    """
    tried = dict[float, float]()

    def effort(amount: float) -> float:
        if amount not in tried:
            try:
                tried[amount] = float(balanced_effort(prescription, set_up.with_amount(amount)).max())
            except DomainError:
                tried[amount] = np.inf  # no balance under so much
        return tried[amount]

    near = float(np.clip(set_up.sources[0].amount, amounts[0], amounts[-1]))
    far = float(np.clip(0.7 * near, amounts[0], amounts[-1]))
    for _ in range(SECANTS):
        rise = (effort(near) - effort(far)) / (near - far) if near != far else 0.0
        if not np.isfinite(rise) or rise <= 1e-6:
            near, far = float(np.clip(0.5 * (near + amounts[0]), amounts[0], amounts[-1])), near
            continue
        wanted = near + (prescription.relative_effort - effort(near)) / rise
        near, far = float(np.clip(wanted, amounts[0], amounts[-1])), near
        if abs(near - far) < NEAR * near:
            break
    below, above = beside(np.array(near), amounts)
    pair = sorted({float(amounts[below]), float(amounts[above])})
    off = off_by(np.log(np.maximum([effort(amount) for amount in pair], 1e-9) / prescription.relative_effort))
    return pair[int(np.argmin(off))]


def line_about_load(prescription: PrescriptionProfile, set_up: SetUp) -> tuple[Floats, Floats]:
    """Relative effort without and per unit of a load that the posture follows, (pose,) each: a line through two loads."""
    low, high = 0.8 * set_up.sources[0].amount, set_up.sources[0].amount
    light, heavy = (balanced_effort(prescription, set_up.with_amount(amount)) for amount in (low, high))
    slope = (heavy - light) / (high - low)
    return heavy - slope * high, slope
