"""How well a place can load a client: for every muscle and zone the best set-up, and what one purchase would add.

A first look that covers everything: every movement in a few ways, kit placed on a coarse grid, single load sources. The
match bench searches finer. What all set-ups of a kind share is computed for all movements at once: poses stand in one array
(variant, pose), placements before them, so that a column costs a handful of array operations.
"""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import cache, cached_property, lru_cache
from importlib.resources import files
from itertools import pairwise
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.clearance import bench_clearance, line_clearance, standing_hold
from oddswap.mechanics.motion import BINS, Motion, Push
from oddswap.mechanics.movements import Movement, Variant, movements
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.profile import SetUp, hinge_axis
from oddswap.mechanics.sources import Placements, Scene, Setting, kit_classes
from oddswap.mechanics.sources.band import RubberSection
from oddswap.mechanics.sources.barbell import PlatePair
from oddswap.mechanics.sources.station import NEEDED
from oddswap.mechanics.types import Bools, Floats, Ints
from oddswap.swaps.prescription import Place

ZONES = ("long", "middle", "short")
POSES = 9
"""Poses of a movement here: enough for means over thirds of a muscle's length."""
WAYS = 4
"""Ways of a movement that are looked at."""
KEPT = 3
"""Placements of a kit item, muscle and zone that are judged in full."""
LINES = ("cable_column", "band")
"""Kit that pulls along a line, and can be fixed to a leg."""
STACKED = (*LINES, "lever", "dumbbells", "barbell")
"""Kit whose placements do not hang on the movement, and so are computed for all movements at once."""


@cache
def settings() -> dict[str, Any]:
    """``data/reach.toml``."""
    return tomllib.loads((files("oddswap.swaps") / "data" / "reach.toml").read_text())


@dataclass(frozen=True)
class Demand:
    """What a muscle group makes of a force on the contact along one way.

    Args:
        own: Effort of the body's own weight, (pose,).
        lever: Effort per newton of a force on the contact, world, (pose, xyz), without what supports give back.
        capacity: N·m, (pose,).
        zones: Matrix (zone, pose).
    """

    own: Floats
    lever: Floats
    capacity: Floats
    zones: Floats


@dataclass(frozen=True)
class Way:
    """A movement in one way on its supports, ready to be loaded.

    Args:
        kind: The movement.
        variant: The way.
        motion: Led by this client.
        demands: By target group.
    """

    kind: Movement
    variant: Variant
    motion: Motion
    demands: dict[str, Demand]

    @property
    def title(self) -> str:
        """In words."""
        return self.kind.title(self.variant)

    @property
    def both(self) -> bool:
        """Whether both sides may work at once."""
        return not self.motion.way.one_side

    @property
    def single(self) -> bool:
        """Whether one point carries the load of both sides."""
        return self.motion.way.contact in ("back", "hips") or self.motion.way.one_side


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

    ``batch`` is None where the body is the load; ``existing`` are the amounts there are.
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

    @cached_property
    def bound(self) -> Floats:
        """Greatest score that each may have, 0 to 100, (option,)."""
        return np.asarray(100 * self.even * self.load * self.handicap)


def ways_of(body: Body, place: Place) -> list[Way]:
    """Every movement that the place's supports allow, each in at most ``WAYS`` ways."""
    benches = [k for k in place.kit if k.kind == "bench"]
    notches = tuple(sorted({n for b in benches for n in b.notches_deg}))
    pads = tuple(sorted({k.angle_deg for k in place.kit if k.kind == "arm_pad"}))
    stations = {k.use for k in place.kit if k.kind == "station"}
    machines = {k.movement for k in place.kit if k.kind == "machine"}
    seat = benches[0].seat_cm if benches else 45.0
    out = []
    for kind in movements().values():
        if kind.id in NEEDED and not stations & set(NEEDED[kind.id]):
            continue
        found = [replace(v, values=kind.complete(v.values)) for v in kind.variants(notches, pads)]
        found = [v for v in found if benches or v.stance not in ("bench", "chest_pad") or kind.id in machines]
        for i in sorted({round(k) for k in np.linspace(0, len(found) - 1, min(WAYS, len(found)))}):
            v = found[i]
            made = _led(body, kind.id, tuple(sorted(v.values.items())), v.stance, v.recline_deg, v.pad, seat)
            if made is not None and made.motion.joints["head"][:, 2].max() <= place.room.ceiling:
                out.append(made)
    return out


