"""Clients, places, files and the measuring bench over the web service: what is stored, and that refusals store nothing."""

from __future__ import annotations

import json

import pytest

from oddswap.store.demo import document
from oddswap.store.models import ReachMap, database


def sent(text: str, name: str = "x.csv") -> dict[str, tuple[str, bytes]]:
    return {"file": (name, text.encode())}


def test_a_place_is_made_filled_copied_and_removed(web):
    new = {"name": "Loft", "room": {"length_cm": 300, "width_cm": 250, "ceiling_cm": 210}, "kit": []}
    made = web.post("/api/places", json=new).json()
    item = web.post(
        "/api/kit-items", json={"cells": {"kind": "dumbbells", "id": "b", "name": "dumbbells", "masses_kg": "4 6,5 9"}}
    ).json()
    assert item["item"]["masses_kg"] == [4, 6.5, 9]
    full = web.put(f"/api/places/{made['id']}", json=made["place"] | {"kit": [item["item"]]}).json()
    assert web.post("/api/kit-cells", json=full["place"]).json() == [item["cells"]]
    ilka = web.put("/api/clients/1/places", json={"places": [made["id"], 1]}).json()
    assert [p["name"] for p in ilka["places"]] == ["Loft", "Harbour Hall"]
    assert made["id"] in [p["id"] for p in web.get("/api/places").json()]
    gone = web.delete(f"/api/places/{made['id']}").json()
    assert gone == {"kind": "places", "id": made["id"], "name": "Loft", "holds": {"clients": 1, "accepted swaps": 0}}
    assert made["id"] not in [p["id"] for p in web.get("/api/places").json()]
    web.put("/api/clients/1/places", json={"places": [1, 2, 3]})


def test_kit_cells_are_rejected_at_their_field(web):
    cells = {"kind": "cable_column", "id": "t", "name": "tower", "holes": "many", "lowest_cm": "20", "highest_cm": "200",
             "least_kg": "5", "most_kg": "-4", "step_kg": "5"}  # fmt: skip
    answer = web.post("/api/kit-items", json={"cells": cells})
    assert answer.status_code == 422
    assert {f["field"] for f in answer.json()["faults"]} == {"holes", "most_kg"}
    kinds = {k["kind"]: k for k in web.get("/api/kit-kinds").json()}
    assert {"dumbbells", "barbell", "cable_column", "band", "machine", "station", "handle", "bench"} <= set(kinds)
    use = next(f for f in kinds["station"]["fields"] if f["name"] == "use")
    assert use["needed"]
    assert "dip_bars" in use["choices"]


def test_files_come_in_whole_or_not_at_all(web):
    before = web.get("/api/places/4").json()
    broken = "kind,name,length_cm,width_cm,ceiling_cm\nplace,Shed,400,300,230\ndumbbells,dumbbells,,,\n"
    answer = web.post("/api/files/place", files=sent(broken))
    assert answer.status_code == 422
    assert answer.json()["title"] == "The file cannot be imported"
    assert all(f["field"].startswith("line 3") for f in answer.json()["faults"])
    assert web.get("/api/places/4").json() == before
    assert web.post("/api/files/place", files={"file": ("x", b"%%%")}).status_code == 422
    for form in ("csv", "xlsx", "json"):
        data = web.get("/api/places/4/file", params={"form": form})
        assert "attachment" in data.headers["content-disposition"]
        file = {"file": (f"x.{form}", data.content)}
        assert web.post("/api/files/place", files=file).json()["place"] == before["place"]
    clients = web.get("/api/clients.csv")
    read = web.post("/api/files/clients", files=sent(clients.text)).json()["clients"]
    assert [c["name"] for c in read] == sorted(c["name"] for c in read)
    assert read[0]["restrictions"] == json.loads(document("client-ilka"))["restrictions"]


def test_a_client_s_limits_and_weighings_are_kept_and_show_a_trend(web):
    ilka = web.get("/api/clients/1").json()["client"]
    size = web.post("/api/size", json=ilka).json()
    assert size["trend_kg_week"] < 0
    assert "losing" in size["trend"]
    assert size["heights_cm"]["shoulder"] == pytest.approx(0.818 * ilka["stature_cm"], abs=0.1)
    own = ilka | {"measured_cm": {"thigh": 43.0}, "ranges_deg": {"knee": {"low": 5, "high": 110}}}
    assert web.put("/api/clients/1", json=own).json()["client"]["ranges_deg"]["knee"]["high"] == 110
    assert web.post("/api/size", json=own).json()["lengths_cm"]["thigh"] == 43.0
    wrong = web.put("/api/clients/1", json=ilka | {"knows": ["curl", "yodel"]})
    assert [f["field"] for f in wrong.json()["faults"]] == ["knows.1"]
    assert web.get("/api/clients/1").json()["client"]["measured_cm"] == {"thigh": 43.0}
    web.put("/api/clients/1", json=ilka)


def test_several_clients_come_in_together_or_not_at_all(web):
    before = len(web.get("/api/clients").json()["clients"])
    one = {"name": "Edda Vane", "stature_cm": 171, "mass_kg": 66, "sex": "female"}
    wrong = web.post("/api/clients/many", json={"clients": [one, one | {"name": "Ole", "stature_cm": 90}]})
    assert [f["field"] for f in wrong.json()["faults"]] == ["clients.1.stature_cm"]
    assert len(web.get("/api/clients").json()["clients"]) == before
    assert len(web.post("/api/clients/many", json={"clients": [one, one | {"name": "Ole"}]}).json()) == 2
    assert len(web.get("/api/clients").json()["clients"]) == before + 2


