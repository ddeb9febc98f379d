"""What was taken off the lists, and what would go with it."""

from __future__ import annotations

from dataclasses import dataclass

from oddswap.store import editing
from oddswap.store.models import AcceptedSwap, ClientPlace, Line, Program, Table


@dataclass(frozen=True)
class PutAwayRecord:
    """A record that was taken off the lists, and how much hangs on it."""

    kind: editing.Kind
    id: int
    name: str
    holds: dict[str, int]


def put_away_records() -> list[PutAwayRecord]:
    """All records that were put away, newest first."""
    every = [(k, r) for k, t in editing.LISTED.items() for r in t.select().where(t.put_away_at.is_null(False))]
    rows = [(k, r) for k, r in every if editing.is_own(k, r)]
    rows.sort(key=lambda kr: kr[1].put_away_at, reverse=True)
    return [PutAwayRecord(k, r.id, r.name, holds(k, r.id)) for k, r in rows]  # type: ignore[arg-type]


def holds(kind: str, number: int) -> dict[str, int]:
    """How much hangs on a record and goes with it: programs, lines and accepted swaps, clients of a place.

    Raises:
        MissingError: If there is none.
    """
    editing.revision(kind, number)

    def count(table: type[Table], *where: object) -> int:
        query = table.select().where(*where)
        return int(query.count())

    in_force = AcceptedSwap.undone_at.is_null()
    if kind == "place":
        swaps = count(AcceptedSwap, AcceptedSwap.place == number, in_force)
        return {"clients": count(ClientPlace, ClientPlace.place == number), "accepted swaps": swaps}
    of = [number] if kind == "program" else [p.id for p in Program.select(Program.id).where(Program.client == number)]
    lines = [r.id for r in Line.select(Line.id).where(Line.program.in_(of), Line.removed_at.is_null())]
    out = {} if kind == "program" else {"programs": len(of)}
    return out | {"lines": len(lines), "accepted swaps": count(AcceptedSwap, AcceptedSwap.line.in_(lines), in_force)}
