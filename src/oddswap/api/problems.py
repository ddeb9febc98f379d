"""Problem documents (RFC 9457) for all that cannot be."""

from __future__ import annotations

import json
from typing import Any

from fastapi.responses import JSONResponse
from pydantic import ValidationError

from oddswap.api.guesses import GuessingError, WrongPasswordError
from oddswap.api.revisions import UnconditionalError
from oddswap.application.jobs import BusyError
from oddswap.documents.problems import Fault, Problem, domain_fault, reading_faults
from oddswap.documents.tables import TableError
from oddswap.errors import DomainError
from oddswap.store.cards import ClosedError
from oddswap.store.editing import MissingError, StaleError
from oddswap.store.opening import GoneError, disk_is_full

PROBLEMS: dict[int | str, dict[str, Any]] = {
    400: {"model": Problem, "description": "Asked for by a name that is not this machine's, or no HTTP"},
    401: {"model": Problem, "description": "Coaches have to sign in here"},
    403: {"model": Problem, "description": "Asked from another site's page"},
    404: {"model": Problem, "description": "There is no such record"},
    413: {"model": Problem, "description": "More than 20 MB was sent"},
    414: {"model": Problem, "description": "The address is too long"},
    422: {"model": Problem, "description": "A value cannot be; every fault names its field, limit and way out"},
    500: {"model": Problem, "description": "The app failed; nothing of this was stored"},
    408: {"model": Problem, "description": "What was sent came too slowly"},
    507: {"model": Problem, "description": "The disk is full; nothing of this was stored"},
    503: {
        "model": Problem,
        "description": "Too much is being computed (come back after the seconds in Retry-After), or the database file is gone",
    },
}


class AsciiResponse(JSONResponse):
    """JSON in ASCII: what cannot be is told back as it came, half a surrogate pair included."""

    def render(self, content: Any) -> bytes:
        """As JSON."""
        return json.dumps(content, ensure_ascii=True, allow_nan=False).encode("ascii")


def as_problem(error: BaseException) -> Problem | None:
    """What is told of an error that is somebody's business; None for one that is the app's own."""
    match error:
        case DomainError():
            fault = domain_fault(error)
            return Problem(title="A value cannot be", status=422, detail=f"{fault.field}: {fault.limit}", faults=[fault])
        case TableError():
            count = len(error.faults)
            detail = f"{count} {'fault' if count == 1 else 'faults'}; nothing was imported"
            return Problem(title="The file cannot be imported", status=422, detail=detail, faults=error.faults)
        case ValidationError():
            faults = reading_faults(error.errors(include_url=False))
            detail = f"{len(faults)} faults, each at its field"
            return Problem(title="A value cannot be", status=422, detail=detail, faults=faults)
        case MissingError():
            limit, way_out = "a record that exists", "Go back to the roster"
            fault = Fault(field=error.what, value=str(error.number), limit=limit, way_out=way_out)
            return Problem(title="There is no such record", status=404, detail=str(error), faults=[fault])
        case StaleError():
            limit = f"revision {error.revision}"
            fault = Fault(field="If-Match", value="an earlier one", limit=limit, way_out="Read it again")
            detail = f"{str(error).capitalize()}; nothing was stored"
            return Problem(title="Changed meanwhile", status=412, detail=detail, faults=[fault])
        case BusyError():
            detail = f"Try again in {error.retry_after_s} s; nothing was lost"
            return Problem(title="Too much is being computed", status=503, detail=detail, faults=[])
        case ClosedError():
            detail = "It was renewed or withdrawn, is too old, or was never one. Ask your coach for a new one"
            return Problem(title="This link opens nothing", status=404, detail=detail, faults=[])
        case WrongPasswordError():
            detail = "Both must be right; a password is set with: odd-swap coach NAME"
            return Problem(title="Name or password is wrong", status=401, detail=detail, faults=[])
        case GuessingError():
            detail = f"Wait {error.retry_after_s} s, then try again"
            return Problem(title="Too many tries", status=429, detail=detail, faults=[])
        case UnconditionalError():
            return Problem(title="The change must say what it was made on", status=428, detail=str(error), faults=[])
        case GoneError():
            return Problem(title="The database file is gone", status=503, detail=str(error), faults=[])
        case _ if disk_is_full(error):
            detail = "Nothing of this was stored; what was stored before is safe. Make room, then try again"
            return Problem(title="The disk is full", status=507, detail=detail, faults=[])
    return None


TOLD = (
    DomainError, TableError, ValidationError, MissingError, StaleError, BusyError, UnconditionalError, GoneError,
    ClosedError, GuessingError, WrongPasswordError,
)  # fmt: skip
"""Errors that are told as what they are."""


def answer_error(error: BaseException) -> JSONResponse | None:
    """The answer to an error that is somebody's business; None for one that is the app's own."""
    told = as_problem(error)
    if told is None:
        return None
    answer = AsciiResponse(told.model_dump(), told.status, media_type="application/problem+json")
    if isinstance(error, BusyError | GuessingError):
        answer.headers["Retry-After"] = str(error.retry_after_s)
    return answer


def problem(status: int, title: str, detail: str, faults: list[Fault] | None = None) -> JSONResponse:
    """A problem document (RFC 9457)."""
    body = Problem(title=title, status=status, detail=detail, faults=faults or [])
    return AsciiResponse(body.model_dump(), status, media_type="application/problem+json")
