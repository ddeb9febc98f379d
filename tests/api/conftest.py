"""The demo served in this process, one store a module."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from oddswap.api.app import create_app
from oddswap.store.demo import load_demo
from oddswap.store.models import database
from oddswap.store.opening import open_store


@pytest.fixture(scope="module")
def web(tmp_path_factory):
    open_store(tmp_path_factory.mktemp("api") / "t.db")
    load_demo()
    with TestClient(create_app()) as client:
        yield client
    if not database.is_closed():
        database.close()
