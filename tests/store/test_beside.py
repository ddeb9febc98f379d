"""Many lines searched in processes beside this one: the same as here, given up and forgotten as here, and never waited for in
vain."""

from __future__ import annotations

import multiprocessing
import os
import signal
import time
from pathlib import Path

import pytest

from oddswap.application import beside
from oddswap.application.beside import get_ready_beside, look_beside, search_beside, search_in
from oddswap.application.kept_matches import are_kept, keep_matches_in, read_match
from oddswap.application.matching import forget_matches, match_line, take_look
from oddswap.application.versions import match_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import AbandonedError
from oddswap.errors import DomainError
from oddswap.store.demo import document
from oddswap.store.disk_cache import DiskCache
from vanishing import begin_and_vanish

CLIENT = ClientDoc.model_validate_json(document("client-tobi"))
PLACE = PlaceDoc.model_validate_json(document("place-spare-room"))
LINES = [s for session in ProgramDoc.model_validate_json(document("program-tobi-week")).sessions for s in session.lines][:3]
NAMES = [match_digest(CLIENT, line, PLACE, RankDoc()) for line in LINES]


@pytest.fixture(scope="module", autouse=True)
def _two_processes(tables):
    # So few lines are else not worth a process.
    few, beside.FEW = beside.FEW, 1
    search_in(2, tables.path)
    yield
    beside.end_processes()
    search_in(1, tables.path)
    beside.FEW = few


@pytest.fixture
def kept(tmp_path):
    """Matches kept in a file of this test's own."""
    forget_matches()
    cache = DiskCache(tmp_path / "own.matches", "own")
    keep_matches_in(cache)
    yield cache
    keep_matches_in(None)
    forget_matches()


def found(search):
    """What a search comes to, as JSON, or why it comes to nothing."""
    try:
        return search().model_dump_json()
    except DomainError as nothing:
        return nothing.limit


def test_lines_are_found_as_they_are_here_and_told_of(kept):
    told = []
    search_beside(CLIENT, LINES, PLACE, RankDoc(), told.append)
    assert are_kept(NAMES, CLIENT.units) == set(NAMES)
    assert told == sorted(told)
    assert 0 < told[-1] < 1
    there = [found(lambda n=name: read_match(n, CLIENT.units)) for name in NAMES]
    keep_matches_in(None)
    forget_matches()
    assert there == [found(lambda one=line: match_line(CLIENT, one, PLACE, RankDoc())) for line in LINES]
    # Nothing is left to do: no process is asked.
    keep_matches_in(kept)
    search_beside(CLIENT, LINES, PLACE, RankDoc(), told.clear)
    assert told


def test_looks_are_taken_where_a_places_tables_are():
    get_ready_beside(CLIENT, LINES, PLACE, RankDoc())
    assert PLACE.name in beside._processes._homes
    assert look_beside(CLIENT, LINES, PLACE, RankDoc()) == [take_look(CLIENT, line, PLACE, RankDoc()) for line in LINES]
    processes = beside._processes
    with processes.in_use() as every:
        here, elsewhere = (
            {processes.at_home(every, name, os.getpid).result() for _ in range(3)} for name in (PLACE.name, "another place")
        )
    assert len(here) == len(elsewhere) == 1
    assert here != elsewhere


def test_what_nobody_waits_for_ends_and_what_is_forgotten_is_not_kept(kept):
    def leave(part):
        raise AbandonedError

    with pytest.raises(AbandonedError):
        search_beside(CLIENT, LINES, PLACE, RankDoc(), leave)
    kept.clear()

    search_beside(CLIENT, LINES, PLACE, RankDoc(), lambda part: forget_matches())
    assert not are_kept(NAMES, CLIENT.units)


def test_they_end_with_the_one_that_answers_however_it_ends(tables):
    spawn = multiprocessing.get_context("spawn")
    told = spawn.SimpleQueue()
    app = spawn.Process(target=begin_and_vanish, args=(tables.path, told))
    app.start()
    app.join(60)
    process = told.get()
    until = time.monotonic() + 20
    while Path(f"/proc/{process}").exists():
        assert time.monotonic() < until, "a process outlives the app"
        time.sleep(0.05)


def test_a_process_that_dies_leaves_its_lines_to_who_asks(kept):
    def kill(part):
        for process in multiprocessing.active_children():
            os.kill(process.pid, signal.SIGKILL)

    search_beside(CLIENT, LINES, PLACE, RankDoc(), kill)
    assert are_kept(NAMES, CLIENT.units) < set(NAMES)
    # The next time there are new ones.
    search_beside(CLIENT, LINES, PLACE, RankDoc(), lambda part: None)
    assert are_kept(NAMES, CLIENT.units) == set(NAMES)
