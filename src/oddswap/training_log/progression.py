"""Next time: what to take and how often, by rule, with its reason; never more than a stated margin."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from oddswap.equivalence.conversion import restated_reps
from oddswap.equivalence.rules import rules as conversion_rules
from oddswap.mechanics.types import Floats
from oddswap.training_log.learning import Belief, expected_repetitions
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import EffortScale, LoggedSet, Target

LOOKED_BACK = 24
"""Sessions that a plateau is looked for in; own choice."""
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
        written: What is written of the line.
        sets: The lift's sets in this set-up, in order of days.
        scale: What amounts ask.
        existing: Amounts there are, ascending, (amount,).
        strength: Believed on the day that advice is for, as ``Lesson.strength``.
        day: That day.
        started: The amount to begin with, and the repetitions to leave that time.
        hurts: Whether the last session of it was stopped by pain.
        gained_kg: Weight gained since the last session; less than nothing where it was lost.
        law: By which repetitions follow from strength.
    """

    written: Target
    sets: Sequence[LoggedSet]
    scale: EffortScale
    existing: Floats
    strength: Belief
    day: float
    started: tuple[float, int]
    hurts: bool = False
    gained_kg: float = 0.0
    law: str = "epley"

    @cached_property
    def sessions(self) -> list[list[LoggedSet]]:
        """Sets by day, in order."""
        return by_session(self.sets)

    def restated(self, amount: float) -> Target:
        """The written repetitions restated for what an amount asks, in the span of repetitions worth doing."""
        worth, t = conversion_rules("loading")["repetitions"], self.written
        ratio = max(self.scale.ratio_at(amount), 1e-6)
        low, high = (
            int(np.clip(restated_reps(n, t.rir, ratio, self.law), worth["least"], worth["most"])) for n in (t.low, t.high)
        )
        return Target(low, high, t.rir, t.amrap)

    def target_at(self, amount: float) -> Target:
        """The written repetitions; fewer are enough on an amount that lies a coarse step above the one below it."""
        t, r = self.written, rules("next")
        lower = self.existing[self.existing < amount - 1e-9]
        coarse = len(lower) > 0 and self.scale.ratio_at(amount) > self.scale.ratio_at(float(lower[-1])) * (1 + r["most_step"])
        low = max(int(r["least_reps"]), round(r["least_part"] * t.low)) if coarse else t.low
        return Target(min(low, t.low), t.high, t.rir, t.amrap)

    @property
    def target(self) -> Target:
        """The same for the amount of last time, or the one to begin with."""
        return self.target_at(_last(self))


