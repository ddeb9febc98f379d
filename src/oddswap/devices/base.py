"""What an instrument is: something that yields readings, one after the other, each with its time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np

from oddswap.mechanics.types import Floats

Unit = Literal["N", "deg"]
SETTLE = 2.0
"""Seconds until a usual hanging scale has forgotten what hung on it before (own estimate)."""


@dataclass(frozen=True)
class Reading:
    """One value of an instrument.

    Args:
        time: Seconds since it was switched on.
        value: In the instrument's unit; NaN where it dropped out.
    """

    time: float
    value: float


class Instrument(Protocol):
    """A hanging scale (newtons) or an angle finder (degrees)."""

    @property
    def unit(self) -> Unit:
        """Unit of every value."""

    def readings(self, seconds: float) -> Iterator[Reading]:
        """Readings of the next ``seconds``."""


def steady(readings: Sequence[Reading], settle: float = SETTLE) -> tuple[float, float, int]:
    """What an instrument shows while nothing moves: median, standard error and number of readings used.

    Readings of the first ``settle`` seconds are left out, because it lags; drop-outs are left out; readings over 4 robust
    deviations off the median (1.4826 times the median absolute deviation) do not count into the error.

    Raises:
        ValueError: If fewer than three readings are left.
    """
    times, values = as_arrays(readings)
    kept = values[(times >= times[0] + settle) & np.isfinite(values)] if len(times) else values
    if len(kept) < 3:
        raise ValueError("fewer than three readings are left after settling and drop-outs: hold longer")
    middle = float(np.median(kept))
    deviation = 1.4826 * float(np.median(np.abs(kept - middle)))
    good = kept[np.abs(kept - middle) <= 4 * max(deviation, 1e-9)]
    # Of a normal sample the mean of what is good is surer than the median.
    return float(good.mean()), float(good.std() / np.sqrt(len(good))), len(good)


def as_arrays(readings: Sequence[Reading]) -> tuple[Floats, Floats]:
    """Times, s, and values, (reading,) each."""
    return np.array([r.time for r in readings]), np.array([r.value for r in readings])
