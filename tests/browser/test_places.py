"""Clients, places and the measuring bench in the real interface."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser
SLOW = 60_000
BROKEN = """kind;id;name;length_cm;width_cm;ceiling_cm;masses_kg;notches_deg
place;;Barn;500;breit;260;;
dumbbells;b;dumbbells;;;;2,5 5 x;
bench;c;bench;;;;;0 200
sofa;d;sofa;;;;;
"""
MENDED = BROKEN.replace("breit", "400").replace(" x;", ";").replace("0 200", "0 45").replace("sofa;d;sofa;;;;;\n", "")


def origin(page: Page) -> str:
    return "/".join(page.url.split("/")[:3])


def test_a_new_home_gym_from_nothing_shows_its_reach_map(app: Page):
    app.goto(origin(app) + "/places")
    expect(app.get_by_text(re.compile("covered for"))).to_be_visible(timeout=SLOW)
    app.get_by_label("New place from").select_option("empty")
    name = app.get_by_label("Name of the place")
    expect(name).to_have_value("New place")
    name.fill("Attic")
    name.press("Tab")
    expect(app.get_by_role("button", name="Attic 0 items")).to_be_visible()

    app.get_by_label("Add to the kit").select_option("dumbbells")
    form = app.get_by_role("form", name="Item")
    form.get_by_label("Name *").fill("old dumbbells")
    form.get_by_label(re.compile("^Masses that exist")).fill("4 8 ten")
    form.get_by_role("button", name="Add to the kit").click()
    expect(form.get_by_role("alert")).to_contain_text("a number such as")
    # What was typed is still there; mend it.
    expect(form.get_by_label("Name *")).to_have_value("old dumbbells")
    form.get_by_label(re.compile("^Masses that exist")).fill("4 8 10")
    form.get_by_role("button", name="Add to the kit").click()
    expect(app.get_by_role("button", name=re.compile("^old dumbbells dumbbells"))).to_be_visible()
    expect(app.get_by_text("covered for Ilka Marsh")).to_be_visible(timeout=SLOW)
    traps = app.get_by_role("button", name=re.compile("^upper traps, mid-range"))
    traps.first.click()
    expect(app.get_by_text(re.compile("too light here for upper traps", re.IGNORECASE))).to_be_visible()

    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_text("Kit, 0 items")).to_be_visible()
    app.keyboard.press("r")
    expect(app.get_by_text("Kit, 1 items")).to_be_visible()


def test_a_broken_file_names_all_its_faults_and_the_mended_one_comes_in(app: Page, tmp_path: Path):
    app.goto(origin(app) + "/places/4")
    expect(app.get_by_text("Kit, 8 items")).to_be_visible(timeout=SLOW)
    (tmp_path / "broken.csv").write_text(BROKEN)
    (tmp_path / "mended.csv").write_text(MENDED)
    app.get_by_label("Kit file").set_input_files(tmp_path / "broken.csv")
    alert = app.get_by_role("alert")
    for where in ("line 2, width_cm", "line 3, masses_kg", "line 4, notches_deg", "line 5, kind"):
        expect(alert).to_contain_text(where)
    expect(alert).to_contain_text("nothing was imported")
    expect(app.get_by_text("Kit, 8 items")).to_be_visible()
    app.get_by_label("Kit file").set_input_files(tmp_path / "mended.csv")
    expect(app.get_by_text("Kit, 2 items")).to_be_visible()
    expect(app.get_by_label("Name of the place")).to_have_value("Barn")
    app.keyboard.press("u")
    expect(app.get_by_text("Kit, 8 items")).to_be_visible()


def test_measure_a_band_and_put_it_into_the_kit(app: Page):
    app.goto(origin(app) + "/measuring/3/sand-band")
    expect(app.get_by_role("heading", name="Measure a band")).to_be_visible()
    app.get_by_role("button", name="Read the scale").click()
    expect(app.get_by_text("Reading 2 of 21")).to_be_visible()
    app.keyboard.press("a")
    expect(app.get_by_text("All points are read.")).to_be_visible(timeout=SLOW)
    expect(app.get_by_text(re.compile("^Readings scatter by .* good enough"))).to_be_visible()
    app.get_by_role("button", name="Put into the kit").click()
    expect(app.get_by_text("Put into the kit of Spare room.")).to_be_visible()
    app.goto(origin(app) + "/places/3")
    app.get_by_role("button", name=re.compile("^sand band")).click()
    expect(app.get_by_label("Day it was measured", exact=False)).not_to_have_value("")


def test_a_client_s_size_is_rejected_at_its_field_and_undone(app: Page):
    app.get_by_role("link", name="Size and limits").click()
    stature = app.get_by_label("Stature")
    expect(stature).to_have_value("162")
    stature.fill("62")
    stature.press("Tab")
    expect(app.get_by_role("alert").first).to_contain_text("120 to 230 cm")
    stature.fill("170")
    stature.press("Tab")
    expect(app.get_by_text("170 cm tall")).to_be_visible()
    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_text("162 cm tall")).to_be_visible()
    app.get_by_label("Joint", exact=True).select_option("knee")
    app.get_by_label("When").select_option("bent deep")
    app.get_by_role("button", name="Add", exact=True).click()
    expect(app.get_by_text("both knee, bent deep")).to_be_visible()


def test_what_a_log_taught_is_forgotten_and_brought_back(app: Page):
    app.get_by_role("link", name="Size and limits").first.click()
    learned = app.get_by_role("button", name=re.compile("^Forget what was learned of"))
    expect(learned).to_have_count(2)
    expect(app.get_by_role("listitem").filter(has_text="Raise")).to_contain_text("Raise, cable: −10 % from 6 sets")
    app.get_by_role("button", name="Forget what was learned of lateral_raise, cable").click()
    expect(learned).to_have_count(1)
    app.get_by_role("button", name="Undo").click()
    expect(learned).to_have_count(2)


def test_crowded_hours_leave_kit_out_at_one_press(app: Page):
    app.goto(origin(app) + "/lines/9/at/5")
    expect(app.get_by_role("button", name="Accept this swap")).to_be_visible(timeout=SLOW)
    app.get_by_role("button", name="leave out").click()
    hours = app.get_by_role("button", name="Mon Tue Wed Thu, 17:00 to 19:30")
    in_use = app.get_by_role("checkbox", name="twin columns")
    expect(in_use).not_to_be_checked()
    hours.click()
    expect(hours).to_have_attribute("aria-pressed", "true", timeout=SLOW)
    expect(in_use).to_be_checked()
    hours.click()
    expect(in_use).not_to_be_checked(timeout=SLOW)


def test_a_shoulder_that_hurts_changes_the_ranking_and_shows_why(app: Page):
    bench = origin(app) + "/lines/3/at/1"
    app.goto(origin(app) + "/people/1")
    # The demo's client already spares overhead work; now anything out to the side hurts too.
    app.get_by_label("Joint", exact=True).select_option("shoulder")
    app.get_by_label("When").select_option("wide")
    app.get_by_role("button", name="Add", exact=True).click()
    expect(app.get_by_text("both shoulder, wide")).to_be_visible()
    app.goto(bench)
    expect(app.get_by_text(re.compile("Left out: .*raises the upper arm out to the side"))).to_be_visible(timeout=SLOW)
    expect(app.get_by_text("The prescribed lift strains the shoulder")).to_be_visible()
    expect(app.get_by_role("listbox", name="Candidates").get_by_role("option").first).to_be_visible()
