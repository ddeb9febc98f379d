"""Serve the app on this machine until it is told to stop, and stop soon whatever is being computed."""

from __future__ import annotations

import asyncio
import contextlib
import errno
import logging
import os
import signal
import socket
import sys
from collections.abc import Iterator
from pathlib import Path
from types import FrameType

import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

from oddswap.api.app import create_app
from oddswap.application.beside import end_processes, search_in
from oddswap.application.starting import start, tables_of
from oddswap.store.acting import coaches
from oddswap.store.models import database
from oddswap.store.opening import StoreError, connected

HOST = "127.0.0.1"
HEADERS_S = 15
"""Seconds in which who connects says what they want."""
SWITCH_S = 0.001
"""After how long a thread that computes lets another one have its turn, s."""
GRACE_S = 3
"""Seconds that answers under way are waited for."""
SIGNALS = (signal.SIGINT, signal.SIGTERM)


def listen(port: int, host: str = HOST) -> socket.socket:
    """A socket, on this machine alone unless another host is named, before anything else is touched.

    Raises:
        StoreError: If the port is taken.
    """
    own = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    own.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        own.bind((host, port))
        own.listen(128)
    except OSError as error:
        own.close()
        if host != HOST and error.errno in (errno.EADDRNOTAVAIL, socket.EAI_NONAME):
            raise StoreError(f"{host} is no address of this machine. Name another with --host") from None
        raise StoreError(
            f"port {port} cannot be used ({error.strerror}). Name another with --port, or 0 for a free one"
        ) from None
    return own


class Protocol(H11Protocol):
    """Hangs up on who connects and then does not say what they want."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Begin to listen, for so long."""
        super().connection_made(transport)
        self.loop.call_later(HEADERS_S, self.hang_up)

    def hang_up(self) -> None:
        """Close a connection on which no request was made."""
        if self.cycle is None and not self.transport.is_closing():
            self.transport.close()


class Server(uvicorn.Server):
    """Says where it answers; a signal ends it without a traceback."""

    def __init__(self, config: uvicorn.Config, said: str) -> None:
        super().__init__(config)
        self.said = said

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Stop; that answers under way are cancelled then is no error to tell."""
        logging.getLogger("uvicorn.error").setLevel(logging.CRITICAL)
        super().handle_exit(sig, frame)

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Begin to answer."""
        await super().startup(sockets)
        if self.started:
            print(self.said, flush=True)

    @contextlib.contextmanager
    def capture_signals(self) -> Iterator[None]:
        """Stop at a signal; it is not raised again afterwards."""
        before = {s: signal.signal(s, self.handle_exit) for s in SIGNALS}
        try:
            yield
        finally:
            for s, handler in before.items():
                signal.signal(s, handler)


def require_passwords() -> None:
    """Refuse to serve coaches who sign in where none can.

    Raises:
        StoreError: If no coach has a password.
    """
    with connected():
        if not any(c.password for c in coaches()):
            raise StoreError("no coach can sign in yet. Set a password first: odd-swap coach NAME")


def run(own: socket.socket, data: Path, demo: bool, signing_in: bool = False, workers: int = 1) -> None:
    """Serve on a socket until a signal; then leave, searches under way included.

    Args:
        own: The socket.
        data: The database.
        demo: Whether an empty one is filled with demo data.
        signing_in: Whether coaches sign in.
        workers: Processes in which many lines are searched.

    Raises:
        StoreError: If the database cannot be used.
    """
    start(data, demo)
    search_in(workers, tables_of(data))
    if signing_in:
        require_passwords()
    # Searches take turns with answering more often, so that a short question waits for them less than a twentieth of a second.
    sys.setswitchinterval(SWITCH_S)
    host, port = own.getsockname()[:2]
    said = f"Odd Swap answers at http://{host}:{port}  (Ctrl+C stops it)\nIts data is kept in {data.resolve()}"
    config = uvicorn.Config(
        create_app(signing_in=signing_in), log_level="warning", timeout_graceful_shutdown=GRACE_S, http=Protocol
    )
    Server(config, said).run([own])
    end_processes()
    if not database.is_closed():
        database.close()
    sys.stdout.flush()
    sys.stderr.flush()
    # A search holds no unsaved work, and Python would wait for its thread.
    os._exit(0)
