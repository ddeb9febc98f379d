"""Kit as the search sees it: what differs, what stands for what, and how handy it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from oddswap.equipment.protocols import Setting
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import LINES, Way
from oddswap.mechanics.types import Floats


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
    kept: list[Any] = []
    for item, _ in sorted(found, key=lambda p: _versatility(p[0])):
        if not any(_covers(other, item) for other in kept):
            kept.append(item)
    return [(i, a) for i, a in found if any(i is k for k in kept)]


def _versatility(item: Any) -> tuple[float, ...]:
    """Sorts columns and bars from the one that can do most."""
    if item.kind == "cable_column":
        return (-item.columns, -item.holes, -_pull(item)[1])
    return (-_pull(item)[1],) if item.kind == "barbell" else ()


def _pull(item: Any) -> tuple[float, float]:
    amounts = item.amounts() * getattr(item, "ratio", 1.0)
    return float(amounts.min()), float(amounts.max())


def _covers(one: Any, other: Any) -> bool:
    """Whether a map can do without the other column or bar."""
    if one.kind != other.kind or one.kind not in ("cable_column", "barbell"):
        return False
    (low, high), (wanted_low, wanted_high) = _pull(one), _pull(other)
    enough = low <= 2.0 * wanted_low and high >= 0.75 * wanted_high
    if one.kind == "barbell":
        return bool(enough and one.rail_deg == other.rail_deg)
    heights = one.lowest_cm <= other.lowest_cm + 10 and one.highest_cm >= other.highest_cm - 10 and one.holes >= other.holes
    return bool(enough and heights and one.columns >= other.columns and (one.swivels or not other.swivels))


def holder(setting: Any) -> str | None:
    """The field of a setting that holds its item; None where any of its kind will do."""
    return next((name for name in ("column", "band", "machine", "bar", "lever") if hasattr(setting, name)), None)


def kit_of(setting: Any) -> Any:
    """The item that a setting holds; None where any of its kind will do."""
    name = holder(setting)
    return None if name is None else getattr(setting, name)


def use_of(setting: Any) -> str:
    """How a setting's item is used, where one has several ways."""
    return str(getattr(setting, "use", "") or getattr(setting, "anchor", "") or getattr(setting, "hands", ""))


def is_from(source: Setting, item: Any) -> bool:
    """Whether a setting's load comes from an item of kit."""
    if source.kind == "dumbbell":
        return bool(item.kind == "dumbbells" and (item.pairs or not source.both_arms))
    return bool(kit_of(source) == item)


def sort_of(item: Any) -> str:
    """What items have in common that can do the same: their kind, and whether rails guide a bar."""
    if item is None:
        return "body"
    return "rail" if getattr(item, "rail_deg", None) is not None else str(item.kind)


def transferred(setting: Any, item: Any) -> Any:
    """A setting with another item in place of its own, as nearly alike as that allows; None where it cannot be."""
    name = holder(setting)
    if name is None:
        return None
    if any(getattr(item, n, None) != getattr(kit_of(setting), n, None) for n in ("movement", "stance")):
        return None  # a machine is built for one movement, done in one way
    if name == "column":
        if setting.use in ("pair", "crossed") and item.columns < 2:
            return None
        height = setting.column.height(setting.hole)
        return replace(setting, column=item, hole=int(np.abs(item.heights() - height).argmin()) + 1)
    return replace(setting, **{name: item})


def handicap(item: Any, way: Way) -> float:
    """Factor that lets the handier of two equal loads win."""
    return 1.0 - bother(item, way)


def bother(item: Any, way: Way) -> float:
    """Part of a score that an item of kit, or a setting of one, costs in setting up."""
    costs = rules("reach")["bother"]
    kind = {"cable": "cable_column", "dumbbell": "dumbbells"}.get(item.kind, item.kind)
    cuffed = kind in LINES and way.motion.way.contact != "hand"
    return float(costs.get(kind, 0.0)) + (float(costs["cuff"]) if cuffed else 0.0)
