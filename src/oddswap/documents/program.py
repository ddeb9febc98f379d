"""Prescribed lines, sessions and programs as documents."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.set_up import DUMBBELL_CURL, SetUpDoc
from oddswap.documents.words import reps_words
from oddswap.equipment.base.fields import Day, Name, Note
from oddswap.equivalence.prescription import PrescribedLine
from oddswap.errors import DomainError
from oddswap.planning.sets import AS_WRITTEN, BlockWeek, PlannedSet, in_week, scheme_words, week_on

LINE: dict[str, Any] = {
    "name": "Incline curl",
    "target": "biceps",
    "set_up": DUMBBELL_CURL,
    "sets": 3,
    "reps_low": 10,
    "reps_high": 12,
    "rir": 1,
}


class PlannedSetDoc(Document):
    """One set of a line whose sets differ."""

    reps_low: int = Field(ge=1, le=60)
    """Fewest repetitions."""
    reps_high: int = Field(ge=1, le=60)
    """Most repetitions."""
    load_pct: int = Field(default=100, ge=20, le=150)
    """Its load, % of the line's."""
    rir: int | None = Field(default=None, ge=0, le=6)
    """Repetitions in reserve; none for the line's."""
    amrap: bool = False
    """Whether as many repetitions as possible are wanted."""


class BlockWeekDoc(Document):
    """What one week of a block changes of every line."""

    name: str = Field(default="", max_length=40)
    """What the coach calls it, such as deload."""
    sets: int = Field(default=0, ge=-6, le=6)
    """Sets more or fewer; one is left at least."""
    load_pct: int = Field(default=100, ge=40, le=120)
    """Load, % of the line's."""
    rir: int | None = Field(default=None, ge=0, le=6)
    """Repetitions in reserve; none for the line's."""

    def week(self) -> BlockWeek:
        """The same in the core's terms."""
        return BlockWeek(self.sets, self.load_pct / 100, self.rir)


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
    sets_as: list[PlannedSetDoc] = Field(default=[], max_length=12)
    """The sets one by one where they differ; empty where all are alike. A swap is computed for the line's own load,
    repetitions and reserve: those of its heaviest set."""
    hold_s: int | None = Field(default=None, ge=3, le=600)
    """Seconds that a set is held or kept going, where repetitions are not counted; the repetitions are those that last as
    long."""
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

    def planned(self, week: BlockWeek = AS_WRITTEN, law: str = "epley") -> list[PlannedSet]:
        """Its sets one by one, as a week has them, repetitions by ``law``."""
        if self.sets_as:
            own = [
                PlannedSet(s.reps_low, s.reps_high, self.rir if s.rir is None else s.rir, s.load_pct / 100, s.amrap)
                for s in self.sets_as
            ]
        else:
            last = self.sets - 1
            own = [
                PlannedSet(self.reps_low, self.reps_high, self.rir, amrap=self.amrap and i == last) for i in range(self.sets)
            ]
        return in_week(own, week, law)

    def scheme(self) -> str:
        """Sets and repetitions in words, such as ``3 × 8–10`` or ``6, then 2 × 10 at 80 %``."""
        if self.hold_s:
            said = f"{self.sets} × {self.hold_s} s"
        elif self.sets_as:
            said = scheme_words(self.planned())
        elif self.amrap:
            said = f"{self.sets} × as many as possible"
        else:
            said = f"{self.sets} × {reps_words(self.reps_low, self.reps_high)}"
        return f"{said} each side" if self.each_side else said

    def verify(self) -> None:
        """Raise ``DomainError`` where the line cannot be."""
        self.line().verify()
        if self.sets_as and len(self.sets_as) != self.sets:
            limit = f"as many as there are sets, {self.sets}"
            raise DomainError("sets_as", len(self.sets_as), limit, "Add or remove a set")
        for i, s in enumerate(self.sets_as):
            if s.reps_high < s.reps_low:
                raise DomainError(f"sets_as.{i}.reps_high", s.reps_high, f"at least reps_low, {s.reps_low}", "Swap the two")


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
    weeks: list[BlockWeekDoc] = Field(default=[], max_length=16)
    """Weeks of the block, in order; empty where every week is as written."""
    starts: Day = ""
    """Day that the first week begins, year-month-day; empty for none yet."""
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
    weeks: list[BlockWeekDoc] = Field(default=[], max_length=16)
    """Weeks of the block, in order; empty where every week is as written."""
    starts: Day = ""
    """Day that the first week begins, year-month-day; empty for none yet."""
    sessions: list[KeptSessionDoc] = Field(default=[], max_length=14)

    @staticmethod
    def of(program: ProgramDoc) -> KeptProgramDoc:
        """A program that is new here."""
        sessions = [KeptSessionDoc(name=s.name, lines=[KeptLineDoc(line=x) for x in s.lines]) for s in program.sessions]
        return KeptProgramDoc(
            name=program.name, note=program.note, weeks=program.weeks, starts=program.starts, sessions=sessions
        )

    def week_on(self, day: dt.date) -> int | None:
        """Which week of the block a day lies in, from 0; None outside of it, or where none is set."""
        return week_on(dt.date.fromisoformat(self.starts), len(self.weeks), day) if self.starts and self.weeks else None

    def program(self) -> ProgramDoc:
        """The program to hand on, without numbers and empty sessions.

        Raises:
            DomainError: If there is no line in it.
        """
        sessions = [SessionDoc(name=s.name, lines=[x.line for x in s.lines]) for s in self.sessions if s.lines]
        if not sessions:
            raise DomainError("sessions", 0, "a program with at least one line", "Write a line first")
        return ProgramDoc(name=self.name, note=self.note, weeks=self.weeks, starts=self.starts, sessions=sessions)


def check_program(program: ProgramDoc | KeptProgramDoc) -> None:
    """Hold every line of a program against the core's rules.

    Raises:
        DomainError: With the path of the first field that breaks one.
    """
    if program.starts:
        try:
            dt.date.fromisoformat(program.starts)
        except ValueError:
            raise DomainError("starts", program.starts, "a day as year-month-day", "Write it as 2026-03-02") from None
    for path, line in _lines(program):
        try:
            line.verify()
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
