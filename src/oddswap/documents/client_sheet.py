"""Clients as tables, both ways."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError

from oddswap.documents.client import ClientDoc
from oddswap.documents.problems import path, reading_faults
from oddswap.documents.sheet_rows import check_columns
from oddswap.documents.tables import Faults, Row, number, show
from oddswap.documents.upgrade import KEYS, upgrade
from oddswap.errors import DomainError

MOVEMENT_LISTS = ("knows", "banned", "pinned")
SPANS = ("ranges_deg", "weekly_sets")
CLIENT = (
    *("name", "stature_cm", "mass_kg", "sex", "weaker_side", "experience", "mass_unit", "length_unit", "note"),
    *MOVEMENT_LISTS,
    *("learned", "measured_cm", "ranges_deg", "weekly_sets", "restrictions", "weights"),
)
"""Columns of a table of clients."""


def client_rows(clients: Sequence[ClientDoc]) -> list[dict[str, str]]:
    """Clients as rows, one each: lists with spaces between, records with colons, restrictions with strokes."""
    out = []
    for c in clients:
        row = {
            name: getattr(c, name) for name in ("name", "sex", "weaker_side", "experience", "mass_unit", "length_unit", "note")
        }
        row |= {"stature_cm": show(c.stature_cm), "mass_kg": show(c.mass_kg)}
        row |= {
            name: " ".join(movements) for name, movements in zip(MOVEMENT_LISTS, (c.knows, c.banned, c.pinned), strict=True)
        }
        row["learned"] = " ".join(f"{x.movement}:{x.kit}:{show(x.factor)}:{x.sets}" for x in c.learned)
        row["measured_cm"] = " ".join(f"{k}:{show(v)}" for k, v in c.measured_cm.items())
        for name in SPANS:
            row[name] = " ".join(f"{k}:{show(r.low)}:{show(r.high)}" for k, r in getattr(c, name).items())
        row["restrictions"] = " | ".join(f"{s.side}/{s.joint}/{s.action}/{s.note}" for s in c.restrictions)
        row["weights"] = " ".join(f"{w.day.isoformat()}:{show(w.mass_kg)}" for w in c.weights)
        out.append(row)
    return out


def clients_of(rows: Sequence[Row]) -> list[ClientDoc]:
    """Clients from their rows.

    Raises:
        TableError: With every cell that cannot be.
    """
    faults, out = Faults(), []
    check_columns(rows, (*CLIENT, *KEYS), faults)
    for row in rows:
        document: dict[str, Any] = {}
        for name, text in row.cells.items():
            name = KEYS.get(name, name)
            if name in CLIENT:
                try:
                    document[name] = _client_cell(name, text)
                except ValueError as error:
                    faults.add(row.line, name, text, str(error))
        broken = {f.field for f in faults.rows}
        try:
            made = ClientDoc.model_validate(upgrade(document))
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
    if name in MOVEMENT_LISTS:
        return text.split()
    if name == "learned":
        rows = (_parts(part, 4, "movement:kit:factor:sets") for part in text.split())
        return [{"movement": m, "kit": kit, "factor": number(f), "sets": int(number(n))} for m, kit, f, n in rows]
    if name == "measured_cm":
        return {k: number(v) for k, v in (_parts(part, 2, "name:cm") for part in text.split())}
    if name in SPANS:
        triples = (_parts(part, 3, "name:low:high") for part in text.split())
        return {k: {"low": number(low), "high": number(high)} for k, low, high in triples}
    if name == "weights":
        pairs = (_parts(part, 2, "day:kg") for part in text.split())
        return [{"day": day, "mass_kg": number(kg)} for day, kg in pairs]
    if name == "restrictions":
        restrictions = (_parts(part.strip(), 4, "side/joint/action/note", "/") for part in text.split("|"))
        return [dict(zip(("side", "joint", "action", "note"), parts, strict=True)) for parts in restrictions]
    return text


def _parts(text: str, count: int, form: str, mark: str = ":") -> list[str]:
    parts = text.split(mark, count - 1)
    if len(parts) != count:
        raise ValueError(form)
    return parts
