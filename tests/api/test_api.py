"""The web service: what it answers, what it refuses and in which words, and that refusals store nothing."""

from __future__ import annotations

import copy
import json
from typing import Any

import jsonschema
import pytest

from oddswap.store.demo import document


def demo(name: str) -> Any:
    return json.loads(document(name))


def faults(answer) -> list[dict[str, str]]:
    assert answer.status_code == 422, answer.text
    assert answer.headers["content-type"] == "application/problem+json"
    body = answer.json()
    assert body["status"] == 422
    assert all(f["limit"] and f["way_out"] for f in body["faults"])
    return body["faults"]


def test_a_line_is_matched_accepted_and_undone(web):
    match = web.get("/api/lines/2/match", params={"place": 2}).json()
    assert match["prescribed"]["target"] == "biceps"
    second = match["swaps"][1]
    accepted = web.post("/api/lines/2/accepted", json={"place": 2, "key": second["key"]}).json()
    assert [t["swap"]["title"] for t in accepted["accepted"]] == [second["title"]]
    lines = web.get("/api/clients/1").json()["programs"][0]["lines"]
    stored = next(line for line in lines if line["id"] == 2)["accepted"][0]["swap"]
    assert stored["set_up"] == second["set_up"]
    assert stored["profile"] is None
    assert web.delete("/api/lines/2/accepted", params={"place": 2}).json()["accepted"] == []
    assert faults(web.delete("/api/lines/2/accepted", params={"place": 2}))[0]["field"] == "place"


def change(value: Any, path: str, to: Any) -> Any:
    out = copy.deepcopy(value)
    at = out
    *parents, last = path.split(".")
    for key in parents:
        at = at[int(key)] if isinstance(at, list) else at[key]
    if isinstance(at, list):
        at[int(last)] = to
    else:
        at[last] = to
    return out


DUMBBELL = "program.sessions.0.lines.1.set_up.sources.0.mass_kg"
CABLE = "program.sessions.0.lines.3.set_up.sources.0"
SWAP_FAULTS = [
    (DUMBBELL, -5, "greater than 0"),
    (DUMBBELL, "twelve", "valid number"),
    (DUMBBELL, True, "valid number"),
    ("client.stature_cm", 30, "120 to 230 cm"),
    ("client.mass_kg", 5000, "30 to 250 kg"),
    ("client.sex", "x", "'female' or 'male'"),
    (f"{CABLE}.hole", 31, "has holes 1 to 22"),
    (f"{CABLE}.stack_kg", 900, "less than or equal to 400"),
    (f"{CABLE}.column.parked_cm", 120, "stays taut only"),
    ("program.sessions.0.lines.1.target", "chest", "this movement is for biceps"),
    ("program.sessions.0.lines.1.set_up.movement", "cartwheel", "the known movements are"),
    ("program.sessions.0.lines.1.set_up.parameters.arm_angle_deg", 170, "runs from -55 to 160"),
    ("program.sessions.0.lines.1.reps_high", 5, "at least reps_low"),
    ("program.sessions.0.lines.1.nonsense", 5, "not permitted"),
    ("place.kit.1.points.2.force_n", 5, "a longer band never pulls less"),
    ("place.kit.1.points.2.length_cm", 20, "lengths rise"),
    ("place.kit.0.masses_kg", [], "at least 1 item"),
    ("place.kit.0.id", "door", "an id of its own"),
    ("lens", "magic", "the lenses are"),
]


@pytest.mark.parametrize(("field", "value", "limit"), SWAP_FAULTS)
def test_bad_input_is_named_at_its_field(web, field, value, limit):
    good = {"client": demo("client-ilka"), "program": demo("program-ilka"), "place": demo("place-spare-room")}
    bad = change({**good, "lens": "same_profile"}, field, value)
    rows = faults(web.post("/api/swaps", json=bad))
    where = {
        "program.sessions.0.lines.3.set_up.sources.0.column.parked_cm": f"{CABLE}.forward_cm",
        "place.kit.0.id": "place.kit.3.id",
    }
    assert where.get(field, field) in [r["field"] for r in rows]
    assert any(limit in r["limit"] for r in rows), rows


def test_a_line_that_nothing_stands_in_for_is_said_among_those_that_something_does(web):
    kit = [{"kind": "dumbbells", "id": "light", "name": "light dumbbells", "masses_kg": [1, 2, 3]}]
    room = {**demo("place-spare-room"), "kit": kit}
    asked = {"client": demo("client-tobi"), "program": demo("program-tobi"), "place": room, "lens": "same_profile"}
    lines = web.post("/api/swaps", json=asked).json()["lines"]
    empty = [line for line in lines if not line["swaps"]]
    assert empty
    assert all(line["nothing"] for line in empty)
    assert all(not line["nothing"] for line in lines if line["swaps"])
    assert any("repetitions" in line["nothing"] for line in empty)


