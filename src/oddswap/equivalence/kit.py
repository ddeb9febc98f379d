"""Kit as the search sees it: what stands for what."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from oddswap.equipment.base.item import KitItem
from oddswap.equivalence.prescription import Place
from oddswap.exercises import movements
from oddswap.mechanics.types import Floats


def bears_on(item: KitItem, target: str, movement_id: str) -> bool:
    """Whether an item may have a say in what stands in for a line: a machine that is built for what neither trains the line's
    muscle nor is its lift has none, whatever else its place offers.

    Args:
        item: The kit.
        target: The line's muscle group.
        movement_id: The line's movement.
    """
    built_for = movements().get(item.built_for)
    return built_for is None or built_for.id == movement_id or target in built_for.targets


def affected_by_loss(before: Place, now: Place) -> set[str] | None:
    """Ids of kit that a place lost, or that is used in fewer ways for it; None where anything else changed, so that what is
    done without these may no longer be the best, or cannot be."""
    left = {k.id for k in now.kit}
    spots = {id: spot for id, spot in before.spots.items() if id in left}
    if before.room != now.room or spots != now.spots or any(k not in before.kit for k in now.kit):
        return None
    # Where one of two benches is gone who can tell which one was lain on.
    benches, pads = (
        [(p.rests.bench, p.movable_rests.bench, p.seat_cm) for p in (before, now)],
        [(p.rests.pad, p.movable_rests.pad) for p in (before, now)],
    )
    if (now.rests.bench and benches[0] != benches[1]) or (now.rests.pad and pads[0] != pads[1]):
        return None
    proposed = {item.id: (amounts.tolist(), item.needs_of(before.kit)) for item, amounts in distinct_items(before.kit)}
    out = {k.id for k in before.kit} - left
    for item, amounts in distinct_items(now.kit):
        if item.id not in proposed:
            return None
        if proposed[item.id] != (amounts.tolist(), item.needs_of(now.kit)):
            out.add(item.id)
    return out


def changed_kit(before: Place, now: Place) -> set[str] | None:
    """Ids of kit that a place no longer has as it was and where it was, so that nothing done with it before is sure to be
    possible; None where the room itself changed."""
    if before.room != now.room:
        return None
    there = {k.id: k for k in now.kit}
    return {k.id for k in before.kit if there.get(k.id) != k or before.spots.get(k.id) != now.spots.get(k.id)}


def distinct_items(kit: Sequence[KitItem]) -> list[tuple[KitItem, Floats]]:
    """Kit that the search proposes, with its amounts, each only once.

    Items that count as one are one, with the amounts of all; what a more versatile item of its kind covers is left out.
    """
    alike: dict[object, tuple[KitItem, Floats]] = {}
    for item in kit:
        if item.loads and item.searched:
            held = alike.get(item.likeness)
            amounts = item.amounts() if held is None else np.union1d(held[1], item.amounts())
            alike[item.likeness] = (item if held is None else held[0]), amounts
    found = list(alike.values())
    kept: list[KitItem] = []
    for item, _ in sorted(found, key=lambda p: p[0].versatility):
        if not any(other.kind == item.kind and other.covers(item) for other in kept):
            kept.append(item)
    return [(item, amounts) for item, amounts in found if any(item is k for k in kept)]
