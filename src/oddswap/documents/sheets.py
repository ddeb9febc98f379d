"""Places, clients and measurements as tables, both ways."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError

from oddswap.documents import tables
from oddswap.documents.documents import AnyItem, ClientDoc, MeasurementDoc, PlaceDoc
from oddswap.documents.problems import domain_fault, path, reading_faults
from oddswap.documents.tables import Faults, Row, TableError, number, show
from oddswap.equipment import kit_classes
from oddswap.errors import DomainError

Form = Literal["json", "csv", "xlsx"]
ROOM = ("length_cm", "width_cm", "ceiling_cm")
BUSY = ("item", "days", "start", "end")
MEASURED = ("what", "item", "day", "at", "value", "zero", "down")
ITEM: TypeAdapter[Any] = TypeAdapter(AnyItem)


def place_columns() -> list[str]:
    """Columns of a place's table: what all kinds of kit share first, then what each kind has."""
    own = [name for kind in kit_classes().values() for name in tables.columns_of(kind)]
    return list(dict.fromkeys(["kind", "id", "name", *ROOM, *BUSY, *own]))


def place_rows(place: PlaceDoc) -> list[dict[str, str]]:
    """A place as rows: the room first, then its kit, then what is crowded when."""
    room = {name: show(getattr(place.room, name)) for name in ROOM}
    rows = [{"kind": "place", "name": place.name} | room]
    rows += [{"kind": item.kind} | tables.cells_of(item) for item in place.kit]
    return rows + [
        {"kind": "busy", "item": b.item, "days": " ".join(b.days), "start": b.start, "end": b.end} for b in place.busy
    ]


def place_of(rows: Sequence[Row]) -> PlaceDoc:
    """A place from its rows.

    Raises:
        TableError: With every cell that cannot be.
    """
    faults, classes = Faults(), kit_classes()
    known = set(place_columns())
    for column in sorted({c for row in rows for c in row.cells} - known):
        faults.add(
            rows[0].line - 1, column, column, f"the columns are {', '.join(sorted(known))}", "Rename or remove the column"
        )
    document: dict[str, Any] = {"kit": [], "busy": []}
    lines: dict[str, list[int]] = {"kit": [], "busy": []}
    ids: dict[str, int] = {}
    for row in rows:
        kind = row.cells.get("kind", "")
        if kind == "place":
            if "name" in document:
                faults.add(row.line, "kind", kind, "one row of kind place", "Remove the second")
            document["name"] = row.cells.get("name", "")
            document["room"] = _read(row, dict.fromkeys(ROOM, tables.PLAIN[float]), faults)
        elif kind == "busy":
            busy = _read(row, dict.fromkeys(BUSY, tables.PLAIN[str]), faults)
            document["busy"].append(busy | {"days": row.cells.get("days", "").split()})
            lines["busy"].append(row.line)
        elif kind in classes:
            own = tables.columns_of(classes[kind])
            for extra in sorted(set(row.cells) - set(own)):
                limit = f"a column of {kind}: {', '.join(c for c in own if c != 'kind')}"
                faults.add(row.line, extra, row.cells[extra], limit, "Empty the cell")
            given: dict[str, Any] = {name: [] for name in tables.open_lists(classes[kind])} | _read(row, own, faults)
            item = _item(row, given, faults)
            name = row.cells.get("id", "")
            if name in ids:
                faults.add(row.line, "id", name, f"an id of its own; line {ids[name]} has it too", "Rename one of the two")
            ids.setdefault(name, row.line)
            document["kit"].append(item)
            lines["kit"].append(row.line)
        else:
            offered = ", ".join(["place", "busy", *classes])
            faults.add(row.line, "kind", kind or "(empty)", f"one of {offered}", "Say what the row is")
    if "name" not in document:
        faults.add(rows[-1].line + 1 if rows else 2, "kind", "(missing)", "a row of kind place with name and room", "Add it")
    faults.settle()
    place: PlaceDoc = _checked(PlaceDoc, document, lines, faults)
    return place


