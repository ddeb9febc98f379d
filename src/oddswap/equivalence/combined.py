"""Two load sources at once, where their profiles complete each other: dumbbell and band, lever and cable, bar and bands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.index_entry import SPANS
from oddswap.equivalence.loads import equal_effort
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.ranking import Ranking
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import overlap
from oddswap.equivalence.variant_key import VariantKey
from oddswap.mechanics.lengths import BINS
from oddswap.mechanics.types import Floats, Ints

MOST = 30
"""Rows of a kind that are paired."""
TOP = 10
"""Pairs of two kinds that are looked at again."""
OFFERED = 2
"""Pairs of a variant that are placed in full."""


@dataclass(frozen=True)
class SecondSource:
    """A row of the ranking as the second source of a pair, with a fixed amount."""

    row: int
    amount: float


def pair_sources(
    ranking: Ranking, key: VariantKey, prescription: PrescriptionProfile, place: Place
) -> Iterator[tuple[Setting, Setting, Floats]]:
    """The likeliest pairs of sources for one variant, by the table.

    The second carries a fixed part of the effort, the nearest to ``parts`` that its amounts allow; the first is solved for.

    Args:
        ranking: The line compared with the table's rows.
        key: The variant.
        prescription: The line.
        place: Where the sources stand.

    Yields:
        First setting, second setting with its amount, and the first one's amounts, (amount,).
    """
    if key.movement in rules("combined")["alone"]:
        return
    table = ranking.table
    own = ((i, v.key) for i, v in enumerate(table.variants) if v.kind.id == key.movement)
    index = next((i for i, k in own if k == replace(key, lead=k.lead, eased=k.eased)), None)
    if index is None or not table.variants[index].bearing.carried:
        return
    here = np.flatnonzero((ranking.rows.variant == index) & (ranking.rows.share > 0))
    pairs = sorted(_likely_pairs(ranking, here, prescription), key=lambda p: -p[0])
    rows, offered = ranking.rows, set[tuple[int, int]]()
    for _, first, second, both in pairs:
        pair = int(rows.source[first]), int(rows.source[second.row])
        one, other = table.sources[pair[0]], table.sources[pair[1]]
        if pair in offered or one.item is other.item or one.batch is None or other.batch is None:
            continue
        if not place.within_reach(one.item, other.item):
            continue
        if one.shared_grip and other.shared_grip:
            continue  # hands hold one bar or rope at a time
        offered.add(pair)
        settings = (
            one.batch.setting(int(rows.placement[first]), float(one.amounts[0])),
            other.batch.setting(int(rows.placement[second.row]), second.amount),
        )
        if not both:
            settings = settings[0].on_one_side(), settings[1].on_one_side()
        yield *settings, one.amounts
        if len(offered) == OFFERED:
            return


def _likely_pairs(
    ranking: Ranking, here: Ints, prescription: PrescriptionProfile
) -> Iterator[tuple[float, int, SecondSource, bool]]:
    """Likeness, first row, second source and sides of the likeliest pairs among the rows ``here``."""
    rule, sources = rules("combined"), ranking.table.sources
    of_rows = [sources[s] for s in ranking.rows.source[here]]
    kinds = np.array([s.kind for s in of_rows])
    both = np.array([s.both for s in of_rows], bool)
    shared_grip = np.array([s.shared_grip for s in of_rows], bool)
    # Who has two dumbbells may take one: a band or a cable in one hand goes with it.
    usable = {True: both, False: ~both | np.array([s.splits for s in of_rows], bool)}
    prescribed = prescription.resistance_profile.reshape(SPANS, BINS // SPANS).sum(axis=-1)
    for a, b in rule["pairs"]:
        for sides in (False, True):
            # A hand that holds a dumbbell or a bar holds no other bar or rope.
            first, second = (
                _best(ranking, here[(kinds == k) & usable[sides] & ~(shared_grip & (other in rule["in_hand"]))])
                for k, other in ((a, b), (b, a))
            )
            seconds = list(_second_amounts(ranking, second, prescription, rule["parts"]))
            if len(first) and seconds:
                like = _likeness(ranking, first, seconds, prescription, prescribed)
                for i, j in zip(*np.unravel_index(np.argsort(-like, axis=None)[:TOP], like.shape), strict=True):
                    yield float(like[i, j]), int(first[i]), seconds[j], sides


def _best(ranking: Ranking, rows: Ints) -> Ints:
    """The likeliest rows."""
    return rows[np.argsort(-ranking.match[rows], kind="stable")[:MOST]]


def _second_amounts(
    ranking: Ranking, rows: Ints, prescription: PrescriptionProfile, parts: list[float]
) -> Iterator[SecondSource]:
    """Amounts of the second source that carry about the given parts of the effort."""
    peaks, (least, most) = ranking.rows.unit[rows].max(axis=-1), rules("combined")["within"]
    for row, peak in zip(rows, peaks, strict=True):
        if peak <= 1e-9:
            continue
        amounts = ranking.table.sources[ranking.rows.source[row]].amounts
        wanted = np.array(parts) * prescription.relative_effort / peak
        for k in sorted({int(np.abs(amounts - w).argmin()) for w in wanted}):
            if least <= amounts[k] * peak / prescription.relative_effort <= most:
                yield SecondSource(int(row), float(amounts[k]))


def _likeness(
    ranking: Ranking, first: Ints, seconds: list[SecondSource], prescription: PrescriptionProfile, prescribed: Floats
) -> Floats:
    """Overlap of both sources' profile with the prescription's, less what the load is off, (first, second)."""
    rows, sources = ranking.rows, ranking.table.sources
    amount, second = np.array([s.amount for s in seconds]), np.array([s.row for s in seconds])
    own = rows.own[first][:, None] + (amount[:, None] * rows.unit[second])[None]
    unit = rows.unit[first][:, None]
    wanted = equal_effort(own, unit, prescription.relative_effort)
    near = np.empty_like(wanted)
    for i, row in enumerate(first):
        amounts = sources[rows.source[row]].amounts
        near[i] = amounts[np.abs(amounts[:, None] - np.minimum(wanted[i], amounts[-1])).argmin(axis=0)]
    profile = rows.profile_own[first][:, None] + near[..., None] * rows.profile_unit[first][:, None]
    profile = np.maximum(0.0, profile + (amount[:, None] * rows.profile_unit[second])[None])
    ratio = (own + near[..., None] * unit).max(axis=-1) / prescription.relative_effort
    return np.asarray(overlap(prescribed, profile) - np.abs(np.log(np.maximum(ratio, 1e-6))))
