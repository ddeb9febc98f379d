"""Which cases run every time and which by night: the same check on more examples, where one run in the day shows enough."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import pytest


def thin(cases: Sequence[Any], every: int) -> list[Any]:
    """All cases; all but each ``every``-th, from the first, are marked ``nightly``."""
    out = []
    for i, case in enumerate(cases):
        values = case if isinstance(case, tuple) else (case,)
        out.append(case if i % every == 0 else pytest.param(*values, marks=pytest.mark.nightly))
    return out
