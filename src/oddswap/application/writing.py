"""A line as it is written in a simple form: a movement on generic kit, at the load that the coach says."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from pydantic import ValidationError

from oddswap.application.fields import name_field
from oddswap.application.library import find_example
from oddswap.application.versions import body_text
from oddswap.coaching.explanation import load_words
from oddswap.coaching.library import example as library_example
from oddswap.documents.client import ClientDoc
from oddswap.documents.library import ExampleDoc
from oddswap.documents.problems import reading_faults
from oddswap.documents.program import LineDoc, PlannedSetDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.profile import Profile, profile
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.muscles import muscle_table
from oddswap.planning.schemes import NOT_SAID
from oddswap.planning.shorthand import read_line
from oddswap.planning.written import Reading, Written
from oddswap.quantities import Units, shown_in, unit_shown, units_shown, value_meant, value_shown


@dataclass(frozen=True)
class WrittenLine:
    """A line that can be prescribed, with its figure and curves.

    Args:
        line: What is prescribed.
        amount: Its load in the unit in force; 0 for bodyweight.
        unit: That unit, ``kg`` or ``lb``, or empty.
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
        amount: Load in the unit of the kit, pounds for a client who reads those; None for a usual one.
        target: Muscle group it is for; empty for the one that works most.
        called: What the coach calls it; empty for the movement's own title.
        sets: How many.
        reps: Fewest and most repetitions of a set.
        rir: Repetitions in reserve.

    Raises:
        DomainError: With the field, where one of these cannot be.
    """
    with shown_in(client.units):
        way, found = find_example(client, name, variant, kit)
        if amount is not None and found.set_up.sources:
            found = profile(found.motion.body, _with_amount(found.set_up, amount), check=False)
        shown = ExampleDoc.of(client.name, way, found)
        words = _source_words(found.set_up)
    set_up = found.set_up
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
    line.verify()
    return WrittenLine(line, *words, shown)


USUAL_SETS, USUAL_REPS, USUAL_RIR = 3, (8, 10), 1
MANY_REPS = (8, 15)
"""Repetitions that as many as possible are taken for (own estimate)."""


@dataclass(frozen=True)
class TypedLine:
    """A line as it was typed, and what was made of it.

    Args:
        written: What was read.
        reading: Which of its readings was taken.
        line: What is prescribed; None where nothing can be.
        load: Its load in words.
        assumed: What the line did not say and stands as usual: sets, reps, rir, load.
        fault: Why it cannot be prescribed so, None where it can.
        example: Figure and curves; None where there is no line.
    """

    written: Written
    reading: int
    line: LineDoc | None
    load: str
    assumed: Sequence[str]
    fault: DomainError | None
    example: ExampleDoc | None


def read_typed(client: ClientDoc, text: str, own: Mapping[str, str], reading: int = 0, example: bool = False) -> TypedLine:
    """A line as it was typed, read and made a prescription of.

    Args:
        client: Who.
        text: As it was typed.
        own: The coach's own names of lifts.
        reading: Which of its readings to take.
        example: Whether figure and curves are wanted.
    """
    read = read_line(text, own)
    if not read.readings:
        return TypedLine(read, 0, None, "", (), None, None)
    chosen = min(reading, len(read.readings) - 1)
    one = read.readings[chosen]
    # Kit as it is made for who reckons in the unit that was typed.
    units = Units("lb" if (read.load_unit or client.mass_unit) == "lb" else "kg", client.length_unit)
    try:
        with shown_in(units):
            found = _typed_set_up(client, one, read.load)
        set_up, shown = found.set_up, None
        with shown_in(client.units):
            load = load_words(set_up)
            if example:
                shown = ExampleDoc.of(client.name, one.variant, found)
        line = _typed_line(one, read, _checked(set_up))
        line.verify()
    except DomainError as error:
        return TypedLine(read, chosen, None, "", (), error, None)
    except ValidationError as error:
        told = reading_faults(error.errors(include_url=False))[0]
        fault = DomainError(told.field, told.value, told.limit, told.way_out)
        return TypedLine(read, chosen, None, "", (), fault, None)
    said = {"sets": read.sets, "reps": read.reps or (read.amrap or None), "rir": read.rir, "load": read.load}
    assumed = [k for k, v in said.items() if v is None and not (k == "load" and not set_up.sources)]
    return TypedLine(read, chosen, line, load, assumed, None, shown)


def _typed_line(one: Reading, read: Written, set_up: SetUpDoc) -> LineDoc:
    """A prescription of what was read, what was not said as usual."""
    reps = read.reps or (MANY_REPS if read.amrap else USUAL_REPS)
    return LineDoc(
        name=one.title[:80],
        target=one.target,
        set_up=set_up,
        sets=read.sets if read.sets is not None else USUAL_SETS,
        reps_low=reps[0],
        reps_high=reps[1],
        rir=read.rir if read.rir is not None else 0 if read.amrap else USUAL_RIR,
        amrap=read.amrap,
        sets_as=[
            PlannedSetDoc(
                reps_low=s.low,
                reps_high=s.high,
                load_pct=round(100 * s.load_part),
                rir=None if s.rir == NOT_SAID else s.rir,
            )
            for s in read.sets_as
        ],
        hold_s=read.hold_s,
        each_side=read.each_side,
        tempo=list(read.tempo),
        rest_s=read.rest_s,
        methods=list(read.methods),
        label=read.label,
    )


_typed: SharedCache[object, Profile] = SharedCache(512)


def _typed_set_up(client: ClientDoc, one: Reading, load: float | None) -> Profile:
    """A reading on generic kit at a load in the unit in force, or the one that asks a usual effort."""
    body, unit = name_field("client", client.body), units_shown().mass
    values = tuple(sorted(one.variant.values.items()))
    way = (one.movement, values, one.variant.stance, one.variant.recline_deg, one.variant.pad, one.kit, one.one_side)
    amount = value_meant(load, "kg") if load else None
    # One arm holds a handle of its own.
    hung = one.attachment or ("handle" if one.one_side and one.kit == "cable" else "")

    def work() -> Profile:
        try:
            found = library_example(body, movement(one.movement), one.variant, one.kit, amount, hung, one.target)
        except DomainError as error:
            raise DomainError("load" if amount else error.field, error.value, error.limit, error.way_out) from None
        sources = found.set_up.sources
        if one.one_side:
            sources = tuple(s.on_one_side() for s in sources)
        if sources == found.set_up.sources:
            return found
        return profile(body, replace(found.set_up, sources=sources), check=False)

    return _typed.get((body_text(client), way, hung, one.target, amount, unit), work)


@dataclass(frozen=True)
class LineWords:
    """A line in words.

    Args:
        title: The movement in its way.
        target: Muscle group it is for.
        load: The load.
        amount: The same of its first source, in the unit in force; 0 for bodyweight.
        unit: That unit; empty where the load is a choice, as of bands.
        scheme: Sets and repetitions.
    """

    title: str
    target: str
    load: str
    amount: float
    unit: str
    scheme: str


def line_words(line: LineDoc) -> LineWords:
    """A line in words, in the units in force."""
    set_up = line.set_up.set_up()
    title = movement(set_up.movement).title(set_up.variant())
    amount, unit, load = _source_words(set_up)
    return LineWords(title, muscle_table().groups[line.target].name, load, amount, unit, line.scheme())


def _source_words(set_up: SetUp) -> tuple[float, str, str]:
    """Amount and unit of the first source, as they are shown, and the whole load in words."""
    first = set_up.sources[0] if set_up.sources else None
    if first is None:
        return 0.0, "", load_words(set_up)
    return value_shown(first.amount, first.amount_unit), unit_shown(first.amount_unit), load_words(set_up)


def with_load(line: LineDoc, amount: float) -> LineDoc:
    """A line at another amount of its first source, in the unit in force.

    Raises:
        DomainError: If it has no load, or its kit no such amount.
    """
    set_up = line.set_up.set_up()
    if not set_up.sources:
        raise DomainError("amount", amount, "a line with a load; this one is done with the body alone", "Write another line")
    made = line.model_copy(update={"set_up": _checked(_with_amount(set_up, amount))})
    made.verify()
    return made


def _checked(set_up: SetUp) -> SetUpDoc:
    """The document of a set-up, held against the rules of what comes in."""
    return SetUpDoc.model_validate_json(SetUpDoc.of(set_up).model_dump_json())


def _with_amount(set_up: SetUp, amount: float) -> SetUp:
    """At the amount, given in the unit in force; what the kit does not have is an error at the field ``amount``."""
    first = set_up.sources[0]
    try:
        made = first.with_amount(value_meant(amount, first.amount_unit))
        made.verify()
    except DomainError as error:
        raise DomainError("amount", amount, error.limit, error.way_out) from None
    return set_up.with_source(0, made)
