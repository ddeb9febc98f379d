"""How well a place can load a client: for every muscle and zone the best set-up, and what one purchase would add.

A first look that covers everything: every movement in a few variants, kit placed on a coarse grid, single load sources. The
match bench searches finer. What all set-ups of a kind share is computed for all movements at once: poses stand in one array
(variant, pose), placements before them, so that a column costs a handful of array operations.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np

from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equivalence.kit import distinct_items
from oddswap.equivalence.loads import equal_effort
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.response import response
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import setup_cost
from oddswap.equivalence.set_up import law_on
from oddswap.equivalence.variant_batch import VariantBatch, effort_per_unit, group_variants, kit_uses, single_variant_batches
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import VariantMechanics, mechanics_of, variants_at
from oddswap.errors import DomainError
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.mechanics.lengths import BINS, bin_matrices
from oddswap.mechanics.limits import placement_limits
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.types import Bools, Floats, Ints

ZONES = ("lengthened", "mid", "shortened")
VARIANTS_LOOKED_AT = 4
"""Variants of a movement that are looked at."""
NEARLY = 0.15
"""How far under the effort that a cell stands for its set-up may lie once its own load leads the limbs."""
KEPT = 10
"""Placements of a kit item, muscle and zone that are computed in full."""


def coverage_rules() -> dict[str, Any]:
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
        mechanics: The best set-up's variant; None where nothing loads the zone.
        setting: Its load source; None where the body is the load.
    """

    group: Group
    zone: int
    match: float = 0.0
    load: float = 0.0
    share: float = 0.0
    mechanics: VariantMechanics | None = None
    setting: Setting | None = None

    @property
    def score(self) -> float:
        """All of it together, 0 to 100."""
        return self.match * self.load * self.share

    @property
    def possible(self) -> bool:
        """Whether any movement takes the muscle into this zone."""
        first, last = coverage_rules()["span"].get(self.group.id, (0, BINS))
        third = BINS // len(ZONES)
        inside = min(last, (self.zone + 1) * third) - max(first, self.zone * third)
        return bool(inside >= coverage_rules()["least_bins"] if last - first > 2 else self.zone == 1)


@dataclass(frozen=True)
class Options:
    """Placements of one batch that may be best for some muscle and zone of one variant; all (option,).

    ``batch`` is None where the body is the load; ``existing`` are the amounts there are; ``force`` is on the contact at the
    amount, N, (option, pose, xyz); ``farthest`` is how far off the room allows a line to reach, m.
    """

    batch: Placements | None
    existing: Floats
    setup_factor: float
    row: Ints
    amount: Floats
    group: list[str]
    zone: Ints
    even: Floats
    load: Floats
    force: Floats
    farthest: float = np.inf

    @cached_property
    def bound(self) -> Floats:
        """Greatest score that each may have, 0 to 100, (option,)."""
        return np.asarray(100 * self.even * self.load * self.setup_factor)

    @cached_property
    def likeliest(self) -> float:
        """The greatest bound on a score among them, 0 to 100."""
        return float(self.bound.max())


def zone_means(group: str, length: Floats) -> Floats:
    """Matrices (variant, zone, pose): means over the bins of each zone that any movement reaches; bins not reached count zero.

    A muscle that no movement lets change its length, as the erectors', has one zone, the middle.

    Args:
        group: Id of the muscle group.
        length: Its normalised lengths, (variant, pose).
    """
    first, last = coverage_rules()["span"].get(group, (0, BINS))
    if last - first <= 2:
        even = np.full(length.shape, 1 / length.shape[1])
        return np.stack([0 * even, even, 0 * even], axis=1)
    edges = np.linspace(0, BINS, len(ZONES) + 1).astype(int)
    bounds = sorted({0, BINS, first, last, *edges.tolist()})
    totals = bin_matrices(length, bounds)
    out = []
    for a, b in pairwise(edges):
        low, high = max(a, first), min(b, last)
        inside = [i for i, x in enumerate(bounds[:-1]) if low <= x < high]
        # A zone that joints hardly let a muscle reach is held against what little there is of it.
        out.append(totals[:, inside].sum(axis=1) / max(high - low, 1))
    return np.stack(out, axis=1)


