"""Types of fields: how documents of kit and settings are read at the edge."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from typing import Annotated, Any

from annotated_types import MaxLen, MinLen, Predicate

EDGE: dict[str, Any] = {"extra": "forbid", "allow_inf_nan": False}
"""How documents of these classes are read at the edge; a plain mapping, so that the core needs no validation library."""


class Strictly:
    """Marks a number that must come as a number: no booleans, no text."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], Any]) -> Any:
        """Called by the validation library at the edge, if there is one."""
        return handler(source) | {"strict": True}


Real = Annotated[float, Strictly()]

Whole = Annotated[int, Strictly()]

Day = Annotated[str, MaxLen(10)]
"""A date as year-month-day, or empty."""


def is_readable(text: str) -> bool:
    """Whether a text has no control characters but tabs and line ends."""
    return text.isprintable() or all(c in "\t\n\r" or unicodedata.category(c) != "Cc" for c in text)


def is_name(text: str) -> bool:
    """Whether a text can name something: readable, and not blank."""
    return bool(text.strip()) and is_readable(text)


Note = Annotated[str, MaxLen(2000), Predicate(is_readable)]
"""Words of a coach's own, in lines; empty for none."""

Name = Annotated[str, MinLen(1), MaxLen(80), Predicate(is_name)]
