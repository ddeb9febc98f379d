"""Whole answers that are kept as they were sent until anything is written: long lists that many look at and few change."""

from __future__ import annotations

import time
from collections.abc import Callable

from fastapi import Response
from pydantic import BaseModel

from oddswap.equivalence.cache import SharedCache
from oddswap.quantities import units_shown
from oddswap.store.acting import acting_coach
from oddswap.store.opening import content

ANSWERS, MINUTES = 6, 10
"""Answers kept, and how long at most, as some say how long ago things were; own choice."""
_answers: SharedCache[tuple[object, ...], bytes] = SharedCache(ANSWERS)


def kept(name: str, make: Callable[[], BaseModel]) -> Response:
    """An answer by its name, made where it is not known for this coach, these units and all that is stored.

    Args:
        name: What tells it from other answers.
        make: Makes it.
    """
    period = int(time.time() // (60 * MINUTES))
    like = name, acting_coach(), units_shown(), period, *content()
    return Response(_answers.get(like, lambda: make().model_dump_json().encode()), media_type="application/json")
