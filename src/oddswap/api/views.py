"""What the interface reads: records with their state, shaped for one screen each."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from oddswap.api.requests import RecordNumber
from oddswap.coaching.explanation import load_words
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import SwapDoc, reworded
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import CoachDoc, RankDoc
from oddswap.documents.set_up import DUMBBELL_CURL, MoveDoc, SetUpDoc
from oddswap.equipment.base.fields import Note
from oddswap.exercises import movement
from oddswap.mechanics.muscles import muscle_table
from oddswap.quantities import shown_in
from oddswap.store.records import ClientRecord, LineRecord
from oddswap.store.swaps import AcceptedSwapRecord, PastSwap, accepted


class View(BaseModel):
    """Common rules."""

    model_config = ConfigDict(use_attribute_docstrings=True)


class PlaceView(View):
    """A place as named in lists."""

    id: int
    name: str
    items: int
    """Number of kit items."""


class AcceptedSwapView(View):
    """The swap in force for a line at a place."""

    id: int
    place: int
    swap: SwapDoc
    match_now: float | None = None
    """Its match with today's figures, where that has moved by more than 5 points."""
    locked: bool = False
    """Whether it stays where the board is filled anew."""


class PastSwapView(View):
    """A swap that was accepted for a line, in force or not."""

    place: int
    place_name: str
    title: str
    kit: str
    load: str
    match: float
    lens_name: str
    by: str
    """Who accepted it; empty where that was not kept."""
    note: str
    """Why."""
    accepted_at: dt.datetime
    undone_at: dt.datetime | None
    in_force: bool


class LineView(View):
    """A prescribed line and the accepted swaps for it."""

    id: int
    session: str
    session_id: int
    """Number of the session; two may have one name."""
    name: str
    target: str
    title: str
    load: str
    sets: int
    reps: str
    scheme: str
    """Sets and repetitions in words."""
    rir: int
    accepted: list[AcceptedSwapView]


class ProgramView(View):
    """A program."""

    id: int
    name: str
    lines: list[LineView]


class ClientView(View):
    """A client with places and programs."""

    id: int
    client: ClientDoc
    places: list[PlaceView]
    programs: list[ProgramView]
    can_undo: bool = False
    can_redo: bool = False


class DamagedView(View):
    """A record that cannot be read; nothing else is hidden by it."""

    kind: Literal["clients", "places"]
    id: int
    name: str
    why: str
    text: str
    """What is stored, as it is."""


class RosterView(View):
    """All clients."""

    clients: list[ClientView]
    damaged: list[DamagedView] = []


class RankRequest(View):
    """Rank a line's equivalents at a place."""

    model_config = ConfigDict(strict=True, extra="forbid", json_schema_extra={"examples": [{"place": 1, "rank": {}}]})

    place: RecordNumber
    rank: RankDoc = RankDoc()


class ChoiceRequest(RankRequest):
    """Choose swaps for a session's lines at a place together."""

    anew: bool = False
    """Whether for all of its lines but those with a locked swap there, instead of for those without one."""


class LookRequest(RankRequest):
    """A first look at a client's lines at a place."""

    known: bool = False
    """Whether only what was looked at already shall be told, at once."""


class LockRequest(View):
    """Lock the swap in force at a place, or unlock it."""

    model_config = ConfigDict(strict=True, extra="forbid", json_schema_extra={"examples": [{"place": 1, "locked": True}]})

    place: RecordNumber
    locked: bool


class TryRequest(RankRequest):
    """A set-up as someone set it by hand."""

    model_config = ConfigDict(
        strict=True, extra="forbid", json_schema_extra={"examples": [{"place": 1, "rank": {}, "set_up": DUMBBELL_CURL}]}
    )

    set_up: SetUpDoc
    moves: list[MoveDoc] = Field(default=[], max_length=20)
    """What is done to it first."""
    solve: bool = False
    """Whether its load shall be converted anew; else it is kept."""


class AcceptRequest(RankRequest):
    """Accept a swap: one of the ranked ones, by its key, or a set-up as it was set by hand."""

    model_config = ConfigDict(
        strict=True,
        extra="forbid",
        json_schema_extra={"examples": [{"place": 1, "key": "curl:-15--80:standing-90:twin:one"}]},
    )

    key: str = ""
    set_up: SetUpDoc | None = None
    note: Note = ""
    """Why, in the coach's words; empty where nothing needs saying."""


class LensView(View):
    """A lens with the weights of its parts."""

    id: str
    name: str
    argument_for: str
    argument_against: str
    weights: dict[str, float]


class LensesView(View):
    """All lenses, and what the parts they weigh are called."""

    lenses: list[LensView]
    parts: dict[str, str]
    coach: CoachDoc
    """The coach's own start and weights."""


class StoredPlace(View):
    """A place with its kit."""

    id: int
    place: PlaceDoc
    can_undo: bool = False
    can_redo: bool = False


def line_view(record: LineRecord, in_force: list[AcceptedSwapRecord]) -> LineView:
    """A line as shown in lists, in the units in force."""
    doc: LineDoc = record.document
    set_up = doc.set_up.set_up()
    reps = f"{doc.reps_low}–{doc.reps_high}" if doc.reps_high > doc.reps_low else f"{doc.reps_low}"
    return LineView(
        id=record.id,
        session=record.session,
        session_id=record.session_id,
        name=doc.name,
        target=muscle_table().groups[doc.target].name,
        title=movement(doc.set_up.movement).title(set_up.variant()),
        load=load_words(set_up),
        sets=doc.sets,
        reps=reps,
        scheme=doc.scheme(),
        rir=doc.rir,
        accepted=[
            AcceptedSwapView(
                id=t.id,
                place=t.place,
                swap=reworded(AcceptedDoc.model_validate_json(t.document).swap),
                match_now=t.match_now,
                locked=t.locked,
            )
            for t in in_force
            if t.line == record.id
        ],
    )


def past_swap_view(past: PastSwap) -> PastSwapView:
    """A swap of a line's history, in the units in force."""
    held = AcceptedDoc.model_validate_json(past.document)
    swap = reworded(held.swap)
    return PastSwapView(
        place=past.place,
        place_name=past.place_name,
        title=swap.title,
        kit=swap.kit,
        load=swap.load.words,
        match=swap.match,
        lens_name=held.ranking.resolve_lens().name,
        by=held.by,
        note=held.note,
        accepted_at=past.accepted_at.replace(tzinfo=dt.UTC),
        undone_at=past.undone_at.replace(tzinfo=dt.UTC) if past.undone_at else None,
        in_force=past.in_force,
    )


def client_view(record: ClientRecord) -> ClientView:
    """A client as shown on the roster."""
    in_force = accepted([line.id for p in record.programs for line in p.lines])
    with shown_in(record.document.units):
        programs = [ProgramView(id=p.id, name=p.name, lines=[line_view(r, in_force) for r in p.lines]) for p in record.programs]
    return ClientView(
        id=record.id,
        client=record.document,
        places=[PlaceView(id=p.id, name=p.document.name, items=len(p.document.kit)) for p in record.places],
        programs=programs,
    )