def run(web, item, points, **more):
    rows = []
    for seed, at in enumerate(points):
        up = web.post("/api/measuring/read", json={"item": item, "at": at, "seed": seed, **more}).json()
        rows.append({"at": at, "value": up["value"], "zero": up["zero"]})
        if more["what"] == "column":
            down = web.post(
                "/api/measuring/read", json={"item": item, "at": at, "seed": 99 + seed, "direction": "down", **more}
            )
            rows[-1]["down"] = down.json()["value"]
    measurement = {"what": more["what"], "item": item["id"], "readings": rows}
    answer = web.post("/api/measuring/fit", json={"measurement": measurement, "item": item})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_a_measured_column_goes_into_the_kit_and_makes_old_swaps_stale(web):
    """Accepted at the stored ratio, then measured to be another: what was accepted no longer holds."""
    client = web.get("/api/clients/1").json()
    line = next(x for p in client["programs"] for x in p["lines"] if x["name"] == "Incline curl")
    swaps = web.get(f"/api/lines/{line['id']}/match", params={"place": 2}).json()["swaps"]
    on_line = next(s for s in swaps if "wall pulley" in s["kit"])
    web.post(f"/api/lines/{line['id']}/accepted", json={"place": 2, "key": on_line["key"]})
    kit = web.get("/api/places/2").json()["place"]["kit"]
    column = next(k for k in kit if k["kind"] == "cable_column")
    fit = run(web, column, [5, 15, 25, 35] * 2, what="column")
    assert fit["good_enough"], fit["advice"]
    assert fit["item"]["ratio"] == pytest.approx(fit["figures"]["ratio"])
    assert fit["item"]["measured_on"]
    kept = web.put(f"/api/places/2/kit/{column['id']}", json={"item": fit["item"]}).json()
    assert next(k for k in kept["place"]["kit"] if k["id"] == column["id"])["ratio"] != column["ratio"]
    moved = fit["item"] | {"ratio": fit["item"]["ratio"] / 2}
    stale = web.put(f"/api/places/2/kit/{column['id']}", json={"item": moved}).json()["stale"]
    assert [s["line"] for s in stale] == ["Incline curl"]
    assert abs(stale[0]["was"] - stale[0]["now"]) > 5
    wrong = web.put("/api/places/2/kit/nothing", json={"item": moved})
    assert wrong.status_code == 422


def test_bands_cams_and_joints_are_measured(web):
    kit = web.get("/api/places/3").json()["place"]["kit"]
    band = next(k for k in kit if k["kind"] == "band")
    slack = band["points"][0]["length_cm"]
    fit = run(web, band, [round(slack * x) for x in (1.15, 1.4, 1.7, 2.0, 2.4)] * 3, what="band")
    assert fit["good_enough"]
    assert len(fit["item"]["points"]) >= 10
    machine = next(k for k in web.get("/api/places/5").json()["place"]["kit"] if k["id"] == "curl")
    cam = run(web, machine, [10, 30, 50, 70, 90, 110] * 2, what="cam")
    assert cam["item"]["cam"] == "measured"
    angles = web.post("/api/measuring/joint", json={"low": 0, "high": 140, "seed": 3}).json()
    readings = [{"at": t, "value": v} for t, v in angles]
    joint = web.post("/api/measuring/fit", json={"measurement": {"what": "joint", "readings": readings}}).json()
    assert 0 < joint["figures"]["low_deg"] < joint["figures"]["high_deg"] < 140
    few = {"measurement": {"what": "band", "readings": [{"at": 50, "value": 10}]}}
    assert web.post("/api/measuring/fit", json=few).status_code == 422
    off = web.post("/api/measuring/read", json={"what": "band", "item": band, "at": 900})
    assert off.json()["faults"][0]["field"] == "at"


def test_the_reach_map_over_the_service(web):
    answer = web.get("/api/clients/1/reach", params={"place": 2}).json()
    assert answer["possible"] > answer["covered"] > 20
    row = next(r for r in answer["rows"] if r["group"] == "soleus")
    assert [c["zone"] for c in row["cells"]] == ["lengthened", "mid", "shortened"]
    assert any("too light" in c["gap"] for r in answer["rows"] for c in r["cells"])
    assert web.get("/api/clients/1/reach", params={"place": 77}).status_code == 404


def test_a_kept_map_is_answered_until_size_or_kit_change(web):
    at = {"place": 4}
    first = web.get("/api/clients/2/reach", params=at).json()
    with database.connection_context():
        row = ReachMap.get(ReachMap.client == 2, ReachMap.place == 4)
        row.document = row.document.replace('"client":"', '"client":"kept ')
        row.save()
    assert web.get("/api/clients/2/reach", params=at).json()["client"] == f"kept {first['client']}"
    place = web.get("/api/places/4").json()["place"]
    web.put("/api/places/4", json=place | {"kit": place["kit"][:2]})
    fewer = web.get("/api/clients/2/reach", params=at).json()
    assert fewer["client"] == first["client"]
    assert fewer["covered"] < first["covered"]
    web.put("/api/places/4", json=place)
