"""Routes of the log at the desk: read it, note, fix, let weeks pass on demo data, carry it out and in."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, File, Query, Response, UploadFile
from pydantic import Field

from oddswap.api.cards import KeptView
from oddswap.api.files import FILES, MEDIA, attached
from oddswap.api.kept import kept
from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.attention import attention
from oddswap.application.cards import build_card
from oddswap.application.log_book import choose, fix, read_log, receive, take_back
from oddswap.application.log_files import bring_log, keep_rows, log_file, read_log_table
from oddswap.application.month import let_weeks_pass
from oddswap.application.pains import avoid
from oddswap.documents.attention import AttentionDoc
from oddswap.documents.log import ENTRY, ChoiceDoc, EntryDoc, EntryId, OutboxDoc
from oddswap.documents.log_sheet import LogImportDoc, LogRowDoc
from oddswap.documents.log_view import LogDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.sheets import Form as FileForm
from oddswap.errors import DomainError
from oddswap.quantities import shown_in
from oddswap.store import programs, records
from oddswap.training_log.progression import Kind

router = APIRouter(prefix="/api", route_class=StoreRoute)


class NoteRequest(Asked):
    """What a coach notes for a client at the desk: sets of a session at a place."""

    model_config = shown({"session": 1, "place": 1, "entries": [ENTRY]})

    session: RecordNumber
    place: RecordNumber
    entries: list[EntryDoc]


class PassedView(View):
    """What came of weeks that passed."""

    sessions: int
    sets: int
    missed: int


@router.get("/clients/{client}/log", tags=["log"], response_model=LogDoc)
def client_log(client: Number) -> Response:
    """All that was logged, on one scale; what it taught; next time by rule."""
    record = records.client(client)
    with shown_in(record.document.units):
        return kept(f"log of {client}", lambda: read_log(client, record.document.name))


@router.post("/clients/{client}/log", tags=["log"])
def note(client: Number, request: NoteRequest) -> LogDoc:
    """Note what was done, at the desk. Entries are added, never changed: a fix names the one that it stands for."""
    record = records.client(client)
    if programs.session(request.session).client != client:
        raise DomainError("session", request.session, "a session of this client", "Pick one of the client's sessions")
    card = build_card(request.session, request.place)
    outbox = OutboxDoc(sent_at=dt.datetime.now(dt.UTC), entries=request.entries)
    receive(client, outbox, {0: card}, request.place)
    with shown_in(record.document.units):
        return read_log(client, record.document.name)


@router.post("/clients/{client}/log/weeks", tags=["log"])
def weeks_pass(client: Number, weeks: Annotated[int, Query(ge=1, le=26, description="How many")] = 4) -> PassedView:
    """Let weeks pass as a simulated client would train by the accepted swaps, to see and try the log."""
    return PassedView(**vars(let_weeks_pass(client, weeks)))


class AvoidRequest(Asked):
    """A pain that is to be avoided from now on."""

    model_config = shown({"key": ENTRY["id"]})

    key: str = Field(max_length=60)
    """Id of the entry that told it."""


@router.post("/clients/{client}/log/avoided", tags=["log"], response_model=LogDoc)
def avoid_pain(client: Number, request: AvoidRequest) -> Response:
    """Avoid what hurt from now on: it becomes one of the client's limits; a change of the client that can be undone."""
    avoid(client, request.key)
    return client_log(client)


class ChoiceRequest(Asked):
    """What a coach chose for next time in the set-up of a logged set."""

    model_config = shown({"id": ENTRY["id"], "like": ENTRY["id"], "kind": "hold", "amount": 4.5, "reps": 12})

    id: EntryId
    like: EntryId
    """A set in the set-up."""
    kind: Kind
    amount: float
    reps: int


