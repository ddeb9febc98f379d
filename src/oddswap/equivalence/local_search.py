"""Where exactly: rows of the reach table placed finely, under all hard limits, a step of every choice at a time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.equipment.protocols import Placements, Setting
from oddswap.equivalence.evaluate import Aim, Scored, extra_of, listed, score
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import Way
from oddswap.mechanics.types import Floats

LEVELS, FIRST_STEP, SHRINK = 5, 0.5, 0.6
"""How often steps shrink, the first one against the grid's, and by how much."""
MOST_STEPS, HALVED = 20, 3
"""Steps of a climb, and after how many the worse half of those that climb is let go."""
ASIDE = 0.4
"""Steps, against the grid's, from a placement that breaks a limit to those that may not."""
LITTLE = 0.05
"""Points of match that a step must add."""


@dataclass(frozen=True, eq=False)
class Found:
    """A placement with its match, before its full curves are computed.

    Args:
        match: 0 to 100.
        parts: The parts of the match.
        set_up: What to do, with its load.
        way: The way it loads, every pose.
        existing: Amounts there are of its first source, ascending.
    """

    match: float
    parts: dict[str, float]
    set_up: SetUp
    way: Way
    existing: Floats

    @staticmethod
    def of(scored: Scored, i: int, set_up: SetUp, way: Way, existing: Floats) -> Found:
        """One of a scored batch."""
        return Found(float(scored.match[i]), {k: float(v[i]) for k, v in scored.parts.items()}, set_up, way, existing)


@dataclass(frozen=True)
class Placing:
    """What placements are judged by.

    Args:
        aim: The line's demand.
        by: The lens.
        refused: Counts what limits are broken.
    """

    aim: Aim
    by: Lens
    refused: dict[str, int]

    def tried(self, way: Way, settings: Sequence[Setting], amounts: Floats, extras: Sequence[Setting] = ()) -> list[Found]:
        """Settings of one kind judged in full, the best first, without those that cannot be."""
        if not settings:
            return []
        batch = listed(way, settings)
        extra = extra_of(way, self.aim.group, extras)
        scored = score(batch, way, amounts, self.aim, self.by, self.refused, extra=extra)
        if scored is None:
            return []
        return [
            Found.of(scored, k, way.set_up(batch.setting(k, float(scored.amount[k])), *extras), way, amounts)
            for k in np.argsort(-scored.match, kind="stable").tolist()
            if scored.match[k] > 0
        ]

    def aside(self, way: Way, blocked: Setting, amounts: Floats) -> list[Found]:
        """The best of what lies one or two steps from a setting that breaks a limit; empty where that does too."""
        near = blocked.nearby(ASIDE)
        if near is None:
            return []
        around = [near.setting(i, blocked.amount) for i in range(near.count)]
        batch = Placements.joined([near, *(b for s in around if (b := s.nearby(ASIDE)) is not None)])
        return self.tried(way, [batch.setting(i, blocked.amount) for i in range(batch.count)], amounts)[:1]

    def climbed(self, groups: Sequence[Sequence[Found]], progress: Callable[[float], None] = lambda part: None) -> list[Found]:
        """The best that the starts of every group lead to, all bettered together step by step.

        A step of every choice either way, one at a time, and shorter ones where none helps. Coarse steps of load make a ragged
        ground with many tops, so that many start; now and then the half that falls behind is let go, but for the best of each
        group.

        Args:
            groups: Starts of one way with one use of an item each, the best first.
            progress: Told the part done, 0 to 1.
        """
        climbers = [Climber(f, g) for g, starts in enumerate(groups) for f in starts]
        for step in range(1, MOST_STEPS + 1):
            for g in range(len(groups)):
                here = [c for c in climbers if c.group == g and c.level < LEVELS]
                self.step(here)
            if step % HALVED == 0:
                climbers = halved(climbers)
            progress(step / MOST_STEPS)
        return [max((c.found for c in climbers if c.group == g), key=lambda f: f.match) for g in range(len(groups))]

    def step(self, climbers: Sequence[Climber]) -> None:
        """One step of set-ups of one way with one use of an item."""
        around = [(c, c.around()) for c in climbers]
        moving = [(c, batch) for c, batch in around if batch is not None]
        if not moving:
            return
        first = moving[0][0].found
        way, amounts, rest = first.way, first.existing, first.set_up.sources[1:]
        batch = Placements.joined([b for _, b in moving])
        floor = min(c.found.match for c, _ in moving)
        scored = score(batch, way, amounts, self.aim, self.by, self.refused, floor, extra_of(way, self.aim.group, rest))
        end = 0
        for climber, own in moving:
            start, end = end, end + own.count
            i = start if scored is None else start + int(scored.match[start:end].argmax())
            if scored is None or scored.match[i] <= climber.found.match + LITTLE:
                climber.level += 1
            else:
                set_up = way.set_up(batch.setting(i, float(scored.amount[i])), *rest)
                climber.found = Found.of(scored, i, set_up, way, amounts)


@dataclass
class Climber:
    """A set-up on its way up.

    Args:
        found: Where it is.
        group: Which group it is of.
        level: How often its steps have shrunk.
    """

    found: Found
    group: int
    level: int = 0

    def around(self) -> Placements | None:
        """A step either way of each choice."""
        sources = self.found.set_up.sources
        return sources[0].nearby(FIRST_STEP * SHRINK**self.level) if sources else None


def halved(climbers: Sequence[Climber]) -> list[Climber]:
    """The better half, and the best of every group."""
    order = sorted(climbers, key=lambda c: -c.found.match)
    kept = order[: -(-len(order) // 2)]
    seen = {c.group for c in kept}
    for c in order[len(kept) :]:
        if c.group not in seen:
            seen.add(c.group)
            kept.append(c)
    return kept
