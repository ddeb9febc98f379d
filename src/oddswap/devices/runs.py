"""Guided runs: from steady readings to a band's curve, a column's ratio, a cam's shape, a joint's real range.

Every result says how far its readings scatter, which of them are outliers, and whether to measure once more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.types import Bools, Floats

SMALL = 0.03
"""Spread of a measurement, part of its values, from which on it is good enough (own estimate)."""
OUTLIER = 3.5
"""Robust deviations from which on a reading is an outlier (Iglewicz and Hoaglin 1993)."""
FIRST_STRETCH = 1.02
SURE = 6e-3
"""Relative scatter under which no reading is called an outlier for being a little off (own estimate)."""


@dataclass(frozen=True)
class Fit:
    """Common to all runs.

    Args:
        residuals: What each reading is off the fit, in its unit, (reading,).
        outliers: Which do not count, (reading,).
        spread: Scatter of those that do, part of their size.
    """

    residuals: Floats
    outliers: Bools
    spread: float

    @property
    def good_enough(self) -> bool:
        """Whether the scatter is small; else measure once more."""
        return self.spread <= SMALL


@dataclass(frozen=True)
class BandFit(Fit):
    """A band's pull.

    Args:
        slack: Slack length, m.
        lengths: Lengths of the curve's points, m, (point,).
        forces: Pull there, N, (point,).
    """

    slack: float
    lengths: Floats
    forces: Floats


@dataclass(frozen=True)
class ColumnFit(Fit):
    """A column's ratio (handle force over stack weight), its friction, and a steady part, N."""

    ratio: float
    friction: float
    offset: float


@dataclass(frozen=True)
class CamFit(Fit):
    """How a machine's resistance runs: parts of its mean at even parts of the travel, (point,), and the mean radius, m."""

    shape: Floats
    radius: float


@dataclass(frozen=True)
class RangeFit(Fit):
    """Both ends of a joint's range, degrees, and how many repetitions were seen."""

    low: float
    high: float
    repetitions: int


def fit_band(lengths: Any, forces: Any, zeros: Any = 0.0) -> BandFit:
    """A band's pull from readings at several lengths, each once or more.

    F = (a + b / x + c x^2 + d x^4) (x - 1 / x^2), x = length / slack length: rubber elasticity with the second term of Mooney
    (1940) and two for the steep end; linear in its factors, so that only the slack length is searched. Outliers are found by
    robust deviations, of repeated readings from each other where there are three of each, and left out.

    Args:
        lengths: m, (reading,).
        forces: N, (reading,).
        zeros: What the scale showed unloaded at the time, N, (reading,) or one value.

    Raises:
        DomainError: For fewer than five readings or three lengths.
    """
    at, pull = np.asarray(lengths, float), np.asarray(forces, float) - zeros
    if len(at) < 5 or len(np.unique(np.round(at, 3))) < 3:
        raise DomainError("readings", len(at), "at least five readings at three lengths", "Measure more lengths")
    # Relative errors count, with a floor where the scale's own noise is what limits.
    weights = 1 / np.maximum(np.abs(pull), 0.04 * np.abs(pull).max())
    repeats = [np.flatnonzero(np.isclose(at, length, atol=2e-3)) for length in np.unique(np.round(at, 3))]
    own = np.concatenate([(pull[r] - np.median(pull[r])) * weights[r] for r in repeats])
    order = np.concatenate(repeats)
    if min(len(r) for r in repeats) >= 3:
        # Readings at one length are held against each other, so that a curve that bends otherwise makes no outlier.
        deviation = 1.4826 * float(np.median(np.abs(own)))
        good = np.ones(len(at), bool)
        good[order] = np.abs(own) <= 2 * OUTLIER * max(deviation, SURE)
    else:
        good = np.ones(len(at), bool)
        slack, factors = _rubber(at, pull, weights)
        scaled = (pull - _pull(at, slack, factors)) * weights
        good = np.abs(scaled) <= 2 * OUTLIER * max(1.4826 * float(np.median(np.abs(scaled))), SURE)
    slack, factors = _rubber(at[good], pull[good], weights[good])
    residuals = pull - _pull(at, slack, factors)
    scaled = residuals * weights
    curve = np.unique(np.concatenate([[slack], np.linspace(max(slack * FIRST_STRETCH, at.min()), at.max(), 13)]))
    values = np.maximum.accumulate(np.maximum(_pull(curve, slack, factors), 0.0))
    values[0] = 0.0
    spread = float(np.sqrt(np.mean(scaled[good] ** 2)))
    return BandFit(residuals, ~good, spread, slack, curve, values)


