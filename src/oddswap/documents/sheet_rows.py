"""What tables of all documents share: columns, cells and faults named by line and column."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from oddswap.documents import codecs
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import domain_fault, reading_faults
from oddswap.documents.tables import Faults, Row
from oddswap.errors import DomainError


def check_columns(rows: Sequence[Row], known: Sequence[str], faults: Faults) -> None:
    """Name every column that is not known."""
    for column in sorted({c for row in rows for c in row.cells} - set(known)):
        limit = f"one of the columns {', '.join(known)}"
        faults.add(rows[0].line - 1, column, column, limit, "Rename or remove the column")


def read_cells(row: Row, columns: Mapping[str, codecs.Codec], faults: Faults) -> dict[str, Any]:
    """A row's cells by column; those that cannot be read are named."""
    out = {}
    for name, c in columns.items():
        if name in row.cells:
            try:
                out[name] = c.read(row.cells[name])
            except ValueError as error:
                faults.add(row.line, name, row.cells[name], str(error))
    return out


def validate_rows(kind: Any, document: dict[str, Any], lines: Mapping[str, list[int]], faults: Faults) -> Any:
    """The whole document, its faults named by the lines that its parts came from."""
    try:
        made = kind.model_validate(document)
        if isinstance(made, PlaceDoc):
            made.place()
        return made
    except ValidationError as error:
        found = reading_faults(error.errors(include_url=False))
    except DomainError as error:
        found = [domain_fault(error)]
    for fault in found:
        parts = fault.field.split(".")
        line = lines[parts[0]][int(parts[1])] if parts[0] in lines and len(parts) > 1 else 2
        faults.add(line, parts[-1], fault.value, fault.limit, fault.way_out)
    faults.settle()
    raise AssertionError("a fault was found")
