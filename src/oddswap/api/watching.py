"""Routes that tell the progress of long work as it goes (server-sent events), and give it up when who asked has left."""

from __future__ import annotations

import asyncio
import logging
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Any

from fastapi import APIRouter, Depends
from fastapi.concurrency import run_in_threadpool
from fastapi.sse import EventSourceResponse, ServerSentEvent

from oddswap.api.coverage import kept_map
from oddswap.api.guard import FAILED
from oddswap.api.matching import stored, stored_session
from oddswap.api.problems import as_problem
from oddswap.api.requests import Number, PlaceNumber
from oddswap.api.views import ChoiceRequest, RankRequest
from oddswap.application.board import board_digest, choose_session
from oddswap.application.coverage import watched_map, watched_purchases
from oddswap.application.jobs import LONG_WORK
from oddswap.application.matching import watched_match
from oddswap.application.versions import map_digest, match_digest
from oddswap.documents.problems import Problem
from oddswap.equivalence.cache import AbandonedError
from oddswap.store import records
from oddswap.store.opening import connected

router = APIRouter(prefix="/api", tags=["swaps"])
TOLD_S = 0.2
"""How often progress is told, s."""

log = logging.getLogger("oddswap")
Work = tuple[str, Callable[[], Any]]
"""Work by the name under which it is wanted."""


def _match(line: Number, request: RankRequest) -> Work:
    with connected():
        asked = stored(line, request)
    return match_digest(*asked), lambda: watched_match(*asked)


def _map(client: Number, place: PlaceNumber) -> Work:
    with connected():
        person, room = records.client(client).document, records.place(place).document

    def work() -> Any:
        with connected():
            return kept_map(client, place, watched_map)

    return map_digest(person, room), work


def _purchases(client: Number, place: PlaceNumber) -> Work:
    with connected():
        person, room = records.client(client).document, records.place(place).document
    return map_digest(person, room), lambda: watched_purchases(person, room)


def _choice(session: Number, request: ChoiceRequest) -> Work:
    with connected():
        client, lines, place, accepted, rank = stored_session(session, request)
    name = board_digest(client, lines, place, rank)
    return name, lambda: choose_session(client, lines, place, accepted, rank)


def event_of(name: str, compute: Callable[[], Any]) -> ServerSentEvent:
    """What work comes to, as the last event; no error leaves the thread, as who asked may be gone by then."""
    try:
        return ServerSentEvent(event="answer", raw_data=dumped(compute()))
    except AbandonedError:
        return ServerSentEvent(comment="given up")
    except Exception as error:
        problem = as_problem(error)
        if problem is None:
            log.exception("%s failed", name)
            problem = Problem(title=FAILED[1], status=FAILED[0], detail=FAILED[2], faults=[])
        return ServerSentEvent(event="problem", raw_data=problem.model_dump_json())


async def told(work: Work) -> AsyncIterator[ServerSentEvent]:
    """Events ``progress`` with the part done, then ``answer``, or ``problem`` as any other request would answer it."""
    name, compute = work
    with LONG_WORK.wanted(name):
        task = asyncio.ensure_future(run_in_threadpool(event_of, name, compute))
        said: float | None = -1.0
        while not task.done():
            part = LONG_WORK.part(name)
            if part != said:
                said = part
                yield ServerSentEvent(event="progress", data=part)
            await asyncio.wait({task}, timeout=TOLD_S)
    yield task.result()


def dumped(answer: Any) -> str:
    """An answer as JSON: a document, or a list of them."""
    if isinstance(answer, list):
        return "[" + ",".join(one.model_dump_json() for one in answer) + "]"
    return str(answer.model_dump_json())


@router.post("/lines/{line}/match/events", response_class=EventSourceResponse)
async def watch_match(work: Annotated[Work, Depends(_match)]) -> AsyncIterator[ServerSentEvent]:
    """Ranked equivalents with their progress: events progress, then answer or problem. Who leaves gives the search up."""
    async for event in told(work):
        yield event


@router.post("/sessions/{session}/choice/events", response_class=EventSourceResponse)
async def watch_choice(work: Annotated[Work, Depends(_choice)]) -> AsyncIterator[ServerSentEvent]:
    """Swaps for a session's lines without one, chosen together, with progress: events progress, then answer or problem."""
    async for event in told(work):
        yield event


@router.post("/clients/{client}/reach/events", response_class=EventSourceResponse)
async def watch_reach(work: Annotated[Work, Depends(_map)]) -> AsyncIterator[ServerSentEvent]:
    """A reach map with its progress: events progress, then answer or problem."""
    async for event in told(work):
        yield event


@router.post("/clients/{client}/purchases/events", response_class=EventSourceResponse)
async def watch_purchases(work: Annotated[Work, Depends(_purchases)]) -> AsyncIterator[ServerSentEvent]:
    """What purchases would add, with its progress: events progress, then answer or problem."""
    async for event in told(work):
        yield event
