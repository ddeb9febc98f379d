"""The fewest lifts that cover a wish: muscles, in which third of their length, how many sets, within the minutes there are.

Exact by integer programming (CP-SAT): first as few lifts as can be, then as little time, then as much of each muscle's own.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from oddswap.planning.exact import solve

SCALE = 100
"""Hundredths of a set: the solver counts in whole numbers."""
LEAST_SETS, MOST_SETS = 2, 5
"""Sets of a lift that is done at all; common practice: three to four, a fifth if game."""
LIMIT_S = 2.0
"""How long a smaller one is looked for, s."""

Part = tuple[str, int]
"""A muscle group in a third of its own length, 0 the lengthened one."""


@dataclass(frozen=True)
class Covering:
    """A lift that may be chosen.

    Args:
        name: What it is.
        parts: Part of a set that each muscle gets in each third, 0 to 1.
        set_s: A set and the rest after it, s.
    """

    name: str
    parts: Mapping[Part, float]
    set_s: float


@dataclass(frozen=True)
class Fewest:
    """The lifts that were chosen.

    Args:
        sets: Sets of every lift, by its place; 0 where it is not done.
        proven: Whether fewer cannot be.
    """

    sets: tuple[int, ...]
    proven: bool


def fewest_lifts(lifts: Sequence[Covering], wish: Mapping[Part, float], most_s: float | None = None) -> Fewest | None:
    """The fewest lifts whose sets cover a wish; None where all of them together do not.

    Args:
        lifts: To choose from.
        wish: Sets wanted of each part.
        most_s: How long there is, s; None for as long as it takes.

    Raises:
        OutOfTimeError: If none were found in time.
    """
    from ortools.sat.python import cp_model  # read in only here: it takes a second

    model = cp_model.CpModel()
    used = [model.new_bool_var(f"used {k}") for k in range(len(lifts))]
    sets = [model.new_int_var(0, MOST_SETS, f"sets {k}") for k in range(len(lifts))]
    for some, done in zip(sets, used, strict=True):
        model.add(some >= LEAST_SETS * done)
        model.add(some <= MOST_SETS * done)
    for part, wanted in wish.items():
        given: Any = sum(int(SCALE * lift.parts.get(part, 0.0)) * some for lift, some in zip(lifts, sets, strict=True))
        model.add(given >= int(SCALE * wanted))
    time: Any = sum(round(lift.set_s) * some for lift, some in zip(lifts, sets, strict=True))
    if most_s is not None:
        model.add(time <= int(most_s))
    longest = sum(round(lift.set_s) * MOST_SETS for lift in lifts) + 1
    model.minimize(longest * sum(used) + time)
    found = solve(model, LIMIT_S)
    return None if found is None else Fewest(tuple(found[0].value(some) for some in sets), found[1])
