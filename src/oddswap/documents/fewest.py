"""The fewest lifts for a wish, as documents."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddswap.documents.base import Document, Result, example
from oddswap.documents.set_up import SetUpDoc


class WantedDoc(Document):
    """A muscle that shall have sets."""

    group: str
    """Muscle group."""
    third: Literal["any", "lengthened", "mid", "shortened"] = "any"
    """In which third of its length."""
    sets: float = Field(default=3.0, gt=0, le=10)
    """How many; a helper's count by its share."""


class FewestWishDoc(Document):
    """What shall be covered."""

    model_config = example({"wanted": [{"group": "chest", "sets": 3}, {"group": "lats", "sets": 3}], "minutes": 30})

    wanted: list[WantedDoc] = Field(min_length=1, max_length=60)
    minutes: int | None = Field(default=None, ge=5, le=300)
    """How long there is; None for as long as it takes."""


class FewLiftDoc(Result):
    """One of the lifts."""

    title: str
    kit: str
    target: str
    """The muscle it is taken for first, by name."""
    sets: int
    serves: list[str]
    """What of the wish it gives sets to, in words."""
    set_up: SetUpDoc


class FewestDoc(Result):
    """The fewest lifts that cover a wish at a place."""

    lifts: list[FewLiftDoc]
    minutes: float
    """Sets and rests, without moving from one to the next."""
    proven: bool
    """Whether fewer cannot be."""
    nothing: list[str]
    """What of the wish nothing there gives, in words; the lifts cover the rest."""