@lru_cache(2000)
def _led(
    body: Body, kind: str, values: tuple[tuple[str, float], ...], stance: str, recline: float, pad: bool, seat: float
) -> Way | None:
    movement = movements()[kind]
    variant = Variant(dict(values), stance, recline, pad)
    try:
        motion = SetUp(kind, (), variant.values, stance, recline, seat, pad).perform(body, POSES)
    except DomainError:
        return None  # out of this client's reach
    demands = {}
    for g in (muscle_table().groups[t] for t in movement.targets):
        if g.region in motion.regions:
            capacity = np.maximum(motion.capacity(g), 1e-6)
            lever = per_newton(motion, g) / capacity[:, None]
            demands[g.id] = Demand(motion.own_demand(g) / capacity, lever, capacity, zone_means(motion, g))
    return Way(movement, variant, motion, demands)


def per_newton(motion: Motion, group: Group) -> Floats:
    """Effective torque on a group per newton on the contact, m, world, (pose, xyz): moments are linear in the force."""
    point, contact = motion.point(motion.way.contact), motion.way.contact
    force = np.zeros((3, *point.shape))
    for axis in range(3):
        force[axis, :, axis] = 1.0
    moments = motion.moment(group.region, Push(contact, point, force, mirrored=False))
    return np.asarray(np.moveaxis(-dot(moments, motion.direction(group)), 0, -1))


def zone_means(motion: Motion, group: Group) -> Floats:
    """Matrix (zone, pose): means over the bins of each zone that any movement reaches; bins not reached here count zero.

    A muscle that no movement lets change its length, as the erectors', has one zone, the middle.
    """
    first, last = settings()["span"].get(group.id, (0, BINS))
    if last - first <= 2:
        even = np.full(len(motion.part), 1 / len(motion.part))
        return np.stack([0 * even, even, 0 * even])
    bins = motion.binning(group)
    edges = np.linspace(0, BINS, len(ZONES) + 1).astype(int)
    rows = []
    for a, b in pairwise(edges):
        low, high = max(a, first), min(b, last)
        # A zone that joints hardly let a muscle reach is held against what little there is of it.
        rows.append(bins[low:high].sum(axis=0) / (high - low) if high > low else np.zeros(bins.shape[1]))
    return np.stack(rows)


def judged_amounts(own: Floats, unit: Floats, existing: Floats) -> tuple[Floats, Floats]:
    """Amounts that ask for the needed effort at the hardest pose, within what exists, and the effort there.

    Args:
        own: (..., pose).
        unit: Effort per unit of amount, (placement..., pose).
        existing: What there is, ascending, (amount,).

    Returns:
        Amounts (placement...) and efforts, not below zero, (placement..., pose).
    """
    need = settings()["need"]
    room = np.where(unit > 1e-9, (need - own) / np.maximum(unit, 1e-9), np.inf).min(axis=-1)
    amount = np.clip(room, existing[0], existing[-1])
    return amount, np.maximum(own + amount[..., None] * unit, 0.0)


