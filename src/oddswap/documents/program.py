"""Prescribed lines, sessions and programs as documents."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.set_up import DUMBBELL_CURL, SetUpDoc
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

    name: str = Field(min_length=1, max_length=80)
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

    def line(self) -> PrescribedLine:
        """The line in the core's terms."""
        return PrescribedLine(self.target, self.set_up.set_up(), self.sets, self.reps_low, self.reps_high, self.rir)


class SessionDoc(Document):
    """One session of a program."""

    name: str = Field(min_length=1, max_length=80)
    lines: list[LineDoc] = Field(min_length=1, max_length=40)


class ProgramDoc(Versioned):
    """Sessions of prescribed lines."""

    model_config = example({"name": "Arms and chest", "sessions": [{"name": "Upper A", "lines": [LINE]}]})

    format: Literal["odd-swap/program/2"] = "odd-swap/program/2"
    name: str = Field(min_length=1, max_length=80)
    sessions: list[SessionDoc] = Field(min_length=1, max_length=14)


def check_program(program: ProgramDoc) -> None:
    """Hold every line of a program against the core's rules.

    Raises:
        DomainError: With the path of the first field that breaks one.
    """
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                line.line().verify()
            except DomainError as error:
                raise error.at(f"sessions.{s}.lines.{i}") from None
