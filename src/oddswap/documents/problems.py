"""Faults in words: one row per field with value, limit and way out, whoever found them."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, ValidationError

from oddswap.equipment import kit_classes, setting_classes
from oddswap.errors import DomainError

WAY_OUT = {
    "missing": "Add this field",
    "extra_forbidden": "Remove it, or check its spelling against the schema",
    "json_invalid": "Mend the JSON at this place",
}


class Fault(BaseModel):
    """What is wrong with one field."""

    field: str
    """Path of the field, parts joined by dots."""
    value: str
    """What was given, shortened."""
    limit: str
    """What is allowed."""
    way_out: str
    """What to do about it."""


class Problem(BaseModel):
    """A problem document (RFC 9457) with its faults."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    faults: list[Fault] = []


def shorten(value: object) -> str:
    """A value as JSON, at most 60 characters."""
    text = json.dumps(value, default=str, ensure_ascii=False)
    return text if len(text) <= 60 else text[:57] + "..."


def domain_fault(error: DomainError) -> Fault:
    """The core's error as a fault."""
    return Fault(field=error.field, value=shorten(error.value), limit=error.limit, way_out=error.way_out)


def path(location: Sequence[Any]) -> str:
    """A field's path without the names of the union members that the reader tried."""
    tags = {*kit_classes(), *setting_classes()}
    parts = [p for i, p in enumerate(location) if not (p in tags and i > 0 and isinstance(location[i - 1], int))]
    return ".".join(str(p) for p in parts)


def reading_faults(errors: Sequence[Any], prefix: str = "") -> list[Fault]:
    """Faults of a document that could not be read, from the reader's own list."""
    out = []
    for error in errors:
        field = ".".join(p for p in (prefix, path(error["loc"])) if p)
        value = "(missing)" if error["type"] == "missing" else shorten(error.get("input"))
        limit = error["msg"][:1].lower() + error["msg"][1:]
        if error["type"] == "json_invalid":
            limit = f"well-formed JSON: {error.get('ctx', {}).get('error', limit)}"
            value = "(not JSON)"
        out.append(Fault(field=field, value=value, limit=limit, way_out=WAY_OUT.get(error["type"], "Correct the value")))
    return out


def faults_of(error: ValidationError | DomainError, prefix: str = "") -> list[Fault]:
    """Faults of either kind of error, their paths under ``prefix``."""
    if isinstance(error, DomainError):
        return [domain_fault(error.at(prefix) if prefix else error)]
    return reading_faults(error.errors(include_url=False, include_context=True), prefix)
