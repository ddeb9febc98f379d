"""What a coach keeps, made and changed in the real interface: units, notes, floor, weighings, lines by drag, backups."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from browser import axe_faults, wait_for_bench, wait_until_stored

pytestmark = pytest.mark.browser
SLOW = 60_000


def origin(page: Page) -> str:
    return "/".join(page.url.split("/")[:3])


def test_pounds_and_inches_are_read_and_typed_everywhere(app: Page):
    app.get_by_role("link", name="Workspace").click()
    for name, unit in (("masses", "lb"), ("lengths", "in")):
        app.get_by_label(re.compile(f"^{name}: ")).click()
        app.get_by_role("option", name=unit, exact=True).click()
        expect(app.get_by_label(f"{name}: {unit}")).to_be_visible()
    app.goto(origin(app) + "/places/3")
    expect(app.get_by_label("Ceiling")).to_have_value("96.5", timeout=SLOW)
    app.get_by_role("button", name=re.compile("^.*dumbbells dumbbells")).first.click()
    masses = app.get_by_label(re.compile("^Masses that exist, lb"))
    masses.fill("5 10 15 25")
    app.get_by_role("button", name="Keep").click()
    expect(app.get_by_text("masses 5lb 10lb 15lb 25lb")).to_be_visible()
    # A client's own units are the client's.
    app.goto(origin(app) + "/people/1")
    app.get_by_label("lengths: cm").click()
    app.get_by_role("option", name="in", exact=True).click()
    stature = app.get_by_label("Stature")
    expect(stature).to_have_value("63.8")
    stature.fill("64")
    stature.press("Tab")
    expect(app.get_by_text("64 in tall")).to_be_visible()
    app.get_by_label("masses: kg").click()
    app.get_by_role("option", name="lb", exact=True).click()
    app.goto(origin(app) + "/lines/2/at/3")
    wait_for_bench(app)
    expect(app.get_by_role("region", name="In words")).to_contain_text(re.compile(r"\d lb a hand"))
    assert not re.search(r"\d (kg|cm)\b", app.get_by_role("region", name="In words").inner_text())
    expect(app.get_by_role("region", name="Figures")).to_contain_text(re.compile(r"\d in\b"))


def test_anything_is_found_by_one_key(app: Page):
    app.keyboard.press("/")
    app.get_by_label("Letters of its name").fill("incline c")
    app.get_by_role("option", name=re.compile("Incline curl Ilka")).wait_for()
    app.keyboard.press("Enter")
    wait_for_bench(app)
    expect(app.get_by_role("heading", level=1)).to_have_text("Incline curl")
    app.keyboard.press("/")
    app.get_by_label("Letters of its name").fill("zzz")
    expect(app.get_by_text("Nothing here has these letters")).to_be_visible()


def test_a_floor_plan_is_arranged_by_drag_and_by_keys_and_undone_after_a_reload(app: Page):
    app.goto(origin(app) + "/places/1")
    tower = app.get_by_role("button", name=re.compile("^corner tower: "))
    tower.wait_for(timeout=SLOW)
    expect(tower).to_have_accessible_name(re.compile("not put anywhere yet"))
    tower.scroll_into_view_if_needed()
    box = tower.bounding_box()
    app.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    app.mouse.down()
    app.mouse.move(box["x"] + 10, box["y"] + 90, steps=5)
    app.mouse.up()
    expect(tower).not_to_have_accessible_name(re.compile("not put anywhere yet"))
    dragged = tower.get_attribute("aria-label")
    tower.focus()
    app.keyboard.press("Shift+ArrowLeft")
    expect(tower).not_to_have_accessible_name(dragged)
    app.reload()
    tower.wait_for(timeout=SLOW)
    assert tower.get_attribute("aria-label") != dragged
    app.get_by_role("button", name="Undo").click()
    expect(tower).to_have_accessible_name(dragged)
    app.get_by_role("button", name="Undo").click()
    expect(tower).to_have_accessible_name(re.compile("not put anywhere yet"))


def test_a_place_is_copied_with_its_clients_or_alone(app: Page):
    app.goto(origin(app) + "/places/3")
    expect(app.get_by_text("Trains here: Ilka Marsh")).to_be_visible(timeout=SLOW)
    app.get_by_role("button", name="with its clients").click()
    expect(app.get_by_label("Name of the place")).to_have_value("Spare room 2")
    expect(app.get_by_text("Trains here: Ilka Marsh")).to_be_visible()
    app.get_by_role("button", name="alone", exact=True).click()
    expect(app.get_by_label("Name of the place")).to_have_value("Spare room 2 2")
    expect(app.get_by_text("No client trains here yet.")).to_be_visible()
    # Crowded hours are changed where they stand.
    app.get_by_role("button", name="Add crowded hours").click()
    app.get_by_label("Crowded from, 1").fill("06:30")
    app.get_by_label("Crowded from, 1").press("Tab")
    app.get_by_role("button", name="tue").click()
    expect(app.get_by_role("button", name="tue")).to_have_attribute("aria-pressed", "true")
    app.reload()
    expect(app.get_by_label("Crowded from, 1")).to_have_value("06:30")
    expect(app.get_by_role("button", name="tue")).to_have_attribute("aria-pressed", "true")


def test_weighings_of_any_day_are_kept_and_taken_out(app: Page):
    app.goto(origin(app) + "/people/2")
    mass = app.get_by_label("Body mass")
    before = mass.input_value()
    for kilograms, day in (("81.5", "2026-01-05"), ("90", "2025-12-01")):
        app.get_by_label("Bodyweight, kg").fill(kilograms)
        app.get_by_label("Day of the weighing").fill(day)
        app.get_by_role("button", name="Weigh in").click()
        expect(app.get_by_label("Bodyweight, kg")).to_have_value("")
    app.get_by_role("button", name=re.compile("weighings?$")).click()
    app.get_by_role("button", name="Remove the weighing of 2025-12-01").click()
    expect(app.get_by_role("button", name="Remove the weighing of 2025-12-01")).to_have_count(0)
    # An older weighing does not change what the client weighs today.
    newest = app.get_by_role("list", name="Weighings").get_by_role("listitem").first.inner_text()
    assert newest.split()[1] == mass.input_value(), (newest, before)


def test_lines_are_dragged_noted_and_brought_from_a_file(app: Page, tmp_path: Path):
    app.goto(origin(app) + "/programs/1")
    names = app.get_by_label(re.compile("^Name of line"))
    names.first.wait_for()
    first, second = (names.nth(i).input_value() for i in (0, 1))
    app.get_by_label(f"Drag {first} to another place; the arrows do the same by key").drag_to(names.nth(2))
    expect(names.first).to_have_value(second)
    expect(names.nth(1)).to_have_value(first)
    app.get_by_role("button", name=f"Note on {first}").click()
    note = app.get_by_label("Note", exact=True)
    note.fill("slow on the way down")
    with app.expect_response(lambda r: r.request.method == "PUT"):
        note.press("Tab")
    app.reload()
    expect(app.get_by_label("Note", exact=True)).to_have_value("slow on the way down")
    with app.expect_download() as saved:
        app.get_by_role("link", name="Save as JSON").click()
    path = tmp_path / "program.json"
    saved.value.save_as(path)
    app.goto(origin(app) + "/clients/2")
    app.get_by_label("Program file").set_input_files(path)
    expect(names.first).to_have_value(second)
    expect(app.get_by_label("Note", exact=True)).to_have_value("slow on the way down")
    expect(app.get_by_role("link", name="Tobi Renn")).to_be_visible()


def test_a_swap_is_accepted_with_a_note_and_its_history_is_read(app: Page):
    app.goto(origin(app) + "/lines/2/at/3")
    wait_for_bench(app)
    app.get_by_role("button", name="with a note").click()
    app.get_by_role("textbox", name="Why").fill("no bench free after six")
    app.get_by_role("dialog").get_by_role("button", name="Accept this swap").click()
    expect(app.get_by_text(re.compile("^Accepted for Spare room"))).to_have_count(2)
    app.get_by_role("button", name="History").click()
    past = app.get_by_role("dialog").get_by_role("listitem")
    expect(past).to_have_count(1)
    expect(past).to_contain_text("no bench free after six")
    expect(past).to_contain_text("In force")


def test_ribbon_and_figures_have_a_table_twin(app: Page):
    app.goto(origin(app) + "/lines/2/at/3")
    wait_for_bench(app)
    app.keyboard.press("t")
    table = app.get_by_role("dialog").get_by_role("table")
    rows = table.get_by_role("row")
    assert rows.count() > 4
    expect(table.get_by_role("columnheader")).to_have_text(["Length", "Prescribed", "there", "Swap", "there"])
    loads = [float(v) for v in re.findall(r"([\d.]+) N·m", table.inner_text())]
    assert max(loads) > 5
    app.keyboard.press("Escape")
    expect(app.get_by_role("dialog")).to_have_count(0)
    app.keyboard.press("m")
    app.get_by_role("button", name="As a table", exact=True).click(timeout=SLOW)
    expect(app.get_by_role("dialog").get_by_role("table")).to_have_count(2)


def test_a_measuring_run_goes_on_after_a_reload(app: Page):
    app.goto(origin(app) + "/measuring")
    read = app.get_by_role("button", name="Read the scale")
    read.click(timeout=SLOW)
    read.click()
    expect(app.get_by_role("button", name="Remove reading 2")).to_be_visible()
    place = next(p["id"] for p in app.request.get(origin(app) + "/api/places").json() if p["name"] == "Spare room")
    runs = f"{origin(app)}/api/measurements?place={place}"
    wait_until_stored(app, runs, lambda held: [len(m["run"]["measurement"]["readings"]) for m in held] == [2])
    app.reload()
    expect(app.get_by_text("2 readings, not used yet")).to_be_visible(timeout=SLOW)
    app.get_by_role("button", name="Go on").click()
    expect(app.get_by_role("button", name="Remove reading 2")).to_be_visible()
    expect(app.get_by_text(re.compile("^Reading 3 of"))).to_be_visible()
    # What was removed or read comes back, also after a reload.
    app.get_by_role("button", name="Remove reading 1").click()
    expect(app.get_by_role("button", name="Remove reading 2")).to_have_count(0)
    app.get_by_role("button", name="Undo", exact=True).click()
    expect(app.get_by_role("button", name="Remove reading 2")).to_be_visible()


def test_a_backup_is_saved_and_put_back(app: Page, tmp_path: Path):
    app.goto(origin(app) + "/workspace")
    with app.expect_download() as saved:
        app.get_by_role("link", name="Save a backup").click()
    path = tmp_path / "copy.db"
    saved.value.save_as(path)
    app.get_by_role("button", name="Remove the demo data").click()
    app.get_by_role("button", name="Remove the demo", exact=True).click()
    expect(app.get_by_role("button", name="Bring the demo data")).to_be_visible()
    app.get_by_label("Backup file").set_input_files(path)
    app.get_by_role("button", name="Put it in place").click()
    expect(app.get_by_text(re.compile("is in place. What was here before is kept"))).to_be_visible()
    app.goto(origin(app))
    expect(app.get_by_role("heading", name="Ilka Marsh")).to_be_visible()


VIEWS = {
    "roster": "/",
    "client": "/people/1",
    "program": "/programs/1",
    "place": "/places/3",
    "bench": "/lines/2/at/3",
    "floor": "/sessions/1/at/2",
    "measuring": "/measuring",
    "library": "/movements/curl",
    "calculators": "/calculators/strap",
    "workspace": "/workspace",
}


SIZES = ((1280, 800), (1024, 768), (768, 1024), (640, 400), (390, 844))


@pytest.mark.parametrize("half", [0, 1])
def test_every_view_is_accessible_in_every_size(app: Page, half: int):
    """axe-core finds nothing at desk, tablet and phone size, and the page never scrolls sideways; 640 px is 200 % of 1280."""
    base, found = origin(app), []
    for name, path in list(VIEWS.items())[half::2]:
        app.set_viewport_size({"width": 1280, "height": 800})
        app.goto(base + path)
        app.get_by_role("heading", level=1).first.wait_for(state="attached", timeout=SLOW)
        if name == "bench":
            wait_for_bench(app)
        app.wait_for_load_state("networkidle", timeout=SLOW)
        for width, height in SIZES:
            app.set_viewport_size({"width": width, "height": height})
            app.wait_for_timeout(150)
            wide = app.evaluate("document.documentElement.scrollWidth")
            if wide > width:
                found.append(f"{name} at {width}: {wide} px wide")
            if width in (1280, 768, 390):
                found += [f"{name} at {width}: {one}" for one in axe_faults(app)]
        # A theme changes colours alone; the page follows its device.
        app.emulate_media(color_scheme="dark")
        expect(app.locator("html")).to_have_attribute("data-theme", "dark")
        app.set_viewport_size({"width": 1280, "height": 800})
        app.wait_for_timeout(150)
        found += [f"{name} in the dark: {one}" for one in axe_faults(app, "color-contrast")]
        app.emulate_media(color_scheme="light")
    assert found == []
