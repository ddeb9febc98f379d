"""Places, clients and measurements as tables, both ways."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError

from oddswap.documents import tables
from oddswap.documents.client import ClientDoc
from oddswap.documents.client_sheet import CLIENT, client_rows, clients_of
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.measurement_sheet import MEASURED, measurement_of, measurement_rows
from oddswap.documents.place import PlaceDoc
from oddswap.documents.place_sheet import place_columns, place_of, place_rows
from oddswap.documents.problems import Fault, domain_fault, reading_faults
from oddswap.documents.program import ProgramDoc, check_program
from oddswap.documents.tables import TableError
from oddswap.errors import DomainError

Form = Literal["json", "csv", "xlsx"]


def export_file(form: Form, document: PlaceDoc | MeasurementDoc | Sequence[ClientDoc]) -> bytes:
    """A document, or several clients, as a file."""
    if form == "json":
        many = isinstance(document, Sequence)
        adapter: TypeAdapter[Any] = TypeAdapter(list[ClientDoc]) if many else TypeAdapter(type(document))
        return adapter.dump_json(document, indent=2)
    if isinstance(document, PlaceDoc):
        title, columns, rows = "place", place_columns(), place_rows(document)
    elif isinstance(document, MeasurementDoc):
        title, columns, rows = "measurement", list(MEASURED), measurement_rows(document)
    else:
        title, columns, rows = "clients", list(CLIENT), client_rows(document)
    used = [c for c in columns if any(row.get(c) for row in rows)]
    return tables.write_csv(used, rows) if form == "csv" else tables.write_xlsx(title, used, rows)


def import_file(what: Literal["place", "clients", "measurement", "program"], name: str, data: bytes, encoding: str = "") -> Any:
    """A place, a list of clients, a measurement or a program from a JSON, CSV or XLSX file.

    Args:
        what: Which of them it is.
        name: What the file is called.
        data: Its bytes.
        encoding: What a CSV is written in; empty to tell it from its bytes.

    Raises:
        TableError: With every fault of the file; then nothing of it is imported.
    """
    start = data.lstrip(b"\xef\xbb\xbf \r\n\t")[:1]
    if start in (b"{", b"["):
        kinds: dict[str, Any] = {
            "place": PlaceDoc,
            "clients": list[ClientDoc],
            "measurement": MeasurementDoc,
            "program": ProgramDoc,
        }
        try:
            made = TypeAdapter(kinds[what]).validate_json(data.removeprefix(b"\xef\xbb\xbf"))
            if isinstance(made, PlaceDoc):
                made.place()
            if isinstance(made, ProgramDoc):
                check_program(made)
            for client in made if isinstance(made, list) else []:
                client.body()
            return made
        except ValidationError as error:
            raise TableError(reading_faults(error.errors(include_url=False))) from error
        except DomainError as error:
            raise TableError([domain_fault(error)]) from error
    if what == "program":
        limit = "a program document, JSON"
        raise TableError([Fault(field="file", value="(a table)", limit=limit, way_out="Save the program as JSON")])
    rows = tables.read(name, data, encoding)
    readers: dict[str, Any] = {"place": place_of, "clients": clients_of, "measurement": measurement_of}
    return readers[what](rows)