def _terms(positions: Floats, slack: float) -> Floats:
    x = np.maximum(positions / slack, 1.0)
    return np.asarray(np.stack([np.ones_like(x), 1 / x, x**2, x**4 / 10], axis=-1) * (x - x**-2)[:, None])


def _pull(positions: Floats, slack: float, factors: Floats) -> Floats:
    return np.asarray(_terms(positions, slack) @ factors)


def _rubber(positions: Floats, pull: Floats, weights: Floats) -> tuple[float, Floats]:
    """Slack length and factors of the least squares fit; the slack length by two grids."""

    def tried(slack: float) -> tuple[float, Floats]:
        rows = _terms(positions, slack) * weights[:, None]
        # A little damping keeps the like terms apart where few lengths were measured.
        damp = 1e-5 * np.eye(4) * np.linalg.norm(rows) / np.sqrt(len(positions))
        factors = np.linalg.lstsq(np.vstack([rows, damp]), np.concatenate([pull * weights, np.zeros(4)]), rcond=None)[0]
        return float(np.sum((rows @ factors - pull * weights) ** 2)), factors

    low, high = 0.55 * positions.min(), positions.min()
    for _ in range(3):
        grid = np.linspace(low, high, 31)
        costs = [tried(s)[0] for s in grid]
        best = int(np.argmin(costs))
        low, high = grid[max(best - 1, 0)], grid[min(best + 1, 30)]
    slack = float(grid[best])
    return slack, tried(slack)[1]


def fit_column(pins: Any, up: Any, down: Any, zeros: Any = 0.0) -> ColumnFit:
    """Ratio and friction from steady forces at the handle while the stack slowly rises and sinks, at several pins.

    up = g r (1 + f) m + c and down = g r (1 - f) m + c; straight lines by least squares without outliers.

    Args:
        pins: kg on the stack, (reading,).
        up: Force while it rises, N, (reading,).
        down: Force while it sinks, N, (reading,).
        zeros: What the scale showed unloaded, N.

    Raises:
        DomainError: For fewer than three pins.
    """
    mass, rising, sinking = np.asarray(pins, float), np.asarray(up, float) - zeros, np.asarray(down, float) - zeros
    if len(np.unique(mass)) < 3:
        raise DomainError("pins", len(np.unique(mass)), "at least three different pins", "Measure more pins")
    none, one = np.zeros_like(mass), np.ones_like(mass)
    rows = np.concatenate([np.stack([mass, none, one], -1), np.stack([none, mass, one], -1)])
    force = np.concatenate([rising, sinking])
    good = np.ones(len(force), bool)
    for _ in range(4):
        slopes = np.linalg.lstsq(rows[good], force[good], rcond=None)[0]
        residuals = force - rows @ slopes
        deviation = 1.4826 * float(np.median(np.abs(residuals[good])))
        kept = np.abs(residuals) <= OUTLIER * max(deviation, 0.3)
        if (kept == good).all() or kept.sum() < 4:
            break
        good = kept
    ratio, friction = (slopes[0] + slopes[1]) / (2 * GRAVITY), (slopes[0] - slopes[1]) / (slopes[0] + slopes[1])
    spread = float(np.sqrt(np.mean(residuals[good] ** 2)) / np.abs(force[good]).mean())
    return ColumnFit(residuals, ~good, spread, float(ratio), float(max(friction, 0.0)), float(slopes[2]))


