"""Routes that answer from documents alone: nothing of it is stored."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from oddswap.api import calculators as calculators
from oddswap.api.routing import StoreRoute
from oddswap.application.fields import name_field
from oddswap.application.matching import match_program
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import SwapsDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.reports import SizeDoc
from oddswap.documents.schemas import schema
from oddswap.documents.set_up import ClientSetUpDoc
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.profile import profile

router = APIRouter(prefix="/api", route_class=StoreRoute)


SWAP_EXAMPLE: Any = {name: schema(name)["examples"][0] for name in ("client", "program", "place")}


class SwapRequest(BaseModel):
    """A client, a program and a place as documents: nothing of it is stored."""

    model_config = ConfigDict(strict=True, extra="forbid", json_schema_extra={"examples": [SWAP_EXAMPLE]})

    client: ClientDoc
    program: ProgramDoc
    place: PlaceDoc
    lens: str = "same_profile"


@router.post("/swaps", tags=["documents"])
def swaps(request: SwapRequest) -> SwapsDoc:
    """Map a whole program to a place, from documents."""
    lens_by_id(request.lens)
    return match_program(request.client, request.program, request.place, RankDoc(lens=request.lens))


@router.post("/profile", tags=["documents"])
def read_profile(document: ClientSetUpDoc) -> ProfileDoc:
    """The computed curves of one set-up for one client, from a document."""
    body = name_field("client", document.client.body)
    set_up = document.set_up.set_up()
    return ProfileDoc.of(set_up, name_field("set_up", lambda: profile(body, set_up)))


@router.get("/schemas/{name}", tags=["documents"])
def read_schema(name: str) -> dict[str, Any]:
    """JSON Schema of a document: client, program, place, set-up, profile, match, swaps."""
    return schema(name)


@router.post("/size", tags=["documents"])
def size(document: ClientDoc) -> SizeDoc:
    """Landmark heights, segments and bodyweight trend of a client, from a document."""
    weights = [(float(w.day.toordinal()), w.mass_kg) for w in document.weights]
    return SizeDoc.of(document.body(), weights)
