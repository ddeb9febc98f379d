"""Routes of the movement library, and of what kit and clients may be."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from oddswap.api import calculators as calculators
from oddswap.api.requests import ClientNumber
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.library import movement_example
from oddswap.documents.library import ExampleDoc, MovementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.exercises import FAMILIES, movements
from oddswap.mechanics.body import tables as body_tables
from oddswap.store import records
from oddswap.store.demo import ready_kits

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/movements", tags=["library"])
def movement_list() -> list[MovementDoc]:
    """Every movement with its variants and the generic kit that loads them."""
    return [MovementDoc.of(kind) for kind in sorted(movements().values(), key=lambda m: (FAMILIES.index(m.family), m.name))]


@router.get("/movements/{name}", tags=["library"])
def movement_example_for(
    name: str,
    client: ClientNumber,
    kit: Annotated[str, Query(description="Generic kit, one of the variant's own; empty for the first that loads it")] = "",
    variant: Annotated[int, Query(description="Place in the movement's list of variants")] = 0,
) -> ExampleDoc:
    """A movement on generic kit for one client: figure, curves, who carries the load."""
    return movement_example(records.client(client).document, name, variant, kit)


class RangeView(View):
    """A joint range that a client may narrow."""

    name: str
    low: float
    high: float


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
