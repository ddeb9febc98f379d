"""Reach tables and matches outlast the process: what comes from the disk cache is what was computed, and a spoilt one harms
nothing."""

from __future__ import annotations

import stat
from concurrent.futures import ThreadPoolExecutor
from dataclasses import fields, replace

import numpy as np
import pytest

from oddswap.application import matching
from oddswap.application.kept_matches import keep_matches_in, read_match
from oddswap.application.matching import forget_matches, match_line
from oddswap.application.versions import match_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equipment.machine import Machine
from oddswap.equivalence import index as table_module
from oddswap.equivalence.index import build_reach_table, clear_reach_tables, use_disk_cache
from oddswap.equivalence.index_entry import IndexEntry, Rows
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.quantities import Units
from oddswap.store.demo import document
from oddswap.store.disk_cache import DiskCache

BODY = Body(1.68, 63, "female")


@pytest.fixture
def garage():
    return PlaceDoc.model_validate_json(document("place-tallow-garage")).place()


def table(room, body=BODY):
    """A reach table of every eighth variant: how it is kept does not depend on how many there are."""
    return build_reach_table(body, room, list_variant_keys(room)[::8])


@pytest.fixture
def disk_cache(tmp_path):
    made = DiskCache(tmp_path / "odd-swap.reach", "rules")
    use_disk_cache(made)
    clear_reach_tables()
    yield made
    use_disk_cache(None)
    clear_reach_tables()


def counted(monkeypatch):
    """Items whose parts are computed from here on."""
    items = []

    def noted(item, *args):
        items.append(None if item is None else item.id)
        return compute_entry(item, *args)

    compute_entry = table_module.compute_entry
    monkeypatch.setattr(table_module, "compute_entry", noted)
    return items


def same(one, other):
    assert one.rows.keys() == other.rows.keys()
    for group, rows in one.rows.items():
        for f in fields(Rows):
            np.testing.assert_array_equal(vars(rows)[f.name], vars(other.rows[group])[f.name])
    assert [v.key for v in one.variants] == [v.key for v in other.variants]
    for a, b in zip(one.sources, other.sources, strict=True):
        assert (a.item, a.both, a.use) == (b.item, b.both, b.use)
        if a.batch is not None and b.batch is not None:
            assert a.batch.setting(a.batch.count - 1, 1.0) == b.batch.setting(b.batch.count - 1, 1.0)


def test_a_table_from_the_disk_cache_is_the_one_that_was_computed(disk_cache, garage, monkeypatch):
    fresh = table(garage)
    clear_reach_tables()
    computed = counted(monkeypatch)
    same(table(garage), fresh)
    assert computed == []
    clear_reach_tables()
    changed = [replace(k, most_kg=k.most_kg + 10) if k.kind == "cable_column" else k for k in garage.kit]
    table(replace(garage, kit=changed))
    assert computed == [k.id for k in changed if k.kind == "cable_column"]
    table(garage, Body(1.69, 63, "female"))
    assert len(computed) > len(garage.kit) / 2


def test_what_another_version_computed_is_not_used(disk_cache, garage, monkeypatch):
    table(garage)
    clear_reach_tables()
    computed = counted(monkeypatch)
    disk_cache.version = "other rules"
    table(garage)
    assert None in computed


