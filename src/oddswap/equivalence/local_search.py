"""Where exactly: rows of the index placed finely, under all hard limits, a step of every choice at a time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equivalence.candidates import Candidate
from oddswap.equivalence.evaluate import Question, asked_at, evaluate
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.plain import plain_settings, roughness
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.variants import VariantMechanics
from oddswap.mechanics.types import Floats

LEVELS = 4
"""How often steps shrink."""
FIRST_STEP = 0.5
"""The first step, part of the grid's."""
SHRINK = 0.6
"""What a step that helped nowhere shrinks by."""
MOST_STEPS = 9
"""Steps of a climb."""
FEW_STEPS = 6
"""The same from a set-up that is the best of its kind already, but for the item it is on."""
HALVED = 3
"""Steps after which the worse half of those that climb is let go."""
ASIDE = 0.4
"""Step, part of the grid's, from a placement that breaks a limit to those that may not."""
LITTLE = 0.05
"""Points of match that a step must add."""


@dataclass
class SearchPoint:
    """A set-up on its way up.

    Args:
        candidate: Where it is.
        group: Which group it is of.
        level: How often its steps have shrunk.
    """

    candidate: Candidate
    group: int
    level: int = 0

    def around(self) -> Placements | None:
        """A step either way of each choice."""
        sources = self.candidate.set_up.sources
        return sources[0].nearby(FIRST_STEP * SHRINK**self.level) if sources else None


