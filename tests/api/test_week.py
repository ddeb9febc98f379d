"""The week against what a coach wants, and what mends a loss: told, taken, gone."""

from __future__ import annotations

import pytest

from oddswap.documents.client import SpanDoc
from oddswap.documents.week import off_words

CLIENT, PLACE = 1, 2  # Ilka Marsh at the hotel


@pytest.fixture
def lossy(web):
    """The first lines with the least like swap that there is, asked beyond what a coach sends; what was there comes back."""
    beyond = {"place": PLACE, "rank": {"unlike": True}}
    lines = web.get(f"/api/clients/{CLIENT}").json()["programs"][0]["lines"][:6]
    for line in lines:
        found = web.post(f"/api/lines/{line['id']}/match", json=beyond).json()["swaps"]
        worst = min(found, key=lambda s: s["match"])
        assert web.post(f"/api/lines/{line['id']}/accepted", json=beyond | {"key": worst["key"]}).status_code == 200
    yield lines
    for line in lines:
        web.delete(f"/api/lines/{line['id']}/accepted?place={PLACE}")


def at_place(web):
    week = web.get(f"/api/clients/{CLIENT}/week").json()
    return next(p for p in week["places"] if p["place"] == PLACE)


def sets_of(web, loss):
    thirds = at_place(web)["sets"].get(loss["group"], [0, 0, 0])
    return sum(thirds) if loss["third"] is None else thirds[loss["third"]]


def test_a_mend_gives_back_what_it_says(web, lossy):
    losses = at_place(web)["losses"]
    assert losses
    taken = 0
    for loss in losses:
        query = {"place": PLACE, "group": loss["group"]} | ({} if loss["third"] is None else {"third": loss["third"]})
        found = web.get(f"/api/clients/{CLIENT}/week/mends", params=query).json()
        assert found["words"] == loss["words"]
        for mend in found["mends"]:
            assert mend["gains"] >= 0.5
            assert mend["price"]
        swaps = [m for m in found["mends"] if m["key"]]
        if not swaps or taken:
            continue
        before = sets_of(web, loss)
        chosen = {"place": PLACE, "key": swaps[0]["key"]}
        assert web.post(f"/api/lines/{swaps[0]['line']}/accepted", json=chosen).status_code == 200
        assert sets_of(web, loss) - before >= swaps[0]["gains"] - 0.1
        taken += 1
    assert taken


def test_where_nothing_is_lost_there_is_nothing_to_mend(web):
    answer = web.get(f"/api/clients/{CLIENT}/week/mends", params={"place": 1, "group": "glute_max"})
    assert (answer.status_code, answer.json()["faults"][0]["field"]) == (422, "group")


def test_what_is_wanted_is_kept_and_held_against_the_week(web):
    url = f"/api/clients/{CLIENT}/weekly-sets"
    written = {m["group"]: sum(m["written"]) for m in web.get(f"/api/clients/{CLIENT}/week").json()["muscles"]}
    group = max(written, key=lambda g: written[g])
    wanted = {group: {"low": 1, "high": 2}, "soleus": {"low": 4, "high": 6}}
    week = {m["group"]: m for m in web.put(url, json={"wanted": wanted}).json()["muscles"]}
    assert week[group]["off"].endswith("over")
    assert (week["soleus"]["off"], week["soleus"]["times"], week["soleus"]["meant"]) == ("4 short", 0, True)
    assert web.get(f"/api/clients/{CLIENT}").json()["client"]["weekly_sets"] == wanted
    for wrong in ({"nose": {"low": 1, "high": 2}}, {group: {"low": 9, "high": 2}}):
        answer = web.put(url, json={"wanted": wrong})
        assert (answer.status_code, answer.json()["faults"][0]["field"]) == (422, f"weekly_sets.{next(iter(wrong))}")
    assert web.post("/api/undo", json={"kind": "clients", "id": CLIENT}).status_code == 200
    assert not web.get(f"/api/clients/{CLIENT}").json()["client"]["weekly_sets"]


@pytest.mark.parametrize(
    ("sets", "said"), [(10, ""), (16, ""), (9.8, ""), (9.4, "0.5 short"), (6, "4 short"), (18.1, "2 over")]
)
def test_what_is_short_or_over_by_hand(sets, said):
    assert off_words(sets, SpanDoc(low=10, high=16)) == said
    assert off_words(sets, None) == ""
