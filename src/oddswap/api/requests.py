"""Common rules of what is sent in."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Path, Query
from pydantic import BaseModel, ConfigDict, Field

MOST = 2**63 - 1
"""Greatest number that the database counts to."""
RecordNumber = Annotated[int, Field(ge=1, le=MOST)]
Number = Annotated[int, Path(ge=1, le=MOST, description="Number of the record")]
PlaceNumber = Annotated[int, Query(ge=1, le=MOST, description="Number of the place")]
ClientNumber = Annotated[int, Query(ge=1, le=MOST, description="Number of the client")]


class Asked(BaseModel):
    """Common rules of what is sent in."""

    model_config = ConfigDict(strict=True, extra="forbid", use_attribute_docstrings=True)


def shown(value: dict[str, Any]) -> ConfigDict:
    """The rules with an example."""
    return ConfigDict(json_schema_extra={"examples": [value]})
