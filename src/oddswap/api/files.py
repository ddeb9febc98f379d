"""Routes for files in and out."""

from __future__ import annotations

import base64
from typing import Any, Literal
from urllib.parse import quote

from fastapi import APIRouter
from fastapi.responses import Response

from oddswap.api.requests import Asked, Number, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.documents import tables
from oddswap.documents.client import ClientDoc
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import Fault
from oddswap.documents.sheets import Form, export_file, import_file
from oddswap.errors import DomainError
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


MEDIA = {
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}

TEXT: dict[str, Any] = {"schema": {"type": "string"}}
FILES: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The file",
        "content": {
            kind.split(";")[0]: {"schema": {"title": "Document"}} if "json" in kind else TEXT for kind in MEDIA.values()
        },
    }
}


class FileIn(Asked):
    """A file as it was chosen."""

    model_config = shown({"name": "garage.csv", "content": "a2luZCxuYW1lCg=="})

    name: str
    content: str
    """Its bytes, base64."""


class ReadFile(View):
    """What a file holds; nothing is stored yet."""

    place: PlaceDoc | None = None
    clients: list[ClientDoc] | None = None
    measurement: MeasurementDoc | None = None


@router.get("/places/{place}/file", tags=["files"], response_class=Response, responses=FILES)
def place_file(place: Number, form: Form = "csv") -> Response:
    """A place as a file."""
    document = records.place(place).document
    return _file(f"{document.name}.{form}", form, export_file(form, document))


@router.get("/clients.{form}", tags=["files"], response_class=Response, responses=FILES)
def clients_file(form: Form) -> Response:
    """All clients as a file."""
    return _file(f"clients.{form}", form, export_file(form, [records.client(n).document for n in records.client_ids()]))


def _file(name: str, form: Form, data: bytes) -> Response:
    # RFC 5987: the name as it is, and one in plain letters for what cannot read that.
    plain = "".join(c if c.isascii() and (c.isalnum() or c in ".-") else "-" for c in name.lower())
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}"
    return Response(data, media_type=MEDIA[form], headers={"Content-Disposition": disposition})


@router.post("/files/{what}", tags=["files"])
def read_file(what: Literal["place", "clients", "measurement"], document: FileIn) -> ReadFile:
    """Read a JSON, CSV or XLSX file whole; nothing is stored. Every bad cell is named by line and column."""
    try:
        data = base64.b64decode(document.content, validate=True)
    except ValueError as error:  # not base64, or not even ASCII
        raise DomainError("content", "(bytes)", "base64", "Choose the file again") from error
    return ReadFile(**{what: import_file(what, document.name, data)})


def faults_problem(error: tables.TableError) -> tuple[str, list[Fault]]:
    """What is said of a file that cannot be imported."""
    count = len(error.faults)
    return f"{count} {'fault' if count == 1 else 'faults'}; nothing was imported", error.faults
