"""Reading and writing records as documents. Call inside a connection; nothing lazy leaves this module."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import CoachDoc
from oddswap.store import editing, programs
from oddswap.store.acting import acting_coach
from oddswap.store.editing import MissingError as MissingError
from oddswap.store.models import (
    Client,
    ClientPlace,
    Coach,
    Line,
    Place,
    Program,
    ReachMap,
    Session,
    database,
)

COLUMNS = ("name", "stature_cm", "mass_kg", "sex")
"""What of a client has columns of its own."""


@dataclass(frozen=True)
class PlaceRecord:
    """A place and its number."""

    id: int
    document: PlaceDoc


@dataclass(frozen=True)
class LineRecord:
    """A line and its number, and its session's name and number."""

    id: int
    session: str
    session_id: int
    document: LineDoc
    client: int


@dataclass(frozen=True)
class ProgramRecord:
    """A program and its lines in order."""

    id: int
    name: str
    lines: Sequence[LineRecord]


@dataclass(frozen=True)
class ClientRecord:
    """A client with places and programs."""

    id: int
    document: ClientDoc
    places: Sequence[PlaceRecord]
    programs: Sequence[ProgramRecord]


def add_coach(name: str) -> int:
    """A new coach; returns the number."""
    return int(Coach.create(name=name).id)


def the_coach() -> int:
    """The coach who signed in, or of this file; made at the first need."""
    if (signed_in := acting_coach()) is not None:
        return signed_in
    row = Coach.select().order_by(Coach.id).first()
    return int(row.id) if row is not None else add_coach("Coach")


def coach_name() -> str:
    """What the coach of this file is called."""
    return str(Coach.get_by_id(the_coach()).name)


def settings() -> CoachDoc:
    """What the coach set for all clients."""
    row = Coach.get_by_id(the_coach())
    return CoachDoc.model_validate_json(row.settings) if row.settings else CoachDoc()


def save_settings(document: CoachDoc, read: int | None = None) -> None:
    """Change what the coach set; ``read`` is the revision that the change was made on.

    Raises:
        StaleError: If it was changed since.
    """
    coach, text = the_coach(), document.model_dump_json()
    editing.change("coach", coach, read, lambda _: settings().model_dump_json(), lambda: write_settings(coach, text))


def write_settings(number: int, text: str) -> None:
    """Write a coach's settings back as they were, from JSON."""
    Coach.update(settings=text).where(Coach.id == number).execute()


def add_client(coach: int, document: ClientDoc, places: Sequence[int], key: str = "") -> int:
    """A new client who trains at ``places``; returns the number. Under the same ``key`` they are made once."""

    def make() -> int:
        row = Client.create(coach=coach, **_client_columns(document))
        for position, place in enumerate(places):
            ClientPlace.create(client=row, place=place, position=position)
        return int(row.id)

    return editing.create_once("client", key, make)


def add_clients(coach: int, documents: Sequence[ClientDoc]) -> list[int]:
    """New clients, all of them or none; returns their numbers."""
    with database.atomic():
        return [add_client(coach, document, []) for document in documents]


def add_place(coach: int, document: PlaceDoc, key: str = "") -> int:
    """A new place; returns the number. Under the same ``key`` it is made once."""

    def make() -> int:
        return int(Place.create(coach=coach, name=document.name, document=document.model_dump_json()).id)

    return editing.create_once("place", key, make)


def _client_columns(document: ClientDoc) -> dict[str, object]:
    details = document.model_dump_json(exclude={"format", *COLUMNS})
    return document.model_dump(include=set(COLUMNS)) | {"details": details}


def _client_doc(row: Client) -> ClientDoc:
    columns = {k: getattr(row, k) for k in COLUMNS}
    return ClientDoc.model_validate_json(json.dumps(columns | json.loads(row.details or "{}")))


def _line(row: Line, client: int) -> LineRecord:
    assert row.session is not None  # every line got one when sessions became records
    return LineRecord(row.id, row.session.name, row.session_id, LineDoc.model_validate_json(row.document), client)


def client_ids() -> list[int]:
    """Numbers of all clients that are not put away, by name."""
    return [row.id for row in editing.own(Client).where(Client.put_away_at.is_null()).order_by(Client.name)]


def client_name(number: int) -> str:
    """What a client is called.

    Raises:
        MissingError: If there is none.
    """
    return str(editing.row_of("client", number).name)


def client(number: int) -> ClientRecord:
    """A client with all that hangs on them.

    Raises:
        MissingError: If there is none.
    """
    row = editing.row_of("client", number)
    at = Place.select().join(ClientPlace).where(ClientPlace.client == row, Place.put_away_at.is_null())
    held = [
        ProgramRecord(p.id, p.name, [_line(line, row.id) for line in programs.lines_of(p.id)])
        for p in row.programs.where(Program.put_away_at.is_null()).order_by(Program.id)
    ]
    places = _read(at.order_by(ClientPlace.position))[0]
    return ClientRecord(row.id, _client_doc(row), places, held)


