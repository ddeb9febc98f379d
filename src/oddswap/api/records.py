"""Routes for clients and places."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import Field

from oddswap.api import calculators as calculators
from oddswap.api.requests import Asked, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import ClientView, PlaceView, RosterView, StoredPlace, client_view
from oddswap.application.staleness import recheck_client, recheck_place
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.errors import DomainError
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


class PlacesOf(Asked):
    """Where a client trains, in order."""

    model_config = shown({"places": [1, 2]})

    places: list[int]


class Many(Asked):
    """Several clients."""

    model_config = shown({"clients": [{"name": "Edda Vane", "stature_cm": 171, "mass_kg": 66, "sex": "female"}]})

    clients: list[ClientDoc] = Field(min_length=1, max_length=500)


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


@router.get("/clients", tags=["records"])
def roster() -> RosterView:
    """All clients with their programs and the accepted swaps of every line."""
    return RosterView(clients=[client_view(records.client(number)) for number in records.client_ids()])


@router.get("/clients/{client}", tags=["records"])
def read_client(client: int) -> ClientView:
    """One client."""
    return client_view(records.client(client))


@router.put("/clients/{client}", tags=["records"])
def change_client(client: int, document: ClientDoc) -> ClientView:
    """Change a client's name or size."""
    document.body()
    records.save_client(client, document)
    recheck_client(client)
    return client_view(records.client(client))


@router.get("/places/{place}", tags=["records"])
def read_place(place: int) -> StoredPlace:
    """One place with its kit."""
    return StoredPlace(id=place, place=records.place(place).document)


@router.put("/places/{place}", tags=["records"])
def change_place(place: int, document: PlaceDoc) -> StoredPlace:
    """Change a place or its kit."""
    document.place()
    records.save_place(place, document)
    recheck_place(place)
    return StoredPlace(id=place, place=document)
