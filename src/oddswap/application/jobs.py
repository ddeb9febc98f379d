"""Long work: so many at a time, some waiting, beyond that a clear no; its progress, and its end when nobody waits for it."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager

from oddswap.equivalence.cache import AbandonedError

WORKERS, WAITING = 2, 16
"""Searches and maps computed side by side, and how many may wait for them."""
LOOKS_S = 0.1
"""How often who waits for a place looks whether anybody still waits for them, s."""


class BusyError(RuntimeError):
    """More is being asked for than is computed in a reasonable time."""

    retry_after_s = 5


class Jobs:
    """Work by name (single flight is the caches' business), in a bounded number of places.

    Args:
        workers: Side by side.
        waiting: May wait; who comes beyond is told to come back.
    """

    def __init__(self, workers: int = WORKERS, waiting: int = WAITING) -> None:
        self._free = threading.Semaphore(workers)
        self._room = threading.Semaphore(workers + waiting)
        self._wanted: Counter[str] = Counter()
        self._parts: dict[str, float] = {}
        self._lock = threading.Lock()

    @contextmanager
    def wanted(self, name: str) -> Iterator[None]:
        """Wait for the work of this name; it is given up once nobody does."""
        with self._lock:
            self._wanted[name] += 1
        try:
            yield
        finally:
            with self._lock:
                self._wanted[name] -= 1
                if not self._wanted[name]:
                    del self._wanted[name]
                    self._parts.pop(name, None)

    @contextmanager
    def taken(self, name: str) -> Iterator[None]:
        """Wait for a place to work in, and hold it.

        Raises:
            BusyError: If too many wait already.
            AbandonedError: If nobody waits for this work any more.
        """
        if not self._room.acquire(blocking=False):
            raise BusyError("too much is being computed already")
        try:
            while not self._free.acquire(timeout=LOOKS_S):
                self._check(name)
            try:
                self.tell(name, 0.0)
                yield
            finally:
                self._free.release()
                self._parts.pop(name, None)
        finally:
            self._room.release()

    def tell(self, name: str, part: float) -> None:
        """Say how far the work has come, 0 to 1.

        Raises:
            AbandonedError: If nobody waits for it any more.
        """
        self._check(name)
        self._parts[name] = part

    def _check(self, name: str) -> None:
        if name not in self._wanted:
            raise AbandonedError(name)

    def part(self, name: str) -> float | None:
        """How far the work has come, 0 to 1; None where it is not under way."""
        return self._parts.get(name)


LONG_WORK = Jobs()
"""Where all searches and maps of this process are computed."""
