"""Routes for clients, places, kit, files and the measuring bench."""

from __future__ import annotations

import base64
import binascii
from typing import Annotated, Any, Literal, get_args, get_origin, get_type_hints
from urllib.parse import quote

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel, ConfigDict, Field

from oddswap.api.routing import StoreRoute
from oddswap.api.views import ClientView, PlaceView, StoredPlace, View, client_view
from oddswap.application.coverage import purchase_list, reach_map
from oddswap.application.measuring import fitted, simulated_reading
from oddswap.application.measuring_plan import planned
from oddswap.application.staleness import recheck_place
from oddswap.application.versions import map_digest
from oddswap.devices.simulated_kit import simulated_joint
from oddswap.documents import tables
from oddswap.documents.client import ClientDoc
from oddswap.documents.kit import AnyItem
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.place_sheet import item_of_cells
from oddswap.documents.problems import Fault
from oddswap.documents.reports import FitDoc, PurchaseDoc, ReachDoc, SizeDoc, SteadyDoc
from oddswap.documents.sheets import Form, export_file, import_file
from oddswap.equipment import kit_classes
from oddswap.errors import DomainError
from oddswap.mechanics.body import tables as body_tables
from oddswap.store import records
from oddswap.store.demo import ready_kits

router = APIRouter(prefix="/api", route_class=StoreRoute)
MEDIA = {
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}


FILES: dict[int | str, dict[str, Any]] = {
    200: {"description": "The file", "content": {kind.split(";")[0]: {"schema": {"type": "string"}} for kind in MEDIA.values()}}
}
BAND: dict[str, Any] = {
    "kind": "band", "id": "sand", "name": "sand band", "points": [], "most_cm": 200, "section": {"rest_cm": 80, "area_mm2": 90},
}  # fmt: skip
RUN: dict[str, Any] = {
    "what": "band", "item": "sand",
    "readings": [{"at": a, "value": v} for a, v in ((95, 17), (115, 31), (140, 43), (165, 53), (190, 62))],
}  # fmt: skip


class Asked(BaseModel):
    """Common rules of what is sent in."""

    model_config = ConfigDict(strict=True, extra="forbid", use_attribute_docstrings=True)


def shown(value: dict[str, Any]) -> ConfigDict:
    """The rules with an example."""
    return ConfigDict(json_schema_extra={"examples": [value]})


class FileIn(Asked):
    """A file as it was chosen."""

    model_config = shown({"name": "garage.csv", "content": "a2luZCxuYW1lCg=="})

    name: str
    content: str
    """Its bytes, base64."""


class ReadFile(View):
    """What a file holds; nothing is stored yet."""

    place: PlaceDoc | None = None
    clients: list[ClientDoc] | None = None
    measurement: MeasurementDoc | None = None


class FieldView(View):
    """A field of a kind of kit, as a cell."""

    name: str
    label: str
    needed: bool
    usual: str
    """What stands for an empty cell."""
    choices: list[str]
    """Words to pick from; empty for free cells."""
    list: bool
    """Whether several values stand in it, with spaces between."""


class KindView(View):
    """A kind of kit and its fields."""

    kind: str
    name: str
    about: str
    fields: list[FieldView]


class ItemCells(Asked):
    """A kit item as cells."""

    model_config = shown({"cells": {"kind": "dumbbells", "id": "dumbbells", "name": "dumbbells", "masses_kg": "4 6 8 10"}})

    cells: dict[str, str]


class ItemView(View):
    """A kit item and its cells."""

    item: AnyItem
    cells: dict[str, str]


class PlacesOf(Asked):
    """Where a client trains, in order."""

    model_config = shown({"places": [1, 2]})

    places: list[int]


class Many(Asked):
    """Several clients."""

    model_config = shown({"clients": [{"name": "Edda Vane", "stature_cm": 171, "mass_kg": 66, "sex": "female"}]})

    clients: list[ClientDoc] = Field(min_length=1, max_length=500)


class StaleView(View):
    """A taken swap whose match moved with new figures."""

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


class RangeView(View):
    """A joint range that a client may narrow."""

    name: str
    low: float
    high: float


@router.get("/places", tags=["records"])
def places() -> list[PlaceView]:
    """All places."""
    return [PlaceView(id=p.id, name=p.document.name, items=len(p.document.kit)) for p in records.places()]


@router.post("/places", tags=["records"])
def add_place(document: PlaceDoc) -> StoredPlace:
    """A new place."""
    document.place()
    return StoredPlace(id=records.add_place(records.the_coach(), document), place=document)


@router.delete("/places/{place}", tags=["records"])
def remove_place(place: int) -> StoredPlace:
    """Remove a place; what it was is answered, so that it can be put back."""
    held = records.place(place).document
    records.remove_place(place)
    return StoredPlace(id=place, place=held)


@router.post("/clients", tags=["records"])
def add_client(document: ClientDoc) -> ClientView:
    """A new client."""
    document.body()
    return client_view(records.client(records.add_client(records.the_coach(), document, [])))


@router.post("/clients/many", tags=["records"])
def add_clients(document: Many) -> list[int]:
    """Several new clients, all of them or none; their numbers are answered."""
    for i, one in enumerate(document.clients):
        try:
            one.body()
        except DomainError as error:
            raise error.at(f"clients.{i}") from None
    return records.add_clients(records.the_coach(), document.clients)


@router.put("/clients/{client}/places", tags=["records"])
def set_places(client: int, document: PlacesOf) -> ClientView:
    """Where a client trains, in order."""
    records.set_places(client, document.places)
    return client_view(records.client(client))


