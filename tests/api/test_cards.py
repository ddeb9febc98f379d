"""From an accepted swap to a card, to what a phone sends, to what the next card says; what is on paper; files out and in."""

from __future__ import annotations

import datetime as dt
import io
import uuid

import pytest
from openpyxl import Workbook
from pypdf import PdfReader

from oddswap.api.guesses import GUESSES
from oddswap.application.cards import build_card
from oddswap.store import cards, log
from oddswap.store.opening import connected

PLACE = 2  # the hotel
HALL = 1  # where nothing else is logged


@pytest.fixture(scope="module")
def handed(web):
    """The demo's first session with swaps at the hotel, and its card: session, link, card."""
    client = web.get("/api/clients/1").json()
    lines = [x for x in client["programs"][0]["lines"] if x["session"] == "Upper A"]
    for line in lines[:3]:
        found = web.post(f"/api/lines/{line['id']}/match", json={"place": PLACE}).json()
        taken = web.post(f"/api/lines/{line['id']}/accepted", json={"place": PLACE, "key": found["swaps"][0]["key"]})
        assert taken.status_code == 200
    session = lines[0]["session_id"]
    made = web.post(f"/api/sessions/{session}/cards", json={"place": PLACE}).json()
    return session, made["path"].split("#")[1], made["card"]


def read(web, link):
    answer = web.get("/api/card", headers={"Card-Link": link})
    assert answer.status_code == 200, answer.text
    return answer.json()


def entry(line, reps=10, rir=1, amount=None, moment=None, **more):
    done = {"amount": amount, "reps": reps, "rir": rir}
    when = (moment or dt.datetime.now(dt.UTC)).isoformat()
    return {"id": str(uuid.uuid4()), "kind": "set", "at": when, "line": line, "set": done, **more}


def send(web, link, entries, sent_at=None):
    body = {"sent_at": (sent_at or dt.datetime.now(dt.UTC)).isoformat(), "entries": entries}
    return web.post("/api/card/entries", headers={"Card-Link": link}, json=body)


