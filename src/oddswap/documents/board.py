"""Swaps chosen together for a session, as documents."""

from __future__ import annotations

from oddswap.documents.base import Result
from oddswap.documents.match import SwapDoc
from oddswap.documents.set_up import SetUpDoc


class CellChoiceDoc(Result):
    """The swap that is chosen for a line."""

    line: int
    key: str
    """Names it in the line's own list."""
    match: float
    title: str
    best: str
    """The lift that stands first in the line's own list, where another was chosen for the session's sake; else empty."""
    set_up: SetUpDoc
    """What to do, with its load: where that is what is accepted, nothing has changed."""

    @staticmethod
    def of(line: int, swap: SwapDoc, first: SwapDoc) -> CellChoiceDoc:
        """Of a line's chosen swap and the first one of its list."""
        best = "" if swap is first else f"{first.title}, {first.kit}"
        return CellChoiceDoc(line=line, key=swap.key, match=swap.match, title=swap.title, best=best, set_up=swap.set_up)


class SessionChoiceDoc(Result):
    """Swaps for the lines of a session that had none at a place."""

    cells: list[CellChoiceDoc]
    nothing: dict[int, str]
    """Lines that nothing there stands in for, and why."""
    proven: bool
    """Whether no better choice is possible."""


class LookDoc(Result):
    """What most likely stands first for a line at a place."""

    match: float
    title: str
    load: str
    """In words."""
    items: list[str] = []
    """Ids of the kit that it is done with, and of what that hangs from and is held by."""
    settled: bool = False
    """Whether the line was searched there already, so that it is no guess."""
    passing: bool = False
    """Whether it was found before the place changed: what it needs is there as it was, but whether it stands first, or may be
    sent at all, is not known."""


class FirstLookDoc(Result):
    """A line's first look; without one nothing was seen that could stand in for it, which a search may find yet."""

    line: int
    look: LookDoc | None
