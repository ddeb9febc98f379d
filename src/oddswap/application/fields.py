"""Faults named by the field that a caller sees."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from oddswap.errors import DomainError

T = TypeVar("T")


def name_field(prefix: str, work: Callable[[], T]) -> T:
    """Run ``work``; a domain error is seen from under ``prefix``."""
    try:
        return work()
    except DomainError as error:
        raise error.at(prefix) from None
