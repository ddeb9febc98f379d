"""Input that once broke the service, or left something out without a word."""

from __future__ import annotations

import pytest

from oddswap.application.jobs import LONG_WORK
from oddswap.application.matching import match_line
from oddswap.application.versions import match_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.sheets import export_file, import_file
from oddswap.equivalence.cache import SharedCache
from oddswap.store.demo import document


def test_a_place_of_any_name_is_exported(web):
    place = web.get("/api/places/3").json()["place"]
    number = web.post("/api/places", json={**place, "name": "Łódź"}).json()["id"]
    for form in ("csv", "xlsx"):
        answer = web.get(f"/api/places/{number}/file", params={"form": form})
        assert answer.status_code == 200
        assert "filename*=UTF-8''%C5%81%C3%B3d%C5%BA" in answer.headers["content-disposition"]


@pytest.mark.parametrize("name", ["=1+1", "+a1", "-x", "@home", "007", "'quoted"])
@pytest.mark.parametrize("form", ["csv", "xlsx"])
def test_text_stays_text_and_is_never_a_formula(name, form):
    place = PlaceDoc.model_validate_json(document("place-spare-room"))
    place = place.model_copy(update={"name": name})
    data = export_file(form, place)
    if form == "csv":
        assert not any(cell.startswith(("=", "+", "@")) for line in data.decode().splitlines() for cell in line.split(","))
    assert import_file("place", f"x.{form}", data).name == name


@pytest.mark.parametrize("form", ["csv", "xlsx"])
def test_what_a_client_never_does_always_gets_and_taught_is_in_the_tables(form):
    client = ClientDoc.model_validate_json(document("client-ilka"))
    client = client.model_copy(update={"banned": ["dip", "upright_row"], "pinned": ["lateral_raise"]})
    assert client.learned
    back = import_file("clients", f"x.{form}", export_file(form, [client]))[0]
    assert (back.banned, back.pinned, back.learned) == (client.banned, client.pinned, client.learned)


@pytest.mark.parametrize(
    ("path", "body", "field"),
    [
        ("read", {"what": "column", "item": "column", "at": 10, "seed": -1}, "seed"),
        ("joint", {"low": 0, "high": 140, "seed": -1}, "seed"),
        ("read", {"what": "band", "item": "dumbbells", "at": 60, "seed": 1}, "item"),
        ("plan", {"what": "band", "item": "empty band"}, "item"),
    ],
    ids=["seed", "joint seed", "band run on dumbbells", "a band without points"],
)
def test_measuring_what_cannot_be_names_its_field(web, path, body, field):
    kit = web.get("/api/places/3").json()["place"]["kit"] + web.get("/api/places/2").json()["place"]["kit"]
    items = {k["kind"]: k for k in kit}
    band = {"kind": "band", "id": "b", "name": "b", "points": [], "most_cm": 150}
    known = {"column": items["cable_column"], "dumbbells": items["dumbbells"], "empty band": band}
    answer = web.post(f"/api/measuring/{path}", json={**body, **({"item": known[body["item"]]} if "item" in body else {})})
    assert answer.status_code == 422, answer.text
    assert answer.json()["faults"][0]["field"].startswith(field)


def test_parallel_searches_do_not_erase_each_others_progress(monkeypatch):
    """Two lenses of one line at one place: the one that ends leaves the other's progress standing."""
    client = ClientDoc.model_validate_json(document("client-ilka"))
    line = ProgramDoc.model_validate_json(document("program-ilka")).sessions[0].lines[0]
    place = PlaceDoc.model_validate_json(document("place-spare-room"))
    long, short = RankDoc(lens="lengthened"), RankDoc(lens="same_profile")
    names = [match_digest(client, line, place, r) for r in (long, short)]
    seen = []

    def find(prescription, room, lens, tell, filters, excluded):
        tell(0.25 if lens.id == "lengthened" else 0.75)
        if lens.id == "lengthened":
            match_line(client, line, place, short)
            seen.extend(LONG_WORK.part(name) for name in names)
        return []

    monkeypatch.setattr("oddswap.application.matching.find_swaps", find)
    monkeypatch.setattr("oddswap.application.matching._matches", SharedCache(8))
    match_line(client, line, place, long)
    assert seen == [0.25, None]
    assert LONG_WORK.part(names[0]) is None
