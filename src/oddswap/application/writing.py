"""A line as it is written in a simple form: a movement on generic kit, at the load that the coach says."""

from __future__ import annotations

from dataclasses import dataclass

from oddswap.application.library import find_example
from oddswap.coaching.explanation import load_words
from oddswap.documents.client import ClientDoc
from oddswap.documents.library import ExampleDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.equivalence.profile import profile
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.muscles import muscle_table


@dataclass(frozen=True)
class WrittenLine:
    """A line that can be prescribed, with its figure and curves.

    Args:
        line: What is prescribed.
        amount: Its load in the unit of its kit; 0 for bodyweight.
        unit: That unit, ``kg``, or empty.
        load: The load in words.
        example: Figure, curves, who carries the load.
    """

    line: LineDoc
    amount: float
    unit: str
    load: str
    example: ExampleDoc


def write_line(
    client: ClientDoc,
    name: str,
    variant: int,
    kit: str = "",
    amount: float | None = None,
    target: str = "",
    called: str = "",
    sets: int = 3,
    reps: tuple[int, int] = (8, 10),
    rir: int = 1,
) -> WrittenLine:
    """A line of a movement on generic kit, placed as it usually is.

    Args:
        client: Who.
        name: Movement id.
        variant: Place in the movement's list of variants.
        kit: Id of generic kit; empty for the first that loads it.
        amount: Load in the unit of the kit; None for a usual one.
        target: Muscle group it is for; empty for the one that works most.
        called: What the coach calls it; empty for the movement's own title.
        sets: How many.
        reps: Fewest and most repetitions of a set.
        rir: Repetitions in reserve.

    Raises:
        DomainError: With the field, where one of these cannot be.
    """
    way, found = find_example(client, name, variant, kit)
    if amount is not None and found.set_up.sources:
        found = profile(found.motion.body, _with_amount(found.set_up, amount), check=False)
    shown = ExampleDoc.of(client.name, way, found)
    set_up = found.set_up
    first = set_up.sources[0] if set_up.sources else None
    low, high = reps
    line = LineDoc(
        name=called.strip() or shown.title,
        target=target or shown.target,
        set_up=_checked(set_up),
        sets=sets,
        reps_low=low,
        reps_high=high,
        rir=rir,
    )
    line.line().verify()
    unit = first.amount_unit if first is not None else ""
    return WrittenLine(line, first.amount if first is not None else 0.0, unit, load_words(set_up), shown)


@dataclass(frozen=True)
class LineWords:
    """A line in words.

    Args:
        title: The movement in its way.
        target: Muscle group it is for.
        load: The load.
        amount: The same in the unit of its first source; 0 for bodyweight.
        unit: That unit; empty where the load is a choice, as of bands.
    """

    title: str
    target: str
    load: str
    amount: float
    unit: str


def line_words(line: LineDoc) -> LineWords:
    """A line in words."""
    set_up = line.set_up.set_up()
    first = set_up.sources[0] if set_up.sources else None
    title = movement(set_up.movement).title(set_up.variant())
    amount, unit = (first.amount, first.amount_unit) if first is not None else (0.0, "")
    return LineWords(title, muscle_table().groups[line.target].name, load_words(set_up), amount, unit)


def with_load(line: LineDoc, amount: float) -> LineDoc:
    """A line at another amount of its first source.

    Raises:
        DomainError: If it has no load, or its kit no such amount.
    """
    set_up = line.set_up.set_up()
    if not set_up.sources:
        raise DomainError("amount", amount, "a line with a load; this one is done with the body alone", "Write another line")
    made = line.model_copy(update={"set_up": _checked(_with_amount(set_up, amount))})
    made.line().verify()
    return made


def _checked(set_up: SetUp) -> SetUpDoc:
    """The document of a set-up, held against the rules of what comes in."""
    return SetUpDoc.model_validate_json(SetUpDoc.of(set_up).model_dump_json())


def _with_amount(set_up: SetUp, amount: float) -> SetUp:
    """At the amount, where the kit has it."""
    try:
        made = set_up.sources[0].with_amount(amount)
        made.verify()
    except DomainError as error:
        raise DomainError("amount", amount, error.limit, error.way_out) from None
    return set_up.with_source(0, made)