def fit_cam(angles: Any, forces: Any, stack_kg: float, arm: float, points: int = 7) -> CamFit:
    """A cam or lever curve from handle forces at several angles of the arm, square to it.

    radius = force x arm / (stack x g); smoothed by a polynomial in the part of the travel, of low degree.

    Args:
        angles: degrees, (reading,).
        forces: N, (reading,).
        stack_kg: Pin, kg.
        arm: Handle to axis, m.
        points: Points of the curve.

    Raises:
        DomainError: For fewer than five angles.
    """
    angle, force = np.asarray(angles, float), np.asarray(forces, float)
    if len(np.unique(np.round(angle))) < 5:
        raise DomainError("angles", len(angle), "at least five angles", "Measure more angles along the travel")
    radius = force * arm / (stack_kg * GRAVITY)
    part = (angle - angle.min()) / np.ptp(angle)
    good = np.ones(len(angle), bool)
    degree = min(4, len(np.unique(np.round(angle))) - 2)
    for _ in range(4):
        curve = np.polynomial.chebyshev.Chebyshev.fit(part[good], radius[good], degree, domain=[0, 1])
        residuals = radius - curve(part)
        deviation = 1.4826 * float(np.median(np.abs(residuals[good])))
        kept = np.abs(residuals) <= OUTLIER * max(deviation, 0.003 * float(np.median(radius)))
        if (kept == good).all() or kept.sum() < degree + 2:
            break
        good = kept
    values = curve(np.linspace(0, 1, points))
    mean = float(values.mean())
    spread = float(np.sqrt(np.mean(residuals[good] ** 2)) / mean)
    return CamFit(residuals / radius.mean() * force.mean(), ~good, spread, np.asarray(values / mean), mean)


def fit_range(times: Any, angles: Any) -> RangeFit:
    """Ends of a joint's range from its angle over several repetitions: the medians of the turning points.

    Args:
        times: s, (reading,).
        angles: degrees, (reading,); NaN where the instrument dropped out.

    Raises:
        DomainError: If no whole repetition is seen.
    """
    time, angle = np.asarray(times, float), np.asarray(angles, float)
    seen = np.isfinite(angle)
    time, angle = time[seen], angle[seen]
    if len(angle) < 10:
        raise DomainError("readings", len(angle), "at least ten readings", "Record a few whole repetitions")
    # A running median of five takes out knocks, and hardly rounds a turn.
    windows = np.lib.stride_tricks.sliding_window_view(np.pad(angle, 2, mode="edge"), 5)
    smooth = np.median(windows, axis=1)
    middle, size = (smooth.max() + smooth.min()) / 2, np.ptp(smooth)
    if size < 10:
        limit = "a movement of at least 10 degrees"
        raise DomainError("readings", round(float(size), 1), limit, "Move through the whole range")
    # A turn counts between two crossings of the middle band, so that noise there makes no repetition.
    state, turns, start = 0, [], 0
    for i, value in enumerate(smooth):
        side = 1 if value > middle + 0.15 * size else -1 if value < middle - 0.15 * size else state
        if side != state:
            if state:
                turns.append((state, smooth[start:i]))
            state, start = side, i
    turns.append((state, smooth[start:]))
    lows = [float(part.min()) for side, part in turns if side < 0]
    highs = [float(part.max()) for side, part in turns if side > 0]
    if not lows or not highs:
        raise DomainError("readings", len(turns), "at least one whole repetition", "Record a few whole repetitions")
    low, high = float(np.median(lows)), float(np.median(highs))
    scatter = np.concatenate([np.array(lows) - low, np.array(highs) - high])
    spread = float(np.sqrt(np.mean(scatter**2)) / (high - low))
    return RangeFit(angle - smooth, np.abs(angle - smooth) > 6, spread, low, high, min(len(lows), len(highs)))


def repeat_advice(fit: Fit, unit: str, reading_names: Sequence[str] = ()) -> str:
    """What to do next, in words."""
    odd = [reading_names[i] if i < len(reading_names) else str(i + 1) for i in map(int, np.flatnonzero(fit.outliers))]
    named = ", ".join(odd) if len(odd) <= 5 else f"{len(odd)} readings"
    left = f" Left out as outliers: {named}." if odd else ""
    if fit.good_enough:
        return f"Readings scatter by {fit.spread:.1%}: good enough.{left}"
    return f"Readings scatter by {fit.spread:.1%}, over {SMALL:.0%}: measure once more, slowly, and hold still.{left}"
