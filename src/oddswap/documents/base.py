"""Common rules of documents that go in."""

from __future__ import annotations

from typing import Any

import numpy as np
from pydantic import BaseModel, ConfigDict, field_validator, model_validator

from oddswap.documents.upgrade import is_old, upgrade
from oddswap.equipment.base.fields import is_readable
from oddswap.mechanics.types import Floats


class Document(BaseModel):
    """Common rules: exact field names, no booleans for numbers, no infinities."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False, use_attribute_docstrings=True)

    @field_validator("*", mode="after")
    @classmethod
    def _readable(cls, value: Any) -> Any:
        if isinstance(value, str) and not is_readable(value):
            raise ValueError("control characters cannot be read; leave them out")
        return value


class Versioned(Document):
    """A document with a format version; earlier ones are read too."""

    @model_validator(mode="before")
    @classmethod
    def _upgrade(cls, data: Any) -> Any:
        return upgrade(data) if is_old(data) else data


def example(value: dict[str, Any]) -> ConfigDict:
    """Model rules with an example for the schema."""
    return ConfigDict(json_schema_extra={"examples": [value]})


class Result(BaseModel):
    """Common rules of results."""

    model_config = ConfigDict(use_attribute_docstrings=True)


def rounded(values: Floats, digits: int) -> Any:
    """Nested lists of the array's shape with at most ``digits`` decimals, in its unit."""
    return (np.round(values, digits) + 0.0).tolist()
