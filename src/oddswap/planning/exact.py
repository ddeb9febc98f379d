"""The exact solver (CP-SAT) as planning uses it."""

from __future__ import annotations

from typing import Any

WORKERS = 2
"""Searches of its own that it runs side by side."""


class OutOfTimeError(RuntimeError):
    """No answer was found in time, and none was ruled out."""


def solve(model: Any, limit_s: float) -> tuple[Any, bool] | None:
    """The solver with the best answer it found, and whether nothing better is possible; None where there is no answer.

    Args:
        model: A ``CpModel``.
        limit_s: How long it looks, s.

    Raises:
        OutOfTimeError: If it found none in time.
    """
    from ortools.sat.python import cp_model  # read in only where it is asked for: it takes a second

    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = limit_s
    solver.parameters.num_workers = WORKERS
    status = solver.solve(model)
    if status == cp_model.UNKNOWN:
        raise OutOfTimeError(f"nothing found within {limit_s:g} s")
    return (solver, status == cp_model.OPTIMAL) if status in (cp_model.OPTIMAL, cp_model.FEASIBLE) else None
