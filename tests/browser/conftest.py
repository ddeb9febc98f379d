"""One browser for all tests of the interface; every test its own server and database."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from browser import ARGUMENTS, CHROMIUM, DemoServer, environment
from oddswap.store.demo import load_demo
from oddswap.store.models import database
from oddswap.store.opening import open_store

# A busy machine may take its time; what is waited for must still come.
expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {"executable_path": CHROMIUM, "args": ARGUMENTS, "env": environment()}


@pytest.fixture(scope="session")
def browser_context_args():
    return {"viewport": {"width": 1280, "height": 800}, "color_scheme": "light"}


@pytest.fixture(scope="session")
def demo(tmp_path_factory) -> Path:
    """The demo's database as a first start makes it, to be copied."""
    path = tmp_path_factory.mktemp("demo") / "demo.db"
    open_store(path)
    load_demo()
    database.close()
    return path


@pytest.fixture
def server(tmp_path, tables_file, of_all_workers, demo) -> Iterator[DemoServer]:
    # Tables and matches of all tests and workers: what one computed the next need not.
    (tmp_path / "demo.reach").symlink_to(tables_file)
    (tmp_path / "demo.matches").symlink_to(of_all_workers / "demo.matches")
    shutil.copy(demo, tmp_path)
    server = DemoServer(tmp_path / "demo.db", forked=True)
    yield server
    server.stop()


@pytest.fixture
def app(server: DemoServer, page: Page) -> Iterator[Page]:
    """The roster, freshly opened; fails the test on script errors and on requests to anywhere else."""
    address = server.start()
    troubles: list[str] = []
    page.on("pageerror", lambda error: troubles.append(str(error)))
    page.on("request", lambda r: None if r.url.startswith((address, "data:")) else troubles.append(f"asked for {r.url}"))
    page.goto(address)
    page.get_by_role("heading", name="Ilka Marsh").wait_for()
    yield page
    assert troubles == []
