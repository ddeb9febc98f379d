"""A whole log as one JSON document: every entry with what it was done by, to keep or to take along."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from pydantic import AwareDatetime, Field, field_validator

from oddswap.documents.base import Document, example
from oddswap.documents.log import ENTRY, EntryDoc, aware
from oddswap.documents.log_context import ContextDoc


class LogFileEntryDoc(Document):
    """An entry as it is kept."""

    done_at: AwareDatetime
    """When, by the server's clock."""
    entry: EntryDoc
    context: ContextDoc | None = None
    place: int | None = None

    @field_validator("done_at", mode="before")
    @classmethod
    def _time(cls, value: Any) -> Any:
        return aware(value)


class LogFileDoc(Document):
    """A client's log."""

    model_config = example({"client": "Ilka Marsh", "entries": [{"done_at": ENTRY["at"], "entry": ENTRY}]})

    format: Literal["odd-swap/log-file/1"] = "odd-swap/log-file/1"
    client: str = ""
    saved_at: dt.date | None = Field(default=None, strict=False)
    entries: list[LogFileEntryDoc] = Field(max_length=400_000)
