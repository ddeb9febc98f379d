"""The best session by constraint programming (CP-SAT), and what to leave out where time is short.

One round through the blocks that are chosen, each lift in exactly one of them; the result says whether nothing better is
possible, or how far off it may be.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import Any

from oddswap.planning.exact import OutOfTimeError, solve
from oddswap.planning.session import (
    Block,
    Lift,
    School,
    Session,
    good_order,
    place_cost,
    possible_blocks,
    session_cost,
    timed,
)

SCALE = 10
"""Tenths of a second: the solver counts in whole numbers."""
LIMIT_S = 1.0
"""How long a better order is looked for, s."""


def plan_session(
    lifts: Sequence[Lift], school: School = "heavy_first", pairs: bool = True, limit_s: float = LIMIT_S
) -> Session:
    """The best blocks and their best order.

    Args:
        lifts: What is to be done, with different numbers.
        school: What comes first.
        pairs: Whether lifts that nobody put together may be done in turns.
        limit_s: How long a better one is looked for, s.
    """
    from ortools.sat.python import cp_model  # read in only here: it takes a second

    if not lifts:
        return timed([], [], 0.0)
    blocks = [b for b in possible_blocks(lifts) if pairs or len(b.lifts) == 1 or b.lifts[0].group]
    orders = good_order(lifts, school)
    model = cp_model.CpModel()
    used = [model.new_bool_var(f"block {k}") for k in range(len(blocks))]
    for lift in lifts:
        model.add_exactly_one(used[k] for k, b in enumerate(blocks) if lift.id in b.ids)
    place = [model.new_int_var(0, len(lifts) - 1, f"place {k}") for k in range(len(blocks))]
    costs: list[Any] = [round(SCALE * b.duration_s) * used[k] for k, b in enumerate(blocks)]
    arcs: list[tuple[int, int, Any]] = []
    for k, block in enumerate(blocks):
        arcs.append((k + 1, k + 1, ~used[k]))
        first, last = model.new_bool_var(f"first {k}"), model.new_bool_var(f"last {k}")
        arcs += [(0, k + 1, first), (k + 1, 0, last)]
        model.add(place[k] == 0).only_enforce_if(first)
        costs.append(round(SCALE * block.move_s(None)) * first)
        for n, following in enumerate(blocks):
            if n == k or block.ids & following.ids:
                continue
            then = model.new_bool_var(f"{k} then {n}")
            arcs.append((k + 1, n + 1, then))
            model.add(place[n] == place[k] + 1).only_enforce_if(then)
            costs.append(round(SCALE * following.move_s(block)) * then)
    model.add_circuit(arcs)
    at: dict[int, Any] = {}
    for lift in lifts:
        at[lift.id] = model.new_int_var(0, len(lifts) - 1, f"place of {lift.id}")
        for k, b in enumerate(blocks):
            if lift.id in b.ids:
                model.add(at[lift.id] == place[k]).only_enforce_if(used[k])
        costs.append(round(SCALE * place_cost(lift)) * at[lift.id])
    for o in orders:
        late = model.new_bool_var(f"{o.then} before {o.first}")
        model.add(at[o.first] <= at[o.then]).only_enforce_if(~late)
        costs.append(round(SCALE * o.cost) * late)
    model.minimize(sum(costs))
    found = None
    with suppress(OutOfTimeError):
        found = solve(model, limit_s)
    if found is None:
        return timed([b for b in blocks if len(b.lifts) == 1 or b.lifts[0].group], orders, 0.0)
    solver, proven = found
    chosen = sorted((k for k in range(len(blocks)) if solver.value(used[k])), key=lambda k: solver.value(place[k]))
    sequence = [blocks[k] for k in chosen]
    return timed(sequence, orders, session_cost(sequence, orders) if proven else solver.best_objective_bound / SCALE)


@dataclass(frozen=True)
class Cut:
    """What is left out where time is short.

    Args:
        lift: Number of the lift.
        name: Its name.
        sets: Sets that are left of it; 0 leaves it out.
        saved_s: What that saves, s.
    """

    lift: int
    name: str
    sets: int
    saved_s: float


def cut_to(
    lifts: Sequence[Lift], most_s: float, school: School = "heavy_first", pairs: bool = True
) -> tuple[list[Cut], Session]:
    """What to leave out first, one set after the other, until a session fits, and the session that is left.

    What goes first costs its muscles least of their sets for every second that it saves; of a lift two sets are left, or none.

    Args:
        lifts: What is to be done.
        most_s: How long there is, s.
        school: What comes first.
        pairs: Whether lifts may be done in turns.
    """
    kept, cuts = list(lifts), list[Cut]()
    session = plan_session(kept, school, pairs)
    while session.duration_s > most_s and len(kept) > 1:
        best: tuple[float, list[Lift], Cut] | None = None
        for lift in kept:
            left = lift.sets - 1 if lift.sets > 2 else 0
            fewer = [x for x in kept if x is not lift or left]
            fewer = [replace(x, sets=left) if x is lift else x for x in fewer]
            saved = session.duration_s - _as_before(session, fewer).duration_s
            cost = _lost(lift, lift.sets - left, kept) / max(saved, 1.0)
            if best is None or cost < best[0]:
                best = cost, fewer, Cut(lift.id, lift.name, left, saved)
        assert best is not None
        kept, session = best[1], _as_before(session, best[1])
        cuts.append(best[2])
    return cuts, plan_session(kept, school, pairs)


def _as_before(session: Session, lifts: Sequence[Lift]) -> Session:
    """The same blocks in the same order with the sets that are left."""
    now = {lift.id: lift for lift in lifts}
    blocks = [Block(tuple(now[x.id] for x in b.lifts if x.id in now)) for b in session.blocks]
    return timed([b for b in blocks if b.lifts], (), 0.0)


def _lost(lift: Lift, sets: int, lifts: Sequence[Lift]) -> float:
    """Part of their sets that muscles lose with some sets of a lift, all together; twice as much where it matters most."""
    whole = {g: sum(x.sets * x.work.get(g, 0.0) for x in lifts) for g in lift.work}
    return sum(sets * v / whole[g] for g, v in lift.work.items() if whole[g]) * (2.0 if lift.priority else 1.0)
