"""Routes to read lines as they are typed; nothing is stored but the coach's own names of lifts."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Form, UploadFile
from openpyxl.utils import get_column_letter  # type: ignore[import-untyped]
from pydantic import Field

from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.writing import TypedLine, read_typed
from oddswap.documents.library import ExampleDoc
from oddswap.documents.problems import Fault, domain_fault
from oddswap.documents.program import LineDoc
from oddswap.documents.tables import TableError, plain_rows
from oddswap.errors import DomainError
from oddswap.mechanics.muscles import muscle_table
from oddswap.planning.circuits import spread_circuit
from oddswap.planning.sheet import sheet_lines
from oddswap.planning.vocabulary import phrase, vocabulary
from oddswap.store import editing, records

MOST_LINES = 200
"""Lines of a sheet that are read."""

router = APIRouter(prefix="/api", route_class=StoreRoute, tags=["records"])


class TypedIn(Asked):
    """Lines as they were typed, one or many."""

    model_config = shown({"client": 1, "lines": ["incline db press 30 4x8-10 @1 14kg"]})

    client: RecordNumber
    lines: list[str] = Field(min_length=1, max_length=60)
    reading: int = Field(default=0, ge=0, le=9)
    """Which reading to take, where there are several."""
    example: bool = False
    """Whether figure and curves are wanted; of one line only."""
    taken: list[str] = Field(default_factory=list, max_length=26)
    """Letters of the groups that the session has already; a circuit takes the next."""


class SpanView(View):
    """Part of a line that was not understood."""

    start: int
    end: int
    text: str
    nearest: list[str]
    """Names that are spelt nearly so."""


class TypedLineView(View):
    """A line that was read."""

    text: str
    sure: bool
    """Whether nothing of it is in doubt."""
    unknown: list[SpanView]
    readings: list[str]
    """What the lift may be, the likeliest first, with its kit."""
    reading: int
    line: LineDoc | None
    target: str
    load: str
    scheme: str
    """Sets and repetitions in words."""
    assumed: list[str]
    """What was not said and stands as usual: sets, reps, rir, load."""
    fault: Fault | None
    example: ExampleDoc | None


class OwnName(Asked):
    """A name of the coach's own, and the name of a lift that it stands for."""

    model_config = shown({"name": "Marsh special", "means": "cable row"})

    name: str = Field(min_length=1, max_length=80)
    means: str = Field(min_length=1, max_length=80)


@router.post("/typed-lines")
def read_typed_lines(document: TypedIn) -> list[TypedLineView]:
    """Read lines as coaches write them on paper; what is not understood is told with its place.

    A circuit written in one line comes back as the lines of its lifts.
    """
    client, own = records.client(document.client).document, records.settings().names
    taken, lines = set(document.taken), list[str]()
    for text in document.lines:
        lifts = spread_circuit(text[:600], taken)
        taken |= {lift[:1] for lift in lifts if len(lifts) > 1}
        lines += lifts
    alone = document.example and len(lines) == 1
    return [_view(read_typed(client, text[:300], own, document.reading, alone), alone) for text in lines]


def _view(made: TypedLine, example: bool) -> TypedLineView:
    read = made.written
    return TypedLineView(
        text=read.text,
        sure=read.sure and made.line is not None,
        unknown=[SpanView(start=u.start, end=u.end, text=u.text, nearest=list(u.nearest)) for u in read.unknown],
        readings=[r.words for r in read.readings],
        reading=made.reading,
        line=made.line,
        target=muscle_table().groups[made.line.target].name if made.line else "",
        load=made.load,
        scheme=made.line.scheme() if made.line else "",
        assumed=list(made.assumed),
        fault=domain_fault(made.fault) if made.fault else None,
        example=made.example if example else None,
    )


class SheetLineView(View):
    """A line of a sheet, with where it stands."""

    source: str
    """Row and column, such as B4."""
    note: str
    typed: TypedLineView


class SheetSessionView(View):
    """A session of a sheet."""

    name: str
    lines: list[SheetLineView]


@router.post("/clients/{client}/program-sheets")
def read_program_sheet(
    client: Number,
    file: Annotated[UploadFile, File(description="CSV or XLSX")],
    encoding: Annotated[str, Form(max_length=20, description="What a CSV is written in; empty to tell it")] = "",
) -> list[SheetSessionView]:
    """A program as coaches keep it in a spreadsheet, read session by session; nothing is stored."""
    who, own = records.client(client).document, records.settings().names
    found = sheet_lines(plain_rows(file.file.read(), encoding))
    if not found:
        fault = Fault(field="file", value="(no line)", limit="a sheet with a line in it", way_out="Choose another sheet")
        raise TableError([fault])
    sessions: dict[str, list[SheetLineView]] = {}
    for line in found[:MOST_LINES]:
        source = f"{get_column_letter(line.column)}{line.row}"
        there = sessions.setdefault(line.session, [])
        for text in spread_circuit(line.text, {s.typed.line.label[:1] for s in there if s.typed.line is not None}):
            typed = _view(read_typed(who, text[:300], own), False)
            if typed.line is not None and line.note:
                typed.line.note = line.note[:2000]
            there.append(SheetLineView(source=source, note=line.note, typed=typed))
    return [SheetSessionView(name=name, lines=lines) for name, lines in sessions.items()]


@router.post("/own-names")
def add_own_name(document: OwnName) -> dict[str, str]:
    """Remember a name of the coach's own; all of them are answered."""
    known = vocabulary().lifts
    if phrase(document.means) not in known:
        near = ", ".join(vocabulary().nearest(phrase(document.means))) or "any name of a lift"
        raise DomainError("means", document.means, f"a name that is known, such as {near}", "Pick one of these")
    if not phrase(document.name) or phrase(document.name) in known:
        raise DomainError("name", document.name, "words that are no lift's name yet", "Type the line as it is known")
    while True:
        held = records.settings()
        revision = editing.revision("coach", records.the_coach())
        made = held.model_copy(update={"names": held.names | {document.name.strip(): document.means}})
        try:
            records.save_settings(made, revision)
        except editing.StaleError:
            continue
        return made.names
