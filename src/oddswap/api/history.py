"""Routes to undo and do again, to put records away, bring them back, and delete them for good."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response

from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.revisions import WRITES, IfMatch, read_revision, tag
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.first_look import forget_looks
from oddswap.application.matching import forget_matches
from oddswap.application.staleness import recheck_client, recheck_place
from oddswap.errors import DomainError
from oddswap.store import editing, history
from oddswap.store.put_away import PutAwayRecord, holds, put_away_records

router = APIRouter(prefix="/api", route_class=StoreRoute)

Kinds = Literal["clients", "places", "programs"]
ONE: dict[Kinds, editing.Kind] = {"clients": "client", "places": "place", "programs": "program"}
Undoable = Literal["clients", "places", "programs", "measurements"]
CHANGED: dict[Undoable, editing.Kind] = {
    "clients": "client", "places": "place", "programs": "program", "measurements": "measurement",
}  # fmt: skip
"""Records whose changes can be undone; a measuring run is on no list that it could be put away from."""
MISSING_CHANGE = "a record with a change to"


class RecordAt(Asked):
    """A record by kind and number."""

    model_config = shown({"kind": "clients", "id": 1})

    kind: Undoable
    id: RecordNumber


class Done(View):
    """What can be undone and done again next."""

    can_undo: bool
    can_redo: bool


class PutAwayView(View):
    """A record that was put away."""

    kind: Kinds
    id: int
    name: str
    holds: dict[str, int]
    """How much hangs on it, and goes with it when it is deleted for good."""

    @staticmethod
    def of(record: PutAwayRecord) -> PutAwayView:
        """The view of a record."""
        kind = next(k for k, one in ONE.items() if one == record.kind)
        return PutAwayView(kind=kind, id=record.id, name=record.name, holds=record.holds)


@router.post("/undo", tags=["history"])
def undo(document: RecordAt, response: Response) -> Done:
    """Undo a record's newest change; it survives a restart."""
    return _turned(document, "undo", history.undo(CHANGED[document.kind], document.id), response)


@router.post("/redo", tags=["history"])
def redo(document: RecordAt, response: Response) -> Done:
    """Do the change again that was undone last."""
    return _turned(document, "do again", history.redo(CHANGED[document.kind], document.id), response)


def _turned(document: RecordAt, what: str, done: bool, response: Response) -> Done:
    kind = CHANGED[document.kind]
    if not done:
        raise DomainError("id", document.id, f"{MISSING_CHANGE} {what}", "Change something first")
    if kind == "client":
        recheck_client(document.id)
    if kind == "place":
        recheck_place(document.id)
    tag(response, kind, document.id)
    can_undo, can_redo = editing.ways(kind, document.id)
    return Done(can_undo=can_undo, can_redo=can_redo)


@router.get("/put-away", tags=["history"])
def put_away_list() -> list[PutAwayView]:
    """All records that were put away, newest first."""
    return [PutAwayView.of(r) for r in put_away_records()]


@router.get("/{kind}/{number}/holds", tags=["history"])
def what_goes_with_it(kind: Kinds, number: Number) -> dict[str, int]:
    """How much hangs on a record."""
    return holds(ONE[kind], number)


@router.delete("/{kind}/{number}", tags=["history"], responses=WRITES)
def put_away(kind: Kinds, number: Number, if_match: IfMatch = None) -> PutAwayView:
    """Put a record away: it is off all lists, keeps all that hangs on it, and can be brought back."""
    editing.put_away(ONE[kind], number, read_revision(if_match))
    return _away(kind, number)


@router.post("/{kind}/{number}/bring-back", tags=["history"])
def bring_back(kind: Kinds, number: Number) -> PutAwayView:
    """Bring back a record that was put away; what it is is answered."""
    editing.bring_back(ONE[kind], number)
    return _away(kind, number)


@router.post("/{kind}/{number}/delete-for-good", tags=["history"])
def delete_for_good(kind: Kinds, number: Number) -> PutAwayView:
    """Delete a record that was put away, with all that hangs on it; what it was is answered."""
    was = _away(kind, number)
    if not editing.delete_for_good(ONE[kind], number):
        raise DomainError("number", number, "a record that was put away", "Put it away first")
    forget_matches()
    forget_looks()
    return was


def _away(kind: Kinds, number: int) -> PutAwayView:
    row = editing.row_of(ONE[kind], number)
    return PutAwayView(kind=kind, id=number, name=row.name, holds=holds(ONE[kind], number))
