"""What asks for a coach, as a document."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from oddswap.documents.base import Result

What = Literal["pain", "conflict", "shift", "stale", "unopened", "falling", "plateau", "sides", "rotation", "clock"]


class AttentionItemDoc(Result):
    """One thing, and where it is dealt with."""

    what: What
    client: int
    client_name: str
    words: str
    since: dt.date | None
    path: str
    """The view that it is dealt with in."""


class AttentionDoc(Result):
    """All of it, what is most pressing first."""

    items: list[AttentionItemDoc]
