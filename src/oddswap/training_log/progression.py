"""Next time: what to take and how often, by rule, with its reason; never more than a stated margin."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oddswap.equivalence.conversion import one_repetition_maximum
from oddswap.mechanics.types import Floats
from oddswap.training_log.learning import Belief, expected_repetitions
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import EffortScale, LoggedSet, Target

Kind = Literal["first", "add_reps", "add_load", "hold", "back_off", "deload", "swap"]


@dataclass(frozen=True)
class Advice:
    """What to do next time.

    Args:
        kind: Which rule.
        amount: What to take, an amount that exists.
        reps: Repetitions to aim at in a set.
        reason: Why, in words.
        expected: Repetitions that are expected at the written reserve, and between which they lie four times of five.
    """

    kind: Kind
    amount: float
    reps: int
    reason: str
    expected: tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Case:
    """What advice is given from.

    Args:
        target: What is written.
        sets: The lift's sets in this set-up, in order of days.
        scale: What amounts ask.
        existing: Amounts there are, ascending, (amount,).
        strength: Believed on the day that advice is for, as ``Lesson.strength``.
        day: That day.
        started: The amount that an accepted swap says.
        hurts: Whether the last session of it was stopped by pain.
        gained_kg: Weight gained since the last session; less than nothing where it was lost.
        law: By which repetitions follow from strength.
    """

    target: Target
    sets: Sequence[LoggedSet]
    scale: EffortScale
    existing: Floats
    strength: Belief
    day: float
    started: float
    hurts: bool = False
    gained_kg: float = 0.0
    law: str = "epley"

    @property
    def sessions(self) -> list[list[LoggedSet]]:
        """Sets by day, in order."""
        days = sorted({int(s.day) for s in self.sets})
        return [sorted((s for s in self.sets if int(s.day) == d), key=lambda s: s.order) for d in days]

    @property
    def fits(self) -> float:
        """Effort over the written set's at which the middle of the written range is just reached."""
        return float(np.exp(self.strength.mean)) / one_repetition_maximum(1.0, self.target.middle + self.target.rir, self.law)


def next_time(case: Case) -> Advice:
    """Advice by the first rule that fits: pain, a first time, weeks missed, falling, too heavy, up, more repetitions."""
    sessions = case.sessions
    if case.hurts:
        return _at(
            case, _lower(case, _last(case)), "swap", case.target.high, "it hurt last time: take what spares it, or leave it"
        )
    if not sessions:
        return _first(case)
    r, last = rules("next"), sessions[-1]
    away = case.day - last[-1].day
    amount = last[0].amount
    if away >= r["missed_days"]:
        return _lighter(
            case, r["missed_part"], "back_off", f"{away:.0f} days away: begin lighter, it comes back in a session or two"
        )
    if _falls(sessions):
        return _lighter(
            case, r["deload_part"], "deload", f"strength fell {int(r['falling'])} times running: an easy session first"
        )
    return (_bodyweight(case, last) if not case.scale.loads else None) or _by_repetitions(case, sessions, amount)


def _first(case: Case) -> Advice:
    """A first time: as accepted, but no more than the strength that is known by now allows."""
    safe = _most_safe(case, case.started)
    there = case.existing[case.existing <= min(safe, case.started) + 1e-9]
    amount = float(there[-1]) if len(there) else float(case.existing[0])
    words = "a test set: nothing was logged here yet" if case.strength.sets == 0 else "first time here, by what the log knows"
    return _at(case, amount, "first", case.target.low, words)


def _by_repetitions(case: Case, sessions: Sequence[Sequence[LoggedSet]], amount: float) -> Advice:
    target, last = case.target, sessions[-1]
    reps, spare = [s.reps for s in last], _spare(last, target)
    if target.amrap:
        return _amrap(case, last, amount)
    if reps[0] < target.low and len(sessions) > 1 and sessions[-2][0].reps < target.low:
        return _lighter(case, rules("next")["back_off"], "back_off", f"under {target.low} two sessions running")
    if reps[0] < target.low:
        return _at(
            case, amount, "hold", target.low, f"{reps[0]} of {target.low} in the first set: again before anything changes"
        )
    plateau = _plateau(sessions)
    if min(reps) >= target.high and spare >= 0:
        return _up(case, amount, f"{target.high} in every set")
    if spare >= 2 and min(reps) >= target.low:
        return _up(case, amount, f"{spare + target.rir:.0f} left where {target.rir} are meant, and no set tired")
    if plateau:
        return _at(
            case, amount, "swap", target.high, f"no progress in {plateau} sessions: another lift for a while, or an easy week"
        )
    aim = min(target.high, min(reps) + 1)
    fell = reps[-1] < target.low
    if fell:
        words = f"hold: {reps[0]} in the first set, {reps[-1]} in the last; bring the last to {target.low}"
        return _at(case, amount, "hold", target.low, words)
    return _at(case, amount, "add_reps", aim, f"one more than {min(reps)} in the weakest set")


def _amrap(case: Case, last: Sequence[LoggedSet], amount: float) -> Advice:
    best = max(s.reps for s in last)
    more = 1 if case.gained_kg <= -rules("next")["gaining_kg"] else 0
    if best > case.target.high:
        return _up(case, amount, f"{best} where {case.target.high} were expected")
    words = f"match or beat {best}" + (", one more while losing weight" if more else "")
    return _at(case, amount, "add_reps", best + more, words)


