"""Refresh docs/screenshots from the demo data. Run: ``make shots``."""

from __future__ import annotations

import re
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, ViewportSize, sync_playwright

from browser import ARGUMENTS, CHROMIUM, demo_server, environment

DESK: ViewportSize = {"width": 1280, "height": 800}
PHONE: ViewportSize = {"width": 390, "height": 844}
OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def roster(page: Page) -> None:
    """The roster with two swaps accepted."""
    page.get_by_role("button", name="Incline curl at Spare room").click()
    take(page)
    page.goto(page.url.split("/lines")[0] + "/clients/1")
    page.get_by_role("button", name="Lateral raise, dumbbells at Quay Hotel room").click()
    take(page)
    page.goto(page.url.split("/lines")[0] + "/clients/1")
    page.get_by_role("button", name="Cross-body cable raise at Quay Hotel").wait_for()


def take(page: Page) -> None:
    """Accept the best swap."""
    page.get_by_role("button", name="Accept this swap").click()
    page.get_by_text(re.compile("^Accepted for")).first.wait_for()


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


SHOTS: dict[str, tuple[str, Callable[[Page], None]]] = {
    "roster": ("light", roster),
    "match-bench-cable": ("light", bench("Incline curl", "Quay Hotel room", "ArrowRight")),
    "match-bench-dark": ("dark", bench("Cross-body cable raise", "Spare room", "ArrowRight")),
    "match-bench-fly": ("light", other_client("Tobi Renn", bench("Twin cable fly", "Harbour Hall", "ArrowRight"))),
    "match-by-hand": ("light", bench("Cable curl, back to the column", "Quay Hotel room", "b")),
    "match-judgement": ("light", other_client("Tobi Renn", bench("Incline fly", "Quay Hotel room", "ArrowRight j"))),
    "match-three-sides": ("light", bench("Incline curl", "Quay Hotel room", "ArrowRight f")),
    "calculators": ("light", calculator),
    "match-why": ("light", bench("Incline curl", "Quay Hotel room", "ArrowRight w")),
    "movement-library": ("light", library("squat")),
    "client": ("light", client),
    "place-reach-map": ("light", place(5)),
    "place-hotel-dark": ("dark", place(2, shop=True)),
    "measuring-bench": ("light", measuring),
    "keys": ("light", bench("Incline curl", "Quay Hotel room", "?")),
    "first-line": ("light", begin),
    "program": ("light", program),
    "phone-roster": ("light", lambda page: None),
    "phone-bench": ("dark", bench("Incline curl", "Quay Hotel room")),
}


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
                page = browser.new_page(viewport=size, color_scheme=theme)  # type: ignore[arg-type]
                page.goto(address)
                page.get_by_role("heading", name="Ilka Marsh").wait_for()
                steps(page)
                page.wait_for_timeout(400)
                page.screenshot(path=out / f"{name}.png")
                page.close()
                print(f"{name}.png")
        browser.close()


if __name__ == "__main__":
    main()