def zone_scores(effort: Floats, zones: Floats) -> tuple[Floats, Floats]:
    """Evenness per zone, 0 to 1, (..., zone), and part of the needed load, (...), of efforts (..., pose)."""
    need, most = settings()["need"], settings()["too_much"]
    peak = effort.max(axis=-1)
    even = (zones @ effort[..., None])[..., 0] / np.maximum(peak, 1e-6)[..., None]
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
    ways = ways_of(body, place) if ways is None else ways
    pending: list[tuple[Way, Options]] = []
    stacks = _alike(ways)
    items = distinct(place.kit)
    jobs = [(item, stack, existing) for item, existing in items if item.kind in STACKED for stack in stacks]
    # Arrays here are large enough that two items are worked on at a time.
    with ThreadPoolExecutor(2) as pool:
        for found in pool.map(lambda job: list(stacked_options(job[0], job[1], place, job[2])), jobs):
            pending += found
    for item, existing in items:
        for way in ways:
            # Machines hang on the movement; where supports give something back, a force goes through the whole body.
            if (item.kind not in STACKED or not _direct(way)) and fits(item, way):
                pending += followed_options(item, way, place, existing, list(way.demands))
    for way in ways:
        if way.motion.way.support != "seat":
            for g, d in way.demands.items():
                even, load = zone_scores(np.maximum(d.own, 0.0), d.zones)
                three, none = np.arange(3), np.zeros(3)
                pending.append((way, Options(None, none, 1.0, three * 0, none, [g] * 3, three, even, np.full(3, float(load)))))
    aimed_at = {t for m in movements().values() for t in m.targets}
    best = {(g.id, z): Cell(g, z) for g in muscle_table().groups.values() if g.id in aimed_at for z in range(len(ZONES))}
    # The likeliest first, so that most of the rest need no second look.
    for way, options in sorted(pending, key=lambda p: -float(p[1].bound.max())):
        judge(way, options, best)
    return list(best.values())


def _direct(way: Way) -> bool:
    """Whether a load on the contact comes to the muscles without what supports give back."""
    return way.motion.way.support == "seat" and way.motion.way.contact in ("hand", "shank")


def _alike(ways: Sequence[Way]) -> list[list[Way]]:
    """Ways for which lines propose the same placements: by contact, and by what bands may be held under."""
    out: dict[tuple[object, ...], list[Way]] = {}
    for w in ways:
        if _direct(w):
            out.setdefault((w.motion.way.contact, w.motion.stance.kind == "standing"), []).append(w)
    return list(out.values())


def distinct(kit: Sequence[Any]) -> list[tuple[Any, Floats]]:
    """Kit that can load a movement and its amounts, each only once: sets of bells count as one set, items that differ in name
    only as one item, and a column that a more versatile one covers is left out."""
    out: dict[object, tuple[Any, Floats]] = {}
    for item in kit:
        if not hasattr(item, "placements"):
            continue
        bells = item.kind == "dumbbells"
        like: object = (item.kind, item.pairs) if bells else repr(replace(item, id="-", name="-"))
        held = out.get(like)
        out[like] = (item, item.amounts()) if held is None else (held[0], np.union1d(held[1], item.amounts()))
    found = list(out.values())
    columns = sorted((i for i, _ in found if i.kind == "cable_column"), key=lambda c: (-c.columns, -c.holes, -_pull(c)[1]))
    kept: list[Any] = []
    for column in columns:
        if not any(_covers(other, column) for other in kept):
            kept.append(column)
    return [(i, a) for i, a in found if i.kind != "cable_column" or any(i is k for k in kept)]


def _pull(column: Any) -> tuple[float, float]:
    amounts = column.amounts()
    return float(amounts.min() * column.ratio), float(amounts.max() * column.ratio)


def _covers(one: Any, other: Any) -> bool:
    """Whether a map can do without the other column."""
    (low, high), (wanted_low, wanted_high) = _pull(one), _pull(other)
    enough = low <= 2.0 * wanted_low and high >= 0.75 * wanted_high
    heights = one.lowest_cm <= other.lowest_cm + 10 and one.highest_cm >= other.highest_cm - 10 and one.holes >= other.holes
    return bool(enough and heights and one.columns >= other.columns and (one.swivels or not other.swivels))


