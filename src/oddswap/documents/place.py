"""A place with its kit as a document."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.kit import AnyItem
from oddswap.equipment.base.fields import Name, Note
from oddswap.equipment.base.item import Room
from oddswap.equivalence.prescription import Place
from oddswap.errors import DomainError
from oddswap.quantities import cm


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


class SpotDoc(Document):
    """Where an item stands on the floor."""

    item: str
    """Id of the kit item."""
    x_cm: float = Field(ge=0, le=10_000)
    """Its middle from the left wall, along the floor's length."""
    y_cm: float = Field(ge=0, le=10_000)
    """Its middle from the near wall, along the floor's width."""


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
    plan: list[SpotDoc] = Field(default=[], max_length=400)
    """Where items stand; those without a spot stand along the walls."""
    note: Note = ""
    """What the coach wants to remember of the place."""

    def chosen_spots(self) -> dict[str, tuple[float, float]]:
        """Where items were put, m, by id."""
        return {spot.item: (spot.x_cm / 100, spot.y_cm / 100) for spot in self.plan}

    def place(self) -> Place:
        """The place in the core's terms, checked.

        Raises:
            DomainError: Where items contradict themselves or each other.
        """
        place = Place(self.name, self.room.room(), self.kit, self.chosen_spots())
        place.verify()
        ids = [item.id for item in self.kit]
        for i, busy in enumerate(self.busy):
            if busy.item not in ids:
                raise DomainError(f"busy.{i}.item", busy.item, "an item of this place's kit", "Pick one of its items")
            if busy.end <= busy.start:
                raise DomainError(f"busy.{i}.end", busy.end, f"later than the start, {busy.start}", "Split it at midnight")
        for i, spot in enumerate(self.plan):
            if spot.item not in ids or spot.item in [other.item for other in self.plan[:i]]:
                limit = "an item of this place's kit, once"
                raise DomainError(f"plan.{i}.item", spot.item, limit, "Pick one of its items")
            for name, most in (("x_cm", self.room.length_cm), ("y_cm", self.room.width_cm)):
                if getattr(spot, name) > most:
                    raise DomainError(f"plan.{i}.{name}", getattr(spot, name), f"inside the room, {cm(most)}", "Drag it inside")
        return place