def _bodyweight(case: Case, last: Sequence[LoggedSet]) -> Advice | None:
    """Where the body is the load: equal repetitions are progress while gaining, one more is wanted while losing."""
    reps, moved = min(s.reps for s in last), case.gained_kg
    if moved >= rules("next")["gaining_kg"]:
        return _at(case, last[0].amount, "hold", reps, f"{moved:+.1f} kg of bodyweight: as many as last time is progress")
    if moved <= -rules("next")["gaining_kg"]:
        return _at(case, last[0].amount, "add_reps", reps + 1, f"{moved:+.1f} kg of bodyweight: aim for one more")
    if reps >= case.target.high:
        return _at(case, last[0].amount, "swap", case.target.high, "past the range with the body alone: a harder variant")
    return _at(case, last[0].amount, "add_reps", reps + 1, f"one more than {reps} in the weakest set")


def _up(case: Case, amount: float, why: str) -> Advice:
    """The least step there is, where the strength that is known allows it; else more repetitions."""
    heavier = case.existing[case.existing > amount + 1e-9]
    target = case.target
    if not len(heavier):
        return _at(
            case, amount, "add_reps", target.high + 1, f"{why}; there is nothing heavier: repetitions, slower, or another lift"
        )
    step = float(heavier[0])
    now, then = case.scale.ratio_at(amount), case.scale.ratio_at(step)
    part = then / now - 1
    if step > _most_safe(case, amount) + 1e-9:
        limit = target.high + 2
        reps = min(limit, max(target.high, min(s.reps for s in case.sessions[-1])) + 1)
        words = f"{why}, but the next step is {part:.0%} more: {reps} repetitions first"
        return _at(case, amount, "add_reps", reps, words)
    return _at(case, step, "add_load", target.low, f"{why}: the next step, {part:.0%} more")


def _most_safe(case: Case, amount: float) -> float:
    """The heaviest amount that is advised: at it the fewest repetitions are reached nine times of ten, and it is no more than
    the stated margin heavier, unless it is the least step there is."""
    r = rules("next")
    heavier = case.existing[case.existing > amount + 1e-9]
    least = float(heavier[0]) if len(heavier) else amount
    allowed = case.scale.ratio_at(amount) * (1 + r["most_step"])
    best = 0.0
    for a in case.existing:
        ratio = case.scale.ratio_at(float(a))
        expected = expected_repetitions(case.strength, ratio, 0.0, case.law)
        safe = expected.low >= case.target.low - r["short_reps"]
        if safe and (ratio <= allowed + 1e-9 or a <= least + 1e-9):
            best = max(best, float(a))
    return best


def _lighter(case: Case, part: float, kind: Kind, why: str) -> Advice:
    """The amount there is that asks about so much of the last one's effort, at least a step less."""
    last = _last(case)
    wanted = case.scale.amount_at(part * case.scale.ratio_at(last)) if case.scale.loads else last
    lower = case.existing[case.existing < last - 1e-9]
    amount = float(lower[np.abs(lower - wanted).argmin()]) if len(lower) else last
    return _at(case, amount, kind, case.target.low if kind != "deload" else int(case.target.middle), why)


def _last(case: Case) -> float:
    return case.sessions[-1][0].amount if case.sets else case.started


def _lower(case: Case, amount: float) -> float:
    lower = case.existing[case.existing < amount - 1e-9]
    return float(lower[-1]) if len(lower) else amount


def _spare(last: Sequence[LoggedSet], target: Target) -> float:
    """Repetitions left in the hardest set beyond those meant; less than nothing where it went closer."""
    told = [s.rir for s in last if s.rir is not None]
    return float(min(told) - target.rir) if told else 0.0


def _falls(sessions: Sequence[Sequence[LoggedSet]]) -> bool:
    n = int(rules("next")["falling"])
    first = [s[0].shown for s in sessions[-n - 1 :]]
    return len(first) > n and all(b < a * 0.99 for a, b in itertools.pairwise(first))


def _plateau(sessions: Sequence[Sequence[LoggedSet]]) -> int:
    """Over how many sessions nothing has risen; 0 where something has."""
    n = int(rules("next")["plateau_sessions"])
    best = [max(s.shown for s in session) for session in sessions]
    stuck = len(best) > n and max(best[-n:]) <= max(best[:-n]) * (1 + rules("next")["plateau"])
    return n if stuck else 0


def _at(case: Case, amount: float, kind: Kind, reps: int, reason: str) -> Advice:
    expected = expected_repetitions(case.strength, case.scale.ratio_at(amount), case.target.rir, case.law)
    return Advice(kind, amount, reps, reason, (expected.expected, expected.low, expected.high))


def other_choices(case: Case, advice: Advice) -> list[Advice]:
    """What a coach may press instead: hold, a step up, back off, an easy session."""
    last, out = _last(case), []
    if case.sets and advice.kind != "hold":
        reps = min(s.reps for s in case.sessions[-1])
        out.append(_at(case, last, "hold", max(reps, 1), "as last time"))
    heavier = case.existing[case.existing > last + 1e-9]
    if len(heavier) and advice.kind != "add_load" and float(heavier[0]) <= _most_safe(case, last) + 1e-9:
        out.append(_at(case, float(heavier[0]), "add_load", case.target.low, "a step up"))
    if case.sets and advice.kind != "back_off" and _lower(case, last) < last:
        out.append(_at(case, _lower(case, last), "back_off", case.target.high, "a step back"))
    return out


def side_difference(sets: Sequence[LoggedSet]) -> float | None:
    """Repetitions that the left side is ahead of the right, on average; None where sides were never counted."""
    off = [s.left - s.right for s in sets if s.left is not None and s.right is not None]
    return float(np.mean(off)) if off else None