def fits(item: Any, way: Way) -> bool:
    """Whether a kind of kit can load a way at all."""
    contact, support = way.motion.way.contact, way.motion.way.support
    if item.kind == "machine":
        return bool(item.movement == way.kind.id)
    if item.kind == "assist":
        return False  # it takes load off; the map asks what can be put on
    if support not in ("seat", "feet", "two feet"):
        return item.kind == "barbell" and contact == "hips"  # the body is the load
    if item.kind in LINES:
        return contact == "shank" or (contact == "hand" and (support == "seat" or way.kind.id in settings()["pulled"]))
    return contact == "hand" or (item.kind == "barbell" and contact in ("back", "hips"))


def stacked_options(item: Any, ways: Sequence[Way], place: Place, existing: Floats) -> Iterator[tuple[Way, Options]]:
    """The likeliest placements of a line for each muscle and zone, over all ways of a stack."""
    first = ways[0].motion
    contact = first.way.contact
    if contact != "hand" and item.kind not in LINES:
        return
    # Bells come to any bench; a bench comes to a line only where it can be moved.
    moves = item.kind not in LINES or any(k.kind == "bench" and k.moveable for k in place.kit)
    moveable = np.array([moves or w.variant.stance not in ("bench", "chest_pad") for w in ways])
    point = np.stack([w.motion.point(contact) for w in ways])
    one_side = np.array([w.motion.way.one_side for w in ways])
    groups = sorted({g for w in ways for g in w.demands})
    both = item.kind not in LINES
    scene = Scene(first.body, first.stance, point[0], place.room, place.kit, both=both, contact=contact, coarse=True)
    for batch in item.placements(scene):
        kept = np.ones((batch.count, len(ways)), bool) & moveable
        if batch.setting(0, float(existing[0])).both_arms:
            kept &= ~one_side
        law = several(batch)
        for check in law.checks(point):
            kept &= check.kept
        force = law.force(point)
        for g in groups:
            where = [i for i, w in enumerate(ways) if g in w.demands]
            demands = [ways[i].demands[g] for i in where]
            own, lever, zones = (np.stack([getattr(d, name) for d in demands]) for name in ("own", "lever", "zones"))
            unit = (force[:, where] * lever).sum(axis=-1)
            amount, effort = judged_amounts(own, unit, existing)
            even, load = zone_scores(effort, zones)
            bound = even * (load * kept[:, where])[..., None]
            few = min(KEPT, bound.shape[0] * len(where))
            top = np.argpartition(-bound.reshape(-1, len(ZONES)), few - 1, axis=0)[:few]
            row, v = np.divmod(top, len(where))
            zone = np.broadcast_to(np.arange(len(ZONES)), top.shape)
            good = bound[row, v, zone] > settings()["worth"]
            row, v, zone = row[good], v[good], zone[good]
            for i in sorted(set(v.tolist())):
                r, z = row[v == i], zone[v == i]
                yield (
                    ways[where[i]],
                    Options(
                        batch,
                        existing,
                        handicap(item, ways[where[i]]),
                        r,
                        amount[r, i],
                        [g] * len(r),
                        z,
                        even[r, i, z],
                        load[r, i],
                    ),
                )


def several(batch: Placements) -> Any:
    """A batch's law with an axis for several ways after that of its placements."""
    law: Any = batch.law
    name = next((n for n in ("pulley", "anchor", "pivot") if hasattr(law, n)), None)
    return replace(law, **{name: getattr(law, name)[:, None]}) if name else law


def handicap(item: Any, way: Way) -> float:
    """Factor that lets the handier of two equal loads win."""
    bother = settings()["bother"]
    cuffed = item.kind in LINES and way.motion.way.contact != "hand"
    return 1.0 - float(bother.get(item.kind, 0.0)) - (float(bother["cuff"]) if cuffed else 0.0)