def _known_columns(rows: Sequence[Row], known: Sequence[str], faults: Faults) -> None:
    for column in sorted({c for row in rows for c in row.cells} - set(known)):
        limit = f"one of the columns {', '.join(known)}"
        faults.add(rows[0].line - 1, column, column, limit, "Rename or remove the column")


def _read(row: Row, columns: Mapping[str, tables.Codec], faults: Faults) -> dict[str, Any]:
    out = {}
    for name, c in columns.items():
        if name in row.cells:
            try:
                out[name] = c.read(row.cells[name])
            except ValueError as error:
                faults.add(row.line, name, row.cells[name], str(error))
    return out


def _item(row: Row, item: dict[str, Any], faults: Faults) -> Any:
    """A kit item, with its faults at their columns."""
    wrong = {f.field for f in faults.rows}
    try:
        made = ITEM.validate_python(item)
        made.verify()
    except ValidationError as error:
        for fault in reading_faults(error.errors(include_url=False)):
            column = next((part for part in fault.field.split(".") if part in item or not part.isdigit()), "kind")
            column = fault.field.split(".")[1] if fault.field.split(".")[0] == item.get("kind") else column
            if f"line {row.line}, {column}" not in wrong:
                faults.add(row.line, column, row.cells.get(column, "(empty)"), fault.limit, fault.way_out)
        return item
    except DomainError as error:
        column = error.field.split(".")[0]
        faults.add(row.line, column, row.cells.get(column, error.value), error.limit, error.way_out)
        return item
    return made


def item_of_cells(cells: Mapping[str, str]) -> Any:
    """One kit item from its cells.

    Raises:
        TableError: With every cell that cannot be, its fault's field the column.
    """
    faults, classes = Faults(), kit_classes()
    row = Row(1, {k: v.strip() for k, v in cells.items() if v.strip()})
    kind = row.cells.get("kind", "")
    if kind not in classes:
        faults.add(1, "kind", kind, f"one of {', '.join(classes)}", "Pick a kind")
    else:
        given: dict[str, Any] = {name: [] for name in tables.open_lists(classes[kind])}
        made = _item(row, given | _read(row, tables.columns_of(classes[kind]), faults), faults)
    if faults.rows:
        raise TableError([f.model_copy(update={"field": f.field.removeprefix("line 1, ")}) for f in faults.rows])
    return made


def _checked(kind: Any, document: dict[str, Any], lines: Mapping[str, list[int]], faults: Faults) -> Any:
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


CLIENT = ("name", "stature_cm", "mass_kg", "sex", "weaker_side", "experience", "mass_unit", "length_unit", "knows",
          "measured_cm", "ranges_deg", "sore", "weights")  # fmt: skip


def client_rows(clients: Sequence[ClientDoc]) -> list[dict[str, str]]:
    """Clients as rows, one each: lists with spaces between, records with colons, sore joints with strokes."""
    out = []
    for c in clients:
        row = {name: getattr(c, name) for name in ("name", "sex", "weaker_side", "experience", "mass_unit", "length_unit")}
        row |= {"stature_cm": show(c.stature_cm), "mass_kg": show(c.mass_kg), "knows": " ".join(c.knows)}
        row["measured_cm"] = " ".join(f"{k}:{show(v)}" for k, v in c.measured_cm.items())
        row["ranges_deg"] = " ".join(f"{k}:{show(r.low)}:{show(r.high)}" for k, r in c.ranges_deg.items())
        row["sore"] = " | ".join(f"{s.side}/{s.joint}/{s.action}/{s.note}" for s in c.sore)
        row["weights"] = " ".join(f"{w.day.isoformat()}:{show(w.mass_kg)}" for w in c.weights)
        out.append(row)
    return out


