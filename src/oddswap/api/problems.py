"""Problem documents (RFC 9457) for all that cannot be."""

from __future__ import annotations

from typing import Any

from fastapi.responses import JSONResponse

from oddswap.api import calculators as calculators
from oddswap.documents.problems import Fault, Problem

PROBLEMS: dict[int | str, dict[str, Any]] = {
    404: {"model": Problem, "description": "There is no such record"},
    422: {"model": Problem, "description": "A value cannot be; every fault names its field, limit and way out"},
}


def problem(status: int, title: str, detail: str, faults: list[Fault] | None = None) -> JSONResponse:
    """A problem document (RFC 9457)."""
    body = Problem(title=title, status=status, detail=detail, faults=faults or [])
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")
