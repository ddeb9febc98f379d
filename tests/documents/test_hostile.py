"""Files that are made, or happen, to be too much: refused in words before they are unpacked, and kit that would never end."""

from __future__ import annotations

import io
import tracemalloc
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from openpyxl import Workbook

from oddswap.documents import tables
from oddswap.documents.sheets import import_file
from oddswap.documents.tables import TableError
from oddswap.equipment.barbell import Barbell, PlatePair
from oddswap.equipment.cable import CableColumn
from oddswap.errors import DomainError

MB = 2**20


def workbook(rows):
    book = Workbook()
    for row in rows:
        book.active.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def with_sheet(sheet):
    """A workbook whose first sheet is this XML."""
    out = io.BytesIO()
    with ZipFile(io.BytesIO(workbook([["a"]]))) as plain, ZipFile(out, "w", ZIP_DEFLATED) as made:
        for part in plain.infolist():
            made.writestr(part.filename, sheet if part.filename.endswith("sheet1.xml") else plain.read(part))
    return out.getvalue()


SHEET = '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>{}</sheetData></worksheet>'
CELL = '<row r="{0}"><c r="A{0}" t="inlineStr"><is><t>kind</t></is></c></row>'


def bomb():
    return with_sheet(SHEET.format(" " * (100 * MB)))


def far_row():
    return with_sheet(SHEET.format(CELL.format(1) + CELL.format(999_999_999)))


def line_ends():
    return b"kind,id\n" + b"\n" * (14 * MB)


def many_rows():
    return b"kind,id\n" + b"a,b\n" * 60_000


def wide():
    return workbook([[f"c{i}" for i in range(300)]] * 2)


@pytest.mark.parametrize(
    ("make", "words"), [(bomb, "MB unpacked"), (far_row, "rows"), (line_ends, "rows"), (many_rows, "rows"), (wide, "columns")]
)
def test_too_much_is_refused_without_being_held(make, words):
    data = make()
    tracemalloc.start()
    with pytest.raises(TableError) as refused:
        tables.read("place.xlsx", data)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert words in refused.value.faults[0].limit
    assert peak < 120 * MB


def test_of_many_faults_the_first_hundred_are_told():
    rows = b"kind,id,name,masses_kg\n" + b"".join(b"dumbbells,d%d,d,heavy\n" % i for i in range(4000))
    with pytest.raises(TableError) as refused:
        import_file("place", "place.csv", rows)
    assert len(refused.value.faults) == tables.MOST_FAULTS + 1
    assert "first 100" in refused.value.faults[-1].limit


def test_kit_with_more_amounts_than_are_looked_through_is_refused_at_its_field():
    with pytest.raises(DomainError, match="at most 500 pins") as refused:
        CableColumn("c", "c", 20, 10, 200, 1, 200, 1e-6).verify()
    assert refused.value.field == "step_kg"
    with pytest.raises(DomainError, match="amounts"):
        CableColumn("c", "c", 20, 10, 200, 1, 200, 0.5, addons_kg=[0.11, 0.23, 0.47, 0.95, 1.9, 3.7]).verify()
    plates = [PlatePair(0.01 * 2**i + 0.003 * i, 40) for i in range(12)]
    with pytest.raises(DomainError, match="plates make at most") as refused:
        Barbell("b", "b", 20, plates).verify()
    assert refused.value.field == "plates"
    Barbell("b", "b", 20, [PlatePair(m, 20) for m in (25, 20, 15, 10, 5, 2.5, 1.25, 0.5)]).verify()
