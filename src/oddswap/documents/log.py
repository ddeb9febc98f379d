"""The log as documents: what a phone or a coach's desk sends, and what a set is read by."""

from __future__ import annotations

import datetime as dt
from functools import lru_cache
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import AwareDatetime, Field, field_validator, model_validator

from oddswap.documents.base import Document, example
from oddswap.equipment.base.fields import Name, Note
from oddswap.training_log.progression import Kind
from oddswap.training_log.sets import EffortScale, LoggedSet, Target

EntryId = Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
"""Made where the entry is made, so that the same one sent twice is one."""
Amount = Annotated[float, Field(ge=0, le=2000)]
Count = Annotated[int, Field(ge=0, le=200)]
MASS_SPAN_KG = (30.0, 250.0)
"""Bodyweights that are taken, kg."""
ENTRY: dict[str, Any] = {
    "id": "0b5e3c1e-5a0f-4c38-9f52-6f6a2f1f0d11",
    "kind": "set",
    "at": "2026-03-02T17:31:00Z",
    "line": 1,
    "set": {"amount": 4.5, "reps": 13, "rir": 1},
}


def aware(value: Any) -> Any:
    """A time as text, ISO 8601, as a time; what is none stays as it is, and is refused."""
    try:
        return dt.datetime.fromisoformat(value) if isinstance(value, str) else value
    except ValueError:
        return value


class DropStepDoc(Document):
    """A step of a drop set."""

    amount: Amount
    reps: Count


class LoggedSetDoc(Document):
    """A set as it was done."""

    amount: Amount
    """What was moved, in the unit of the set-up's scale."""
    reps: Count
    """Whole repetitions; of two sides the fewer."""
    left: Count | None = None
    """Repetitions of the left side, where sides were counted."""
    right: Count | None = None
    rir: int | None = Field(default=None, ge=0, le=10)
    """Repetitions that were left, as felt."""
    partials: Count = 0
    """Half repetitions after the whole ones."""
    drops: list[DropStepDoc] = Field(default=[], max_length=8)
    """Lighter, straight on."""
    hold_s: int | None = Field(default=None, ge=0, le=600)
    """Seconds held at the end."""
    felt: list[Name] = Field(default=[], max_length=6)
    """Where it was felt: muscle groups or joints."""
    feel: Literal["", "good", "bad"] = ""
    """Whether the lift as such felt right."""

    @model_validator(mode="after")
    def _fewer_side(self) -> LoggedSetDoc:
        sides = [s for s in (self.left, self.right) if s is not None]
        if sides and self.reps != min(sides):
            raise ValueError("reps are those of the side with fewer")
        return self


class PainDoc(Document):
    """That something hurt: where, when in the range, and how."""

    where: Name
    """Joint or muscle, as the client calls it."""
    when: Literal["start", "middle", "end", "throughout", "afterwards"]
    """Where in the repetition."""
    stopped: bool = True
    """Whether the lift was stopped for it."""


class ChoiceDoc(Document):
    """What a coach chose for next time, in place of what the rule says."""

    kind: Kind
    amount: Amount
    reps: Count


class EntryDoc(Document):
    """One thing that was noted; entries are added, never changed: a fix names what it stands for."""

    model_config = example(ENTRY)

    id: EntryId
    kind: Literal["set", "pain", "weight", "note", "choice", "withdrawn"]
    at: AwareDatetime
    """When, by the clock of where it was noted."""
    device: str = Field(default="", max_length=60)
    """Names the phone or desk."""
    line: int | None = Field(default=None, ge=1, le=2**63 - 1)
    """The written line; none for a weighing."""
    revision: int = Field(default=0, ge=0, le=2**31)
    """Of the card that it was done by; 0 for the newest."""
    way: int = Field(default=0, ge=0, le=9)
    """How it was done: 0 as the card says, else the place in its list of what to do instead."""
    order: int = Field(default=0, ge=0, le=99)
    """Place among the lift's sets of that day, from 0."""
    replaces: EntryId | None = None
    """The entry that this one stands for, or takes back."""
    set: LoggedSetDoc | None = None
    pain: PainDoc | None = None
    choice: ChoiceDoc | None = None
    mass_kg: float | None = Field(default=None, ge=MASS_SPAN_KG[0], le=MASS_SPAN_KG[1])
    note: Note = ""

    @field_validator("at", mode="before")
    @classmethod
    def _time(cls, value: Any) -> Any:
        return aware(value)

    @model_validator(mode="after")
    def _whole(self) -> EntryDoc:
        wanted = {"set": self.set, "pain": self.pain, "weight": self.mass_kg, "choice": self.choice, "withdrawn": self.replaces}
        if self.kind in wanted and wanted[self.kind] is None:
            raise ValueError(f"a {self.kind} says which")
        if self.kind in ("set", "pain") and self.line is None:
            raise ValueError("a set and a pain belong to a line")
        return self


