"""Routes of the measuring bench."""

from __future__ import annotations

from typing import Any, Literal

from fastapi import APIRouter, Response
from pydantic import Field

from oddswap.api.requests import Asked, Number, shown
from oddswap.api.revisions import tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.measuring import fitted, simulated_reading
from oddswap.application.measuring_plan import planned
from oddswap.application.staleness import recheck_place
from oddswap.devices.simulated_kit import simulated_joint
from oddswap.documents.kit import AnyItem
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.reports import FitDoc, SteadyDoc
from oddswap.errors import DomainError
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


BAND: dict[str, Any] = {
    "kind": "band", "id": "sand", "name": "sand band", "points": [], "most_cm": 200, "section": {"rest_cm": 80, "area_mm2": 90},
}  # fmt: skip

RUN: dict[str, Any] = {
    "what": "band", "item": "sand",
    "readings": [{"at": a, "value": v} for a, v in ((95, 17), (115, 31), (140, 43), (165, 53), (190, 62))],
}  # fmt: skip


class StaleView(View):
    """An accepted swap whose match moved with new figures."""

    client: str
    line: str
    line_id: int
    title: str
    was: float
    now: float


class SavedPlace(View):
    """A place after new figures, and what they made stale."""

    id: int
    place: PlaceDoc
    stale: list[StaleView]


class ReadAt(Asked):
    """Where the stand-in is read."""

    model_config = shown({"what": "band", "item": BAND, "at": 120})

    what: Literal["band", "column", "cam"]
    item: AnyItem
    at: float
    direction: Literal["up", "down"] = "up"
    stack_kg: float = Field(default=20.0, gt=0, le=500)
    arm_cm: float = Field(default=35.0, gt=1, le=200)
    seed: int = Field(default=0, ge=0)


class JointAt(Asked):
    """Which joint the angle finder's stand-in is held to."""

    model_config = shown({"low": 0, "high": 140})

    low: float
    high: float
    seed: int = Field(default=0, ge=0)


class PlanIn(Asked):
    """What shall be measured."""

    model_config = shown({"what": "band", "item": BAND})

    what: Literal["band", "column", "cam"]
    item: AnyItem


class RunIn(Asked):
    """Readings of a guided run and what was measured."""

    model_config = shown({"measurement": RUN, "item": BAND})

    measurement: MeasurementDoc
    item: AnyItem | None = None
    stack_kg: float = Field(default=20.0, gt=0, le=500)
    arm_cm: float = Field(default=35.0, gt=1, le=200)


class ItemBox(Asked):
    """A kit item with new figures."""

    model_config = shown({"item": BAND})

    item: AnyItem


@router.post("/measuring/plan", tags=["measuring"])
def plan(document: PlanIn) -> list[float]:
    """Where a guided run reads an item, in order: lengths, cm, pins, kg, or angles, degrees."""
    return planned(document.what, document.item)


@router.post("/measuring/read", tags=["measuring"])
def read_scale(document: ReadAt) -> SteadyDoc:
    """A steady reading of the hanging scale's stand-in."""
    d = document
    return simulated_reading(d.what, d.item, d.at, d.direction, d.stack_kg, d.arm_cm, d.seed)


@router.post("/measuring/joint", tags=["measuring"])
def read_joint(document: JointAt) -> list[list[float]]:
    """A recording of the angle finder's stand-in: times, s, and degrees."""
    return [list(pair) for pair in simulated_joint(document.low, document.high, document.seed)]


@router.post("/measuring/fit", tags=["measuring"])
def fit(document: RunIn) -> FitDoc:
    """What a guided run makes of its readings."""
    return fitted(document.measurement, document.item, document.stack_kg, document.arm_cm)


@router.put("/places/{place}/kit/{item}", tags=["measuring"])
def save_item(place: Number, item: str, document: ItemBox, response: Response) -> SavedPlace:
    """Put measured figures into a place's kit, and list the accepted swaps that they make stale."""

    def with_item(held: PlaceDoc) -> PlaceDoc:
        if document.item.id != item or item not in [k.id for k in held.kit]:
            raise DomainError("item.id", document.item.id, "an item of this place", "Pick one of its items")
        made = held.model_copy(update={"kit": [document.item if k.id == item else k for k in held.kit]})
        made.place()
        return made

    changed = records.change_place(place, with_item)
    tag(response, "place", place)
    return SavedPlace(id=place, place=changed, stale=[StaleView(**vars(s)) for s in recheck_place(place)])
