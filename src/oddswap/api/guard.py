"""What every request and answer passes: who asks, how much is sent, and what an answer lets a browser do with it.

The app serves one machine. Pages of other sites must not read or write it through the browser of who sits there: requests for
other host names (DNS rebinding) and from other origins are refused.
"""

from __future__ import annotations

import logging
from collections.abc import Sequence
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from oddswap.api.problems import problem

HOSTS = ("127.0.0.1", "localhost", "::1")
"""Names that this machine is asked by."""
MOST_BYTES = 20 * 2**20
"""Longest body that is read."""
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
        hosts: Host names, without ports, that may be asked for.
    """

    def __init__(self, app: ASGIApp, hosts: Sequence[str] = HOSTS) -> None:
        self.app, self.hosts = app, frozenset(hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse, or pass on with headers put on the answer; a failure inside becomes a problem in words."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun, length = False, 0

        async def answer(message: Message) -> None:
            nonlocal begun
            if length > MOST_BYTES and not begun:
                return  # what was made of half a body
            if message["type"] == "http.response.start":
                begun = True
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers[name] = value
                headers["Cache-Control"] = caching(scope["path"], message["status"], headers.get("Content-Type", ""))
            await send(message)

        refused = self.refusal(scope)
        if refused is not None:
            await problem(*refused)(scope, receive, answer)
            return

        async def counted() -> Message:
            nonlocal length
            message = await receive()
            length += len(message.get("body", b""))
            if length > MOST_BYTES:
                raise TooLongError
            return message

        failed: tuple[int, str, str] | None = None
        try:
            await self.app(scope, counted, answer)
        except Exception:
            if begun:
                raise
            failed = FAILED
            if length <= MOST_BYTES:
                log.exception("%s %s failed", scope["method"], scope["path"])
        if length > MOST_BYTES and not begun:
            length, failed = 0, TOO_LONG
        if failed is not None:
            await problem(*failed)(scope, receive, answer)

    def refusal(self, scope: Scope) -> tuple[int, str, str] | None:
        """Why a request is not answered: status, title, detail; None where it is."""
        headers = Headers(scope=scope)
        host = urlsplit(f"//{headers.get('host', '')}").hostname or ""
        if host not in self.hosts:
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
