"""Large batches of poses in parts, two at a time, so that memory stays small and both cores work."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

PART = 5000
"""Poses done together: enough that array operations outweigh the calls between them, during which only one part runs."""
Result = TypeVar("Result")


def in_parts(work: Callable[[slice], Result], poses: int) -> list[Result]:
    """Results of ``work`` on slices of the poses, in order; array operations let go of the lock, so two run at a time."""
    if poses <= PART:
        return [work(slice(0, poses))]
    rounds = -(-poses // (2 * PART))
    size = -(-poses // (2 * rounds))
    with ThreadPoolExecutor(2) as pool:
        return list(pool.map(work, (slice(k, k + size) for k in range(0, poses, size))))
