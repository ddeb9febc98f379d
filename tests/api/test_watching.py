"""Long work: told as it goes, shared by all who wait for it, given up when nobody does."""

from __future__ import annotations

import json
import threading
import time

import pytest

from oddswap.api import watching
from oddswap.application.jobs import BusyError, Jobs
from oddswap.equivalence.cache import AbandonedError, SharedCache
from oddswap.equivalence.index import clear_reach_tables


def events(answer):
    kind = ""
    for line in answer.iter_lines():
        if line.startswith("event: "):
            kind = line[7:]
        elif line.startswith("data: "):
            yield kind, json.loads(line[6:])


def test_a_search_tells_how_far_it_is_and_then_what_it_found(web, monkeypatch):
    clear_reach_tables()
    # A quick machine is through with a small place before it is looked at twice.
    monkeypatch.setattr(watching, "TOLD_S", 0.01)
    with web.stream("POST", "/api/lines/3/match/events", json={"place": 4, "rank": {}}) as answer:
        assert answer.headers["content-type"].startswith("text/event-stream")
        assert answer.headers["cache-control"] == "no-store"
        told = list(events(answer))
    assert [kind for kind, _ in told].count("answer") == 1
    parts = [part for kind, part in told if kind == "progress" and part is not None]
    assert len(parts) >= 2
    assert parts == sorted(parts)
    assert told[-1] == ("answer", web.post("/api/lines/3/match", json={"place": 4, "rank": {}}).json())


def test_maps_and_purchases_are_told_too(web):
    for what in ("reach", "purchases"):
        with web.stream("POST", f"/api/clients/1/{what}/events", params={"place": 2}) as answer:
            told = list(events(answer))
        assert told[-1] == ("answer", web.get(f"/api/clients/1/{what}", params={"place": 2}).json())


def test_what_cannot_be_is_answered_before_or_told_as_any_problem(web):
    missing = web.post("/api/lines/999/match/events", json={"place": 1, "rank": {}})
    assert (missing.status_code, missing.headers["content-type"]) == (404, "application/problem+json")
    nothing = {"place": 4, "rank": {"without": [k["id"] for k in web.get("/api/places/4").json()["place"]["kit"]]}}
    with web.stream("POST", "/api/lines/2/match/events", json=nothing) as answer:
        kind, told = list(events(answer))[-1]
    assert kind == "problem"
    assert told == web.post("/api/lines/2/match", json=nothing).json()


def test_work_goes_on_while_anybody_waits_and_ends_when_nobody_does():
    jobs, steps, ended = Jobs(), [], []
    going = threading.Event()

    def work():
        try:
            with jobs.taken("map"):
                for step in range(200):
                    jobs.tell("map", step / 200)
                    steps.append(step)
                    going.set()
                    time.sleep(0.005)
        except AbandonedError as error:
            ended.append(error)

    with jobs.wanted("map"):
        thread = threading.Thread(target=work)
        with jobs.wanted("map"):
            thread.start()
            assert going.wait(5)
        before = len(steps)
        time.sleep(0.1)
        assert len(steps) > before, "one of two left, and the work ended"
        assert jobs.part("map") is not None
    thread.join(5)
    assert not thread.is_alive()
    assert ended
    assert len(steps) < 200
    assert jobs.part("map") is None


def test_who_waits_for_a_place_in_vain_leaves_it_and_too_many_are_told_so():
    jobs = Jobs(workers=1, waiting=1)
    held, leave, waits = threading.Event(), threading.Event(), []

    def hold():
        with jobs.wanted("first"), jobs.taken("first"):
            held.set()
            leave.wait(10)

    def wait():
        try:
            with jobs.taken("second"):
                waits.append("got it")
        except AbandonedError:
            waits.append("left")

    first = threading.Thread(target=hold)
    first.start()
    assert held.wait(5)
    with jobs.wanted("second"):
        second = threading.Thread(target=wait)
        second.start()
        time.sleep(0.15)
        with jobs.wanted("third"), pytest.raises(BusyError), jobs.taken("third"):
            pass
    second.join(5)
    assert waits == ["left"]
    leave.set()
    first.join(5)
    with jobs.wanted("fourth"), jobs.taken("fourth"):
        pass


def test_what_one_gave_up_the_other_who_waits_does_himself():
    cache: SharedCache[str, str] = SharedCache(4)
    begun, give_up, answers = threading.Event(), threading.Event(), []

    def abandoned():
        begun.set()
        give_up.wait(5)
        raise AbandonedError("left")

    def first():
        with pytest.raises(AbandonedError):
            cache.get("map", abandoned)

    threads = [threading.Thread(target=first)]
    threads[0].start()
    assert begun.wait(5)
    threads.append(threading.Thread(target=lambda: answers.append(cache.get("map", lambda: "whole"))))
    threads[1].start()
    time.sleep(0.05)
    assert answers == []
    give_up.set()
    for thread in threads:
        thread.join(5)
    assert answers == ["whole"]
