"""A log as a table, out and in: a row a set; what cannot be read is named by its cell, what is doubtful is told."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence

from oddswap.documents.base import Result
from oddswap.documents.tables import show
from oddswap.quantities import SIZES

COLUMNS = (
    "day", "time", "lift", "set_up", "kit", "place", "load", "unit", "reps", "left", "right", "in_reserve", "partials", "drops",
    "felt", "note", "as_written", "written_unit", "id",
)  # fmt: skip
"""Columns of a log that is saved. To be read back, day, lift, load and reps are enough."""


class LogRowDoc(Result):
    """A row of an imported log as it was understood."""

    row: int
    """In the file, the heading is 1."""
    day: dt.date
    lift: str
    """As it stands in the file."""
    line: int | None
    """The written line that it was read as; none where no line is called so."""
    line_name: str = ""
    amount: float
    reps: int
    rir: int | None = None
    note: str = ""
    doubt: str = ""
    """What is not sure of it; empty where all is."""


class LogImportDoc(Result):
    """An imported log before anything is stored."""

    rows: list[LogRowDoc]
    faults: list[str]
    """Rows that could not be read, by row and column."""


def read_rows(rows: Sequence[Mapping[str, str]], lines: Mapping[int, tuple[str, float]]) -> LogImportDoc:
    """What the rows of a table say.

    Args:
        rows: By column name, as text; names are compared without case.
        lines: By number, a line's name and written amount.
    """
    out, faults = list[LogRowDoc](), list[str]()
    for i, raw in enumerate(rows, start=2):
        cells = {k.strip().casefold(): (v or "").strip() for k, v in raw.items() if k}
        if not any(cells.values()):
            continue
        try:
            out.append(_row(i, cells, lines))
        except ValueError as error:
            faults.append(f"row {i}: {error}")
    return LogImportDoc(rows=out, faults=faults)


def _row(i: int, cells: Mapping[str, str], lines: Mapping[int, tuple[str, float]]) -> LogRowDoc:
    day, doubt = _day(cells.get("day") or cells.get("date", ""))
    lift = cells.get("lift") or cells.get("exercise", "")
    if not lift:
        raise ValueError("lift: what was done is missing")
    amount = _number(cells.get("load") or cells.get("weight", ""), "load", 0, 2000)
    if (cells.get("unit") or "kg").casefold() in ("lb", "lbs"):
        amount = round(amount * SIZES["lb"], 2)
    reps = int(_number(cells.get("reps", ""), "reps", 0, 200))
    told = cells.get("in_reserve") or cells.get("rir", "")
    rir = int(_number(told, "in_reserve", 0, 10)) if told else None
    line = _line(lift, lines)
    doubts = [doubt] if doubt else []
    if line is None:
        doubts.append("no line is called so")
    elif lines[line][1] and not 0.4 <= amount / lines[line][1] <= 2.5:
        doubts.append(f"far from the written {show(lines[line][1])}")
    if reps > 40:
        doubts.append(f"{reps} repetitions")
    name = lines[line][0] if line is not None else ""
    return LogRowDoc(
        row=i, day=day, lift=lift, line=line, line_name=name, amount=amount, reps=reps, rir=rir, note=cells.get("note", ""),
        doubt="; ".join(doubts),
    )  # fmt: skip


def _line(lift: str, lines: Mapping[int, tuple[str, float]]) -> int | None:
    """The line of that name, else the only one whose name has all its words."""
    words = lift.casefold().split()
    exact = [n for n, (name, _) in lines.items() if name.casefold() == lift.casefold()]
    near = [n for n, (name, _) in lines.items() if all(w in name.casefold() for w in words)]
    return exact[0] if exact else near[0] if len(near) == 1 else None


def _day(text: str) -> tuple[dt.date, str]:
    """A day, and what is doubtful of how it is written: day before month where both would do."""
    for pattern in ("%Y-%m-%d", "%d.%m.%Y"):
        try:
            return _not_later(dt.datetime.strptime(text[:10], pattern).date()), ""
        except ValueError:
            continue
    parts = text.split("/")
    if len(parts) == 3 and all(p.isdigit() for p in parts):
        one, two, year = (int(p) for p in parts)
        both = one <= 12 and two <= 12 and one != two
        day, month = (one, two) if two <= 12 else (two, one)
        return _not_later(dt.date(year + 2000 * (year < 100), month, day)), "read as day/month/year" if both else ""
    raise ValueError(f"day: {text or 'nothing'} is no day such as 2026-03-02")


def _not_later(day: dt.date) -> dt.date:
    if not dt.date(1990, 1, 1) <= day <= dt.date.today():
        raise ValueError(f"day: {day} is before 1990 or still to come")
    return day


def _number(text: str, name: str, least: float, most: float) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise ValueError(f"{name}: {text or 'nothing'} is no number") from None
    if not least <= value <= most:
        raise ValueError(f"{name}: {text} is not between {least:g} and {most:g}")
    return value
