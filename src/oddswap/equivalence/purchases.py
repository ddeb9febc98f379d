"""What one purchase would add to a place."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from oddswap.equipment import kit_classes
from oddswap.equipment.band import RubberSection
from oddswap.equipment.barbell import PlatePair
from oddswap.equivalence.coverage import Cell, coverage_rules, reach
from oddswap.equivalence.prescription import Place
from oddswap.mechanics.body import Body


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
    carriers = [k for k in place.kit if not k.loads]
    fair, out = coverage_rules()["fair"], []
    offered = coverage_rules()["purchase"]
    for i, (name, entry) in enumerate(offered.items()):
        items = [_bought(k) for k in entry["kit"]]
        balances_load = all(not item.loads for item in items)
        held = list(place.kit) if balances_load else carriers
        with_it = reach(body, replace(place, kit=[*held, *items]))
        better = {(c.group.id, c.zone): c for c in with_it}
        gains = [(better[c.group.id, c.zone].score - c.score, c) for c in cells]
        closes = [better[c.group.id, c.zone] for g, c in sorted(gains, key=lambda p: -p[0])
                  if c.score < fair <= better[c.group.id, c.zone].score]  # fmt: skip
        out.append(Purchase(name, entry["name"], float(sum(max(0.0, g) for g, _ in gains)), closes, better))
        progress((i + 1) / len(offered))
    return sorted(out, key=lambda p: (-len(p.closes), -p.gain))
