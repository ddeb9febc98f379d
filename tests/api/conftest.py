"""The demo served in this process, one store a module."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from oddswap.api.app import create_app
from oddswap.store.demo import load_demo
from oddswap.store.models import database
from oddswap.store.opening import open_store


class Reader(TestClient):
    """Writes on what it read last, as the interface does: the ETag of the record goes back as If-Match."""

    def put(self, url, **options):
        return super().put(url, **self.on_what_was_read(url, options))

    def delete(self, url, **options):
        return super().delete(url, **self.on_what_was_read(url, options))

    def on_what_was_read(self, url, options):
        record = str(url).removesuffix("/places") if str(url).startswith("/api/clients/") else str(url)
        tag = self.get(record).headers.get("ETag")
        return options | {"headers": ({"If-Match": tag} if tag else {}) | options.get("headers", {})}


@pytest.fixture(scope="module")
def web(tmp_path_factory):
    open_store(tmp_path_factory.mktemp("api") / "t.db")
    load_demo()
    with Reader(create_app(), "http://127.0.0.1") as client:
        yield client
    if not database.is_closed():
        database.close()
