"""Guessing is slowed: after some wrong links or passwords from one address, a while of nothing."""

from __future__ import annotations

import threading
import time
from collections import defaultdict, deque

from fastapi import Request

ALLOWED, WITHIN_S = 10, 60.0
"""Wrong tries that an address has within so many seconds; own choice."""
MOST_ADDRESSES = 10_000


class GuessingError(PermissionError):
    """Too many wrong tries."""

    retry_after_s = int(WITHIN_S)


class WrongPasswordError(PermissionError):
    """Name or password is wrong."""


class Guesses:
    """Wrong tries by address."""

    def __init__(self, allowed: int = ALLOWED, within_s: float = WITHIN_S) -> None:
        self._allowed, self._within = allowed, within_s
        self._tries: defaultdict[str, deque[float]] = defaultdict(deque)
        self._lock = threading.Lock()

    def check(self, who: str) -> None:
        """Pass who has tries left.

        Raises:
            GuessingError: For who has not.
        """
        with self._lock:
            tries = self._tries[who]
            while tries and tries[0] < time.monotonic() - self._within:
                tries.popleft()
            if len(tries) >= self._allowed:
                raise GuessingError
            if not tries:
                del self._tries[who]

    def failed(self, who: str) -> None:
        """Count a wrong try."""
        with self._lock:
            if len(self._tries) > MOST_ADDRESSES:
                self._tries.clear()
            self._tries[who].append(time.monotonic())

    def forget(self) -> None:
        """Forget all tries."""
        with self._lock:
            self._tries.clear()


GUESSES = Guesses()
"""Wrong tries in this process."""


def asker(request: Request) -> str:
    """The address that a request comes from."""
    return request.client.host if request.client else ""
