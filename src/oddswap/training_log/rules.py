"""Figures of this package, with where they come from."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files


@cache
def rules(section: str) -> dict[str, float]:
    """A section of ``data/log.toml``, read once."""
    text = (files("oddswap.training_log") / "data" / "log.toml").read_text()
    return dict(tomllib.loads(text)[section])
