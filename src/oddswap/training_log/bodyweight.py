"""Bodyweight over time."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from oddswap.quantities import kg


def trend(weights: Sequence[tuple[float, float]], weeks: float = 6) -> tuple[float | None, str]:
    """Bodyweight change, kg a week, over the last weeks: the median of the slopes between weighings (Theil 1950, Sen 1968)."""
    if len(weights) < 3:
        return None, "three weighings show a trend"
    day, mass = np.array(sorted(weights), float).T
    late = day >= day[-1] - 7 * weeks
    day, mass = day[late], mass[late]
    i, j = np.triu_indices(len(day), 1)
    apart = day[j] - day[i]
    if not (apart > 3).any():
        return None, "weighings a few days apart show a trend"
    slope = float(np.median((mass[j] - mass[i])[apart > 3] / apart[apart > 3]) * 7)
    if abs(slope) < 0.05:
        return slope, "steady"
    return slope, f"{'gaining' if slope > 0 else 'losing'} {kg(abs(slope), 2)} a week"
