"""A place with its kit as a document."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.kit import AnyItem
from oddswap.equipment.base.fields import Name
from oddswap.equipment.base.item import Room
from oddswap.equivalence.prescription import Place
from oddswap.errors import DomainError


class RoomDoc(Document):
    """Free floor and ceiling."""

    length_cm: float = Field(gt=50, le=10_000)
    width_cm: float = Field(gt=50, le=10_000)
    ceiling_cm: float = Field(gt=100, le=2_000)

    def room(self) -> Room:
        """In metres."""
        return Room(self.length_cm / 100, self.width_cm / 100, self.ceiling_cm / 100)


class BusyDoc(Document):
    """When an item is mostly in use by others."""

    item: str
    """Id of the kit item."""
    days: list[Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]] = Field(default=[], max_length=7)
    """Weekdays; every day when empty."""
    start: str = Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")
    """From this time of day, 24 hours."""
    end: str = Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")
    """Until this time of day."""


class PlaceDoc(Versioned):
    """Somewhere a client trains, with its kit."""

    model_config = example(
        {
            "name": "Spare room",
            "room": {"length_cm": 350, "width_cm": 280, "ceiling_cm": 245},
            "kit": [{"kind": "dumbbells", "id": "dumbbells", "name": "dumbbells", "masses_kg": [4, 6, 8, 10]}],
        }
    )

    format: Literal["odd-swap/place/2"] = "odd-swap/place/2"
    name: Name
    room: RoomDoc
    kit: list[AnyItem] = Field(max_length=400)
    """What is there."""
    busy: list[BusyDoc] = Field(default=[], max_length=200)
    """What is crowded, and when."""

    def place(self) -> Place:
        """The place in the core's terms, checked.

        Raises:
            DomainError: Where items contradict themselves or each other.
        """
        place = Place(self.name, self.room.room(), self.kit)
        place.verify()
        ids = [item.id for item in self.kit]
        for i, busy in enumerate(self.busy):
            if busy.item not in ids:
                raise DomainError(f"busy.{i}.item", busy.item, "an item of this place's kit", "Pick one of its items")
            if busy.end <= busy.start:
                raise DomainError(f"busy.{i}.end", busy.end, f"later than the start, {busy.start}", "Split it at midnight")
        return place