class FixRequest(Asked):
    """What of a set was wrong."""

    model_config = shown({"id": ENTRY["id"], "replaces": ENTRY["id"], "amount": 4.5, "reps": 12, "rir": 1})

    id: EntryId
    replaces: EntryId
    amount: float
    reps: int
    rir: int | None = None


class WithdrawRequest(Asked):
    """An entry to take back."""

    model_config = shown({"id": ENTRY["id"], "replaces": ENTRY["id"]})

    id: EntryId
    replaces: str = Field(max_length=60)


@router.post("/clients/{client}/log/choice", tags=["log"])
def choose_next(client: Number, request: ChoiceRequest) -> KeptView:
    """Choose another load for next time than the rule's; it counts until the lift is done again, and can be taken back."""
    records.client(client)
    choose(client, request.id, request.like, ChoiceDoc(kind=request.kind, amount=request.amount, reps=request.reps))
    return KeptView(kept=[request.id])


@router.post("/clients/{client}/log/fix", tags=["log"])
def fix_set(client: Number, request: FixRequest) -> KeptView:
    """Put a set right; the wrong one stays readable."""
    records.client(client)
    change = request.model_dump(include={"amount", "reps", "rir"}) | {"left": None, "right": None}
    fix(client, request.id, request.replaces, change)
    return KeptView(kept=[request.id])


@router.post("/clients/{client}/log/withdrawn", tags=["log"])
def withdraw_entry(client: Number, request: WithdrawRequest) -> KeptView:
    """Take an entry back: a set, a pain, a choice. It stays readable; taking this back brings it again."""
    records.client(client)
    take_back(client, request.id, request.replaces)
    return KeptView(kept=[request.id])


class LogBroughtView(View):
    """What came of a file."""

    kept: int = 0
    """Entries or sets that are in the log now."""
    table: LogImportDoc | None = None
    """How a table was understood; nothing of it is stored until it is confirmed."""


class KeepRowsRequest(Asked):
    """Rows of an imported table that are right."""

    model_config = shown({"rows": []})

    rows: list[LogRowDoc] = Field(max_length=20_000)


def _lines(client: int) -> dict[int, LineDoc]:
    return {line.id: line.document for program in records.client(client).programs for line in program.lines}


@router.get("/clients/{client}/log/file", tags=["files"], response_class=Response, responses=FILES)
def save_log(client: Number, form: FileForm = "csv") -> Response:
    """A client's log as a file: JSON holds all of it, tables the sets that count."""
    name = records.client(client).document.name
    return attached(f"{name}, log.{form}", MEDIA[form], log_file(client, name, form))


@router.post("/clients/{client}/log/file", tags=["files"])
def read_log_file(
    client: Number, file: Annotated[UploadFile, File(description="A log as JSON; old sets as CSV or XLSX")]
) -> LogBroughtView:
    """Bring a saved log (JSON); what is here is not doubled. Or read a table of old sets, stored once it is confirmed."""
    data, lines = file.file.read(), _lines(client)
    if data.lstrip()[:1] == b"{":
        return LogBroughtView(kept=bring_log(client, data))
    return LogBroughtView(table=read_log_table(file.filename or "", data, lines))


@router.post("/clients/{client}/log/rows", tags=["files"])
def keep_log_rows(client: Number, request: KeepRowsRequest) -> LogBroughtView:
    """Keep rows of a table of old sets, those whose line is known; the same twice is kept once."""
    lines, document = _lines(client), records.client(client).document
    for i, row in enumerate(request.rows):
        if row.line is not None and row.line not in lines:
            raise DomainError(f"rows.{i}.line", row.line, "a line of this client", "Pick one of the lines")
    return LogBroughtView(kept=keep_rows(client, document, lines, request.rows, RankDoc().law))


@router.get("/attention", tags=["log"], response_model=AttentionDoc)
def read_attention() -> Response:
    """What asks for a coach: pain, plateaus, shifted kit, unopened cards, stale swaps, uneven sides, rotations due."""
    return kept("attention", attention)
