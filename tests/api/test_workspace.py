"""Everything at once: backups in the app, what the coach set, finding, floor plans, notes, histories and measuring runs."""

from __future__ import annotations

import sqlite3

import pytest

from oddswap.documents.place import PlaceDoc
from oddswap.equipment.base.floor import lay_out
from oddswap.equipment.base.item import Room
from oddswap.equivalence.prescription import Place
from oddswap.store import opening
from oddswap.store.demo import document
from oddswap.store.models import database


def test_a_backup_is_whole_and_takes_the_place_of_all_that_came_after(web, tmp_path):
    saved = web.get("/api/backup")
    assert saved.headers["content-disposition"].startswith("attachment; filename")
    copy = tmp_path / "copy.db"
    copy.write_bytes(saved.content)
    with sqlite3.connect(copy) as own:
        assert own.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    before = web.get("/api/clients").json()
    made = web.post("/api/clients", json={"name": "Edda Vane", "stature_cm": 171, "mass_kg": 66, "sex": "female"}).json()
    web.delete("/api/places/3")
    answer = web.post("/api/restore", files={"file": ("odd-swap.db", saved.content)})
    assert answer.status_code == 200
    assert web.get("/api/clients").json() == before
    assert web.get(f"/api/clients/{made['id']}").status_code == 404
    # What was there is kept, with the client in it.
    kept = opening.path_in_use().with_name(answer.json()["kept"])
    with sqlite3.connect(kept) as own:
        assert own.execute("SELECT name FROM client WHERE name = 'Edda Vane'").fetchall()


@pytest.mark.parametrize("content", [b"", b"no database", b"SQLite format 3\0" + b"x" * 5000])
def test_what_is_no_backup_changes_nothing(web, content):
    before = web.get("/api/clients").json()
    answer = web.post("/api/restore", files={"file": ("x.db", content)})
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "file"
    assert web.get("/api/clients").json() == before


def test_a_full_disk_is_told_and_stores_nothing(web):
    with database.connection_context():
        pages = database.execute_sql("PRAGMA page_count").fetchone()[0]
    before, path = web.get("/api/clients/1"), str(opening.path_in_use())
    database.init(path, timeout=15, pragmas=opening.PRAGMAS | {"max_page_count": pages})
    try:
        notes = ("x" * k for k in range(1900, 1960))
        many = [web.put("/api/clients/1", json=before.json()["client"] | {"note": note}) for note in notes]
        full = next(a for a in many if a.status_code != 200)
        assert (full.status_code, full.json()["title"]) == (507, "The disk is full")
        held = web.get("/api/clients/1")
    finally:
        database.init(path, timeout=15, pragmas=opening.PRAGMAS)
    assert web.get("/api/clients/1").json() == held.json()
    assert web.put("/api/clients/1", json=before.json()["client"]).status_code == 200


def test_a_file_that_vanished_under_the_app_is_told_and_nothing_is_written_to_an_empty_one(web):
    path = opening.path_in_use()
    away = path.with_suffix(".away")
    before = web.get("/api/clients").json()
    path.rename(away)
    try:
        gone = web.get("/api/clients")
        assert (gone.status_code, gone.json()["title"]) == (503, "The database file is gone")
        assert not path.exists()
        path.write_bytes(b"")
        replaced = web.post("/api/clients", json={"name": "N", "stature_cm": 171, "mass_kg": 66, "sex": "female"})
        assert replaced.status_code == 503
        assert path.read_bytes() == b""
    finally:
        away.rename(path)
    assert web.get("/api/clients").json() == before


def test_what_the_coach_set_has_revisions_and_a_way_back(web):
    held = web.get("/api/coach")
    assert web.put("/api/coach", json=held.json(), headers={"If-Match": ""}).status_code == 428
    changed = web.put("/api/coach", json=held.json() | {"mass_unit": "lb"})
    assert changed.json()["mass_unit"] == "lb"
    stale = web.put("/api/coach", json=held.json(), headers={"If-Match": held.headers["ETag"]})
    assert stale.status_code == 412
    plates = next(c for c in web.get("/api/calculators").json() if c["id"] == "plates")
    assert {i["unit"] for i in plates["inputs"]} == {"lb", "count x lb"}
    together = dict(web.post("/api/calculators/plates", json={"values": plates["example"]}).json()["rows"])["Together"]
    assert together.endswith(" lb")
    bar = next(k for k in web.get("/api/kit-kinds").json() if k["kind"] == "barbell")
    assert any(f["label"].endswith(", lb") for f in bar["fields"])
    assert web.put("/api/coach", json=held.json()).json() == held.json()


