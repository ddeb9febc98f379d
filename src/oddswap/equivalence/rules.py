"""Data files of this package: figures with their source."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def rules(name: str) -> dict[str, Any]:
    """A data file of this package, read once."""
    return tomllib.loads((files("oddswap.equivalence") / "data" / f"{name}.toml").read_text())
