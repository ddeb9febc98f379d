"""A process that starts others and is killed; it stands apart from the tests, so that a new process can read it."""

from __future__ import annotations

import os
import signal
from multiprocessing.queues import SimpleQueue
from pathlib import Path

from oddswap.application.beside import Processes


def begin_and_vanish(tables: Path, told: SimpleQueue[int]) -> None:
    """Start a process that searches, tell its number, and be killed."""
    with Processes(1, tables).in_use() as (one,):
        told.put(one.submit(os.getpid).result())
        os.kill(os.getpid(), signal.SIGKILL)
