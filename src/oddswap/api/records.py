"""Routes for clients and places."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response
from pydantic import Field, ValidationError

from oddswap.api import calculators as calculators
from oddswap.api.kept import kept
from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.revisions import WRITES, IfMatch, Key, read_revision, tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import ClientView, DamagedView, PlaceView, RosterView, StoredPlace, client_view
from oddswap.application.staleness import recheck_client, recheck_place
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import reading_faults
from oddswap.errors import DomainError
from oddswap.store import editing, records

router = APIRouter(prefix="/api", route_class=StoreRoute)


class PlacesOf(Asked):
    """Where a client trains, in order."""

    model_config = shown({"places": [1, 2]})

    places: list[RecordNumber] = Field(max_length=1000)


class Many(Asked):
    """Several clients."""

    model_config = shown({"clients": [{"name": "Edda Vane", "stature_cm": 171, "mass_kg": 66, "sex": "female"}]})

    clients: list[ClientDoc] = Field(min_length=1, max_length=500)


@router.get("/places", tags=["records"])
def places() -> list[PlaceView]:
    """All places."""
    return [PlaceView(id=p.id, name=p.document.name, items=len(p.document.kit)) for p in records.places()]


@router.post("/places", tags=["records"])
def add_place(document: PlaceDoc, response: Response, key: Key = "") -> StoredPlace:
    """A new place."""
    document.place()
    return _place(records.add_place(records.the_coach(), document, key), response)


@router.get("/places/{place}", tags=["records"])
def read_place(place: Number, response: Response) -> StoredPlace:
    """One place with its kit."""
    return _place(place, response)


@router.put("/places/{place}", tags=["records"], responses=WRITES)
def change_place(place: Number, document: PlaceDoc, response: Response, if_match: IfMatch = None) -> StoredPlace:
    """Change a place or its kit."""
    document.place()
    records.save_place(place, document, read_revision(if_match))
    recheck_place(place)
    return _place(place, response)


def _place(place: int, response: Response) -> StoredPlace:
    tag(response, "place", place)
    undo, redo = editing.ways("place", place)
    return StoredPlace(id=place, place=records.place(place).document, can_undo=undo, can_redo=redo)


@router.post("/clients", tags=["records"])
def add_client(document: ClientDoc, response: Response, key: Key = "") -> ClientView:
    """A new client."""
    document.body()
    return _client(records.add_client(records.the_coach(), document, [], key), response)


@router.post("/clients/many", tags=["records"])
def add_clients(document: Many) -> list[int]:
    """Several new clients, all of them or none; their numbers are answered."""
    for i, one in enumerate(document.clients):
        try:
            one.body()
        except DomainError as error:
            raise error.at(f"clients.{i}") from None
    return records.add_clients(records.the_coach(), document.clients)


@router.get("/clients", tags=["records"], response_model=RosterView)
def roster() -> Response:
    """All clients with their programs and the accepted swaps of every line."""
    return kept("roster", _roster)


def _roster() -> RosterView:
    clients, damaged = [], []
    for number in records.client_ids():
        try:
            clients.append(client_view(records.client(number)))
        except ValidationError as error:
            damaged.append(_damaged("clients", number, error))
    damaged += [_damaged("places", number, error) for number, error in records.damaged_places()]
    return RosterView(clients=clients, damaged=damaged)


def _damaged(kind: Literal["clients", "places"], number: int, error: ValidationError) -> DamagedView:
    name, text = records.as_stored("client" if kind == "clients" else "place", number)
    fault = reading_faults(error.errors(include_url=False))[0]
    return DamagedView(kind=kind, id=number, name=name, why=f"{fault.field}: {fault.limit}", text=text)


@router.get("/clients/{client}", tags=["records"])
def read_client(client: Number, response: Response) -> ClientView:
    """One client."""
    return _client(client, response)


@router.put("/clients/{client}", tags=["records"], responses=WRITES)
def change_client(client: Number, document: ClientDoc, response: Response, if_match: IfMatch = None) -> ClientView:
    """Change a client's name or size."""
    document.body()
    records.save_client(client, document, read_revision(if_match))
    recheck_client(client)
    return _client(client, response)


@router.put("/clients/{client}/places", tags=["records"], responses=WRITES)
def set_places(client: Number, document: PlacesOf, response: Response, if_match: IfMatch = None) -> ClientView:
    """Where a client trains, in order; the revision is the client's."""
    records.set_places(client, document.places, read_revision(if_match))
    return _client(client, response)


def _client(client: int, response: Response) -> ClientView:
    tag(response, "client", client)
    undo, redo = editing.ways("client", client)
    return client_view(records.client(client)).model_copy(update={"can_undo": undo, "can_redo": redo})
