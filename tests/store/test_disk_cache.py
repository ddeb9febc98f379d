"""Reach tables outlast the process: what comes off the shelf is what was computed, and a spoilt shelf harms nothing."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import fields, replace

import numpy as np
import pytest

from oddswap.documents.documents import PlaceDoc
from oddswap.equivalence import index as table_module
from oddswap.equivalence.index import Rows, Sheet, forget, keep_on, table_of
from oddswap.mechanics.body import Body
from oddswap.store import disk_cache as shelf_module
from oddswap.store.demo import document
from oddswap.store.disk_cache import ReachShelf

BODY = Body(1.68, 63, "female")


@pytest.fixture
def garage():
    return PlaceDoc.model_validate_json(document("place-tallow-garage")).place()


@pytest.fixture
def shelf(tmp_path):
    made = ReachShelf(tmp_path / "odd-swap.reach")
    keep_on(made)
    forget()
    yield made
    keep_on(None)
    forget()


def counted(monkeypatch):
    """Items whose parts are computed from here on."""
    items = []

    def noted(item, *args):
        items.append(None if item is None else item.id)
        return sheet_of(item, *args)

    sheet_of = table_module.sheet_of
    monkeypatch.setattr(table_module, "sheet_of", noted)
    return items


def same(one, other):
    assert one.rows.keys() == other.rows.keys()
    for group, rows in one.rows.items():
        for f in fields(Rows):
            np.testing.assert_array_equal(getattr(rows, f.name), getattr(other.rows[group], f.name))
    assert [w.job for w in one.ways] == [w.job for w in other.ways]
    for a, b in zip(one.sources, other.sources, strict=True):
        assert (a.item, a.both, a.use) == (b.item, b.both, b.use)
        if a.batch is not None and b.batch is not None:
            assert a.batch.setting(a.batch.count - 1, 1.0) == b.batch.setting(b.batch.count - 1, 1.0)


def test_a_table_from_the_shelf_is_the_one_that_was_computed(shelf, garage, monkeypatch):
    fresh = table_of(BODY, garage)
    forget()
    computed = counted(monkeypatch)
    same(table_of(BODY, garage), fresh)
    assert computed == []
    forget()
    changed = [replace(k, most_kg=k.most_kg + 10) if k.kind == "cable_column" else k for k in garage.kit]
    table_of(BODY, replace(garage, kit=changed))
    assert computed == [k.id for k in changed if k.kind == "cable_column"]
    table_of(Body(1.69, 63, "female"), garage)
    assert len(computed) > len(garage.kit) / 2


def test_what_another_version_computed_is_not_used(shelf, garage, monkeypatch):
    table_of(BODY, garage)
    forget()
    computed = counted(monkeypatch)
    monkeypatch.setattr(shelf_module, "program", lambda: "another version")
    table_of(BODY, garage)
    assert None in computed


def test_spoilt_parts_are_computed_anew(shelf, garage, monkeypatch):
    fresh = table_of(BODY, garage)
    parts = shelf.parts
    with shelf.database.connection_context():
        for i, row in enumerate(parts.select()):
            spoilt = row.data[: len(row.data) // 2] if i % 2 else b"nothing"
            parts.update(data=spoilt).where(parts.name == row.name).execute()
    forget()
    computed = counted(monkeypatch)
    same(table_of(BODY, garage), fresh)
    assert None in computed
    with pytest.raises(ValueError, match="no part of a reach table"):
        Sheet.unpacked(b"nothing")


def test_the_shelf_drops_what_was_unused_longest(tmp_path):
    small = ReachShelf(tmp_path / "small.reach", most_bytes=2500)
    small.put({"a": b"a" * 1000})
    small.put({"b": b"b" * 1000})
    assert set(small.get(["a"])) == {"a"}
    small.put({"c": b"c" * 1000})
    assert set(small.get(["a", "b", "c"])) == {"a", "c"}


def test_many_requests_at_a_time_share_a_shelf(tmp_path, caplog):
    shelves = [ReachShelf(tmp_path / "busy.reach") for _ in range(2)]

    def work(i):
        shelves[i % 2].put({f"{i}": b"%d" % i * 2000, "all": b"x"})
        return shelves[(i + 1) % 2].get([f"{i}", "all"])

    with ThreadPoolExecutor(8) as pool:
        found = list(pool.map(work, range(40)))
    assert [f[f"{i}"] for i, f in enumerate(found)] == [b"%d" % i * 2000 for i in range(40)]
    assert all(f["all"] == b"x" for f in found)
    assert caplog.text == ""


def test_work_goes_on_where_the_shelf_cannot_be_used(tmp_path, garage, caplog):
    (tmp_path / "broken.reach").write_text("this is a letter, not a database " * 100)
    keep_on(ReachShelf(tmp_path / "broken.reach"))
    forget()
    try:
        assert table_of(BODY, garage).count > 0
    finally:
        keep_on(None)
        forget()
    assert "computed anew" in caplog.text
    assert "cannot be kept" in caplog.text
