"""Reading and writing programs: sessions and lines keep their numbers through every change, so that swaps stay with them."""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import TypeAdapter

from oddswap.documents.program import BlockWeekDoc, KeptLineDoc, KeptProgramDoc, KeptSessionDoc, LineDoc
from oddswap.errors import DomainError
from oddswap.store import editing
from oddswap.store.models import Line, Program, Session, now

WEEKS = TypeAdapter(list[BlockWeekDoc])


@dataclass(frozen=True)
class KeptProgram:
    """A program, whose it is, its number and its revision."""

    id: int
    client: int
    revision: int
    document: KeptProgramDoc


def add_program(client: int, document: KeptProgramDoc, key: str = "") -> int:
    """A new program; returns the number. Under the same ``key`` it is made once."""

    def make() -> int:
        editing.revision("client", client)
        row = Program.create(client=client, name=document.name)
        _write(row.id, document)
        return int(row.id)

    return editing.create_once("program", key, make)


def program(number: int) -> KeptProgram:
    """A program.

    Raises:
        MissingError: If there is none.
    """
    row = editing.row_of("program", number)
    return KeptProgram(row.id, row.client_id, row.revision, _read(number))


def save_program(number: int, document: KeptProgramDoc, read: int | None) -> None:
    """Change a program: lines and sessions without a number are new, those left out are removed.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
        DomainError: Where a number is none of this program's.
    """
    editing.change("program", number, read, lambda n: _read(n).model_dump_json(), lambda: _write(number, document))


def write_program(number: int, text: str) -> None:
    """Write a program back as it was, from JSON."""
    _write(number, KeptProgramDoc.model_validate_json(text))


@dataclass(frozen=True)
class KeptSession:
    """A session, whose it is, and its lines in order with their numbers."""

    id: int
    client: int
    program: int
    name: str
    lines: list[tuple[int, LineDoc]]


def session(number: int) -> KeptSession:
    """A session.

    Raises:
        MissingError: If there is none.
    """
    row = Session.select(Session, Program).join(Program).where(Session.id == number, Session.removed_at.is_null()).first()
    if row is None or not editing.is_own("program", row.program):
        raise editing.MissingError("session", number)
    lines = [(x.id, LineDoc.model_validate_json(x.document)) for x in lines_of(row.program_id) if x.session_id == number]
    return KeptSession(row.id, row.program.client_id, row.program_id, row.name, lines)


def sessions_of(number: int) -> list[Session]:
    """A program's sessions, in order."""
    held = Session.select().where(Session.program == number, Session.removed_at.is_null())
    return list(held.order_by(Session.position))


def lines_of(number: int) -> list[Line]:
    """A program's lines, in order."""
    held = Line.select(Line, Session).join(Session).where(Line.program == number, Line.removed_at.is_null())
    return list(held.order_by(Line.position))


def _read(number: int) -> KeptProgramDoc:
    by: dict[int, list[KeptLineDoc]] = {}
    for row in lines_of(number):
        by.setdefault(row.session_id, []).append(KeptLineDoc(id=row.id, line=LineDoc.model_validate_json(row.document)))
    sessions = [KeptSessionDoc(id=s.id, name=s.name, lines=by.get(s.id, [])) for s in sessions_of(number)]
    held = Program.get_by_id(number)
    weeks = WEEKS.validate_json(held.weeks)
    return KeptProgramDoc(name=held.name, note=held.note, weeks=weeks, starts=held.starts, sessions=sessions)


def _write(number: int, document: KeptProgramDoc) -> None:
    own_sessions = {r.id for r in Session.select(Session.id).where(Session.program == number)}
    own_lines = {r.id for r in Line.select(Line.id).where(Line.program == number)}
    block = {"weeks": WEEKS.dump_json(document.weeks).decode(), "starts": document.starts}
    Program.update(name=document.name, note=document.note, **block).where(Program.id == number).execute()
    Session.update(removed_at=now()).where(Session.program == number, Session.removed_at.is_null()).execute()
    Line.update(removed_at=now()).where(Line.program == number, Line.removed_at.is_null()).execute()
    position, seen = 0, set[tuple[str, int]]()
    for s, session in enumerate(document.sessions):
        fields = {"position": s, "name": session.name, "removed_at": None}
        held = _number(session.id, own_sessions, seen, f"sessions.{s}.id", "session")
        if held is None:
            held = int(Session.create(program=number, **fields).id)
        else:
            Session.update(**fields).where(Session.id == held).execute()
        for i, one in enumerate(session.lines):
            row = {"session": held, "position": position, "name": one.line.name, "removed_at": None}
            row["document"] = one.line.model_dump_json()
            line = _number(one.id, own_lines, seen, f"sessions.{s}.lines.{i}.id", "line")
            if line is None:
                Line.create(program=number, **row)
            else:
                Line.update(**row).where(Line.id == line).execute()
            position += 1


def _number(number: int | None, own: set[int], seen: set[tuple[str, int]], field: str, what: str) -> int | None:
    if number is None:
        return None
    if number not in own or (what, number) in seen:
        raise DomainError(field, number, f"a {what} of this program, once", "Leave the number out for a new one")
    seen.add((what, number))
    return number
