"""Routes for programs: their sessions and lines are written as a whole, and keep their numbers."""

from __future__ import annotations

from fastapi import APIRouter, Response

from oddswap.api.requests import Number
from oddswap.api.revisions import WRITES, IfMatch, Key, read_revision, tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.api.writing import LineWordsView
from oddswap.application.writing import line_words
from oddswap.documents.program import KeptProgramDoc, ProgramDoc, check_program
from oddswap.quantities import LengthUnit, MassUnit, shown_in
from oddswap.store import editing, programs, records

router = APIRouter(prefix="/api", route_class=StoreRoute)


class UnitsView(View):
    """What masses and lengths are read in."""

    mass_unit: MassUnit
    length_unit: LengthUnit


class ProgramRecordView(View):
    """A program as it is kept."""

    id: int
    client: int
    client_name: str
    client_units: UnitsView
    program: KeptProgramDoc
    words: dict[int, LineWordsView]
    """Every line in words, by its number."""
    can_undo: bool
    can_redo: bool


def _view(number: int, response: Response) -> ProgramRecordView:
    held = programs.program(number)
    tag(response, "program", number)
    undo, redo = editing.ways("program", number)
    client = records.client(held.client).document
    with shown_in(client.units):
        lines = {x.id: LineWordsView(**vars(line_words(x.line))) for s in held.document.sessions for x in s.lines if x.id}
    return ProgramRecordView(
        id=number,
        client=held.client,
        client_name=client.name,
        client_units=UnitsView(mass_unit=client.mass_unit, length_unit=client.length_unit),
        program=held.document,
        words=lines,
        can_undo=undo,
        can_redo=redo,
    )


@router.post("/clients/{client}/programs", tags=["records"])
def add_program(client: Number, document: KeptProgramDoc, response: Response, key: Key = "") -> ProgramRecordView:
    """A new program for a client; it may still be empty."""
    check_program(document)
    return _view(programs.add_program(client, document, key), response)


@router.get("/programs/{program}", tags=["records"])
def read_program(program: Number, response: Response) -> ProgramRecordView:
    """A program with its sessions and lines."""
    return _view(program, response)


@router.put("/programs/{program}", tags=["records"], responses=WRITES)
def change_program(
    program: Number, document: KeptProgramDoc, response: Response, if_match: IfMatch = None
) -> ProgramRecordView:
    """Write a program: lines and sessions without a number are new, and those left out are removed."""
    check_program(document)
    programs.save_program(program, document, read_revision(if_match))
    return _view(program, response)


@router.get("/programs/{program}/document", tags=["records"])
def program_document(program: Number) -> ProgramDoc:
    """A program to hand on, without its numbers."""
    return programs.program(program).document.program()
