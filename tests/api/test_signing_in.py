"""Who may do what: every operation, asked by the coach, another coach, cards and nobody; the table is in docs/security.md."""

from __future__ import annotations

import re
import time
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from oddswap.api.app import create_app
from oddswap.api.guesses import GUESSES
from oddswap.api.sign_in import COOKIE, HASHES, OF_THE_MACHINE, OPEN
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import KeptProgramDoc, ProgramDoc
from oddswap.store import acting, cards, programs, records
from oddswap.store.demo import document
from oddswap.store.models import database
from oddswap.store.opening import connected, open_store

SITE = "http://gym.example"
WORDS = {"ada": "a long made-up word", "bo": "another made-up word"}
DAY = "2026-03-02"
NUMBERS = ("client", "place", "program", "session", "line", "card", "run", "measurement")


def fill(name):
    """A coach with a client, a place, a program and a card; returns their numbers and the card's link."""
    coach = acting.set_password(name, HASHES.hash(WORDS[name]))
    with acting.acting_for(coach):
        place = records.add_place(coach, PlaceDoc.model_validate_json(document("place-quay-hotel")))
        client = records.add_client(coach, ClientDoc.model_validate_json(document("client-ilka")), [place])
        kept = KeptProgramDoc.of(ProgramDoc.model_validate_json(document("program-ilka")))
        program = programs.add_program(client, kept)
        session = programs.program(program).document.sessions[0]
        card, link = cards.hand_out(session.id, place)
    line = session.lines[0].id
    return {"coach": coach, "client": client, "place": place, "program": program, "session": session.id, "line": line,
            "card": card, "link": link}  # fmt: skip


@pytest.fixture(scope="module")
def house(tmp_path_factory):
    open_store(tmp_path_factory.mktemp("sign-in") / "t.db")
    with connected():
        held = {name: fill(name) for name in WORDS}
    yield held
    if not database.is_closed():
        database.close()


@pytest.fixture
def visit(house):
    GUESSES.forget()
    made = []

    def opened(name=""):
        client = TestClient(create_app(signing_in=True), SITE, headers={"Origin": SITE, "Sec-Fetch-Site": "same-origin"})
        made.append(client)
        if name:
            answer = client.post("/api/sign-in", json={"name": name, "password": WORDS[name]})
            assert answer.status_code == 200
            # The test's client keeps no cookie of a site without a dot of its own: hand it over.
            client.cookies.set(COOKIE, answer.cookies.get(COOKIE) or client.cookies.get(COOKIE))
        return client

    yield opened
    for one in made:
        one.close()


def operations():
    spec = create_app().openapi()
    schemas = spec["components"]["schemas"]
    return [
        (method.upper(), path, op | {"schemas": schemas}) for path, ways in spec["paths"].items() for method, op in ways.items()
    ]


def whole_body(operation, ids):
    """The example of what an operation takes, about somebody's records; None where it takes nothing, or a file."""
    schema = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
    if schema is None:
        return None

    def about(value, name=""):
        if isinstance(value, dict):
            return {k: about(v, k) for k, v in value.items()}
        if isinstance(value, list):
            return [about(v, name) for v in value]
        one = "client" if name == "id" else name.removesuffix("s")
        return ids[one] if one in NUMBERS and one in ids and type(value) is int else value

    return about(operation["schemas"].get(schema.get("$ref", "").split("/")[-1], schema)["examples"][0])


def asked(client, method, path, ids, operation, body_of=None):
    """Ask an operation for somebody's records, with its document's example, about ``body_of``'s records, for a body."""
    named = {
        "kind": "clients",
        "id": ids["client"],
        "number": ids["client"],
        "what": "place",
        "form": "json",
        "item": "wall",
    }
    url = re.sub(r"\{(\w+)\}", lambda m: str(ids.get(m[1], named.get(m[1], 1))), path)
    query = {
        p["name"]: ids.get(p["name"], DAY if p["schema"].get("format") == "date" else p.get("example", 1))
        for p in operation.get("parameters", [])
        if p["in"] == "query" and p.get("required")
    }
    body = whole_body(operation, body_of or ids)
    return client.request(method, url, params=query, json=body, headers={"If-Match": '"1"'} if body else None)


def test_nobody_gets_anything_but_what_is_open(house, visit):
    nobody = visit()
    for method, path, operation in operations():
        answer = asked(nobody, method, path, house["ada"], operation)
        if path in (*OPEN, "/api/sign-out"):
            assert answer.status_code != 401 or path == "/api/sign-in", (method, path)
            continue
        assert answer.status_code == 401, (method, path, answer.text[:200])


def test_another_coachs_records_are_not_there(house, visit):
    mine = visit("ada")
    tried = 0
    for method, path, operation in operations():
        if path in OPEN or path.startswith(OF_THE_MACHINE) or not any("{" + n + "}" in path for n in NUMBERS):
            continue
        # What else is asked is one's own, so that the record in the path alone is somebody else's.
        answer = asked(mine, method, path, house["bo"], operation, house["ada"])
        takes_a_file = method == "POST" and whole_body(operation, house["ada"]) is None and "requestBody" in operation
        assert answer.status_code in ((404, 422) if takes_a_file else (404, 428)), (method, path, answer.text[:200])
        assert "Ilka" not in answer.text, (method, path)
        tried += 1
    assert tried > 45


