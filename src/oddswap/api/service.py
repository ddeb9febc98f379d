"""Whether the service answers."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from oddswap import __version__
from oddswap.api import calculators as calculators
from oddswap.api.routing import StoreRoute

router = APIRouter(prefix="/api", route_class=StoreRoute)


class Health(BaseModel):
    """Whether the service answers, and which version."""

    status: str
    version: str


@router.get("/health", tags=["service"])
def health() -> Health:
    """Whether the service answers."""
    return Health(status="ok", version=__version__)
