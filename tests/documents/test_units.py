"""Masses and lengths in other units: everything that is worded follows, nothing that is computed does."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import BaseModel

from oddswap.application.matching import match_line
from oddswap.application.try_out import read_detail
from oddswap.application.writing import line_words, with_load, write_line
from oddswap.coaching.calculators import CALCULATORS
from oddswap.documents import codecs
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.place_sheet import item_of_cells
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.tables import TableError
from oddswap.quantities import METRIC, SIZES, STEPS, Units, cm, kg, shown_in, units_shown, value_meant, value_shown
from oddswap.store.demo import document

POUNDS = Units("lb", "in")
METRIC_WORDS = re.compile(r"\d ?(kg|cm)\b")


@pytest.fixture(scope="module")
def ilka():
    return ClientDoc.model_validate_json(document("client-ilka"))


def test_a_stone_a_foot_and_a_plate_as_everybody_knows_them():
    """International yard and pound agreement, 1959: 1 lb is 0.45359237 kg, 1 in is 2.54 cm."""
    assert (kg(20.41), cm(30.48), kg(14), cm(183.4)) == ("20.41 kg", "30 cm", "14 kg", "183 cm")
    with shown_in(POUNDS):
        assert (kg(20.41), cm(30.48), kg(14), cm(182.88)) == ("45 lb", "12 in", "30.9 lb", "72 in")
    assert units_shown() == METRIC


@given(st.floats(0.1, 900), st.sampled_from(["kg", "cm", "°", ""]), st.sampled_from([METRIC, POUNDS]))
def test_what_is_shown_means_what_it_was_to_half_a_step(value, unit, units):
    with shown_in(units):
        there = {"kg": units.mass, "cm": units.length}.get(unit, unit)
        slack = STEPS.get(there, 0) * SIZES.get(there, 1) / 2 + 1e-6
        assert value_meant(value_shown(value, unit), unit) == pytest.approx(value, abs=slack)


def strings(model, path=""):
    for name, value in model:
        if isinstance(value, str):
            yield f"{path}.{name}", value
        for k, one in enumerate(value if isinstance(value, list) else [value]):
            if isinstance(one, BaseModel):
                yield from strings(one, f"{path}.{name}.{k}")
            elif isinstance(one, str) and isinstance(value, list):
                yield f"{path}.{name}.{k}", one


@pytest.mark.parametrize("name", ["place-quay-hotel", "place-tallow-garage"])
def test_a_match_in_pounds_names_no_kilogram_and_loads_the_same(ilka, name):
    place = PlaceDoc.model_validate_json(document(name))
    there = ilka.model_copy(update={"mass_unit": "lb", "length_unit": "in"})
    worded = 0
    for line in ProgramDoc.model_validate_json(document("program-ilka")).sessions[0].lines[:3]:
        metric, pounds = (match_line(c, line, place, RankDoc()) for c in (ilka, there))
        assert [s.set_up for s in metric.swaps] == [s.set_up for s in pounds.swaps]
        detail = read_detail(there, line, place, RankDoc(), pounds.swaps[0].set_up)
        told = [*strings(pounds), *strings(detail)]
        assert [t for t in told if METRIC_WORDS.search(t[1])] == []
        worded += sum("lb" in words for _, words in told)
        assert any(METRIC_WORDS.search(words) for _, words in strings(metric))
    assert worded > 10


def test_a_line_is_written_at_a_bar_of_forty_five_pounds(ilka):
    there = ilka.model_copy(update={"mass_unit": "lb"})
    made = write_line(there, "press", 0, "bar", 135)
    assert (made.amount, made.unit, made.load) == (135, "lb", "135 lb: 45 a side")
    assert made.line.set_up.sources[0].mass_kg == pytest.approx(135 * SIZES["lb"])
    with shown_in(there.units):
        heavier = with_load(made.line, 145)
        assert line_words(heavier).load == "145 lb: 50 a side"


@pytest.mark.parametrize(
    ("cell", "masses"),
    [("5 10 15 lb", [5, 10, 15]), ("5lb 10LB 15 lbs", [5, 10, 15]), ("20,5 lb", [20.5]), ("10 pounds", [10])],
)
def test_kit_may_be_typed_in_pounds(cell, masses):
    cells = {"kind": "dumbbells", "id": "d", "name": "d", "masses_kg": cell}
    made = item_of_cells(cells)
    assert made.masses_kg == pytest.approx([m * SIZES["lb"] for m in masses], abs=1e-5)
    with shown_in(POUNDS):
        back = codecs.cells_of(made)
        assert back["masses_kg"] == " ".join(f"{m:g}lb" for m in masses)
        assert item_of_cells(back | {"kind": "dumbbells"}) == made
        # What has no unit means the one in force.
        assert item_of_cells(cells | {"masses_kg": "45"}).masses_kg == pytest.approx([45 * SIZES["lb"]], abs=1e-5)


@pytest.mark.parametrize("cell", ["5 in", "5 10 stone", "x lb"])
def test_a_unit_that_is_none_of_mass_is_told_at_its_cell(cell):
    with pytest.raises(TableError) as caught:
        item_of_cells({"kind": "dumbbells", "id": "d", "name": "d", "masses_kg": cell})
    assert [f.field for f in caught.value.faults] == ["masses_kg"]


@pytest.mark.parametrize("name", sorted(CALCULATORS))
def test_a_calculator_comes_to_the_same_in_either_unit(name):
    """Its example in pounds and inches: what carries no unit is the same, what does is converted."""
    one = CALCULATORS[name]
    metric = one.answer(one.example)
    if any(i.text for i in one.inputs):
        # Lists of masses there are mean pounds then, so the answer is another one.
        with shown_in(POUNDS):
            assert not any(METRIC_WORDS.search(words) for _, words in one.answer({}).rows)
        return
    others = {"kg": "lb", "cm": "in"}
    units = {i.id: i.plain_unit for i in one.inputs}
    typed = {k: v / SIZES[others[units[k]]] if units[k] else v for k, v in one.example.items()}
    with shown_in(POUNDS):
        pounds = one.answer(typed)
    assert len(pounds.rows) == len(metric.rows)
    for (title, there), (_, here) in zip(pounds.rows, metric.rows, strict=True):
        assert not METRIC_WORDS.search(there), title
        masses = re.findall(r"([\d.]+) kg", here)
        for mass, other in zip(masses, re.findall(r"([\d.]+) lb", there), strict=True):
            assert float(other) == pytest.approx(float(mass) / SIZES["lb"], rel=0.01, abs=0.06)
        if not masses and not METRIC_WORDS.search(here):
            assert there == here
