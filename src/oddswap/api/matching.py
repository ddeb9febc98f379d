"""Routes of the match bench: rank a line, try a set-up by hand, read its detail, take it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from oddswap.api.routing import StoreRoute
from oddswap.api.views import LensesView, LensView, LineView, ProgressView, RankRequest, TakeRequest, TryRequest, line_view
from oddswap.application.matching import PROGRESS, detail, match_line, tried
from oddswap.documents.documents import CoachDoc, RankDoc
from oddswap.documents.results import DetailDoc, MatchDoc, SwapDoc
from oddswap.equivalence.lenses import PARTS, lenses
from oddswap.errors import DomainError
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/lenses", tags=["swaps"])
def read_lenses() -> LensesView:
    """What a coach may value, with the weights of the parts, and this coach's own."""
    shown = [LensView(**{k: getattr(by, k) for k in LensView.model_fields}) for by in lenses().values()]
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


def matched(line: int, request: RankRequest) -> MatchDoc:
    """The match of a stored line at a stored place."""
    record = records.line(line)
    client, place = records.client(record.client), records.place(request.place)
    name = f"{line}@{request.place}"
    return match_line(client.document, record.document, place.document, with_weights(request.rank), name=name)


@router.get("/lines/{line}/match", tags=["swaps"])
def match(
    line: int,
    place: Annotated[int, Query(description="Number of the place")],
    lens: Annotated[str, Query(description="Lens to rank under")] = "same_shape",
) -> MatchDoc:
    """Ranked equivalents of a prescribed line at a place, with curves, set-up, load and reasons."""
    return matched(line, RankRequest(place=place, rank=RankDoc(lens=lens)))


@router.post("/lines/{line}/match", tags=["swaps"])
def ranked(line: int, request: RankRequest) -> MatchDoc:
    """The same with own weights, filters and way of converting loads."""
    return matched(line, request)


@router.get("/lines/{line}/progress", tags=["swaps"])
def progress(line: int, place: Annotated[int, Query(description="Number of the place")]) -> ProgressView:
    """How far the search for a line at a place has come; it goes on when nobody waits."""
    return ProgressView(part=PROGRESS.get(f"{line}@{place}"))


@router.post("/lines/{line}/tried", tags=["swaps"])
def try_out(line: int, request: TryRequest) -> SwapDoc:
    """A set-up as someone set it by hand, held against the line: curves, match and load at once."""
    record = records.line(line)
    client, place = records.client(record.client), records.place(request.place)
    how = with_weights(request.rank)
    return tried(client.document, record.document, place.document, how, request.set_up, request.solve, request.moves)


@router.post("/lines/{line}/detail", tags=["swaps"])
def read_detail(line: int, request: TryRequest) -> DetailDoc:
    """Tolerances, muscles, remedies and checks of one set-up."""
    record = records.line(line)
    client, place = records.client(record.client), records.place(request.place)
    return detail(client.document, record.document, place.document, with_weights(request.rank), request.set_up)


@router.post("/lines/{line}/taken", tags=["swaps"])
def take(line: int, request: TakeRequest) -> LineView:
    """Accept a swap; it is computed again here, so that nothing else can be stored."""
    if request.set_up is not None:
        record = records.line(line)
        client, place = records.client(record.client), records.place(request.place)
        how = with_weights(request.rank)
        chosen: SwapDoc | None = tried(client.document, record.document, place.document, how, request.set_up)
    else:
        chosen = next((s for s in matched(line, request).swaps if s.key == request.key), None)
    if chosen is None:
        raise DomainError("key", request.key, "one of the swaps ranked for this line and place", "Rank them again")
    stored: SwapDoc = chosen.model_copy(update={"profile": None})
    records.take_swap(line, request.place, stored.model_dump_json())
    return line_view(records.line(line), records.taken([line]))
