"""Routes of the log at the desk: read it, note, fix, let weeks pass on demo data, carry it out and in."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Query

from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.attention import attention
from oddswap.application.cards import build_card
from oddswap.application.log_book import read_log, receive
from oddswap.application.month import let_weeks_pass
from oddswap.documents.attention import AttentionDoc
from oddswap.documents.log import ENTRY, EntryDoc, OutboxDoc
from oddswap.documents.log_view import LogDoc
from oddswap.quantities import shown_in
from oddswap.store import records

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


@router.get("/clients/{client}/log", tags=["log"])
def client_log(client: Number) -> LogDoc:
    """All that was logged, on one scale; what it taught; next time by rule."""
    record = records.client(client)
    with shown_in(record.document.units):
        return read_log(client, record.document.name)


@router.post("/clients/{client}/log", tags=["log"], status_code=201)
def note(client: Number, request: NoteRequest) -> LogDoc:
    """Note what was done, at the desk. Entries are added, never changed: a fix names the one that it stands for."""
    record = records.client(client)
    card = build_card(request.session, request.place)
    outbox = OutboxDoc(sent_at=dt.datetime.now(dt.UTC), entries=request.entries)
    receive(client, outbox, {0: card}, request.place)
    with shown_in(record.document.units):
        return read_log(client, record.document.name)


@router.post("/clients/{client}/log/weeks", tags=["log"])
def weeks_pass(client: Number, weeks: Annotated[int, Query(ge=1, le=26, description="How many")] = 4) -> PassedView:
    """Let weeks pass as a simulated client would train by the accepted swaps, to see and try the log."""
    return PassedView(**vars(let_weeks_pass(client, weeks)))


@router.get("/attention", tags=["log"])
def read_attention() -> AttentionDoc:
    """What asks for a coach: pain, plateaus, shifted kit, unopened cards, stale swaps, uneven sides, rotations due."""
    return attention()
