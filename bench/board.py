"""A program of five sessions mapped to four places, from nothing and after a change of kit."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from tempfile import TemporaryDirectory

from oddswap.application import beside, matching
from oddswap.application.beside import end_processes, search_beside, search_in
from oddswap.application.first_look import forget_looks, look_over
from oddswap.application.kept_matches import keep_matches_in
from oddswap.application.matching import forget_matches, match_line
from oddswap.application.versions import rules_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc, ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence import index, variants
from oddswap.errors import DomainError
from oddswap.store.demo import document
from oddswap.store.disk_cache import DiskCache

PLACES = ("harbour-hall", "quay-hotel", "spare-room", "tallow-garage")
LINES = 40


def bench_board(show: Callable[..., None]) -> None:
    """Print seconds for all cells from nothing, for those of a place that lost an item, and for all as after a restart."""
    client = ClientDoc.model_validate_json(document("client-sunniva"))
    program = ProgramDoc.model_validate_json(document("program-sunniva-week"))
    lines = [line for session in program.sessions for line in session.lines][:LINES]
    places = [PlaceDoc.model_validate_json(document(f"place-{name}")) for name in PLACES]
    with TemporaryDirectory() as folder:
        keep_matches_in(DiskCache(Path(folder) / "bench.matches", "bench"))
        tables = Path(folder) / "bench.reach"
        index.use_disk_cache(DiskCache(tables, "bench"))
        index.clear_reach_tables()
        variants._cached.clear()
        took = _seconds(client, lines, places)
        show(f"{len(lines)} lines at {len(places)} places, from nothing, in one process", took, "s (goal <= 5)")
        cores = os.cpu_count() or 1
        search_in(cores, Path(folder) / "looks.reach")
        matching._matches.clear()
        forget_looks()
        show("first looks at all of them, from nothing, beside this process", _looks(client, lines, places), "s (goal <= 5)")
        forget_looks()
        end_processes()
        search_in(cores, Path(folder) / "open.reach")
        for place in places:  # as the board asks when it opens
            look_over(client, list(enumerate(lines)), place, RankDoc(), known=True)
        _wait_for_processes()
        show("the same with the board open for a while", _looks(client, lines, places), "s (goal <= 5)")
        fewer, changed = (
            p.model_copy(update={"kit": k}) for p, k in ((places[0], places[0].kit[1:]), (places[1], places[1].kit[:-1]))
        )
        for place, lost in ((changed, "its bench"), (fewer, "its dumbbells")):
            begun = time.perf_counter()
            told = look_over(client, list(enumerate(lines)), place, RankDoc(), known=True)
            took, part = (time.perf_counter() - begun) * 1e3, 100 * len(told) / len(lines)
            show(f"told at once of {part:.0f} % of lines at a place that lost {lost}", took, "ms (goal <= 300)")
            show("looked at anew where it had a part", _looks(client, lines, [place]), "s (goal <= 0.3)")
        show("the same again, nothing changed", _looks(client, lines, [changed]) * 1e3, "ms (goal <= 300)")
        end_processes()
        search_in(cores, tables)
        index.use_disk_cache(DiskCache(tables, rules_digest()))
        forget_matches()
        index.clear_reach_tables()
        variants._cached.clear()
        took = _seconds(client, lines, places)
        show(f"the same in {cores} processes beside this one", took, "s (goal <= 5)")
        show("the same lines at a place that lost an item", _seconds(client, lines, [changed]), "s (goal <= 0.3)")
        show("the same again, nothing changed", _seconds(client, lines, [changed]) * 1e3, "ms (goal <= 300)")
        matching._matches.clear()
        show("all lines at all places, as after a restart", _seconds(client, lines, places), "s")
        end_processes()
        search_in(1, tables)
        index.use_disk_cache(None)
        keep_matches_in(None)


def _seconds(client: ClientDoc, lines: list[LineDoc], places: list[PlaceDoc]) -> float:
    """Seconds to match lines at places, those without an answer too."""
    start = time.perf_counter()
    for place in places:
        search_beside(client, lines, place, RankDoc(), lambda part: None)
        for line in lines:
            try:
                match_line(client, line, place, RankDoc(), curves=False)
            except DomainError:
                continue
    return time.perf_counter() - start


def _wait_for_processes() -> None:
    """Until they have done what they were asked for."""
    processes = beside._processes
    if processes is not None:
        with processes.in_use() as every:
            for one in every:
                one.submit(os.getpid).result()


def _looks(client: ClientDoc, lines: list[LineDoc], places: list[PlaceDoc]) -> float:
    """Seconds to first looks at all lines at all places, places side by side as the board asks for them."""
    begun = time.perf_counter()
    with ThreadPoolExecutor(2) as lanes:
        for _ in lanes.map(lambda place: look_over(client, list(enumerate(lines)), place, RankDoc()), places):
            pass
    return time.perf_counter() - begun