@pytest.mark.parametrize(
    ("words", "first"),
    [
        ("ilka", ("client", "Ilka Marsh")),
        ("TALLOW", ("place", "Tallow Garage")),
        ("curl incl", ("line", "Incline curl")),
        ("leg ext", ("movement", "Leg extension")),
        ("plates", ("calculator", "Plates for a load")),
    ],
)
def test_anything_is_found_by_a_few_letters(web, words, first):
    found = web.get("/api/find", params={"q": words}).json()
    assert first in [(one["kind"], one["name"]) for one in found], found
    assert all(set(words.lower().split()) and one["name"] for one in found)


def test_what_is_put_away_is_not_found_and_odd_letters_find_nothing(web):
    assert web.get("/api/find", params={"q": "renn"}).json()
    web.delete("/api/clients/2")
    assert [one for one in web.get("/api/find", params={"q": "renn"}).json() if one["kind"] == "client"] == []
    web.post("/api/clients/2/bring-back")
    for odd in ("%", "_", "'", '"; DROP', "\u0130"):
        assert web.get("/api/find", params={"q": odd}).json() == []


def test_notes_stay_with_everything_they_were_made_on(web, tmp_path):
    program = web.get("/api/programs/1").json()["program"]
    line = program["sessions"][0]["lines"][0]
    line["line"]["note"] = "pause at the bottom\nno swinging"
    assert web.put("/api/programs/1", json=program | {"note": "until spring"}).status_code == 200
    place, client = (web.get(f"/api/{kind}/1").json() for kind in ("places", "clients"))
    web.put("/api/places/1", json=place["place"] | {"note": "key at the desk"})
    web.put("/api/clients/1", json=client["client"] | {"note": "night shifts"})
    read = web.get("/api/programs/1").json()["program"]
    assert (read["note"], read["sessions"][0]["lines"][0]["line"]["note"]) == ("until spring", line["line"]["note"])
    assert web.get("/api/programs/1/document").json()["note"] == "until spring"
    for form in ("csv", "xlsx", "json"):
        file = web.get("/api/places/1/file", params={"form": form}).content
        assert web.post("/api/files/place", files={"file": (f"x.{form}", file)}).json()["place"]["note"] == "key at the desk"
        clients = web.get(f"/api/clients.{form}").content
        back = web.post("/api/files/clients", files={"file": (f"x.{form}", clients)}).json()["clients"]
        assert next(c for c in back if c["name"] == "Ilka Marsh")["note"] == "night shifts"
    long = web.put("/api/clients/1", json=client["client"] | {"note": "x" * 2001})
    assert (long.status_code, long.json()["faults"][0]["field"]) == (422, "note")
    for kind, number in (("programs", 1), ("places", 1), ("clients", 1)):
        assert web.post("/api/undo", json={"kind": kind, "id": number}).status_code == 200
    assert web.get("/api/programs/1").json()["program"]["note"] == ""


def test_a_note_costs_no_search(web):
    program = web.get("/api/programs/1").json()["program"]
    line = program["sessions"][0]["lines"][0]
    before = web.get(f"/api/lines/{line['id']}/match", params={"place": 1}).json()
    line["line"]["note"] = "slowly"
    web.put("/api/programs/1", json=program)
    from oddswap.application import matching

    kept = len(matching._matches._kept)
    assert web.get(f"/api/lines/{line['id']}/match", params={"place": 1}).json() == before
    assert len(matching._matches._kept) == kept
    web.post("/api/undo", json={"kind": "programs", "id": 1})


def test_the_history_of_a_line_says_who_when_and_why(web):
    found = web.get("/api/lines/2/match", params={"place": 2}).json()["swaps"]
    for swap, note in zip(found[:2], ("", "elbow was sore"), strict=True):
        web.post("/api/lines/2/accepted", json={"place": 2, "key": swap["key"], "note": note})
    newest, first = web.get("/api/lines/2/accepted").json()[:2]
    assert (newest["title"], newest["note"], newest["in_force"]) == (found[1]["title"], "elbow was sore", True)
    assert (first["title"], first["in_force"], first["undone_at"]) == (found[0]["title"], False, None)
    assert newest["by"]
    assert newest["accepted_at"] > first["accepted_at"]
    web.delete("/api/lines/2/accepted", params={"place": 2})
    newest, first = web.get("/api/lines/2/accepted").json()[:2]
    assert (newest["in_force"], first["in_force"]) == (False, True)
    assert newest["undone_at"] > newest["accepted_at"]