def needed_amounts(own: Floats, unit: Floats, existing: Floats) -> tuple[Floats, Floats]:
    """Amounts that ask for the needed effort at the hardest pose, within what exists, and the effort there.

    Args:
        own: Relative effort without the source, (..., pose), broadcast against ``unit``.
        unit: Relative effort per unit of amount, (..., pose).
        existing: What there is, ascending, (amount,).

    Returns:
        Amounts (...) and relative efforts, not below zero, (..., pose).
    """
    amount = np.clip(equal_effort(own, unit, coverage_rules()["need"]), existing[0], existing[-1])
    effort = amount[..., None] * unit
    effort += own
    return amount, np.maximum(effort, 0.0, out=effort)


def zone_scores(relative_effort: Floats, zones: Floats) -> tuple[Floats, Floats]:
    """Evenness per zone, 0 to 1, (..., row, zone), and part of the needed load, (..., row).

    Args:
        relative_effort: (..., row, pose).
        zones: Matrices (..., zone, pose).
    """
    need, most = coverage_rules()["need"], coverage_rules()["too_much"]
    peak = relative_effort.max(axis=-1)
    even = relative_effort @ np.swapaxes(zones, -1, -2) / np.maximum(peak, 1e-6)[..., None]
    load = np.where(peak > most, 0.0, np.minimum(peak / need, 1.0))
    return np.minimum(even, 1.0), np.asarray(load)


def reach(
    body: Body,
    place: Place,
    variants: Sequence[VariantMechanics] | None = None,
    progress: Callable[[float], None] = lambda part: None,
) -> list[Cell]:
    """The reach map: a cell for every muscle group and zone that any movement is for.

    Args:
        body: The client.
        place: Where.
        variants: What its supports allow, if known already.
        progress: Told the part done, 0 to 1.
    """
    place.verify()
    variants = variants_at(body, place, list_variant_keys(place, VARIANTS_LOOKED_AT)) if variants is None else variants
    pending: list[tuple[VariantMechanics, Options]] = []
    items = distinct_items(place.kit)
    variant_batches = group_variants(variants, by_hands=False)
    zones = [zones_of(variant_batch) for variant_batch in variant_batches]
    known = {
        key: every[i]
        for variant_batch, every in zip(variant_batches, zones, strict=True)
        for i, key in enumerate(_pairs(variant_batch))
    }
    for n, (item, existing) in enumerate(items):
        progress(0.8 * n / len(items))
        built_for = single_variant_batches(variants, item.built_for) if item.built_for else None
        for i, variant_batch in enumerate(variant_batches if built_for is None else built_for):
            own = zones[i] if built_for is None else np.stack([known[key] for key in _pairs(variant_batch)])
            pending += options_of(item, variant_batch, own, place, existing)
    for variant_batch, every in zip(variant_batches, zones, strict=True):
        if variant_batch.variants[0].bearing.base != "seat":
            pending += _bodies(variant_batch, every)
    aimed_at = {t for m in movements().values() for t in m.targets}
    best = {(g.id, z): Cell(g, z) for g in muscle_table().groups.values() if g.id in aimed_at for z in range(len(ZONES))}
    # The likeliest first, so that most of the rest need no second look.
    pending.sort(key=lambda p: -p[1].likeliest)
    refused: set[object] = set()
    looked = set(best)
    while looked:
        progress(0.8)
        for mechanics, options in pending:
            if any(key in looked for key in zip(options.group, options.zone.tolist(), strict=True)):
                fill_cells(mechanics, options, best, refused)
        # What follows the load was looked at in a line nearby: where it cannot be after all, the next best stands in.
        looked = {key for key in looked if not holds(body, best[key])}
        refused |= {refusal(best[key].mechanics, best[key].setting) for key in looked}
        best |= {key: Cell(best[key].group, key[1]) for key in looked}
    return list(best.values())