def test_an_overstretched_band_is_named(web):
    band = demo("place-spare-room")["kit"][1]
    pull = {"kind": "band", "band": band, "height_cm": 100, "forward_cm": 230, "right_cm": 0}
    body = {"client": demo("client-ilka"), "set_up": {"movement": "curl", "sources": [pull]}}
    row = faults(web.post("/api/profile", json=body))[0]
    assert row["field"] == "set_up.sources.0.forward_cm"
    assert "may be stretched to 160 cm at most" in row["limit"]


@pytest.mark.parametrize("text", ['{"name": "a",', "", "[]", "null", '{"stature_cm": NaN}'])
def test_malformed_json_is_rejected(web, text):
    headers = {"content-type": "application/json"}
    assert faults(web.put("/api/clients/1", content=text, headers=headers))


def test_rejected_changes_store_nothing(web):
    before = web.get("/api/clients").json(), web.get("/api/places/3").json()
    client = demo("client-ilka")
    place = demo("place-spare-room")
    assert faults(web.put("/api/clients/1", json={**client, "stature_cm": 30}))[0]["field"] == "stature_cm"
    assert faults(web.put("/api/places/3", json=change(place, "kit.0.masses_kg.1", -5)))[0]["field"] == "kit.0.masses_kg.1"
    assert faults(web.put("/api/places/3", json=change(place, "kit.2.most_cm", 999)))[0]["field"] == "kit.2.most_cm"
    assert faults(web.post("/api/lines/1/accepted", json={"place": 1, "key": "nothing"}))[0]["field"] == "key"
    assert faults(web.post("/api/lines/1/accepted", json={"place": True, "key": "x"}))[0]["field"] == "place"
    assert (web.get("/api/clients").json(), web.get("/api/places/3").json()) == before


def test_a_changed_client_changes_the_set_up(web):
    before = web.get("/api/lines/5/match", params={"place": 2}).json()["swaps"][0]
    client = web.get("/api/clients/1").json()["client"]
    assert web.put("/api/clients/1", json={**client, "stature_cm": 190, "mass_kg": 90}).status_code == 200
    after = web.get("/api/lines/5/match", params={"place": 2}).json()["swaps"][0]
    assert after["set_up"] != before["set_up"]
    web.put("/api/clients/1", json=client)
    assert web.get("/api/lines/5/match", params={"place": 2}).json()["swaps"][0] == before


@pytest.mark.parametrize("path", ["/api/clients/99", "/api/places/99", "/api/lines/99/match?place=1", "/api/nowhere"])
def test_what_is_not_there_is_a_problem_document(web, path):
    answer = web.get(path)
    assert answer.status_code == 404
    assert answer.headers["content-type"] == "application/problem+json"


def test_every_document_offered_has_a_schema_its_examples_keep(web):
    for name in ("client", "program", "place", "set-up", "profile", "match", "swaps"):
        schema = web.get(f"/api/schemas/{name}").json()
        jsonschema.Draft202012Validator.check_schema(schema)
        for value in schema.get("examples", []):
            jsonschema.validate(value, schema)
    profile = web.post("/api/profile", json=web.get("/api/schemas/set-up").json()["examples"][0])
    jsonschema.validate(profile.json(), web.get("/api/schemas/profile").json())
    match = web.get("/api/lines/1/match", params={"place": 3}).json()
    jsonschema.validate(match, web.get("/api/schemas/match").json())


def test_the_openapi_document_is_complete(web):
    spec = web.get("/api/openapi.json").json()
    schemas = spec["components"]["schemas"]
    for path, methods in spec["paths"].items():
        for method, operation in methods.items():
            where = f"{method} {path}"
            assert operation["summary"], where
            assert operation["description"], where
            media = operation["responses"]["200"]["content"]
            assert all(kind.get("schema") or kind.get("itemSchema") for kind in media.values()), where
            files = {"files", "workspace"} & set(operation["tags"])
            assert {"application/json", "text/event-stream"} & set(media) or files, where
            assert operation["responses"]["422"]["content"], where
            body = operation.get("requestBody")
            if body:
                if "multipart/form-data" in body["content"]:
                    continue
                ref = body["content"]["application/json"]["schema"]["$ref"].rsplit("/", 1)[1]
                assert schemas[ref].get("examples"), f"{where} shows no example"


def test_pages_and_policy(web):
    page = web.get("/clients/1", headers={"accept": "text/html"})
    assert page.status_code == 200, "build the interface first: make build"
    assert "Odd Swap" in page.text
    assert "default-src 'self'" in page.headers["content-security-policy"]
    assert page.headers["cache-control"] == "no-cache"