@router.post("/size", tags=["documents"])
def size(document: ClientDoc) -> SizeDoc:
    """Landmark heights, segments and bodyweight trend of a client, from a document."""
    weights = [(float(w.day.toordinal()), w.mass_kg) for w in document.weights]
    return SizeDoc.of(document.body(), weights)


@router.get("/ranges", tags=["library"])
def ranges() -> list[RangeView]:
    """Joint ranges with their published norms, degrees."""
    norms = body_tables()["range"]
    spans = {k: v for k, v in norms.items() if isinstance(v, list) and len(v) == 2}
    return [RangeView(name=k, low=v[0], high=v[1]) for k, v in spans.items()]


@router.get("/ready-kits", tags=["library"])
def ready() -> list[PlaceDoc]:
    """Kits of typical rooms to start from."""
    return ready_kits()


@router.get("/kit-kinds", tags=["library"])
def kit_kinds() -> list[KindView]:
    """Every kind of kit with its fields."""
    return [_kind_view(kind, made) for kind, made in kit_classes().items()]


def _kind_view(kind: str, made: Any) -> KindView:
    fields = []
    hints = get_type_hints(made)
    for f in tables.named_fields(made):
        hint = hints[f.name]
        words = [str(c) for c in get_args(hint)] if get_origin(hint) is Literal else []
        if hint is bool:
            words = ["yes", "no"]
        usual = "" if f.needed else tables.columns_of(made)[f.name].write(f.usual) if f.usual not in (None, []) else ""
        listed = get_origin(hint) is list
        fields.append(FieldView(name=f.name, label=f.label, needed=f.needed, usual=usual, choices=words, list=listed))
    about = (made.__doc__ or "").strip().split("\n")[0]
    return KindView(kind=kind, name=kind.replace("_", " "), about=about, fields=fields)


@router.post("/kit-items", tags=["documents"])
def kit_item(document: ItemCells) -> ItemView:
    """A kit item from its cells; every cell that cannot be is named."""
    made = item_of_cells(document.cells)
    return ItemView(item=made, cells=tables.cells_of(made) | {"kind": made.kind})


@router.post("/kit-cells", tags=["documents"])
def kit_cells(document: PlaceDoc) -> list[dict[str, str]]:
    """The cells of every kit item of a place, in order."""
    return [tables.cells_of(item) | {"kind": item.kind} for item in document.kit]


@router.get("/places/{place}/file", tags=["files"], response_class=Response, responses=FILES)
def place_file(place: int, form: Form = "csv") -> Response:
    """A place as a file."""
    document = records.place(place).document
    return _file(f"{document.name}.{form}", form, export_file(form, document))


@router.get("/clients.{form}", tags=["files"], response_class=Response, responses=FILES)
def clients_file(form: Form) -> Response:
    """All clients as a file."""
    return _file(f"clients.{form}", form, export_file(form, [records.client(n).document for n in records.client_ids()]))


def _file(name: str, form: Form, data: bytes) -> Response:
    # RFC 5987: the name as it is, and one in plain letters for what cannot read that.
    plain = "".join(c if c.isascii() and (c.isalnum() or c in ".-") else "-" for c in name.lower())
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}"
    return Response(data, media_type=MEDIA[form], headers={"Content-Disposition": disposition})


@router.post("/files/{what}", tags=["files"])
def read_file(what: Literal["place", "clients", "measurement"], document: FileIn) -> ReadFile:
    """Read a JSON, CSV or XLSX file whole; nothing is stored. Every bad cell is named by line and column."""
    try:
        data = base64.b64decode(document.content, validate=True)
    except binascii.Error as error:
        raise DomainError("content", "(bytes)", "base64", "Choose the file again") from error
    return ReadFile(**{what: import_file(what, document.name, data)})


@router.get("/clients/{client}/reach", tags=["swaps"])
def read_reach(client: int, place: Annotated[int, Query(description="Number of the place")]) -> ReachDoc:
    """How well a place can load a client, by muscle and zone; computed anew only where size or kit changed."""
    person, room = records.client(client).document, records.place(place).document
    digest = map_digest(person, room)
    stored = records.stored_map(client, place, digest)
    if stored is not None:
        return ReachDoc.model_validate_json(stored)
    made = reach_map(person, room)
    records.keep_map(client, place, digest, made.model_dump_json())
    return made


@router.get("/clients/{client}/purchases", tags=["swaps"])
def read_purchases(client: int, place: Annotated[int, Query(description="Number of the place")]) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first."""
    return purchase_list(records.client(client).document, records.place(place).document)


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
def save_item(place: int, item: str, document: ItemBox) -> SavedPlace:
    """Put measured figures into a place's kit, and list the taken swaps that they make stale."""
    held = records.place(place).document
    if document.item.id != item or item not in [k.id for k in held.kit]:
        raise DomainError("item.id", document.item.id, "an item of this place", "Pick one of its items")
    changed = held.model_copy(update={"kit": [document.item if k.id == item else k for k in held.kit]})
    changed.place()
    records.save_place(place, changed)
    return SavedPlace(id=place, place=changed, stale=[StaleView(**vars(s)) for s in recheck_place(place)])


def faults_problem(error: tables.TableError) -> tuple[str, list[Fault]]:
    """What is said of a file that cannot be taken over."""
    count = len(error.faults)
    return f"{count} {'fault' if count == 1 else 'faults'}; nothing was taken over", error.faults
