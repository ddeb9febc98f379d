"""All programs mapped over all places: the same by one process, by several and on a cluster; only what changed is computed."""

from __future__ import annotations

import json

import pytest

from oddswap.application.remap import in_processes, map_piece, on_cluster, read_cells, remap
from oddswap.cli import main
from oddswap.documents.ranking import RankDoc
from oddswap.store import demo, programs, records
from oddswap.store.opening import connected, open_store


@pytest.fixture
def few(tmp_path, monkeypatch):
    """A database with the demo's clients, each with one short program and at most two small places."""
    monkeypatch.setattr(demo, "PROGRAMS", {"ilka": "ilka", "tobi": "tobi"})
    monkeypatch.setattr(demo, "CLIENTS", {"ilka": ("quay-hotel", "spare-room"), "tobi": ("quay-hotel",)})
    open_store(tmp_path / "few.db")
    demo.load_demo()
    with connected():
        yield tmp_path


def alone(work):
    return map(map_piece, work)


def test_what_did_not_change_is_not_computed_again_and_a_stopped_run_goes_on(few):
    out = few / "cells.jsonl"
    told = []
    assert remap(out, RankDoc(), alone, lambda done, of: told.append((done, of))) == (22, 22)
    assert told[0] == (0, 22)
    assert told[-1] == (22, 22)
    whole = out.read_text()
    cells = [json.loads(text) for text in whole.splitlines()]
    assert [(c["line"], c["place"]) for c in cells] == sorted((c["line"], c["place"]) for c in cells)
    assert all(c["swaps"] or c["nothing"] for c in cells)
    # The first of each is what the app ranks first, to the last digit.
    assert remap(out, RankDoc(), alone) == (0, 22)
    assert out.read_text() == whole
    # Stopped in the middle of a line: what is whole stands, the rest is computed.
    out.write_text("\n".join(whole.splitlines()[:9]) + '\n{"format": "odd-swap/mapp')
    assert remap(out, RankDoc(), alone)[0] == 22 - 9
    assert out.read_text() == whole
    # One line is changed: its cells alone are computed.
    held = programs.program(1).document
    first = held.sessions[0].lines[0]
    first.line = first.line.model_copy(update={"sets": 2, "reps_high": first.line.reps_high + 3})
    programs.save_program(1, held, None)
    assert remap(out, RankDoc(), alone)[0] == len(records.client(1).places) == 2
    assert set(read_cells(out)) == {(c["line"], c["place"]) for c in cells}


@pytest.mark.nightly
def test_processes_and_a_cluster_find_the_same(few):
    distributed = pytest.importorskip("distributed")
    remap(few / "one.jsonl", RankDoc(), lambda work: in_processes(work, 1))
    remap(few / "two.jsonl", RankDoc(), lambda work: in_processes(work, 2))
    assert (few / "two.jsonl").read_text() == (few / "one.jsonl").read_text()
    with distributed.LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None) as cluster:
        remap(few / "many.jsonl", RankDoc(), lambda work: on_cluster(work, cluster.scheduler_address))
    assert (few / "many.jsonl").read_text() == (few / "one.jsonl").read_text()


def test_a_scheduler_that_is_not_there_is_told(tmp_path, capsys):
    pytest.importorskip("distributed")
    asked = [
        "remap",
        "--data",
        str(tmp_path / "new.db"),
        "--out",
        str(tmp_path / "x.jsonl"),
        "--scheduler",
        "tcp://127.0.0.1:1",
    ]
    with pytest.raises(SystemExit) as end:
        main(asked)
    assert end.value.code == 2
    assert "a Dask scheduler that answers" in capsys.readouterr().err
