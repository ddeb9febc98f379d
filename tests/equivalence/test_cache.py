"""Results shared by threads: computed once, never lost to a clearing in between, faults not remembered."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest

from oddswap.equivalence.cache import SharedCache


def test_who_asks_for_what_is_under_way_waits_and_nothing_is_computed_twice():
    cache, started, go, made = SharedCache(8), threading.Event(), threading.Event(), []

    def work():
        made.append(1)
        started.set()
        go.wait(5)
        return "result"

    with ThreadPoolExecutor(4) as pool:
        first = pool.submit(cache.get, "key", work)
        started.wait(5)
        others = [pool.submit(cache.get, "key", work) for _ in range(3)]
        go.set()
        assert [f.result(5) for f in (first, *others)] == ["result"] * 4
    assert made == [1]


def test_readers_get_whole_answers_while_others_clear():
    cache = SharedCache(50)
    keys, wrong, stop = list(range(200)), [], threading.Event()

    def clear():
        while not stop.is_set():
            cache.clear()

    def read(seed):
        for k in range(60):
            wanted = [(seed * 7 + k * 13 + i) % 200 for i in range(40)]
            found = cache.get_many(wanted, lambda missing: [n * n for n in missing])
            if found != [n * n for n in wanted]:
                wrong.append((wanted, found))

    clearing = threading.Thread(target=clear)
    clearing.start()
    with ThreadPoolExecutor(4) as pool:
        for future in [pool.submit(read, s) for s in range(8)]:
            future.result(30)
    stop.set()
    clearing.join()
    assert keys
    assert wrong == []


def test_a_fault_reaches_everyone_and_is_not_remembered():
    cache, calls = SharedCache(4), []

    def fails():
        calls.append(1)
        raise ValueError("no")

    for _ in range(2):
        with pytest.raises(ValueError, match="no"):
            cache.get("key", fails)
    assert len(calls) == 2
    assert cache.get("key", lambda: 3) == 3
    assert cache.get_many(["a", "b", "a"], lambda missing: [m * 2 for m in missing]) == ["aa", "bb", "aa"]
