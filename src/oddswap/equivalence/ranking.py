"""A line against a reach table: comparison of curves that are known already, all rows at once."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, fields
from typing import Any

import numpy as np

from oddswap.equivalence.evaluate import Aim
from oddswap.equivalence.index import SPANS, Rows, Source, Table
from oddswap.equivalence.kit import bother
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.scoring import Measured, Wanted, off_by, own_peak, parts_of, steadiness_of, weigh
from oddswap.equivalence.variants import Way
from oddswap.errors import DomainError
from oddswap.mechanics.motion import BINS
from oddswap.mechanics.types import Bools, Floats, Ints, Singles

LEAST_SHARE = 0.5
"""Part of the target's share in the prescription under which a set-up is looked at only where there is little else."""
LIKELY = 600
"""Rows, best first, whose amounts are rounded to what exists, and that a search looks through."""
TOGETHER = 6
"""Lines for the same muscle that are compared together: few enough to stay in the processor's near memory."""
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

    def best(self, count: int = LIKELY) -> Ints:
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

    Raises:
        DomainError: Where nothing of the table loads the target.
    """
    return _rank(table, [aim], by, allowed, one_side)[0]


def rank_many(table: Table, aims: Sequence[Aim], by: Lens) -> list[Ranking]:
    """``rank`` for many lines: those for the same muscle together, two muscles at a time."""
    alike: dict[str, list[int]] = {}
    for i, aim in enumerate(aims):
        alike.setdefault(aim.line.target, []).append(i)
    batches = [where[k : k + TOGETHER] for where in alike.values() for k in range(0, len(where), TOGETHER)]
    out: list[Ranking | None] = [None] * len(aims)
    with ThreadPoolExecutor(2) as pool:
        for where, found in zip(batches, pool.map(lambda b: _rank(table, [aims[i] for i in b], by), batches), strict=True):
            for i, ranking in zip(where, found, strict=True):
                out[i] = ranking
    return [r for r in out if r is not None]


def _rank(table: Table, aims: Sequence[Aim], by: Lens, allowed: Bools | None = None, one_side: bool = False) -> list[Ranking]:
    """``rank`` for lines with the same target."""
    name, target = aims[0].group.name, aims[0].line.target
    rows = table.rows.get(target)
    if rows is None:
        raise DomainError("kit", [k.id for k in table.place.kit], f"something here must load the {name}", "Add kit")
    c = columns_of(table, target)
    effort = np.array([a.effort for a in aims], np.float32)[:, None]
    share = np.array([a.share for a in aims], np.float32)[:, None]
    # Rows stand by share: where other muscles carry most of what the target carries in the prescription, it is no equivalent.
    enough = int(np.searchsorted(-c.share, -LEAST_SHARE * float(share.min()), side="right"))
    c = c.head(max(enough, min(LIKELY, len(rows))))
    spans: Singles = np.stack([a.shape.reshape(SPANS, BINS // SPANS).sum(axis=-1) for a in aims]).astype(np.float32)
    steady: Singles = np.array([a.steadiness for a in aims], np.float32)[:, None]
    wanted = Wanted(own_peak(spans)[..., None], steady, target)

    def judged(where: Any, amount: Floats, ratio: Floats, following: Floats, most: Floats) -> Floats:
        """Match of rows (row,) or of each line's own (line, row), without a look at limits; (line, row)."""
        shape = np.moveaxis(c.shape_unit[:, where], 0, -2) * amount[:, None]
        shape += np.moveaxis(c.shape_own[:, where], 0, -2)
        np.maximum(shape, 0, out=shape)
        shape /= np.maximum(shape.max(axis=-2, keepdims=True), np.float32(1e-9))
        measured = Measured(shape, ratio, c.steady[where], following, most, c.bother[where])
        return weigh(parts_of(measured, wanted, by.weights, axis=-2), np.minimum(1, c.share[where] / share), by)

    pressing = c.unit / np.maximum(effort[..., None] - c.own, np.float32(1e-4))
    inverse = pressing.max(axis=1)
    # First as if there were every amount between the least and the most, then what is likely with the amounts there are.
    amount = np.clip(1 / np.maximum(inverse, np.float32(1e-9)), c.least, c.most)
    lean = np.array([a.lean for a in aims], np.float32)[:, None]
    kept = amount <= c.hold * lean
    if allowed is not None:
        kept &= allowed[rows.way[: kept.shape[1]]]
    if one_side:
        kept &= ~c.both
    ratio = np.where(inverse > 1e-9, amount * inverse, c.body / effort)
    safe = np.maximum(amount, np.float32(1e-9))
    match = np.where(kept, judged(slice(None), amount, ratio, np.ones_like(safe), c.most / safe), np.float32(-1))
    few = min(LIKELY, match.shape[1])
    likely = np.argpartition(-match, few - 1, axis=1)[:, :few]
    line = np.arange(len(aims))[:, None]
    # Amounts of all sources stand in one ascending list, each source's far from the next one's.
    offset, first, last = c.offset[likely], c.first[likely], c.last[likely]
    above = np.minimum(np.searchsorted(c.amounts, offset + amount[line, likely] - 1e-6), last)
    below = np.maximum(above - 1, first)
    pair = (np.stack([c.amounts[below], c.amounts[above]]) - offset).astype(np.float32)
    ratios = np.maximum((c.own[:, likely] + pair[:, None] * c.unit[:, likely]).max(axis=1) / effort, np.float32(1e-9))
    off = off_by(np.log(ratios))
    heavier = off[1] < off[0]
    rounded, at = np.where(heavier, pair[1], pair[0]), np.where(heavier, above, below)
    safe = np.maximum(rounded, np.float32(1e-9))
    following, most = c.amounts[np.minimum(at + 1, last)] - offset, c.amounts[last] - offset
    exact = judged(likely, rounded, np.where(heavier, ratios[1], ratios[0]), following / safe, most / safe)
    exact = np.where(kept[line, likely] & (rounded <= c.hold[likely] * lean), exact, -1)
    match -= np.float32(100)  # what was not looked at again stands behind what was
    match[line, likely] = exact
    amount[line, likely] = rounded
    near = rows.taken(slice(0, match.shape[1]))
    return [Ranking(table, near, match[i], amount[i]) for i in range(len(aims))]


