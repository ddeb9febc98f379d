"""What hangs on a cable for a movement where nothing is said, and what is taken in its place."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def _data() -> dict[str, Any]:
    return tomllib.loads((files("oddswap.coaching") / "data" / "attachments.toml").read_text("utf-8"))


def usual_attachment(movement: str) -> str:
    """What both hands hold on cables for a movement, by its id; empty for a handle or cuff on one side."""
    return str(_data()["usual"].get(movement, ""))


def attachments_for(wanted: str) -> Sequence[tuple[str, float]]:
    """What is wanted, and what is taken where it finds no place, each with the part of its load that comes to as much in a
    hand."""
    return [(wanted, 1.0), *((name, float(part)) for name, part in _data()["instead"].get(wanted, []))]
