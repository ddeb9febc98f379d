"""What is worth knowing of one set-up beyond its ticket, as a document."""

from __future__ import annotations

from typing import Literal

import numpy as np

from oddswap.coaching.advice import after_failure, describe_limit, muscle_changes, remedies, to_see
from oddswap.coaching.explanation import load_words
from oddswap.documents.base import Result, rounded
from oddswap.equivalence.candidates import Swap
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.muscle_work import Helper, helpers
from oddswap.equivalence.other_items import find_elsewhere
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.tolerance import Choice, choices
from oddswap.quantities import exactly_shown, unit_shown


class AdjustableParameterDoc(Result):
    """A choice of a set-up that can be made otherwise, and how far it may be off."""

    source: int
    """Which of the set-up's sources it belongs to."""
    id: str
    name: str
    unit: str
    value: float
    least: float
    most: float
    step: float
    values: list[float]
    """The values that exist, where not all do."""
    low: float
    """Least value that costs at most 5 points of match."""
    high: float
    """Greatest such value."""
    cost: float
    """Points of match that a usual slip costs."""
    words: str
    """The tolerance in words."""


class ElsewhereDoc(Result):
    """The same set-up on another item of the place, for when its own is in use."""

    id: str
    name: str
    match: float
    load: str


class DetailDoc(Result):
    """What is worth knowing of one set-up beyond its ticket: tolerances, who works, what helps."""

    format: Literal["odd-swap/detail/2"] = "odd-swap/detail/2"
    choices: list[AdjustableParameterDoc]
    """The dearest slip first."""
    amounts: list[float]
    """Amounts there are of the first source, ascending."""
    limits_set: str
    target_first: bool
    """Whether the target is what limits the set."""
    helpers: list[HelperDoc]
    won: list[str]
    """Muscles that work more than in the prescription."""
    lost: list[str]
    """Muscles that work less."""
    remedies: list[str]
    """What would bring the load nearer, computed."""
    after_failure: str
    to_see: list[str]
    """Checks that a client can see."""
    elsewhere: list[ElsewhereDoc]
    """The same on other items here, in order of likeness."""

    @staticmethod
    def of(prescription: PrescriptionProfile, place: Place, lens: Lens, swap: Swap, filters: SearchFilters) -> DetailDoc:
        """The document of a set-up's detail."""
        words, target_first = describe_limit(prescription, swap)
        won, lost = muscle_changes(prescription, swap)
        return DetailDoc(
            choices=[adjustable_parameter_doc(c) for c in choices(prescription, place, lens, swap.set_up, swap.match)],
            amounts=rounded(swap.existing, 3),
            limits_set=words,
            target_first=target_first,
            helpers=[helper_doc(h) for h in helpers_first(swap)],
            won=won,
            lost=lost,
            remedies=[r.text for r in remedies(prescription, place, lens, swap, filters.conversion)],
            after_failure=after_failure(swap),
            to_see=to_see(prescription, swap),
            elsewhere=[
                ElsewhereDoc(id=e.id, name=e.name, match=round(e.match, 1), load=load_words(e.set_up))
                for e in find_elsewhere(prescription, place, lens, swap, filters)
            ],
        )


def helpers_first(swap: Swap) -> list[Helper]:
    """Who carries the load, the joint that the movement is about first."""
    hinge = swap.profile.motion.movement.hinge.split()[-1]
    return sorted(helpers(swap.profile), key=lambda h: h.joint != hinge)


def adjustable_parameter_doc(c: Choice) -> AdjustableParameterDoc:
    """A choice as a document."""
    f = c.parameter
    there = unit_shown(f.unit)
    unit = there if there in ("", "°") else f" {there}"
    low, high = (exactly_shown(v, f.unit) for v in (c.low, c.high))
    # Nobody sets tenths: the words keep to whole numbers inside.
    first, last = (np.ceil(low), np.floor(high)) if np.ceil(low) < np.floor(high) else (low, high)
    words = f"{first:g} to {last:g}{unit} will do" if last > first else f"only {first:.0f}{unit} will do"
    return AdjustableParameterDoc(
        source=c.source,
        id=f.id,
        name=f.name,
        unit=f.unit,
        value=f.value,
        least=f.low,
        most=f.high,
        step=f.step,
        values=list(f.choices),
        low=c.low,
        high=c.high,
        cost=round(c.cost, 1),
        words=words,
    )


class HelperDoc(Result):
    """How much of a joint's load a muscle group carries."""

    group: str
    name: str
    joint: str
    share: float
    """Mean part of what is given at the joint, to the nearest 0.05."""
    band: Literal["main", "strong", "some", "little"]
    confidence: Literal["high", "medium", "low"]


def helper_doc(h: Helper) -> HelperDoc:
    """A helper as a document."""
    return HelperDoc(group=h.group.id, name=h.group.name, joint=h.joint, share=h.share, band=h.band, confidence=h.confidence)
