"""The edges of the service: who may ask, how much may be sent, and errors that are problems in words."""

from __future__ import annotations

import asyncio
import json
import socket
import threading
import time

import pytest
import uvicorn
from fastapi.testclient import TestClient

from oddswap import serving
from oddswap.api import guard

PROBLEM = "application/problem+json"
JSON = {"content-type": "application/json"}


@pytest.fixture
def edge(web):
    return TestClient(web.app, "http://127.0.0.1:8765", raise_server_exceptions=False)


def is_problem(answer, status):
    assert (answer.status_code, answer.headers["content-type"]) == (status, PROBLEM)
    assert answer.headers["cache-control"] == "no-store"
    body = answer.json()
    assert body["status"] == status
    assert body["title"]
    return answer


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "evil.example:8765", ""])
def test_other_host_names_are_refused(edge, host):
    is_problem(edge.get("/api/clients", headers={"host": host}), 400)


@pytest.mark.parametrize("host", ["127.0.0.1:8765", "localhost", "[::1]:8765"])
def test_names_of_this_machine_are_answered(edge, host):
    assert edge.get("/api/health", headers={"host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"origin": "http://evil.example"},
        {"origin": "http://127.0.0.1:9999"},
        {"origin": "null"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
    ],
)
def test_pages_of_other_sites_neither_read_nor_write(edge, headers):
    is_problem(edge.get("/api/clients", headers=headers), 403)
    is_problem(edge.post("/api/demo", headers=headers), 403)


def test_the_apps_own_pages_do(edge):
    own = {"origin": "http://127.0.0.1:8765", "sec-fetch-site": "same-origin"}
    assert edge.post("/api/demo", headers=own).status_code == 200


def test_every_answer_carries_the_headers_errors_included(edge):
    for answer in (edge.get("/api/health"), edge.get("/api/none"), edge.get("/", headers={"accept": "text/html"})):
        assert answer.headers["x-content-type-options"] == "nosniff"
        assert answer.headers["referrer-policy"] == "no-referrer"
        policy = answer.headers["content-security-policy"]
        assert "frame-ancestors 'none'" in policy
        assert "form-action 'self'" in policy
        assert "immutable" not in answer.headers["cache-control"]
    missing = edge.get("/assets/none.js", headers={"accept": "text/html"})
    assert "immutable" not in missing.headers["cache-control"]


def test_addresses_and_methods_that_are_not_there(edge):
    is_problem(edge.get("/api/none"), 404)
    assert is_problem(edge.patch("/api/clients/1"), 405).headers["allow"]
    is_problem(edge.get("/api/clients?x=" + "a" * 9000), 414)


def test_twenty_megabytes_are_the_most_said_beforehand_or_not(edge):
    before = edge.get("/api/clients").json()
    is_problem(edge.post("/api/clients", content=b"x" * (21 * 2**20), headers=JSON), 413)
    is_problem(edge.post("/api/clients", content=(b"x" * 2**20 for _ in range(22)), headers=JSON), 413)
    assert edge.get("/api/clients").json() == before


@pytest.mark.parametrize("name", ["a\\ud800b", "a\\u0000b", "a\\u0007b", "   "])
def test_names_that_cannot_be_read_are_refused_at_their_field(edge, name):
    read = edge.get("/api/clients/1")
    held = read.json()["client"]
    text = json.dumps(held | {"name": "NAME"}).replace("NAME", name)
    answer = edge.put("/api/clients/1", content=text, headers=JSON | {"If-Match": read.headers["ETag"]})
    assert is_problem(answer, 422).json()["faults"][0]["field"] == "name"
    assert edge.get("/api/clients/1").json()["client"] == held


@pytest.mark.parametrize("text", [b"{", b"[" * 100_000, b"\xff\xfe", b'{"name": NaN}'])
def test_what_is_no_document_is_refused_in_words(edge, text):
    answer = edge.post("/api/clients", content=text, headers=JSON)
    assert answer.status_code in (400, 422)
    is_problem(answer, answer.status_code)


def test_a_failure_inside_is_told_as_one(web, edge, monkeypatch):
    from oddswap.store import records

    monkeypatch.setattr(records, "places", lambda: 1 / 0)
    assert "safe" in is_problem(edge.get("/api/places"), 500).json()["detail"]


def test_what_is_sent_too_slowly_is_not_waited_for(web, monkeypatch):
    """Half a body, then nothing."""
    monkeypatch.setattr(guard, "SLOWEST_S", 0.05)
    told, sent = [], iter([{"type": "http.request", "body": b'{"name":', "more_body": True}])

    async def receive():
        message = next(sent, None)
        return message if message is not None else await asyncio.sleep(60)

    async def send(message):
        told.append(message)

    scope = {
        "type": "http", "method": "POST", "path": "/api/clients", "raw_path": b"/api/clients", "query_string": b"",
        "headers": [(b"host", b"127.0.0.1"), (b"content-type", b"application/json")], "http_version": "1.1", "scheme": "http",
        "root_path": "", "client": ("127.0.0.1", 1), "server": ("127.0.0.1", 80), "asgi": {"version": "3.0"},
    }  # fmt: skip
    asyncio.run(web.app(scope, receive, send))
    starts = [m for m in told if m["type"] == "http.response.start"]
    assert [m["status"] for m in starts] == [408]
    assert json.loads(told[-1]["body"])["title"] == "What was sent came too slowly"


def test_who_connects_and_says_nothing_is_hung_up_on(web, monkeypatch):
    monkeypatch.setattr(serving, "HEADERS_S", 0.2)
    with serving.listen(0) as own:
        server = uvicorn.Server(uvicorn.Config(web.app, log_level="warning", http=serving.Protocol, lifespan="off"))
        thread = threading.Thread(target=server.run, args=([own],), daemon=True)
        thread.start()
        with socket.create_connection(own.getsockname()) as silent, socket.create_connection(own.getsockname()) as half:
            half.sendall(b"GET /api/health HTTP/1.1\r\nHost: 127")
            silent.settimeout(10)
            half.settimeout(10)
            begun = time.monotonic()
            assert silent.recv(10) == b""
            assert half.recv(10) == b""
            assert time.monotonic() - begun < 5
        with socket.create_connection(own.getsockname()) as asking:
            asking.settimeout(10)
            asking.sendall(b"GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
            assert asking.recv(15).startswith(b"HTTP/1.1 200")
        server.should_exit = True
        thread.join(10)
    assert not thread.is_alive()
