"""Routes for files in and out."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from urllib.parse import quote

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import Response

from oddswap.api.requests import Number
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.documents import tables
from oddswap.documents.client import ClientDoc
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.sheets import Form as FileForm
from oddswap.documents.sheets import export_file, import_file
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


class EncodingView(View):
    """What a text file may be written in."""

    id: str
    name: str


class ReadFile(View):
    """What a file holds; nothing is stored yet."""

    place: PlaceDoc | None = None
    clients: list[ClientDoc] | None = None
    measurement: MeasurementDoc | None = None
    program: ProgramDoc | None = None


@router.get("/places/{place}/file", tags=["files"], response_class=Response, responses=FILES)
def place_file(place: Number, form: FileForm = "csv") -> Response:
    """A place as a file."""
    document = records.place(place).document
    return attached(f"{document.name}.{form}", MEDIA[form], export_file(form, document))


@router.get("/clients.{form}", tags=["files"], response_class=Response, responses=FILES)
def clients_file(form: FileForm) -> Response:
    """All clients as a file."""
    every = [records.client(n).document for n in records.client_ids()]
    return attached(f"clients.{form}", MEDIA[form], export_file(form, every))


def attached(name: str, media_type: str, data: bytes) -> Response:
    """A file to save, under a name in any script (RFC 5987), and one in plain letters for what cannot read that."""
    plain = "".join(c if c.isascii() and (c.isalnum() or c in ".-") else "-" for c in name.lower())
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}"
    return Response(data, media_type=media_type, headers={"Content-Disposition": disposition})


@router.post("/files/{what}", tags=["files"])
def read_file(
    what: Literal["place", "clients", "measurement", "program"],
    file: Annotated[UploadFile, File(description="JSON, CSV or XLSX")],
    encoding: Annotated[str, Form(max_length=20, description="What a CSV is written in; empty to tell it from its bytes")] = "",
) -> ReadFile:
    """Read a JSON, CSV or XLSX file whole; nothing is stored. Every bad cell is named by line and column."""
    return ReadFile(**{what: import_file(what, file.filename or "", file.file.read(), encoding)})


@router.get("/encodings", tags=["files"])
def encodings() -> list[EncodingView]:
    """What a CSV may be written in besides UTF-8."""
    return [EncodingView(id=name, name=words) for name, words in tables.ENCODINGS.items()]
