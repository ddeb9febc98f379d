"""A line against a reach table: comparison of curves that are known already, all rows at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.motion import BINS
from oddswap.mechanics.types import Bools, Floats, Ints
from oddswap.swaps.kit import bother
from oddswap.swaps.match import Lens, Measured, parts_of, steadiness_of, weigh
from oddswap.swaps.table import SPANS, Rows, Table
from oddswap.swaps.trial import Aim

LOOKED_AT = 4000
"""Rows, best first, that a search looks through."""
FAR_APART = 1e6
"""Kilograms between the amounts of two sources when all are searched as one list."""


@dataclass(frozen=True)
class Ranking:
    """A line compared with all rows of a table for its target; all (row,).

    Args:
        table: The table.
        rows: Its rows for the target.
        match: 0 to 100, below zero where it cannot be.
        amount: The rounded amount of equal effort.
    """

    table: Table
    rows: Rows
    match: Floats
    amount: Floats

    def best(self, count: int = LOOKED_AT) -> Ints:
        """The best rows first."""
        count = min(count, len(self.match))
        top = np.argpartition(-self.match, count - 1)[:count] if count else np.zeros(0, int)
        order: Ints = top[np.argsort(-self.match[top], kind="stable")]
        return order[self.match[order] > 0]


def rank(table: Table, aim: Aim, by: Lens, allowed: Bools | None = None, one_side: bool = False) -> Ranking:
    """Compare a line with every set-up of a table for its target: no pose is computed here.

    Args:
        table: The place's reach table for this client.
        aim: The line's demand.
        by: The lens.
        allowed: Which of the table's ways may be offered, (way,); None for all.
        one_side: Whether only one-sided lifts are wanted.
    """
    rows = table.rows.get(aim.line.target)
    if rows is None:
        raise DomainError("kit", [k.id for k in table.place.kit], f"something here must load the {aim.group.name}", "Add kit")
    judging = judging_of(table)
    ends = judging.ends
    # Amounts of all sources stand in one ascending list, each source's far from the next one's.
    inverse = (rows.unit * (1.0 / np.maximum(aim.effort - rows.own, 1e-4))).max(axis=-1)
    wanted = np.where(inverse > 1e-9, 1.0 / np.maximum(inverse, 1e-9), 0.0)
    offset = FAR_APART * rows.source
    above = np.searchsorted(judging.amounts, offset + np.minimum(wanted, FAR_APART / 2) - 1e-6)
    above = np.minimum(above, ends[rows.source + 1] - 1)
    below = np.maximum(above - 1, ends[rows.source])
    pair = np.stack([judging.amounts[below], judging.amounts[above]]) - offset
    peak = np.maximum((rows.own + pair[..., None] * rows.unit).max(axis=-1), 1e-9)
    off = np.log(peak / aim.effort)
    off = np.where(off > 0, 2 * off, -off)
    heavier = off[1] < off[0]
    amount, ratio = np.where(heavier, pair[1], pair[0]), np.where(heavier, peak[1], peak[0]) / aim.effort
    shape = np.maximum(0.0, rows.shape_own + amount[:, None] * rows.shape_unit)
    at = np.where(heavier, above, below)
    safe = np.maximum(amount, 1e-9)
    following = judging.amounts[np.minimum(at + 1, ends[rows.source + 1] - 1)] - offset
    most = judging.amounts[ends[rows.source + 1] - 1] - offset
    steady, costs = judging.steady[rows.way, rows.source], judging.bother[rows.way, rows.source]
    measured = Measured(shape, ratio, steady, following / safe, most / safe, costs)
    prescribed = aim.shape.reshape(SPANS, BINS // SPANS).sum(axis=-1)
    parts = parts_of(measured, prescribed, aim.steadiness, aim.group.id, by.weights)
    match = weigh(parts, np.minimum(1.0, rows.share / aim.share), by)
    kept = (amount <= rows.hold) & (ratio > 1e-3)
    if allowed is not None:
        kept &= allowed[rows.way]
    if one_side:
        kept &= ~judging.both[rows.way, rows.source]
    return Ranking(table, rows, np.where(kept, match, -1.0), amount)


@dataclass(frozen=True)
class Judging:
    """What ranking needs of a table's ways and sources beside its rows.

    Args:
        amounts: Of all sources, ``FAR_APART`` from one to the next, ascending.
        ends: Where each source's begin, (source + 1,).
        steady: How steady each way is with each source, (way, source).
        bother: What setting up costs, (way, source).
        both: Whether both sides work, (way, source).
    """

    amounts: Floats
    ends: Ints
    steady: Floats
    bother: Floats
    both: Bools


def judging_of(table: Table) -> Judging:
    """Made once a table."""
    made = table.__dict__.get("_judging")
    if made is None:
        lists = [s.amounts for s in table.sources]
        ends = np.concatenate([[0], np.cumsum([len(a) for a in lists])])
        amounts = np.concatenate([a + FAR_APART * i for i, a in enumerate(lists)])
        steady, costs = (np.zeros((len(table.ways), len(table.sources))) for _ in range(2))
        both = np.array([[s.both and w.both for s in table.sources] for w in table.ways])
        known: dict[object, tuple[float, float]] = {}
        for i, w in enumerate(table.ways):
            for k, s in enumerate(table.sources):
                kind = getattr(s.item, "kind", "")
                key = (i, kind, bool(both[i, k]))
                if key not in known:
                    value = steadiness_of(w.variant.stance, w.variant.pad, bool(both[i, k]), [kind])
                    known[key] = value, 0.0 if s.item is None else bother(s.item, w)
                steady[i, k], costs[i, k] = known[key]
        made = Judging(amounts, ends, steady, costs, both)
        table.__dict__["_judging"] = made
    return made
