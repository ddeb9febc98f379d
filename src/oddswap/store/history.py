"""Undo and do again, for every kind of record."""

from __future__ import annotations

from collections.abc import Callable

from oddswap.store import editing, measurements, programs, records

WRITERS: dict[str, Callable[[int, str], None]] = {
    "client": records.write_client,
    "place": records.write_place,
    "program": programs.write_program,
    "coach": records.write_settings,
    "measurement": measurements.write_measurement,
}
"""What writes a record back as it was, by kind."""


def undo(kind: editing.Kind, number: int) -> bool:
    """Undo a record's newest change; False if there is none.

    Raises:
        MissingError: If there is no such record.
    """
    return editing.go_back(kind, number, WRITERS[kind])


def redo(kind: editing.Kind, number: int) -> bool:
    """Do the change again that was undone last; False if there is none.

    Raises:
        MissingError: If there is no such record.
    """
    return editing.go_forward(kind, number, WRITERS[kind])
