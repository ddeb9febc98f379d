"""The app as a process: it says where it answers and keeps its data, stops soon, and keeps what it acknowledged when killed."""

from __future__ import annotations

import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest

from oddswap.cli import parser

COMMAND = [sys.executable, "-m", "oddswap.cli", "serve"]


@contextmanager
def served(*arguments, env=None):
    process = subprocess.Popen(
        [*COMMAND, "--port", "0", *arguments], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, env=env
    )
    try:
        said = process.stdout.readline()
        assert "http://" in said, process.stderr.read()
        yield process, next(w for w in said.split() if w.startswith("http://")), process.stdout.readline()
    finally:
        if process.poll() is None:
            process.kill()
        process.communicate()


def ask(address, path, body=None, method=None, headers=()):
    data = None if body is None else json.dumps(body).encode()
    kind = {"Content-Type": "application/json"} if data else {}
    request = urllib.request.Request(address + path, data, kind | dict(headers), method=method)
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer), answer.headers


@pytest.mark.parametrize("number", [signal.SIGTERM, pytest.param(signal.SIGINT, marks=pytest.mark.nightly)])
def test_a_signal_ends_it_soon_with_searches_under_way(tmp_path, number):
    with served("--demo", "--data", str(tmp_path / "t.db")) as (process, address, _):

        def search(line):
            with suppress(Exception):
                ask(address, f"/api/lines/{line}/match?place=5")

        threads = [threading.Thread(target=search, args=(k,), daemon=True) for k in range(1, 9)]
        for t in threads:
            t.start()
        time.sleep(1)
        begun = time.monotonic()
        process.send_signal(number)
        assert process.wait(8) == 0
        assert time.monotonic() - begun < 8
        assert "Traceback" not in process.stderr.read()


def test_its_data_is_kept_where_it_says(tmp_path):
    home = os.environ | {"HOME": str(tmp_path), "XDG_DATA_HOME": str(tmp_path / "data")}
    with served(env=home) as (_, address, where):
        made, _ = ask(address, "/api/clients", {"name": "Ona", "stature_cm": 170, "mass_kg": 60, "sex": "female"})
        path = Path(where.removeprefix("Its data is kept in ").strip())
        assert path.is_relative_to(tmp_path / "data")
        assert path.exists()
    with served(env=home) as (_, address, _):
        assert [c["id"] for c in ask(address, "/api/clients")[0]["clients"]] == [made["id"]]


def test_a_taken_port_and_a_bad_one_are_told_before_anything_is_touched(tmp_path, capsys):
    data = tmp_path / "t.db"
    with socket.create_server(("127.0.0.1", 0)) as taken:
        port = taken.getsockname()[1]
        done = subprocess.run([*COMMAND, "--port", str(port), "--data", str(data)], capture_output=True, text=True)
    assert done.returncode == 1
    assert f"port {port} cannot be used" in done.stderr
    for bad in ("70000", "-1", "web"):
        with pytest.raises(SystemExit) as left:
            parser().parse_args(["serve", f"--port={bad}"])
        assert left.value.code == 2
        assert "is no port" in capsys.readouterr().err
    assert not data.exists()


def test_the_health_route_answers_at_once_under_many_cold_searches(tmp_path):
    with served("--demo", "--data", str(tmp_path / "t.db")) as (_, address, _):
        refused = []

        def search(line, place):
            try:
                ask(address, f"/api/lines/{line}/match?place={place}")
            except urllib.error.HTTPError as error:
                refused.append((error.code, error.headers["Retry-After"]))
            except Exception:
                pass

        pairs = [(line, place) for line in range(1, 10) for place in range(1, 6)]
        for pair in pairs:
            threading.Thread(target=search, args=pair, daemon=True).start()
        took, until = [], time.monotonic() + 60.0
        # On a busy machine the first searches may take a while to reach the place where the rest is turned away.
        while (len(took) < 20 or not refused) and time.monotonic() < until:
            begun = time.monotonic()
            ask(address, "/api/health")
            took.append(time.monotonic() - begun)
            time.sleep(0.05)
        # Far from the minute and a half that a queue behind searches took; a busy machine may take its time.
        assert sorted(took)[len(took) // 2] < 0.5, took
        assert set(refused) <= {(503, "5")}
        assert refused


def computing(process, seconds=1.0):
    """Processor time that a process takes in so many seconds, s."""

    def taken():
        fields = Path(f"/proc/{process.pid}/stat").read_text().rsplit(")", 1)[1].split()
        return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")

    before = taken()
    time.sleep(seconds)
    return taken() - before


def test_closing_the_view_gives_a_search_up(tmp_path):
    """The largest place there is, for nobody: the machine is at rest soon after, long before the search would have ended."""
    with served("--demo", "--data", str(tmp_path / "t.db")) as (process, address, _):
        host, port = address.removeprefix("http://").rstrip("/").split(":")
        body = b'{"place": 5, "rank": {}}'
        head = (
            f"POST /api/lines/1/match/events HTTP/1.1\r\nHost: {host}:{port}\r\n"
            f"Content-Type: application/json\r\nContent-Length: {len(body)}\r\n\r\n"
        )

        @contextmanager
        def begun():
            with socket.create_connection((host, int(port))) as own:
                own.settimeout(60)
                own.sendall(head.encode() + body)
                heard = b""
                while b"data: 0.0" not in heard:
                    heard += own.recv(4096)
                    assert b"answer" not in heard
                yield

        with begun():
            assert computing(process) > 0.5, "nothing was being computed"
        for _ in range(20):
            if computing(process, 0.5) < 0.1:
                break
        else:
            pytest.fail("the search went on for ten seconds after everybody had left")
        # It was not finished in the meantime: who asks again hears of its beginning.
        assert computing(process, 0.5) < 0.1
        with begun():
            pass


@pytest.mark.parametrize("times", [2, pytest.param(50, marks=pytest.mark.nightly)])
def test_nothing_acknowledged_is_lost_when_it_is_killed(tmp_path, times):
    data = tmp_path / "t.db"
    acknowledged = []
    for round_ in range(times):
        with served("--data", str(data)) as (process, address, _):
            before, some = len(acknowledged), threading.Event()

            def write(writer, address=address, round_=round_, before=before, some=some):
                with suppress(Exception):
                    for k in range(1000):
                        client = {"name": f"{round_}-{writer}-{k}", "stature_cm": 170, "mass_kg": 60, "sex": "male"}
                        made, _ = ask(address, "/api/clients", client)
                        acknowledged.append((made["id"], made["client"]["name"]))
                        if len(acknowledged) > before + 20:
                            some.set()

            threads = [threading.Thread(target=write, args=(w,), daemon=True) for w in range(4)]
            for t in threads:
                t.start()
            # However slow the machine, it is killed amid writing: all four go on until it no longer answers.
            assert some.wait(60), "nobody was served"
            process.kill()
            for t in threads:
                t.join(10)
    with served("--data", str(data)) as (_, address, _):
        there = {(c["id"], c["client"]["name"]) for c in ask(address, "/api/clients")[0]["clients"]}
        assert set(acknowledged) <= there
