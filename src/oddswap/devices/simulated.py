"""Stand-ins that ship with the app: a hanging scale and an angle finder with the faults of real ones."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

import numpy as np

from oddswap.devices.base import Reading, Unit


@dataclass
class Simulated:
    """An instrument that shows a hidden truth through noise, lag, drift and drop-outs.

    Args:
        truth: The true value at a time, s; may be changed between runs.
        unit: ``N`` or ``deg``.
        noise: Standard deviation of a reading.
        lag: Time constant of its filter, s.
        drift: How far its zero wanders a minute.
        drop_out: Part of the readings that are lost.
        spike: Part of the readings that are knocks, up to ten times the noise and 20 % of the value off.
        rate: Readings a second.
        seed: Of its random numbers; the same seed shows the same.
    """

    truth: Callable[[float], float]
    unit: Unit = "N"
    noise: float = 0.5
    lag: float = 0.25
    drift: float = 0.5
    drop_out: float = 0.05
    spike: float = 0.02
    rate: float = 10.0
    seed: int = 0
    time: float = 0.0
    _shown: float = field(default=0.0, repr=False)
    _random: np.random.Generator = field(init=False, repr=False)

    def __post_init__(self) -> None:
        self._random = np.random.default_rng(self.seed)
        self._wander = self._random.choice([-1.0, 1.0]) * self.drift / 60

    def readings(self, seconds: float) -> Iterator[Reading]:
        """See ``Instrument``; time goes on from run to run."""
        step = 1 / self.rate
        for _ in range(round(seconds * self.rate)):
            self.time += step
            self._shown += (self.truth(self.time) - self._shown) * (1 - np.exp(-step / self.lag) if self.lag else 1.0)
            value = self._shown + self._wander * self.time + self._random.normal(0.0, self.noise)
            chance = self._random.random()
            if chance < self.drop_out:
                value = np.nan
            elif chance < self.drop_out + self.spike:
                value += self._random.choice([-1.0, 1.0]) * (10 * self.noise + 0.2 * abs(self._shown))
            yield Reading(round(self.time, 3), float(value))
