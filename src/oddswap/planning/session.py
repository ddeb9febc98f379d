"""A session over time at a place: which lifts are done in turns, in which order, and how long it takes.

Every lift stands in one block, alone or in turns with others; blocks follow one another. What that costs is a sum of seconds
and of what a breach of good order is worth.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from itertools import combinations, pairwise
from typing import Any, Literal

import numpy as np

from oddswap.mechanics.actions import LiftKind

School = Literal["heavy_first", "warm_first"]
"""Whether heavy lifts come first, or a light one for the same muscle that warms it up."""


@cache
def session_rules() -> dict[str, Any]:
    """Times and weights (``data/session.toml``)."""
    return tomllib.loads((files(__package__) / "data" / "session.toml").read_text())


@dataclass(frozen=True)
class Lift:
    """One line as it is done at a place.

    Args:
        id: Its number.
        name: What it is called.
        sets: How many.
        set_s: Duration of a set, all sides, s.
        rest_s: Rest that its muscles need between sets, s.
        items: Kit that is held up meanwhile, by id; none for the body alone.
        settings: What must stand how, by item and name of the setting.
        spot: Where it is done, m; None where any place will do.
        work: How hard muscles work, 0 to 1, by group.
        group: Lifts of one group, such as ``A``, are done in turns.
        priority: Whether it is for a muscle that matters most.
        crowded: Whether its kit is crowded at that hour.
        heaviness: 0 to 1, see ``heaviness_of``.
    """

    id: int
    name: str
    sets: int
    set_s: float
    rest_s: float
    items: tuple[str, ...] = ()
    settings: Mapping[tuple[str, str], str] = field(default_factory=dict)
    spot: tuple[float, float] | None = None
    work: Mapping[str, float] = field(default_factory=dict)
    group: str = ""
    priority: bool = False
    crowded: bool = False
    heaviness: float = 0.3


def heaviness_of(kind: LiftKind) -> float:
    """How heavy a lift is, 0 to 1, by how many joints it moves: a curl is light, a press heavy, a squat heaviest."""
    rule = session_rules()["heaviness"]
    joints = sum(part >= rule["least"] for name, part in kind.joints().items() if name != "shoulder blade")
    return float(rule["by_joints"][min(max(joints, 1), len(rule["by_joints"])) - 1])


def rest_after(heaviness: float) -> float:
    """Rest between sets where the line says none, s."""
    rule = session_rules()
    return float(rule["rest_heavy_s" if heaviness >= rule["heavy_from"] else "rest_light_s"])


def walk_m(one: Lift, other: Lift) -> float:
    """Metres from one lift's place to another's; none where either may be done anywhere."""
    if one.spot is None or other.spot is None:
        return 0.0
    return float(np.hypot(one.spot[0] - other.spot[0], one.spot[1] - other.spot[1]))


def walk_s(one: Lift, other: Lift) -> float:
    """Seconds from one lift's place to another's."""
    return walk_m(one, other) / float(session_rules()["walk_m_s"])


def changes_s(before: Iterable[Lift], lift: Lift) -> float:
    """Seconds to set up a lift after others have been done."""
    held = {key: value for one in before for key, value in one.settings.items()}
    costs = session_rules()["change"]
    return float(sum(costs.get(name, 0) for (item, name), value in lift.settings.items() if held.get((item, name)) != value))


@dataclass(frozen=True)
class Block:
    """Lifts that are done in turns, or one alone."""

    lifts: tuple[Lift, ...]

    @property
    def ids(self) -> frozenset[int]:
        """Numbers of its lifts."""
        return frozenset(lift.id for lift in self.lifts)

    @property
    def rounds(self) -> int:
        """How often one goes round."""
        return max(lift.sets for lift in self.lifts)

    def between_s(self) -> float:
        """Seconds that one round loses by walking and by what must be set anew for every set."""
        if len(self.lifts) == 1:
            return 0.0
        ring = [*self.lifts, self.lifts[0]]
        clash = sum(_clash_s(a, b) for a, b in pairwise(ring))
        return sum(walk_s(a, b) for a, b in pairwise(ring)) + clash

    def set_starts(self) -> list[list[float]]:
        """When each set begins, s from the block's beginning, by lift; every muscle gets its rest."""
        starts: list[list[float]] = [[] for _ in self.lifts]
        now, free = 0.0, [0.0] * len(self.lifts)
        step = self.between_s() / len(self.lifts)
        for turn in range(self.rounds):
            for k, lift in enumerate(self.lifts):
                if turn >= lift.sets:
                    continue
                now = max(now, free[k])
                starts[k].append(now)
                now += lift.set_s
                free[k] = now + lift.rest_s
                now += step
        return starts

    @property
    def duration_s(self) -> float:
        """From the first set's beginning to the last one's end, s."""
        return max(begun[-1] + lift.set_s for begun, lift in zip(self.set_starts(), self.lifts, strict=True))

    def move_s(self, before: Block | None) -> float:
        """Seconds to walk here from the block before, and to set everything up."""
        gone = () if before is None else before.lifts
        walked = walk_s(gone[-1], self.lifts[0]) if gone else 0.0
        return walked + sum(changes_s([*gone, *self.lifts[:k]], lift) for k, lift in enumerate(self.lifts))


def _clash_s(one: Lift, other: Lift) -> float:
    """Seconds to set again what two lifts that are done in turns want differently."""
    costs = session_rules()["change"]
    both = one.settings.keys() & other.settings.keys()
    return float(sum(costs.get(key[1], 0) for key in both if one.settings[key] != other.settings[key]))


