"""A line against a reach table: comparison of curves that are known already, all rows at once."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.equivalence.index import ReachTable
from oddswap.equivalence.index_entry import SPANS, Rows, Source
from oddswap.equivalence.kind import Kinds, kind_part
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.loads import equal_effort, peak_effort
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.scoring import Measured, Wanted, off_by, own_peak, parts_of, setup_cost, stability_of, weigh
from oddswap.equivalence.variants import VariantMechanics
from oddswap.errors import DomainError
from oddswap.mechanics.lengths import BINS
from oddswap.mechanics.types import Bools, Floats, Ints, Singles

LEAST_SHARE = 0.5
"""Part of the target's share in the prescription under which a set-up is looked at only where there is little else."""
LIKELY = 300
"""Rows, best first, whose amounts are rounded to what exists, and that a search looks through."""
VARIED, EACH = 1500, 12
"""The same where the choice shall be varied, and how many of them may be of one variant with one item."""
TOGETHER = 12
"""Lines for the same muscle that are compared together: few enough to stay in the processor's near memory."""
FAR_APART = 1e6
"""Kilograms between the amounts of two sources when all are searched as one list."""
UNSEEN = 100
"""Points off the match of rows whose amounts were not rounded, so that they stand behind those that were."""


@dataclass(frozen=True)
class Ranking:
    """A line compared with all rows of a table for its target.

    Args:
        table: The table.
        rows: Its rows for the target.
        match: 0 to 100, below zero where it cannot be, (row,).
        amount: The rounded amount of equal effort, (row,).
    """

    table: ReachTable
    rows: Rows
    match: Floats
    amount: Floats

    def best(self, count: int = LIKELY) -> Ints:
        """The best rows first, (row,)."""
        count = min(count, len(self.match))
        top = np.argpartition(-self.match, count - 1)[:count] if count else np.zeros(0, int)
        order: Ints = top[np.argsort(-self.match[top], kind="stable")]
        return order[self.match[order] > 0]


def rank(
    table: ReachTable, prescription: PrescriptionProfile, lens: Lens, allowed: Bools | None = None, one_side: bool = False
) -> Ranking:
    """Compare a line with every set-up of a table for its target: no pose is computed here.

    Args:
        table: The place's reach table for this client.
        prescription: The line's demand.
        lens: How parts are weighed.
        allowed: Which of the table's variants may be offered, (variant,); None for all.
        one_side: Whether only one-sided lifts are wanted.

    Raises:
        DomainError: Where nothing of the table loads the target.
    """
    return Comparison.of(table, [prescription], lens, allowed, one_side).rankings(varied=True)[0]


def rank_many(table: ReachTable, prescriptions: Sequence[PrescriptionProfile], lens: Lens) -> list[Ranking]:
    """``rank`` for many lines: those for the same muscle together, two muscles at a time."""
    alike: dict[str, list[int]] = {}
    for i, prescription in enumerate(prescriptions):
        alike.setdefault(prescription.line.target, []).append(i)
    batches = [where[k : k + TOGETHER] for where in alike.values() for k in range(0, len(where), TOGETHER)]

    def compare(where: list[int]) -> list[Ranking]:
        return Comparison.of(table, [prescriptions[i] for i in where], lens).rankings()

    found: dict[int, Ranking] = {}
    with ThreadPoolExecutor(2) as pool:
        for where, rankings in zip(batches, pool.map(compare, batches), strict=True):
            found.update(zip(where, rankings, strict=True))
    return [found[i] for i in range(len(prescriptions))]