def at_the_desk(web, handed):
    """A set noted by the coach; returns the log."""
    line = web.get("/api/clients/1").json()["programs"][0]["lines"][0]["id"]
    body = {"session": handed[0], "place": PLACE, "entries": [entry(line, 14, amount=5.0)]}
    answer = web.post("/api/clients/1/log", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_a_session_of_somebody_else_is_refused_at_the_desk(web, handed):
    other = web.get("/api/clients/2").json()["programs"][0]["lines"][0]
    before = web.get("/api/clients/1/log").json()["sets"]
    body = {"session": other["session_id"], "place": 1, "entries": [entry(other["id"], 10, amount=5.0)]}
    answer = web.post("/api/clients/1/log", json=body)
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "session"
    assert web.get("/api/clients/1/log").json()["sets"] == before


def test_a_card_says_how_to_set_up_what_to_take_and_what_instead(web, handed):
    card = read(web, handed[1])
    assert (card["client"], card["place"], card["revision"]) == ("Ilka Marsh", "Quay Hotel room", 1)
    assert len(card["lifts"]) == 3
    assert card["missing"]  # the fourth line has no swap here yet
    for lift in card["lifts"]:
        first, *others = lift["ways"]
        assert first["load"] in [a["words"] for a in first["amounts"]]
        assert others, lift["name"]
        taken = {s["value"] for s in first["steps"]}
        assert any({s["value"] for s in way["steps"]} != taken for way in others)
        assert lift["stop"]
        assert first["basis"]["ratios"] == sorted(first["basis"]["ratios"])
        assert len(first["figure"]["part"]) == 3
    assert web.get("/api/clients/1/cards").json()[0]["opened_at"]


def test_what_a_card_reads_sets_by_is_what_the_match_says(web, handed):
    """A card's efforts against those of the accepted swap, computed on another way."""
    client = web.get("/api/clients/1").json()
    accepted = {x["id"]: s["swap"] for x in client["programs"][0]["lines"] for s in x["accepted"] if s["place"] == PLACE}
    for lift in read(web, handed[1])["lifts"]:
        basis, swap = lift["ways"][0]["basis"], accepted[lift["line"]]
        at = basis["amounts"].index(pytest.approx(swap["load"]["amount"]))
        assert basis["ratios"][at] == pytest.approx(swap["load"]["effort_ratio"], abs=2e-3)
        middle = basis["written_amounts"][len(basis["written_amounts"]) // 2]
        written = basis["written_ratios"][basis["written_amounts"].index(middle)]
        assert written == pytest.approx(1.0, abs=2e-3)


def test_what_is_sent_twice_late_or_by_a_wrong_clock_is_once_in_the_log(web, handed):
    link = handed[1]
    lift = read(web, link)["lifts"][1]
    amount = lift["ways"][0]["amount"]
    yesterday = dt.datetime.now(dt.UTC) - dt.timedelta(days=1)
    sets = [
        entry(lift["line"], reps, amount=amount, moment=yesterday + dt.timedelta(minutes=3 * k))
        for k, reps in enumerate((10, 9, 9))
    ]
    before = web.get("/api/clients/1/log").json()["sets"]
    for _ in range(2):
        assert send(web, link, sets).json()["kept"] == [s["id"] for s in sets]
    # A clock that is a day ahead: the set was done now.
    ahead = dt.datetime.now(dt.UTC) + dt.timedelta(days=1)
    late = entry(lift["line"], 8, amount=amount, moment=ahead)
    assert send(web, link, [late], ahead).status_code == 200
    book = web.get("/api/clients/1/log").json()
    assert book["sets"] == before + 4
    assert book["clock_off_h"] == pytest.approx(24, abs=0.1)
    (mine,) = [x for x in book["lifts"] if x["line"] == lift["line"]]
    newest = dt.datetime.fromisoformat(mine["points"][-1]["at"])
    assert abs(newest - dt.datetime.now(dt.UTC)) < dt.timedelta(minutes=5)
    # What cannot be is refused whole, and nothing of it is kept.
    wrong = [entry(lift["line"], 9, amount=amount), entry(999_999, 9, amount=amount)]
    assert send(web, link, wrong).status_code == 422
    assert web.get("/api/clients/1/log").json()["sets"] == before + 4


def test_the_next_card_follows_the_log_and_a_chosen_load_overrules_it(web, handed):
    link = handed[1]
    lift = read(web, link)["lifts"][2]
    way = lift["ways"][0]
    day = dt.datetime.now(dt.UTC) - dt.timedelta(days=3)
    high = way["basis"]["written_high"]
    done = [entry(lift["line"], high + 8, 3, way["amount"], day + dt.timedelta(minutes=3 * k)) for k in range(3)]
    assert send(web, link, done).status_code == 200
    after = read(web, link)["lifts"][2]
    assert after["last"].endswith(f"{high + 8}, {high + 8}, {high + 8}")
    assert after["ways"][0]["amount"] > way["amount"]
    assert "next step" in after["ways"][0]["why"]
    assert read(web, link)["revision"] > 1
    book = web.get("/api/clients/1/log").json()
    (mine,) = [x for x in book["lifts"] if x["line"] == lift["line"]]
    advice = mine["next"][0]
    held = next(o for o in advice["others"] if o["kind"] == "hold")
    choice = {"id": str(uuid.uuid4()), "like": advice["like"], "kind": "hold", "amount": held["amount"], "reps": held["reps"]}
    assert web.post("/api/clients/1/log/choice", json=choice).status_code == 200
    again = web.get("/api/clients/1/log").json()
    (mine,) = [x for x in again["lifts"] if x["line"] == lift["line"]]
    assert (mine["next"][0]["amount"], mine["next"][0]["reason"]) == (held["amount"], "chosen by your coach")
    web.post("/api/clients/1/log/withdrawn", json={"id": str(uuid.uuid4()), "replaces": choice["id"]})
    (mine,) = [x for x in web.get("/api/clients/1/log").json()["lifts"] if x["line"] == lift["line"]]
    assert mine["next"][0]["amount"] == advice["amount"]


def test_a_fix_and_what_is_taken_back_stay_readable(web, handed):
    point = at_the_desk(web, handed)["lifts"][0]["points"][0]
    fix = {"id": str(uuid.uuid4()), "replaces": point["id"], "amount": point["amount"], "reps": point["reps"] + 1, "rir": 2}
    assert web.post("/api/clients/1/log/fix", json=fix).status_code == 200
    points = [p for x in web.get("/api/clients/1/log").json()["lifts"] for p in x["points"]]
    assert point["id"] not in [p["id"] for p in points]
    assert next(p for p in points if p["id"] == fix["id"])["reps"] == point["reps"] + 1
    with connected():
        assert {point["id"], fix["id"]} <= {e.key for e in log.entries(1)}
    unknown = {"id": str(uuid.uuid4()), "replaces": str(uuid.uuid4()), "amount": 1, "reps": 1}
    assert web.post("/api/clients/1/log/fix", json=unknown).status_code == 422


def test_a_pain_is_avoided_from_now_on_and_that_can_be_undone(web, handed):
    lift = read(web, handed[1])["lifts"][0]
    pains = [
        {"id": str(uuid.uuid4()), "kind": "pain", "at": dt.datetime.now(dt.UTC).isoformat(), "line": lift["line"],
         "pain": {"where": where, "when": "end"}, "note": "pinches"}
        for where in ("ankle", "biceps")
    ]  # fmt: skip
    assert send(web, handed[1], pains).status_code == 200
    before = web.get("/api/clients/1").json()["client"]["restrictions"]
    avoid = lambda key: web.post("/api/clients/1/log/avoided", json={"key": key})
    assert [p["where"] for p in avoid(pains[0]["id"]).json()["pains"]] == ["biceps", "ankle"]
    *old, new = web.get("/api/clients/1").json()["client"]["restrictions"]
    assert (old, new["joint"], new["action"], "pinches" in new["note"]) == (before, "ankle", "any", True)
    for refused in (pains[0]["id"], pains[1]["id"], str(uuid.uuid4())):
        answer = avoid(refused)
        assert (answer.status_code, answer.json()["faults"][0]["field"]) == (422, "key")
    assert web.post("/api/undo", json={"kind": "clients", "id": 1}).status_code == 200
    assert web.get("/api/clients/1").json()["client"]["restrictions"] == before
    for pain in pains:
        web.post("/api/clients/1/log/withdrawn", json={"id": str(uuid.uuid4()), "replaces": pain["id"]})


def test_pain_is_told_ranks_down_and_can_be_taken_back(web, handed):
    _, link, _ = handed
    lift = read(web, link)["lifts"][0]
    before = web.post(f"/api/lines/{lift['line']}/match", json={"place": PLACE}).json()["swaps"]
    pain = {"id": str(uuid.uuid4()), "kind": "pain", "at": dt.datetime.now(dt.UTC).isoformat(), "line": lift["line"],
            "pain": {"where": "shoulder", "when": "end", "stopped": True}}  # fmt: skip
    assert send(web, link, [pain]).status_code == 200
    told = web.get("/api/attention").json()["items"]
    assert [(x["what"], x["path"]) for x in told if x["what"] == "pain"] == [("pain", f"/clients/1/log#{lift['line']}")]
    hurt = web.post(f"/api/lines/{lift['line']}/match", json={"place": PLACE}).json()["swaps"]
    place = lambda swaps: next(
        i for i, s in enumerate(swaps) if s["title"] == before[0]["title"] and s["kit"] == before[0]["kit"]
    )
    assert place(hurt) > 0
    assert "shoulder hurt" in hurt[place(hurt)]["cautions"][0]
    web.post("/api/clients/1/log/withdrawn", json={"id": str(uuid.uuid4()), "replaces": pain["id"]})
    after = web.post(f"/api/lines/{lift['line']}/match", json={"place": PLACE}).json()["swaps"]
    assert [s["key"] for s in after] == [s["key"] for s in before]
    assert not [x for x in web.get("/api/attention").json()["items"] if x["what"] == "pain"]
    assert web.get("/api/clients/1/log").json()["pains"] == []


def test_paper_says_what_the_screen_says(web, handed):
    session = handed[0]
    card = web.get(f"/api/sessions/{session}/card", params={"place": PLACE}).json()
    squeezed = lambda text: "".join(text.split())
    for paper, pages, width in (("a5", len(card["lifts"]), 419.5), ("a4", None, 595.3)):
        answer = web.get(f"/api/sessions/{session}/card.pdf", params={"place": PLACE, "paper": paper})
        assert answer.headers["Content-Type"] == "application/pdf"
        pdf = PdfReader(io.BytesIO(answer.content))
        assert float(pdf.pages[0].mediabox.width) == pytest.approx(width, abs=1)
        if pages:
            assert len(pdf.pages) == pages
        text = squeezed(" ".join(page.extract_text() for page in pdf.pages))
        for lift in card["lifts"]:
            way = lift["ways"][0]
            wanted = [
                way["title"],
                way["load"],
                way["reps"],
                lift["target_name"],
                lift["stop"],
                *(s["value"] for s in way["steps"]),
            ]
            if paper == "a5":
                wanted += [*way["feel"], *way["watch"], *card["safety"]]
            for words in wanted:
                assert squeezed(words) in text, (paper, words)


def test_a_link_is_renewed_withdrawn_and_never_told_twice(web, handed):
    session, link, card = handed
    held = web.get("/api/clients/1/cards")
    assert link not in held.text
    new = web.post(f"/api/cards/{card['id']}/renew").json()["path"].split("#")[1]
    assert web.get("/api/card", headers={"Card-Link": link}).status_code == 404
    assert read(web, new)["client"] == "Ilka Marsh"
    assert web.post(f"/api/cards/{card['id']}/withdraw").json()["withdrawn"]
    assert web.get("/api/card", headers={"Card-Link": new}).status_code == 404
    assert send(web, new, []).status_code == 404
    again = web.post(f"/api/cards/{card['id']}/renew").json()["path"].split("#")[1]
    read(web, again)
    GUESSES.forget()
    with connected():
        assert cards.digest_of(again) != again
        assert build_card(session, PLACE).lifts


def test_the_log_goes_out_and_comes_in_whole_and_once(web, handed):
    book = at_the_desk(web, handed)
    whole = web.get("/api/clients/1/log/file", params={"form": "json"}).content
    brought = web.post("/api/clients/1/log/file", files={"file": ("log.json", whole)}).json()
    assert brought["kept"] > 0
    assert web.get("/api/clients/1/log").json()["sets"] == book["sets"]
    table = web.get("/api/clients/1/log/file", params={"form": "csv"}).text
    assert table.count("\n") == book["sets"] + 1
    # Somebody else's old book: names, a day that can be read two ways, a load that is far off, rows that cannot be.
    sheet = Workbook()
    rows = [
        ("Date", "Exercise", "Load", "Reps", "RIR"),
        ("2025-11-03", "incline curl", 7, 11, 1),
        ("03/04/2025", "Flat fly", 8, 10, None),
        ("2025-11-05", "Incline curl", 70, 9, 1),
        ("2025-11-05", "leg press", 100, 10, 2),
        ("tomorrow", "Flat fly", 8, 10, 1),
        ("2025-11-06", "Flat fly", 8, "many", 1),
    ]
    for row in rows:
        sheet.active.append(row)
    data = io.BytesIO()
    sheet.save(data)
    told = web.post("/api/clients/1/log/file", files={"file": ("old.xlsx", data.getvalue())}).json()["table"]
    assert [r["doubt"] for r in told["rows"]] == [
        "",
        "read as day/month/year",
        "far from the written 7",
        "no line is called so",
    ]
    assert [f.split(":")[0] + f.split(":")[1] for f in told["faults"]] == ["row 6 day", "row 7 reps"]
    for _ in range(2):
        kept = web.post("/api/clients/1/log/rows", json={"rows": told["rows"][:2]})
        assert kept.json()["kept"] == 2, kept.text
    assert web.get("/api/clients/1/log").json()["sets"] == book["sets"] + 2
    assert web.post("/api/clients/1/log/file", files={"file": ("x.csv", b"")}).status_code == 422


def test_a_month_passes_on_demo_data(web, handed):
    passed = web.post("/api/clients/1/log/weeks", params={"weeks": 4}).json()
    assert passed["sessions"] + passed["missed"] in range(3, 9)
    book = web.get("/api/clients/1/log").json()
    assert all(x["next"] for x in book["lifts"])
    kinds = {a["kind"] for x in book["lifts"] for a in x["next"]}
    assert kinds <= {"first", "add_reps", "add_load", "hold", "back_off", "deload", "swap"}
    assert all(t["low"] <= t["factor"] <= t["high"] for t in book["taught"])


def test_a_card_follows_the_week_and_the_sets_one_by_one(web, handed):
    """A top set and back-offs, then the same in an easy week; only top sets at full load say what comes next."""
    session = handed[0]
    number = web.get("/api/clients/1").json()["programs"][0]["id"]
    before = web.get(f"/api/programs/{number}").json()["program"]
    line = before["sessions"][0]["lines"][0]
    low = line["line"]["reps_low"]
    each = [{"reps_low": low, "reps_high": low}, *[{"reps_low": 2 * low, "reps_high": 2 * low, "load_pct": 60}] * 2]
    changed = [{**line, "line": line["line"] | {"sets": 3, "sets_as": each}}, *before["sessions"][0]["lines"][1:]]
    sessions = [{**before["sessions"][0], "lines": changed}, *before["sessions"][1:]]
    today = dt.datetime.now(dt.UTC).date()
    weeks = [{"name": "deload", "sets": -1, "load_pct": 50, "rir": 4}]

    def card(**block):
        assert web.put(f"/api/programs/{number}", json=before | {"sessions": sessions} | block).status_code == 200
        with connected():
            made = build_card(session, PLACE)
        return made, next(x for x in made.lifts if x.line == line["id"])

    with connected():
        plain = next(x for x in build_card(session, PLACE).lifts if x.line == line["id"]).ways[0]
    try:
        made, lift = card()
        way = lift.ways[0]
        assert (made.week, lift.sets, len(way.plan)) == ("", 3, 3)
        assert [s.amount for s in way.plan] == sorted((s.amount for s in way.plan), reverse=True)
        assert way.plan[0].amount == plain.amount
        assert way.plan[1].amount == pytest.approx(0.6 * plain.amount, rel=0.2)
        assert way.plan[1].aim == pytest.approx(2 * way.plan[0].aim, abs=1)
        assert way.basis.parts == [1.0, 0.6, 0.6]
        made, lift = card(weeks=weeks, starts=str(today))
        assert (made.week, lift.sets, lift.rir) == ("week 1 of 1, deload", 2, 4)
        assert lift.ways[0].plan[0].amount == pytest.approx(0.5 * plain.amount, rel=0.25)
        assert lift.ways[0].basis.parts == [0.5, 0.3]
        other = next(x for x in made.lifts if x.line != line["id"])
        assert "50 % of" in other.ways[0].why
        assert card(weeks=weeks, starts=str(today - dt.timedelta(days=7)))[0].week == ""
    finally:
        web.put(f"/api/programs/{number}", json=before)


def test_a_lift_kept_for_weeks_is_due_for_another_until_one_is_taken_or_it_is_kept(web, handed):
    line = web.get("/api/clients/1").json()["programs"][0]["lines"][1]["id"]
    days = [dt.datetime.now(dt.UTC) - dt.timedelta(days=4 * k, hours=1) for k in range(11)]
    found = web.post(f"/api/lines/{line}/match", json={"place": HALL}).json()
    taken = web.post(f"/api/lines/{line}/accepted", json={"place": HALL, "key": found["swaps"][0]["key"]})
    assert taken.status_code == 200
    session = {"session": handed[0], "place": HALL}
    entries = [entry(line, 10, amount=7.0, moment=at) for at in days]

    def due():
        lifts = web.get("/api/clients/1/log").json()["lifts"]
        return next((d for x in lifts if x["line"] == line for d in x["due"] if d["place"] == HALL), None)

    def wanted():
        return [x for x in web.get("/api/attention").json()["items"] if x["what"] == "rotation" and f"#{line}" in x["path"]]

    assert web.post("/api/clients/1/log", json=session | {"entries": entries[:8]}).status_code == 200
    assert due() is None  # four weeks
    assert web.post("/api/clients/1/log", json=session | {"entries": entries[8:]}).status_code == 200
    told = due()
    assert told["words"] == "40 days the same, the last 4 sessions without progress"
    assert len(wanted()) == 1
    offered = web.get(f"/api/lines/{line}/next", params={"place": HALL}).json()
    assert offered["passed"]
    for one in offered["lifts"]:
        assert one["title"] != told["title"] or one["kit"] != told["kit"]
        assert int(one["words"].split(": ")[1].split(" %")[0]) >= 60
    body = {"place": HALL, "key": offered["lifts"][0]["key"]}
    assert web.post(f"/api/lines/{line}/accepted", json=body).status_code == 200
    assert (due(), wanted()) == (None, [])
    assert web.delete(f"/api/lines/{line}/accepted", params={"place": HALL}).status_code == 200
    assert due() == told
    choice = {"id": str(uuid.uuid4()), "like": told["like"], "kind": "hold", "amount": 7.0, "reps": 10}
    assert web.post("/api/clients/1/log/choice", json=choice).status_code == 200
    assert (due(), wanted()) == (None, [])
