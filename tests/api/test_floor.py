"""A session on the floor over HTTP: its blocks, what is taken, what is cut, and its days in a calendar read back."""

from __future__ import annotations

import datetime as dt
import itertools

import icalendar
import pytest

from oddswap.application.first_look import forget_looks
from oddswap.application.matching import forget_matches


@pytest.fixture(scope="module")
def accepted(web):
    """The first session's lines with a swap each at the first place; its lines by number."""
    lines = [x for x in web.get("/api/clients/1").json()["programs"][0]["lines"] if x["session_id"] == 1]
    for line in lines:
        swap = web.get(f"/api/lines/{line['id']}/match", params={"place": 1}).json()["swaps"][0]
        assert web.post(f"/api/lines/{line['id']}/accepted", json={"place": 1, "key": swap["key"]}).status_code == 200
    return {line["id"]: line for line in lines}


def floor(web, **wish):
    answer = web.post("/api/sessions/1/floor", json={"place": 1, "wish": wish})
    assert answer.status_code == 200, answer.text
    return answer.json()["plan"]


def steps_of(plan):
    return [step for block in plan["blocks"] for step in block["steps"]]


def test_every_line_has_its_sets_and_nothing_overlaps(web, accepted):
    plan = floor(web)
    steps = steps_of(plan)
    assert sorted(s["line"] for s in steps) == sorted(accepted)
    assert all(s["accepted"] for s in steps)
    assert {s["line"]: len(s["sets"]) for s in steps} == {n: line["sets"] for n, line in accepted.items()}
    sets = sorted((x["begins_s"], x["begins_s"] + x["lasts_s"]) for s in steps for x in s["sets"])
    assert all(end <= begins + 0.2 for (_, end), (begins, _) in itertools.pairwise(sets))
    for step in steps:
        gaps = [b["begins_s"] - a["begins_s"] - a["lasts_s"] for a, b in zip(step["sets"], step["sets"][1:], strict=False)]
        assert all(gap >= step["rest_s"] - 0.2 for gap in gaps)
    assert plan["minutes"] == pytest.approx(sets[-1][1] / 60, abs=0.1)
    assert plan["minutes"] <= plan["alone_minutes"] + 0.1


def test_what_is_taken_is_left_out_and_a_corner_is_stayed_in(web, accepted):
    used = {item for s in steps_of(floor(web)) for item in s["items"]}
    taken = sorted(used)[0]
    plan = floor(web, without=[taken])
    assert taken not in {item for s in steps_of(plan) for item in s["items"]}
    assert len(steps_of(plan)) + len(plan["missing"]) == len(accepted)
    assert any(not s["accepted"] for s in steps_of(plan))
    corner = floor(web, corner=taken)
    assert steps_of(corner)
    assert corner["walked_m"] <= floor(web)["walked_m"]
    assert web.post("/api/sessions/1/floor", json={"place": 1, "wish": {"without": ["nothing"]}}).status_code == 422
    assert web.post("/api/sessions/999/floor", json={"place": 1}).status_code == 404


def test_too_little_time_says_what_to_leave_out(web, accepted):
    whole = floor(web)
    short = floor(web, minutes=int(whole["minutes"] * 0.7))
    assert short["minutes"] <= whole["minutes"] * 0.7 + 1
    assert short["cuts"]
    assert sum(len(s["sets"]) for s in steps_of(short)) < sum(len(s["sets"]) for s in steps_of(whole))


def test_sessions_stand_in_a_calendar_on_their_days(web):
    params = {"first": "2026-11-25", "days": "mon,thu", "clock": "17:30", "weeks": 6, "minutes": 55}
    answer = web.get("/api/programs/1/calendar", params=params)
    assert answer.headers["Content-Type"].startswith("text/calendar")
    events = icalendar.Calendar.from_ical(answer.content).walk("VEVENT")
    assert [str(e["SUMMARY"]).partition(": ")[2] for e in events] == ["Upper A", "Upper B"]
    # The first Monday and Thursday from a Wednesday on.
    assert [e.decoded("DTSTART") for e in events] == [dt.datetime(2026, 11, 30, 17, 30), dt.datetime(2026, 11, 26, 17, 30)]
    assert {e.decoded("DTEND") - e.decoded("DTSTART") for e in events} == {dt.timedelta(minutes=55)}
    assert {str(e["RRULE"]["COUNT"][0]) for e in events} == {"6"}
    assert "Lateral raise" in str(events[0]["DESCRIPTION"])
    assert web.get("/api/programs/1/calendar", params=params | {"days": "mon"}).status_code == 422
    assert web.get("/api/programs/1/calendar", params=params | {"days": "mon,someday"}).status_code == 422


def test_a_sessions_swaps_are_chosen_together_and_accepted_ones_stay(web, accepted):
    lines = web.get("/api/programs/1").json()["program"]["sessions"][1]["lines"]
    first = lines[0]["id"]
    swap = web.get(f"/api/lines/{first}/match", params={"place": 2}).json()["swaps"][1]
    assert web.post(f"/api/lines/{first}/accepted", json={"place": 2, "key": swap["key"]}).status_code == 200
    choice = web.post("/api/sessions/2/choice", json={"place": 2}).json()
    assert choice["proven"]
    assert sorted([c["line"] for c in choice["cells"]] + [int(n) for n in choice["nothing"]]) == [x["id"] for x in lines[1:]]
    for cell in choice["cells"]:
        listed = {
            s["key"]: s["match"] for s in web.get(f"/api/lines/{cell['line']}/match", params={"place": 2}).json()["swaps"]
        }
        assert listed[cell["key"]] == cell["match"]
        assert cell["match"] >= max(listed.values()) - 8
    assert web.delete(f"/api/lines/{first}/accepted", params={"place": 2}).status_code == 200


