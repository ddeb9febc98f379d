"""Things many tests need: a client and some kit."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from hypothesis import settings

from oddswap.application.versions import rules_digest
from oddswap.equipment.band import Band, PullPoint
from oddswap.equipment.cable import CableColumn
from oddswap.equivalence.index import use_disk_cache, use_threads
from oddswap.mechanics.body import Body
from oddswap.store.disk_cache import DiskCache

# Two tests share two cores: how long one example takes says nothing.
settings.register_profile("calm", deadline=None)
settings.load_profile("calm")


@pytest.fixture(scope="session")
def of_all_workers(tmp_path_factory, worker_id) -> Path:
    """A folder that all workers of this run share."""
    base = tmp_path_factory.getbasetemp()
    return base if worker_id == "master" else base.parent


@pytest.fixture(scope="session")
def tables_file(of_all_workers) -> Path:
    """Reach tables: what one worker computed the other need not, nor the next run where it is told to keep them."""
    return Path(os.environ.get("ODD_SWAP_TEST_TABLES", of_all_workers / "run.reach"))


@pytest.fixture(scope="session")
def tables(tables_file) -> DiskCache:
    return DiskCache(tables_file, rules_digest())


@pytest.fixture(autouse=True)
def _with_tables(tables):
    use_disk_cache(tables)
    # Another worker has the other core.
    use_threads(1)


@pytest.fixture
def body() -> Body:
    return Body(1.75, 75.0)


@pytest.fixture
def column() -> CableColumn:
    return CableColumn("twin", "twin columns", 23, 10, 230, 1, 120, 0.5, parked_cm=30, columns=2, spacing_cm=250)


@pytest.fixture
def band() -> Band:
    points = [PullPoint(length, force) for length, force in [(50, 0), (60, 12), (80, 26), (110, 40), (150, 60)]]
    return Band("band", "long band", points, 150)
