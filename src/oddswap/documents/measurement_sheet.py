"""Measurements as tables, both ways."""

from __future__ import annotations

from collections.abc import Sequence

from oddswap.documents import codecs
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.sheet_rows import check_columns, read_cells, validate_rows
from oddswap.documents.tables import Faults, Row, show

MEASURED = ("what", "item", "day", "at", "value", "zero", "down")


def measurement_rows(m: MeasurementDoc) -> list[dict[str, str]]:
    """A measurement as rows, one a reading."""
    head = {"what": m.what, "item": m.item, "day": m.day.isoformat() if m.day else ""}
    return [
        head
        | {"at": show(r.at), "value": show(r.value), "zero": show(r.zero)}
        | ({} if r.down is None else {"down": show(r.down)})
        for r in m.readings
    ]


def measurement_of(rows: Sequence[Row]) -> MeasurementDoc:
    """A measurement from its rows.

    Raises:
        TableError: With every cell that cannot be.
    """
    faults, readings, lines = Faults(), [], []
    heads: dict[str, str] = {}
    check_columns(rows, MEASURED, faults)
    for row in rows:
        for name in ("what", "item", "day"):
            if heads.setdefault(name, row.cells.get(name, "")) != row.cells.get(name, ""):
                faults.add(
                    row.line, name, row.cells.get(name, "(empty)"), f"{heads[name]!r} as above", "One file, one measurement"
                )
        reading = read_cells(row, dict.fromkeys(MEASURED[3:], codecs.PLAIN[float]), faults)
        for name in ("at", "value"):
            if name not in row.cells:
                faults.add(row.line, name, "(empty)", "a number", "Fill it in, or remove the row")
        readings.append(reading)
        lines.append(row.line)
    faults.settle()
    document = {k: v for k, v in heads.items() if v} | {"readings": readings}
    made: MeasurementDoc = validate_rows(MeasurementDoc, document, {"readings": lines}, faults)
    return made
