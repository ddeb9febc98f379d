"""How well a place can load a client: for every muscle and zone the best set-up, and what one purchase would add.

A first look that covers everything: every movement in a few ways, kit placed on a coarse grid, single load sources. The
match bench searches finer. What all set-ups of a kind share is computed for all movements at once: poses stand in one array
(variant, pose), placements before them, so that a column costs a handful of array operations.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np

from oddswap.equipment import kit_classes
from oddswap.equipment.band import RubberSection
from oddswap.equipment.barbell import PlatePair
from oddswap.equipment.protocols import Placements, Setting
from oddswap.equivalence.kit import distinct, handicap
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import Stack, Way, alone, answered, asked, offers, stacks_of, supported, ways_of
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import bench_clearance, line_clearance, standing_hold
from oddswap.mechanics.motion import BINS, Push, binned
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.types import Bools, Floats, Ints

ZONES = ("long", "middle", "short")
WAYS = 4
"""Ways of a movement that are looked at."""
KEPT = 3
"""Placements of a kit item, muscle and zone that are judged in full."""


def settings() -> dict[str, Any]:
    """``data/reach.toml``."""
    return rules("reach")


@dataclass(frozen=True)
class Cell:
    """A muscle in a zone at a place.

    Args:
        group: The muscle group.
        zone: Index into ``ZONES``.
        match: Likeness of the best set-up to a full, even load over the zone, 0 to 100.
        load: Part of the load the client needs that it can give, 0 to 1.
        share: Part of the work that is the muscle's own, against a fair part, 0 to 1.
        way: The best set-up's way; None where nothing loads the zone.
        setting: Its load source; None where the body is the load.
    """

    group: Group
    zone: int
    match: float = 0.0
    load: float = 0.0
    share: float = 0.0
    way: Way | None = None
    setting: Setting | None = None

    @property
    def score(self) -> float:
        """All of it together, 0 to 100."""
        return self.match * self.load * self.share

    @property
    def possible(self) -> bool:
        """Whether any movement takes the muscle into this zone."""
        first, last = settings()["span"].get(self.group.id, (0, BINS))
        third = BINS // len(ZONES)
        inside = min(last, (self.zone + 1) * third) - max(first, self.zone * third)
        return bool(inside >= settings()["least_bins"] if last - first > 2 else self.zone == 1)


@dataclass(frozen=True)
class Options:
    """Placements of one batch that may be best for some muscle and zone of one way; all (option,).

    ``batch`` is None where the body is the load; ``existing`` are the amounts there are; ``force`` is on the contact at the
    amount, N, (option, pose, xyz).
    """

    batch: Placements | None
    existing: Floats
    handicap: float
    row: Ints
    amount: Floats
    group: list[str]
    zone: Ints
    even: Floats
    load: Floats
    force: Floats

    @cached_property
    def bound(self) -> Floats:
        """Greatest score that each may have, 0 to 100, (option,)."""
        return np.asarray(100 * self.even * self.load * self.handicap)

    @cached_property
    def likeliest(self) -> float:
        """The greatest of them."""
        return float(self.bound.max())


def zone_means(group: str, length: Floats) -> Floats:
    """Matrices (way, zone, pose): means over the bins of each zone that any movement reaches; bins not reached count zero.

    A muscle that no movement lets change its length, as the erectors', has one zone, the middle.

    Args:
        group: Id of the muscle group.
        length: Its normalised lengths, (way, pose).
    """
    first, last = settings()["span"].get(group, (0, BINS))
    if last - first <= 2:
        even = np.full(length.shape, 1 / length.shape[1])
        return np.stack([0 * even, even, 0 * even], axis=1)
    edges = np.linspace(0, BINS, len(ZONES) + 1).astype(int)
    bounds = sorted({0, BINS, first, last, *edges.tolist()})
    sums = binned(length, bounds)
    out = []
    for a, b in pairwise(edges):
        low, high = max(a, first), min(b, last)
        inside = [i for i, x in enumerate(bounds[:-1]) if low <= x < high]
        # A zone that joints hardly let a muscle reach is held against what little there is of it.
        out.append(sums[:, inside].sum(axis=1) / max(high - low, 1))
    return np.stack(out, axis=1)


def judged_amounts(own: Floats, unit: Floats, existing: Floats) -> tuple[Floats, Floats]:
    """Amounts that ask for the needed effort at the hardest pose, within what exists, and the effort there.

    Args:
        own: (..., pose), broadcast against ``unit``.
        unit: Effort per unit of amount, (..., pose).
        existing: What there is, ascending, (amount,).

    Returns:
        Amounts (...) and efforts, not below zero, (..., pose).
    """
    # The amount is the least over poses of what is still to be asked over what a unit asks; its inverse is the greatest.
    wanting = 1.0 / np.maximum(settings()["need"] - own, 1e-3)
    amount = np.clip(1.0 / np.maximum((unit * wanting).max(axis=-1), 1e-9), existing[0], existing[-1])
    effort = amount[..., None] * unit
    effort += own
    return amount, np.maximum(effort, 0.0, out=effort)


def zone_scores(effort: Floats, zones: Floats) -> tuple[Floats, Floats]:
    """Evenness per zone, 0 to 1, (..., row, zone), and part of the needed load, (..., row).

    Args:
        effort: (..., row, pose).
        zones: Matrices (..., zone, pose).
    """
    need, most = settings()["need"], settings()["too_much"]
    peak = effort.max(axis=-1)
    even = effort @ np.swapaxes(zones, -1, -2) / np.maximum(peak, 1e-6)[..., None]
    load = np.where(peak > most, 0.0, np.minimum(peak / need, 1.0))
    return np.minimum(even, 1.0), np.asarray(load)


def reach(body: Body, place: Place, ways: Sequence[Way] | None = None) -> list[Cell]:
    """The reach map: a cell for every muscle group and zone that any movement is for.

    Args:
        body: The client.
        place: Where.
        ways: What its supports allow, if known already.
    """
    place.verify()
    ways = ways_of(body, place, supported(place, WAYS)) if ways is None else ways
    pending: list[tuple[Way, Options]] = []
    items = distinct(place.kit)
    stacks = stacks_of(ways, hands=False)
    zones = [zones_of(stack) for stack in stacks]
    known = {key: every[i] for stack, every in zip(stacks, zones, strict=True) for i, key in enumerate(_pairs(stack))}
    for item, existing in items:
        built_for = alone(ways, [item.movement]) if item.kind == "machine" else None
        for i, stack in enumerate(stacks if built_for is None else built_for):
            own = zones[i] if built_for is None else np.stack([known[key] for key in _pairs(stack)])
            pending += options_of(item, stack, own, place, existing)
    for stack, every in zip(stacks, zones, strict=True):
        if stack.ways[0].motion.way.support != "seat":
            pending += _bodies(stack, every)
    aimed_at = {t for m in movements().values() for t in m.targets}
    best = {(g.id, z): Cell(g, z) for g in muscle_table().groups.values() if g.id in aimed_at for z in range(len(ZONES))}
    # The likeliest first, so that most of the rest need no second look.
    for way, options in sorted(pending, key=lambda p: -p[1].likeliest):
        judge(way, options, best)
    return list(best.values())


def _bodies(stack: Stack, zones: Floats) -> Iterator[tuple[Way, Options]]:
    """What the body's own weight does along ways that carry it."""
    three, none = np.arange(3), np.zeros(3)
    for g, pairs in stack.groups.items():
        for i in range(pairs.start, pairs.stop):
            (even,), (load,) = zone_scores(np.maximum(stack.own[i], 0.0)[None], zones[i])
            way, full = stack.ways[stack.way[i]], np.full(3, float(load))
            if way.load:
                continue
            yield way, Options(None, none, 1.0, three * 0, none, [g] * 3, three, even, full, none)


