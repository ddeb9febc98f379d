"""A set as it was done, and the strength it shows: on one scale, whatever the kit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from oddswap.equivalence.conversion import one_repetition_maximum, repetitions_at
from oddswap.mechanics.types import Floats


@dataclass(frozen=True, eq=False)
class EffortScale:
    """What amounts ask, over what the written set asks; kept with a card, so that a log needs no engine.

    Args:
        amounts: Of the set-up in use, ascending, in its unit, (amount,).
        ratios: Peak effort at them over the written set's, (amount,).
        written_amounts: Of the written lift, ascending, in its unit, (written,).
        written_ratios: Peak effort at them over the written set's, (written,).
    """

    amounts: Floats
    ratios: Floats
    written_amounts: Floats
    written_ratios: Floats

    def ratio_at(self, amount: float) -> float:
        """Effort over the written set's at an amount."""
        return _read(amount, self.amounts, self.ratios)

    def amount_at(self, ratio: float) -> float:
        """Amount in use that asks so many times the written effort."""
        return _read(ratio, self.ratios, self.amounts)

    def written_at(self, ratio: float) -> float:
        """Amount of the written lift that asks so many times the written effort."""
        return _read(ratio, self.written_ratios, self.written_amounts)

    @property
    def loads(self) -> bool:
        """Whether amounts make a difference: not where the body alone is the load."""
        return len(self.amounts) > 1 and bool(self.ratios[-1] > self.ratios[0] * (1 + 1e-6))


def _read(x: float, xs: Floats, ys: Floats) -> float:
    """A straight reading between points, and on past both ends; never under nothing."""
    if len(xs) == 1 or xs[-1] - xs[0] < 1e-12:
        return float(ys[0])
    i = int(np.clip(np.searchsorted(xs, x), 1, len(xs) - 1))
    run = max(xs[i] - xs[i - 1], 1e-12)
    return max(float(ys[i - 1] + (ys[i] - ys[i - 1]) * (x - xs[i - 1]) / run), 1e-6)


@dataclass(frozen=True)
class Target:
    """What is written of a set: fewest and most repetitions, those in reserve, and whether as many as can be are wanted."""

    low: int
    high: int
    rir: int
    amrap: bool = False

    @property
    def middle(self) -> float:
        """Repetitions in the middle of the range."""
        return (self.low + self.high) / 2


@dataclass(frozen=True, eq=False)
class LoggedSet:
    """A set as it was done.

    Args:
        day: Days since an origin of the caller's; sets of one day are one session.
        line: Names the written line.
        family: Names the kind of lift and kit, as ``lift_of`` does.
        items: Ids of the kit items it was done on, of all places.
        own: Whether it was done as written, on the written kit: then nothing is to be learned of the kit.
        scale: What amounts ask.
        amount: What was moved, in the scale's unit.
        reps: Whole repetitions; of two sides the fewer.
        written: What is written of the line.
        rir: Repetitions that were left, as told; None where none were told.
        order: Place among the lift's sets of that day, from 0.
        left, right: Repetitions of the sides, where they were counted.
        known: Whether the items' figures were measured.
        id: Names the entry it was read from.
        counts: Whether it was meant at the lift's own load, so that next time follows from it; back-off sets and those of an
            easy week only show strength.
    """

    day: float
    line: str
    family: str
    items: Sequence[str]
    own: bool
    scale: EffortScale
    amount: float
    reps: int
    written: Target
    rir: int | None = None
    order: int = 0
    left: int | None = None
    right: int | None = None
    known: bool = True
    id: str = ""
    law: str = field(default="epley")
    counts: bool = True

    @property
    def to_failure(self) -> float:
        """Repetitions that it could have been; without a told reserve the written one is taken."""
        return self.reps + (self.written.rir if self.rir is None else self.rir)

    @property
    def shown(self) -> float:
        """Strength it shows: effort of one repetition that could be done once, over the written set's effort."""
        return one_repetition_maximum(self.scale.ratio_at(self.amount), self.to_failure, self.law)


def written_strength(target: Target, law: str = "epley") -> float:
    """Strength that a written set stands for, in the middle of its range, as ``LoggedSet.shown`` counts it."""
    return one_repetition_maximum(1.0, target.middle + target.rir, law)


def written_load(one: LoggedSet, off: float = 0.0) -> float:
    """The load that would ask as much of the client in the written lift at its written repetitions, in its unit.

    A set of more repetitions than written stands for more load, by the law of repetitions; where the body is the load, the
    body's part is in the efforts.

    Args:
        one: The set.
        off: What kit and kind of lift are known to be off what is computed, a logarithm, as ``Lesson.correction`` tells it.
    """
    return one.scale.written_at(one.shown * float(np.exp(-off)) / written_strength(one.written, one.law))


def repetitions_of(strength: float, ratio: float, reserve: float, law: str = "epley") -> float:
    """Repetitions at a reserve that a strength gives at an effort ratio; may be under nothing where it is too heavy."""
    return repetitions_at(ratio, strength, law) - reserve
