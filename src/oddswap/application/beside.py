"""Many lines searched at a time, in processes beside this one: Python computes on one core a process."""

from __future__ import annotations

import os
import signal
import sys
import threading
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager, suppress
from multiprocessing import active_children, get_context, parent_process
from pathlib import Path
from typing import TypeVar

from oddswap.application.jobs import LONG_WORK
from oddswap.application.kept_matches import are_kept, keep_packed, pack, times_dropped
from oddswap.application.looks import TakenLook
from oddswap.application.matching import forget_matches, match_line, take_look, watched_match
from oddswap.application.versions import map_digest, match_digest, rules_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.index import use_disk_cache, use_threads
from oddswap.errors import DomainError
from oddswap.store.disk_cache import DiskCache

Value = TypeVar("Value")
FEW = 3
"""Lines up to which no process is started for."""
IDLE_S = 120.0
"""After how long without work the processes end: each holds as much memory as a small program, s."""
LOOKS_S = 0.2
"""How often who waits tells how far the work is, s."""
AHEAD = 2
"""How many lines wait in each process's queue, so that none stands idle until who waits looks again."""
POLITE = 5
"""How far these processes stand back behind the one that answers (the system's nice value)."""


class Processes:
    """Processes that search, started when there is work for them and ended when there was none for a while.

    Args:
        count: How many.
        tables: The file in which reach tables are kept.
    """

    def __init__(self, count: int, tables: Path) -> None:
        self.count, self._tables = count, tables
        self.with_tables: SharedCache[str, bool] = SharedCache(256)
        """Clients and places, by digest, whose tables were made since the start."""
        self.ready: SharedCache[str, bool] = SharedCache(256)
        """The same whose tables were asked for before anything else was."""
        self._every: list[ProcessPoolExecutor] = []
        self._homes: dict[str, ProcessPoolExecutor] = {}
        self._asked: dict[ProcessPoolExecutor, int] = {}
        self._users = 0
        self._lock = threading.Lock()
        self._end: threading.Timer | None = None

    @contextmanager
    def in_use(self) -> Iterator[list[ProcessPoolExecutor]]:
        """The processes, a queue for each, for as long as somebody waits for them; broken ones are let go, and next time there
        are new ones."""
        with self._lock:
            self._users += 1
            if self._end is not None:
                self._end.cancel()
            if not self._every:
                self._every = [
                    ProcessPoolExecutor(1, get_context("spawn"), initializer=_begin, initargs=(str(self._tables),))
                    for _ in range(self.count)
                ]
            every = self._every
        try:
            yield every
        except BrokenProcessPool:
            with self._lock:
                if self._every is every:
                    self._let_go()
            raise
        finally:
            with self._lock:
                self._users -= 1
                if not self._users:
                    self._end = threading.Timer(IDLE_S, self.close)
                    self._end.daemon = True
                    self._end.start()

    def at_home(
        self, every: Sequence[ProcessPoolExecutor], place: str, work: Callable[..., Value], *texts: object
    ) -> Future[Value]:
        """Have work done by that of some processes which has a place's tables: where it was done before, or else the one with
        least to do."""
        with self._lock:
            known, homes = self._homes.get(place), list(self._homes.values())
            idlest = min(every, key=lambda one: (self._asked.get(one, 0), homes.count(one)))
            home = self._homes[place] = known if known is not None and known in every else idlest
            self._asked[home] = self._asked.get(home, 0) + 1
        made = home.submit(work, *texts)
        made.add_done_callback(lambda _: self._finished(home))
        return made

    def _finished(self, one: ProcessPoolExecutor) -> None:
        with self._lock:
            if one in self._asked:
                self._asked[one] -= 1

    def _let_go(self) -> list[ProcessPoolExecutor]:
        every, self._every = self._every, []
        self._homes.clear()
        self._asked.clear()
        self.ready.clear()
        return every

    def close(self) -> None:
        """End the processes, unless somebody waits for them again."""
        with self._lock:
            for one in self._let_go() if not self._users else []:
                one.shutdown(wait=False, cancel_futures=True)

    def end(self) -> None:
        """End the processes at once, whoever waits for them."""
        with self._lock:
            every = self._let_go()
        if every:
            for process in active_children():
                process.terminate()
        for one in every:
            one.shutdown(cancel_futures=True)


_processes: Processes | None = None


def search_in(count: int, tables: Path) -> None:
    """Search many lines in so many processes from now on; with one, in this process alone.

    Args:
        count: How many.
        tables: The file in which reach tables are kept.
    """
    global _processes
    _processes = Processes(count, tables) if count > 1 else None


def end_processes() -> None:
    """End what was started, before this process leaves without ado."""
    if _processes is not None:
        _processes.end()


