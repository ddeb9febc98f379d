"""Which variants of every movement a place's supports let one do."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

import numpy as np

from oddswap.equipment.base.item import KitItem
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variant_key import VariantKey, spread_leads
from oddswap.exercises import movement, movements
from oddswap.mechanics.movement import Movement, Variant

NOMINAL = {"back": 40.0, "hand": 15.0}
"""Load that the balance of lifts on the feet is found with in the index, kg, at each hand where hands hold it; own choice,
whatever is evaluated in full takes the real one."""

_listed: SharedCache[object, tuple[VariantKey, ...]] = SharedCache(256)


def list_variant_keys(
    place: Place, most: int | None = None, only: str = "", inherited: Mapping[str, float] | None = None
) -> list[VariantKey]:
    """What a place's benches, pads, stations and machines let one do.

    Args:
        place: Where.
        most: Variants of a movement at most, spread over all it has; None for all.
        only: The one movement that is asked for; empty for all.
        inherited: Parameter values in place of the movement's defaults.
    """
    supports = repr([(k.notches, k.pad_angles, k.built_for, k.ways, k.station_use) for k in place.kit])
    asked = most, only, tuple((inherited or {}).items())
    return list(_listed.get((supports, place.seat_cm, *asked), lambda: _list_keys(place, most, only, inherited or {})))


def _list_keys(place: Place, most: int | None, only: str, inherited: Mapping[str, float]) -> tuple[VariantKey, ...]:
    """``list_variant_keys``, which follows from what of a place's kit supports somebody alone."""
    notches = tuple(sorted({n for k in place.kit for n in k.notches}))
    pads = tuple(sorted({a for k in place.kit for a in k.pad_angles}))
    machines = {k.built_for for k in place.kit}
    out: list[VariantKey] = []
    for kind in [movement(only)] if only else movements().values():
        every = [*kind.variants(notches, pads), *(v for k in place.kit if k.built_for == kind.id for v in k.ways)]
        found = [replace(v, values=kind.complete({**inherited, **v.values})) for v in every]
        found = [v for v in found if has_supports(place, kind, v)]
        found = [v for v in found if notches or v.stance not in ("bench", "chest_supported") or kind.id in machines]
        chosen = range(len(found))
        picked = chosen if most is None else sorted({round(k) for k in np.linspace(0, len(found) - 1, min(most, len(found)))})
        for v in (found[i] for i in picked):
            out += spread_leads(VariantKey.of(kind.id, v, place.seat_cm), around=most is None)
            if balances_weight(kind, v):
                out.append(VariantKey.of(kind.id, v, place.seat_cm, NOMINAL[kind.support(v.values).contact]))
    return tuple(dict.fromkeys(out))


def balances_weight(kind: Movement, variant: Variant) -> bool:
    """Whether the body finds its balance on its feet under a weight: its posture then follows the load."""
    support = kind.support(kind.complete(variant.values))
    weighs = support.balance is not None and support.balance.held == "weight"
    return weighs and support.contact in NOMINAL and support.base == "feet" and kind.id not in rules("reach")["pulled"]


def has_supports(place: Place, kind: Movement, variant: Variant) -> bool:
    """Whether a place has what a movement's variant must have to hang, stand, lean or press from."""
    needed, built = kind.needs(variant.values), {k.built_for for k in place.kit}
    if kind.machine_only:
        return kind.id in built
    return kind.id in built or all(any(is_station(k, group) for k in place.kit) for group in needed)


def is_station(item: KitItem, uses: Collection[str]) -> bool:
    """Whether an item is what one of these uses of stations asks for; any bench is a ``bench``."""
    return item.station_use in uses or ("bench" in uses and bool(item.notches))
