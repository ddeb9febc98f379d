"""The reach table: what every set-up that a client and a place allow asks of its muscles, computed once.

Mapping a line to a place is then comparison, not simulation. Placements that ask alike of a muscle stand in one row, the one
that tips the client least; a column's five hundred placements leave some twenty. What belongs to one item of kit is a part of
its own, so that a changed item costs only its part.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, fields, replace
from typing import Any

import numpy as np

from oddswap.mechanics.arm import norm
from oddswap.mechanics.body import GRAVITY, Body, tables
from oddswap.mechanics.clearance import Capsules
from oddswap.mechanics.motion import BINS, binned
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.sources import Placements
from oddswap.mechanics.types import Bools, Floats, Ints
from oddswap.swaps.kit import distinct
from oddswap.swaps.match import rules
from oddswap.swaps.prescription import Place
from oddswap.swaps.ways import Job, Offer, Stack, Way, alone, asked, offers, stacks_of, supported, ways_of

SPANS = 12
"""Spans of a muscle's length that load shapes are compared in."""
EDGES = tuple(range(0, BINS + 1, BINS // SPANS))
PICKED, LEVELS = (0, 3, 5, 8), 4
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

        def made(i: int) -> Part:
            item, amounts = loads[i]
            return part_of(item, amounts, single[item.movement] if getattr(item, "kind", "") == "machine" else stacks, place)

        # Arrays here are large, and array operations let go of the lock: two items at a time.
        with ThreadPoolExecutor(2) as pool:
            for n, (i, part) in enumerate(zip(missing, pool.map(made, missing), strict=True)):
                known[keys[i]] = part
                progress((n + 1) / len(missing))
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


def part_of(item: Any, amounts: Floats, stacks: Sequence[Stack], place: Place) -> Part:
    """All set-ups with one item, or those of the body alone for None."""
    sources: list[Source] = []
    ways: list[Way] = []
    gathered: dict[str, list[Rows]] = {}
    tried = 0
    for stack in stacks:
        pieces = [_body_rows(stack)] if item is None else []
        if item is None:
            sources.append(Source(None, None, stack.ways[0].both, np.zeros(1)))
        else:
            for offer in offers(item, stack, place, float(amounts[0]), coarse=False):
                tried += offer.kept.size
                pieces.append(_offered_rows(offer, stack, amounts, len(sources)))
                example = offer.batch.setting(0, float(amounts[0]))
                use = str(getattr(example, "use", "") or getattr(example, "anchor", "") or getattr(example, "hands", ""))
                sources.append(Source(item, offer.batch, offer.sides, amounts, use))
        if item is None and pieces[0] is not None:
            pieces = [replace_source(pieces[0], len(sources) - 1)]
        kept = [p for p in pieces if p is not None and len(p[1])]
        if kept:
            pair = np.concatenate([p[0] for p in kept])
            rows = Rows.joined([p[1] for p in kept])
            force = np.concatenate([p[2] for p in kept])
            rows = replace(rows, share=_shares(stack, sources, pair, rows, force))
            for g, pairs in stack.groups.items():
                inside = (pair >= pairs.start) & (pair < pairs.stop)
                if inside.any():
                    gathered.setdefault(g, []).append(rows.taken(inside).moved(np.arange(len(stack.ways)) + len(ways), 0))
        ways += stack.ways
    used = sorted({int(i) for rows in gathered.values() for r in rows for i in r.way})
    small = np.zeros(len(ways), dtype=int)
    small[used] = np.arange(len(used))
    rows_of = {g: Rows.joined(r).moved(small, 0) for g, r in gathered.items()}
    return Part([ways[i].job for i in used], sources, rows_of, tried)


Piece = tuple[Ints, Rows, Floats]
"""Pairs of a stack, their rows, and forces on the contact per unit of amount, (row, pose, xyz)."""


def replace_source(piece: Piece, source: int) -> Piece:
    """A piece whose rows come from another source."""
    pair, rows, force = piece
    return pair, replace(rows, source=np.full(len(rows), source)), force


def _rows(stack: Stack, pair: Ints, at: Ints, source: int, unit: Floats, hold: Floats) -> Rows:
    """Rows of some pairs of a stack, shares still to come; ``unit`` (row, pose), ``hold`` (row,)."""
    spans = binned(stack.length, EDGES)[pair]
    own, capacity = stack.own[pair], stack.capacity[pair]
    shape: list[Any] = [np.einsum("rsp,rp->rs", spans, e * capacity).astype(np.float32) for e in (own, unit)]
    none, where = np.zeros(len(pair)), np.full(len(pair), source)
    single: list[Any] = [np.asarray(v, np.float32) for v in (own, unit, hold)]
    return Rows(stack.way[pair], where, at, single[0], single[1], shape[0], shape[1], none, single[2])


def _body_rows(stack: Stack) -> Piece | None:
    """Rows of what the body's own weight does, where it is the load."""
    if stack.ways[0].motion.way.support == "seat":
        return None
    bare = np.array([w.load == 0 for w in stack.ways])[stack.way]
    pair = np.flatnonzero((stack.own.max(axis=1) > LEAST) & bare)
    none = np.zeros_like(stack.own[pair])
    rows = _rows(stack, pair, np.zeros(len(pair), int), 0, none, np.full(len(pair), np.inf))
    return pair, rows, np.zeros((*none.shape, 3))


def _offered_rows(offer: Offer, stack: Stack, amounts: Floats, source: int) -> Piece | None:
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
        return None
    levels = np.minimum((effort[pair, at] / peak[pair, at, None] * LEVELS).astype(int), LEVELS - 1)
    code = pair * LEVELS ** len(PICKED) + levels @ (LEVELS ** np.arange(len(PICKED)))
    force = offer.force[at, stack.way[pair]]
    topples = _topples(stack, offer.sides, pair, force)
    # What tips least for what it does stands for its kind; a few more have a chance where it cuts through body or bench.
    order = np.lexsort(((topples + STEADY) / unit[pair, at].max(axis=-1), code))
    first = np.flatnonzero(np.diff(code[order], prepend=-1))
    place_in = np.arange(len(order)) - np.repeat(first, np.diff(np.append(first, len(order))))
    order = order[place_in < SECOND_CHANCES]
    order = order[_room(offer, stack, pair[order], at[order])]
    order = order[np.flatnonzero(np.diff(code[order], prepend=-1))]
    pair, at, force = pair[order], at[order], force[order]
    body, base = stack.ways[0].motion.body, tables()["balance"]["half_base"]
    hold = body.mass * GRAVITY * base * body.stature / np.maximum(topples[order], 1e-9)
    rows = _rows(stack, pair, at, source, unit[pair, at], hold)
    return pair, rows, force


def _topples(stack: Stack, both: bool, pair: Ints, force: Floats) -> Floats:
    """Greatest toppling moment per unit of amount, N·m, (row,); zero where nobody stands, see ``standing_hold``."""
    stands = np.array([w.motion.stance.kind == "standing" and w.motion.way.support == "seat" for w in stack.ways])
    level = 2 * np.abs(force[..., 0]) if both else np.hypot(force[..., 0], force[..., 1])
    height = stack.point[stack.way[pair], :, 2]
    return np.asarray((level * height).max(axis=-1) * stands[stack.way[pair]])


def _room(offer: Offer, stack: Stack, pair: Ints, at: Ints) -> Bools:
    """Whether lines clear body and bench, (row,)."""
    far = offer.batch.law.far_end
    if far is None or not len(pair):
        return np.ones(len(pair), bool)
    way, end = stack.way[pair], np.broadcast_to(far, (offer.batch.count, 3))[at]
    first = stack.ways[0].motion
    kept = np.ones(len(pair), bool)
    if first.way.contact == "hand" and first.way.support == "seat":
        each = [Capsules.of(w.motion) for w in stack.ways]
        lower, upper, hand = (np.stack([getattr(c, n) for c in each]) for n in ("lower", "upper", "hand"))
        kept &= Capsules(lower[way], upper[way], each[0].radius, hand[way]).room(end) >= 0
    bench = tables()["bench"]
    on_bench = np.array([w.motion.stance.kind == "bench" for w in stack.ways])[way]
    recline = np.array([w.motion.stance.recline for w in stack.ways])[way]
    back = bench["rest"] * np.cos(recline) + bench["behind"]
    beyond = np.maximum(end[:, 0] - bench["front"], -back - end[:, 0])
    beyond = np.maximum(beyond, np.abs(end[:, 1]) - bench["half_width"])
    return np.asarray(kept & (~on_bench | (beyond >= bench["column"])))


def _shares(stack: Stack, sources: Sequence[Source], pair: Ints, rows: Rows, force: Floats) -> Floats:
    """Part of the work that is the group's own at a working load, (row,); see ``Motion.share``."""
    need = float(rules("reach")["need"])
    out = np.zeros(len(pair), np.float32)
    inverse = (rows.unit * (1.0 / np.maximum(need - rows.own, 1e-3))).max(axis=-1)
    pull = force * (1.0 / np.maximum(inverse, 1e-9) * (inverse > 1e-9))[:, None, None]
    single = np.array([w.single for w in stack.ways])[rows.way]
    both = np.array([s.both for s in sources])[rows.source] & ~single
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
                way = place[rows.way[at]]
                moment = work.weight[way] + (work.moments[sides][way] @ pull[at][..., None])[..., 0]
                size = norm(moment)
                aligned = (work.leverage[way] @ (-moment / np.maximum(size, 1e-9)[..., None])[..., None])[..., 0]
                carried = work.strongest[way] * np.maximum(aligned, 0.0) ** 2
                mine = (carried * belongs[of[pair[at]]][:, None]).sum(axis=-1) / np.maximum(carried.sum(axis=-1), 1e-12)
                out[at] = (mine * size).sum(axis=-1) / np.maximum(size.sum(axis=-1), 1e-9)
    return np.asarray(out)
