"""The reach table: what every set-up that a client and a place allow asks of its muscles, computed once.

Mapping a line to a place is then comparison, not simulation. Placements that ask alike of a muscle stand in one row, the one
that tips the client least; a column's five hundred placements leave some twenty. What belongs to one item of kit is a part of
its own, so that a changed item costs only its part.
"""

from __future__ import annotations

import hashlib
import io
import threading
import zipfile
import zlib
from collections import OrderedDict
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, fields, replace
from itertools import groupby
from typing import Any, Protocol

import numpy as np

from oddswap.equipment.protocols import Placements
from oddswap.equivalence.kit import distinct, use_of
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import (
    POSES,
    Job,
    Offer,
    Stack,
    Way,
    alone,
    asked,
    batches_of,
    offers,
    stacks_of,
    supported,
    ways_of,
)
from oddswap.mechanics.arm import norm
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import Capsules, base_hold, bench_gap, stands, toppling
from oddswap.mechanics.motion import BINS, binned
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.types import Bools, Floats, Ints, Singles

SPANS = 12
"""Spans of a muscle's length that load shapes are compared in."""
EDGES = tuple(range(0, BINS + 1, BINS // SPANS))
PICKED, LEVELS = (0, 3, 5, 8), 6
"""Poses, and levels of effort at each, by which placements count as alike."""
SECOND_CHANCES = 8
"""Placements of a kind that are tried for room before it is given up."""
STEADY = 1.0
"""Toppling moment, N·m per unit of amount, under which strength per unit of amount decides; own choice."""
LEAST = 0.02
"""Effort of a set-up at its hardest pose, at most of what there is, under which it loads nothing."""
CHUNK = 2000
"""Rows whose shares are computed together."""
PARTS_KEPT, TABLES_KEPT = 600, 24
"""Parts and whole tables kept in memory, of all clients and places."""


@dataclass(frozen=True)
class Rows:
    """Set-ups for one muscle group, a row each; what muscles do is ``own + amount x unit``.

    Args:
        way: Index into the table's ways.
        source: Index into its sources.
        at: Placement within the source's batch.
        own: Effort of the body alone, (row, pose).
        unit: Effort per unit of amount, (row, pose).
        shape_own: Effective torque of the body alone, N·m, summed over the bins of every span, (row, span).
        shape_unit: The same per unit of amount.
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
    """

    way: Ints
    source: Ints
    at: Ints
    own: Floats
    unit: Floats
    shape_own: Floats
    shape_unit: Floats
    share: Floats
    hold: Floats

    def __len__(self) -> int:
        return len(self.way)

    def taken(self, where: Any) -> Rows:
        """Some of the rows."""
        return Rows(**{f.name: getattr(self, f.name)[where] for f in fields(self)})

    def moved(self, ways: Ints, sources: int) -> Rows:
        """With ways renumbered through ``ways`` and sources counted on from ``sources``."""
        return replace(self, way=ways[self.way], source=self.source + sources)

    @staticmethod
    def joined(parts: Sequence[Rows]) -> Rows:
        """One after the other."""
        return Rows(**{f.name: np.concatenate([getattr(p, f.name) for p in parts]) for f in fields(Rows)})


@dataclass(frozen=True)
class Source:
    """One way to use an item of kit.

    Args:
        item: The item; None where the body is the load.
        batch: Its placements.
        both: Whether both sides are loaded at once.
        amounts: What there is, ascending, (amount,).
        use: How it is used, where one item has several ways.
    """

    item: Any
    batch: Placements | None
    both: bool
    amounts: Floats
    use: str = ""


@dataclass(frozen=True)
class Part:
    """What one item of kit adds to a table: its sources, and rows by muscle group whose ways and sources it numbers itself."""

    jobs: Sequence[Job]
    sources: Sequence[Source]
    rows: dict[str, Rows]
    tried: int


@dataclass(frozen=True)
class Table:
    """All set-ups of a client at a place.

    Args:
        body: The client.
        place: Where.
        ways: Movements in their ways.
        sources: Kit in its uses.
        rows: Set-ups by muscle group.
        tried: Placements that were computed to find them.
        kept: What others made of it once, by name.
    """

    body: Body
    place: Place
    ways: Sequence[Way]
    sources: Sequence[Source]
    rows: dict[str, Rows]
    tried: int
    kept: dict[str, Any] = field(default_factory=dict, compare=False, repr=False)

    @property
    def count(self) -> int:
        """Rows of all muscle groups."""
        return sum(len(r) for r in self.rows.values())


_parts: OrderedDict[object, Part] = OrderedDict()
_tables: OrderedDict[object, Table] = OrderedDict()
_lock = threading.Lock()


class Shelf(Protocol):
    """Where parts outlast the process."""

    def get(self, names: Sequence[str]) -> dict[str, bytes]:
        """What there is of these."""

    def put(self, items: Mapping[str, bytes]) -> None:
        """Keep these."""


_shelf: Shelf | None = None


def keep_on(shelf: Shelf | None) -> None:
    """Keep parts on a shelf from now on, or only in memory for None."""
    global _shelf
    _shelf = shelf


def forget() -> None:
    """Drop all parts in memory."""
    with _lock:
        _parts.clear()
        _tables.clear()


def table_of(
    body: Body,
    place: Place,
    jobs: Sequence[Job] | None = None,
    progress: Callable[[float], None] = lambda part: None,
) -> Table:
    """The reach table of a client at a place; parts that are known already are not computed again.

    Args:
        body: The client.
        place: Where.
        jobs: Ways to cover; None for all that the place supports.
        progress: Told the part done, 0 to 1.
    """
    jobs = supported(place) if jobs is None else jobs
    ways = ways_of(body, place, jobs)
    number = {w.job: i for i, w in enumerate(ways)}
    carriers = repr([k for k in place.kit if not hasattr(k, "placements")])
    loads: list[tuple[Any, Floats]] = [*distinct(place.kit), (None, np.zeros(1))]
    keys = [(body, place.room, carriers, repr(item), amounts.tobytes(), tuple(jobs)) for item, amounts in loads]
    whole = tuple(keys)
    with _lock:
        if whole in _tables:
            _tables.move_to_end(whole)
            return _tables[whole]
        known = {key: _parts[key] for key in keys if key in _parts}
    missing = [i for i, key in enumerate(keys) if key not in known]
    if missing:
        stacks = stacks_of(ways, hands=True)
        for stack in stacks:
            _ = stack.work  # made once, before two threads ask for it
        single = {kind: alone(ways, [kind]) for kind in {i.movement for i, _ in loads if getattr(i, "kind", "") == "machine"}}

        shelf = _shelf
        names = [hashlib.sha256(repr(keys[i]).encode()).hexdigest() for i in missing] if shelf is not None else []
        shelved = {} if shelf is None else shelf.get(names)
        fresh: dict[str, bytes] = {}

        def made(n: int) -> Part:
            item, amounts = loads[missing[n]]
            of = single[item.movement] if getattr(item, "kind", "") == "machine" else stacks
            if shelved and names[n] in shelved:
                try:
                    return part_of(Sheet.unpacked(shelved[names[n]]), item, amounts, of, place)
                except (ValueError, IndexError):
                    pass  # spoilt on its shelf: computed anew
            sheet = sheet_of(item, amounts, of, place)
            if shelf is not None:
                fresh[names[n]] = sheet.packed()
            return part_of(sheet, item, amounts, of, place)

        # Arrays here are large, and array operations let go of the lock: two items at a time.
        with ThreadPoolExecutor(2) as pool:
            for n, part in enumerate(pool.map(made, range(len(missing)))):
                known[keys[missing[n]]] = part
                progress((n + 1) / len(missing))
        if shelf is not None and fresh:
            shelf.put(fresh)
        with _lock:
            for i in missing:
                _parts[keys[i]] = known[keys[i]]
            while len(_parts) > PARTS_KEPT:
                _parts.popitem(last=False)
    found = [known[key] for key in keys]
    sources: list[Source] = []
    gathered: dict[str, list[Rows]] = {}
    for part in found:
        renumbered = np.array([number[job] for job in part.jobs], dtype=int)
        for g, rows in part.rows.items():
            gathered.setdefault(g, []).append(rows.moved(renumbered, len(sources)))
        sources += part.sources
    joined = {g: Rows.joined(r) for g, r in gathered.items()}
    # Those that leave the group the largest share first, so that a line can stop where it is too small.
    whole_rows = {g: r.taken(np.argsort(-r.share, kind="stable")) for g, r in joined.items()}
    table = Table(body, place, ways, sources, whole_rows, sum(p.tried for p in found))
    with _lock:
        _tables[whole] = table
        while len(_tables) > TABLES_KEPT:
            _tables.popitem(last=False)
    return table


@dataclass(frozen=True)
class Sheet:
    """What it took to compute of a part, a row each; the rest follows from ways and kit.

    Args:
        sources: Stack and number among the item's batches there of every source, the number -1 for the body alone, (source, 2).
        stack: Index of the stack, ascending.
        pair: Pair of the stack.
        at: Placement within the source's batch.
        source: Index into the sources.
        unit: Effort per unit of amount, (row, pose).
        share: Part of the work that is the group's own, (row,).
        hold: Greatest amount that does not topple the client, (row,).
        tried: Placements that were computed to find them, one value.
    """

    sources: Ints
    stack: Ints
    pair: Ints
    at: Ints
    source: Ints
    unit: Singles
    share: Singles
    hold: Singles
    tried: Ints

    def packed(self) -> bytes:
        """As bytes."""
        out = io.BytesIO()
        np.savez(out, **{f.name: getattr(self, f.name) for f in fields(self)})
        return zlib.compress(out.getvalue(), 1)

    @staticmethod
    def unpacked(data: bytes) -> Sheet:
        """From ``packed``.

        Raises:
            ValueError: If it is something else.
        """
        try:
            with np.load(io.BytesIO(zlib.decompress(data)), allow_pickle=False) as arrays:
                return Sheet(**{f.name: arrays[f.name] for f in fields(Sheet)})
        except (zlib.error, OSError, KeyError, EOFError, zipfile.BadZipFile) as error:
            raise ValueError(f"no part of a reach table: {error}") from error


def sheet_of(item: Any, amounts: Floats, stacks: Sequence[Stack], place: Place) -> Sheet:
    """Compute all set-ups with one item, or those of the body alone for None."""
    sources: list[tuple[int, int]] = []
    columns: list[tuple[Any, ...]] = []
    tried = 0
    for k, stack in enumerate(stacks):
        pieces: list[Piece] = []
        first = len(sources)
        if item is None:
            pieces += _body_rows(stack)
            sources.append((k, -1))
            both = [stack.ways[0].both]
        else:
            both = []
            for offer in offers(item, stack, place, float(amounts[0]), coarse=False):
                tried += offer.kept.size
                pieces += _offered_rows(offer, stack, amounts, len(both))
                sources.append((k, offer.number))
                both.append(offer.sides)
        if pieces:
            pair, at, source, unit, hold, force = (np.concatenate(column) for column in zip(*pieces, strict=True))
            share = _shares(stack, np.array(both)[source], pair, unit, force)
            where = np.full(len(pair), k)
            columns.append((where, pair, at, source + first, unit.astype(np.float32), share, hold.astype(np.float32)))
    empty = (*(np.zeros(0, int),) * 4, np.zeros((0, POSES), np.float32), *(np.zeros(0, np.float32),) * 2)
    joined: list[Any] = [np.concatenate(column) for column in zip(empty, *columns, strict=True)]
    stack_of, pair, at, source, unit, share, hold = joined
    return Sheet(np.array(sources, int).reshape(-1, 2), stack_of, pair, at, source, unit, share, hold, np.array(tried))


def part_of(sheet: Sheet, item: Any, amounts: Floats, stacks: Sequence[Stack], place: Place) -> Part:
    """A part from what was computed of it.

    Raises:
        ValueError: If the sheet is of other stacks or another item.
    """
    sources: list[Source] = []
    for k, numbers in groupby(sheet.sources.tolist(), lambda s: s[0]):
        first = stacks[k].ways[0]
        batches = [] if item is None else batches_of(item, stacks[k], place)
        for _, number in numbers:
            batch = None if item is None else batches[number]
            example = None if batch is None else batch.setting(0, float(amounts[0]))
            both = first.both if example is None else example.both_arms
            sources.append(Source(item, batch, both, amounts, "" if example is None else use_of(example)))
    ways: list[Way] = []
    gathered: dict[str, list[Rows]] = {}
    for k, stack in enumerate(stacks):
        here = slice(*np.searchsorted(sheet.stack, [k, k + 1]))
        pair = sheet.pair[here]
        if len(pair):
            rows = _rows(stack, pair, *(v[here] for v in (sheet.at, sheet.source, sheet.unit, sheet.share, sheet.hold)))
            for g, pairs in stack.groups.items():
                inside = (pair >= pairs.start) & (pair < pairs.stop)
                if inside.any():
                    gathered.setdefault(g, []).append(rows.taken(inside).moved(np.arange(len(stack.ways)) + len(ways), 0))
        ways += stack.ways
    used = sorted({int(i) for rows in gathered.values() for r in rows for i in r.way})
    small = np.zeros(len(ways), dtype=int)
    small[used] = np.arange(len(used))
    rows_of = {g: Rows.joined(r).moved(small, 0) for g, r in gathered.items()}
    return Part([ways[i].job for i in used], sources, rows_of, int(sheet.tried))


Piece = tuple[Ints, Ints, Ints, Floats, Floats, Floats]
"""Of some rows: pairs of a stack, placements, sources, effort and force on the contact per unit of amount, with the greatest
amount that does not topple the client between these two."""


def _rows(stack: Stack, pair: Ints, at: Ints, source: Ints, unit: Singles, share: Singles, hold: Singles) -> Rows:
    """Rows of some pairs of a stack; ``unit`` (row, pose), the others (row,)."""
    spans = binned(stack.length, EDGES)[pair]
    own, capacity = stack.own[pair], stack.capacity[pair]
    shape: list[Any] = [np.einsum("rsp,rp->rs", spans, e * capacity).astype(np.float32) for e in (own, unit)]
    return Rows(stack.way[pair], source, at, own.astype(np.float32), unit, shape[0], shape[1], share, hold)


def _body_rows(stack: Stack) -> list[Piece]:
    """Rows of what the body's own weight does, where it is the load."""
    if stack.ways[0].motion.way.support == "seat":
        return []
    bare = np.array([w.load == 0 for w in stack.ways])[stack.way]
    pair = np.flatnonzero((stack.own.max(axis=1) > LEAST) & bare)
    none, zero = np.zeros_like(stack.own[pair]), np.zeros(len(pair), int)
    return [(pair, zero, zero, none, np.full(len(pair), np.inf), np.zeros((*none.shape, 3)))] if len(pair) else []


def _offered_rows(offer: Offer, stack: Stack, amounts: Floats, source: int) -> list[Piece]:
    """The placements of one offer that differ in what they ask, and that there is room for."""
    need = float(rules("reach")["need"])
    unit = asked(offer, stack)
    own = stack.own[:, None]
    inverse = (unit * (1.0 / np.maximum(need - own, 1e-3))).max(axis=-1)
    amount = np.clip(1.0 / np.maximum(inverse, 1e-9), amounts[0], amounts[-1])
    effort = np.maximum(own[..., list(PICKED)] + amount[..., None] * unit[..., list(PICKED)], 0.0)
    # Judged by four poses: a peak between them is no more than a little higher.
    peak = effort.max(axis=-1)
    valid = offer.kept.T[stack.way] & (peak > LEAST) & (unit.max(axis=-1) > 1e-9)
    pair, at = np.nonzero(valid)
    if not len(pair):
        return []
    levels = np.minimum((effort[pair, at] / peak[pair, at, None] * LEVELS).astype(int), LEVELS - 1)
    code = pair * LEVELS ** len(PICKED) + levels @ (LEVELS ** np.arange(len(PICKED)))
    force = offer.force[at, stack.way[pair]]
    feet_alone = np.array([stands(w.motion) for w in stack.ways])[stack.way[pair]]
    topples = toppling(force, stack.point[stack.way[pair], :, 2], offer.sides) * feet_alone
    # What tips least for what it does stands for its kind; a few more have a chance where it cuts through body or bench.
    order = np.lexsort(((topples + STEADY) / unit[pair, at].max(axis=-1), code))
    first = np.flatnonzero(np.diff(code[order], prepend=-1))
    chance = np.arange(len(order)) - np.repeat(first, np.diff(np.append(first, len(order))))
    best = order[first]
    best = best[_room(offer, stack, pair[best], at[best])]
    more = order[(chance > 0) & (chance < SECOND_CHANCES) & ~np.isin(code[order], code[best])]
    more = more[_room(offer, stack, pair[more], at[more])]
    order = np.concatenate([best, more[np.flatnonzero(np.diff(code[more], prepend=-1))]])
    pair, at, force = pair[order], at[order], force[order]
    hold = base_hold(stack.ways[0].motion.body) / np.maximum(topples[order], 1e-9)
    if not len(pair):
        return []
    return [(pair, at, np.full(len(pair), source), unit[pair, at], hold, force)]


def _room(offer: Offer, stack: Stack, pair: Ints, at: Ints) -> Bools:
    """Whether lines clear body and bench, (row,)."""
    far = offer.batch.law.far_end
    if far is None or not len(pair):
        return np.ones(len(pair), bool)
    way, end = stack.way[pair], np.broadcast_to(far, (offer.batch.count, 3))[at]
    first = stack.ways[0].motion
    kept = np.ones(len(pair), bool)
    if first.way.contact == "hand" and first.way.support == "seat":
        each = [Capsules.of(w.motion, 2) for w in stack.ways]
        lower, upper, hand = (np.stack([getattr(c, n) for c in each]) for n in ("lower", "upper", "hand"))
        kept &= Capsules(lower[way], upper[way], each[0].radius, hand[way]).room(end) >= 0
    on_bench = np.array([w.motion.stance.kind == "bench" for w in stack.ways])[way]
    recline = np.array([w.motion.stance.recline for w in stack.ways])[way]
    return np.asarray(kept & (~on_bench | (bench_gap(recline, end) >= 0)))


def _shares(stack: Stack, bears: Bools, pair: Ints, unit: Floats, force: Floats) -> Singles:
    """Part of the work that is the group's own at a working load, (row,), where it bears on both sides or not; see
    ``Motion.share``."""
    way_of = stack.way[pair]
    need = float(rules("reach")["need"])
    out = np.zeros(len(pair), np.float32)
    inverse = (unit * (1.0 / np.maximum(need - stack.own[pair], 1e-3))).max(axis=-1)
    pull = force * (1.0 / np.maximum(inverse, 1e-9) * (inverse > 1e-9))[:, None, None]
    both = bears & ~np.array([w.single for w in stack.ways])[way_of]
    groups = muscle_table().groups
    regions = np.empty(len(pair), dtype=object)
    member = {g: groups[g].weights > 0 for g in stack.groups}
    for g, pairs in stack.groups.items():
        regions[(pair >= pairs.start) & (pair < pairs.stop)] = groups[g].region
    for region, (place, work) in stack.work.items():
        named = [g for g in stack.groups if groups[g].region == region]
        belongs = np.stack([member[g] for g in named])
        of = np.zeros(len(stack.way), int)
        for k, g in enumerate(named):
            of[stack.groups[g]] = k
        for sides in (False, True):
            every = np.flatnonzero((regions == region) & (both == sides))
            for start in range(0, len(every), CHUNK):
                at = every[start : start + CHUNK]
                way = place[way_of[at]]
                moment = work.weight[way] + (work.moments[sides][way] @ pull[at][..., None])[..., 0]
                size = norm(moment)
                aligned = (work.leverage[way] @ (-moment / np.maximum(size, 1e-9)[..., None])[..., None])[..., 0]
                carried = work.strongest[way] * np.maximum(aligned, 0.0) ** 2
                mine = (carried * belongs[of[pair[at]]][:, None]).sum(axis=-1) / np.maximum(carried.sum(axis=-1), 1e-12)
                out[at] = (mine * size).sum(axis=-1) / np.maximum(size.sum(axis=-1), 1e-9)
    return np.asarray(out)
