"""Find records by a few letters of their names."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from oddswap.store import editing
from oddswap.store.models import Client, ClientPlace, Line, Place, Program, Session


@dataclass(frozen=True)
class NamedRecord:
    """A record: kind, number, name, where it belongs, and of a line where its client trains first."""

    kind: Literal["client", "place", "program", "line"]
    id: str
    name: str
    about: str
    place: int | None = None


def has(name: str, words: Sequence[str]) -> bool:
    """Whether a name has all the words, which are folded to lower case, in it."""
    folded = name.casefold()
    return bool(words) and all(word in folded for word in words)


def named(words: Sequence[str]) -> list[NamedRecord]:
    """Clients, places, programs and lines that are on the lists and have all the words in their names.

    SQLite folds the letters of English only, so names are compared here.
    """
    clients = {c.id: c.name for c in editing.own(Client).where(Client.put_away_at.is_null())}
    places = {p.id: p.name for p in editing.own(Place).where(Place.put_away_at.is_null())}
    out = [NamedRecord("client", str(n), name, "client") for n, name in clients.items() if has(name, words)]
    out += [NamedRecord("place", str(n), name, "place") for n, name in places.items() if has(name, words)]
    programs = {p.id: p for p in Program.select().where(Program.put_away_at.is_null()) if p.client_id in clients}
    out += [NamedRecord("program", str(p.id), p.name, clients[p.client_id]) for p in programs.values() if has(p.name, words)]
    first: dict[int, int] = {}
    for visit in ClientPlace.select().order_by(ClientPlace.position):
        if visit.place_id in places:
            first.setdefault(visit.client_id, visit.place_id)
    lines = Line.select(Line.id, Line.name, Line.program, Session.name).join(Session).where(Line.removed_at.is_null())
    for line in lines:
        if line.program_id in programs and has(line.name, words):
            client = programs[line.program_id].client_id
            assert line.session is not None  # every line got one when sessions became records
            about = f"{clients[client]}, {line.session.name}"
            out.append(NamedRecord("line", str(line.id), line.name, about, first.get(client)))
    return out
