"""What the log says, as a document: every set on one scale, what it taught, what comes next."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from oddswap.documents.base import Result
from oddswap.documents.log import DropStepDoc
from oddswap.training_log.progression import Kind


class LoggedPointDoc(Result):
    """A set."""

    id: str
    at: dt.datetime
    value: float
    """The load that would ask as much in the written lift, in its unit."""
    amount: float
    unit: str
    reps: int
    left: int | None
    right: int | None
    rir: int | None
    partials: int
    drops: list[DropStepDoc]
    felt: list[str]
    note: str
    title: str
    kit: str
    place: str
    order: int
    fixed: bool
    """Whether it stands for an entry that was wrong."""


class TrendDoc(Result):
    """What the written lift's load should have been on a day, and between which it lay four times of five."""

    at: dt.date
    value: float
    low: float
    high: float


class SessionPointDoc(Result):
    """The best set of a day, on the written scale."""

    at: dt.date
    best: float
    sets: int


class OtherDoc(Result):
    """Another choice for next time."""

    kind: Kind
    amount: float
    reps: int
    why: str


class WeighedDoc(Result):
    """A weighing."""

    at: dt.datetime
    mass_kg: float


class AdviceDoc(Result):
    """Next time in a set-up."""

    title: str
    kit: str
    place: str
    kind: Kind
    amount: float
    unit: str
    reps: int
    reason: str
    expected: list[float]
    """Repetitions expected at the written reserve, and between which they lie four times of five."""
    rir: int
    """Repetitions to leave."""
    chosen: str = ""
    """Id of the entry by which a coach chose this; empty where a rule says it."""
    like: str
    """Id of the newest set in this set-up."""
    others: list[OtherDoc]
    """What to press instead."""


class SideDoc(Result):
    """Left against right, repetitions."""

    left_ahead: float
    before: float | None
    """The same some sessions earlier."""


class DueDoc(Result):
    """A set-up of a line that has been kept long enough."""

    place: int
    place_name: str
    title: str
    kit: str
    words: str
    """Why."""
    like: str
    """Id of its last set."""
    lift: str
    """Movement and kinds of kit."""


class NextLiftDoc(Result):
    """What a coach would do next in its place."""

    key: str
    """Names it among the swaps of its line and place."""
    title: str
    kit: str
    load: str
    match: float
    words: str
    """Why this one."""


class NextLiftsDoc(Result):
    """The next lifts with a like profile, the best first; none where nothing else there is like enough."""

    lifts: list[NextLiftDoc]
    passed: list[str]
    """What was left out, as it was done lately."""


class LiftLogDoc(Result):
    """A written line over time, wherever it was done."""

    line: int
    name: str
    target: str
    unit: str
    written: float
    """Its written amount."""
    points: list[LoggedPointDoc]
    trend: list[TrendDoc]
    sessions: list[SessionPointDoc]
    next: list[AdviceDoc]
    due: list[DueDoc]
    """Its set-ups that a change is due for."""
    sides: SideDoc | None


class TaughtDoc(Result):
    """What was learned of a lift on an item."""

    title: str
    kit: str
    place: str
    factor: float
    """What the client moves at the same effort, over what is computed."""
    low: float
    high: float
    sets: int
    sure: bool
    """Whether it is told from one."""


class ShiftDoc(Result):
    """An item that pulls otherwise since a day."""

    item: str
    place: int
    name: str
    since: dt.date
    by: float
    """Part by which clients move more on it since."""


class PainSeenDoc(Result):
    """A pain that was told."""

    key: str
    at: dt.datetime
    line: int | None
    lift: str
    where: str
    when: str
    note: str


class ConflictDoc(Result):
    """An entry that disagrees with another."""

    key: str
    at: dt.datetime
    words: str
    device: str


class LogDoc(Result):
    """All that the log says of a client."""

    format: Literal["odd-swap/log/1"] = "odd-swap/log/1"
    client: str
    sets: int
    lifts: list[LiftLogDoc]
    taught: list[TaughtDoc]
    shifts: list[ShiftDoc]
    pains: list[PainSeenDoc]
    conflicts: list[ConflictDoc]
    weights: list[WeighedDoc]
    clock_off_h: float
    """By how much a phone's clock was off at worst, h; times are set right."""