RUN = {"measurement": {"what": "band", "item": "sand", "readings": [{"at": 60, "value": 12.5, "zero": 0.2}]}}


def test_a_measuring_run_keeps_its_raw_readings_and_goes_on(web):
    made = web.post("/api/measurements", json=RUN | {"place": 3}, headers={"Idempotency-Key": "run"}).json()
    assert web.post("/api/measurements", json=RUN | {"place": 3}, headers={"Idempotency-Key": "run"}).json()["id"] == made["id"]
    url = f"/api/measurements/{made['id']}"
    read = web.get(url)
    readings = [*read.json()["run"]["measurement"]["readings"], {"at": 80, "value": 20.25}]
    more = read.json()["run"] | {"measurement": RUN["measurement"] | {"readings": readings}}
    assert web.put(url, json=more).status_code == 200
    assert web.put(url, json=more, headers={"If-Match": read.headers["ETag"]}).status_code == 412
    listed = web.get("/api/measurements", params={"place": 3}).json()
    assert [r["value"] for r in listed[0]["run"]["measurement"]["readings"]] == [12.5, 20.25]
    assert web.get("/api/measurements", params={"client": 1}).json() == []
    assert web.get("/api/measurements").status_code == 422
    assert web.post("/api/measurements", json=RUN).status_code == 422
    assert web.post("/api/measurements", json=RUN | {"place": 9999}).status_code == 404


PLACES = ("harbour-hall", "pier-club", "quay-hotel", "spare-room", "tallow-garage", "bedroom", "park")


@pytest.mark.parametrize("name", PLACES)
def test_kit_stands_along_the_walls_until_somebody_puts_it_elsewhere(name):
    place = PlaceDoc.model_validate_json(document(f"place-{name}"))
    room = place.room.room()
    spots = lay_out(place.kit, room, {})
    standing = [item for item in place.kit if item.floor_m]
    assert [s.item for s in spots] == [item.id for item in standing]
    crowded = sum(s.wide * s.deep for s in spots) > 0.5 * room.length * room.width
    for i, spot in enumerate(spots):
        if not crowded:
            assert spot.wide / 2 - 0.01 <= spot.x <= room.length - spot.wide / 2 + 0.01, spot
            assert spot.deep / 2 - 0.01 <= spot.y <= room.width - spot.deep / 2 + 0.01, spot
            assert not any(spot.overlaps(other) for other in spots[:i]), spot
    if spots:
        moved = {spots[0].item: (room.length / 2, room.width / 2)}
        assert (lay_out(place.kit, room, moved)[0].x, lay_out(place.kit, room, moved)[0].chosen) == (room.length / 2, True)


def test_a_floor_plan_is_kept_told_where_it_overlaps_and_goes_through_files(web):
    held = web.get("/api/places/1").json()["place"]
    ids = [k["id"] for k in held["kit"]][:2]
    plan = [{"item": ids[0], "x_cm": 200, "y_cm": 150}, {"item": ids[1], "x_cm": 210, "y_cm": 150}]
    full = web.put("/api/places/1", json=held | {"plan": plan}).json()["place"]
    floor = {f["item"]: f for f in web.post("/api/floor-plan", json=full).json()["items"]}
    assert floor[ids[0]]["chosen"]
    assert floor[ids[0]]["overlaps"] == [held["kit"][1]["name"]]
    for form in ("csv", "xlsx", "json"):
        file = web.get("/api/places/1/file", params={"form": form}).content
        assert web.post("/api/files/place", files={"file": (f"x.{form}", file)}).json()["place"] == full
    for wrong, field in (
        ([plan[0], plan[0]], "plan.1.item"),
        ([plan[0] | {"item": "no such"}], "plan.0.item"),
        ([plan[0] | {"x_cm": 5000}], "plan.0.x_cm"),
    ):
        answer = web.put("/api/places/1", json=held | {"plan": wrong})
        assert (answer.status_code, answer.json()["faults"][0]["field"]) == (422, field)
    web.post("/api/undo", json={"kind": "places", "id": 1})
    assert web.get("/api/places/1").json()["place"] == held