@lru_cache(2048)
def _scale(*values: tuple[float, ...]) -> EffortScale:
    """One scale for all the sets that share it: a log of years has thousands."""
    return EffortScale(*(np.array(v) for v in values))


WHOLE = 5e-3
"""How far off the whole of a load a part may be to count as it."""


class BasisDoc(Document):
    """What a set in a set-up is read by, kept with the card: a later change of program or kit rewrites nothing."""

    family: str
    """Names the kind of lift and kit."""
    items: list[str] = []
    """Ids of kit items, with their place's number before them."""
    item_names: list[str] = []
    own: bool = False
    """Whether it is done as written, on the written kit."""
    known: bool = True
    """Whether the kit's figures were measured."""
    unit: str = ""
    """Of amounts; empty where the body is the load."""
    amounts: list[float]
    """Amounts there are about the one in use, ascending."""
    ratios: list[float]
    """Peak effort at them over the written set's."""
    written_unit: str = ""
    written_amounts: list[float]
    written_ratios: list[float]
    written_low: int
    """Fewest repetitions of the written line."""
    written_high: int
    rir: int
    amrap: bool = False
    parts: list[float] = []
    """Load of every set over the lift's, by its place, where they differ or a week is lighter: only those at the whole of it
    say what comes next."""
    law: str = "epley"
    target: str = ""
    """Muscle group it is for."""
    amount: float = 0.0
    """Amount that was accepted."""
    first_amount: float = 0.0
    """Amount of a first time."""
    first_rir: int = 2
    """Repetitions to leave in reserve that time."""

    def scale(self) -> EffortScale:
        """The same in the core's terms."""
        return _scale(tuple(self.amounts), tuple(self.ratios), tuple(self.written_amounts), tuple(self.written_ratios))

    def written(self) -> Target:
        """What is written of the line."""
        return Target(self.written_low, self.written_high, self.rir, self.amrap)

    def logged(self, entry: EntryDoc, day: float, order: int) -> LoggedSet:
        """An entry's set in the core's terms; ``day`` counts days, ``order`` its place among the lift's sets of that day."""
        assert entry.set is not None  # a set's entry has one
        s = entry.set
        return LoggedSet(
            day=day, line=str(entry.line), family=self.family, items=self.items, own=self.own, scale=self.scale(),
            amount=s.amount, reps=s.reps, written=self.written(), rir=s.rir, order=order,
            left=s.left, right=s.right, known=self.known, id=entry.id, law=self.law, counts=self._counts(order),
        )  # fmt: skip

    def _counts(self, order: int) -> bool:
        """Whether a set was meant at the lift's whole load; one that nobody planned is."""
        return order >= len(self.parts) or abs(self.parts[order] - 1) < WHOLE


class OutboxDoc(Document):
    """What a phone sends: entries, and its clock as it sends them, so that a wrong clock can be told."""

    model_config = example({"sent_at": "2026-03-02T18:02:00Z", "entries": [ENTRY]})

    sent_at: AwareDatetime
    entries: list[EntryDoc] = Field(max_length=500)

    @field_validator("sent_at", mode="before")
    @classmethod
    def _time(cls, value: Any) -> Any:
        return aware(value)