def test_a_body_that_names_another_coachs_record_gets_nothing(house, visit):
    mine, tried = visit("ada"), []
    for method, path, operation in operations():
        if path in OPEN or path.startswith(OF_THE_MACHINE) or method == "GET":
            continue
        theirs, own = whole_body(operation, house["bo"]), whole_body(operation, house["ada"])
        if theirs == own:
            continue
        answer = asked(mine, method, path, house["ada"], operation, house["bo"])
        assert answer.status_code == 404, (method, path, answer.status_code, answer.text[:200])
        tried.append(path)
    assert {"/api/undo", "/api/lines/{line}/match", "/api/measurements", "/api/typed-lines"} <= set(tried)


def test_lists_and_writes_end_at_the_own_door(house, visit):
    mine, theirs = visit("ada"), house["bo"]
    assert [c["id"] for c in mine.get("/api/clients").json()["clients"]] == [house["ada"]["client"]]
    assert {p["id"] for p in mine.get("/api/places").json()} == {house["ada"]["place"]}
    assert mine.get("/api/attention").json() == {"items": []}
    found = mine.get("/api/find", params={"q": "ilka"}).json()
    assert str(theirs["client"]) not in [f["id"] for f in found if f["kind"] == "client"]
    writes = [
        ("POST", f"/api/lines/{theirs['line']}/match", {"place": house["ada"]["place"]}),
        ("POST", f"/api/lines/{house['ada']['line']}/match", {"place": theirs["place"]}),
        ("POST", f"/api/sessions/{theirs['session']}/cards", {"place": house["ada"]["place"]}),
        ("POST", f"/api/sessions/{house['ada']['session']}/cards", {"place": theirs["place"]}),
        ("PUT", f"/api/clients/{theirs['client']}/places", {"places": [house["ada"]["place"]]}),
        ("POST", "/api/undo", {"kind": "clients", "id": theirs["client"]}),
        ("POST", f"/api/cards/{theirs['card']}/withdraw", None),
        ("POST", f"/api/cards/{theirs['card']}/renew", None),
        ("POST", f"/api/lines/{theirs['line']}/match/events", {"place": theirs["place"]}),
    ]
    for method, path, body in writes:
        answer = mine.request(method, path, json=body, headers={"If-Match": '"1"'})
        assert answer.status_code == 404, (method, path, answer.status_code, answer.text[:200])
    with connected():
        assert cards.card(theirs["card"]).holds


def test_a_card_opens_itself_and_nothing_else(house, visit):
    phone = visit()
    link = house["ada"]["link"]
    # No swap is accepted for it yet: it says so, but it is opened.
    assert phone.get("/api/card", headers={"Card-Link": link}).status_code == 422
    for method, path, _ in operations():
        if path in OPEN or path == "/api/sign-out":
            continue
        url = re.sub(r"\{(\w+)\}", lambda m: str(house["ada"].get(m[1], 1)), path)
        answer = phone.request(method, url, headers={"Card-Link": link}, json={})
        assert answer.status_code == 401, (method, path)
    with connected():
        cards.withdraw(house["ada"]["card"])
    other = house["bo"]["link"]
    for there in (link, other[:-1] + ("y" if other.endswith("x") else "x"), "x" * 32):
        assert phone.get("/api/card", headers={"Card-Link": there}).status_code == 404


def test_guessing_is_slowed_and_gets_nowhere(visit):
    phone, begun = visit(), time.monotonic()
    links = [phone.get("/api/card", headers={"Card-Link": f"guess-{n:026d}"}).status_code for n in range(150)]
    assert links[:10] == [404] * 10
    assert set(links[10:]) == {429}
    GUESSES.forget()
    words = [phone.post("/api/sign-in", json={"name": "ada", "password": f"guess {n}"}).status_code for n in range(30)]
    assert words[:10] == [401] * 10
    assert set(words[10:]) == {429}
    # The right one does not get in either while the door is shut; it does when it opens.
    right = {"name": "ada", "password": WORDS["ada"]}
    assert phone.post("/api/sign-in", json=right).status_code == 429
    GUESSES.forget()
    assert phone.post("/api/sign-in", json=right).status_code == 200
    assert time.monotonic() - begun < 60


def test_signing_out_everywhere_ends_all_and_pages_of_others_write_nothing(house, visit):
    one, other = visit("ada"), visit("ada")
    elsewhere = {"Origin": "http://evil.example", "Sec-Fetch-Site": "cross-site"}
    assert one.put("/api/coach", json={}, headers=elsewhere).status_code == 403
    assert one.get("/api/clients").status_code == other.get("/api/clients").status_code == 200
    assert one.get("/api/backup").status_code == 403
    one.post("/api/sign-out", params={"everywhere": True})
    assert one.get("/api/clients").status_code == other.get("/api/clients").status_code == 401


def test_the_table_in_the_docs_is_this_one():
    table = (Path(__file__).parents[2] / "docs" / "security.md").read_text()
    for path in (*OPEN, *OF_THE_MACHINE, "/api/sign-out"):
        assert f"`{path}`" in table, path
    with connected():
        names = [c.name for c in acting.coaches()]
    assert names == ["ada", "bo"]
