"""Hands on the match bench: drag and snap back, other lenses, what to leave out, comparing; and the calculators."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from browser import DemoServer, candidates, wait_for_bench

pytestmark = pytest.mark.browser


def match_of(page: Page) -> str:
    return page.get_by_role("button", name=re.compile("of 100: why")).get_attribute("aria-label") or ""


def open_bench(page: Page, line: str, place: str) -> None:
    page.get_by_role("button", name=f"{line} at {place}").click()
    wait_for_bench(page)


def test_the_pulley_is_dragged_and_snaps_back(app: Page):
    open_bench(app, "Cable curl, back to the column", "Quay Hotel room")
    words = app.get_by_role("region", name="In words")
    solved, holes = match_of(app), words.get_by_text(re.compile("hole")).first.inner_text()
    handle = app.locator("[data-handle]").first
    box = handle.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    app.mouse.move(x, y)
    app.mouse.down()
    app.mouse.move(x - 8, y - 45, steps=6)
    expect(words).to_contain_text("by hand", ignore_case=True)
    app.mouse.up()
    expect(app.get_by_role("button", name=solved)).to_have_count(0)
    app.keyboard.press("n")
    expect(words.get_by_text(re.compile("hole")).first).not_to_have_text(holes)

    # The load is kept while the pulley moves, then converted anew on demand.
    app.keyboard.press("b")
    load = words.get_by_role("group", name="By hand")
    load.get_by_role("button", name="Convert load anew").click()
    # Pins are coarse here; what is converted is never much too heavy.
    expect(load.get_by_text(re.compile("% effort"))).to_have_text(re.compile(r"^\s*(\d\d|10\d|11[0-5]) % effort"))
    load.get_by_role("button", name="Back to solved").click()
    expect(app.get_by_role("button", name=solved)).to_be_visible()
    expect(load.get_by_role("button", name="Back to solved")).to_be_disabled()


def test_sliders_work_by_keyboard_and_say_what_cannot_be(app: Page):
    open_bench(app, "Cable curl, back to the column", "Quay Hotel room")
    app.keyboard.press("b")
    group = app.get_by_role("group", name="By hand")
    expect(group.get_by_text("will do").first).to_be_visible()
    solved = match_of(app)
    slider = group.get_by_role("slider", name="distance")
    slider.focus()
    for _ in range(6):
        app.keyboard.press("ArrowRight")
    expect(app.get_by_role("button", name=solved)).to_have_count(0)
    # What may be off is read anew, and another choice may now be the dearest: the one under the keys stays where it is.
    app.wait_for_load_state("networkidle")
    expect(slider).to_be_focused()
    for _ in range(14):
        app.keyboard.press("PageUp")
    expect(group.get_by_role("alert")).to_contain_text("Cannot be")
    slider.blur()
    app.keyboard.press("Backspace")
    expect(app.get_by_role("button", name=solved)).to_be_visible()
    lighter = group.get_by_role("button", name="Next lighter load")
    relative_effort = group.get_by_text(re.compile("% effort"))
    before = relative_effort.inner_text()
    lighter.click()
    expect(relative_effort).not_to_have_text(before)
    app.get_by_role("button", name="Accept this swap").click()
    expect(app.get_by_text(re.compile("^Accepted for Quay Hotel room")).first).to_be_visible()


def test_another_lens_orders_otherwise_and_says_why(app: Page):
    app.get_by_role("button", name=re.compile("Tobi Renn")).click()
    open_bench(app, "Twin cable fly", "Harbour Hall")
    before = candidates(app).all_inner_texts()
    app.keyboard.press("j")
    judgement = app.get_by_role("group", name="Judgement")
    expect(judgement).to_contain_text("Who would choose otherwise")
    expect(judgement).to_contain_text(
        re.compile("load at the lengthened end|mean load|support for the body|ease of setting up")
    )
    app.get_by_label(re.compile("^lens:")).click()
    app.get_by_role("option", name="Heavy and steady").click()
    expect(app.get_by_label("lens: Heavy and steady")).to_be_visible()
    expect(app.locator("[aria-busy=false]")).to_be_visible()
    assert candidates(app).all_inner_texts() != before
    app.keyboard.press("w")
    expect(app.get_by_role("dialog")).to_contain_text("steady in itself")
    app.get_by_role("button", name="Weigh the parts otherwise").click()
    dialog = app.get_by_role("dialog", name=re.compile("^Weights of"))
    dialog.get_by_role("slider", name=re.compile("quick to set up")).fill("1")
    dialog.get_by_role("button", name="Rank by these").click()
    expect(dialog).to_be_hidden()
    app.keyboard.press("w")
    expect(app.get_by_role("dialog")).to_contain_text("quick to set up")


def test_what_is_in_use_is_left_out_and_a_lift_is_never_given(app: Page):
    open_bench(app, "Cross-body cable raise", "Quay Hotel room")
    expect(candidates(app).filter(has_text="wall pulley").first).to_be_visible()
    app.keyboard.press("o")
    app.get_by_role("dialog").get_by_label("wall pulley").check()
    app.keyboard.press("Escape")
    expect(app.get_by_role("button", name="Leave out: 1 set")).to_be_visible()
    expect(candidates(app).filter(has_text="wall pulley")).to_have_count(0)
    name = candidates(app).first.locator("span.font-semibold").inner_text().split(",")[0]
    app.get_by_role("button", name="Never for Ilka").click()
    expect(candidates(app).filter(has_text=name)).to_have_count(0)
    expect(app.get_by_text("not for this client").first).to_be_visible()


def test_two_set_ups_are_compared_and_played_from_three_sides(app: Page):
    open_bench(app, "Flat fly", "Quay Hotel room")
    app.keyboard.press("c")
    app.keyboard.press("ArrowRight")
    words = app.get_by_role("region", name="In words")
    expect(words).to_contain_text("Compared with", ignore_case=True)
    app.keyboard.press("f")
    dialog = app.get_by_role("dialog", name="From three sides")
    expect(dialog.get_by_role("img")).to_have_count(6)
    at = dialog.get_by_role("slider", name="Muscle length")
    before = at.input_value()
    dialog.get_by_role("button", name="Play").click()
    expect(at).not_to_have_value(before)
    dialog.get_by_role("button", name="Pause").click()
    app.keyboard.press("Escape")
    app.keyboard.press("c")
    expect(words).to_contain_text("Prescribed", ignore_case=True)


def test_calculators_follow_their_inputs_and_name_faults(app: Page):
    home = "/".join(app.url.split("/")[:3])
    app.goto(f"{home}/calculators/split")
    expect(app.get_by_text("Each hand holds 11.5 kg.")).to_be_visible()
    app.keyboard.press("e")
    expect(app.get_by_text("Each hand holds 20 kg.")).to_be_visible()
    app.keyboard.press("ArrowDown")
    expect(app).to_have_url(re.compile("/calculators/strap$"))
    app.goto(f"{home}/calculators/plates")
    app.get_by_label("plates there are").fill("4x20 two")
    expect(app.get_by_role("alert")).to_contain_text("counts and masses")
    app.get_by_label("plates there are").fill("4x20 2x2.5")
    expect(app.get_by_role("alert")).to_have_count(0)


def test_where_nothing_is_left_it_says_so_and_offers_the_ways_out(app: Page, server: DemoServer):
    app.goto(f"http://127.0.0.1:{server.port}/lines/12/at/2")
    wait_for_bench(app)
    app.get_by_label("Leave out: 0 set").click()
    for kit in ("hex dumbbells", "wall pulley"):
        app.get_by_role("dialog").get_by_text(kit, exact=True).click()
    app.keyboard.press("Escape")
    alert = app.get_by_role("alert")
    expect(alert).to_contain_text("Nothing at Quay Hotel room stands in for Standing curl")
    expect(alert.get_by_role("button", name="At Harbour Hall")).to_be_visible()
    alert.get_by_role("button", name="Put back what is left out (2)").click()
    wait_for_bench(app)
