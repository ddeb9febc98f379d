"""The coach's job, in the real interface: open a line, pick a place, compare, accept, find it again."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from browser import DemoServer, axe_faults, candidates, wait_for_bench
from oddswap.exercises import movements

pytestmark = pytest.mark.browser


def test_find_compare_and_accept_a_swap_by_keyboard_alone(app: Page, server: DemoServer):
    app.keyboard.press("ArrowDown")
    app.keyboard.press("ArrowRight")
    app.keyboard.press("Enter")
    wait_for_bench(app)
    expect(app.get_by_role("navigation", name="Where we are")).to_contain_text("line 2 of 8")
    expect(app.get_by_label("place: Quay Hotel room")).to_be_visible()

    app.keyboard.press("ArrowRight")
    chosen = candidates(app).nth(1)
    expect(chosen).to_have_attribute("aria-selected", "true")
    words = app.get_by_role("region", name="In words")
    expect(words).to_contain_text("wall pulley, hole")
    expect(words).to_contain_text("kg pin")
    expect(words).to_contain_text("in reserve")
    title = chosen.locator("span.font-semibold").inner_text()

    # Scrubbing moves both figures and both readings.
    figure = app.get_by_role("img", name=re.compile("^Swap:"))
    before = figure.get_attribute("aria-label")
    for _ in range(6):
        app.keyboard.press(",")
    expect(figure).not_to_have_attribute("aria-label", before or "")

    app.keyboard.press("w")
    expect(app.get_by_role("dialog")).to_contain_text("likeness of the resistance profile")
    app.keyboard.press("Escape")
    expect(app.get_by_role("dialog")).to_be_hidden()
    app.keyboard.press("Enter")
    expect(app.get_by_text(re.compile("^Accepted for Quay Hotel room")).first).to_be_visible()

    server.stop()
    server.start()
    app.reload()
    wait_for_bench(app)
    expect(candidates(app).nth(1)).to_have_attribute("aria-selected", "true")
    expect(candidates(app).nth(1)).to_contain_text("accepted")
    app.keyboard.press("Escape")
    cell = app.get_by_role("button", name=f"Incline curl at Quay Hotel room: {title}")
    expect(cell).to_be_visible()

    app.keyboard.press("ArrowDown")
    app.keyboard.press("ArrowRight")
    app.keyboard.press("Enter")
    wait_for_bench(app)
    app.keyboard.press("u")
    expect(app.get_by_text("Nothing accepted for Quay Hotel room yet.")).to_be_visible()


def test_find_compare_and_accept_a_swap_with_the_mouse_alone(app: Page, server: DemoServer):
    app.get_by_role("button", name=re.compile("Tobi Renn")).click()
    app.get_by_role("button", name="Twin cable fly at Harbour Hall").click()
    wait_for_bench(app)
    app.get_by_label(re.compile("^place:")).click()
    app.get_by_role("option", name="Quay Hotel room").click()
    expect(app).to_have_url(re.compile(r"/lines/\d+/at/2$"))
    wait_for_bench(app)

    candidates(app).nth(2).click()
    expect(candidates(app).nth(2)).to_have_attribute("aria-selected", "true")
    ribbon = app.get_by_role("img", name=re.compile("^Load on the"))
    figure = app.get_by_role("img", name=re.compile("^Prescribed:"))
    before = figure.get_attribute("aria-label")
    box = ribbon.bounding_box()
    assert box
    app.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + 200)
    app.mouse.down()
    app.mouse.move(box["x"] + box["width"] * 0.85, box["y"] + 200, steps=5)
    app.mouse.up()
    expect(figure).not_to_have_attribute("aria-label", before or "")

    seen = app.get_by_role("button", name=re.compile("^Seen from the"))
    for _ in range(3):
        if "top" not in (seen.get_attribute("aria-label") or ""):
            seen.click()
    expect(app.get_by_role("img", name=re.compile("seen from the top$")).first).to_be_visible()
    app.get_by_role("button", name=re.compile("of 100: why")).click()
    expect(app.get_by_role("dialog")).to_contain_text("weight 35 %")
    app.get_by_role("button", name="Close").click()

    title = candidates(app).nth(2).locator("span.font-semibold").inner_text()
    app.get_by_role("button", name="Accept this swap").click()
    expect(app.get_by_role("button", name="Undo")).to_be_visible()

    server.stop()
    server.start()
    app.reload()
    wait_for_bench(app)
    expect(candidates(app).nth(2)).to_contain_text("accepted")
    app.get_by_role("link", name="Tobi Renn").click()
    expect(app.get_by_role("button", name=f"Twin cable fly at Quay Hotel room: {title}")).to_be_visible()
    app.get_by_role("button", name="Twin cable fly at Quay Hotel room").click()
    wait_for_bench(app)
    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_text("Nothing accepted for Quay Hotel room yet.")).to_be_visible()


def test_the_tour_goes_on_where_its_control_is_pressed_and_after_a_reload(app: Page):
    tour = app.get_by_role("region", name="Tour")
    app.get_by_role("button", name="Show me around").click()
    expect(tour).to_contain_text("1 of 8")
    app.get_by_role("button", name="Flat fly at Spare room").click()
    expect(tour).to_contain_text("2 of 8")
    candidates = app.get_by_label("Candidates").locator("button")
    candidates.nth(1).click(timeout=60_000)
    expect(tour).to_contain_text("3 of 8")
    app.reload()
    expect(tour).to_contain_text("Where it is hard")
    assert axe_faults(app) == []
    app.get_by_role("link", name="Odd Swap: to the roster").click()
    expect(tour).to_contain_text("Go to a line at a place to go on.")
    tour.get_by_role("button", name="End the tour").click()
    expect(tour).to_be_hidden()
    app.reload()
    expect(app.get_by_role("heading", name="Ilka Marsh")).to_be_visible()
    expect(app.get_by_role("button", name="Show me around")).to_be_hidden()


def test_shortcuts_are_listed_on_one_key_and_the_theme_is_kept(app: Page):
    app.keyboard.press("?")
    dialog = app.get_by_role("dialog", name="Keys")
    expect(dialog).to_contain_text("Open the match bench")
    app.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    app.keyboard.press("d")
    expect(app.locator("html")).to_have_attribute("data-theme", "dark")
    app.reload()
    expect(app.locator("html")).to_have_attribute("data-theme", "dark")


def test_a_line_that_is_not_there_says_so_and_offers_a_way_out(app: Page, server: DemoServer):
    app.goto(f"http://127.0.0.1:{server.port}/lines/999/at/1")
    alert = app.get_by_role("alert")
    expect(alert).to_contain_text("There is no such record")
    expect(alert).to_contain_text("Go back to the roster")


def test_when_the_app_is_stopped_the_screen_says_so_and_recovers(app: Page, server: DemoServer):
    app.get_by_role("button", name="Incline curl at Spare room").click()
    wait_for_bench(app)
    server.stop()
    app.keyboard.press("Enter")
    expect(app.get_by_text("The app does not answer").first).to_be_visible()
    server.forked = False  # as a coach starts it again
    server.start()
    app.keyboard.press("Enter")
    expect(app.get_by_text(re.compile("^Accepted for Spare room")).first).to_be_visible()


def test_the_movement_library_is_searched_and_stepped_through(app: Page):
    app.keyboard.press("m")
    listed = app.get_by_role("navigation", name="Movements").get_by_role("button")
    expect(listed).to_have_count(len(movements()))
    app.keyboard.press("/")
    app.keyboard.type("hamstrings seated")
    expect(listed).to_have_count(1)
    app.keyboard.press("Enter")
    expect(app).to_have_url(re.compile("/movements/leg_curl$"))
    expect(app.get_by_role("heading", level=1, name=re.compile("^Leg curl"))).to_be_visible(timeout=30_000)
    expect(app.get_by_text("limits the set")).to_be_visible()
    figure = app.get_by_role("img", name=re.compile("^Leg curl.*knee bent"))
    before = figure.get_attribute("aria-label")
    app.keyboard.press(".")
    expect(figure).not_to_have_attribute("aria-label", before or "")
    app.keyboard.press("k")
    expect(app.get_by_label("kit: cable")).to_be_visible(timeout=30_000)
    expect(app.get_by_role("region", name="Figure")).to_contain_text("cuff")

    # Kit that cannot do it says so, and the way back is one choice away.
    app.get_by_label("Search movements").fill("")
    app.get_by_role("button", name="Pulldown", exact=True).click()
    expect(app.get_by_role("heading", level=1, name=re.compile("^Pulldown"))).to_be_visible(timeout=30_000)
    app.get_by_label(re.compile("^kit:")).click()
    app.get_by_role("option", name="dumbbells").click()
    expect(app.get_by_role("alert")).to_contain_text("follow the load", timeout=30_000)
    app.get_by_role("button", name="Try again").click()
    expect(app.get_by_role("heading", level=1, name=re.compile("^Pulldown"))).to_be_visible(timeout=30_000)


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_no_accessibility_faults(app: Page, theme: str):
    """What opens inside a view; ``test_records`` looks at every view as it opens."""
    app.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
    home = "/".join(app.url.split("/")[:3])
    app.get_by_role("button", name="Incline curl at Quay Hotel room").click()
    wait_for_bench(app)
    app.keyboard.press("ArrowRight")
    for where, name in (("b", "By hand"), ("j", "Judgement")):
        app.keyboard.press(where)
        expect(app.get_by_role("group", name=name)).to_be_visible()
        expect(app.get_by_text(re.compile("Who works|will do")).first).to_be_visible()
        found = axe_faults(app)
        assert found == [], name
    app.goto(f"{home}/measuring/3/sand")
    expect(app.get_by_text("Measure a band").first).to_be_visible(timeout=60_000)
    app.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
    found = axe_faults(app)
    assert found == [], "measuring a band"
