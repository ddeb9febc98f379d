"""Common rules of what is sent in."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict


class Asked(BaseModel):
    """Common rules of what is sent in."""

    model_config = ConfigDict(strict=True, extra="forbid", use_attribute_docstrings=True)


def shown(value: dict[str, Any]) -> ConfigDict:
    """The rules with an example."""
    return ConfigDict(json_schema_extra={"examples": [value]})
