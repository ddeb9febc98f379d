"""Routes of the measuring bench."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from fastapi import APIRouter, Response
from pydantic import Field

from oddswap.api.requests import Asked, ClientNumber, Number, PlaceNumber, RecordNumber, shown
from oddswap.api.revisions import WRITES, IfMatch, Key, read_revision, tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.measuring import fitted, simulated_reading
from oddswap.application.measuring_plan import planned
from oddswap.application.staleness import recheck_place
from oddswap.devices.simulated_kit import simulated_joint
from oddswap.documents.kit import AnyItem
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.measuring_run import MeasuringRunDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.reports import FitDoc, SteadyDoc
from oddswap.errors import DomainError
from oddswap.quantities import shown_in
from oddswap.store import editing, measurements, records

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
    at: float = Field(ge=-1000, le=1000)
    direction: Literal["up", "down"] = "up"
    stack_kg: float = Field(default=20.0, gt=0, le=500)
    arm_cm: float = Field(default=35.0, gt=1, le=200)
    seed: int = Field(default=0, ge=0)


class JointAt(Asked):
    """Which joint the angle finder's stand-in is held to."""

    model_config = shown({"low": 0, "high": 140})

    low: float = Field(ge=-360, le=360)
    high: float = Field(ge=-360, le=360)
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
    with shown_in(records.settings().units):
        return fitted(document.measurement, document.item, document.stack_kg, document.arm_cm)


class NewRun(MeasuringRunDoc):
    """A measuring run, and whose it is: a place's item or a client's joint."""

    model_config = shown({"place": 1, "measurement": RUN})

    place: RecordNumber | None = None
    client: RecordNumber | None = None


class MeasurementView(View):
    """A measuring run as it is kept."""

    id: int
    place: int | None
    client: int | None
    begun_at: dt.datetime
    changed_at: dt.datetime
    run: MeasuringRunDoc
    can_undo: bool
    can_redo: bool


def _measurement(number: int, response: Response) -> MeasurementView:
    tag(response, "measurement", number)
    return _view(measurements.measurement(number))


def _view(held: measurements.MeasurementRecord) -> MeasurementView:
    begun, changed = (t.replace(tzinfo=dt.UTC) for t in (held.begun_at, held.changed_at))
    undo, redo = editing.ways("measurement", held.id)
    return MeasurementView(
        id=held.id, place=held.place, client=held.client, begun_at=begun, changed_at=changed, run=held.document,
        can_undo=undo, can_redo=redo,
    )  # fmt: skip


@router.get("/measurements", tags=["measuring"])
def list_measurements(place: PlaceNumber | None = None, client: ClientNumber | None = None) -> list[MeasurementView]:
    """The measuring runs of a place or a client, newest first, with their raw readings."""
    if (place is None) == (client is None):
        raise DomainError("place", place, "either a place or a client", "Name one of the two")
    return [_view(held) for held in measurements.measurements(place, client)]


@router.post("/measurements", tags=["measuring"])
def add_measurement(document: NewRun, response: Response, key: Key = "") -> MeasurementView:
    """A new measuring run; it may still lack readings."""
    if (document.place is None) == (document.client is None):
        raise DomainError("place", document.place, "either a place or a client", "Name one of the two")
    run = MeasuringRunDoc(**document.model_dump(exclude={"place", "client"}))
    return _measurement(measurements.add_measurement(run, document.place, document.client, key), response)


@router.get("/measurements/{measurement}", tags=["measuring"])
def read_measurement(measurement: Number, response: Response) -> MeasurementView:
    """A measuring run with its raw readings."""
    return _measurement(measurement, response)


@router.put("/measurements/{measurement}", tags=["measuring"], responses=WRITES)
def change_measurement(
    measurement: Number, document: MeasuringRunDoc, response: Response, if_match: IfMatch = None
) -> MeasurementView:
    """Change a measuring run: more readings, or some left out."""
    measurements.save_measurement(measurement, document, read_revision(if_match))
    return _measurement(measurement, response)


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
