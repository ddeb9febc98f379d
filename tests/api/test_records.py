"""Nothing acknowledged is lost or silently overwritten: revisions, undo, putting away, and programs written as a whole."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from unittest.mock import Mock

import pytest
from fastapi.testclient import TestClient

from oddswap.application.kept_matches import keep_matches_in
from oddswap.store.models import database
from oddswap.store.opening import open_store

SET_UP = {"movement": "curl", "stance": "standing", "sources": [{"kind": "dumbbell", "mass_kg": 12}]}
LINE = {"name": "Curl", "target": "biceps", "set_up": SET_UP, "sets": 3, "reps_low": 8, "reps_high": 10}


@pytest.fixture
def bare(web):
    """The same app without the memory of what was read."""
    return TestClient(web.app, "http://127.0.0.1")


def put(client, url, body, tag):
    return client.put(url, json=body, headers={"If-Match": tag} if tag else {})


def test_a_write_on_an_older_revision_is_refused_and_one_without_is_asked_for_it(bare):
    read = bare.get("/api/clients/1")
    tag, document = read.headers["ETag"], read.json()["client"]
    first = put(bare, "/api/clients/1", document | {"mass_kg": 61}, tag)
    assert first.status_code == 200
    assert first.headers["ETag"] != tag
    stale = put(bare, "/api/clients/1", document | {"stature_cm": 171}, tag)
    assert (stale.status_code, stale.headers["content-type"]) == (412, "application/problem+json")
    for bad in (None, "*", "3", '"a"', f'{tag}, "9"'):
        assert put(bare, "/api/clients/1", document, bad).status_code == 428
    kept = bare.get("/api/clients/1")
    assert kept.json()["client"] == document | {"mass_kg": 61}
    assert kept.headers["ETag"] == first.headers["ETag"]
    # Where a client trains belongs to the client.
    assert put(bare, "/api/clients/1/places", {"places": [2]}, tag).status_code == 412
    # What changes nothing makes no revision.
    same = put(bare, "/api/clients/1", document | {"mass_kg": 61}, kept.headers["ETag"])
    assert same.headers["ETag"] == kept.headers["ETag"]
    assert put(bare, "/api/clients/1", document, kept.headers["ETag"]).status_code == 200


@pytest.mark.parametrize(("writers", "times"), [(6, 2), pytest.param(20, 50, marks=pytest.mark.nightly)])
def test_many_writers_lose_nothing(bare, writers, times):
    """Writers add their weighings at the same time; each is kept, or refused and tried again."""
    document = bare.get("/api/clients/3").json()["client"]
    refused = []

    def write(writer):
        for k in range(times):
            day = f"20{10 + writer}-{k % 12 + 1:02d}-{k // 12 + 1:02d}"
            while True:
                read = bare.get("/api/clients/3")
                held = read.json()["client"]
                more = held | {"weights": [*held["weights"], {"day": day, "mass_kg": 60 + writer}]}
                answer = put(bare, "/api/clients/3", more, read.headers["ETag"])
                if answer.status_code == 200:
                    break
                assert answer.status_code == 412
                refused.append(writer)

    with ThreadPoolExecutor(writers) as pool:
        list(pool.map(write, range(writers)))
    read = bare.get("/api/clients/3")
    before, after = ({w["day"] for w in d["weights"]} for d in (document, read.json()["client"]))
    assert len(after - before) == writers * times
    assert refused, "nobody met anybody: this showed nothing"
    assert put(bare, "/api/clients/3", document, read.headers["ETag"]).status_code == 200


def test_parallel_saves_of_different_items_are_all_kept(web, bare):
    kit = web.get("/api/places/5").json()["place"]["kit"]
    items = [k for k in kit if k["kind"] == "band"][:5] + [k for k in kit if k["kind"] == "cable_column"][:5]
    assert len(items) >= 6

    def save(item):
        return bare.put(f"/api/places/5/kit/{item['id']}", json={"item": item | {"name": item["name"] + " again"}})

    with ThreadPoolExecutor(len(items)) as pool:
        assert {a.status_code for a in pool.map(save, items)} == {200}
    names = {k["name"] for k in bare.get("/api/places/5").json()["place"]["kit"]}
    assert {item["name"] + " again" for item in items} <= names


def test_a_program_is_written_moved_emptied_and_undone_and_its_swaps_stay_with_their_lines(web, tmp_path):
    made = web.post("/api/clients/2/programs", json={"name": "Spring"}, headers={"Idempotency-Key": "k1"}).json()
    assert made["program"] == {"name": "Spring", "note": "", "weeks": [], "starts": "", "sessions": []}
    assert web.post("/api/clients/2/programs", json={"name": "Spring"}, headers={"Idempotency-Key": "k1"}).json() == made
    url = f"/api/programs/{made['id']}"
    # Two sessions of one name, as people write them.
    sessions = [{"name": n, "lines": [{"line": LINE | {"name": f"{n} curl {i}"}}]} for i, n in enumerate("ABA")]
    full = web.put(url, json={"name": "Spring", "sessions": sessions}).json()["program"]
    first, last = (full["sessions"][i]["lines"][0]["id"] for i in (0, 2))
    lines = next(p for p in web.get("/api/clients/2").json()["programs"] if p["id"] == made["id"])["lines"]
    assert [line["session"] for line in lines] == ["A", "B", "A"]
    assert len({line["session_id"] for line in lines}) == 3
    swap = web.get(f"/api/lines/{first}/match", params={"place": 1}).json()["swaps"][0]
    assert web.post(f"/api/lines/{first}/accepted", json={"place": 1, "key": swap["key"]}).status_code == 200
    # The first line goes to the end, a new one before it; the second session is dropped.
    moved = [full["sessions"][0] | {"lines": []}, full["sessions"][2]]
    moved[1] = moved[1] | {"lines": [full["sessions"][2]["lines"][0], {"line": LINE}, full["sessions"][0]["lines"][0]]}
    after = web.put(url, json={"name": "Spring 2", "sessions": moved}).json()["program"]
    assert [x["id"] for x in after["sessions"][1]["lines"]][::2] == [last, first]
    assert [x["accepted"][0]["place"] for x in listed(web, made) if x["id"] == first] == [1]
    gone = full["sessions"][1]["lines"][0]["id"]
    assert web.get(f"/api/lines/{gone}/match", params={"place": 1}).status_code == 404
    assert web.get(f"{url}/document").json()["sessions"][0]["name"] == "A"
    # Undo survives a restart, and forgets nothing.
    database.close()
    open_store(path_of_store())
    assert web.post("/api/undo", json={"kind": "programs", "id": made["id"]}).json() == {"can_undo": True, "can_redo": True}
    assert web.get(url).json()["program"] == full
    assert web.get(f"/api/lines/{gone}/match", params={"place": 1}).status_code == 200
    assert web.post("/api/redo", json={"kind": "programs", "id": made["id"]}).json()["can_redo"] is False
    assert web.get(url).json()["program"] == after


def listed(web, made):
    return next(p for p in web.get("/api/clients/2").json()["programs"] if p["id"] == made["id"])["lines"]


def path_of_store():
    from pathlib import Path

    return Path(database.database)


def test_a_program_takes_no_line_of_another_and_names_what_cannot_be(web):
    made = web.post("/api/clients/2/programs", json={"name": "Other"}).json()
    theirs = web.get("/api/clients/1").json()["programs"][0]["lines"][0]["id"]
    for at, lines in (("0.id", [{"id": theirs, "line": LINE}]), ("0.line.target", [{"line": LINE | {"target": "wings"}}])):
        wrong = web.put(f"/api/programs/{made['id']}", json={"name": "Other", "sessions": [{"name": "A", "lines": lines}]})
        assert (wrong.status_code, wrong.json()["faults"][0]["field"]) == (422, f"sessions.0.lines.{at}")
    assert web.get(f"/api/programs/{made['id']}").json()["program"]["sessions"] == []
    empty = web.get(f"/api/programs/{made['id']}/document")
    assert (empty.status_code, empty.json()["faults"][0]["field"]) == (422, "sessions")


def test_what_is_put_away_keeps_all_and_comes_back_and_only_then_goes_for_good(web):
    client = web.post("/api/clients", json={"name": "Ona Pell", "stature_cm": 160, "mass_kg": 55, "sex": "female"}).json()
    url = f"/api/clients/{client['id']}"
    web.put(f"{url}/places", json={"places": [1]})
    program = web.post(f"{url}/programs", json={"name": "P", "sessions": [{"name": "A", "lines": [{"line": LINE}]}]}).json()
    assert web.get(f"{url}/holds").json() == {"programs": 1, "lines": 1, "accepted swaps": 0}
    assert web.post(f"{url}/delete-for-good").json()["faults"][0]["field"] == "number"
    assert web.delete(url).status_code == 200
    assert client["id"] not in [c["id"] for c in web.get("/api/clients").json()["clients"]]
    assert web.get("/api/put-away").json()[0]["name"] == "Ona Pell"
    assert web.post(f"{url}/bring-back").status_code == 200
    back = next(c for c in web.get("/api/clients").json()["clients"] if c["id"] == client["id"])
    assert [p["id"] for p in back["programs"]] == [program["id"]]
    assert [p["id"] for p in back["places"]] == [1]
    web.delete(url)
    matches = Mock(**{"get.return_value": {}})
    keep_matches_in(matches)
    assert web.post(f"{url}/delete-for-good").status_code == 200
    keep_matches_in(None)
    matches.clear.assert_called_once_with()  # they tell of clients too
    assert web.get(url).status_code == 404
    assert web.get(f"/api/programs/{program['id']}").status_code == 404


@pytest.mark.parametrize("number", [2**63, 10**30, 0, -1])
def test_a_number_that_no_record_can_have_is_refused(bare, number):
    for url in (f"/api/clients/{number}", f"/api/places/{number}", f"/api/programs/{number}", f"/api/lines/{number}/match"):
        answer = bare.get(url, params={"place": 1} if "match" in url else None)
        assert answer.status_code == 422, url
        assert answer.headers["content-type"] == "application/problem+json"


def test_a_damaged_record_is_shown_with_what_is_stored_and_hides_nothing_else(web, bare):
    from oddswap.store.models import Client, Place

    whole = bare.get("/api/clients").json()
    with database.connection_context():
        client, place = Client.get_by_id(2), Place.get_by_id(3)
        before = client.details, place.document
        Client.update(details='{"sex": 7}').where(Client.id == 2).execute()
        Place.update(document='{"half": ').where(Place.id == 3).execute()
    try:
        found = bare.get("/api/clients").json()
        assert [c["id"] for c in found["clients"]] == [c["id"] for c in whole["clients"] if c["id"] != 2]
        assert [p["id"] for p in next(c for c in found["clients"] if c["id"] == 1)["places"]] == [1, 2]
        assert [(d["kind"], d["id"]) for d in found["damaged"]] == [("clients", 2), ("places", 3)]
        assert found["damaged"][0]["text"].startswith('{"sex": 7}')
        assert found["damaged"][1]["why"]
        assert 3 not in [p["id"] for p in bare.get("/api/places").json()]
    finally:
        with database.connection_context():
            Client.update(details=before[0]).where(Client.id == 2).execute()
            Place.update(document=before[1]).where(Place.id == 3).execute()
    assert bare.get("/api/clients").json() == whole


def test_weeks_and_differing_sets_are_kept_undone_and_told_where_wrong(web):
    url = f"/api/programs/{web.post('/api/clients/2/programs', json={'name': 'Block'}).json()['id']}"
    each = [{"reps_low": 6, "reps_high": 6}, {"reps_low": 10, "reps_high": 12, "load_pct": 80}]
    line = LINE | {"sets": 2, "sets_as": each}
    weeks = [{"name": "", "rir": 2}, {"name": "deload", "sets": -1, "load_pct": 60, "rir": 4}]
    block = {"name": "Block", "weeks": weeks, "starts": "2026-03-02", "sessions": [{"name": "A", "lines": [{"line": line}]}]}
    made = web.put(url, json=block).json()
    assert [w["load_pct"] for w in made["program"]["weeks"]] == [100, 60]
    assert next(iter(made["words"].values()))["scheme"] == "6, then 10–12 at 80 %"
    assert web.get(url + "/document").json()["weeks"] == made["program"]["weeks"]
    for wrong, field in (
        ({"starts": "2 March"}, "starts"),
        ({"sessions": [{"name": "A", "lines": [{"line": line | {"sets": 3}}]}]}, "sessions.0.lines.0.line.sets_as"),
        ({"weeks": [{"load_pct": 10}]}, "weeks.0.load_pct"),
    ):
        answer = web.put(url, json=block | wrong)
        assert answer.status_code == 422
        assert answer.json()["faults"][0]["field"] == field
    assert web.put(url, json=block | {"weeks": []}).json()["program"]["weeks"] == []
    number = url.rsplit("/", 1)[1]
    assert web.post("/api/undo", json={"kind": "programs", "id": int(number)}).status_code == 200
    assert len(web.get(url).json()["program"]["weeks"]) == 2
    web.delete(url)
