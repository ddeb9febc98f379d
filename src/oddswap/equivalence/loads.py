"""Loads of equal effort, and what exists of them: the one place where effort is solved for an amount."""

from __future__ import annotations

import numpy as np

from oddswap.equivalence.scoring import off_by
from oddswap.mechanics.arm import greatest
from oddswap.mechanics.types import Floats, Ints

LEAST_MARGIN = 1e-4
"""Relative effort that is left to a source where the rest asks for all of it already: the amount is then next to none."""
LOADS_NOTHING = 1e-9
"""Relative effort per unit of amount under which a source does not load the target."""


def equal_effort(own: Floats, per_unit: Floats, effort: Floats | float, axis: int = -1) -> Floats:
    """Amount at which the largest relative effort along the movement reaches ``effort``.

    Relative effort at a pose is linear in the amount, own + amount x per_unit, so the amount is the least over poses of
    (effort - own) / per_unit where per_unit is positive; its inverse is the greatest of per_unit / (effort - own).

    Args:
        own: Relative effort without the source, with poses on ``axis``, broadcast against ``per_unit``.
        per_unit: Relative effort per unit of amount, (..., pose) or with poses on another axis.
        effort: The peak to reach, broadcast against ``own``.
        axis: Where poses stand.

    Returns:
        Amounts, the shape without poses; infinite where the source does not load the target at all.
    """
    pressing = greatest(per_unit * (1.0 / np.maximum(effort - own, np.float32(LEAST_MARGIN))), axis)
    loads = pressing > LOADS_NOTHING
    return np.asarray(np.where(loads, 1.0 / np.where(loads, pressing, 1.0), np.inf))


def peak_effort(own: Floats, per_unit: Floats, amount: Floats, axis: int = -1) -> Floats:
    """Largest relative effort along the movement at amounts (...).

    Args:
        own: Relative effort without the source, with poses on ``axis``.
        per_unit: Relative effort per unit of amount, with poses on ``axis``.
        amount: Amounts, the shape without poses.
        axis: Where poses stand.
    """
    return np.asarray(np.maximum(greatest(own + np.expand_dims(amount, axis) * per_unit, axis), np.float32(1e-9)))


def beside(wanted: Floats, existing: Floats) -> tuple[Ints, Ints]:
    """Places in an ascending list of amounts of the one at or below and the one at or above ``wanted``, (...) each."""
    above = np.minimum(np.searchsorted(existing, wanted - 1e-9), len(existing) - 1)
    return np.maximum(above - 1, 0), above


def place_below(existing: Floats, bearable: Floats | float) -> Ints:
    """Place in an ascending list of amounts of the heaviest that is less than is ``bearable``, (...); -1 where none is."""
    return np.asarray(np.searchsorted(existing, np.asarray(bearable) - 1e-9, side="left") - 1)


def round_to_existing(wanted: Floats, own: Floats, per_unit: Floats, effort: float, existing: Floats) -> Floats:
    """Of the amounts that exist, the one beside ``wanted`` whose peak effort is nearer the aim, by ratio; (...).

    Args:
        wanted: Exact amounts, (...).
        own: Relative effort without the source, (pose,) or (..., pose).
        per_unit: Relative effort per unit of amount, (..., pose).
        effort: The peak to reach.
        existing: What there is, ascending, (amount,).
    """
    pair = existing[np.stack(beside(wanted, existing))]
    off = off_by(np.log(peak_effort(own, per_unit, pair) / effort))
    # Of two equally far the lighter one, which comes first.
    return np.asarray(np.take_along_axis(pair, np.argmin(off, axis=0)[None], axis=0)[0])
