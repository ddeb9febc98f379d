"""Refresh docs/screenshots from the demo data. Run: ``make shots``."""

from __future__ import annotations

import re
import sys
import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path

from playwright.sync_api import Browser, Page, ViewportSize, sync_playwright

from browser import ARGUMENTS, CHROMIUM, demo_server, environment

TOURED = "localStorage.setItem('tour', 'over')"
"""Pictures are of the screens, not of the tour."""
DESK: ViewportSize = {"width": 1280, "height": 800}
PHONE: ViewportSize = {"width": 390, "height": 844}
OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def roster(page: Page) -> None:
    """The board filled, but for one place that was stopped before its end."""
    page.keyboard.press("f")
    page.get_by_text(re.compile("^1[3-9] of 24 …")).wait_for(timeout=120_000)
    page.get_by_role("button", name="Stop").click()
    page.get_by_text("stopped before the end").wait_for()


def bench(line: str, place: str, keys: str = "") -> Callable[[Page], None]:
    """The match bench of a line at a place, after some keys."""

    def shot(page: Page) -> None:
        page.get_by_role("button", name=f"{line} at {place}").click()
        page.get_by_role("button", name="Accept this swap").wait_for()
        page.get_by_role("listbox", name="Candidates").wait_for()
        for key in keys.split():
            page.keyboard.press(key)
        if {"b", "j"} & set(keys.split()):
            page.get_by_text(re.compile("Who works|will do")).first.wait_for()

    return shot


def other_client(name: str, then: Callable[[Page], None]) -> Callable[[Page], None]:
    """The same for another client than the first."""

    def shot(page: Page) -> None:
        page.get_by_role("button", name=name).click()
        then(page)

    return shot


def library(movement: str, keys: str = "") -> Callable[[Page], None]:
    """The movement library at one movement, after some keys."""

    def shot(page: Page) -> None:
        page.goto(page.url.split("/clients")[0].rstrip("/") + f"/movements/{movement}")
        page.get_by_role("heading", level=1).wait_for()
        page.locator("[aria-busy=false]").wait_for()
        for key in keys.split():
            page.keyboard.press(key)
            page.locator("[aria-busy=false]").wait_for()

    return shot


def client(page: Page) -> None:
    """Size and limits of a client."""
    page.get_by_role("link", name="Size and limits").click()
    page.get_by_role("img", name="Landmark heights").wait_for()
    page.wait_for_load_state("networkidle")


def place(number: int, *, shop: bool = False) -> Callable[[Page], None]:
    """A place with its reach map, and what to buy for it."""

    def shot(page: Page) -> None:
        page.goto(page.url.split("/clients")[0].rstrip("/") + f"/places/{number}")
        page.get_by_text(re.compile("covered for")).wait_for(timeout=60_000)
        if shop:
            page.get_by_role("button", name="What to buy?").click()
            page.get_by_role("listitem").filter(has_text="closes").first.wait_for(timeout=60_000)

    return shot


def calculator(page: Page) -> None:
    """A calculator."""
    page.goto(page.url.split("/clients")[0].rstrip("/") + "/calculators/lever")
    page.get_by_text("from hanging the hand").wait_for()


def measuring(page: Page) -> None:
    """A band measured with the stand-in."""
    page.goto(page.url.split("/clients")[0].rstrip("/") + "/measuring/3/sand")
    page.get_by_role("button", name="Read all that is left").click()
    page.get_by_text("All points are read").wait_for(timeout=60_000)


def begin(page: Page) -> None:
    """The first line of a new client, at a place made from a typical room."""
    page.get_by_role("button", name="New client").click()
    for field, typed in (("Name", "Ona Pell"), ("Standing height", "172"), ("Bodyweight", "71")):
        page.get_by_label(field).fill(typed)
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="Park with a high bar and bands").click()
    page.get_by_label("Movement").click()
    page.get_by_label("Movement").press_sequentially("press")
    page.get_by_role("option", name=re.compile("^Press")).click()
    page.get_by_text("At this load").wait_for()
    page.get_by_label("With").select_option("bar")
    page.get_by_text("a side").first.wait_for()
    page.get_by_label("Load").fill("45")
    page.get_by_label("Load").press("Tab")
    page.get_by_text("45 kg: ").first.wait_for()


def program(page: Page) -> None:
    """A program as it is written."""
    page.get_by_role("link", name="Shoulders and arms").click()
    page.get_by_label("Name of the program").wait_for()
    page.get_by_label("Write a line into Upper A").fill("A1 rope pushdown 3x10-12 17.5kg tempo 3-0-1 drop x2")
    page.get_by_text("Pushdown, cable, rope").wait_for()
    page.get_by_label("Write a line into Upper A").scroll_into_view_if_needed()


def floor_plan(page: Page) -> None:
    """A garage whose kit was put where it stands."""
    page.goto(page.url.split("/clients")[0].rstrip("/") + "/places/4")
    plan = page.get_by_role("group", name=re.compile("^Floor plan"))
    plan.wait_for(timeout=60_000)
    plan.scroll_into_view_if_needed()
    bench = page.get_by_role("button", name=re.compile("^folding bench: "))
    box, floor = bench.bounding_box(), plan.bounding_box()
    assert box is not None
    assert floor is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(floor["x"] + 0.6 * floor["width"], floor["y"] + 0.52 * floor["height"], steps=8)
    page.mouse.up()
    page.get_by_text("1 of 6 items put where they stand").or_(page.get_by_text(re.compile("^folding bench:"))).first.wait_for()
    page.get_by_role("button", name="Add crowded hours").click()
    page.get_by_text(re.compile("covered for")).wait_for(timeout=60_000)
    plan.evaluate("plan => plan.previousElementSibling.previousElementSibling.scrollIntoView()")