def shared_work(one: Lift, other: Lift) -> float:
    """How hard the muscle works that both use most, 0 to 1."""
    return max((min(v, other.work.get(g, 0.0)) for g, v in one.work.items()), default=0.0)


def may_pair(one: Lift, other: Lift) -> bool:
    """Whether two lifts that nobody put together may be done in turns: other muscles, near, nothing to set for every set, and
    less time."""
    rule = session_rules()
    if one.group or other.group or abs(one.sets - other.sets) > 1 or shared_work(one, other) > rule["pair"]["shared"]:
        return False
    if walk_m(one, other) > rule["apart_m"] or _clash_s(one, other) or one.crowded or other.crowded:
        return False
    alone = Block((one,)).duration_s + Block((other,)).duration_s
    return alone - Block((one, other)).duration_s >= float(rule["pair"]["least_s"])


def possible_blocks(lifts: Sequence[Lift]) -> list[Block]:
    """Every block that lifts may stand in: groups as they were written, others alone or two in turns, either first."""
    groups: dict[str, list[Lift]] = {}
    for lift in lifts:
        if lift.group:
            groups.setdefault(lift.group, []).append(lift)
    single = [lift for lift in lifts if not lift.group]
    out = [Block(tuple(g)) for g in groups.values()] + [Block((lift,)) for lift in single]
    for a, b in combinations(single, 2):
        if may_pair(a, b):
            # The heavier one first, while nothing is tired.
            out.append(Block((a, b) if a.heaviness >= b.heaviness else (b, a)))
    return out


@dataclass(frozen=True)
class Order:
    """What a good order of two lifts is, and what the other one costs.

    Args:
        first: Number of the lift that should come first.
        then: Number of the other.
        cost: What the other order is worth, s.
        why: In words; empty where it is but as they were written.
    """

    first: int
    then: int
    cost: float
    why: str = ""


def good_order(lifts: Sequence[Lift], school: School) -> list[Order]:
    """Which lifts should come before which, by a school."""
    rule, out = session_rules(), list[Order]()
    for one in lifts:
        for other in lifts:
            gap, shared = one.heaviness - other.heaviness, shared_work(one, other)
            if gap <= 0.15 or shared < 0.5:
                continue
            warms = (
                school == "warm_first" and one.heaviness >= rule["heavy_from"] and max(other.work.values(), default=0) >= 0.9
            )
            if warms and not any(o.then == one.id and o.cost == rule["order"]["warm_late"] for o in out):
                out.append(Order(other.id, one.id, rule["order"]["warm_late"], "a light lift warms the muscle first"))
            elif not warms:
                out.append(Order(one.id, other.id, rule["order"]["heavy_late"] * gap * shared, "the heavier lift first"))
    # Where nothing speaks against it, lifts come as they were written.
    return out + [Order(one.id, then.id, rule["order"]["written"]) for one, then in pairwise(lifts)]


def place_cost(lift: Lift) -> float:
    """What a lift costs for every block before it, s."""
    rule = session_rules()["order"]
    return float(rule["each_place"] * lift.heaviness + rule["priority"] * lift.priority)


@dataclass(frozen=True)
class Session:
    """A session over time.

    Args:
        blocks: In order.
        begins_s: When each block's first set begins, s from the session's beginning.
        moves_s: Seconds of walking and setting up before each.
        cost: Seconds and what breaches of good order are worth.
        bound: No order costs less than this.
        broken: Good order that is not kept.
    """

    blocks: Sequence[Block]
    begins_s: Sequence[float]
    moves_s: Sequence[float]
    cost: float
    bound: float
    broken: Sequence[Order] = ()

    @property
    def proven(self) -> bool:
        """Whether nothing better is possible."""
        return self.cost - self.bound < 1.0

    @property
    def duration_s(self) -> float:
        """From arriving to the end of the last set, s."""
        return self.begins_s[-1] + self.blocks[-1].duration_s if self.blocks else 0.0


def session_cost(blocks: Sequence[Block], orders: Sequence[Order]) -> float:
    """What a sequence of blocks costs: its seconds, and what breaches of good order are worth."""
    place = {lift.id: k for k, block in enumerate(blocks) for lift in block.lifts}
    befores = [None, *blocks[:-1]]
    seconds = sum(b.duration_s + b.move_s(before) for b, before in zip(blocks, befores, strict=True))
    late = sum(o.cost for o in orders if place[o.first] > place[o.then])
    return float(seconds + late + sum(place_cost(lift) * place[lift.id] for block in blocks for lift in block.lifts))


def timed(blocks: Sequence[Block], orders: Sequence[Order], bound: float) -> Session:
    """A sequence of blocks laid out in time."""
    now, begins, moves = float(session_rules()["arrive_s"]), list[float](), list[float]()
    warmed = False
    before: Block | None = None
    for block in blocks:
        move = block.move_s(before)
        if not warmed and any(lift.heaviness >= session_rules()["heavy_from"] for lift in block.lifts):
            move, warmed = move + session_rules()["warm_up_s"], True
        moves.append(move)
        begins.append(now + move)
        now += move + block.duration_s
        before = block
    place = {lift.id: k for k, block in enumerate(blocks) for lift in block.lifts}
    broken = [o for o in orders if place[o.first] > place[o.then]]
    return Session(blocks, begins, moves, session_cost(blocks, orders) if blocks else 0.0, bound, broken)