def scene_at(way: Way, place: Place) -> Scene:
    """What kit needs to know of a way to propose placements."""
    motion = way.motion
    return Scene(
        motion.body, motion.stance, motion.point(motion.way.contact), place.room, place.kit, way.both, way.kind.id,
        motion.way.contact, motion.joints[motion.movement.hinge], hinge_axis(motion), coarse=True,
    )  # fmt: skip


def followed_options(
    item: Any, way: Way, place: Place, existing: Floats, groups: Sequence[str]
) -> Iterator[tuple[Way, Options]]:
    """What a load makes of one way where it is followed through the whole body: weights, machines, and lines on the trunk."""
    motion = way.motion
    contact = motion.way.contact
    point = motion.point(contact)
    for batch in item.placements(scene_at(way, place)):
        law = batch.law
        kept = np.ones(batch.count, bool)
        for check in law.checks(point):
            kept &= np.atleast_1d(check.kept)
        force = np.broadcast_to(law.force(point), (batch.count, *point.shape))
        both = batch.setting(0, float(existing[0])).both_arms
        moments: dict[str, Floats] = {}
        for g in groups:
            d, group = way.demands[g], muscle_table().groups[g]
            if group.region not in moments:
                moments |= answered(motion, Push(contact, point, force, mirrored=both and not way.single), group.region)
            unit = -dot(moments[group.region], motion.direction(group)) / d.capacity
            amount, effort = judged_amounts(d.own, unit, existing)
            even, load = zone_scores(effort, d.zones)
            bound = even * (load * kept)[:, None]
            top = np.argsort(-bound, axis=0)[:KEPT]
            zone = np.broadcast_to(np.arange(len(ZONES)), top.shape)
            good = bound[top, zone] > settings()["worth"]
            r, z = top[good], zone[good]
            if len(r):
                yield way, Options(batch, existing, handicap(item, way), r, amount[r], [g] * len(r), z, even[r, z], load[r])


def answered(motion: Motion, push: Push, region: str) -> dict[str, Floats]:
    """Moments of a load on a region, N·m, and on the others where the supports' answer is computed for all anyway."""
    return {region: motion.moment(region, push)} if motion.way.support == "seat" else motion.response(push)


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
        contact = motion.way.contact
        force = pulled(way, options, rows)
        both = batch.setting(0, float(options.existing[0])).both_arms
        push = Push(contact, motion.point(contact), force, mirrored=both and not way.single)
        moment = moment + answered(motion, push, group.region)[group.region]
    fair = float(settings()["small_share"].get(group.id, settings()["fair_share"]))
    share = np.atleast_1d(motion.share(group, moment)) / fair
    return np.broadcast_to(np.minimum(1.0, share), (len(rows),))


def pulled(way: Way, options: Options, rows: Ints) -> Floats:
    """Forces on the contact of some options, N, (row, pose, xyz)."""
    assert options.batch is not None
    at, point = options.row[rows], way.motion.point(way.motion.way.contact)
    law: Any = options.batch.law
    name = next((n for n in ("pulley", "anchor", "pivot") if hasattr(law, n)), None)
    law = replace(law, **{name: getattr(law, name)[at]}) if name else law
    return np.asarray(np.broadcast_to(law.force(point), (len(at), *point.shape)) * options.amount[rows][:, None, None])


def within_reach(way: Way, options: Options, rows: Ints) -> Bools:
    """Whether lines clear body and bench and leave a standing client standing, (row,)."""
    motion, batch = way.motion, options.batch
    if batch is None or batch.law.far_end is None:
        return np.ones(len(rows), bool)
    far = batch.law.far_end[options.row[rows]]
    both = batch.setting(0, float(options.existing[0])).both_arms
    kept = (bench_clearance(motion, far) >= 0) & (standing_hold(motion, pulled(way, options, rows), both) >= 0)
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
