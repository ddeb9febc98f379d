"""Headless Chromium and a served demo, for the browser tests and the screenshots."""

from __future__ import annotations

import contextlib
import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from multiprocessing import get_context
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, Page, expect

from oddswap.cli import main

# The process that others are forked from looks for modules where the environment says, not where this one does.
os.environ["PYTHONPATH"] = os.pathsep.join(filter(None, [str(Path(__file__).parent), os.environ.get("PYTHONPATH")]))
FORKS = get_context("forkserver")
FORKS.set_forkserver_preload(["warm_server"])
FIRST_S = 120
"""How long the first fork may take: it waits for what all have in common."""
CHROMIUM = "/usr/bin/chromium"
# No network but this machine, no services of the browser's own.
ARGUMENTS = [
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--no-default-browser-check",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-default-apps",
    "--disable-extensions",
    "--metrics-recording-only",
    "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
]


class DemoServer:
    """The app as a coach starts it: its own process, its own database file, demo data or none.

    A ``forked`` one comes from a process that has read the program already, which saves seconds a start.
    """

    def __init__(self, data: Path, port: int = 0, forked: bool = False, demo: bool = True) -> None:
        self.data, self.port, self.forked, self.demo = data, port, forked, ["--demo"] * demo
        self.options: list[str] = []
        self.process: subprocess.Popen[str] | BaseProcess | None = None

    def start(self) -> str:
        """Start, and return the address once it answers."""
        return self._fork() if self.forked else self._run()

    def _fork(self) -> str:
        self.port = self.port or free_port()
        line = ["serve", "--workers", "1", *self.demo, *self.options, "--data", str(self.data), "--port", str(self.port)]
        self.process = FORKS.Process(target=main, args=(line,), daemon=True)
        self.process.start()
        address = f"http://127.0.0.1:{self.port}"
        wait_for(address + "/api/health", FIRST_S)
        return address

    def _run(self) -> str:
        command = shutil.which("odd-swap", path=str(Path(sys.executable).parent)) or "odd-swap"
        line = [command, "serve", *self.demo, "--data", str(self.data), "--port", str(self.port)]
        self.process = process = subprocess.Popen(line, stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        said = process.stdout.readline()
        address = next((w for w in said.split() if w.startswith("http://")), "")
        if not address:
            raise RuntimeError(f"the app did not say where it answers: {said!r}")
        # The same address after a restart, as a coach's open page expects it.
        self.port = int(address.rsplit(":", 1)[1])
        wait_for(address + "/api/health")
        return address

    def command(self, *line: str) -> None:
        """Run another command of the app on the same database, in a process of its own."""
        own = FORKS.Process(target=main, args=([*line, "--data", str(self.data)],))
        own.start()
        own.join(60)
        if own.exitcode:
            raise RuntimeError(f"{line} left with {own.exitcode}")

    def stop(self) -> None:
        """Stop the process that was started."""
        if self.process is not None:
            self.process.terminate()
            if isinstance(self.process, subprocess.Popen):
                self.process.wait(timeout=20)
            else:
                self.process.join(timeout=20)
            self.process = None


def free_port() -> int:
    """A port of this machine that nobody listens on."""
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


def wait_for(address: str, seconds: float = 20) -> None:
    """Return when an address on this machine answers."""
    plain = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    until = time.monotonic() + seconds
    while True:
        try:
            with plain.open(address, timeout=2):
                return
        except OSError:
            if time.monotonic() > until:
                raise
            time.sleep(0.1)


@contextlib.contextmanager
def demo_server(data: Path) -> Iterator[str]:
    """The served demo's address."""
    server = DemoServer(data)
    try:
        yield server.start()
    finally:
        server.stop()


def environment() -> dict[str, str]:
    """This process's environment without proxies, which would stand between browser and app."""
    return {k: v for k, v in os.environ.items() if not k.lower().endswith("_proxy")}


def wait_until_stored(page: Page, path: str, holds: Callable[[Any], bool], seconds: float = 30) -> None:
    """Wait until what the server answers at ``path`` satisfies ``holds``; `TimeoutError` with the last answer."""
    until = time.monotonic() + seconds
    while not holds(answer := page.request.get(path).json()):
        if time.monotonic() > until:
            raise TimeoutError(f"{path} still answers {answer}")
        page.wait_for_timeout(50)


AXE = Path(__file__).resolve().parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js"


def axe_faults(page: Page, *rules: str) -> list[str]:
    """What axe-core finds wrong for people who cannot see, hear or point well, by all rules or these: rule and element."""
    page.evaluate(AXE.read_text())
    told = """async rules => {
        const asked = { resultTypes: ['violations'], ...(rules.length ? { runOnly: rules } : {}) }
        return (await axe.run(asked)).violations.map(v => v.id + ': ' + v.nodes[0].target)
    }"""
    found: list[str] = page.evaluate(told, list(rules))
    return found


def candidates(page: Page) -> Locator:
    """The stubs of the match bench's rack."""
    return page.get_by_role("listbox", name="Candidates").get_by_role("option")


def wait_for_bench(page: Page) -> None:
    """Wait until a line is ranked."""
    expect(candidates(page).first).to_be_visible(timeout=30_000)
    expect(page.locator("[aria-busy=false]")).to_be_visible(timeout=30_000)
