"""A log as a file, out and in: all of it as JSON; sets as a table, old ones of other books too, their doubts told first."""

from __future__ import annotations

import datetime as dt
import uuid
from collections.abc import Mapping, Sequence

from pydantic import ValidationError

from oddswap.application.handing_over import written_basis
from oddswap.application.lessons import learn_anew
from oddswap.application.log_book import read_log
from oddswap.documents import tables
from oddswap.documents.client import ClientDoc
from oddswap.documents.log import EntryDoc, LoggedSetDoc
from oddswap.documents.log_context import ContextDoc
from oddswap.documents.log_file import LogFileDoc, LogFileEntryDoc
from oddswap.documents.log_sheet import COLUMNS, LogImportDoc, LogRowDoc, read_rows
from oddswap.documents.log_view import LoggedPointDoc
from oddswap.documents.problems import reading_faults
from oddswap.documents.program import LineDoc
from oddswap.documents.sheets import Form
from oddswap.documents.tables import TableError, show
from oddswap.store import log
from oddswap.store.models import now

NOON = dt.time(12)
"""Time of day of an imported set."""


def log_file(client: int, name: str, form: Form) -> bytes:
    """A client's log as a file: JSON holds every entry, tables the sets that count."""
    if form == "json":
        entries = [
            LogFileEntryDoc(done_at=e.done_at.replace(tzinfo=dt.UTC), entry=e.document, context=e.context, place=e.place)
            for e in log.entries(client)
        ]
        return LogFileDoc(client=name, saved_at=now().date(), entries=entries).model_dump_json(indent=1).encode()
    rows = [_row(lift.name, lift.unit, point) for lift in read_log(client, name).lifts for point in lift.points]
    rows.sort(key=lambda r: (r["day"], r["time"]))
    return tables.write_csv(COLUMNS, rows) if form == "csv" else tables.write_xlsx("log", COLUMNS, rows)


def _row(lift: str, unit: str, p: LoggedPointDoc) -> dict[str, str]:
    sides = {"left": p.left, "right": p.right, "in_reserve": p.rir}
    drops = " ".join(f"{show(d.amount)}x{d.reps}" for d in p.drops)
    return {k: "" if v is None else str(v) for k, v in sides.items()} | {
        "day": p.at.date().isoformat(), "time": f"{p.at:%H:%M}", "lift": lift, "set_up": p.title, "kit": p.kit,
        "place": p.place,
        "load": show(p.amount), "unit": p.unit, "reps": str(p.reps), "partials": str(p.partials or ""), "drops": drops,
        "felt": ", ".join(p.felt), "note": p.note, "as_written": show(p.value), "written_unit": unit, "id": p.id,
    }  # fmt: skip


def read_log_table(name: str, data: bytes, lines: Mapping[int, LineDoc], encoding: str = "") -> LogImportDoc:
    """What a CSV or XLSX of old sets says; nothing is stored.

    Args:
        name: Of the file.
        data: Its bytes.
        lines: The client's lines by number.
        encoding: What a CSV is written in; empty to tell it from its bytes.

    Raises:
        TableError: If it is no table.
    """
    rows = [dict(row.cells) for row in tables.read(name, data, encoding)]
    return read_rows(rows, {n: (line.name, _amount(line)) for n, line in lines.items()})


def _amount(line: LineDoc) -> float:
    sources = line.set_up.set_up().sources
    return float(sources[0].amount) if sources else 0.0


def keep_rows(client: int, document: ClientDoc, lines: Mapping[int, LineDoc], rows: Sequence[LogRowDoc], law: str) -> int:
    """Keep imported rows as sets of the written lifts; the same file twice is kept once. Returns how many."""
    order = dict[tuple[int, dt.date], int]()
    out = list[log.NewEntry]()
    bases = {n: written_basis(document, lines[n], law) for n in {r.line for r in rows if r.line is not None}}
    for row in rows:
        if row.line is None:
            continue
        k = order.get((row.line, row.day), 0)
        order[row.line, row.day] = k + 1
        at = dt.datetime.combine(row.day, NOON, dt.UTC) + dt.timedelta(minutes=3 * k)
        key = str(uuid.uuid5(uuid.NAMESPACE_OID, f"{client} {row.line} {row.day} {k} {row.amount} {row.reps}"))
        done = LoggedSetDoc(amount=row.amount, reps=row.reps, rir=row.rir)
        entry = EntryDoc(id=key, kind="set", at=at, device="imported", line=row.line, order=k, set=done, note=row.note)
        context = ContextDoc(
            line_name=lines[row.line].name,
            title=lines[row.line].name,
            kit="as written",
            place_name="imported",
            basis=bases[row.line],
        )
        out.append(log.NewEntry(entry, at.replace(tzinfo=None), 0, context))
    log.append(client, out)
    learn_anew(client)
    return len(out)


def bring_log(client: int, data: bytes) -> int:
    """Put a saved log's entries to those that are here; what is here already is not doubled. Returns how many there were.

    Raises:
        TableError: If it is no log.
    """
    try:
        held = LogFileDoc.model_validate_json(data.removeprefix(b"\xef\xbb\xbf"))
    except ValidationError as error:
        raise TableError(reading_faults(error.errors(include_url=False))) from error
    entries = [
        log.NewEntry(e.entry, e.done_at.astimezone(dt.UTC).replace(tzinfo=None), 0, e.context, e.place) for e in held.entries
    ]
    log.append(client, entries)
    learn_anew(client)
    return len(entries)