def by_session(sets: Sequence[LoggedSet]) -> list[list[LoggedSet]]:
    """Sets by day, in order."""
    by_day: dict[int, list[LoggedSet]] = {}
    for s in sorted(sets, key=lambda s: (s.day, s.order)):
        by_day.setdefault(int(s.day), []).append(s)
    return [by_day[day] for day in sorted(by_day)]


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
    """A first time: a test set as the conversion says; where the log knows strength and kit by now, what they allow."""
    amount, reserve = case.started
    target = case.restated(amount)
    if case.strength.spread > rules("next")["sure"]:
        return _at(case, amount, "first", target.low, f"a test set: leave {reserve}")
    fitting = [float(a) for a in case.existing if _fits(case, float(a))]
    amount = min(fitting, key=lambda a: abs(np.log(case.scale.ratio_at(a)))) if fitting else amount
    return _at(case, amount, "first", _aim(case, amount), "the first time here, by what the log knows")


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
    stuck = plateau(sessions)
    if min(reps) >= target.high and spare >= 0:
        return _up(case, amount, f"{target.high} in every set")
    if spare >= 2 and min(reps) >= target.low:
        return _up(case, amount, f"{spare + target.rir:.0f} left where {target.rir} are meant, and no set tired")
    if stuck:
        return _at(
            case, amount, "swap", target.high, f"no progress in {stuck} sessions: another lift for a while, or an easy week"
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
    most = max(min(s.reps for s in case.sessions[-1]), case.target.high)
    if not len(heavier):
        return _at(case, amount, "add_reps", most + 1, f"{why}; nothing heavier is here")
    step = float(heavier[0])
    part = case.scale.ratio_at(step) / case.scale.ratio_at(amount) - 1
    if not _fits(case, step):
        return _at(case, amount, "add_reps", most + 1, f"{why}, but the next step asks {part:.0%} more: repetitions first")
    return _at(case, step, "add_load", _aim(case, step), f"{why}: the next step, {part:.0%} more")


def _fits(case: Case, amount: float) -> bool:
    """Whether an amount may be advised.

    ``least_reps`` are reached nine times of ten, ``least_part`` of the written repetitions are expected at their reserve, and
    it asks no more than the stated margin beyond last time's, or is the least step there is.
    """
    r, ratio = rules("next"), case.scale.ratio_at(amount)
    to_failure = expected_repetitions(case.strength, ratio, 0.0, case.law)
    wanted = r["least_part"] * case.written.low
    if to_failure.low < r["least_reps"] or to_failure.expected - case.written.rir < wanted:
        return False
    if not case.sets:
        return True
    last = _last(case)
    heavier = case.existing[case.existing > last + 1e-9]
    least = len(heavier) > 0 and amount <= float(heavier[0]) + 1e-9
    return bool(least or ratio <= case.scale.ratio_at(last) * (1 + r["most_step"]))


def _aim(case: Case, amount: float) -> int:
    """Repetitions to aim at on a load that is new: those that are expected, inside what is written for it."""
    expected = expected_repetitions(case.strength, case.scale.ratio_at(amount), case.written.rir, case.law).expected
    worth = conversion_rules("loading")["repetitions"]
    return int(np.clip(int(expected), worth["least"], worth["most"]))


def _lighter(case: Case, part: float, kind: Kind, why: str) -> Advice:
    """The amount there is that asks about so much of the last one's effort, at least a step less."""
    last = _last(case)
    wanted = case.scale.amount_at(part * case.scale.ratio_at(last)) if case.scale.loads else last
    lower = case.existing[case.existing < last - 1e-9]
    amount = float(lower[np.abs(lower - wanted).argmin()]) if len(lower) else last
    target = case.target_at(amount)
    return _at(case, amount, kind, target.low if kind != "deload" else int(target.middle), why)


def _last(case: Case) -> float:
    return case.sessions[-1][0].amount if case.sets else case.started[0]


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


def plateau(sessions: Sequence[Sequence[LoggedSet]]) -> int:
    """Over how many sessions nothing has risen; 0 where something has."""
    n = int(rules("next")["plateau_sessions"])
    best = [max(s.shown for s in session) for session in sessions[-LOOKED_BACK:]]
    stuck = len(best) > n and max(best[-n:]) <= max(best[:-n]) * (1 + rules("next")["plateau"])
    return n if stuck else 0


def _at(case: Case, amount: float, kind: Kind, reps: int, reason: str) -> Advice:
    expected = expected_repetitions(case.strength, case.scale.ratio_at(amount), case.written.rir, case.law)
    return Advice(kind, amount, reps, reason, (expected.expected, expected.low, expected.high))


def chosen_by(case: Case, kind: Kind, amount: float, reps: int) -> Advice:
    """What a coach chose in place of a rule."""
    return _at(case, amount, kind, reps, "chosen by your coach")


def other_choices(case: Case, advice: Advice) -> list[Advice]:
    """What a coach may press instead: hold, a step up, back off, an easy session."""
    last, out = _last(case), []
    if case.sets and advice.kind != "hold":
        reps = min(s.reps for s in case.sessions[-1])
        out.append(_at(case, last, "hold", max(reps, 1), "as last time"))
    heavier = case.existing[case.existing > last + 1e-9]
    if len(heavier) and advice.kind != "add_load" and _fits(case, float(heavier[0])):
        out.append(_at(case, float(heavier[0]), "add_load", _aim(case, float(heavier[0])), "a step up"))
    if case.sets and advice.kind != "back_off" and _lower(case, last) < last:
        out.append(_at(case, _lower(case, last), "back_off", case.target.high, "a step back"))
    return out


def side_difference(sets: Sequence[LoggedSet]) -> float | None:
    """Repetitions that the left side is ahead of the right, on average; None where sides were never counted."""
    off = [s.left - s.right for s in sets if s.left is not None and s.right is not None]
    return float(np.mean(off)) if off else None
