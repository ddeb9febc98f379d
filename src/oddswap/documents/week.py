"""The week's work as a document."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

from oddswap.documents.base import Result, rounded
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.types import Floats
from oddswap.planning.balance import Loss

THIRDS = ("in the stretch", "in the middle", "with the muscle short")


class LossDoc(Result):
    """What a place leaves out."""

    group: str
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
            losses=[LossDoc(group=x.group, words=loss_words(x)) for x in lost],
        )


def loss_words(loss: Loss) -> str:
    """For example ``Triceps, long head: of 6 sets in the stretch, 1 is left.``"""
    name = muscle_table().groups[loss.group].name
    where = "" if loss.third is None else f" {THIRDS[loss.third]}"
    left = "none is" if loss.left < 0.5 else f"{loss.left:.0f} {'is' if loss.left < 1.5 else 'are'}"
    return f"{name[:1].upper()}{name[1:]}: of {loss.written:.0f} sets{where}, {left} left."


class MuscleWeekDoc(Result):
    """A muscle group's week as it is written."""

    group: str
    name: str
    written: list[float]
    """Sets over the thirds of its length, lengthened first."""
    meant: bool
    """Whether a line is for it; else it only helps."""


class WeekDoc(Result):
    """The week of a client's programs, once through, written and at each place."""

    format: Literal["odd-swap/week/1"] = "odd-swap/week/1"
    muscles: list[MuscleWeekDoc]
    places: list[PlaceWeekDoc]

    @staticmethod
    def of(written: Mapping[str, Floats], places: Sequence[PlaceWeekDoc], targets: Sequence[str]) -> WeekDoc:
        """The document: muscles that lines are for first, those with most sets first."""
        groups = muscle_table().groups
        order = sorted(written, key=lambda g: (g not in targets, -float(written[g].sum())))
        muscles = [
            MuscleWeekDoc(group=g, name=groups[g].name, written=rounded(written[g], 2), meant=g in targets) for g in order
        ]
        return WeekDoc(muscles=muscles, places=list(places))
