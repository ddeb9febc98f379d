"""Routes of the match bench: rank a line, try a set-up by hand, read its detail, take it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter, Query, Response

from oddswap.api import calculators as calculators
from oddswap.api.requests import Number, PlaceNumber
from oddswap.api.revisions import WRITES, IfMatch, read_revision, tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import (
    AcceptRequest,
    ChoiceRequest,
    LensesView,
    LensView,
    LineView,
    LockRequest,
    PastSwapView,
    RankRequest,
    TryRequest,
    line_view,
    past_swap_view,
)
from oddswap.application.accepting import accept
from oddswap.application.lessons import open_book, with_lessons
from oddswap.application.matching import match_line
from oddswap.application.rotation import next_lifts
from oddswap.application.try_out import read_detail, try_out
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.detail import DetailDoc
from oddswap.documents.log_view import NextLiftsDoc
from oddswap.documents.match import MatchDoc, SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import CoachDoc, RankDoc
from oddswap.equivalence.lenses import PARTS, lenses
from oddswap.errors import DomainError
from oddswap.quantities import shown_in
from oddswap.store import programs, records, swaps

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/lenses", tags=["swaps"])
def read_lenses() -> LensesView:
    """What a coach may value, with the weights of the parts, and this coach's own."""
    shown = [LensView(**{k: vars(lens)[k] for k in LensView.model_fields}) for lens in lenses().values()]
    return LensesView(lenses=shown, parts=PARTS, coach=records.settings())


@router.get("/coach", tags=["records"])
def read_coach(response: Response) -> CoachDoc:
    """What the coach set for all clients: lens, weights, units."""
    tag(response, "coach", records.the_coach())
    return records.settings()


@router.put("/coach", tags=["records"], responses=WRITES)
def change_coach(document: CoachDoc, response: Response, if_match: IfMatch = None) -> CoachDoc:
    """Change the lens to start with, the weights of the parts, and the units of what is no client's."""
    document.verify()
    records.save_settings(document, read_revision(if_match))
    tag(response, "coach", records.the_coach())
    return document


def with_weights(rank: RankDoc) -> RankDoc:
    """A request's ranking with the coach's own weights of its lens, where it brings none."""
    own = records.settings().weights.get(rank.lens, {})
    return rank if rank.weights or not own else rank.model_copy(update={"weights": own})


def stored(line: Number, request: RankRequest) -> tuple[ClientDoc, LineDoc, PlaceDoc, RankDoc]:
    """What a request about a stored line at a stored place is answered from."""
    record = records.line(line)
    client, place = who_trains(record.client, request.place), records.place(request.place).document
    return client, record.document, place, with_weights(request.rank)


def who_trains(client: int, place: int) -> ClientDoc:
    """A client with what the log taught of lifts, and of kit at a place."""
    return with_lessons(client, records.client(client).document, place)


def stored_session(
    session: int, request: ChoiceRequest
) -> tuple[ClientDoc, Sequence[tuple[int, LineDoc]], PlaceDoc, dict[int, SwapDoc], RankDoc]:
    """What a request about a stored session at a stored place is answered from; the swaps that stay, by line."""
    held, place = programs.session(session), records.place(request.place).document
    accepted = accepted_at(request.place, [number for number, _ in held.lines], locked=request.anew)
    return who_trains(held.client, request.place), held.lines, place, accepted, with_weights(request.rank)


def accepted_at(place: int, lines: Sequence[int], locked: bool = False) -> dict[int, SwapDoc]:
    """The swaps in force at a place, by line; only those that are ``locked``, if that is asked."""
    held = (s for s in swaps.accepted(lines) if s.place == place and (s.locked or not locked))
    return {s.line: AcceptedDoc.model_validate_json(s.document).swap for s in held}


@router.get("/lines/{line}/match", tags=["swaps"])
def read_match(
    line: Number,
    place: PlaceNumber,
    lens: Annotated[str, Query(description="Lens to rank under")] = "same_profile",
) -> MatchDoc:
    """Ranked equivalents of a prescribed line at a place, with curves, set-up, load and reasons."""
    return match_line(*stored(line, RankRequest(place=place, rank=RankDoc(lens=lens))))


@router.post("/lines/{line}/match", tags=["swaps"])
def match(line: Number, request: RankRequest) -> MatchDoc:
    """The same with own weights, filters and way of converting loads."""
    return match_line(*stored(line, request))


@router.post("/lines/{line}/try-out", tags=["swaps"])
def try_set_up(line: Number, request: TryRequest) -> SwapDoc:
    """A set-up as someone set it by hand, held against the line: curves, match and load at once."""
    return try_out(*stored(line, request), request.set_up, request.solve, request.moves)


@router.post("/lines/{line}/detail", tags=["swaps"])
def detail(line: Number, request: TryRequest) -> DetailDoc:
    """Tolerances, muscles, remedies and checks of one set-up."""
    return read_detail(*stored(line, request), request.set_up)


@router.get("/lines/{line}/next", tags=["log"])
def read_next_lifts(line: Number, place: PlaceNumber) -> NextLiftsDoc:
    """What could stand in a line's place at a place once its lift was kept long enough: of like profile, not done lately."""
    client, document, where, rank = stored(line, RankRequest(place=place, rank=RankDoc()))
    return next_lifts(client, line, document, where, rank, open_book(records.line(line).client), place)


@router.post("/lines/{line}/accepted", tags=["swaps"])
def accept_swap(line: Number, request: AcceptRequest) -> LineView:
    """Accept a swap; it is computed again here, so that nothing else can be stored."""
    who = records.coach_name()
    snapshot = accept(*stored(line, request), request.key, request.set_up, who, request.note)
    swaps.accept_swap(line, request.place, snapshot.model_dump_json())
    return _line(line)


@router.get("/lines/{line}/accepted", tags=["swaps"])
def swap_history(line: Number) -> list[PastSwapView]:
    """Everything that was ever accepted for a line, newest first: what, where, by whom, when and why."""
    units = records.client(records.line(line).client).document.units
    with shown_in(units):
        return [past_swap_view(past) for past in swaps.swap_history(line)]


@router.delete("/lines/{line}/accepted", tags=["swaps"])
def undo_accepted(line: Number, place: PlaceNumber) -> LineView:
    """Undo the newest accepted swap of a line at a place; the one before is in force again."""
    if not swaps.undo_swap(line, place):
        raise DomainError("place", place, "a swap must have been accepted here to be undone", "Accept one first")
    return _line(line)


@router.put("/lines/{line}/accepted/locked", tags=["swaps"])
def lock_accepted(line: Number, request: LockRequest) -> LineView:
    """Lock the swap in force for a line at a place, so that it stays where the board is filled anew; or unlock it."""
    if not swaps.lock_swap(line, request.place, request.locked):
        raise DomainError("place", request.place, "a swap must have been accepted here to be locked", "Accept one first")
    return _line(line)


def _line(number: int) -> LineView:
    record = records.line(number)
    with shown_in(records.client(record.client).document.units):
        return line_view(record, swaps.accepted([number]))
