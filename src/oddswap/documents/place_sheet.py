"""Places and their kit as tables, both ways."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import TypeAdapter, ValidationError

from oddswap.documents import codecs
from oddswap.documents.kit import AnyItem
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import reading_faults
from oddswap.documents.sheet_rows import read_cells, validate_rows
from oddswap.documents.tables import Faults, Row, TableError, show
from oddswap.documents.upgrade import upgrade
from oddswap.equipment import kit_classes
from oddswap.errors import DomainError

ROOM = ("length_cm", "width_cm", "ceiling_cm")

BUSY = ("item", "days", "start", "end")

SPOT = ("item", "x_cm", "y_cm")

ITEM: TypeAdapter[Any] = TypeAdapter(AnyItem)


def place_columns() -> list[str]:
    """Columns of a place's table: what all kinds of kit share first, then what each kind has."""
    own = [name for kind in kit_classes().values() for name in codecs.columns_of(kind)]
    return list(dict.fromkeys(["kind", "id", "name", "note", *ROOM, *BUSY, *SPOT, *own]))


def place_rows(place: PlaceDoc) -> list[dict[str, str]]:
    """A place as rows: the room first, then its kit, then what is crowded when."""
    room = {name: show(getattr(place.room, name)) for name in ROOM}
    rows = [{"kind": "place", "name": place.name, "note": place.note} | room]
    rows += [{"kind": item.kind} | codecs.cells_of(item) for item in place.kit]
    rows += [{"kind": "spot", "item": s.item, "x_cm": show(s.x_cm), "y_cm": show(s.y_cm)} for s in place.plan]
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
    document: dict[str, Any] = {"kit": [], "busy": [], "plan": []}
    lines: dict[str, list[int]] = {"kit": [], "busy": [], "plan": []}
    ids: dict[str, int] = {}
    for row in rows:
        kind = row.cells.get("kind", "")
        if kind == "place":
            if "name" in document:
                faults.add(row.line, "kind", kind, "one row of kind place", "Remove the second")
            document["name"] = row.cells.get("name", "")
            document["note"] = row.cells.get("note", "")
            document["room"] = read_cells(row, dict.fromkeys(ROOM, codecs.PLAIN[float]), faults)
        elif kind == "busy":
            busy = read_cells(row, dict.fromkeys(BUSY, codecs.PLAIN[str]), faults)
            document["busy"].append(busy | {"days": row.cells.get("days", "").split()})
            lines["busy"].append(row.line)
        elif kind == "spot":
            own = {"item": codecs.PLAIN[str], "x_cm": codecs.PLAIN[float], "y_cm": codecs.PLAIN[float]}
            document["plan"].append(read_cells(row, own, faults))
            lines["plan"].append(row.line)
        elif kind in classes:
            own = codecs.columns_of(classes[kind])
            for extra in sorted(set(row.cells) - set(own)):
                limit = f"a column of {kind}: {', '.join(c for c in own if c != 'kind')}"
                faults.add(row.line, extra, row.cells[extra], limit, "Empty the cell")
            given: dict[str, Any] = {name: [] for name in codecs.open_lists(classes[kind])} | read_cells(row, own, faults)
            item = _item(row, given, faults)
            name = row.cells.get("id", "")
            if name in ids:
                faults.add(row.line, "id", name, f"an id of its own; line {ids[name]} has it too", "Rename one of the two")
            ids.setdefault(name, row.line)
            document["kit"].append(item)
            lines["kit"].append(row.line)
        else:
            offered = ", ".join(["place", "busy", "spot", *classes])
            faults.add(row.line, "kind", kind or "(empty)", f"one of {offered}", "Say what the row is")
    if "name" not in document:
        faults.add(rows[-1].line + 1 if rows else 2, "kind", "(missing)", "a row of kind place with name and room", "Add it")
    faults.settle()
    place: PlaceDoc = validate_rows(PlaceDoc, document, lines, faults)
    return place


def _item(row: Row, item: dict[str, Any], faults: Faults) -> Any:
    """A kit item, with its faults at their columns."""
    wrong = {f.field for f in faults.rows}
    try:
        made = ITEM.validate_python(upgrade(item))
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
        given: dict[str, Any] = {name: [] for name in codecs.open_lists(classes[kind])}
        made = _item(row, given | read_cells(row, codecs.columns_of(classes[kind]), faults), faults)
    if faults.rows:
        raise TableError([f.model_copy(update={"field": f.field.removeprefix("line 1, ")}) for f in faults.rows])
    return made