def refusal(mechanics: VariantMechanics | None, setting: Setting | None) -> object:
    """What names a set-up that cannot be."""
    return None if mechanics is None else (mechanics.key, repr(setting))


def holds(body: Body, cell: Cell) -> bool:
    """Whether a cell's set-up can be, and is not too heavy, with the limbs led by its own load."""
    if cell.mechanics is None or cell.setting is None or not cell.mechanics.key.eased:
        return True
    try:
        exact = mechanics_of(body, cell.mechanics.set_up(cell.setting))
    except DomainError:
        return False
    if any(not limit.kept.all() for limit in law_on(cell.setting, exact.motion).limits(exact.point)):
        return False
    own, per_unit = response(exact, cell.group, cell.setting)
    peak = float((own + per_unit * cell.setting.amount).max())
    wanted = float(coverage_rules()["need"]) * cell.load
    return wanted - NEARLY < peak < float(coverage_rules()["too_much"])


def _bodies(variant_batch: VariantBatch, zones: Floats) -> Iterator[tuple[VariantMechanics, Options]]:
    """What the body's own weight does along variants that carry it."""
    three, none = np.arange(3), np.zeros(3)
    for g, pairs in variant_batch.groups.items():
        for i in range(pairs.start, pairs.stop):
            (even,), (load,) = zone_scores(np.maximum(variant_batch.own[i], 0.0)[None], zones[i])
            mechanics, full = variant_batch.variants[variant_batch.variant[i]], np.full(3, float(load))
            if not mechanics.bare:
                continue
            yield mechanics, Options(None, none, 1.0, three * 0, none, [g] * 3, three, even, full, none)


def _pairs(variant_batch: VariantBatch) -> list[tuple[int, str]]:
    """The variant, by its id, and the muscle group of every pair of a batch."""
    return [
        (id(variant_batch.variants[variant_batch.variant[i]]), g)
        for g, at in variant_batch.groups.items()
        for i in range(at.start, at.stop)
    ]


def zones_of(variant_batch: VariantBatch) -> Floats:
    """Matrices (pair, zone, pose) of a batch."""
    return np.concatenate([zone_means(g, variant_batch.length[pairs]) for g, pairs in variant_batch.groups.items()])


def options_of(
    item: Any, variant_batch: VariantBatch, zones: Floats, place: Place, existing: Floats
) -> Iterator[tuple[VariantMechanics, Options]]:
    """The likeliest placements of an item for each muscle and zone, (muscle, zone), over all variants of a batch.

    ``zones`` averages over bins, (variant, zone, pose); ``existing`` are the item's amounts in its unit, (amount,).
    """
    for kit_use in kit_uses(item, variant_batch, place, float(existing[0]), coarse=True):
        unit = effort_per_unit(kit_use, variant_batch)
        amount, relative_effort = needed_amounts(variant_batch.own[:, None], unit, existing)
        even, load = zone_scores(relative_effort, zones)
        bound = even * (load * kit_use.kept.T[variant_batch.variant])[..., None]
        for g, pairs in variant_batch.groups.items():
            scores = bound[pairs].reshape(-1, len(ZONES))
            top = np.argpartition(-scores, min(KEPT, len(scores)) - 1, axis=0)[:KEPT]
            zone = np.broadcast_to(np.arange(len(ZONES)), top.shape)
            good = scores[top, zone] > coverage_rules()["worth"]
            pair, row = np.divmod(top[good], bound.shape[1])
            pair, zone = pair + pairs.start, zone[good]
            for i in sorted(set(pair.tolist())):
                r, z = row[pair == i], zone[pair == i]
                mechanics, kg = variant_batch.variants[variant_batch.variant[i]], amount[i, r]
                factor = 1.0 - setup_cost(item, mechanics.motion.support.contact)
                pull = kit_use.force[r, variant_batch.variant[i]] * kg[:, None, None]
                names, evenness = [g] * len(r), even[i, r, z]
                yield (
                    mechanics,
                    Options(kit_use.batch, existing, factor, r, kg, names, z, evenness, load[i, r], pull, place.farthest),
                )


