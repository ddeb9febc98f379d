"""Routes of the reach map."""

from __future__ import annotations

from fastapi import APIRouter

from oddswap.api.requests import Number, PlaceNumber
from oddswap.api.routing import StoreRoute
from oddswap.application.coverage import purchase_list, reach_map
from oddswap.application.versions import map_digest
from oddswap.documents.reports import PurchaseDoc, ReachDoc
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/clients/{client}/reach", tags=["swaps"])
def read_reach(client: Number, place: PlaceNumber) -> ReachDoc:
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
def read_purchases(client: Number, place: PlaceNumber) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first."""
    return purchase_list(records.client(client).document, records.place(place).document)
