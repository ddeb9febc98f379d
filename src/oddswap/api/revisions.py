"""Revisions of records as HTTP has them (RFC 9110): a read gives an ETag, a write needs it back in If-Match."""

from __future__ import annotations

import re
from typing import Annotated, Any

from fastapi import Header, Response

from oddswap.documents.problems import Problem
from oddswap.store import editing

IfMatch = Annotated[str | None, Header(alias="If-Match", description="ETag of the revision that the change was made on")]
Key = Annotated[
    str, Header(alias="Idempotency-Key", max_length=200, description="The maker's own key: the same twice makes one record")
]

WRITES: dict[int | str, dict[str, Any]] = {
    412: {"model": Problem, "description": "The record was changed since it was read"},
    428: {"model": Problem, "description": "If-Match is missing"},
}


class UnconditionalError(ValueError):
    """A write that does not say what it was made on."""


def read_revision(if_match: str | None) -> int:
    """The revision that a write was made on.

    Raises:
        UnconditionalError: If the header is missing, or no single revision.
    """
    found = re.fullmatch(r'\s*(?:W/)?"(\d{1,18})"\s*', if_match or "")
    if found is None:
        raise UnconditionalError('If-Match must name the one revision that was read, for example "3"')
    return int(found[1])


def tag(response: Response, kind: editing.Kind, number: int) -> None:
    """Put a record's revision into an answer's ETag."""
    response.headers["ETag"] = f'"{editing.revision(kind, number)}"'
