"""Prescribed lines, sessions and programs as documents."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.set_up import DUMBBELL_CURL, SetUpDoc
from oddswap.equipment.base.fields import Name, Note
from oddswap.equivalence.prescription import PrescribedLine
from oddswap.errors import DomainError

LINE: dict[str, Any] = {
    "name": "Incline curl",
    "target": "biceps",
    "set_up": DUMBBELL_CURL,
    "sets": 3,
    "reps_low": 10,
    "reps_high": 12,
    "rir": 1,
}


class LineDoc(Document):
    """One prescribed exercise."""

    model_config = example(LINE)

    name: Name
    """What the coach calls it."""
    target: str
    """Muscle group it is for."""
    set_up: SetUpDoc
    sets: int = Field(ge=1, le=12)
    reps_low: int = Field(ge=1, le=60)
    """Fewest repetitions of a set."""
    reps_high: int = Field(ge=1, le=60)
    """Most repetitions of a set."""
    rir: int = Field(default=1, ge=0, le=6)
    """Repetitions in reserve."""
    amrap: bool = False
    """Whether as many repetitions as possible are wanted in the last set; the fewest and most are what is expected."""
    each_side: bool = False
    """Whether repetitions count for each side."""
    tempo: list[Annotated[int, Field(ge=0, le=30)]] = Field(default=[], max_length=4)
    """Seconds lowering, held, lifting, held; as many as were said."""
    rest_s: int | None = Field(default=None, ge=0, le=1800)
    """Rest between sets, s."""
    methods: list[Annotated[str, Field(max_length=40)]] = Field(default=[], max_length=6)
    """What is done besides, such as drop x2, partials, rest-pause."""
    label: str = Field(default="", pattern=r"^([A-Z][1-9]?)?$")
    """Group in the session and place in it: A1 and A2 are done in turns."""
    note: Note = ""
    """What the coach wants to remember of it."""

    def line(self) -> PrescribedLine:
        """The line in the core's terms."""
        return PrescribedLine(self.target, self.set_up.set_up(), self.sets, self.reps_low, self.reps_high, self.rir)


class SessionDoc(Document):
    """One session of a program."""

    name: Name
    lines: list[LineDoc] = Field(min_length=1, max_length=40)


class ProgramDoc(Versioned):
    """Sessions of prescribed lines."""

    model_config = example({"name": "Arms and chest", "sessions": [{"name": "Upper A", "lines": [LINE]}]})

    format: Literal["odd-swap/program/2"] = "odd-swap/program/2"
    name: Name
    note: Note = ""
    """What the coach wants to remember of it."""
    sessions: list[SessionDoc] = Field(min_length=1, max_length=14)


class KeptLineDoc(Document):
    """A line as it is kept."""

    id: int | None = Field(default=None, ge=1, le=2**63 - 1)
    """Its number; none for a new one."""
    line: LineDoc


class KeptSessionDoc(Document):
    """A session as it is kept; it may be empty while it is written."""

    id: int | None = Field(default=None, ge=1, le=2**63 - 1)
    """Its number; none for a new one."""
    name: Name
    lines: list[KeptLineDoc] = Field(default=[], max_length=40)


class KeptProgramDoc(Document):
    """A program as it is kept: sessions and lines with their numbers, by which what was accepted for a line stays with it."""

    model_config = example({"name": "Arms and chest", "sessions": [{"name": "Upper A", "lines": [{"line": LINE}]}]})

    name: Name
    note: Note = ""
    """What the coach wants to remember of it."""
    sessions: list[KeptSessionDoc] = Field(default=[], max_length=14)

    @staticmethod
    def of(program: ProgramDoc) -> KeptProgramDoc:
        """A program that is new here."""
        sessions = [KeptSessionDoc(name=s.name, lines=[KeptLineDoc(line=x) for x in s.lines]) for s in program.sessions]
        return KeptProgramDoc(name=program.name, note=program.note, sessions=sessions)

    def program(self) -> ProgramDoc:
        """The program to hand on, without numbers and empty sessions.

        Raises:
            DomainError: If there is no line in it.
        """
        sessions = [SessionDoc(name=s.name, lines=[x.line for x in s.lines]) for s in self.sessions if s.lines]
        if not sessions:
            raise DomainError("sessions", 0, "a program with at least one line", "Write a line first")
        return ProgramDoc(name=self.name, note=self.note, sessions=sessions)


def check_program(program: ProgramDoc | KeptProgramDoc) -> None:
    """Hold every line of a program against the core's rules.

    Raises:
        DomainError: With the path of the first field that breaks one.
    """
    for path, line in _lines(program):
        try:
            line.line().verify()
        except DomainError as error:
            raise error.at(path) from None


def _lines(program: ProgramDoc | KeptProgramDoc) -> Iterator[tuple[str, LineDoc]]:
    """Every line with its path."""
    if isinstance(program, ProgramDoc):
        for s, session in enumerate(program.sessions):
            yield from ((f"sessions.{s}.lines.{i}", line) for i, line in enumerate(session.lines))
        return
    for s, kept in enumerate(program.sessions):
        yield from ((f"sessions.{s}.lines.{i}.line", one.line) for i, one in enumerate(kept.lines))
