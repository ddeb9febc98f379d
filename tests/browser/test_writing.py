"""Lines typed as on paper in the real interface: read, doubted, mended, pasted, put in by keys alone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import APIResponse, Page, Route, expect

pytestmark = pytest.mark.browser
SLOW = 60_000


def desk(page: Page) -> None:
    page.get_by_role("button", name="New program").click()
    page.get_by_role("button", name="Add Session A").click()


def test_a_session_is_written_from_nothing_by_keyboard(app: Page):
    desk(app)
    box = app.get_by_label("Write a line into Session A")
    box.focus()
    names = app.get_by_label(re.compile("^Name of line"))
    for typed, understood in (
        ("incline db press 30 4x8-10 @1 14kg", "30° incline press, dumbbells"),
        ("rope pushdown 3x12 17.5kg drop x2", "Pushdown, cable, rope"),
        ("pull up AMRAP", "Pull-up, elbows half wide, bodyweight"),
    ):
        before = names.count()
        app.keyboard.type(typed)
        expect(app.get_by_text(understood, exact=True)).to_be_visible()
        app.keyboard.press("Enter")
        expect(names).to_have_count(before + 1)
        expect(box).to_have_value("")
    lines = app.get_by_role("region", name="Session A").get_by_role("listitem")
    expect(lines.nth(0).get_by_label(re.compile("^Sets of"))).to_have_value("4")
    expect(lines.nth(0).get_by_label(re.compile("^Load of"))).to_have_value("14")
    expect(lines.nth(1)).to_contain_text("drop x2")
    expect(lines.nth(2)).to_contain_text("as many as possible")
    # A circuit in one line: a lift of it that is not understood holds all of them back.
    box.fill("3 rounds: push up 12, db row 10 14kg, flumble 15, rest 90 s")
    expect(app.get_by_text("Circuit of 3")).to_be_visible()
    expect(app.get_by_role("button", name="Put them in")).to_be_disabled()
    box.fill("3 rounds: push up 12, db row 10 14kg, rest 90 s")
    expect(app.get_by_text("Circuit of 2")).to_be_visible()
    box.press("Enter")
    expect(names).to_have_count(5)
    expect(lines.nth(3)).to_contain_text("A1")
    expect(lines.nth(4)).to_contain_text("A2")
    expect(lines.nth(4).get_by_label(re.compile("^Sets of"))).to_have_value("3")
    app.reload()
    expect(names).to_have_count(5)


def test_sets_that_differ_and_weeks_are_written_and_undone(app: Page):
    desk(app)
    box = app.get_by_label("Write a line into Session A")
    box.fill("bench press top set 1x6 80kg @1 back-offs 2x10 64kg")
    expect(app.get_by_text("6, then 2 × 10 at 80 %")).to_be_visible()
    box.press("Enter")
    line = app.get_by_role("region", name="Session A").get_by_role("listitem")
    expect(line.get_by_label(re.compile("^Sets of"))).to_have_value("3")
    line.get_by_role("button", name=re.compile("^One by one")).click()
    expect(line.get_by_label("Load of set 2")).to_have_value("80")
    line.get_by_label("Load of set 3").fill("70")
    line.get_by_label("Load of set 3").press("Tab")
    expect(line).to_contain_text("6, then 10 at 80 %, then 10 at 70 %")
    line.get_by_role("button", name="Add a set").click()
    expect(line.get_by_label(re.compile("^Sets of"))).to_have_value("4")
    app.get_by_role("button", name="Three harder weeks and a deload").click()
    expect(app.get_by_label("Name of week 4")).to_have_value("deload")
    app.get_by_label("Load in week 4").fill("20")
    app.get_by_label("Load in week 4").press("Tab")
    expect(app.get_by_role("alert").filter(has_text="40")).to_be_visible()
    app.get_by_label("Load in week 4").fill("60")
    app.get_by_label("Load in week 4").press("Tab")
    expect(app.get_by_role("alert")).to_have_count(0)
    app.reload()
    expect(app.get_by_label("Load in week 4")).to_have_value("60")
    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_label("Load in week 4")).to_have_value("85")


def test_what_is_not_understood_is_asked_once_and_of_two_readings_one_is_picked(app: Page):
    desk(app)
    box = app.get_by_label("Write a line into Session A")
    put = app.get_by_role("button", name="Put it in")
    box.fill("latteral rase db 3x12")
    expect(app.get_by_text("Which lift is that?")).to_be_visible()
    expect(put).to_be_disabled()
    box.press("Enter")
    expect(app.get_by_label(re.compile("^Name of line"))).to_have_count(0)
    app.get_by_role("button", name="lateral raise", exact=True).click()
    expect(app.get_by_text("Lateral raise, dumbbells", exact=True)).to_be_visible()
    put.click()
    # Known from now on, in another program too.
    box.fill("latteral rase cable 3x15")
    expect(app.get_by_text("Lateral raise, cable, a handle in each hand", exact=True)).to_be_visible()
    box.fill("press 3x8 db")
    expect(app.get_by_text("one of", exact=False)).to_be_visible()
    first = app.get_by_role("status").filter(has_text="for the").inner_text()
    box.press("ArrowDown")
    expect(app.get_by_role("status").filter(has_text="for the")).not_to_have_text(first)
    box.fill("squat facing west 3x5")
    expect(app.get_by_text("“facing west” is not understood")).to_be_visible()
    expect(put).to_be_disabled()


def test_many_pasted_lines_come_in_and_the_doubtful_ones_wait(app: Page):
    desk(app)
    box = app.get_by_label("Write a line into Session A")
    box.focus()
    app.evaluate(
        """text => {
          const data = new DataTransfer();
          data.setData('text/plain', text);
          const how = {clipboardData: data, bubbles: true, cancelable: true};
          document.activeElement.dispatchEvent(new ClipboardEvent('paste', how));
        }""",
        "A1 bench press 3x8 60kg\nA2 barbell row 3x8 60kg\ngoblin press 2x12\ndb curls 3x10 10kg\nsissy squat 3x10\n",
    )
    expect(app.get_by_label(re.compile("^Name of line"))).to_have_count(3)
    expect(app.get_by_text("3 of 5 lines put in; the others want a look.")).to_be_visible()
    expect(box).to_have_value("goblin press 2x12")
    expect(app.get_by_text("1 more to look at")).to_be_visible()
    app.get_by_role("button", name="Leave this one").click()
    expect(box).to_have_value("sissy squat 3x10")
    expect(app.get_by_role("region", name="Session A").get_by_role("listitem").first).to_contain_text("A1")


def test_a_sheet_comes_in_with_a_doubt_mended(app: Page, tmp_path):
    desk(app)
    sheet = tmp_path / "winter.csv"
    sheet.write_text("Day,Exercise,Sets,Reps,RIR\nPush,bench press,3,8,2\nPush,latteral rase,3,12-15,1\nLegs,squat,5,5,2\n")
    app.get_by_label("Program sheet").set_input_files(sheet)
    dialog = app.get_by_role("dialog")
    expect(dialog.get_by_role("button", name="Put in 2 of 3 lines")).to_be_visible()
    doubtful = dialog.get_by_role("row").filter(has_text="B3")
    expect(doubtful).to_contain_text("not understood: latteral rase")
    doubtful.get_by_role("button", name="lateral raise").click()
    dialog.get_by_role("button", name="Put in 3 of 3 lines").click()
    expect(dialog).to_be_hidden()
    expect(app.get_by_label(re.compile("^Name of session"))).to_have_count(3)
    expect(app.get_by_role("region", name="Session Push").get_by_label(re.compile("^Name of line"))).to_have_count(2)
    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_label(re.compile("^Name of session"))).to_have_count(1)


def test_the_empty_cells_are_filled_stopped_taken_back_and_filled_to_the_end(app: Page):
    cells = app.get_by_role("button", name=re.compile("find a swap$"))
    expect(cells.first).to_be_visible()
    empty = cells.count()
    # What most likely comes is told first, and nothing is accepted by it.
    app.get_by_role("button", name=f"A first look: {empty}").click()
    seen = app.get_by_role("button", name=re.compile(r"at first look .+, \d+ of 100; find a swap$"))
    expect(seen).not_to_have_count(0, timeout=SLOW)
    expect(app.get_by_text("A first look at each")).to_be_hidden(timeout=SLOW)
    assert seen.count() > empty / 2
    expect(cells).to_have_count(empty)
    app.get_by_role("button", name=f"Fill the empty: {empty}").click()
    # A session's swaps are chosen together, and come together.
    expect(cells).not_to_have_count(empty, timeout=SLOW)
    app.get_by_role("button", name="Stop").click()
    expect(app.get_by_text("stopped before the end")).to_be_visible()
    assert cells.count() < empty
    app.get_by_role("button", name="Take it back").click()
    expect(cells).to_have_count(empty)
    # To the end, with a place where hardly anything can be done.
    app.keyboard.press("f")
    expect(app.get_by_text(re.compile(r"^\d+ filled"))).to_be_visible(timeout=120_000)
    expect(cells).to_have_count(0)
    told = app.get_by_text(re.compile(r"^\d+ filled")).inner_text()
    none = int((re.search(r"(\d+) where nothing", told) or [0, 0])[1])
    assert app.get_by_text("Nothing here can").count() == none
    assert int(told.split()[0]) + none == empty
    app.reload()
    lines = app.get_by_role("row").filter(has=app.get_by_role("button"))
    expect(lines).not_to_have_count(0)
    expect(app.get_by_role("button", name=re.compile("find a swap$"))).to_have_count(none)
    before = lines.count()
    app.get_by_label("only lines that want a look").check()
    expect(lines).not_to_have_count(before)
    assert lines.count() < before


def test_a_place_that_changed_is_looked_at_anew_by_itself(app: Page):
    base = app.url.split("/clients")[0].rstrip("/")
    looks = f"{base}/api/clients/1/first-looks"
    app.request.post(looks, data={"place": 3, "rank": {}, "known": False}, timeout=SLOW)
    record = app.request.get(f"{base}/api/places/3")
    place = record.json()["place"]
    own = next(k for k in place["kit"] if k["kind"] == "dumbbells")
    place["kit"].append(own | {"id": "more", "name": "more dumbbells", "masses_kg": [1.0, 19.0]})
    kept = app.request.put(f"{base}/api/places/3", data=place, headers={"If-Match": record.headers["etag"]})
    assert kept.ok
    # What was seen before stands in while the others are looked at.
    waiting: list[Route] = []

    def hold(route: Route) -> None:
        if '"known":true' in (route.request.post_data or ""):
            route.continue_()
        else:
            waiting.append(route)

    app.route(looks, hold)
    app.goto(f"{base}/clients/1")
    before = app.get_by_role("button", name=re.compile("before the place changed .+; find a swap$"))
    expect(before).not_to_have_count(0)
    expect(app.get_by_text(re.compile("· looking again$"))).to_have_count(before.count())
    assert len(waiting) == 1
    waiting[0].continue_()
    expect(before).to_have_count(0, timeout=SLOW)
    expect(app.get_by_role("button", name=re.compile("at first look .+; find a swap$"))).not_to_have_count(0)


def test_a_loss_of_the_week_is_mended_with_one_press(app: Page):
    base = app.url.split("/clients")[0].rstrip("/")
    lines = app.request.get(f"{base}/api/clients/1").json()["programs"][0]["lines"][:5]
    beyond = {"place": 2, "rank": {"unlike": True}}  # what no coach sends loses most
    for line in lines:
        match = app.request.post(f"{base}/api/lines/{line['id']}/match", data=beyond, timeout=SLOW).json()
        worst = min(match["swaps"], key=lambda s: s["match"])
        app.request.post(f"{base}/api/lines/{line['id']}/accepted", data=beyond | {"key": worst["key"]})
    app.goto(f"{base}/clients/1")
    week = app.get_by_role("region", name="The week")
    week.get_by_role("button", name=re.compile("^Quay Hotel")).click()
    ask = week.get_by_role("button", name="What mends it?")
    expect(ask).not_to_have_count(0)

    def at_hotel() -> dict:
        return next(p for p in app.request.get(f"{base}/api/clients/1/week").json()["places"] if p["place"] == 2)

    before = at_hotel()
    lost = {loss["group"] for loss in before["losses"]}
    kept = sum(sum(before["sets"].get(group, [])) for group in lost)
    take = week.get_by_role("button", name="Take it")
    while not take.count():
        ask.first.click()
        expect(week.get_by_text("Looking …")).to_have_count(0, timeout=SLOW)
    take.first.click()
    expect(take).to_have_count(0, timeout=SLOW)
    after = at_hotel()
    assert sum(sum(after["sets"].get(group, [])) for group in lost) > kept
    for loss in after["losses"]:
        expect(week.get_by_text(loss["words"])).to_be_visible()
    # What was read before a wish was stored, and comes late, takes nothing back.
    late: list[tuple[Route, APIResponse]] = []
    app.route("**/api/clients/1/week", lambda route: late.append((route, route.fetch())))
    lock = app.get_by_role("button", name=re.compile("^Lock .*Quay Hotel")).first
    lock.click()
    expect(lock).to_have_attribute("aria-pressed", "true")
    app.wait_for_timeout(500)  # until nothing more is asked
    assert late
    wanted = week.get_by_label("Sets wanted a week for biceps")
    wanted.fill("40-50")
    wanted.press("Tab")
    short = week.get_by_text(re.compile(r"^\d+(\.5)? short$"))
    expect(short).to_be_visible()
    for route, response in late:
        route.fulfill(response=response)
    app.unroute("**/api/clients/1/week")
    app.wait_for_timeout(500)  # as long as it would take to be drawn
    expect(short).to_be_visible()
    wanted.fill("99")
    wanted.press("Tab")
    expect(week.get_by_role("alert")).to_contain_text("0 to 60")


def test_a_session_is_laid_out_cut_and_written_in_its_order(app: Page):
    base = "/".join(app.url.split("/")[:3])
    app.get_by_role("link", name="Upper A on the floor of Harbour Hall").click()
    expect(app.get_by_role("heading", name="Upper A on the floor of Harbour Hall")).to_be_visible(timeout=SLOW)
    order = app.get_by_label("Order", exact=True)
    lines = order.get_by_role("link")
    expect(lines).to_have_count(4, timeout=SLOW)
    # A station is taken: the lifts on it are done otherwise.
    bench = app.get_by_label("adjustable bench")
    bench.check()
    expect(app.get_by_label("Order", exact=True)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    bench.uncheck()
    expect(app.get_by_label("Order", exact=True)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    # Too little time: what to leave out.
    app.get_by_label(re.compile("^in: ")).click()
    app.get_by_role("option", name="30 min").click()
    app.get_by_label(re.compile("^in: 30")).click()
    app.get_by_role("option", name="as long as it takes").click()
    expect(app.get_by_label("Order", exact=True)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    wanted = lines.all_inner_texts()
    app.get_by_role("button", name="Write the session in this order").click()
    expect(app.get_by_text("The program has this order now.")).to_be_visible()
    program = app.request.get(base + "/api/programs/1").json()["program"]
    assert [x["line"]["name"] for x in program["sessions"][0]["lines"]] == wanted
    app.get_by_role("button", name="Undo").click()
    expect(app.get_by_text("The order is as it was.")).to_be_visible()
    back = app.request.get(base + "/api/programs/1").json()["program"]
    assert next(x["line"]["name"] for x in back["sessions"][0]["lines"]) == "Lateral raise, dumbbells"


def test_a_board_is_found_anew_but_for_what_is_locked_and_its_places_are_compared(app: Page):
    address = app.evaluate("location.origin")

    def put(line: int, rank: int) -> str:
        """Accept the swap at a place of the list, and its title."""
        found = app.request.post(f"{address}/api/lines/{line}/match", data={"place": 1, "rank": {}}, timeout=SLOW)
        swap = found.json()["swaps"][rank]
        body = {"place": 1, "rank": {}, "key": swap["key"], "note": ""}
        assert app.request.post(f"{address}/api/lines/{line}/accepted", data=body, timeout=SLOW).ok
        return str(swap["title"])

    client = app.request.get(f"{address}/api/clients").json()["clients"][0]
    kept, other = client["programs"][0]["lines"][:2]
    for line in (kept, other):
        put(line["id"], 0)
    second, third = put(kept["id"], 1), put(other["id"], 2)
    app.reload()
    hall = client["places"][0]["name"]
    app.get_by_role("button", name=f"Lock {kept['name']}, {hall}").click()
    expect(app.get_by_role("button", name=f"Lock {kept['name']}, {hall}")).to_have_attribute("aria-pressed", "true")
    app.get_by_role("button", name=re.compile("^Find all anew but the locked")).click()
    app.get_by_role("button", name="Find them").click()
    expect(app.get_by_text(re.compile(r"^\d+ changed"))).to_be_visible(timeout=120_000)
    expect(app.get_by_role("button", name=f"{kept['name']} at {hall}: {second}", exact=True)).to_be_visible()
    expect(app.get_by_role("button", name=f"{other['name']} at {hall}: {third}", exact=True)).to_have_count(0)
    app.get_by_role("button", name=f"Compare the swaps for {kept['name']}").click()
    dialog = app.get_by_role("dialog", name=kept["name"])
    expect(dialog.get_by_text(second)).to_be_visible()
    expect(dialog.get_by_role("img", name=re.compile("^Prescribed resistance above"))).not_to_have_count(0)
    # What is replaced can be taken back.
    app.keyboard.press("Escape")
    app.get_by_role("button", name="Take it back").click()
    expect(app.get_by_role("button", name=f"{other['name']} at {hall}: {third}", exact=True)).to_be_visible()
    # What comes out as it stands is not accepted once more.
    for changed in (r"^[1-9]\d* changed", "^0 changed"):
        app.get_by_role("button", name=re.compile("^Find all anew but the locked")).click()
        app.get_by_role("button", name="Find them").click()
        expect(app.get_by_text(re.compile(changed))).to_be_visible(timeout=120_000)
