"""What was understood of a line written as on paper."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from oddswap.exercises import movement
from oddswap.mechanics.movement import Variant
from oddswap.planning.sets import PlannedSet


@dataclass(frozen=True)
class Span:
    """Part of a text that was not understood: from, to, and names that are spelt nearly so."""

    start: int
    end: int
    text: str
    nearest: Sequence[str] = ()


KIT_WORDS = {
    "body": "bodyweight",
    "belt": "weight on a belt",
    "rails": "bar on rails",
    "assist": "assisting platform",
    "shared": "one dumbbell in both hands",
}
"""Kit that is called otherwise than its id."""
HUNG_WORDS = {"handles": "a handle in each hand"}


@dataclass(frozen=True)
class Reading:
    """What the words of a line may mean: a movement in one of its ways, on generic kit, for a muscle."""

    movement: str
    variant: Variant
    kit: str
    target: str
    one_side: bool = False
    attachment: Literal["", "rope", "bar", "handles"] = ""
    """What hangs on a cable, as the line says or as it is usual for the lift."""

    @property
    def title(self) -> str:
        """The lift in words."""
        return movement(self.movement).title(self.variant)

    @property
    def words(self) -> str:
        """The lift with its kit, what hangs on a cable, and whether one side works at a time."""
        held = HUNG_WORDS.get(self.attachment, self.attachment)
        said = self.title, KIT_WORDS.get(self.kit, self.kit), held, "one side" if self.one_side else ""
        return ", ".join(word for word in said if word)


@dataclass(frozen=True)
class Written:
    """A line that was read.

    Args:
        text: As it was typed.
        label: Group and place in it, such as ``B1``; empty for none.
        readings: What the lift may be, the likeliest first; none where its name is not known.
        sure: Whether the words leave no doubt between the first reading and another.
        unknown: What was not understood.
        sets: How many, None where the line does not say.
        reps: Fewest and most repetitions; None where it does not say.
        amrap: Whether as many repetitions as possible are wanted.
        sets_as: The sets one by one where they differ.
        hold_s: Seconds that a set is held, in place of counted repetitions; None where they are counted.
        percent: Load, % of what can be lifted once; None where it does not say.
        rir: Repetitions in reserve; None where it does not say.
        load: Amount, None where it does not say.
        load_unit: ``kg`` or ``lb`` as written; empty where the unit of who reads is meant.
        pieces: One weight or two, as in ``2x24kg``; None where the line does not say.
        less: Whether the load is taken off the body.
        load_at: Where a load is written.
        tempo: Seconds lowering, held, lifting, held; empty for none.
        rest_s: Rest between sets, s; None for none said.
        methods: What is done besides, such as ``drop x2``.
        each_side: Whether repetitions count for each side.
    """

    text: str
    label: str = ""
    readings: Sequence[Reading] = ()
    sure: bool = True
    unknown: Sequence[Span] = ()
    sets: int | None = None
    reps: tuple[int, int] | None = None
    amrap: bool = False
    sets_as: Sequence[PlannedSet] = ()
    rir: int | None = None
    percent: float | None = None
    hold_s: int | None = None
    load: float | None = None
    load_unit: str = ""
    pieces: int | None = None
    less: bool = False
    load_at: Span | None = None
    tempo: tuple[int, ...] = ()
    rest_s: int | None = None
    methods: Sequence[str] = ()
    each_side: bool = False
