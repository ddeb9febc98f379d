"""A session over time at a place, as a document."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from oddswap.documents.base import Document, Result, example


class SessionWishDoc(Document):
    """How a session is to be laid out."""

    model_config = example({"school": "heavy_first", "minutes": 60, "without": ["twin"]})

    school: Literal["heavy_first", "warm_first"] = "heavy_first"
    """Heavy lifts first, or a light one for the same muscle before them."""
    pairs: bool = True
    """Whether lifts that were not written as a group may be done in turns."""
    minutes: int | None = Field(default=None, ge=5, le=300)
    """How long there is; None for as long as it takes."""
    priority: list[str] = Field(default=[], max_length=10)
    """Muscle groups that matter most: their lines come early and are cut last."""
    without: list[str] = Field(default=[], max_length=100)
    """Ids of kit that is in use by others."""
    corner: str = ""
    """Id of an item that one stays near, within a few steps; empty for the whole floor."""
    day: Literal["", "mon", "tue", "wed", "thu", "fri", "sat", "sun"] = ""
    """Weekday, for what is crowded; empty for any."""
    start: str = Field(default="", pattern=r"^(([01]\d|2[0-3]):[0-5]\d)?$")
    """Time of day it begins, 24 hours; empty for any."""


class SetDoc(Result):
    """One set."""

    begins_s: float
    """From the session's beginning, s."""
    lasts_s: float


class StepDoc(Result):
    """One lift of a block."""

    line: int
    name: str
    title: str
    """The lift as it is done here."""
    kit: str
    load: str
    reps: str
    """Sets and repetitions, in words."""
    items: list[str]
    """Ids of the kit it holds up, what stands fast first."""
    stations: list[str]
    """Their names."""
    sets: list[SetDoc]
    rest_s: float
    heaviness: float
    """How heavy on the whole body, 0 to 1, by the joints it moves."""
    accepted: bool
    """Whether this set-up was accepted for the line here; else it is the best one found now."""
    match: float
    set_up: list[str]
    """What to set before it, in words."""


class BlockDoc(Result):
    """Lifts done in turns, or one alone."""

    steps: list[StepDoc]
    move_s: float
    """Walking and setting up before it, s."""
    begins_s: float
    ends_s: float
    why: str
    """What speaks for it, and for its place in the order."""


class CutDoc(Result):
    """What is left out where time is short."""

    line: int
    words: str


class SessionPlanDoc(Result):
    """A session over time at a place."""

    format: Literal["odd-swap/session-plan/1"] = "odd-swap/session-plan/1"
    session: str
    client: str
    place: str
    minutes: float
    """From arriving to the end of the last set."""
    arrive_s: float
    """A few easy minutes at the beginning, s."""
    walked_m: float
    blocks: list[BlockDoc]
    proven: bool
    """Whether no better order is possible; else ``gap_s`` says how far off it may be."""
    gap_s: float
    alone_minutes: float
    """How long it takes where nothing is done in turns."""
    cuts: list[CutDoc]
    missing: list[str]
    """Lines that nothing here can stand in for, with the reason."""
    notes: list[str]
    """What else to know: crowded kit, breaches of good order."""
