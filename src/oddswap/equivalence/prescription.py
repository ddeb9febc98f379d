"""What is prescribed, for whom, and where: the input of a swap."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from oddswap.equipment.protocols import Room
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.muscles import muscle_table


@dataclass(frozen=True)
class Line:
    """One prescribed exercise.

    Args:
        target: Muscle group it is for.
        set_up: How it is prescribed.
        sets: Number of sets.
        reps_low: Fewest reps of a set.
        reps_high: Most reps of a set.
        rir: Repetitions left in reserve.
    """

    target: str
    set_up: SetUp
    sets: int
    reps_low: int
    reps_high: int
    rir: int

    def verify(self) -> None:
        """Raise ``DomainError`` where the line cannot be."""
        groups = muscle_table().groups
        if self.target not in groups:
            raise DomainError("target", self.target, f"the muscle groups are {', '.join(groups)}", "Pick one of these")
        if self.reps_high < self.reps_low:
            raise DomainError("reps_high", self.reps_high, f"at least reps_low, {self.reps_low}", "Swap the two")
        try:
            targets = movement(self.set_up.movement).targets
            self.set_up.variant()
        except DomainError as error:
            raise error.at("set_up") from None
        if self.target not in targets:
            raise DomainError("target", self.target, f"this movement is for {', '.join(targets)}", "Pick one of these")


@dataclass(frozen=True)
class Place:
    """Somewhere a client trains: its room and its kit items."""

    name: str
    room: Room
    kit: Sequence[Any]

    def verify(self) -> None:
        """Raise ``DomainError`` where items contradict themselves or each other."""
        seen: set[str] = set()
        for i, item in enumerate(self.kit):
            if item.id in seen:
                raise DomainError(f"kit.{i}.id", item.id, "every item has an id of its own", "Rename one of the two")
            seen.add(item.id)
            try:
                item.verify()
            except DomainError as error:
                raise error.at(f"kit.{i}") from None
