"""Long work in a bounded number of places: two at a time, some waiting, and beyond that a clear no."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

WORKERS, WAITING = 2, 16
"""Searches and maps computed side by side, and how many may wait for them."""


class BusyError(RuntimeError):
    """More is being asked for than is computed in a reasonable time."""

    retry_after_s = 5


class Slots:
    """A bounded number of places to work in.

    Args:
        workers: Side by side.
        waiting: May wait; who comes beyond is told to come back.
    """

    def __init__(self, workers: int = WORKERS, waiting: int = WAITING) -> None:
        self._free = threading.Semaphore(workers)
        self._room = threading.Semaphore(workers + waiting)

    @contextmanager
    def taken(self) -> Iterator[None]:
        """Wait for a place, and hold it.

        Raises:
            BusyError: If too many wait already.
        """
        if not self._room.acquire(blocking=False):
            raise BusyError("too much is being computed already")
        try:
            with self._free:
                yield
        finally:
            self._room.release()


LONG_WORK = Slots()
"""Where all searches and maps of this process are computed."""