def test_spoilt_parts_are_computed_anew(disk_cache, garage, monkeypatch):
    fresh = table(garage)
    parts = disk_cache.parts
    with disk_cache.database.connection_context():
        for i, row in enumerate(parts.select()):
            spoilt = row.data[: len(row.data) // 2] if i % 2 else b"nothing"
            parts.update(data=spoilt).where(parts.name == row.name).execute()
    clear_reach_tables()
    computed = counted(monkeypatch)
    same(table(garage), fresh)
    assert None in computed
    with pytest.raises(ValueError, match="no entry of a reach table"):
        IndexEntry.unpack(b"nothing")


def test_the_disk_cache_drops_what_was_unused_longest(tmp_path):
    small = DiskCache(tmp_path / "small.reach", "rules", most_bytes=2500)
    small.put({"a": b"a" * 1000})
    small.put({"b": b"b" * 1000})
    assert set(small.get(["a"])) == {"a"}
    small.put({"c": b"c" * 1000})
    assert set(small.get(["a", "b", "c"])) == {"a", "c"}


def test_many_requests_at_a_time_share_a_disk_cache(tmp_path, caplog):
    caches = [DiskCache(tmp_path / "busy.reach", "rules") for _ in range(2)]

    def work(i):
        caches[i % 2].put({f"{i}": b"%d" % i * 2000, "all": b"x"})
        return caches[(i + 1) % 2].get([f"{i}", "all"])

    with ThreadPoolExecutor(8) as pool:
        found = list(pool.map(work, range(40)))
    assert [f[f"{i}"] for i, f in enumerate(found)] == [b"%d" % i * 2000 for i in range(40)]
    assert all(f["all"] == b"x" for f in found)
    assert caplog.text == ""


def test_work_goes_on_where_the_disk_cache_cannot_be_used(tmp_path, garage, caplog):
    (tmp_path / "broken.reach").write_text("this is a letter, not a database " * 100)
    use_disk_cache(DiskCache(tmp_path / "broken.reach", "rules"))
    clear_reach_tables()
    try:
        assert table(garage).count > 0
    finally:
        use_disk_cache(None)
        clear_reach_tables()
    assert "computed anew" in caplog.text
    assert "cannot be kept" in caplog.text


@pytest.fixture
def kept(tmp_path):
    made = DiskCache(tmp_path / "odd-swap.matches", "words")
    keep_matches_in(made)
    yield made
    keep_matches_in(None)


@pytest.fixture
def searches(kept, monkeypatch):
    """Lines that are searched from here on, matches kept on disk."""
    lines, plain = [], matching.find_swaps

    def noted(prescription, *args):
        lines.append(prescription.line)
        return plain(prescription, *args)

    monkeypatch.setattr(matching, "find_swaps", noted)
    return lines


def question(line, kit=None, **client):
    """Client, line, place and lens."""
    who = ClientDoc.model_validate_json(document("client-ilka")).model_copy(update=client)
    room = PlaceDoc.model_validate_json(document("place-quay-hotel"))
    room = room if kit is None else room.model_copy(update={"kit": kit})
    program = ProgramDoc.model_validate_json(document("program-ilka"))
    return who, program.sessions[0].lines[line], room, RankDoc()


def asked_anew(*line, curves=True, **other):
    """A match as a process that has just started answers it."""
    matching._matches.clear()
    return match_line(*question(*line, **other), curves)


def test_a_match_is_searched_once_and_read_afterwards(searches, kept):
    first = asked_anew(0)
    assert len(searches) == 1
    assert asked_anew(0) == first
    without = asked_anew(0, curves=False)
    assert [s.key for s in without.swaps] == [s.key for s in first.swaps]
    assert all(s.profile is None for s in without.swaps)
    assert all(s.profile is not None for s in first.swaps)
    assert len(searches) == 1
    assert asked_anew(0, mass_unit="lb") != first  # other words
    assert len(searches) == 2
    with kept.database.connection_context():
        kept.parts.update(data=b"spoilt").execute()
    assert asked_anew(0) == first
    assert len(searches) == 3
    # Names and complaints of clients are in it.
    assert stat.S_IMODE(kept.path.stat().st_mode) == 0o600
    name = match_digest(*question(0))
    assert read_match(name, Units()) == first
    forget_matches()
    assert read_match(name, Units()) is None
    assert asked_anew(0) == first
    assert len(searches) == 4


def test_a_machine_that_comes_or_goes_costs_the_lines_that_it_bears_on(searches):
    _, curl, hotel, _ = question(1)
    machines = [Machine(name, name, name, [float(m) for m in range(5, 105, 5)]) for name in ("leg_curl", "curl")]
    assert curl.target == "biceps"
    first = asked_anew(1)
    assert asked_anew(1, kit=[*hotel.kit, machines[0]]) == first
    assert len(searches) == 1
    with_curls = asked_anew(1, kit=[*hotel.kit, *machines])
    assert len(searches) == 2
    assert "machine" in {s.kind for swap in with_curls.swaps for s in swap.set_up.sources}


def test_that_nothing_was_found_is_kept_as_well(searches):
    for _ in range(2):
        with pytest.raises(DomainError, match="something here must load") as caught:
            asked_anew(0, kit=[])
        assert caught.value.field == "place.kit"
        assert caught.value.way_out.startswith("Add kit")
    assert len(searches) == 1


def test_words_of_another_version_are_not_read(searches, tmp_path):
    asked_anew(0)
    keep_matches_in(DiskCache(tmp_path / "odd-swap.matches", "reworded"))
    asked_anew(0)
    assert len(searches) == 2