def clients_of(rows: Sequence[Row]) -> list[ClientDoc]:
    """Clients from their rows.

    Raises:
        TableError: With every cell that cannot be.
    """
    faults, out = Faults(), []
    _known_columns(rows, CLIENT, faults)
    for row in rows:
        document: dict[str, Any] = {}
        for name, text in row.cells.items():
            if name in CLIENT:
                try:
                    document[name] = _client_cell(name, text)
                except ValueError as error:
                    faults.add(row.line, name, text, str(error))
        broken = {f.field for f in faults.rows}
        try:
            made = ClientDoc.model_validate(document)
            made.body()
            out.append(made)
        except ValidationError as error:
            for wrong in error.errors(include_url=False):
                column = path(wrong["loc"]).split(".")[0]
                if f"line {row.line}, {column}" not in broken:
                    fault = reading_faults([wrong])[0]
                    faults.add(row.line, column, row.cells.get(column, "(empty)"), fault.limit, fault.way_out)
        except DomainError as error:
            column = {"stature": "stature_cm", "mass": "mass_kg"}.get(error.field.split(".")[0], error.field.split(".")[0])
            faults.add(row.line, column, row.cells.get(column, str(error.value)), error.limit, error.way_out)
    faults.settle()
    return out


def _client_cell(name: str, text: str) -> Any:
    if name in ("stature_cm", "mass_kg"):
        return number(text)
    if name == "knows":
        return text.split()
    if name == "measured_cm":
        return {k: number(v) for k, v in (_parts(part, 2, "name:cm") for part in text.split())}
    if name == "ranges_deg":
        triples = (_parts(part, 3, "name:low:high") for part in text.split())
        return {k: {"low": number(low), "high": number(high)} for k, low, high in triples}
    if name == "weights":
        pairs = (_parts(part, 2, "day:kg") for part in text.split())
        return [{"day": day, "mass_kg": number(kg)} for day, kg in pairs]
    if name == "sore":
        sore = (_parts(part.strip(), 4, "side/joint/action/note", "/") for part in text.split("|"))
        return [dict(zip(("side", "joint", "action", "note"), parts, strict=True)) for parts in sore]
    return text


def _parts(text: str, count: int, form: str, mark: str = ":") -> list[str]:
    parts = text.split(mark, count - 1)
    if len(parts) != count:
        raise ValueError(form)
    return parts


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
    _known_columns(rows, MEASURED, faults)
    for row in rows:
        for name in ("what", "item", "day"):
            if heads.setdefault(name, row.cells.get(name, "")) != row.cells.get(name, ""):
                faults.add(
                    row.line, name, row.cells.get(name, "(empty)"), f"{heads[name]!r} as above", "One file, one measurement"
                )
        reading = _read(row, dict.fromkeys(MEASURED[3:], tables.PLAIN[float]), faults)
        for name in ("at", "value"):
            if name not in row.cells:
                faults.add(row.line, name, "(empty)", "a number", "Fill it in, or remove the row")
        readings.append(reading)
        lines.append(row.line)
    faults.settle()
    document = {k: v for k, v in heads.items() if v} | {"readings": readings}
    made: MeasurementDoc = _checked(MeasurementDoc, document, {"readings": lines}, faults)
    return made


def exported(form: Form, document: PlaceDoc | MeasurementDoc | Sequence[ClientDoc]) -> bytes:
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


def imported(what: Literal["place", "clients", "measurement"], name: str, data: bytes) -> Any:
    """A place, a list of clients, or a measurement from a JSON, CSV or XLSX file.

    Raises:
        TableError: With every fault of the file; then nothing of it is taken.
    """
    start = data.lstrip(b"\xef\xbb\xbf \r\n\t")[:1]
    if start in (b"{", b"["):
        kinds: dict[str, Any] = {"place": PlaceDoc, "clients": list[ClientDoc], "measurement": MeasurementDoc}
        try:
            made = TypeAdapter(kinds[what]).validate_json(data.removeprefix(b"\xef\xbb\xbf"))
            if isinstance(made, PlaceDoc):
                made.place()
            for client in made if isinstance(made, list) else []:
                client.body()
            return made
        except ValidationError as error:
            raise TableError(reading_faults(error.errors(include_url=False))) from error
        except DomainError as error:
            raise TableError([domain_fault(error)]) from error
    rows = tables.read(name, data)
    readers: dict[str, Any] = {"place": place_of, "clients": clients_of, "measurement": measurement_of}
    return readers[what](rows)