def save_client(number: int, document: ClientDoc, read: int | None = None) -> None:
    """Change a client's size, limits or name; ``read`` is the revision that the change was made on.

    Raises:
        MissingError: If there is none.
        StaleError: If the client was changed since.
    """

    def write() -> None:
        Client.update(**_client_columns(document)).where(Client.id == number).execute()

    editing.change("client", number, read, _client_text, write)


def _client_text(number: int) -> str:
    """A client and where they train, as JSON."""
    visits = ClientPlace.select(ClientPlace.place).where(ClientPlace.client == number).order_by(ClientPlace.position)
    at = [v.place_id for v in visits]
    return json.dumps({"client": json.loads(_client_doc(Client.get_by_id(number)).model_dump_json()), "places": at})


def write_client(number: int, text: str) -> None:
    """Write a client back as they were, from JSON, at those of the places that there still are."""
    held = json.loads(text)
    document = ClientDoc.model_validate_json(json.dumps(held["client"]))
    Client.update(**_client_columns(document)).where(Client.id == number).execute()
    there = {p.id for p in Place.select(Place.id)}
    _write_places(number, [one for one in held["places"] if one in there])


def _write_places(number: int, places: Sequence[int]) -> None:
    ClientPlace.delete().where(ClientPlace.client == number).execute()
    for position, one in enumerate(dict.fromkeys(places)):
        ClientPlace.create(client=number, place=one, position=position)


def place(number: int) -> PlaceRecord:
    """A place.

    Raises:
        MissingError: If there is none.
    """
    row = editing.row_of("place", number)
    return PlaceRecord(row.id, PlaceDoc.model_validate_json(row.document))


def places() -> list[PlaceRecord]:
    """All places that are not put away, in the order they were added."""
    return _read(editing.own(Place).where(Place.put_away_at.is_null()).order_by(Place.id))[0]


def damaged_places() -> list[tuple[int, ValidationError]]:
    """Places that cannot be read, and why."""
    return _read(editing.own(Place).where(Place.put_away_at.is_null()).order_by(Place.id))[1]


def _read(rows: Iterable[Place]) -> tuple[list[PlaceRecord], list[tuple[int, ValidationError]]]:
    """Places that can be read, and those that cannot: one hides none of the others, nor its clients."""
    read, damaged = [], []
    for p in rows:
        try:
            read.append(PlaceRecord(p.id, PlaceDoc.model_validate_json(p.document)))
        except ValidationError as error:
            damaged.append((p.id, error))
    return read, damaged


def as_stored(kind: str, number: int) -> tuple[str, str]:
    """A record's name and what is stored of it, unread.

    Raises:
        MissingError: If there is none.
    """
    row = editing.row_of(kind, number)
    if kind == "place":
        return row.name, row.document
    lines = Line.select(Line.document).join(Program).where(Program.client == number)
    return row.name, "\n".join([row.details or "", *(line.document for line in lines)])


def set_places(number: int, places: Sequence[int], read: int | None = None) -> None:
    """Where a client trains, in order; ``read`` is the revision that the change was made on.

    Raises:
        MissingError: If client or a place does not exist.
        StaleError: If the client was changed since.
    """
    for one in places:
        place(one)
    editing.change("client", number, read, _client_text, lambda: _write_places(number, places))


def save_place(number: int, document: PlaceDoc, read: int | None = None) -> None:
    """Change a place; ``read`` is the revision that the change was made on.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
    """
    text = document.model_dump_json()
    editing.change("place", number, read, lambda n: str(Place.get_by_id(n).document), lambda: write_place(number, text))


def change_place(number: int, to: Callable[[PlaceDoc], PlaceDoc]) -> PlaceDoc:
    """Read and change a place in one transaction; returns what it became.

    Raises:
        MissingError: If there is none.
    """
    with database.atomic():
        made = to(place(number).document)
        save_place(number, made)
        return made


def write_place(number: int, text: str) -> None:
    """Write a place back as it was, from JSON."""
    name = PlaceDoc.model_validate_json(text).name
    Place.update(name=name, document=text).where(Place.id == number).execute()


def line(number: int) -> LineRecord:
    """A line.

    Raises:
        MissingError: If there is none.
    """
    held = Line.select(Line, Session, Program).join(Session).switch(Line).join(Program)
    row = held.where(Line.id == number, Line.removed_at.is_null()).first()
    if row is None or not editing.is_own("program", row.program):
        raise MissingError("line", number)
    return _line(row, row.program.client_id)


def stored_map(client_number: int, place_number: int, digest: str) -> str | None:
    """The reach map that was kept for a client at a place, if it was computed from the same."""
    row = ReachMap.get_or_none(ReachMap.client == client_number, ReachMap.place == place_number, ReachMap.digest == digest)
    return None if row is None else str(row.document)


def keep_map(client_number: int, place_number: int, digest: str, document: str) -> None:
    """Keep a reach map in place of an older one."""
    with database.atomic():
        ReachMap.delete().where(ReachMap.client == client_number, ReachMap.place == place_number).execute()
        ReachMap.create(client=client_number, place=place_number, digest=digest, document=document)