def _pairs(stack: Stack) -> list[tuple[int, str]]:
    """The way, by its id, and the muscle group of every pair of a stack."""
    return [(id(stack.ways[stack.way[i]]), g) for g, at in stack.groups.items() for i in range(at.start, at.stop)]


def zones_of(stack: Stack) -> Floats:
    """Matrices (pair, zone, pose) of a stack."""
    return np.concatenate([zone_means(g, stack.length[pairs]) for g, pairs in stack.groups.items()])


def options_of(item: Any, stack: Stack, zones: Floats, place: Place, existing: Floats) -> Iterator[tuple[Way, Options]]:
    """The likeliest placements of an item for each muscle and zone, over all ways of a stack."""
    for offer in offers(item, stack, place, float(existing[0]), coarse=True):
        unit = asked(offer, stack)
        amount, effort = judged_amounts(stack.own[:, None], unit, existing)
        even, load = zone_scores(effort, zones)
        bound = even * (load * offer.kept.T[stack.way])[..., None]
        for g, pairs in stack.groups.items():
            scores = bound[pairs].reshape(-1, len(ZONES))
            top = np.argpartition(-scores, min(KEPT, len(scores)) - 1, axis=0)[:KEPT]
            zone = np.broadcast_to(np.arange(len(ZONES)), top.shape)
            good = scores[top, zone] > settings()["worth"]
            pair, row = np.divmod(top[good], bound.shape[1])
            pair, zone = pair + pairs.start, zone[good]
            for i in sorted(set(pair.tolist())):
                r, z = row[pair == i], zone[pair == i]
                way, kg = stack.ways[stack.way[i]], amount[i, r]
                bother, pull = handicap(item, way), offer.force[r, stack.way[i]] * kg[:, None, None]
                yield way, Options(offer.batch, existing, bother, r, kg, [g] * len(r), z, even[i, r, z], load[i, r], pull)


