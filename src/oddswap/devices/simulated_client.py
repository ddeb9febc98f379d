"""A client who ships with the app: hidden true strength, kit that is off, bad days, fatigue, and reserves told wrongly."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np


@dataclass(frozen=True)
class Effort:
    """A set as it is to be done, in the client's own terms.

    Args:
        line: Names the written lift.
        family: Names the kind of lift and kit.
        items: Ids of the kit items.
        own: Whether it is done as written.
        ratio: Computed effort at the load over the written set's.
        written: Strength that the written set stands for.
        low, high: Repetitions wanted at least and at most.
        reserve: Repetitions to be left.
        order: Place among the lift's sets of that day, from 0.
    """

    line: str
    family: str
    items: Sequence[str]
    own: bool
    ratio: float
    written: float
    low: int
    high: int
    reserve: int
    order: int = 0


@dataclass(frozen=True)
class Done:
    """What came of a set: repetitions and those left, as the client tells them."""

    reps: int
    reserve: int


@dataclass
class SimulatedClient:
    """Somebody who trains.

    Args:
        seed: Of the random numbers; the same seed does the same.
        kit: By item, what the kit of the place is truly off, a logarithm; what is not named is drawn.
        day_spread: Strength from day to day, a standard deviation of its logarithm.
        misses: Part of the days that are missed.
    """

    seed: int = 0
    kit: Mapping[str, float] = field(default_factory=dict)
    day_spread: float = 0.02
    misses: float = 0.1

    def __post_init__(self) -> None:
        self._random = np.random.default_rng(self.seed)
        self._strength: dict[str, float] = {}
        self._families: dict[str, float] = {}
        self._items: dict[str, float] = dict(self.kit)
        self._days: dict[int, float] = {}
        r = self._random
        self._growth = float(np.clip(r.normal(0.004, 0.004), -0.004, 0.012))
        self._tires = float(np.clip(r.normal(0.02, 0.01), 0.0, 0.05))
        self._slope = float(np.clip(r.normal(30.0, 1.5), 26.0, 34.0))
        self._bias = float(np.clip(r.normal(0.0, 0.4), -1.0, 1.0))

    def comes(self) -> bool:
        """Whether the client trains on a day that was planned."""
        return bool(self._random.random() >= self.misses)

    def strength(self, day: float, effort: Effort, daily: bool = True) -> float:
        """True strength in a lift on a day, as effort of one repetition over the written set's."""
        r = self._random
        at = self._strength.setdefault(effort.line, float(r.normal(0.0, 0.08)))
        off = 0.0
        if not effort.own:
            off = self._families.setdefault(effort.family, float(r.normal(0.0, 0.06)))
            off += sum(self._items.setdefault(i, float(r.normal(0.0, 0.06))) for i in effort.items)
        today = self._days.setdefault(int(day), float(r.normal(0.0, self.day_spread))) if daily else 0.0
        tired = self._tires * effort.order if daily else 0.0
        return effort.written * float(np.exp(at + off + self._growth * day / 7 + today - tired))

    def to_failure(self, day: float, effort: Effort, daily: bool = True) -> float:
        """Repetitions until nothing goes any more."""
        return max(0.0, self._slope * (self.strength(day, effort, daily) / effort.ratio - 1.0))

    def does(self, day: float, effort: Effort) -> Done:
        """A set: as many as seem to leave the reserve, no more than wanted by far; what is told may be off by two."""
        most = int(self.to_failure(day, effort))
        error = float(np.clip(self._bias + self._random.normal(0.0, 0.7), -2.0, 2.0))
        felt = most - effort.reserve + round(error)
        reps = int(np.clip(felt, 0, min(most, effort.high + 3)))
        told = max(0, round(most - reps + error))
        return Done(reps, min(told, 6))