def test_a_first_look_tells_of_every_line_without_a_swap_and_is_remembered(web):
    lines = [line["id"] for s in web.get("/api/programs/1").json()["program"]["sessions"] for line in s["lines"]]
    ask = {"place": 3, "known": True}
    forget_matches()
    forget_looks()
    assert web.post("/api/clients/1/first-looks", json=ask).json() == []
    looks = web.post("/api/clients/1/first-looks", json=ask | {"known": False}).json()
    assert [x["line"] for x in looks] == lines
    seen = [x["look"] for x in looks if x["look"]]
    assert len(seen) > 0.5 * len(lines)
    assert all(0 < look["match"] <= 100 and look["title"] and look["load"] and not look["settled"] for look in seen)
    assert web.post("/api/clients/1/first-looks", json=ask).json() == looks
    # What was searched since is no guess any more, and what is taken needs none.
    first = next(x["line"] for x in looks if x["look"])
    best = web.get(f"/api/lines/{first}/match", params={"place": 3}).json()["swaps"][0]
    again = {x["line"]: x["look"] for x in web.post("/api/clients/1/first-looks", json=ask).json()}
    told = {name: best[name] for name in ("match", "title")} | {"load": best["load"]["words"], "settled": True}
    assert {name: again[first][name] for name in told} == told
    assert web.post(f"/api/lines/{first}/accepted", json={"place": 3, "key": best["key"]}).status_code == 200
    assert first not in [x["line"] for x in web.post("/api/clients/1/first-looks", json=ask).json()]
    assert web.delete(f"/api/lines/{first}/accepted", params={"place": 3}).status_code == 200


def test_what_a_lost_item_has_no_part_in_is_told_at_once(web):
    ask = {"place": 3, "known": True}
    forget_matches()
    forget_looks()
    looks = {x["line"]: x["look"] for x in web.post("/api/clients/1/first-looks", json=ask | {"known": False}).json()}
    record = web.get("/api/places/3").json()
    lost = next(k for k in record["place"]["kit"] if k["kind"] == "dumbbells")
    fewer = record["place"] | {"kit": [k for k in record["place"]["kit"] if k is not lost]}
    with_it = [line for line, look in looks.items() if look and lost["id"] in look["items"]]
    assert 0 < len(with_it) < len(looks)
    assert web.put("/api/places/3", json=fewer).status_code == 200
    try:
        told = {x["line"]: x["look"] for x in web.post("/api/clients/1/first-looks", json=ask).json()}
        sure = {line: look for line, look in told.items() if not (look and look["passing"])}
        assert sure == {line: look for line, look in looks.items() if line not in with_it}
        # Where it had a part, what was seen besides and does without it stands in until it is looked at anew.
        stand_in = {line: look for line, look in told.items() if line not in sure}
        assert len(stand_in) > 0.5 * len(with_it)
        assert set(stand_in) <= set(with_it)
        assert all(lost["id"] not in look["items"] and not look["settled"] for look in stand_in.values())
        assert all(look["match"] <= looks[line]["match"] + 5 for line, look in stand_in.items())
        # What is more may be better for any line: nothing is sure before it was looked at.
        more = fewer | {"kit": [*fewer["kit"], lost | {"id": "others", "masses_kg": [1.0, 19.0]}]}
        assert web.put("/api/places/3", json=more).status_code == 200
        told = {x["line"]: x["look"] for x in web.post("/api/clients/1/first-looks", json=ask).json()}
        assert set(told) >= set(stand_in)
        assert all(look["passing"] and lost["id"] not in look["items"] for look in told.values())
        # Looked at anew nothing stands in any more; and in another room nothing does.
        anew = [x["look"] for x in web.post("/api/clients/1/first-looks", json=ask | {"known": False}).json()]
        assert len(anew) == len(looks)
        assert not any(look and look["passing"] for look in anew)
        lower = more | {"room": more["room"] | {"ceiling_cm": 231}}
        assert web.put("/api/places/3", json=lower).status_code == 200
        assert web.post("/api/clients/1/first-looks", json=ask).json() == []
    finally:
        assert web.put("/api/places/3", json=record["place"]).status_code == 200


def test_the_fewest_lifts_cover_what_is_wanted_and_say_where_nothing_does(web):
    wanted = [{"group": g, "sets": 3} for g in ("chest", "lats", "quads", "side_delt")]
    found = web.post("/api/clients/1/fewest", json={"place": 2, "wish": {"wanted": wanted}}).json()
    assert found["proven"]
    assert 1 <= len(found["lifts"]) <= 4
    assert {word for lift in found["lifts"] for word in lift["serves"]} >= {"mid and lower chest", "lats", "side delt"}
    assert all(2 <= lift["sets"] <= 5 for lift in found["lifts"])
    short = web.post("/api/clients/1/fewest", json={"place": 2, "wish": {"wanted": wanted, "minutes": 5}}).json()
    assert short["lifts"] == []
    assert short["nothing"]
    bad = web.post("/api/clients/1/fewest", json={"place": 2, "wish": {"wanted": [{"group": "wings"}]}})
    assert bad.status_code == 422
    assert bad.json()["faults"][0]["field"].endswith("wanted.0.group")
