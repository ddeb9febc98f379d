"""Monotone piecewise cubic interpolation (PCHIP) in NumPy, so that the core needs no more than NumPy."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.types import Floats


def slopes(x: Floats, y: Floats) -> Floats:
    """Slopes at the nodes (node,) that keep the curve monotone between them.

    Weighted harmonic means inside, one-sided three-point rule at the ends (Fritsch and Butland 1984; Fritsch and Carlson
    1980).
    """
    h, d = np.diff(x), np.diff(y) / np.diff(x)
    if len(d) == 1:
        return np.array([d[0], d[0]])
    out = np.zeros_like(y)
    w1, w2 = 2 * h[1:] + h[:-1], h[1:] + 2 * h[:-1]
    same = d[:-1] * d[1:] > 0
    safe = np.where(same, d[:-1], 1.0), np.where(same, d[1:], 1.0)
    out[1:-1] = np.where(same, (w1 + w2) / (w1 / safe[0] + w2 / safe[1]), 0.0)
    for i, (ha, hb, da, db) in [(0, (h[0], h[1], d[0], d[1])), (-1, (h[-1], h[-2], d[-1], d[-2]))]:
        end = ((2 * ha + hb) * da - ha * db) / (ha + hb)
        if end * da <= 0:
            end = 0.0
        elif da * db <= 0 and abs(end) > 3 * abs(da):
            end = 3 * da
        out[i] = end
    return out


def interpolate(x: Floats, y: Floats, where: Floats) -> Floats:
    """The curve through nodes (x, y), (node,), at points (...); held constant outside the nodes."""
    m, h = slopes(x, y), np.diff(x)
    rise = np.diff(y)
    # Each span's cubic in powers of the part of the span passed.
    terms = y[:-1], h * m[:-1], 3 * rise - h * (2 * m[:-1] + m[1:]), h * (m[:-1] + m[1:]) - 2 * rise
    where = np.clip(where, x[0], x[-1])
    i = np.minimum(np.searchsorted(x, where, side="right") - 1, len(x) - 2)  # at least 0, as points lie within the nodes
    t = (where - x[i]) / h[i]
    out = terms[3][i]
    for term in terms[2::-1]:
        out = out * t + term[i]
    return np.asarray(out)