@dataclass(frozen=True)
class LocalSearch:
    """What placements are evaluated by, and how they are bettered.

    Args:
        prescription: What they are held against.
        lens: How parts are weighed.
        farthest: How far off the room allows a line to reach, m.
        factor: What the client moves at the same effort over what is computed here.
        strict: See ``Question``.
        rejected: Counts what limits are broken, by their words.
    """

    prescription: PrescriptionProfile
    lens: Lens
    farthest: float = np.inf
    factor: float = 1.0
    strict: bool = False
    rejected: dict[str, int] = field(default_factory=dict)
    _asked: dict[object, Question] = field(default_factory=dict, repr=False)

    def ask(self, mechanics: VariantMechanics, amounts: Floats, rest: Sequence[Setting] = ()) -> Question:
        """The question that placements on a variant answer."""
        # Told apart by what they hold, which they keep: a climb asks the same hundreds of times.
        like = id(mechanics), id(amounts), *map(id, rest)
        found = self._asked.get(like)
        if found is None:
            found = Question(
                mechanics, self.prescription, self.lens, amounts, tuple(rest), factor=self.factor, farthest=self.farthest,
                strict=self.strict,
            )  # fmt: skip
            self._asked[like] = found
        return found

    def placed_anew(self, candidate: Candidate, asked: float) -> Candidate | None:
        """A set-up placed for what turned out to ask ``asked`` times too much, or too little, as it stands; None where it then
        breaks a limit."""
        first, *rest = candidate.set_up.sources
        # What is asked too much of is known here too, but for how an arm goes that follows its load exactly.
        known = asked_at(self.ask(candidate.mechanics, candidate.existing, rest), first) if asked > 1.0 else 1.0
        search = LocalSearch(
            self.prescription, self.lens, self.farthest, self.factor * known / asked, asked > 1.0, self.rejected
        )
        starts = search.evaluate_settings(candidate.mechanics, [first], candidate.existing, rest)
        return search.plainest(search.climb([starts], steps=FEW_STEPS)[0]) if starts else None

    def evaluate_settings(
        self,
        mechanics: VariantMechanics,
        settings: Sequence[Setting],
        amounts: Floats,
        rest: Sequence[Setting] = (),
        most: int | None = None,
    ) -> list[Candidate]:
        """Settings of one kind evaluated in full, the best first, so many at ``most``, without those that cannot be."""
        if not settings:
            return []
        batch = batch_settings(mechanics, settings)
        found = evaluate(self.ask(mechanics, amounts, rest), batch, self.rejected)
        if found is None:
            return []
        order = np.argsort(-found.match, kind="stable")[:most].tolist()
        return [
            Candidate.of(found, k, mechanics.set_up(batch.setting(k, float(found.amount[k])), *rest), mechanics, amounts)
            for k in order
            if found.match[k] > 0
        ]

    def evaluate_body(self, mechanics: VariantMechanics) -> list[Candidate]:
        """The body as its own load; empty where it hardly loads the target."""
        found = evaluate(self.ask(mechanics, np.zeros(1)), None)
        return [] if found is None else [Candidate.of(found, 0, mechanics.set_up(), mechanics, np.zeros(1))]

    def step_aside(self, mechanics: VariantMechanics, blocked: Setting, amounts: Floats) -> list[Candidate]:
        """The best of what lies one or two steps from a setting that breaks a limit; empty where that does too."""
        near = blocked.nearby(ASIDE)
        if near is None:
            return []
        around = [near.setting(i, blocked.amount) for i in range(near.count)]
        batch = Placements.concatenate([near, *(b for s in around if (b := s.nearby(ASIDE)) is not None)])
        settings = [batch.setting(i, blocked.amount) for i in range(batch.count)]
        return self.evaluate_settings(mechanics, settings, amounts, most=1)

    def plainest(self, candidate: Candidate) -> Candidate:
        """The same set-up placed as plainly as it can be without losing more match than that is worth."""
        placed = self.plainly_placed(candidate)
        return placed[0] if placed else candidate

    def plainly_placed(self, candidate: Candidate) -> list[Candidate]:
        """The same set-up at plain places near by, the one that is worth most first; empty where it stands at one."""
        sources, line = candidate.set_up.sources, self.prescription.line.set_up
        if not sources or not roughness(sources[0], line):
            return []
        found = self.evaluate_settings(candidate.mechanics, list(plain_settings(sources[0])), candidate.existing, sources[1:])
        return sorted([candidate, *found], key=lambda c: roughness(c.set_up.sources[0], line) - c.match)

    def climb(
        self,
        groups: Sequence[Sequence[Candidate]],
        progress: Callable[[float], None] = lambda part: None,
        steps: int = MOST_STEPS,
    ) -> list[Candidate]:
        """The best that the starts of every group lead to, all bettered together step by step.

        A step of every choice either way, one at a time, and shorter ones where none helps. Coarse steps of load make a ragged
        ground with many tops, so that many start; now and then the half that falls behind is let go, but for the best of each
        group.

        Args:
            groups: Starts of one variant with one use of an item each, the best first.
            progress: Told the part done, 0 to 1.
            steps: How many at most.
        """
        points = [SearchPoint(c, g) for g, starts in enumerate(groups) for c in starts]
        for step in range(1, steps + 1):
            for g in range(len(groups)):
                self.step([p for p in points if p.group == g and p.level < LEVELS])
            if step % HALVED == 0:
                points = keep_better_half(points)
            progress(step / steps)
        return [max((p.candidate for p in points if p.group == g), key=lambda c: c.match) for g in range(len(groups))]

    def step(self, points: Sequence[SearchPoint]) -> None:
        """One step of set-ups of one variant with one use of an item."""
        around = [(p, p.around()) for p in points]
        moving = [(p, batch) for p, batch in around if batch is not None]
        if not moving:
            return
        first = moving[0][0].candidate
        mechanics, amounts, rest = first.mechanics, first.existing, first.set_up.sources[1:]
        batch = Placements.concatenate([b for _, b in moving])
        floor = np.concatenate([np.full(b.count, p.candidate.match + LITTLE) for p, b in moving])
        found = evaluate(self.ask(mechanics, amounts, rest), batch, self.rejected, floor)
        end = 0
        for point, own in moving:
            start, end = end, end + own.count
            i = start if found is None else start + int(found.match[start:end].argmax())
            if found is None or found.match[i] <= point.candidate.match + LITTLE:
                point.level += 1
            else:
                set_up = mechanics.set_up(batch.setting(i, float(found.amount[i])), *rest)
                point.candidate = Candidate.of(found, i, set_up, mechanics, amounts)


def keep_better_half(points: Sequence[SearchPoint]) -> list[SearchPoint]:
    """The better half, and the best of every group."""
    order = sorted(points, key=lambda p: -p.candidate.match)
    kept = order[: -(-len(order) // 2)]
    seen = {p.group for p in kept}
    for p in order[len(kept) :]:
        if p.group not in seen:
            seen.add(p.group)
            kept.append(p)
    return kept
