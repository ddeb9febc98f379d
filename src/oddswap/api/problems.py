"""Problem documents (RFC 9457) for all that cannot be."""

from __future__ import annotations

import json
from typing import Any

from fastapi.responses import JSONResponse

from oddswap.api import calculators as calculators
from oddswap.documents.problems import Fault, Problem

PROBLEMS: dict[int | str, dict[str, Any]] = {
    400: {"model": Problem, "description": "Asked for by a name that is not this machine's, or no HTTP"},
    403: {"model": Problem, "description": "Asked from another site's page"},
    404: {"model": Problem, "description": "There is no such record"},
    413: {"model": Problem, "description": "More than 20 MB was sent"},
    414: {"model": Problem, "description": "The address is too long"},
    422: {"model": Problem, "description": "A value cannot be; every fault names its field, limit and way out"},
    500: {"model": Problem, "description": "The app failed; nothing of this was stored"},
    503: {"model": Problem, "description": "Too much is being computed; come back after the seconds in Retry-After"},
}


class AsciiResponse(JSONResponse):
    """JSON in ASCII: what cannot be is told back as it came, half a surrogate pair included."""

    def render(self, content: Any) -> bytes:
        """As JSON."""
        return json.dumps(content, ensure_ascii=True, allow_nan=False).encode("ascii")


def problem(status: int, title: str, detail: str, faults: list[Fault] | None = None) -> JSONResponse:
    """A problem document (RFC 9457)."""
    body = Problem(title=title, status=status, detail=detail, faults=faults or [])
    return AsciiResponse(body.model_dump(), status, media_type="application/problem+json")
