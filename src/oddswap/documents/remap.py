"""What programs come to at places, mapped all at once: one record a line and place, as lines of JSON."""

from __future__ import annotations

from typing import Literal

from oddswap.documents.base import Result
from oddswap.documents.match import MatchDoc

SHOWN = 3
"""Swaps of each list that are kept."""


class MappedSwapDoc(Result):
    """One swap, as far as a list shows it."""

    key: str
    match: float
    title: str
    kit: str
    load: str
    reps: str


class MappedCellDoc(Result):
    """A line at a place."""

    format: Literal["odd-swap/mapped-cell/1"] = "odd-swap/mapped-cell/1"
    client: int
    line: int
    place: int
    name: str
    versions: str
    """Digest of all that it is computed from; what has the same one need not be computed again."""
    swaps: list[MappedSwapDoc]
    nothing: str = ""
    """Why nothing there stands in for it; empty where something does."""

    @staticmethod
    def of(numbers: tuple[int, int, int], versions: str, match: MatchDoc) -> MappedCellDoc:
        """Of a ranked list."""
        client, line, place = numbers
        swaps = [
            MappedSwapDoc(key=s.key, match=s.match, title=s.title, kit=s.kit, load=s.load.words, reps=s.load.reps)
            for s in match.swaps[:SHOWN]
        ]
        return MappedCellDoc(client=client, line=line, place=place, name=match.line, versions=versions, swaps=swaps)