def judge(way: Way, options: Options, best: dict[tuple[str, int], Cell]) -> None:
    """Put an option in its cell where it is better than what is there, once its pull is known to be had."""
    held = np.array([best[g, z].score for g, z in zip(options.group, options.zone, strict=True)])
    rows = np.flatnonzero(options.bound > held)
    if not len(rows):
        return
    share = options.handicap * fair_shares(way, options, rows)
    better = options.bound[rows] / options.handicap * share > held[rows]
    if not better.any():
        return
    rows, share = rows[better], share[better]
    for k, part, kept in zip(rows, share, within_reach(way, options, rows), strict=True):
        key = options.group[int(k)], int(options.zone[k])
        if kept and 100 * options.even[k] * options.load[k] * part > best[key].score:
            near = options.existing[np.abs(options.existing - options.amount[k]).argmin()]
            made = options.batch.setting(int(options.row[k]), float(near)) if options.batch else None
            even, load = float(options.even[k]), float(options.load[k])
            best[key] = Cell(best[key].group, key[1], 100 * even, load, float(part), way, made)


def fair_shares(way: Way, options: Options, rows: Ints) -> Floats:
    """Part of the work that is the group's own against a fair part, at most 1, (row,)."""
    motion, batch = way.motion, options.batch
    group = muscle_table().groups[options.group[0]]
    moment = motion.weight_moment[group.region]
    if batch is not None:
        both = batch.setting(0, float(options.existing[0])).both_arms
        push = Push(motion.way.contact, way.point, options.force[rows], mirrored=both and not way.single)
        moment = moment + answered(motion, push, group.region)[group.region]
    fair = float(settings()["small_share"].get(group.id, settings()["fair_share"]))
    share = np.atleast_1d(motion.share(group, moment)) / fair
    return np.broadcast_to(np.minimum(1.0, share), (len(rows),))


def within_reach(way: Way, options: Options, rows: Ints) -> Bools:
    """Whether lines clear body and bench and leave a standing client standing, (row,)."""
    motion, batch = way.motion, options.batch
    if batch is None or batch.law.far_end is None:
        return np.ones(len(rows), bool)
    far = batch.law.far_end[options.row[rows]]
    both = batch.setting(0, float(options.existing[0])).both_arms
    kept = (bench_clearance(motion, far) >= 0) & (standing_hold(motion, options.force[rows], both) >= 0)
    if motion.way.contact == "hand" and motion.way.support == "seat":
        kept &= line_clearance(motion, far) >= 0
    return np.asarray(kept)


def gap_words(cell: Cell) -> str:
    """Why a cell is weak, in words; empty where it is not."""
    if cell.score >= settings()["fair"] or not cell.possible:
        return ""
    where = "in mid-range" if cell.zone == 1 else f"at the {ZONES[cell.zone]} end"
    what = f"{cell.group.name} {where}"
    if cell.way is None:
        return f"nothing here loads {what}"
    if cell.load < 0.7:
        most = f"{cell.load:.0%} of what this client needs"
        return f"too light here for {what}: {most} at best"
    if cell.share < 0.7:
        return f"here other muscles do most of the work of {what}"
    return f"here {what} are loaded unevenly at best"


def _bought(entry: dict[str, Any]) -> Any:
    """A kit item of the generic list; records stand there as plain lists."""
    records: dict[str, Callable[[Any], Any]] = {
        "section": lambda v: RubberSection(*v), "plates": lambda v: [PlatePair(*p) for p in v],
    }  # fmt: skip
    values = {k: records[k](v) if k in records else v for k, v in entry.items() if k != "kind"}
    return kit_classes()[entry["kind"]](**values)


@dataclass(frozen=True)
class Purchase:
    """What one purchase would do for a place.

    Args:
        id: Name in data.
        name: Name for people.
        gain: Sum of what it adds to all cells, points.
        closes: Cells that would be fair with it and are not without, best first.
        cells: Its own best cells by group and zone.
    """

    id: str
    name: str
    gain: float
    closes: Sequence[Cell]
    cells: dict[tuple[str, int], Cell]


def purchases(
    body: Body, place: Place, cells: Sequence[Cell], progress: Callable[[float], None] = lambda part: None
) -> list[Purchase]:
    """What each purchase of the generic list would add, most useful first.

    A map with more kit is the better of two maps, so that only the purchase with the place's supports is computed.

    Args:
        body: The client.
        place: Where.
        cells: Its map as it is.
        progress: Told the part done, 0 to 1.
    """
    carriers = [k for k in place.kit if not hasattr(k, "placements")]
    fair, out = settings()["fair"], []
    offered = settings()["purchase"]
    for i, (name, entry) in enumerate(offered.items()):
        items = [_bought(k) for k in entry["kit"]]
        carries = all(not hasattr(item, "placements") for item in items)
        held = list(place.kit) if carries else carriers
        with_it = reach(body, replace(place, kit=[*held, *items]))
        better = {(c.group.id, c.zone): c for c in with_it}
        gains = [(better[c.group.id, c.zone].score - c.score, c) for c in cells]
        closes = [better[c.group.id, c.zone] for g, c in sorted(gains, key=lambda p: -p[0])
                  if c.score < fair <= better[c.group.id, c.zone].score]  # fmt: skip
        out.append(Purchase(name, entry["name"], float(sum(max(0.0, g) for g, _ in gains)), closes, better))
        progress((i + 1) / len(offered))
    return sorted(out, key=lambda p: (-len(p.closes), -p.gain))
