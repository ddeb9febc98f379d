"""Programs as coaches keep them in spreadsheets: sheets of different shape, made up, each with the lines that it holds."""

from __future__ import annotations

import datetime as dt
import io
from pathlib import Path

import pytest
from openpyxl import Workbook

from oddswap.documents.tables import TableError, plain_rows
from oddswap.planning.sheet import sheet_lines
from oddswap.planning.shorthand import read_line

PLAIN = [("Upper A", "lateral_raise", 3, (12, 15)), ("Upper A", "pulldown", 4, (8, 8)), ("Lower", "squat", 5, (5, 5))]
SHEETS = {
    name: text.strip("\n") + "\n"
    for part in (Path(__file__).parent / "sheets.txt").read_text().split("## ")[1:]
    for name, text in [part.split("\n", 1)]
}


def workbook(text):
    """The same cells as a workbook, with the title row merged and numbers as numbers."""
    book = Workbook()
    sheet = book.active
    mark = max(";\t,", key=text.count)
    for line in text.split("\n"):
        sheet.append([int(c) if c.isdigit() else c or None for c in line.split(mark)])
    sheet.merge_cells("A1:A1")
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def read(data):
    return [(line, read_line(line.text)) for line in sheet_lines(plain_rows(data))]


@pytest.mark.parametrize("form", ["csv", "xlsx"])
@pytest.mark.parametrize("name", sorted(SHEETS))
def test_a_sheet_of_any_shape_is_read_session_by_session(name, form):
    data = SHEETS[name].encode() if form == "csv" else workbook(SHEETS[name])
    found = read(data)
    assert all(w.sure for _, w in found), [(line.text, [u.text for u in w.unknown]) for line, w in found]
    assert [(line.session, w.readings[0].movement, w.sets, w.reps) for line, w in found] == PLAIN


@pytest.mark.parametrize("path", sorted((Path(__file__).parent / "files").glob("*.xlsx")), ids=lambda p: p.stem)
def test_a_workbook_written_by_another_program_is_read(path):
    """The same cells, opened and stored by a general-purpose spreadsheet (LibreOffice 7.4)."""
    found = read(path.read_bytes())
    assert [(line.session, w.readings[0].movement, w.sets, w.reps) for line, w in found] == PLAIN


def test_repetitions_that_a_spreadsheet_took_for_a_day_are_repetitions():
    book = Workbook()
    sheet = book.active
    sheet.append(["Session", "Exercise", "Sets", "Reps"])
    for month, day in ((8, 10), (12, 8), (12, 15)):
        sheet.append(["A", "squat", 3, dt.datetime(2026, month, day)])
    out = io.BytesIO()
    book.save(out)
    assert [w.reps for _, w in read(out.getvalue())] == [(8, 10), (8, 12), (12, 15)]


def test_what_stands_beside_a_lift_comes_along_with_its_place():
    lines = {line.text.split()[0]: (line, w) for line, w in read(SHEETS["another order"].encode())}
    assert (lines["squat"][0].note, lines["squat"][0].row, lines["squat"][0].column) == ("belt", 4, 4)
    first = read(SHEETS["labels and tempo"].encode())[0][1]
    assert (first.label, first.tempo) == ("A1", (3, 0, 1, 0))
    pounds = read(SHEETS["pounds in the heading"].encode())[2][1]
    assert (pounds.load, pounds.load_unit) == (225, "lb")
    rests = [w.rest_s for _, w in read(SHEETS["headings again"].encode())]
    assert rests == [90, 120, 180]
    assert read(SHEETS["German"].encode())[0][1].load == 6.5


def test_what_is_not_known_is_asked_with_its_cell_and_nothing_else_is_lost():
    found = read(b'Day,Exercise,Sets,Reps\nUpper,goblin press,3,10\nUpper,squat,3,10\nUpper,lat pulldown,3,"8,8,6"\n')
    assert [(line.row, w.sure) for line, w in found] == [(2, False), (3, True), (4, False)]


@pytest.mark.parametrize("data", [b"PK\x03\x04broken", b"\0\1\2"])
def test_what_is_no_sheet_is_refused(data):
    with pytest.raises(TableError):
        plain_rows(data)
