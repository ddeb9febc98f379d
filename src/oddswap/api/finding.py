"""Routes to find anything by a few letters, and the units that people read in."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query

from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.coaching.calculators import CALCULATORS
from oddswap.exercises import movements
from oddswap.quantities import OTHERS, SIZES, STEPS
from oddswap.store import finding

router = APIRouter(prefix="/api", route_class=StoreRoute)

MOST = 30
"""Things found that are worth reading."""


class FoundView(View):
    """Something that has the words in its name."""

    kind: Literal["client", "place", "program", "line", "movement", "calculator"]
    id: str
    name: str
    about: str
    """Where it belongs, in a few words."""
    place: int | None = None
    """Of a line: where its client trains first."""


class UnitView(View):
    """A unit of mass or length."""

    id: str
    of: str
    """The unit that documents are in: kg or cm."""
    size: float
    """One of it in that unit."""
    step: float
    """What is rounded to when shown; 0 for as it is."""


@router.get("/units", tags=["library"])
def units() -> list[UnitView]:
    """Every unit that masses and lengths can be read in; documents are in kg and cm."""
    return [UnitView(id=u, of=of, size=SIZES[u], step=STEPS[u]) for of, known in OTHERS.items() for u in known]


@router.get("/find", tags=["library"])
def find(q: Annotated[str, Query(min_length=1, max_length=80, description="Letters of its name")]) -> list[FoundView]:
    """Clients, places, programs, lines, movements and calculators by their names; what begins with the words first."""
    words = q.casefold().split()
    found = [FoundView(**vars(one)) for one in finding.named(words)]
    found += [
        FoundView(kind="movement", id=m.id, name=m.name, about="movement")
        for m in movements().values()
        if finding.has(m.name, words)
    ]
    found += [
        FoundView(kind="calculator", id=c.id, name=c.name, about=c.question)
        for c in CALCULATORS.values()
        if finding.has(c.name, words)
    ]
    begins = [not any(part.startswith(words[0]) for part in one.name.casefold().split()) for one in found] if words else []
    return [one for _, one in sorted(zip(begins, found, strict=True), key=lambda pair: pair[0])][:MOST]
