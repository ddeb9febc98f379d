"""Reading and writing measuring runs with their raw readings."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from oddswap.documents.measuring_run import MeasuringRunDoc
from oddswap.store import editing
from oddswap.store.models import Measurement, now


@dataclass(frozen=True)
class MeasurementRecord:
    """A run: its number, whose it is, when it was begun and last changed (UTC), and its readings."""

    id: int
    place: int | None
    client: int | None
    begun_at: dt.datetime
    changed_at: dt.datetime
    document: MeasuringRunDoc


def add_measurement(document: MeasuringRunDoc, place: int | None, client: int | None, key: str = "") -> int:
    """A new run of a place's item or a client's joint; returns the number. Under the same ``key`` it is made once.

    Raises:
        MissingError: If place or client do not exist.
    """

    def make() -> int:
        for kind, number in (("place", place), ("client", client)):
            if number is not None:
                editing.revision(kind, number)
        item = document.measurement.item
        return int(Measurement.create(place=place, client=client, item=item, document=document.model_dump_json()).id)

    return editing.create_once("measurement", key, make)


def measurement(number: int) -> MeasurementRecord:
    """A run.

    Raises:
        MissingError: If there is none.
    """
    return _record(editing.row_of("measurement", number))


def measurements(place: int | None, client: int | None) -> list[MeasurementRecord]:
    """The runs of a place or a client, newest first."""
    mine = Measurement.place == place if place is not None else Measurement.client == client
    return [_record(row) for row in Measurement.select().where(mine).order_by(Measurement.changed_at.desc())]


def _record(row: Measurement) -> MeasurementRecord:
    document = MeasuringRunDoc.model_validate_json(row.document)
    return MeasurementRecord(row.id, row.place_id, row.client_id, row.begun_at, row.changed_at, document)


def save_measurement(number: int, document: MeasuringRunDoc, read: int | None) -> None:
    """Change a run's readings.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
    """
    text = document.model_dump_json()
    write = lambda: write_measurement(number, text)
    editing.change("measurement", number, read, lambda n: str(Measurement.get_by_id(n).document), write)


def write_measurement(number: int, text: str) -> None:
    """Write a run back as it was, from JSON."""
    item = MeasuringRunDoc.model_validate_json(text).measurement.item
    Measurement.update(item=item, document=text, changed_at=now()).where(Measurement.id == number).execute()