def test_two_that_stand_fast_are_used_at_once_only_near_each_other():
    place = PlaceDoc.model_validate_json(document("place-pier-club"))
    column = next(k for k in place.kit if k.kind == "cable_column")
    lever = next(k for k in place.kit if k.kind == "lever")
    dumbbells = next(k for k in place.kit if k.kind == "dumbbells")

    def at(metres):
        return Place("p", Room(20, 10, 3), place.kit, {column.id: (1, 1), lever.id: (1 + metres, 1), dumbbells.id: (19, 9)})

    assert at(2.5).within_reach(column, lever)
    assert not at(5).within_reach(column, lever)
    assert at(5).within_reach(column, dumbbells), "dumbbells are carried to where they are used"
    assert Place("p", Room(20, 10, 3), place.kit).within_reach(column, lever), "nobody said where they stand"


@pytest.mark.parametrize(
    ("text", "encoding", "asked"),
    [
        ("Илья", "koi8-r", True),
        ("Jürgen Öl", "cp1252", False),
        ("José Peña", "cp1252", False),
        ("Łukasz", "cp1250", True),
        ("Ευτυχία", "cp1253", True),
        ("太郎", "shift_jis", True),
        ("Zoë", "utf-8", False),
        ("Илья", "utf-16", False),
    ],
)
def test_what_a_file_is_written_in_is_told_from_its_bytes_or_asked_never_guessed(web, text, encoding, asked):
    data = f"name,stature_cm,mass_kg,sex\n{text},180,80,male\n".encode(encoding)
    answer = web.post("/api/files/clients", files={"file": ("x.csv", data)})
    assert (answer.status_code == 422) == asked, answer.text
    if asked:
        assert [f["field"] for f in answer.json()["faults"]] == ["encoding"]
        assert encoding in [e["id"] for e in web.get("/api/encodings").json()]
        answer = web.post("/api/files/clients", files={"file": ("x.csv", data)}, data={"encoding": encoding})
    assert answer.json()["clients"][0]["name"] == text
    wrong = web.post("/api/files/clients", files={"file": ("x.csv", data)}, data={"encoding": "klingon"})
    assert wrong.json()["faults"][0]["field"] == "encoding"


def test_a_program_sheet_comes_in_over_the_service(web):
    sheet = b"Reps,Sets,Notes,Exercise,Day\n12-15,3,slow,lateral raise db,Upper\n8,4,,goblin pull,Upper\n5,5,belt,squat,Lower\n"
    answer = web.post("/api/clients/1/program-sheets", files={"file": ("p.csv", sheet)}).json()
    assert [(s["name"], [x["typed"]["sure"] for x in s["lines"]]) for s in answer] == [
        ("Upper", [True, False]),
        ("Lower", [True]),
    ]
    squat = answer[1]["lines"][0]
    assert (squat["source"], squat["typed"]["line"]["note"]) == ("D4", "belt")
    empty = web.post("/api/clients/1/program-sheets", files={"file": ("p.csv", b"\n\n")})
    assert (empty.status_code, empty.json()["faults"][0]["field"]) == (422, "file")


def test_typed_lines_and_own_names_over_the_service(web):
    typed = ["incline db press 30 4x8-10 @1 14kg", "marsh special 3x10", "press 3x8", "good morning 3x10 12kg"]
    read = web.post("/api/typed-lines", json={"client": 1, "lines": typed}).json()
    assert [r["sure"] for r in read] == [True, False, False, False]
    assert (read[0]["load"], read[0]["line"]["rir"], read[0]["assumed"]) == ("14 kg a hand", 1, [])
    assert read[2]["assumed"] == ["rir", "load"]
    assert read[3]["fault"], "it is known, but no bar weighs so little"
    made = web.post("/api/own-names", json={"name": "marsh special", "means": "cable row"})
    assert made.json()["marsh special"] == "cable row"
    again = web.post("/api/typed-lines", json={"client": 1, "lines": typed[1:2], "example": True}).json()[0]
    assert (again["sure"], again["line"]["set_up"]["movement"], bool(again["example"])) == (True, "row", True)
    for wrong in ({"name": "squat", "means": "cable row"}, {"name": "x", "means": "no such lift"}):
        assert web.post("/api/own-names", json=wrong).status_code == 422
    week = web.get("/api/clients/1/week").json()
    assert {m["name"] for m in week["muscles"] if m["meant"]} >= {"biceps", "side delt"}
