"""A place's floor plan as a document."""

from __future__ import annotations

from oddswap.documents.base import Result
from oddswap.documents.place import PlaceDoc
from oddswap.equipment.base.floor import lay_out


class FloorItemDoc(Result):
    """An item on the floor, all in cm."""

    item: str
    name: str
    x_cm: float
    """Its middle from the left wall, along the room's length."""
    y_cm: float
    """Its middle from the near wall, along the room's width."""
    wide_cm: float
    deep_cm: float
    chosen: bool
    """Whether somebody put it there; else it stands along a wall."""
    overlaps: list[str]
    """Names of what it stands in."""


class FloorDoc(Result):
    """What stands where."""

    items: list[FloorItemDoc]

    @staticmethod
    def of(place: PlaceDoc) -> FloorDoc:
        """The floor plan of a place."""
        spots = lay_out(place.kit, place.room.room(), place.chosen_spots())
        names = {item.id: item.name for item in place.kit}
        return FloorDoc(
            items=[
                FloorItemDoc(
                    item=s.item,
                    name=names[s.item],
                    x_cm=round(100 * s.x, 1),
                    y_cm=round(100 * s.y, 1),
                    wide_cm=round(100 * s.wide, 1),
                    deep_cm=round(100 * s.deep, 1),
                    chosen=s.chosen,
                    overlaps=[names[o.item] for o in spots if o.item != s.item and s.overlaps(o)],
                )
                for s in spots
            ]
        )
