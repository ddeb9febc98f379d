"""Two hundred programs of made-up clients mapped by one process and by two: what a second one is worth."""

from __future__ import annotations

import time
from collections.abc import Callable

from oddswap.application.remap import Piece, in_processes
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence import index, variants
from oddswap.store.demo import document

PROGRAMS, CLIENTS, LINES = 200, 20, 2
"""Programs, the clients that they belong to by turns, and lines of each."""
PLACES = ("quay-hotel", "spare-room")
"""Where clients train, by turns."""


def pieces_of_programs() -> list[Piece]:
    """The programs, a client's together: lines of the demo's long program by turns."""
    client = ClientDoc.model_validate_json(document("client-sunniva"))
    program = ProgramDoc.model_validate_json(document("program-sunniva-week"))
    lines = [line.model_dump_json() for session in program.sessions for line in session.lines]
    out = []
    for i in range(CLIENTS):
        who = client.model_copy(update={"name": f"Client {i + 1}", "stature_cm": 155.0 + 2 * i, "mass_kg": 52.0 + 2 * i})
        name = PLACES[i % len(PLACES)]
        where = PlaceDoc.model_validate_json(document(f"place-{name}")).model_dump_json()
        numbers = range(i, PROGRAMS, CLIENTS)
        work = [(LINES * n + k, lines[(LINES * n + k) % len(lines)], "") for n in numbers for k in range(LINES)]
        out.append(Piece((i, who.model_dump_json()), (i, where), tuple(work), RankDoc().model_dump_json()))
    return out


def bench_remap(show: Callable[..., None]) -> None:
    """Print seconds of one process and of two, and the ratio."""
    work, took, cells = pieces_of_programs(), dict[int, float](), dict[int, list[str]]()
    for workers in (1, 2):
        index.clear_reach_tables()
        variants._cached.clear()
        start = time.perf_counter()
        cells[workers] = sorted(text for some in in_processes(work, workers) for text in some)
        took[workers] = time.perf_counter() - start
        show(f"{PROGRAMS} programs mapped by {workers} at a time", took[workers], "s")
    show("the same by two over by one", took[1] / took[2], "times (goal >= 1.7)")
    show("cells that differ", sum(a != b for a, b in zip(cells[1], cells[2], strict=True)), "(goal = 0)")


if __name__ == "__main__":
    bench_remap(lambda name, value, unit: print(f"bench: {name} = {value:.3g} {unit}", flush=True))
