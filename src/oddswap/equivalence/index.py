"""The reach table: what every set-up that a client and a place allow asks of its muscles, computed once.

Mapping a line to a place is then comparison, not simulation. Placements that ask alike of a muscle stand in one row, the one
that tips the client least; a column's five hundred placements leave some twenty. What belongs to one item of kit is a segment
of its own, so that a changed item costs only its segment.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Protocol

import numpy as np

from oddswap.equipment.base.item import KitItem
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.index_entry import SPANS, IndexEntry, IndexSegment, Rows, Source, compute_entry, make_segment
from oddswap.equivalence.kit import distinct_items
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.variant_batch import group_variants, single_variant_batches
from oddswap.equivalence.variant_key import VariantKey
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import VariantMechanics, variants_at
from oddswap.mechanics.body import Body
from oddswap.mechanics.types import Floats

__all__ = [
    "SPANS",
    "PersistentCache",
    "ReachTable",
    "Rows",
    "Source",
    "build_reach_table",
    "clear_reach_tables",
    "use_disk_cache",
    "use_threads",
]

SEGMENTS_KEPT = 600
"""Segments kept in memory, of all clients and places."""
REACH_TABLES_KEPT = 24
"""Whole tables kept in memory."""


@dataclass(frozen=True)
class ReachTable:
    """All set-ups of a client at a place.

    Args:
        body: The client.
        place: Where.
        variants: Movements in their variants.
        sources: Kit in its uses.
        rows: Set-ups by muscle group.
        tried: Placements that were computed to find them.
        derived: What others made of it once, by name.
    """

    body: Body
    place: Place
    variants: Sequence[VariantMechanics]
    sources: Sequence[Source]
    rows: dict[str, Rows]
    tried: int
    derived: SharedCache[str, Any] = field(default_factory=lambda: SharedCache(64), compare=False, repr=False)

    @property
    def count(self) -> int:
        """Rows of all muscle groups."""
        return sum(len(r) for r in self.rows.values())


@dataclass(frozen=True)
class KeyList:
    """Variants that a table covers, as a part of its name: hundreds of keys, hashed once."""

    keys: tuple[VariantKey, ...]

    @cached_property
    def _hash(self) -> int:
        return hash(self.keys)

    def __hash__(self) -> int:
        """Computed once."""
        return self._hash


class PersistentCache(Protocol):
    """Where segments outlast the process."""

    def get(self, names: Sequence[str]) -> dict[str, bytes]:
        """What there is of these."""

    def put(self, items: Mapping[str, bytes]) -> None:
        """Keep these."""


_segments: SharedCache[object, IndexSegment] = SharedCache(SEGMENTS_KEPT)
_tables: SharedCache[object, ReachTable] = SharedCache(REACH_TABLES_KEPT)
_disk_cache: PersistentCache | None = None
_threads = 2


def use_disk_cache(disk_cache: PersistentCache | None) -> None:
    """Keep segments in a cache that outlasts the process from now on, or only in memory for None."""
    global _disk_cache
    _disk_cache = disk_cache


def use_threads(count: int) -> None:
    """How many items of kit are computed at a time from now on; one where other processes work beside this one."""
    global _threads
    _threads = count


def clear_reach_tables() -> None:
    """Drop all tables and segments in memory."""
    _segments.clear()
    _tables.clear()


def build_reach_table(
    body: Body,
    place: Place,
    keys: Sequence[VariantKey] | None = None,
    progress: Callable[[float], None] = lambda part: None,
) -> ReachTable:
    """The reach table of a client at a place; segments that are known already are not computed again.

    Args:
        body: The client.
        place: Where.
        keys: Variants to cover; None for all that the place supports, those that only a machine's own seat and pads let one do
            on that machine alone, so that a machine that comes or goes costs no other item its segment.
        progress: Told the part done, 0 to 1.
    """
    free = list_variant_keys(place.without_machines()) if keys is None else keys
    keys = list_variant_keys(place) if keys is None else keys
    loads: list[tuple[KitItem | None, Floats]] = [*distinct_items(place.kit), (None, np.zeros(1))]
    covered = {name: KeyList(tuple(k for k in keys if k.movement == name)) for name in {k.built_for for k in place.kit}}
    covered[""] = KeyList(tuple(free))
    names = [_name_segment(body, place, item, amounts, covered[item.built_for if item else ""]) for item, amounts in loads]
    by_name = dict(zip(names, loads, strict=True))

    def work() -> ReachTable:
        variants = variants_at(body, place, keys)
        segments = _segments.get_many(
            names, lambda missing: _compute_segments([(n, *by_name[n]) for n in missing], variants, set(free), place, progress)
        )
        return _join(body, place, variants, segments)

    table = _tables.get(tuple(names), work)
    # Places that differ in nothing of this have one table.
    return table if table.place is place else replace(table, place=place)


def _name_segment(body: Body, place: Place, item: KitItem | None, amounts: Floats, keys: KeyList) -> object:
    """All that a segment of amounts (amount,) of an item, or of the body alone, hangs on."""
    needed = () if item is None else item.needs_of(place.kit)
    return body, place.room, place.rests, place.movable_rests, needed, repr(item), amounts.tobytes(), keys


def _compute_segments(
    wanted: Sequence[tuple[object, KitItem | None, Floats]],
    variants: Sequence[VariantMechanics],
    free: set[VariantKey],
    place: Place,
    progress: Callable[[float], None],
) -> list[IndexSegment]:
    """Segments by name, item and amounts, from the disk cache where they are there; ``free`` are variants of no machine."""
    batches = group_variants([v for v in variants if v.key in free], by_hands=True)
    for batch in batches:
        _ = batch.work, batch.postures, batch.postures_in_middle  # made once, before two threads ask for them
    built = {item.built_for for _, item, _ in wanted if item is not None and item.built_for}
    single = {movement: single_variant_batches(variants, movement) for movement in built}
    cache = _disk_cache
    names = [hashlib.sha256(repr(name).encode()).hexdigest() for name, _, _ in wanted] if cache is not None else []
    stored = {} if cache is None else cache.get(names)
    fresh: dict[str, bytes] = {}

    def make(n: int) -> IndexSegment:
        _, item, amounts = wanted[n]
        own = single[item.built_for] if item is not None and item.built_for else batches
        if stored and names[n] in stored:
            try:
                return make_segment(IndexEntry.unpack(stored[names[n]]), item, amounts, own, place)
            except (ValueError, IndexError):
                pass  # spoilt on disk: computed anew
        entry = compute_entry(item, amounts, own, place)
        if cache is not None:
            fresh[names[n]] = entry.pack()
        return make_segment(entry, item, amounts, own, place)

    # Lines of pull cost by far the most: begun first, they leave no thread waiting for another at the end.
    order = sorted(range(len(wanted)), key=lambda n: (item := wanted[n][1]) is None or not item.line)
    out: dict[int, IndexSegment] = {}
    # Arrays here are large, and array operations let go of the lock: two items at a time.
    with ThreadPoolExecutor(_threads) as pool:
        try:
            for n, segment in zip(order, pool.map(make, order), strict=True):
                out[n] = segment
                progress(len(out) / len(wanted))
        except BaseException:
            pool.shutdown(cancel_futures=True)  # what was given up is not finished first
            raise
    if cache is not None and fresh:
        cache.put(fresh)
    return [out[n] for n in range(len(wanted))]


def _join(body: Body, place: Place, variants: Sequence[VariantMechanics], segments: Sequence[IndexSegment]) -> ReachTable:
    """One table of all segments, its rows by the share they leave to the group."""
    number = {v.key: i for i, v in enumerate(variants)}
    sources: list[Source] = []
    gathered: dict[str, list[Rows]] = {}
    for segment in segments:
        renumbered = np.array([number[key] for key in segment.keys], dtype=int)
        for g, rows in segment.rows.items():
            gathered.setdefault(g, []).append(rows.renumber(renumbered, len(sources)))
        sources += segment.sources
    whole = {g: Rows.concatenate(r) for g, r in gathered.items()}
    # Those that leave the group the largest share first, so that a line can stop where it is too small.
    ordered = {g: r.select(np.argsort(-r.share, kind="stable")) for g, r in whole.items()}
    return ReachTable(body, place, variants, sources, ordered, sum(s.tried for s in segments))