@dataclass(frozen=True)
class Columns:
    """A muscle group's rows as ranking reads them: poses and spans first, and what way and source add to each row.

    Args:
        own: Effort of the body alone, (pose, row).
        unit: Effort per unit of amount, (pose, row).
        shape_own: (span, row).
        shape_unit: (span, row).
        amounts: Of all sources, ``FAR_APART`` from one to the next, ascending.
        offset: Where each row's source begins there, kg.
        first: Place of its first amount, (row,).
        last: Place of its last one, (row,).
        steady: How steady the body is held, (row,).
        bother: What setting up costs, (row,).
        both: Whether both sides work, (row,).
        least: Least amount, (row,).
        most: Greatest amount, (row,).
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
        body: Greatest effort of the body alone, (row,).
    """

    own: Singles
    unit: Singles
    shape_own: Singles
    shape_unit: Singles
    amounts: Singles
    offset: Singles
    first: Ints
    last: Ints
    steady: Singles
    bother: Singles
    both: Bools
    least: Singles
    most: Singles
    share: Singles
    hold: Singles
    body: Singles

    def head(self, count: int) -> Columns:
        """The first rows."""
        cut = {f.name: getattr(self, f.name)[..., :count] for f in fields(self) if f.name != "amounts"}
        return Columns(amounts=self.amounts, **cut)


def columns_of(table: Table, target: str) -> Columns:
    """Made once a table and group."""
    made: Columns | None = table.kept.get(target)
    if made is None:
        rows = table.rows[target]
        lists = [s.amounts for s in table.sources]
        ends = np.concatenate([[0], np.cumsum([len(a) for a in lists])])
        amounts = np.concatenate([a + FAR_APART * i for i, a in enumerate(lists)])
        pairs, where = np.unique(rows.way * len(table.sources) + rows.source, return_inverse=True)
        judged = [_judged(table.ways[p // len(table.sources)], table.sources[p % len(table.sources)]) for p in pairs]
        steady, costs, both = (np.array([j[k] for j in judged])[where] for k in range(3))
        first, last = ends[rows.source], ends[rows.source + 1] - 1
        own, unit, shape_own, shape_unit = (  # in single precision: what is compared is known to far less
            np.ascontiguousarray(v.T, np.float32) for v in (rows.own, rows.unit, rows.shape_own, rows.shape_unit)
        )
        offset = FAR_APART * rows.source
        least, most = (np.asarray(amounts[k] - offset, np.float32) for k in (first, last))
        steady, costs = steady.astype(np.float32), costs.astype(np.float32)
        made = Columns(
            own, unit, shape_own, shape_unit, amounts, offset, first, last, steady, costs, both.astype(bool), least, most,
            rows.share, rows.hold, own.max(axis=0),
        )  # fmt: skip
        table.kept[target] = made
    return made


def _judged(way: Way, source: Source) -> tuple[float, float, bool]:
    """How steady a way is with a source, what it costs to set up, and whether both sides work."""
    both = source.both and way.both
    steady = steadiness_of(way.variant.stance, way.variant.pad, both, [getattr(source.item, "kind", "")])
    return steady, 0.0 if source.item is None else bother(source.item, way), both
