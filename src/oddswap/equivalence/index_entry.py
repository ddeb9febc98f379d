"""What one item of kit adds to a reach table: its placements that differ in what they ask of a muscle, a row each."""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from itertools import groupby
from typing import Any

import numpy as np

from oddswap.equipment.base.item import KitItem
from oddswap.equipment.base.setting import Placements
from oddswap.equivalence.loads import equal_effort
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variant_batch import KitUse, VariantBatch, batches_of, kit_uses
from oddswap.equivalence.variant_key import VariantKey
from oddswap.equivalence.variants import POSES
from oddswap.mechanics.arm import dot, greatest
from oddswap.mechanics.lengths import BINS, bin_matrices
from oddswap.mechanics.limits import line_limits, place_limits
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.sharing import share_of_load
from oddswap.mechanics.types import Bools, Floats, Ints, Singles

SPANS = 12
"""Spans of a muscle's length that resistance profiles are compared in."""
EDGES = tuple(range(0, BINS + 1, BINS // SPANS))
PICKED = (0, 3, 5, 8)
"""Poses by which placements count as alike."""
LEVELS = 6
"""Levels of effort at each of these poses."""
SECOND_CHANCES = 8
"""Placements of a kind that are tried for their limits before it is given up."""
STEADY = 1.0
"""Toppling moment, N·m per unit of amount, under which strength per unit of amount decides; own choice."""
LEAST = 0.02
"""Relative effort of a set-up at its hardest pose, at most of what there is, under which it loads nothing."""
CHUNK = 2000
"""Rows whose shares are computed together."""


@dataclass(frozen=True)
class Rows:
    """Set-ups for one muscle group, a row each; what muscles do is ``own + amount x unit``.

    Args:
        variant: Index into the table's variants, (row,).
        source: Index into its sources, (row,).
        placement: Placement within the source's batch, (row,).
        own: Relative effort of the body alone, (row, pose).
        unit: Relative effort per unit of amount, (row, pose).
        profile_own: Effective torque of the body alone, N·m, summed over the bins of every span, (row, span).
        profile_unit: The same per unit of amount, (row, span).
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
    """

    variant: Ints
    source: Ints
    placement: Ints
    own: Floats
    unit: Floats
    profile_own: Floats
    profile_unit: Floats
    share: Floats
    hold: Floats

    def __len__(self) -> int:
        return len(self.variant)

    def select(self, where: Any) -> Rows:
        """Some of the rows."""
        return Rows(**{name: values[where] for name, values in vars(self).items()})

    def renumber(self, variants: Ints, sources: int) -> Rows:
        """With variants renumbered through ``variants`` and sources counted on from ``sources``."""
        return replace(self, variant=variants[self.variant], source=self.source + sources)

    @staticmethod
    def concatenate(parts: Sequence[Rows]) -> Rows:
        """One after the other."""
        return Rows(**{f.name: np.concatenate([vars(p)[f.name] for p in parts]) for f in fields(Rows)})


@dataclass(frozen=True)
class Source:
    """One way to use an item of kit.

    Args:
        item: The item; None where the body is the load.
        batch: Its placements.
        both: Whether both sides are loaded at once.
        amounts: What there is, ascending, (amount,).
        use: How it is used, where one item has several ways.
        shared_grip: Whether both hands hold one bar or rope on a line of pull.
        splits: Whether it loads both sides but can load one alone.
    """

    item: KitItem | None
    batch: Placements | None
    both: bool
    amounts: Floats
    use: str = ""
    shared_grip: bool = False
    splits: bool = False

    @property
    def kind(self) -> str:
        """Kind of kit; ``body`` where the body is the load."""
        return "body" if self.item is None else self.item.kind

    @property
    def sort(self) -> str:
        """What items have in common that can do the same."""
        return "body" if self.item is None else self.item.sort


@dataclass(frozen=True)
class IndexSegment:
    """What one item adds to a table: its sources, and rows by muscle group whose variants and sources it numbers itself."""

    keys: Sequence[VariantKey]
    sources: Sequence[Source]
    rows: dict[str, Rows]
    tried: int


@dataclass(frozen=True)
class IndexEntry:
    """What it took to compute of a segment, a row each; the rest follows from variants and kit.

    Args:
        sources: Batch of variants, and number among the item's uses there, of every source; -1 for the body alone, (source, 2).
        batch: Index of the batch of variants, ascending, (row,).
        pair: Pair of the batch, (row,).
        placement: Placement within the source's batch, (row,).
        source: Index into the sources, (row,).
        unit: Relative effort per unit of amount, (row, pose).
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
        tried: Placements that were computed to find them, one value.
    """

    sources: Ints
    batch: Ints
    pair: Ints
    placement: Ints
    source: Ints
    unit: Singles
    share: Singles
    hold: Singles
    tried: Ints

    def pack(self) -> bytes:
        """As bytes."""
        out = io.BytesIO()
        np.savez(out, **vars(self))
        return zlib.compress(out.getvalue(), 1)

    @staticmethod
    def unpack(data: bytes) -> IndexEntry:
        """From ``pack``.

        Raises:
            ValueError: If it is something else.
        """
        try:
            with np.load(io.BytesIO(zlib.decompress(data)), allow_pickle=False) as arrays:
                return IndexEntry(**{f.name: arrays[f.name] for f in fields(IndexEntry)})
        except (zlib.error, OSError, KeyError, EOFError, zipfile.BadZipFile) as error:
            raise ValueError(f"no entry of a reach table: {error}") from error


@dataclass(frozen=True)
class IndexRows:
    """Rows of one source at one batch of variants, before their shares.

    Args:
        pair: Pairs of the batch, (row,).
        placement: (row,).
        source: (row,).
        unit: Relative effort per unit of amount, (row, pose).
        hold: Greatest amount that does not topple the client, (row,).
        force: On the contact per unit of amount, N, (row, pose, xyz).
    """

    pair: Ints
    placement: Ints
    source: Ints
    unit: Floats
    hold: Floats
    force: Floats


def compute_entry(item: KitItem | None, amounts: Floats, batches: Sequence[VariantBatch], place: Place) -> IndexEntry:
    """Compute all set-ups with one item, or those of the body alone for None.

    Args:
        item: The kit.
        amounts: What there is of it, ascending, (amount,).
        batches: What it may load.
        place: Where.
    """
    sources: list[tuple[int, int]] = []
    columns: list[tuple[Any, ...]] = []
    tried = 0
    for k, batch in enumerate(batches):
        first, pieces, both = len(sources), list[IndexRows](), list[bool]()
        if item is None:
            pieces += _body_rows(batch)
            sources.append((k, -1))
            both = [batch.variants[0].both]
        else:
            for use in kit_uses(item, batch, place, float(amounts[0]), coarse=False):
                tried += use.kept.size
                pieces += _use_rows(use, batch, amounts, len(both), place.farthest)
                sources.append((k, use.number))
                both.append(use.both_sides)
        if pieces:
            whole = IndexRows(**{f.name: np.concatenate([vars(p)[f.name] for p in pieces]) for f in fields(IndexRows)})
            share = _shares(batch, np.array(both)[whole.source], whole)
            where = np.full(len(whole.pair), k)
            numbers = where, whole.pair, whole.placement, whole.source + first
            columns.append((*numbers, whole.unit.astype(np.float32), share, whole.hold.astype(np.float32)))
    empty = (*(np.zeros(0, int),) * 4, np.zeros((0, POSES), np.float32), *(np.zeros(0, np.float32),) * 2)
    joined: list[Any] = [np.concatenate(column) for column in zip(empty, *columns, strict=True)]
    stored = np.array(sources, int).reshape(-1, 2)
    batch_of, pair, placement, source, unit, share, hold = joined
    return IndexEntry(stored, batch_of, pair, placement, source, unit, share, hold, np.array(tried))


def make_segment(
    entry: IndexEntry, item: KitItem | None, amounts: Floats, batches: Sequence[VariantBatch], place: Place
) -> IndexSegment:
    """A segment from what was computed of it.

    Raises:
        ValueError: If the entry is of other variants or another item.
    """
    sources: list[Source] = []
    for k, numbers in groupby(entry.sources.tolist(), lambda s: s[0]):
        first = batches[k].variants[0]
        uses = [] if item is None else batches_of(item, batches[k], place)
        for _, number in numbers:
            if item is None:
                sources.append(Source(None, None, first.both, amounts))
                continue
            example = uses[number].setting(0, float(amounts[0]))
            shared = item.line and example.grip != "handle"
            sources.append(Source(item, uses[number], example.both_sides, amounts, example.use_label, shared, example.splits))
    variants: list[Any] = []
    gathered: dict[str, list[Rows]] = {}
    for k, batch in enumerate(batches):
        here = slice(*np.searchsorted(entry.batch, [k, k + 1]))
        pair = entry.pair[here]
        if len(pair):
            columns = (entry.placement, entry.source, entry.unit, entry.share, entry.hold)
            rows = _rows(batch, pair, *(v[here] for v in columns))
            for g, pairs in batch.groups.items():
                inside = (pair >= pairs.start) & (pair < pairs.stop)
                if inside.any():
                    numbered = rows.select(inside).renumber(np.arange(len(batch.variants)) + len(variants), 0)
                    gathered.setdefault(g, []).append(numbered)
        variants += batch.variants
    used = sorted({int(i) for rows_of in gathered.values() for r in rows_of for i in r.variant})
    small = np.zeros(len(variants), dtype=int)
    small[used] = np.arange(len(used))
    by_group = {g: Rows.concatenate(r).renumber(small, 0) for g, r in gathered.items()}
    return IndexSegment([variants[i].key for i in used], sources, by_group, int(entry.tried))


def _rows(batch: VariantBatch, pair: Ints, placement: Ints, source: Ints, unit: Singles, share: Singles, hold: Singles) -> Rows:
    """Rows of some pairs of a batch; ``unit`` (row, pose), the others (row,)."""
    spans = bin_matrices(batch.length, EDGES)[pair]
    own, capacity = batch.own[pair], batch.capacity[pair]
    profile_own, profile_unit = (np.einsum("rsp,rp->rs", spans, e * capacity).astype(np.float32) for e in (own, unit))
    single: Any = own.astype(np.float32)
    return Rows(batch.variant[pair], source, placement, single, unit, profile_own, profile_unit, share, hold)


def _body_rows(batch: VariantBatch) -> list[IndexRows]:
    """Rows of what the body's own weight does, where it is the load."""
    if batch.variants[0].bearing.base == "seat":
        return []
    bare = np.array([v.bare for v in batch.variants])[batch.variant]
    pair = np.flatnonzero((batch.own.max(axis=1) > LEAST) & bare)
    if not len(pair):
        return []
    none, zero = np.zeros_like(batch.own[pair]), np.zeros(len(pair), int)
    return [IndexRows(pair, zero, zero, none, np.full(len(pair), np.inf), np.zeros((*none.shape, 3)))]


def _use_rows(use: KitUse, batch: VariantBatch, amounts: Floats, source: int, farthest: float) -> list[IndexRows]:
    """The placements of one use of kit that differ in what they ask, and that keep all limits."""
    # Kit's own limits leave a fifth of the placements: only those are computed at all.
    pair, placement = np.nonzero(use.kept.T[batch.variant])
    force, own = use.force[placement, batch.variant[pair]], batch.own[pair]
    unit = dot(force, batch.per_newton[use.both_sides][pair])
    amount = np.clip(equal_effort(own, unit, float(rules("reach")["need"])), amounts[0], amounts[-1])
    picked = list(PICKED)
    effort = np.maximum(own[:, picked] + amount[:, None] * unit[:, picked], 0.0)
    # Judged by four poses: a peak between them is no more than a little higher.
    peak = greatest(effort)
    valid = np.flatnonzero((peak > LEAST) & (greatest(unit) > 1e-9))
    if not len(valid):
        return []
    pair, placement, force, unit = pair[valid], placement[valid], force[valid], unit[valid]
    levels = np.minimum((effort[valid] / peak[valid, None] * LEVELS).astype(int), LEVELS - 1)
    code = pair * LEVELS ** len(PICKED) + levels @ (LEVELS ** np.arange(len(PICKED)))
    # Only a line of pull topples: a machine's own seat, pads and frame hold whoever is on it.
    pulled = 0.0 if use.batch.law.far_end is None else 1.0
    topples = pulled * batch.postures.select(batch.variant[pair], "height", "feet_alone", "rested").toppling(
        force, use.both_sides
    )
    # What tips least for what it does stands for its kind; a few more have a chance where it breaks a limit.
    order = np.lexsort(((topples + STEADY) / greatest(unit), code))
    first = np.flatnonzero(np.diff(code[order], prepend=-1))
    chance = np.arange(len(order)) - np.repeat(first, np.diff(np.append(first, len(order))))
    best = order[first]
    best = best[_kept(use, batch, pair[best], placement[best], farthest)]
    more = order[(chance > 0) & (chance < SECOND_CHANCES) & ~np.isin(code[order], code[best])]
    more = more[_kept(use, batch, pair[more], placement[more], farthest)]
    order = np.concatenate([best, more[np.flatnonzero(np.diff(code[more], prepend=-1))]])
    if not len(order):
        return []
    pair, placement = pair[order], placement[order]
    hold = batch.postures.hold[batch.variant[pair]] / np.maximum(topples[order], 1e-9)
    return [IndexRows(pair, placement, np.full(len(pair), source), unit[order], hold, force[order])]


def _kept(use: KitUse, batch: VariantBatch, pair: Ints, placement: Ints, farthest: float) -> Bools:
    """Which rows keep the limits of where a line of pull leads, (row,); a standing client's hold is checked with the load."""
    far = use.batch.law.far_end
    if far is None or not len(pair):
        return np.ones(len(pair), bool)
    # Muscles of one variant share its placements: each is looked at once.
    single, of_row = np.unique(batch.variant[pair] * use.batch.count + placement, return_inverse=True)
    variant, placement = np.divmod(single, use.batch.count)
    end = np.broadcast_to(far, (use.batch.count, 3))[placement]
    postures = batch.postures_in_middle if use.shared_grip else batch.postures
    near = postures.select(variant, "near", "on_bench", "recline")
    places = place_limits(near, end, use.both_sides, farthest, use.batch.law.overhang)
    kept = np.asarray(np.all([limit.kept for limit in places], axis=0))
    rows = np.flatnonzero(kept)
    there = postures.select(variant[rows], "lower", "upper", "radius", "point", "cushions")
    lines = line_limits(there, end[rows], use.both_sides)
    kept[rows] = np.all([limit.kept for limit in lines], axis=0)
    return np.asarray(kept[of_row])


def _shares(batch: VariantBatch, bears: Bools, found: IndexRows) -> Singles:
    """Part of the work that is the group's own at a working load, (row,), where it bears on both sides or not."""
    variant = batch.variant[found.pair]
    out = np.zeros(len(found.pair), np.float32)
    amount = equal_effort(batch.own[found.pair], found.unit, float(rules("reach")["need"]))
    pull = found.force * np.where(np.isfinite(amount), amount, 0.0)[:, None, None]
    both = bears & ~np.array([v.single for v in batch.variants])[variant]
    groups = muscle_table().groups
    regions = np.empty(len(found.pair), dtype=object)
    for g, pairs in batch.groups.items():
        regions[(found.pair >= pairs.start) & (found.pair < pairs.stop)] = groups[g].region
    for region, (place, work) in batch.work.items():
        named = [g for g in batch.groups if groups[g].region == region]
        member = np.stack([groups[g].weights > 0 for g in named])
        group_of = np.zeros(len(batch.variant), int)
        for k, g in enumerate(named):
            group_of[batch.groups[g]] = k
        for sides in (False, True):
            every = np.flatnonzero((regions == region) & (both == sides))
            for start in range(0, len(every), CHUNK):
                rows = every[start : start + CHUNK]
                at = place[variant[rows]]
                moment = work.weight[at] + (work.moments[sides][at] @ pull[rows][..., None])[..., 0]
                mine = member[group_of[found.pair[rows]]]
                out[rows] = share_of_load(moment, work.moment_arm[at], work.strongest[at], mine)
    return np.asarray(out)
