"""Where kit stands on the floor: as the coach put it, or along the walls until somebody does."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from oddswap.equipment.base.item import KitItem, Room

GAP = 0.4
"""Between items along a wall, m (own estimate)."""
ROW = 1.8
"""From the walls' row to the next one inside it, m (own estimate)."""


@dataclass(frozen=True)
class Spot:
    """An item on the floor, all in m.

    Args:
        item: Its id.
        x: Its middle from the left wall, along the room's length.
        y: Its middle from the near wall, along the room's width.
        wide: Its extent along x.
        deep: Its extent along y.
        chosen: Whether somebody put it there.
    """

    item: str
    x: float
    y: float
    wide: float
    deep: float
    chosen: bool

    def overlaps(self, other: Spot) -> bool:
        """Whether the two stand in each other by more than a few centimetres."""
        slack = 0.05
        across = (self.wide + other.wide) / 2 - abs(self.x - other.x)
        along = (self.deep + other.deep) / 2 - abs(self.y - other.y)
        return across > slack and along > slack


def lay_out(kit: Sequence[KitItem], room: Room, chosen: Mapping[str, tuple[float, float]]) -> list[Spot]:
    """A spot for every item of kit that stands on the floor, in its order.

    Args:
        kit: What is there.
        room: Free floor.
        chosen: Where items were put, m from the left and the near wall, by id.
    """
    spots: dict[str, Spot] = {}
    standing = {item.id: size for item in kit if (size := item.floor_m) is not None}
    for name, (wide, deep) in standing.items():
        if name in chosen:
            spots[name] = Spot(name, *chosen[name], wide, deep, True)
    for name, size in standing.items():
        if name not in chosen:
            spots[name] = _along_walls(name, size, room, list(spots.values()))
    return [spots[name] for name in standing]


def _along_walls(item: str, size: tuple[float, float], room: Room, taken: Sequence[Spot]) -> Spot:
    """The first free spot along the far, right, near and left wall, then in rows inside; the middle where none is free."""
    wide, deep = size
    inset = 0.0
    while deep + 2 * inset <= room.width and wide + 2 * inset <= room.length:
        near, far = inset + deep / 2, room.width - inset - deep / 2
        left, right = inset + deep / 2, room.length - inset - deep / 2
        across = [inset + wide / 2 + 0.1 * i for i in range(int((room.length - 2 * inset - wide) / 0.1) + 1)]
        along = [inset + wide / 2 + 0.1 * i for i in range(max(0, int((room.width - 2 * inset - wide) / 0.1) + 1))]
        walls = [(x, far, wide, deep) for x in across]
        walls += [(right, y, deep, wide) for y in reversed(along)]
        walls += [(x, near, wide, deep) for x in reversed(across)]
        walls += [(left, y, deep, wide) for y in along]
        for x, y, w, d in walls:
            grown = Spot(item, x, y, w + 2 * GAP, d + 2 * GAP, False)
            if not any(grown.overlaps(other) for other in taken):
                return Spot(item, round(x, 2), round(y, 2), w, d, False)
        inset += ROW
    return Spot(item, room.length / 2, room.width / 2, wide, deep, False)
