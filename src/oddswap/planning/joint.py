"""A session's swaps, chosen together: each good for its line, few stations, little to set, groups on what serves all of them.

Exact by constraint programming (CP-SAT): one option a line, the greatest sum of matches less what the lifts cost each other.
"""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from itertools import combinations
from typing import Any

from oddswap.planning.exact import OutOfTimeError, solve
from oddswap.planning.session import Lift

SCALE = 1000
"""Thousandths of a point: the solver counts in whole numbers."""
LIMIT_S = 1.0
"""How long a better choice is looked for, s."""


@cache
def joint_rules() -> dict[str, float]:
    """Points (``data/joint.toml``)."""
    return tomllib.loads((files(__package__) / "data" / "joint.toml").read_text())


@dataclass(frozen=True)
class Option:
    """A swap that a line may be done by.

    Args:
        match: 0 to 100.
        lift: How it is done.
    """

    match: float
    lift: Lift


@dataclass(frozen=True)
class Choice:
    """One option a line.

    Args:
        chosen: The option of every line, by its place.
        worth: Sum of the matches less what they cost each other, points.
        bound: No choice is worth more.
    """

    chosen: tuple[int, ...]
    worth: float
    bound: float

    @property
    def proven(self) -> bool:
        """Whether nothing better is possible."""
        return self.bound - self.worth < 1e-2


def apart_points(one: Lift, other: Lift) -> float:
    """What two lifts of one group cost each other, points."""
    rule = joint_rules()
    if not one.group or one.group != other.group:
        return 0.0
    both = one.settings.keys() & other.settings.keys()
    differ = [key for key in both if one.settings[key] != other.settings[key]]
    held = {item for item, name in both if name == "load"}
    return rule["clash"] * len(differ) + rule["shared"] * len(held)


def _things(lift: Lift) -> list[tuple[object, float]]:
    """What a lift needs there to be once, whoever else needs it too, and what each costs, points."""
    rule = joint_rules()
    stations: list[tuple[object, float]] = [(item, rule["station"]) for item in lift.items]
    return stations + [((key, value), rule["load" if key[1] == "load" else "setting"]) for key, value in lift.settings.items()]


def worth_of(options: Sequence[Sequence[Option]], chosen: Sequence[int]) -> float:
    """What a choice is worth, points."""
    taken = [some[k] for some, k in zip(options, chosen, strict=True)]
    things = {thing: cost for one in taken for thing, cost in _things(one.lift)}
    apart = sum(apart_points(a.lift, b.lift) for a, b in combinations(taken, 2))
    return sum(one.match for one in taken) - sum(things.values()) - apart


def choose_together(options: Sequence[Sequence[Option]], limit_s: float = LIMIT_S) -> Choice:
    """The best option for every line, all together.

    Args:
        options: For every line, at least one.
        limit_s: How long a better choice is looked for, s.
    """
    from ortools.sat.python import cp_model  # read in only here: it takes a second

    if not options:
        return Choice((), 0.0, 0.0)
    model = cp_model.CpModel()
    taken = [[model.new_bool_var(f"{i} {k}") for k in range(len(some))] for i, some in enumerate(options)]
    terms: list[Any] = []
    things: dict[object, Any] = {}
    for some, variables in zip(options, taken, strict=True):
        model.add_exactly_one(variables)
        for one, variable in zip(some, variables, strict=True):
            terms.append(round(SCALE * one.match) * variable)
            for thing, cost in _things(one.lift):
                if thing not in things:
                    things[thing] = model.new_bool_var(f"thing {len(things)}")
                    terms.append(-round(SCALE * cost) * things[thing])
                model.add_implication(variable, things[thing])
    for i, j in combinations(range(len(options)), 2):
        for k, a in enumerate(options[i]):
            for n, b in enumerate(options[j]):
                if points := apart_points(a.lift, b.lift):
                    both = model.new_bool_var(f"{i} {k} {j} {n}")
                    model.add_bool_or([~taken[i][k], ~taken[j][n], both])
                    terms.append(-round(SCALE * points) * both)
    model.maximize(sum(terms))
    try:
        found = solve(model, limit_s)
    except OutOfTimeError:
        found = None
    if found is None:
        first = tuple(max(range(len(some)), key=lambda k: some[k].match) for some in options)
        return Choice(first, worth_of(options, first), sum(max(one.match for one in some) for some in options))
    solver, optimal = found
    chosen = tuple(next(k for k, v in enumerate(variables) if solver.value(v)) for variables in taken)
    worth = worth_of(options, chosen)
    return Choice(chosen, worth, worth if optimal else solver.best_objective_bound / SCALE)
