"""Accepted swaps checked again after every change: load and lens are kept, the list stays until the cause is gone."""

from __future__ import annotations

import pytest


@pytest.fixture(scope="module")
def accepted(web):
    """The cable swap of the incline curl, accepted in the hotel under the lens that values the lengthened end."""
    client = web.get("/api/clients/1").json()
    line = next(x for p in client["programs"] for x in p["lines"] if x["name"] == "Incline curl")
    rank = {"place": 2, "rank": {"lens": "lengthened"}}
    swaps = web.post(f"/api/lines/{line['id']}/match", json=rank).json()["swaps"]
    swap = next(s for s in swaps if "wall pulley" in s["kit"])
    answer = web.post(f"/api/lines/{line['id']}/accepted", json={**rank, "key": swap["key"]})
    assert answer.status_code == 200, answer.text
    return line["id"], swap


def now(web, line) -> float | None:
    """What the roster says of the accepted swap's match today."""
    lines = [x for c in web.get("/api/clients").json()["clients"] for p in c["programs"] for x in p["lines"]]
    return next(x for x in lines if x["id"] == line)["accepted"][0]["match_now"]


def put_ratio(web, ratio):
    """The place's column with another ratio; what is stale then."""
    kit = web.get("/api/places/2").json()["place"]["kit"]
    column = next(k for k in kit if k["kind"] == "cable_column")
    return web.put(f"/api/places/2/kit/{column['id']}", json={"item": {**column, "ratio": ratio}}).json()["stale"]


def test_half_the_pull_at_the_stored_pin_is_reported_and_mended_by_the_old_ratio(web, accepted):
    line, swap = accepted
    kit = web.get("/api/places/2").json()["place"]["kit"]
    ratio = next(k for k in kit if k["kind"] == "cable_column")["ratio"]
    # Nothing but a new day of measuring: as it was, under the lens it was accepted by.
    assert put_ratio(web, ratio) == []
    assert now(web, line) is None
    stale = put_ratio(web, ratio / 2)
    assert [s["line_id"] for s in stale] == [line]
    assert stale[0]["was"] == swap["match"]
    assert stale[0]["now"] < swap["match"] - 5
    assert now(web, line) == stale[0]["now"]
    assert put_ratio(web, ratio) == []
    assert now(web, line) is None


def test_a_changed_place_is_checked(web, accepted):
    line, _ = accepted
    place = web.get("/api/places/2").json()["place"]
    without = {**place, "kit": [k for k in place["kit"] if k["kind"] != "cable_column"]}
    assert web.put("/api/places/2", json=without).status_code == 200
    assert now(web, line) == 0
    assert web.put("/api/places/2", json=place).status_code == 200
    assert now(web, line) is None


def test_a_changed_client_is_checked(web, accepted):
    line, _ = accepted
    client = web.get("/api/clients/1").json()["client"]
    # An elbow that no longer bends as far as the swap goes.
    stiff = {**client, "ranges_deg": {"elbow": {"low": 30, "high": 100}}}
    assert web.put("/api/clients/1", json=stiff).status_code == 200
    assert now(web, line) is not None
    assert web.put("/api/clients/1", json=client).status_code == 200
    assert now(web, line) is None
