"""The week's work as a document."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

import numpy as np

from oddswap.documents.base import Result, rounded
from oddswap.documents.client import SpanDoc
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.types import Floats
from oddswap.planning.balance import Loss

THIRDS = ("in the stretch", "in the middle", "with the muscle short")


class LossDoc(Result):
    """What a place leaves out."""

    group: str
    third: int | None
    """Third of its length, 0 the lengthened one; none where it is the muscle altogether."""
    words: str
    """In a sentence."""


class PlaceWeekDoc(Result):
    """The week at a place, by the swaps that were accepted there."""

    place: int
    name: str
    filled: int
    """Lines with a swap there."""
    lines: int
    """Lines in all."""
    sets: dict[str, list[float]]
    """Sets by muscle group, over the thirds of its length, lengthened first."""
    losses: list[LossDoc]

    @staticmethod
    def of(place: int, name: str, filled: int, lines: int, given: Mapping[str, Floats], lost: Sequence[Loss]) -> PlaceWeekDoc:
        """The document of a place's week."""
        return PlaceWeekDoc(
            place=place,
            name=name,
            filled=filled,
            lines=lines,
            sets={g: rounded(v, 2) for g, v in given.items()},
            losses=[LossDoc(group=x.group, third=x.third, words=loss_words(x)) for x in lost],
        )


def loss_words(loss: Loss) -> str:
    """For example ``Triceps, long head: of 6 sets in the stretch, 1 is left.``"""
    name = muscle_table().groups[loss.group].name
    where = "" if loss.third is None else f" {THIRDS[loss.third]}"
    left = "none is" if loss.left < 0.5 else f"{loss.left:.0f} {'is' if loss.left < 1.5 else 'are'}"
    return f"{name[:1].upper()}{name[1:]}: of {loss.written:.0f} sets{where}, {left} left."


def off_words(sets: float, wanted: SpanDoc | None) -> str:
    """How far sets are from those wanted, to half a set: ``4 short``, ``2 over``, or nothing."""
    if wanted is None:
        return ""
    short, over = (round(2 * v) / 2 for v in (wanted.low - sets, sets - wanted.high))
    return f"{short:g} short" if short > 0 else f"{over:g} over" if over > 0 else ""


class MuscleWeekDoc(Result):
    """A muscle group's week as it is written."""

    group: str
    name: str
    written: list[float]
    """Sets over the thirds of its length, lengthened first."""
    meant: bool
    """Whether a line is for it; else it only helps."""
    times: int
    """Sessions in which it gets at least one set."""
    wanted: SpanDoc | None
    """Sets a week that the coach wants; none where nothing is said."""
    off: str
    """How far the written sets are from that, in words; empty where they are not."""


class WeekDoc(Result):
    """The week of a client's programs, once through, written and at each place."""

    format: Literal["odd-swap/week/1"] = "odd-swap/week/1"
    muscles: list[MuscleWeekDoc]
    places: list[PlaceWeekDoc]

    @staticmethod
    def of(
        written: Mapping[str, Floats],
        places: Sequence[PlaceWeekDoc],
        targets: Sequence[str],
        times: Mapping[str, int],
        wanted: Mapping[str, SpanDoc],
    ) -> WeekDoc:
        """The document: muscles that lines are for first, those with most sets first, then those that are only wanted."""
        groups = muscle_table().groups
        order = sorted(written, key=lambda g: (g not in targets, -float(written[g].sum())))
        muscles = []
        for g in [*order, *(g for g in wanted if g not in written)]:
            sets = written.get(g, np.zeros(3))
            muscles.append(
                MuscleWeekDoc(
                    group=g,
                    name=groups[g].name,
                    written=rounded(sets, 2),
                    meant=g in targets or g in wanted,
                    times=times.get(g, 0),
                    wanted=wanted.get(g),
                    off=off_words(float(sets.sum()), wanted.get(g)),
                )
            )
        return WeekDoc(muscles=muscles, places=list(places))


class MendDoc(Result):
    """One way to get back what a place leaves out, and its price."""

    line: int
    """Number of the line that it changes."""
    name: str
    """What the coach calls it."""
    words: str
    """What to do."""
    gains: float
    """Sets that it gives back, in the third or altogether."""
    price: str
    """What it costs, in words."""
    key: str
    """Swap to accept for the line; empty where a set is added instead."""


class MendsDoc(Result):
    """Ways to mend a loss, what gives most for least first."""

    group: str
    words: str
    """The loss."""
    mends: list[MendDoc]
