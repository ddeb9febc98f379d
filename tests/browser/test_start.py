"""From an empty database to an accepted swap, a program written and undone, a conflict of two windows, and a phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from browser import DemoServer, axe_faults, candidates, wait_for_bench, wait_until_stored

pytestmark = pytest.mark.browser


@pytest.fixture
def empty(tmp_path, page: Page):
    """The app with nothing in it; fails the test on script errors."""
    server = DemoServer(tmp_path / "own.db", forked=True, demo=False)
    troubles: list[str] = []
    page.on("pageerror", lambda error: troubles.append(str(error)))
    page.goto(server.start())
    page.get_by_role("heading", name="Prescribe once").wait_for()
    yield page
    server.stop()
    assert troubles == []


def test_from_nothing_to_an_accepted_swap_by_mouse(empty: Page):
    empty.get_by_role("button", name="Next").click()
    expect(empty.get_by_role("alert")).to_have_count(3)
    empty.get_by_label("Name").fill("Ona Pell")
    empty.get_by_label("Standing height").fill("17")
    empty.get_by_label("Bodyweight").fill("71")
    empty.get_by_role("button", name="Next").click()
    expect(empty.get_by_text("120 to 230 cm").first).to_be_visible()
    empty.get_by_label("Standing height").fill("172")
    empty.get_by_label("Bodyweight").fill("71,5")
    empty.get_by_role("button", name="Next").click()
    empty.get_by_role("button", name="Hotel room").click()
    empty.get_by_label("Movement").click()
    empty.get_by_label("Movement").press_sequentially("curl")
    empty.get_by_role("option", name=re.compile("^Curl")).click()
    expect(empty.get_by_text("At this load")).to_be_visible()
    empty.get_by_label("With").select_option(label="cable")
    empty.get_by_label("Sets").fill("4")
    empty.get_by_label("Sets").press("Tab")
    expect(empty.get_by_text(", 4 × 8–10")).to_be_visible()
    empty.get_by_role("button", name="Prescribe it and find its swaps").click()
    wait_for_bench(empty)
    empty.get_by_role("button", name="Accept this swap").click()
    expect(empty.get_by_text(re.compile("^Accepted for Hotel room")).first).to_be_visible()
    empty.get_by_role("link", name="Ona Pell").click()
    expect(empty.get_by_text("All swaps found")).to_be_visible()


def test_from_nothing_to_an_accepted_swap_by_keyboard_alone(empty: Page):
    keys = empty.keyboard

    def tab_to(name: str, most: int = 30):
        for _ in range(most):
            focused = empty.evaluate(
                "() => { const e = document.activeElement; const own = e.labels?.[0]?.textContent ?? '';"
                " return (e.getAttribute('aria-label') || own || e.textContent || '').trim() }"
            )
            if focused.startswith(name):
                return
            keys.press("Tab")
        raise AssertionError(f"{name} cannot be reached")

    for field, typed in (("Name", "Ona Pell"), ("Standing height", "172"), ("Bodyweight", "71")):
        tab_to(field)
        keys.type(typed)
    keys.press("Enter")
    expect(empty.get_by_text("Begin with the nearest")).to_be_visible()
    tab_to("Hotel room")
    keys.press("Enter")
    movement = empty.get_by_label("Movement")
    movement.wait_for()
    for _ in range(30):
        if movement.evaluate("e => e === document.activeElement"):
            break
        keys.press("Tab")
    keys.type("lateral")
    empty.get_by_role("option", name=re.compile("^Raise")).wait_for()
    keys.press("Enter")
    expect(empty.get_by_text("At this load")).to_be_visible()
    tab_to("Prescribe it")
    keys.press("Enter")
    wait_for_bench(empty)
    keys.press("Enter")
    expect(empty.get_by_text(re.compile("^Accepted for Hotel room")).first).to_be_visible()


def test_a_program_is_written_changed_moved_and_undone_after_a_reload(app: Page):
    app.get_by_role("button", name="New program").click()
    app.get_by_role("button", name="Add Session A").click()
    for movement in ("row", "curl"):
        app.get_by_role("button", name="Pick it from a form instead").click()
        app.get_by_label("Movement").click()
        app.get_by_label("Movement").press_sequentially(movement)
        app.get_by_role("option", name=re.compile(f"^{movement}", re.I)).first.click()
        app.get_by_role("button", name="Put it into Session A").click()
        expect(app.get_by_role("dialog")).to_be_hidden()
    lines = app.get_by_role("region", name="Session A").get_by_role("listitem")
    expect(lines).to_have_count(2)
    lines.nth(1).get_by_role("button", name=re.compile("up$")).click()
    expect(lines.nth(0).get_by_label(re.compile("^Name of line"))).to_have_value(re.compile("curl", re.I))
    sets = lines.nth(0).get_by_label(re.compile("^Sets of"))
    sets.fill("99")
    sets.press("Tab")
    expect(lines.nth(0).get_by_role("alert")).to_contain_text("12")
    sets.fill("5")
    sets.press("Tab")
    expect(lines.nth(0).get_by_role("alert")).to_have_count(0)
    load = lines.nth(0).get_by_label(re.compile("^Load of"))
    load.fill("17")
    load.press("Tab")
    expect(lines.nth(0)).to_contain_text("17 kg")
    app.reload()
    expect(load).to_have_value("17")
    app.get_by_role("button", name="Undo").click()
    expect(load).not_to_have_value("17")
    app.get_by_role("button", name="Redo").click()
    expect(load).to_have_value("17")
    app.get_by_role("button", name="Remove program").click()
    expect(app.get_by_role("alertdialog")).to_contain_text("2 lines")
    app.get_by_role("button", name="Remove it").click()
    app.get_by_role("button", name="Put it back").click()
    expect(lines).to_have_count(2)


def test_two_windows_do_not_overwrite_each_other(app: Page, browser: Browser):
    other = browser.new_page()
    address = app.url.split("/clients")[0].rstrip("/")
    for window in (app, other):
        window.goto(address + "/people/1")
        window.get_by_label("Name of the client").wait_for()
    name = app.get_by_label("Name of the client")
    name.fill("Ilka of the first window")
    name.press("Tab")
    expect(app.get_by_role("button", name="Undo")).to_be_enabled()
    height = other.get_by_label("Stature")
    height.fill("171")
    height.press("Tab")
    dialog = other.get_by_role("alertdialog")
    expect(dialog).to_contain_text("was changed elsewhere")
    expect(dialog).to_contain_text("Ilka of the first window")
    other.get_by_role("button", name="Keep what was stored").click()
    expect(other.get_by_label("Name of the client")).to_have_value("Ilka of the first window")
    # Quick edits of one window do not revert each other.
    for field, typed in (("Stature", "169"), ("Body mass", "63")):
        other.get_by_label(field).fill(typed)
        other.get_by_label(field).press("Tab")
    wait_until_stored(
        other,
        address + "/api/clients/1",
        lambda held: (held["client"]["stature_cm"], held["client"]["mass_kg"]) == (169, 63),
    )
    other.reload()
    expect(other.get_by_label("Stature")).to_have_value("169")
    expect(other.get_by_label("Body mass")).to_have_value("63")
    other.close()


@pytest.fixture
def phone(server: DemoServer, browser: Browser):
    """The demo on a phone; fails the test on script errors."""
    page = browser.new_page(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    troubles: list[str] = []
    page.on("pageerror", lambda error: troubles.append(str(error)))
    page.goto(server.start())
    page.get_by_role("heading", name="Ilka Marsh").wait_for()
    yield page
    page.close()
    assert troubles == []


def test_the_main_views_are_used_on_a_phone_without_scrolling_sideways(phone: Page):
    def holds():
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390

    holds()
    phone.get_by_role("link", name="Size and limits").tap()
    phone.get_by_label("Stature").fill("164")
    phone.get_by_label("Stature").press("Enter")
    expect(phone.get_by_text("164 cm tall")).to_be_visible()
    holds()
    phone.get_by_role("button", name="Undo").tap()
    expect(phone.get_by_text("162 cm tall")).to_be_visible()
    phone.get_by_role("link", name="Quay Hotel room").tap()
    phone.get_by_role("button", name=re.compile("^hex dumbbells")).first.tap()
    holds()
    phone.get_by_role("link", name=re.compile("^Odd Swap")).tap()
    phone.get_by_role("button", name="Incline curl at Quay Hotel room: find a swap").tap()
    wait_for_bench(phone)
    candidates(phone).nth(1).tap()
    expect(phone.get_by_role("region", name="In words")).to_be_visible()
    phone.get_by_role("tab", name="By hand").tap()
    holds()
    phone.get_by_role("button", name="Accept this swap").tap()
    expect(phone.get_by_text(re.compile("^Accepted for Quay Hotel room")).first).to_be_visible()
    phone.get_by_role("link", name="Calculators").tap()
    phone.get_by_role("spinbutton").first.fill("20")
    holds()


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_beginning_from_nothing_is_accessible(app: Page, theme: str):
    if theme == "dark":
        app.keyboard.press("d")
    app.keyboard.press("n")
    app.get_by_role("heading", name="Prescribe once").wait_for()
    found = axe_faults(app)
    assert found == []
