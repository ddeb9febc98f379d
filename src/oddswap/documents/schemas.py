"""Every document by name, with its JSON Schema."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, TypeAdapter

from oddswap.documents.card import CardDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.detail import DetailDoc
from oddswap.documents.library import ExampleDoc
from oddswap.documents.log_file import LogFileDoc
from oddswap.documents.match import MatchDoc, SwapsDoc
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.set_up import ClientSetUpDoc
from oddswap.errors import DomainError

DOCUMENTS: dict[str, type[BaseModel]] = {
    "client": ClientDoc,
    "program": ProgramDoc,
    "place": PlaceDoc,
    "set-up": ClientSetUpDoc,
    "measurement": MeasurementDoc,
    "log": LogFileDoc,
}
"""Documents that go in, by name."""


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of a document that goes in or out.

    Raises:
        DomainError: If there is no such document.
    """

    models = DOCUMENTS | RESULTS
    if name not in models:
        raise DomainError("schema", name, f"the documents are {', '.join(models)}", "Pick one of these")
    mode: Literal["validation", "serialization"] = "validation" if name in DOCUMENTS else "serialization"
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | TypeAdapter(models[name]).json_schema(mode=mode)


RESULTS: dict[str, type[BaseModel]] = {
    "profile": ProfileDoc,
    "match": MatchDoc,
    "swaps": SwapsDoc,
    "example": ExampleDoc,
    "detail": DetailDoc,
    "card": CardDoc,
}
"""Documents that come out, by name."""
