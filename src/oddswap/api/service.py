"""Whether the service answers."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from oddswap import __version__

router = APIRouter(prefix="/api")


class Health(BaseModel):
    """Whether the service answers, and which version."""

    status: str
    version: str


@router.get("/health", tags=["service"])
async def health() -> Health:
    """Whether the service answers; asked on the event loop itself, whatever is being computed."""
    return Health(status="ok", version=__version__)
