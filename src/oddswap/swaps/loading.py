"""Loads: equal effort at the hardest point, rounded to what exists, reps restated."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.mechanics.types import Floats
from oddswap.swaps.match import rules


def equal_effort(own: Floats, per_unit: Floats, effort: float) -> Floats:
    """Amount at which the largest effort along the movement reaches ``effort``.

    Effort at a pose is linear in the amount, own + amount x per_unit, so the amount is the least over poses of
    (effort - own) / per_unit where per_unit is positive.

    Args:
        own: Effort from the limb's own weight, (pose,).
        per_unit: Effort per unit of amount, (..., pose).
        effort: The peak effort to reach.

    Returns:
        Amounts (...), infinite where the source does not load the target at all.
    """
    loads = per_unit > 1e-9
    amount = np.where(loads, (effort - own) / np.where(loads, per_unit, 1.0), np.inf)
    return np.asarray(np.maximum(amount.min(axis=-1), 0.0))


def peak_effort(own: Floats, per_unit: Floats, amount: Floats) -> Floats:
    """Largest effort along the movement at amounts (...), (..., pose) to (...)."""
    return np.asarray(np.maximum((own + amount[..., None] * per_unit).max(axis=-1), 1e-9))


def round_to_existing(wanted: Floats, own: Floats, per_unit: Floats, effort: float, existing: Floats) -> Floats:
    """Of the amounts that exist, the one beside ``wanted`` whose peak effort is nearer the aim, by ratio; (...).

    Too heavy counts more than too light: it costs repetitions where too light only adds some.
    """
    above = np.clip(np.searchsorted(existing, wanted - 1e-9), 0, len(existing) - 1)
    pair = existing[np.stack([np.maximum(above - 1, 0), above])]
    off = np.log(np.stack([peak_effort(own, per_unit, a) for a in pair]) / effort)
    off = np.where(off > 0, rules("loading")["rounding"]["heavier_counts"] * off, -off)
    # Of two equally far the lighter one, which comes first.
    return np.asarray(np.take_along_axis(pair, np.argmin(off, axis=0)[None], axis=0)[0])


def restated_reps(reps: int, rir: int, effort_ratio: float) -> int:
    """Reps at the same reserve when the effort of one rep is ``effort_ratio`` times the prescribed.

    Epley (1985), one-repetition maximum = load (1 + reps to failure / 30): the load at ratio r leaves
    30 ((1 + (reps + rir) / 30) / r - 1) - rir reps.
    """
    slope = rules("loading")["repetitions"]["slope"]
    to_failure: float = slope * ((1 + (reps + rir) / slope) / effort_ratio - 1)
    return round(to_failure - rir)


@dataclass(frozen=True)
class Load:
    """A converted load.

    Args:
        amount: What to take, an amount that exists.
        exact: Amount of equal effort before rounding; infinite when out of reach.
        low: Lower end of the conversion's uncertainty.
        high: Its upper end.
        first_time: What to take the first time, an amount that exists.
        first_time_rir: Repetitions to leave in reserve that time.
        effort_ratio: Peak effort over the prescription's, at ``amount``.
        reps_low: Restated fewest reps.
        reps_high: Restated most reps.
        step_down: Effort ratio of the next lower amount to this one, or None at the lightest.
        step_up: Effort ratio of the next higher amount to this one, or None at the heaviest.
    """

    amount: float
    exact: float
    low: float
    high: float
    first_time: float
    first_time_rir: int
    effort_ratio: float
    reps_low: int
    reps_high: int
    step_down: float | None
    step_up: float | None

    @property
    def reps_sensible(self) -> bool:
        """Whether the restated reps are worth doing."""
        law = rules("loading")["repetitions"]
        return bool(self.reps_low >= law["least"] and self.reps_high <= law["most"])


def convert(own: Floats, per_unit: Floats, effort: float, amount: float, existing: Floats, reps: tuple[int, int, int]) -> Load:
    """The full conversion of one placement.

    Args:
        own: Effort of the limb alone, (pose,).
        per_unit: Effort per unit of amount, (pose,).
        effort: Prescribed peak effort.
        amount: The rounded amount that was chosen.
        existing: Amounts that exist, ascending, (amount,).
        reps: Prescribed fewest and most reps, and reserve.
    """

    def at(a: float) -> float:
        return float(peak_effort(own, per_unit, np.array(a)))

    exact = float(equal_effort(own, per_unit, effort))
    rule = rules("loading")
    i = int(np.searchsorted(existing, amount - 1e-9))
    ratio = at(amount) / effort
    margin = rule["first_time"]
    lighter = existing[existing <= margin["factor"] * min(exact, amount) + 1e-9]
    steps_serve = len(lighter) > 0 and lighter[-1] >= margin["coarse"] * amount
    spread = rule["range"]["factor"]
    low, high, rir = reps
    return Load(
        amount=float(amount),
        exact=exact,
        low=exact * (1 - spread),
        high=exact * (1 + spread),
        first_time=float(lighter[-1]) if steps_serve else float(amount),
        first_time_rir=rir if steps_serve else rir + margin["extra_reserve"],
        effort_ratio=ratio,
        reps_low=restated_reps(low, rir, ratio),
        reps_high=restated_reps(high, rir, ratio),
        step_down=at(existing[i - 1]) / at(amount) if i > 0 else None,
        step_up=at(existing[i + 1]) / at(amount) if i + 1 < len(existing) else None,
    )