def search_beside(
    client: ClientDoc, lines: Sequence[LineDoc], place: PlaceDoc, ranking: RankDoc, tell: Callable[[float], None]
) -> None:
    """Search lines that were not searched yet, so that ``watched_match`` finds them kept; does nothing where these are few, or
    where there are no processes to do it.

    What cannot be searched is left for who asks for it, to be told why.

    Args:
        client: Who.
        lines: What is prescribed.
        place: Where.
        ranking: Lens and filters.
        tell: Told the part done, 0 to 1.

    Raises:
        AbandonedError: Once ``tell`` says that nobody wants it.
    """
    if _processes is None:
        return
    names = {match_digest(client, line, place, ranking): line for line in lines}
    known = are_kept(list(names), client.units)
    left = [(name, line) for name, line in names.items() if name not in known]
    if len(left) <= FEW:
        return
    try:
        with _processes.in_use() as every:
            if not _processes.with_tables.known([tables := map_digest(client, place)]):
                for one in every:
                    one.submit(os.getpid)  # they start while the tables are made here
                _search_here(client, left[0][1], place, ranking, left.pop(0)[0])
                _processes.with_tables.put({tables: True})
            _share_out(every, client, left, place, ranking, tell)
    except BrokenProcessPool:
        return


def get_ready_beside(client: ClientDoc, lines: Sequence[LineDoc], place: PlaceDoc, ranking: RankDoc) -> None:
    """Start the processes and have a place's tables made in one of them, before somebody asks what many lines come to there;
    nothing is waited for.

    Args:
        client: Who.
        lines: What may be asked for.
        place: Where.
        ranking: Lens and filters.
    """
    if _processes is None or len(lines) <= FEW or _processes.ready.known([tables := map_digest(client, place)]):
        return
    _processes.ready.put({tables: True})
    texts = client.model_dump_json(), [lines[0].model_dump_json()], place.model_dump_json(), ranking.model_dump_json()
    with suppress(BrokenProcessPool), _processes.in_use() as every:
        _processes.at_home(every, place.name, _look_packed, *texts)


def look_beside(client: ClientDoc, lines: Sequence[LineDoc], place: PlaceDoc, ranking: RankDoc) -> list[TakenLook] | None:
    """First looks at lines, taken in one of the processes, which then has the place's tables; None without processes.

    Args:
        client: Who.
        lines: What is prescribed.
        place: Where.
        ranking: Lens and filters.
    """
    if _processes is None:
        return None
    texts = client.model_dump_json(), [line.model_dump_json() for line in lines], place.model_dump_json()
    try:
        with _processes.in_use() as every:
            found = _processes.at_home(every, place.name, _look_packed, *texts, ranking.model_dump_json()).result()
    except BrokenProcessPool:
        return None
    return [TakenLook.model_validate_json(look) for look in found]


def _share_out(
    every: Sequence[ProcessPoolExecutor],
    client: ClientDoc,
    lines: Sequence[tuple[str, LineDoc]],
    place: PlaceDoc,
    ranking: RankDoc,
    tell: Callable[[float], None],
) -> None:
    """Search lines, by name, in other processes, and keep what is found; their tables are made already."""
    texts, begun = (client.model_dump_json(), place.model_dump_json(), ranking.model_dump_json()), times_dropped()
    left, under_way = list(lines), dict[Future[bytes | None], tuple[str, ProcessPoolExecutor]]()

    def ask(one: ProcessPoolExecutor) -> None:
        if left:
            name, line = left.pop(0)
            under_way[one.submit(_search_packed, *texts, line.model_dump_json())] = name, one

    for one in [*every] * AHEAD:
        ask(one)
    try:
        while under_way:
            tell(1 - (len(under_way) + len(left)) / len(lines))
            for future in wait(under_way, LOOKS_S, FIRST_COMPLETED).done:
                name, one = under_way.pop(future)
                ask(one)
                packed = future.result()
                if packed is not None:
                    keep_packed(name, client.units, packed, begun)
    finally:
        for future in under_way:
            future.cancel()


def _search_here(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, name: str) -> None:
    try:
        with LONG_WORK.wanted(name):
            watched_match(client, line, place, ranking)
    except DomainError:
        return  # told to who asks for this line


def _begin(tables: str) -> None:
    """Ready a process to search: behind the one that answers, and gone with it without a word."""
    threading.Thread(target=_end_with_parent, daemon=True).start()
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    sys.stderr = Path(os.devnull).open("w", encoding="utf-8")  # noqa: SIM115 - for as long as the process lives
    if hasattr(os, "nice"):
        os.nice(POLITE)
    use_threads(1)
    use_disk_cache(DiskCache(Path(tables), rules_digest()))


def _end_with_parent() -> None:
    """Leave once the process that started this one is gone, however it went."""
    parent = parent_process()
    if parent is not None:
        parent.join()
        os._exit(0)


def _search_packed(client: str, place: str, ranking: str, line: str) -> bytes | None:
    """A line's match as it is kept; None for an error that is to be told anew. Arguments are documents as JSON."""
    who, where = ClientDoc.model_validate_json(client), PlaceDoc.model_validate_json(place)
    try:
        found = match_line(who, LineDoc.model_validate_json(line), where, RankDoc.model_validate_json(ranking))
    except DomainError as nothing:
        return pack(nothing)
    finally:
        forget_matches()  # nobody can ask this process to forget a client
    return pack(found)


def _look_packed(client: str, lines: Sequence[str], place: str, ranking: str) -> list[str]:
    """First looks at lines, as JSON, as all arguments are."""
    who, where = ClientDoc.model_validate_json(client), PlaceDoc.model_validate_json(place)
    how = RankDoc.model_validate_json(ranking)
    return [take_look(who, LineDoc.model_validate_json(line), where, how).model_dump_json() for line in lines]
