"""Routes of the reach map."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import Field

from oddswap.api.matching import accepted_at, who_trains, with_weights
from oddswap.api.requests import Asked, Number, PlaceNumber, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.application.coverage import purchase_list, reach_map
from oddswap.application.fewest import fewest_for
from oddswap.application.mends import find_mends
from oddswap.application.versions import map_digest
from oddswap.application.week import week
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc, SpanDoc
from oddswap.documents.fewest import FewestDoc, FewestWishDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.reports import PurchaseDoc, ReachDoc
from oddswap.documents.week import MendsDoc, WeekDoc
from oddswap.quantities import shown_in
from oddswap.store import records, swaps

router = APIRouter(prefix="/api", route_class=StoreRoute)


@router.get("/clients/{client}/reach", tags=["swaps"])
def read_reach(client: Number, place: PlaceNumber) -> ReachDoc:
    """How well a place can load a client, by muscle and zone; computed anew only where size or kit changed."""
    return kept_map(client, place, reach_map)


def kept_map(client: int, place: int, make: Callable[[ClientDoc, PlaceDoc], ReachDoc]) -> ReachDoc:
    """The map that was kept, or one that is made and kept."""
    person, room = records.client(client).document, records.place(place).document
    digest = f"{map_digest(person, room)} {person.units.mass} {person.units.length}"
    stored = records.stored_map(client, place, digest)
    if stored is not None:
        return ReachDoc.model_validate_json(stored)
    made = make(person, room)
    records.keep_map(client, place, digest, made.model_dump_json())
    return made


@router.get("/clients/{client}/week", tags=["swaps"])
def read_week(client: Number) -> WeekDoc:
    """Sets a week by muscle and third, as written and as the swaps accepted at each place give them, with what is lost."""
    record = records.client(client)
    lines = [(line.id, line.session_id, line.document) for program in record.programs for line in program.lines]
    held = swaps.accepted([number for number, *_ in lines])
    set_ups = {(s.line, s.place): AcceptedDoc.model_validate_json(s.document).swap.set_up for s in held}
    return week(record.document, lines, [(p.id, p.document.name) for p in record.places], set_ups)


@router.get("/clients/{client}/week/mends", tags=["swaps"])
def read_mends(
    client: Number,
    place: PlaceNumber,
    group: Annotated[str, Query(max_length=40, description="Muscle group that loses")],
    third: Annotated[int | None, Query(ge=0, le=2, description="Third of its length; none for all of it")] = None,
) -> MendsDoc:
    """What gives back what a place leaves out of a muscle's week: another swap, or more sets, each at its price."""
    person = who_trains(client, place)
    lines = [(line.id, line.document) for program in records.client(client).programs for line in program.lines]
    accepted = accepted_at(place, [number for number, _ in lines])
    where = records.place(place).document
    with shown_in(person.units):
        return find_mends(person, lines, where, accepted, with_weights(RankDoc()), group, third)


class WeeklySets(Asked):
    """Sets a week that a coach wants."""

    model_config = shown({"wanted": {"chest": {"low": 10, "high": 16}}})

    wanted: dict[str, SpanDoc] = Field(max_length=40)
    """Fewest and most by muscle group; those left out are wanted in no number."""


@router.put("/clients/{client}/weekly-sets", tags=["swaps"])
def set_weekly_sets(client: Number, document: WeeklySets) -> WeekDoc:
    """Set how many sets a week a coach wants for each muscle group; a change of the client that can be undone."""
    changed = records.client(client).document.model_copy(update={"weekly_sets": document.wanted})
    changed.body()
    records.save_client(client, changed)
    return read_week(client)


class FewestRequest(Asked):
    """Where the fewest lifts are looked for, and what they shall cover."""

    model_config = shown({"place": 1, "wish": {"wanted": [{"group": "chest"}, {"group": "lats"}]}})

    place: RecordNumber
    wish: FewestWishDoc


@router.post("/clients/{client}/fewest", tags=["swaps"])
def find_fewest(client: Number, request: FewestRequest) -> FewestDoc:
    """The fewest lifts at a place whose sets cover what is wanted of muscles and thirds of their length; exact."""
    return fewest_for(records.client(client).document, records.place(request.place).document, request.wish)


@router.get("/clients/{client}/purchases", tags=["swaps"])
def read_purchases(client: Number, place: PlaceNumber) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first."""
    return purchase_list(records.client(client).document, records.place(place).document)
