"""What every request and answer passes: who asks, how much is sent, and what an answer lets a browser do with it.

The app serves one machine, or coaches who sign in. Pages of other sites must not read or write it through the browser of who
sits there: requests for other host names (DNS rebinding) and from other origins are refused.
"""

from __future__ import annotations

import asyncio
import logging
from collections.abc import Sequence
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from oddswap.api.problems import answer_error, problem

HOSTS = ("127.0.0.1", "localhost", "::1")
"""Names that this machine is asked by."""
MOST_BYTES = 20 * 2**20
"""Longest body that is read."""
SLOWEST_S = 30
"""Longest pause in what is sent, s."""
LONGEST_URL = 8192
"""Longest path with its query, bytes."""
# Everything the interface needs ships with the app; the policy keeps it that way.
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none'; base-uri 'self'; "
    "form-action 'self'; frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
}

log = logging.getLogger("oddswap")


class TooLongError(Exception):
    """More was sent than is read."""


class Guard:
    """Middleware around the whole app.

    Args:
        app: What is guarded.
        hosts: Host names, without ports, that may be asked for; none for any, where coaches sign in.
    """

    def __init__(self, app: ASGIApp, hosts: Sequence[str] = HOSTS) -> None:
        self.app, self.hosts = app, frozenset(hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse, or pass on with headers put on the answer; a failure inside becomes a problem in words."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun, whole, length = False, False, 0
        refused = self.refusal(scope)

        async def answer(message: Message) -> None:
            nonlocal begun
            if refused is not None and not begun:
                return  # what was made of half a body
            if message["type"] == "http.response.start":
                begun = True
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers[name] = value
                headers["Cache-Control"] = caching(scope["path"], message["status"], headers.get("Content-Type", ""))
            await send(message)

        async def counted() -> Message:
            nonlocal length, whole, refused
            try:
                # Only what is still being sent is waited for so long; a watcher's leaving may take its time.
                message = await asyncio.wait_for(receive(), None if whole else SLOWEST_S)
            except TimeoutError:
                refused = TOO_SLOW
                raise
            whole |= message["type"] != "http.request" or not message.get("more_body", False)
            length += len(message.get("body", b""))
            if length > MOST_BYTES:
                refused = TOO_LONG
                raise TooLongError
            return message

        failed: ASGIApp | None = None
        try:
            if refused is None:
                await self.app(scope, counted, answer)
        except Exception as error:
            if begun:
                raise
            if refused is None:
                log.exception("%s %s failed", scope["method"], scope["path"])
                failed = answer_error(error) or problem(*FAILED)
        if refused is not None and not begun:
            failed, refused = problem(*refused), None
        if failed is not None:
            await failed(scope, receive, answer)

    def refusal(self, scope: Scope) -> tuple[int, str, str] | None:
        """Why a request is not answered: status, title, detail; None where it is."""
        headers = Headers(scope=scope)
        host = urlsplit(f"//{headers.get('host', '')}").hostname or ""
        if self.hosts and host not in self.hosts:
            return 400, "This is not the app's address", f"It answers on this machine only, as {sorted(self.hosts)[0]}"
        if len(scope.get("raw_path", b"")) + len(scope["query_string"]) > LONGEST_URL:
            return 414, "The address is too long", f"At most {LONGEST_URL} bytes"
        if scope["path"].startswith("/api"):
            origin = headers.get("origin")
            elsewhere = headers.get("sec-fetch-site", "none") in ("cross-site", "same-site")
            if elsewhere or (origin is not None and urlsplit(origin).netloc != headers.get("host")):
                return 403, "Asked from another site", "Only the app's own pages may read and write it"
        declared = headers.get("content-length", "0")
        if declared.isdigit() and int(declared) > MOST_BYTES:
            return TOO_LONG
        return None


TOO_LONG = (413, "Too much was sent", f"At most {MOST_BYTES // 2**20} MB at a time; nothing was stored")
TOO_SLOW = (408, "What was sent came too slowly", f"A pause of at most {SLOWEST_S} s; nothing was stored")
FAILED = (
    500,
    "The app failed at this",
    "What was stored before is safe. Reload the page; if it happens again, restart the app",
)


def caching(path: str, status: int, kind: str) -> str:
    """What may keep an answer: hashed files for ever, pages until asked again, what clients' data is in not at all."""
    if status >= 400 or path.startswith("/api"):
        return "no-store"
    if path.startswith("/assets/") and not kind.startswith("text/html"):
        return "public, max-age=31536000, immutable"
    return "no-cache"
