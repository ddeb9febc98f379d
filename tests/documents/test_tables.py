"""Kit, clients and measurements as files: what goes out comes in again, whoever wrote it, and bad files come in not at all."""

from __future__ import annotations

import datetime as dt
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddswap.documents.client import ClientDoc
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.sheets import export_file, import_file
from oddswap.documents.tables import TableError, number, show
from oddswap.store.demo import PLACES, document

FILES = Path(__file__).parent / "files"
GARAGE = PlaceDoc.model_validate_json(document("place-tallow-garage"))
CLIENTS = [
    ClientDoc.model_validate(
        {"name": "Edda Vane", "stature_cm": 171.5, "mass_kg": 66.25, "sex": "female", "measured_cm": {"thigh": 42.5},
         "ranges_deg": {"knee": {"low": 2, "high": 128.5}}, "banned": ["dip"], "pinned": ["row", "fly"], "learned": [],
         "weaker_side": "left", "experience": "new", "knows": ["row"],
         "restrictions": [{"joint": "lower back", "side": "both", "action": "bent deep", "note": "after sitting / driving"},
                  {"joint": "shoulder", "side": "left"}],
         "weights": [{"day": "2026-03-02", "mass_kg": 66.9}, {"day": "2026-03-09", "mass_kg": 66.4}], "mass_unit": "lb"}
    ),
    ClientDoc(name="Ole Brandt", stature_cm=188, mass_kg=91, sex="male"),
]  # fmt: skip
MEASURED = MeasurementDoc.model_validate(
    {"what": "column", "item": "pulley", "day": dt.date(2026, 4, 1), "readings": [
        {"at": 10, "value": 54.25, "zero": 0.4, "down": 47.5}, {"at": 20, "value": 108, "down": 94.125}]}
)  # fmt: skip


@pytest.mark.parametrize("form", ["json", "csv", "xlsx"])
@pytest.mark.parametrize("name", [*PLACES, "clients", "measurement"])
def test_what_goes_out_comes_in_again(name, form):
    held = {"clients": CLIENTS, "measurement": MEASURED}.get(name) or PlaceDoc.model_validate_json(document(f"place-{name}"))
    what = name if name in ("clients", "measurement") else "place"
    assert import_file(what, f"x.{form}", export_file(form, held)) == held


def decimal_commas(text: str) -> str:
    return re.sub(r"(?<=\d)\.(?=\d)", ",", text)


CSV = export_file("csv", GARAGE).decode()
SEMICOLONS = (FILES / "garage-libreoffice-semicolons.csv").read_text()


@pytest.mark.parametrize(
    "data",
    [
        (FILES / "garage-libreoffice.xlsx").read_bytes(),
        (FILES / "garage-libreoffice.csv").read_bytes(),
        SEMICOLONS.encode(),
        decimal_commas(SEMICOLONS).encode(),
        b"\xef\xbb\xbf" + CSV.encode(),
        decimal_commas(SEMICOLONS).replace("\n", "\r\n").encode("utf-8-sig"),
        CSV.replace("\r\n", "\n").encode(),
        SEMICOLONS.replace(";", "\t").encode("utf-16"),
        ("sep=;\r\n" + decimal_commas(SEMICOLONS)).encode("cp1252"),
        (SEMICOLONS.replace("\n", ";;\n", 1) + "\n\n;;;\n").encode(),
    ],
    ids=[
        "xlsx",
        "csv",
        "semicolons",
        "decimal commas",
        "byte-order mark",
        "windows",
        "unix",
        "tabs utf-16",
        "sep",
        "blank rows",
    ],
)
def test_files_of_other_programs_come_in(data):
    assert import_file("place", "garage", data) == GARAGE


HEADING = "kind,id,name,length_cm,width_cm,ceiling_cm,masses_kg,notches_deg,holes,lowest_cm,highest_cm,"
BROKEN = f"""{HEADING}least_kg,most_kg,step_kg,colour
place,,Shed,400,three,230,,,,,,,,,
dumbbells,dumbbells,dumbbells,,,,5 7.5 x,,,,,,,,
dumbbells,dumbbells,more dumbbells,,,,-4 8,,,,,,,,
bench,bench,bench,,,,,0 120,,,,,,,
cable_column,tower,tower,,,,,,5,200,20,5,80,5,red
sofa,sofa,sofa,,,,,,,,,,,,
"""


def test_a_broken_file_names_every_bad_cell_and_gives_nothing():
    with pytest.raises(TableError) as caught:
        import_file("place", "broken.csv", BROKEN.encode())
    fields = [f.field for f in caught.value.faults]
    assert set(fields) == {
        "line 1, colour", "line 2, width_cm", "line 3, masses_kg", "line 4, masses_kg", "line 4, id", "line 5, notches_deg",
        "line 6, colour", "line 6, highest_cm", "line 7, kind",
    }  # fmt: skip
    assert len(fields) == len(set(fields))
    assert all(f.value and f.limit and f.way_out for f in caught.value.faults)


SIZES = "name,stature_cm,mass_kg,sex\n"


@pytest.mark.parametrize(
    ("what", "text", "field"),
    [
        ("clients", SIZES + "A,170,70,male\nB,95,70,male\nC,170,,male\n", {"line 3, stature_cm", "line 4, mass_kg"}),
        ("clients", "name,stature_cm,mass_kg,sex,ranges_deg\nA,170,70,male,knee:5\n", {"line 2, ranges_deg"}),
        ("measurement", "what,item,at,value\nband,a,50,x\nband,b,60,\n", {"line 2, value", "line 3, value", "line 3, item"}),
        ("place", "kind,name\n", {"line 2, kind"}),
        ("place", "kind,kind\nplace,place\n", {"line 1, kind"}),
        ("place", 'kind,name\nplace,"open\n', {"line 2"}),
        ("place", "PK not a workbook", {"file"}),
        ("place", "{\"name\": 3}", {"name", "room", "kit"}),
    ],
)  # fmt: skip
def test_other_faults_are_named(what, text, field):
    with pytest.raises(TableError) as caught:
        import_file(what, "x", text.encode())
    assert {f.field for f in caught.value.faults} == field


@given(st.floats(-1e6, 1e6))
def test_numbers_read_back_the_same(value):
    assert number(show(value)) == value
    assert number(show(round(value, 1)).replace(".", ",")) == round(value, 1)


def test_numbers_that_may_be_thousands_are_rejected():
    for text in ("1,250", "12,500"):
        with pytest.raises(ValueError, match="thousands"):
            number(text)
    assert number("0,125") == 0.125
    assert number("1 250,5") == 1250.5
