"""A database with the demo in it."""

from __future__ import annotations

import pytest

from oddswap.store.demo import load_demo
from oddswap.store.models import database
from oddswap.store.opening import open_store


@pytest.fixture
def store(tmp_path):
    path = tmp_path / "t.db"
    open_store(path)
    load_demo()
    yield path
    if not database.is_closed():
        database.close()
