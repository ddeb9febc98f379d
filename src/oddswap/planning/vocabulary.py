"""The trade's words: names of lifts, and words around them, folded so that cases, plurals and hyphens do not matter."""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any

from oddswap.coaching.attachments import usual_attachment

PIECE = re.compile(r"[^\s\-/,;]+")
NEAR = 0.7
"""Likeness of names from which one is offered for another."""


@dataclass(frozen=True)
class Lift:
    """What a name means.

    Args:
        name: Its first name.
        movement: Movement id.
        values: Parameters of the movement that it fixes.
        stance: How the body is carried; empty for any.
        recline: Of the bench, degrees; None where the name says nothing of it.
        kit: What it is done with where the line does not say; empty for the usual.
        target: What it is for; empty for the movement's first.
        pad: Whether the upper arm rests on a pad.
        one_side: Whether one side works at a time.
        attachment: What hangs on a cable where the line does not say: the lift's own, else its movement's; empty for a handle
            or a cuff on one side.
    """

    name: str
    movement: str
    values: Mapping[str, float] = field(default_factory=dict)
    stance: str = ""
    recline: float | None = None
    kit: str = ""
    target: str = ""
    pad: bool = False
    one_side: bool = False
    attachment: str = ""


@dataclass(frozen=True)
class Word:
    """A word or words around a lift's name: ``sort`` (kit, stance, grip ...) and what it says."""

    sort: str
    says: str


Phrase = tuple[str, ...]


def fold(piece: str) -> str:
    """A piece of a name as it is compared: lower case, without a plural's s."""
    word = piece.casefold().strip(".()'’")
    return word[:-1] if len(word) > 2 and word.endswith("s") and not word.endswith("ss") else word


def phrase(text: str) -> Phrase:
    """A name in folded pieces."""
    return tuple(fold(m[0]) for m in PIECE.finditer(text))


@dataclass(frozen=True)
class Vocabulary:
    """All names by their folded pieces; a name may mean several lifts."""

    lifts: Mapping[Phrase, Sequence[Lift]]
    words: Mapping[Phrase, Word]

    def nearest(self, said: Phrase, most: int = 3) -> list[str]:
        """Names that are spelt nearly so, the nearest first."""
        known = {" ".join(p): lifts[0].name for p, lifts in self.lifts.items()}
        found = difflib.get_close_matches(" ".join(said), known, n=3 * most, cutoff=NEAR)
        return list(dict.fromkeys(known[one] for one in found))[:most]


def _data(name: str) -> dict[str, Any]:
    return tomllib.loads((files("oddswap.planning") / "data" / name).read_text("utf-8"))


@cache
def vocabulary() -> Vocabulary:
    """The vocabulary of the data files."""
    lifts: dict[Phrase, list[Lift]] = {}
    for entry in _data("lifts.toml")["lift"]:
        rest = {k: v for k, v in entry.items() if k != "names"}
        rest.setdefault("attachment", usual_attachment(entry["movement"]))
        rest["values"] = {k: float(v) for k, v in rest.get("values", {}).items()}
        lift = Lift(name=entry["names"][0], **rest)
        for name in entry["names"]:
            lifts.setdefault(phrase(name), []).append(lift)
    words: dict[Phrase, Word] = {}
    for sort, groups in _data("words.toml").items():
        for says, names in groups.items():
            for name in names:
                words.setdefault(phrase(name), Word(sort, says))
    return Vocabulary(lifts, words)
