"""Every program of a database mapped over all its client's places: in processes of this machine, or on a Dask cluster.

Work is cut by client and place, so that what is computed once for both serves all lines. Results are the same whoever computes
them, in whatever order they come; only what changed since the last run is computed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path

from oddswap.application.matching import match_line
from oddswap.application.versions import match_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.remap import MappedCellDoc
from oddswap.equivalence.index import use_threads
from oddswap.errors import DomainError
from oddswap.store import records

AT_MOST = 100
"""Lines of one piece of work: small enough to be shared out evenly, large enough that hardly a client's reach table is built by
two processes."""


@dataclass(frozen=True)
class Piece:
    """Lines of one client at one place, as JSON, so that it can be sent anywhere.

    Args:
        client: Number and document.
        place: Number and document.
        lines: Numbers, documents and digests.
        ranking: Lens and filters.
    """

    client: tuple[int, str]
    place: tuple[int, str]
    lines: tuple[tuple[int, str, str], ...]
    ranking: str


def pieces(ranking: RankDoc, known: Mapping[tuple[int, int], str]) -> tuple[list[Piece], set[tuple[int, int]]]:
    """What is to be computed, and all cells that there are, by line and place. Call inside a connection.

    Args:
        ranking: Lens and filters.
        known: Digests of cells that were computed before, by line and place.
    """
    out, every = list[Piece](), set[tuple[int, int]]()
    for number in records.client_ids():
        held = records.client(number)
        lines = [line for program in held.programs for line in program.lines]
        for place in held.places:
            wanted = []
            for line in lines:
                every.add((line.id, place.id))
                versions = match_digest(held.document, line.document, place.document, ranking)
                if known.get((line.id, place.id)) != versions:
                    wanted.append((line.id, line.document.model_dump_json(), versions))
            who, where = (number, held.document.model_dump_json()), (place.id, place.document.model_dump_json())
            for k in range(0, len(wanted), AT_MOST):
                out.append(Piece(who, where, tuple(wanted[k : k + AT_MOST]), ranking.model_dump_json()))
    # The longest first, so that all are done at about the same time.
    return sorted(out, key=lambda piece: -len(piece.lines)), every


def map_piece(piece: Piece) -> list[str]:
    """The cells of a piece, as JSON."""
    client, place = ClientDoc.model_validate_json(piece.client[1]), PlaceDoc.model_validate_json(piece.place[1])
    ranking = RankDoc.model_validate_json(piece.ranking)
    out = []
    for number, text, versions in piece.lines:
        line, numbers = LineDoc.model_validate_json(text), (piece.client[0], number, piece.place[0])
        try:
            cell = MappedCellDoc.of(numbers, versions, match_line(client, line, place, ranking, curves=False))
        except DomainError as error:
            who, _, where = numbers
            cell = MappedCellDoc(
                client=who, line=number, place=where, name=line.name, versions=versions, swaps=[], nothing=error.limit
            )
        out.append(cell.model_dump_json())
    return out


def in_processes(work: Sequence[Piece], workers: int) -> Iterator[list[str]]:
    """Cells as pieces are finished, in processes of this machine."""
    if workers == 1:
        use_threads(1)
        yield from map(map_piece, work)
        return
    with ProcessPoolExecutor(workers, get_context("spawn"), initializer=use_threads, initargs=(1,)) as pool:
        for done in as_completed([pool.submit(map_piece, piece) for piece in work]):
            yield done.result()


def on_cluster(work: Sequence[Piece], scheduler: str) -> Iterator[list[str]]:
    """The same on a Dask cluster, by its scheduler's address.

    Raises:
        DomainError: If the extra for clusters is not installed, or nobody answers there.
    """
    try:
        from distributed import Client
        from distributed import as_completed as as_finished
    except ImportError:
        raise DomainError("scheduler", scheduler, "an app with the extra for clusters", "Install odd-swap[cluster]") from None
    try:
        cluster = Client(scheduler, timeout="5s")  # type: ignore[no-untyped-call]
    except (OSError, ValueError) as error:
        raise DomainError("scheduler", scheduler, f"a Dask scheduler that answers ({error})", "Start it first") from None
    with cluster:
        for future in as_finished(cluster.map(map_piece, work, pure=False)):  # type: ignore[no-untyped-call]
            yield future.result()


def read_cells(path: Path) -> dict[tuple[int, int], MappedCellDoc]:
    """Cells of an earlier run, also of one that was stopped; a half-written last line is left out."""
    out = {}
    for text in path.read_text(encoding="utf-8").splitlines() if path.exists() else []:
        try:
            cell = MappedCellDoc.model_validate_json(text)
        except ValueError:
            continue
        out[cell.line, cell.place] = cell
    return out


def remap(
    path: Path,
    ranking: RankDoc,
    run: Callable[[Sequence[Piece]], Iterable[list[str]]],
    progress: Callable[[int, int], None] = lambda done, of: None,
) -> tuple[int, int]:
    """Map all programs into a file, a line of JSON for each cell. Call inside a connection.

    Cells stand in the file as they are finished, so that a run that was stopped goes on where it was; in the end they stand
    in order, and those that are no more are gone.

    Args:
        path: The file.
        ranking: Lens and filters.
        run: Computes pieces.
        progress: Told how many cells are computed, and of how many.

    Returns:
        How many cells were computed, and how many there are.
    """
    held = read_cells(path)
    work, every = pieces(ranking, {cell: doc.versions for cell, doc in held.items()})
    of, done = sum(len(piece.lines) for piece in work), 0
    progress(done, of)
    with path.open("a", encoding="utf-8") as file:
        # What a stopped run wrote last may be half a line.
        file.write("\n" if file.tell() else "")
        for cells in run(work):
            file.writelines(text + "\n" for text in cells)
            file.flush()
            done += len(cells)
            progress(done, of)
    held = {cell: doc for cell, doc in read_cells(path).items() if cell in every}
    whole = path.with_suffix(path.suffix + ".new")
    whole.write_text("".join(held[cell].model_dump_json() + "\n" for cell in sorted(held)), encoding="utf-8")
    whole.replace(path)
    return done, len(every)