def on_the_floor(page: Page) -> None:
    """A whole session of a whole week, in the time there is."""
    page.goto(page.url.split("/clients")[0].rstrip("/") + "/sessions/8/at/1")
    page.get_by_text("Best order").wait_for(timeout=120_000)
    page.get_by_label(re.compile("^in: ")).click()
    page.get_by_role("option", name="40 min").click()
    page.get_by_text("leave out in this order").wait_for(timeout=60_000)
    page.locator("[aria-busy=false]").wait_for()


def choose(page: Page, places: Sequence[int]) -> str:
    """The best swaps for the first session's lines at some places; returns the app's address."""
    base = page.url.split("/clients")[0].rstrip("/")
    lines = page.request.get(f"{base}/api/clients/1").json()["programs"][0]["lines"]
    for place in places:
        for line in (x for x in lines if x["session"] == "Upper A"):
            found = page.request.post(f"{base}/api/lines/{line['id']}/match", data={"place": place}).json()
            taken = {"place": place, "key": found["swaps"][0]["key"]}
            page.request.post(f"{base}/api/lines/{line['id']}/accepted", data=taken)
    return base


def log(page: Page) -> None:
    """A month of made-up sets at three places, and what they taught."""
    base = choose(page, (1, 2, 3))
    page.request.post(f"{base}/api/clients/1/log/weeks?weeks=6")
    page.goto(f"{base}/clients/1/log")
    page.get_by_role("button", name="Cable curl, back to the column").click()
    page.get_by_text("Next time").wait_for()


def card(lift: int, *presses: str) -> Callable[[Page], None]:
    """A client's card on one of its lifts, after some presses."""

    def shot(page: Page) -> None:
        base = choose(page, (2,))
        handed = page.request.post(f"{base}/api/sessions/1/cards", data={"place": 2}).json()
        page.goto(base + handed["path"])
        page.get_by_role("button", name="Log set 1").wait_for()
        for _ in range(lift):
            page.get_by_role("button", name="Next lift").click()
        for press in presses:
            page.get_by_role("button", name=press, exact=True).click()

    return shot


SHOTS: dict[str, tuple[str, Callable[[Page], None]]] = {
    "roster": ("light", roster),
    "match-bench-cable": ("light", bench("Incline curl", "Quay Hotel room", "ArrowRight")),
    "match-bench-dark": ("dark", bench("Cross-body cable raise", "Spare room", "ArrowRight")),
    "match-by-hand": ("light", bench("Cable curl, back to the column", "Quay Hotel room", "b")),
    "match-judgement": ("light", other_client("Tobi Renn", bench("Incline fly", "Quay Hotel room", "ArrowRight j"))),
    "calculators": ("light", calculator),
    "movement-library": ("light", library("squat")),
    "client": ("light", client),
    "place-reach-map": ("light", place(5)),
    "place-hotel-dark": ("dark", place(2, shop=True)),
    "measuring-bench": ("light", measuring),
    "floor-plan": ("light", floor_plan),
    "first-line": ("light", begin),
    "program": ("light", program),
    "on-the-floor": ("light", on_the_floor),
    "log": ("light", log),
    "phone-card": ("light", card(3)),
    "phone-log": ("dark", card(1, "Log set 1", "1")),
    "phone-bench": ("dark", bench("Incline curl", "Quay Hotel room")),
}


SPOKEN = """# What is spoken

What a screen reader reads out of two views, top to bottom: role, name, state. Written by `make shots` from the demo data; the
tables of numbers behind ribbon, curves and figures open with T, or with *As a table*.
"""


def spoken(page: Page) -> str:
    """The roles and names of a page's content, indented as they hold each other."""
    lines = page.get_by_role("main").aria_snapshot().splitlines()
    return "\n".join(line for line in lines if not re.match(r"\s*- /", line))


def write_spoken(folder: Path, browser: Browser) -> None:
    """The walk through roster and match bench, as text."""
    with demo_server(folder / "spoken.db") as address:
        page = browser.new_page(viewport=DESK)
        page.add_init_script(TOURED)
        page.goto(address)
        page.get_by_role("region", name="The week").get_by_role("table").first.wait_for()
        parts = [SPOKEN, "## Roster", f"```text\n{spoken(page)}\n```"]
        bench("Incline curl", "Quay Hotel room", "ArrowRight")(page)
        parts += ["## Match bench", f"```text\n{spoken(page)}\n```", ""]
        page.close()
    (OUT.parent / "spoken.md").write_text("\n\n".join(parts).rstrip() + "\n")


def main() -> None:
    """Take the named shots, or all; a second argument names another folder."""
    wanted = sys.argv[1].split(",") if len(sys.argv) > 1 else list(SHOTS)
    out = Path(sys.argv[2]) if len(sys.argv) > 2 else OUT
    out.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS, env=environment())
        for name in wanted:
            theme, steps = SHOTS[name]
            with demo_server(Path(folder) / f"{name}.db") as address:
                size = PHONE if name.startswith("phone") else DESK
                page = browser.new_page(viewport=size, color_scheme=theme)
                page.add_init_script(TOURED)
                page.goto(address)
                page.get_by_role("heading", name="Ilka Marsh").wait_for()
                steps(page)
                page.wait_for_timeout(400)
                page.screenshot(path=out / f"{name}.png")
                page.close()
                print(f"{name}.png")
        if len(sys.argv) == 1:
            write_spoken(Path(folder), browser)
        browser.close()


if __name__ == "__main__":
    main()