def fill_cells(
    mechanics: VariantMechanics, options: Options, best: dict[tuple[str, int], Cell], refused: Container[object]
) -> None:
    """Put an option in its cell where it is better than what is there, once its pull is known to be had.

    Args:
        mechanics: The variant.
        options: Placements on it.
        best: What is best so far, by muscle group and zone.
        refused: Variants with settings that cannot be after all.
    """
    held = np.array([best[g, z].score for g, z in zip(options.group, options.zone, strict=True)])
    rows = np.flatnonzero(options.bound > held)
    if not len(rows):
        return
    share = options.setup_factor * fair_shares(mechanics, options, rows)
    better = options.bound[rows] / options.setup_factor * share > held[rows]
    if not better.any():
        return
    rows, share = rows[better], share[better]
    for k, part, kept in zip(rows, share, within_limits(mechanics, options, rows), strict=True):
        key = options.group[int(k)], int(options.zone[k])
        if kept and 100 * options.even[k] * options.load[k] * part > best[key].score:
            near = options.existing[np.abs(options.existing - options.amount[k]).argmin()]
            made = options.batch.setting(int(options.row[k]), float(near)) if options.batch else None
            if refusal(mechanics, made) in refused:
                continue
            even, load = float(options.even[k]), float(options.load[k])
            best[key] = Cell(best[key].group, key[1], 100 * even, load, float(part), mechanics, made)


def fair_shares(mechanics: VariantMechanics, options: Options, rows: Ints) -> Floats:
    """Part of the work that is the group's own against a fair part, at most 1, (row,)."""
    group = muscle_table().groups[options.group[0]]
    work = mechanics.work[group.region]
    moment = work.weight
    if options.batch is not None:
        both = options.batch.setting(0, float(options.existing[0])).both_sides and not mechanics.single
        moment = moment + (work.moments[int(both)] @ options.force[rows][..., None])[..., 0]
    fair = float(coverage_rules()["small_share"].get(group.id, coverage_rules()["fair_share"]))
    share = np.atleast_1d(mechanics.motion.share(group, moment)) / fair
    return np.broadcast_to(np.minimum(1.0, share), (len(rows),))


def within_limits(mechanics: VariantMechanics, options: Options, rows: Ints) -> Bools:
    """Whether placements keep all limits of where their line leads, (row,)."""
    batch = options.batch
    if batch is None or batch.law.far_end is None:
        return np.ones(len(rows), bool)
    both = batch.setting(0, float(options.existing[0])).both_sides
    end, posture = batch.law.far_end[options.row[rows]], mechanics.posture
    limits = placement_limits(posture, end, options.force[rows], both, options.farthest, overhang=batch.law.overhang)
    return np.asarray(np.all([limit.kept for limit in limits], axis=0))


def gap_words(cell: Cell) -> str:
    """Why a cell is weak, in words; empty where it is not."""
    if cell.score >= coverage_rules()["fair"] or not cell.possible:
        return ""
    where = ("in the stretch", "in mid-range", "at the shortened end")[cell.zone]
    what = f"{cell.group.name} {where}"
    if cell.mechanics is None:
        return f"nothing here loads {what}"
    if cell.load < 0.7:
        most = f"{cell.load:.0%} of what this client needs"
        return f"too light here for {what}: {most} at best"
    if cell.share < 0.7:
        return f"here other muscles do most of the work of {what}"
    return f"here {what} are loaded unevenly at best"
