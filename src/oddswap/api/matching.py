"""Routes of the match bench: rank a line, try a set-up by hand, read its detail, take it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from oddswap.api import calculators as calculators
from oddswap.api.requests import Number, PlaceNumber
from oddswap.api.routing import StoreRoute
from oddswap.api.views import AcceptRequest, LensesView, LensView, LineView, ProgressView, RankRequest, TryRequest, line_view
from oddswap.application.accepting import accept
from oddswap.application.matching import match_line, match_progress
from oddswap.application.try_out import read_detail, try_out
from oddswap.documents.client import ClientDoc
from oddswap.documents.detail import DetailDoc
from oddswap.documents.match import MatchDoc, SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import CoachDoc, RankDoc
from oddswap.equivalence.lenses import PARTS, lenses
from oddswap.errors import DomainError
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/lenses", tags=["swaps"])
def read_lenses() -> LensesView:
    """What a coach may value, with the weights of the parts, and this coach's own."""
    shown = [LensView(**{k: vars(lens)[k] for k in LensView.model_fields}) for lens in lenses().values()]
    return LensesView(lenses=shown, parts=PARTS, coach=records.settings())


@router.put("/coach", tags=["records"])
def change_coach(document: CoachDoc) -> CoachDoc:
    """Change the lens to start with and the weights of the parts."""
    document.verify()
    records.save_settings(document)
    return document


def with_weights(rank: RankDoc) -> RankDoc:
    """A request's ranking with the coach's own weights of its lens, where it brings none."""
    own = records.settings().weights.get(rank.lens, {})
    return rank if rank.weights or not own else rank.model_copy(update={"weights": own})


def stored(line: Number, request: RankRequest) -> tuple[ClientDoc, LineDoc, PlaceDoc, RankDoc]:
    """What a request about a stored line at a stored place is answered from."""
    record = records.line(line)
    client, place = records.client(record.client).document, records.place(request.place).document
    return client, record.document, place, with_weights(request.rank)


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


@router.post("/lines/{line}/progress", tags=["swaps"])
def progress(line: Number, request: RankRequest) -> ProgressView:
    """How far the search for just this match has come; it goes on when nobody waits."""
    return ProgressView(part=match_progress(*stored(line, request)))


@router.post("/lines/{line}/try-out", tags=["swaps"])
def try_set_up(line: Number, request: TryRequest) -> SwapDoc:
    """A set-up as someone set it by hand, held against the line: curves, match and load at once."""
    return try_out(*stored(line, request), request.set_up, request.solve, request.moves)


@router.post("/lines/{line}/detail", tags=["swaps"])
def detail(line: Number, request: TryRequest) -> DetailDoc:
    """Tolerances, muscles, remedies and checks of one set-up."""
    return read_detail(*stored(line, request), request.set_up)


@router.post("/lines/{line}/accepted", tags=["swaps"])
def accept_swap(line: Number, request: AcceptRequest) -> LineView:
    """Accept a swap; it is computed again here, so that nothing else can be stored."""
    snapshot = accept(*stored(line, request), request.key, request.set_up)
    records.accept_swap(line, request.place, snapshot.model_dump_json())
    return line_view(records.line(line), records.accepted([line]))


@router.delete("/lines/{line}/accepted", tags=["swaps"])
def undo_accepted(line: Number, place: PlaceNumber) -> LineView:
    """Undo the newest accepted swap of a line at a place; the one before is in force again."""
    if not records.undo_swap(line, place):
        raise DomainError("place", place, "a swap must have been accepted here to be undone", "Accept one first")
    return line_view(records.line(line), records.accepted([line]))
