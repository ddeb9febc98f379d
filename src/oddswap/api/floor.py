"""Routes of a session on the floor: its order over time, and its days in a calendar."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import Field

from oddswap.api.files import attached
from oddswap.api.matching import accepted_at, stored_session, who_trains, with_weights
from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import ChoiceRequest, LookRequest, PlaceView, View
from oddswap.application.board import board_digest, choose_session
from oddswap.application.first_look import look_over
from oddswap.application.floor import lay_out_session
from oddswap.application.jobs import LONG_WORK
from oddswap.application.writing import line_words
from oddswap.documents.board import FirstLookDoc, SessionChoiceDoc
from oddswap.documents.calendar import DAYS, Appointment, sessions_calendar
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.session import SessionPlanDoc, SessionWishDoc
from oddswap.errors import DomainError
from oddswap.quantities import shown_in
from oddswap.store import programs, records

router = APIRouter(prefix="/api", route_class=StoreRoute)
CALENDAR: dict[int | str, dict[str, Any]] = {
    200: {"description": "The calendar", "content": {"text/calendar": {"schema": {"type": "string"}}}}
}


class FloorRequest(Asked):
    """Where a session is to be done, and how it is to be laid out."""

    model_config = shown({"place": 1, "wish": {"minutes": 45}})

    place: RecordNumber
    wish: SessionWishDoc = Field(default_factory=SessionWishDoc)


class FloorView(View):
    """A session over time, and what it is part of."""

    program: int
    client: int
    places: list[PlaceView]
    """Where the client trains."""
    kit: list[KitNameView]
    """What stands at this place."""
    plan: SessionPlanDoc


class KitNameView(View):
    """An item of kit."""

    id: str
    name: str


@router.post("/sessions/{session}/floor", tags=["swaps"])
def plan_floor(session: Number, request: FloorRequest) -> FloorView:
    """A session over time at a place: lifts in turns and in order, minutes, what to set, what to cut where time is short."""
    held, place = programs.session(session), records.place(request.place).document
    record = records.client(held.client)
    rank = with_weights(RankDoc(lens=records.settings().lens))
    accepted = accepted_at(request.place, [number for number, _ in held.lines])
    plan = lay_out_session(who_trains(held.client, request.place), held.name, held.lines, place, accepted, request.wish, rank)
    places = [PlaceView(id=p.id, name=p.document.name, items=len(p.document.kit)) for p in record.places]
    kit = [KitNameView(id=k.id, name=k.name) for k in place.kit]
    return FloorView(program=held.program, client=held.client, places=places, kit=kit, plan=plan)


@router.post("/sessions/{session}/choice", tags=["swaps"])
def choose(session: Number, request: ChoiceRequest) -> SessionChoiceDoc:
    """Swaps for a session's lines without one at a place, or for all anew, chosen together: few stations, little to set."""
    client, lines, place, accepted, rank = stored_session(session, request)
    with LONG_WORK.wanted(board_digest(client, lines, place, rank)):
        return choose_session(client, lines, place, accepted, rank)


@router.post("/clients/{client}/first-looks", tags=["swaps"])
def look_first(client: Number, request: LookRequest) -> list[FirstLookDoc]:
    """What most likely stands first for each of a client's lines without a swap at a place, long before all are searched."""
    record, place = records.client(client), records.place(request.place).document
    lines = [(line.id, line.document) for program in record.programs for line in program.lines]
    taken = accepted_at(request.place, [number for number, _ in lines])
    empty = [(number, line) for number, line in lines if number not in taken]
    rank = with_weights(request.rank)
    return look_over(who_trains(client, request.place), empty, place, rank, request.known)


@router.get("/programs/{program}/calendar", tags=["files"], response_class=Response, responses=CALENDAR)
def program_calendar(
    program: Number,
    first: Annotated[dt.date, Query(description="No session is before this day")],
    days: Annotated[str, Query(description="A weekday for each session, such as mon,wed,fri", max_length=60)],
    clock: Annotated[str, Query(pattern=r"^([01]\d|2[0-3]):[0-5]\d$", description="Time of day, 24 hours")] = "18:00",
    weeks: Annotated[int, Query(ge=1, le=52)] = 8,
    minutes: Annotated[int, Query(ge=5, le=300)] = 60,
) -> Response:
    """A program's sessions for a calendar (iCalendar), each on its weekday."""
    held = programs.program(program)
    sessions = [s for s in held.document.sessions if s.lines]
    chosen = [day.strip().lower() for day in days.split(",") if day.strip()]
    if len(chosen) != len(sessions) or any(day not in DAYS for day in chosen):
        limit = f"{len(sessions)} weekdays, one for each session, of {', '.join(DAYS)}"
        raise DomainError("days", days, limit, "Write for example mon,wed,fri")
    with shown_in(records.client(held.client).document.units):
        appointments = [
            Appointment(
                f"odd-swap-{program}-{s.id}",
                f"{held.document.name}: {s.name}",
                day,
                minutes,
                [_in_words(x.line) for x in s.lines],
            )
            for s, day in zip(sessions, chosen, strict=True)
        ]
    time = dt.time.fromisoformat(clock)
    made = dt.datetime.now(dt.UTC).replace(microsecond=0)
    data = sessions_calendar(held.document.name, appointments, first, time, weeks, made)
    return attached(f"{held.document.name}.ics", "text/calendar; charset=utf-8", data)


def _in_words(line: LineDoc) -> str:
    return f"{line.name}: {line.scheme()}, {line_words(line).load}"
