"""Readings of a guided run as a document."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from oddswap.documents.base import Document, Versioned, example


class ReadingDoc(Document):
    """One steady reading."""

    at: float
    """Where: length in cm, pin in kg, angle in degrees, or time in s."""
    value: float
    """What the instrument showed: N, or degrees."""
    zero: float = 0.0
    """What it showed unloaded just before."""
    down: float | None = None
    """On a column, what it showed while the stack sank, N; ``value`` while it rose."""


class MeasurementDoc(Versioned):
    """Readings of one guided run."""

    model_config = example({"what": "band", "item": "sand", "readings": [{"at": 60, "value": 21.5}]})

    format: Literal["odd-swap/measurement/2"] = "odd-swap/measurement/2"
    what: Literal["band", "column", "cam", "joint"]
    """What was measured."""
    item: str = ""
    """Id of the kit item, or name of the joint range."""
    day: dt.date | None = Field(default=None, strict=False)
    readings: list[ReadingDoc] = Field(min_length=1, max_length=20_000)
