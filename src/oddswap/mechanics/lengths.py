"""Values along a path sorted into bins of a muscle's normalised length."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from oddswap.mechanics.types import Floats

BINS = 120
"""Bins of a target's normalised length."""

FINE = 16
"""Steps between two poses when values along a path are sorted into bins of length."""


def bin_matrices(length: Floats, edges: Sequence[int]) -> Floats:
    """Matrices (path, span, pose) that turn values along a path into totals over bins of normalised length.

    A value's mean in each of the ``BINS`` bins is summed over the bins of every span between two ``edges``; bins that a path
    does not reach count zero. Between poses values are linear.

    Args:
        length: Normalised lengths, (way, pose).
        edges: Bins where spans begin and end, ascending, (span + 1,).
    """
    count, poses = length.shape
    fine = np.linspace(0, poses - 1, FINE * poses)
    low = np.minimum(fine.astype(int), poses - 2)
    part = fine - low
    where = ((length[:, low] * (1 - part) + length[:, low + 1] * part) * BINS).astype(int)
    where = np.clip(where, 0, BINS - 1)
    flat = where + BINS * np.arange(count)[:, None]
    weight = 1.0 / np.bincount(flat.ravel(), minlength=count * BINS)[flat]
    spans = len(edges) - 1
    span = np.searchsorted(np.asarray(edges), where, side="right") - 1
    cell = ((spans * np.arange(count)[:, None] + span) * poses + low).ravel()
    out = np.bincount(cell, (weight * (1 - part)).ravel(), count * spans * poses)
    out += np.bincount(cell + 1, (weight * part).ravel(), count * spans * poses)
    return np.asarray(out.reshape(count, spans, poses))
