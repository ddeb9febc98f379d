"""Two load sources at once, where their shapes complete each other: bell and band, lever and cable, bar and bands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np

from oddswap.equivalence.evaluate import Aim
from oddswap.equivalence.index import SPANS
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.ranking import Ranking
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import overlap
from oddswap.equivalence.variants import Job
from oddswap.mechanics.motion import BINS
from oddswap.mechanics.types import Floats, Ints

MOST, TOP = 30, 10
"""Rows of a kind that are paired, and pairs of two kinds that are looked at again."""
OFFERED = 2
"""Pairs of a way that are placed in full."""


def blends(ranking: Ranking, job: Job, aim: Aim, by: Lens) -> Iterator[tuple[Any, Any, Floats]]:
    """The likeliest pairs of sources for one way, by the table: first setting, second setting with its amount, and the
    first one's amounts.

    The second carries a fixed part of the effort, the nearest to ``parts`` that its amounts allow; the first is solved for.
    """
    rules_of = rules("combined")
    table = ranking.table
    index = next((i for i, w in enumerate(table.ways) if w.job == job), None)
    if index is None or table.ways[index].motion.way.support not in ("seat", "feet", "two feet"):
        return
    here = np.flatnonzero((ranking.rows.way == index) & (ranking.rows.share > 0))
    kinds = np.array([getattr(table.sources[s].item, "kind", "") for s in ranking.rows.source[here]])
    both = np.array([table.sources[s].both for s in ranking.rows.source[here]])
    held = np.array([table.sources[s].use in ("bar", "rope") for s in ranking.rows.source[here]], bool)
    prescribed = aim.shape.reshape(SPANS, BINS // SPANS).sum(axis=-1)
    # Who has two bells may take one: a band or a cable in one hand goes with it.
    usable = {True: both, False: ~both | (kinds == "dumbbells")}
    found: list[tuple[float, int, int, float, bool]] = []
    for a, b in rules_of["pairs"]:
        for sides in (False, True):
            # A hand that holds a bell or a bar holds no other bar or rope.
            first, second = (
                _best(ranking, here[(kinds == k) & usable[sides] & ~(held & (other in rules_of["in_hand"]))])
                for k, other in ((a, b), (b, a))
            )
            seconds = list(_second_amounts(ranking, second, aim, rules_of["parts"]))
            if len(first) and seconds:
                like = _likeness(ranking, first, seconds, aim, prescribed)
                for i, j in zip(*np.unravel_index(np.argsort(-like, axis=None)[:TOP], like.shape), strict=True):
                    found.append((float(like[i, j]), int(first[i]), seconds[j][1], seconds[j][0], sides))
    rows = ranking.rows
    taken: set[tuple[int, int]] = set()
    for _, i, j, amount, sides in sorted(found, key=lambda f: -f[0]):
        pair = (int(rows.source[i]), int(rows.source[j]))
        if pair in taken or table.sources[pair[0]].item is table.sources[pair[1]].item:
            continue
        taken.add(pair)
        one, other = table.sources[pair[0]], table.sources[pair[1]]
        assert one.batch is not None
        assert other.batch is not None
        settings: list[Any] = [
            one.batch.setting(int(rows.at[i]), float(one.amounts[0])),
            other.batch.setting(int(rows.at[j]), amount),
        ]
        if not sides:
            settings = [replace(s, hands="one") if s.kind == "dumbbell" else s for s in settings]
        yield settings[0], settings[1], one.amounts
        if len(taken) == OFFERED:
            return


def _best(ranking: Ranking, rows: Ints) -> Ints:
    """The likeliest rows, and those that differ most: all where there are few."""
    return rows[np.argsort(-ranking.match[rows], kind="stable")[:MOST]]


def _second_amounts(ranking: Ranking, rows: Ints, aim: Aim, parts: list[float]) -> Iterator[tuple[float, int]]:
    """Amounts of the second source that carry about the given parts of the effort, with their rows."""
    peaks, (least, most) = ranking.rows.unit[rows].max(axis=-1), rules("combined")["within"]
    for j, peak in zip(rows, peaks, strict=True):
        if peak <= 1e-9:
            continue
        amounts = ranking.table.sources[ranking.rows.source[j]].amounts
        wanted = np.array(parts) * aim.effort / peak
        for k in sorted({int(np.abs(amounts - w).argmin()) for w in wanted}):
            if least <= amounts[k] * peak / aim.effort <= most:
                yield float(amounts[k]), int(j)


def _likeness(ranking: Ranking, first: Ints, seconds: list[tuple[float, int]], aim: Aim, prescribed: Floats) -> Floats:
    """Overlap of both sources' shape with the prescription's, less what the load is off, (first, second)."""
    rows, sources = ranking.rows, ranking.table.sources
    amount, second = np.array([a for a, _ in seconds]), np.array([j for _, j in seconds])
    own = rows.own[first][:, None] + (amount[:, None] * rows.unit[second])[None]
    unit = rows.unit[first][:, None]
    inverse = (unit / np.maximum(aim.effort - own, 1e-3)).max(axis=-1)
    wanted = 1.0 / np.maximum(inverse, 1e-9)
    near = np.empty_like(wanted)
    for i, row in enumerate(first):
        amounts = sources[rows.source[row]].amounts
        near[i] = amounts[np.abs(amounts[:, None] - wanted[i]).argmin(axis=0)]
    shape = rows.shape_own[first][:, None] + near[..., None] * rows.shape_unit[first][:, None]
    shape = np.maximum(0.0, shape + (amount[:, None] * rows.shape_unit[second])[None])
    ratio = (own + near[..., None] * unit).max(axis=-1) / aim.effort
    return np.asarray(overlap(prescribed, shape) - np.abs(np.log(np.maximum(ratio, 1e-6))))