@dataclass(frozen=True)
class Comparison:
    """Lines with the same target, and the rows of a table that are compared with them.

    Args:
        table: The table.
        lens: How parts are weighed.
        columns: The rows' numbers.
        wanted: The lines, (line, span, 1) and (line, 1).
        effort: Peak relative effort of each line, (line, 1).
        share: Part of the load that the target carries in each, (line, 1).
        lean: Times the usual hold against tipping that each asks for, (line, 1).
        allowed: Which rows may be offered at all, (row,).
        kind: How much each row is the kind of lift of each line, (line, row).
    """

    table: ReachTable
    lens: Lens
    columns: Columns
    wanted: Wanted
    effort: Singles
    share: Singles
    lean: Singles
    allowed: Bools
    kind: Singles

    @staticmethod
    def of(
        table: ReachTable,
        prescriptions: Sequence[PrescriptionProfile],
        lens: Lens,
        allowed: Bools | None = None,
        one_side: bool = False,
    ) -> Comparison:
        """Of a table with some lines.

        Raises:
            DomainError: Where nothing of the table loads the target.
        """
        name, target = prescriptions[0].group.name, prescriptions[0].line.target
        rows = table.rows.get(target)
        if rows is None:
            raise DomainError("kit", [k.id for k in table.place.kit], f"something here must load the {name}", "Add kit")

        def column(values: list[float]) -> Singles:
            return np.array(values, np.float32)[:, None]

        c, share = columns_of(table, target), column([p.share for p in prescriptions])
        # Rows stand by share: where other muscles carry most of what the target carries in the line, it is no equivalent.
        enough = int(np.searchsorted(-c.share, -LEAST_SHARE * float(share.min()), side="right"))
        c = c.head(max(enough, min(LIKELY, len(rows))))
        spans = np.stack([p.resistance_profile.reshape(SPANS, BINS // SPANS).sum(axis=-1) for p in prescriptions])
        steady = column([p.stability for p in prescriptions])
        wanted = Wanted(own_peak(spans.astype(np.float32))[..., None], steady, target)
        count = len(c.share)
        kept = np.ones(count, bool) if allowed is None else allowed[rows.variant[:count]]
        effort, lean = column([p.relative_effort for p in prescriptions]), column([p.lean for p in prescriptions])
        variants, kinds = table.variants, table.derived.get("kinds", lambda: Kinds.of(table.variants))
        kind = np.stack([kind_part(p, variants, kinds) for p in prescriptions]).astype(np.float32)[:, rows.variant[:count]]
        return Comparison(table, lens, c, wanted, effort, share, lean, kept & ~c.both if one_side else kept, kind)

    def rankings(self, varied: bool = False) -> list[Ranking]:
        """One a line: first as if there were every amount between the least and the most, then, for what is likely, with the
        amounts there are.

        Args:
            varied: Whether what is likely shall be of many variants and items, instead of the best rows of a few.
        """
        c = self.columns
        wanted = equal_effort(c.own, c.unit, self.effort[..., None], axis=1)
        loads = np.isfinite(wanted)
        amount = np.clip(np.where(loads, wanted, c.most), c.least, c.most).astype(np.float32)
        kept = (amount <= c.hold * self.lean) & self.allowed
        safe = np.maximum(amount, np.float32(1e-9))
        ratio = np.where(loads, amount / np.where(loads, wanted, 1.0).astype(np.float32), c.body / self.effort)
        every = self._match(slice(None), amount, ratio, np.ones_like(safe), c.most / safe)
        match = np.where(kept, every, np.float32(-1))
        few = min(VARIED if varied else LIKELY, match.shape[1])
        likely = self._varied(match, few) if varied else np.argpartition(-match, few - 1, axis=1)[:, :few]
        line = np.arange(len(self.effort))[:, None]
        rounded, exact = self._round(likely, amount[line, likely])
        exact = np.where(kept[line, likely] & (rounded <= c.hold[likely] * self.lean), exact, -1)
        match -= np.float32(UNSEEN)
        match[line, likely] = exact
        amount[line, likely] = rounded
        near = self.table.rows[self.wanted.group].select(slice(0, match.shape[1]))
        return [Ranking(self.table, near, match[i], amount[i]) for i in range(len(self.effort))]

    def _varied(self, match: Floats, count: int) -> Ints:
        """The likeliest rows, (line, row), but of each variant with each item only its best ones; all lines have as many."""
        rows = self.table.rows[self.wanted.group]
        pair = (rows.variant * len(self.table.sources) + rows.source)[: match.shape[1]]
        out = []
        for m in match:
            order = np.lexsort((-m, pair))
            first = np.flatnonzero(np.diff(pair[order], prepend=-1))
            place = np.arange(len(order)) - np.repeat(first, np.diff(np.append(first, len(order))))
            # Those beyond stand behind all others.
            behind = np.where(place < EACH, m[order], m[order] - UNSEEN)
            out.append(order[np.argpartition(-behind, count - 1)[:count]])
        return np.stack(out)

    def _round(self, likely: Ints, amount: Singles) -> tuple[Singles, Floats]:
        """The amounts there are beside exact ones, (line, row), and the match with them."""
        c = self.columns
        # Amounts of all sources stand in one ascending list, each source's far from the next one's.
        offset, first, last = c.offset[likely], c.first[likely], c.last[likely]
        above = np.minimum(np.searchsorted(c.amounts, offset + amount - 1e-6), last)
        below = np.maximum(above - 1, first)
        pair = (np.stack([c.amounts[below], c.amounts[above]]) - offset).astype(np.float32)
        own, unit = c.own[:, likely], c.unit[:, likely]
        ratios = np.stack([peak_effort(own, unit, a, axis=0) for a in pair]) / self.effort
        off = off_by(np.log(ratios))
        heavier = off[1] < off[0]
        rounded, place = np.where(heavier, pair[1], pair[0]), np.where(heavier, above, below)
        safe = np.maximum(rounded, np.float32(1e-9))
        following, most = c.amounts[np.minimum(place + 1, last)] - offset, c.amounts[last] - offset
        return rounded, self._match(likely, rounded, np.where(heavier, ratios[1], ratios[0]), following / safe, most / safe)

    def _match(self, where: Any, amount: Singles, ratio: Singles, following: Singles, most: Singles) -> Floats:
        """Match of rows (row,) or of each line's own (line, row), without a look at limits; (line, row)."""
        c = self.columns
        profile = np.moveaxis(c.profile_unit[:, where], 0, -2) * amount[:, None]
        profile += np.moveaxis(c.profile_own[:, where], 0, -2)
        np.maximum(profile, 0, out=profile)
        profile /= np.maximum(profile.max(axis=-2, keepdims=True), np.float32(1e-9))
        kind = self.kind[:, where] if isinstance(where, slice) else np.take_along_axis(self.kind, where, axis=1)
        measured = Measured(profile, ratio, c.steady[where], following, most, c.setup_cost[where], kind)
        parts = parts_of(measured, self.wanted, self.lens.weights, axis=-2)
        return weigh(parts, np.minimum(1, c.share[where] / self.share), self.lens)


@dataclass(frozen=True)
class Columns:
    """A muscle group's rows as ranking reads them: poses and spans first, and what variant and source add to each row.

    Args:
        own: Relative effort of the body alone, (pose, row).
        unit: Relative effort per unit of amount, (pose, row).
        profile_own: (span, row).
        profile_unit: (span, row).
        amounts: Of all sources, ``FAR_APART`` from one to the next, ascending.
        offset: Where each row's source begins there, kg, (row,).
        first: Place of its first amount, (row,).
        last: Place of its last one, (row,).
        steady: How steady the body is held, (row,).
        setup_cost: What setting up costs, (row,).
        both: Whether both sides work, (row,).
        least: Least amount, (row,).
        most: Greatest amount, (row,).
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
        body: Greatest relative effort of the body alone, (row,).
    """

    own: Singles
    unit: Singles
    profile_own: Singles
    profile_unit: Singles
    amounts: Singles
    offset: Singles
    first: Ints
    last: Ints
    steady: Singles
    setup_cost: Singles
    both: Bools
    least: Singles
    most: Singles
    share: Singles
    hold: Singles
    body: Singles

    def head(self, count: int) -> Columns:
        """The first rows."""
        cut = {name: values[..., :count] for name, values in vars(self).items() if name != "amounts"}
        return Columns(amounts=self.amounts, **cut)


def columns_of(table: ReachTable, target: str) -> Columns:
    """Made once a table and group."""

    def work() -> Columns:
        rows = table.rows[target]
        lists = [s.amounts for s in table.sources]
        ends = np.concatenate([[0], np.cumsum([len(a) for a in lists])])
        amounts = np.concatenate([a + FAR_APART * i for i, a in enumerate(lists)])
        pairs, where = np.unique(rows.variant * len(table.sources) + rows.source, return_inverse=True)
        each = [_traits(table.variants[p // len(table.sources)], table.sources[p % len(table.sources)]) for p in pairs]
        steady, costs, both = (np.array([t[k] for t in each])[where] for k in range(3))
        first, last = ends[rows.source], ends[rows.source + 1] - 1
        own, unit, profile_own, profile_unit = (  # in single precision: what is compared is known to far less
            np.ascontiguousarray(v.T, np.float32) for v in (rows.own, rows.unit, rows.profile_own, rows.profile_unit)
        )
        offset = FAR_APART * rows.source
        least, most = (np.asarray(amounts[k] - offset, np.float32) for k in (first, last))
        steady, costs = steady.astype(np.float32), costs.astype(np.float32)
        return Columns(
            own, unit, profile_own, profile_unit, amounts, offset, first, last, steady, costs, both.astype(bool), least, most,
            rows.share, rows.hold, own.max(axis=0),
        )  # fmt: skip

    made: Columns = table.derived.get(target, work)
    return made


def _traits(mechanics: VariantMechanics, source: Source) -> tuple[float, float, bool]:
    """How steady a variant is with a source, what it costs to set up, and whether both sides work."""
    both = source.both and mechanics.both
    kinds = [] if source.item is None else [source.item.source_kind]
    steady = stability_of(mechanics.variant.stance, mechanics.variant.pad, both, kinds)
    cost = 0.0 if source.item is None else setup_cost(source.item, mechanics.motion.support.contact)
    return steady, cost, both
