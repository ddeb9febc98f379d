"""Results that are computed once and shared by all threads: least recently used go first."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable, Iterable, Mapping, Sequence
from concurrent.futures import Future
from contextlib import suppress
from typing import Generic, TypeVar

from cachetools import LRUCache

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")


class AbandonedError(RuntimeError):
    """Work was given up, as who asked for it has left; whoever else waits for it does it themselves."""


class SharedCache(Generic[Key, Value]):
    """Results by what they follow from.

    Every access is under one lock, work is not. Who asks for what another thread is at waits for that thread's result, so
    that nothing is computed twice at a time (single flight).

    Args:
        size: How many results are kept.
    """

    def __init__(self, size: int) -> None:
        self._kept: LRUCache[Key, Value] = LRUCache(size)
        self._under_way: dict[Key, Future[Value]] = {}
        self._lock = threading.Lock()

    def get(self, key: Key, work: Callable[[], Value]) -> Value:
        """The result for a key, computed by ``work`` where it is not known.

        Raises:
            BaseException: Whatever ``work`` raises, for everyone who waits for it; it is not remembered.
        """
        return self.get_many([key], lambda keys: [work()])[0]

    def get_many(self, keys: Sequence[Key], work: Callable[[list[Key]], Sequence[Value]]) -> list[Value]:
        """Results for keys, those that are not known computed together.

        Args:
            keys: In any order, repeated or not.
            work: Results for the keys it is given, in their order.
        """
        found: dict[Key, Value] = {}
        while missing := [key for key in dict.fromkeys(keys) if key not in found]:
            found |= self._get_once(missing, work)
        return [found[key] for key in keys]

    def _get_once(self, keys: Sequence[Key], work: Callable[[list[Key]], Sequence[Value]]) -> dict[Key, Value]:
        """Results for keys; those that another thread was at and gave up are missing."""
        found: dict[Key, Value] = {}
        waiting: dict[Key, Future[Value]] = {}
        mine: dict[Key, Future[Value]] = {}
        with self._lock:
            for key in keys:
                if key in self._kept:
                    found[key] = self._kept[key]
                elif key in self._under_way:
                    waiting[key] = self._under_way[key]
                else:
                    mine[key] = self._under_way[key] = Future()
        if mine:
            try:
                made = work(list(mine))
            except BaseException as error:
                with self._lock:
                    for key, future in mine.items():
                        del self._under_way[key]
                        future.set_exception(error)
                        future.exception()  # seen, should nobody wait
                raise
            with self._lock:
                for (key, future), value in zip(mine.items(), made, strict=True):
                    self._kept[key] = found[key] = value
                    del self._under_way[key]
                    future.set_result(value)
        for key, future in waiting.items():
            with suppress(AbandonedError):
                found[key] = future.result()
        return found

    def known(self, keys: Iterable[Key]) -> dict[Key, Value]:
        """Those of the keys that are known already."""
        with self._lock:
            return {key: self._kept[key] for key in keys if key in self._kept}

    def put(self, items: Mapping[Key, Value]) -> None:
        """Keep these."""
        with self._lock:
            self._kept.update(items)

    def clear(self) -> None:
        """Forget all that is kept; work under way goes on."""
        with self._lock:
            self._kept.clear()
