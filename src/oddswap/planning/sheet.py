"""A program as coaches keep it in a spreadsheet, row by row turned into lines as they would be typed.

Columns are known by their headings, which may stand anywhere and several times (sessions below or beside each other); without
headings every row is a line as it stands. What a line says is then read as any typed line is, doubts included.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

FEW = 2
"""Headings from which on a row is one of headings."""
MINUTES = 10
"""Rests under this many are minutes where nothing else is said (own estimate)."""


@dataclass(frozen=True)
class SheetLine:
    """A line of a sheet.

    Args:
        session: Name of its session; empty where the sheet names none.
        text: The line as it would be typed.
        note: What stands beside it in words.
        row: Row of the sheet, counted from 1.
        column: Column of the lift's name, counted from 1.
    """

    session: str
    text: str
    note: str
    row: int
    column: int


@dataclass(frozen=True)
class Block:
    """Columns that belong together: where each heading stands, and the unit that a load's heading names."""

    columns: Mapping[str, int]
    first: int
    last: int
    load_unit: str = ""


@cache
def _heads() -> dict[str, str]:
    data = tomllib.loads((files("oddswap.planning") / "data" / "sheet.toml").read_text("utf-8"))
    return {name: head for head, names in data["heads"].items() for name in names}


def head_of(cell: str) -> str:
    """Which heading a cell is; empty for none."""
    plain = re.sub(r"\(.*?\)|\[.*?\]", "", cell.casefold()).strip(" :.")
    return _heads().get(plain, "")


def blocks_of(cells: Sequence[str]) -> list[Block]:
    """The blocks of a row of headings, each with a column of names; none where it is no such row."""
    heads = [head_of(c) for c in cells]
    if heads.count("name") == 0 or sum(bool(h) for h in heads) < FEW:
        return []
    out = []
    starts = [i for i, h in enumerate(heads) if h == "name"]
    for k, start in enumerate(starts):
        # What stands before the first name (a label, a session) belongs to it.
        first = 0 if k == 0 else start
        last = starts[k + 1] - 1 if k + 1 < len(starts) else len(heads) - 1
        columns: dict[str, int] = {}
        for i in range(first, last + 1):
            if heads[i]:
                columns.setdefault(heads[i], i)
        said = cells[columns["load"]].casefold() if "load" in columns else ""
        unit = "lb" if re.search(r"\blbs?\b|pound", said) else "kg" if re.search(r"\bkg", said) else ""
        out.append(Block(columns, first, last, unit))
    return out


def sheet_lines(rows: Sequence[tuple[int, Sequence[str]]]) -> list[SheetLine]:
    """The lines of a sheet, in the order of its sessions.

    Args:
        rows: Number and cells of every row that is not empty.
    """
    out: list[tuple[int, SheetLine]] = []
    blocks: list[Block] = []
    titles: dict[int, str] = {}
    for number, cells in rows:
        if found := blocks_of(cells):
            blocks = found
            continue
        filled = [i for i, c in enumerate(cells) if c]
        if not blocks:
            if len(filled) == 1 and not re.search(r"\d\s*[x×]|amrap", cells[filled[0]], re.I):
                titles = {0: cells[filled[0]]}
            elif filled and any(blocks_of(c) for _, c in rows):
                # Words above the first headings that name sessions side by side.
                titles = {i: cells[i] for i in filled}
            else:
                text = " ".join(cells[i] for i in filled)
                out.append((0, SheetLine(titles.get(0, ""), text, "", number, filled[0] + 1)))
            continue
        for k, block in enumerate(blocks):
            own = [i for i in filled if block.first <= i <= block.last]
            name = cells[block.columns["name"]] if block.columns["name"] < len(cells) else ""
            if len(own) == 1 and own[0] != block.columns.get("note"):
                # A title of its own, above the lines that follow.
                titles = {**titles, block.first: cells[own[0]]}
                continue
            if not name:
                continue
            if session := _cell(cells, block, "session"):
                titles = {**titles, block.first: session}
            line = SheetLine(
                _title(titles, block),
                _typed(cells, block, name),
                _cell(cells, block, "note"),
                number,
                block.columns["name"] + 1,
            )
            out.append((k, line))
    return [line for _, line in sorted(out, key=lambda pair: pair[0])]


def _title(titles: Mapping[int, str], block: Block) -> str:
    """The name of the session that a block's lines belong to."""
    own = [at for at in titles if block.first <= at <= block.last]
    return titles[max(own)] if own else ""


def _cell(cells: Sequence[str], block: Block, head: str) -> str:
    at = block.columns.get(head)
    return cells[at] if at is not None and at < len(cells) else ""


def _not_a_day(reps: str) -> str:
    """Repetitions such as 8-10 that a spreadsheet took for a day of the year, as they were meant: the fewer first."""
    day = re.fullmatch(r"\d{4}-(\d{2})-(\d{2})", reps)
    return "-".join(str(n) for n in sorted((int(day[1]), int(day[2])))) if day else reps


def _typed(cells: Sequence[str], block: Block, name: str) -> str:
    """A row as it would be typed."""
    label, sets, reps = (_cell(cells, block, h) for h in ("label", "sets", "reps"))
    reps = _not_a_day(reps)
    parts = [f"{label}." if re.fullmatch(r"[A-Ha-h][1-6]?", label) else "", name, _cell(cells, block, "scheme")]
    if re.search(r"[x×]", sets):
        parts.append(sets)
    elif sets and reps:
        count = re.sub(r"(?i)reps?|wdh|\s", "", reps)
        parts.append(f"{sets}x{count}")
    elif reps:
        parts.append(reps if re.search(r"(?i)amrap|[x×]", reps) else f"{reps} reps")
    elif sets:
        parts.append(f"{sets} sets")
    load = _cell(cells, block, "load")
    if load:
        plain = re.fullmatch(r"\d+([.,]\d+)?", load)
        parts.append(f"{load}{block.load_unit or 'kg'}" if plain else load)
    for head in ("rir", "rpe", "tempo"):
        value = _cell(cells, block, head)
        if value:
            parts.append(value if re.search(rf"(?i){head}", value) else f"{head} {value}")
    rest = _cell(cells, block, "rest")
    if rest:
        plain = re.fullmatch(r"\d+([.,]\d+)?", rest)
        unit = "min" if plain and float(rest.replace(",", ".")) < MINUTES else "s"
        parts.append(f"rest {rest}{unit}" if plain else f"rest {rest}")
    return " ".join(p for p in parts if p)
