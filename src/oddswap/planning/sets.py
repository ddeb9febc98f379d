"""A line's sets one by one: they may differ, and a week of a block may change them all."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby

from oddswap.equivalence.conversion import one_repetition_maximum


@dataclass(frozen=True)
class PlannedSet:
    """One set as it is written.

    Args:
        low: Fewest repetitions.
        high: Most repetitions.
        rir: Repetitions in reserve.
        load_part: Its load over the line's.
        amrap: Whether as many repetitions as possible are wanted.
    """

    low: int
    high: int
    rir: int
    load_part: float = 1.0
    amrap: bool = False


@dataclass(frozen=True)
class BlockWeek:
    """What a week of a block changes of every line: sets more or fewer, its load over the line's, repetitions in reserve."""

    sets: int = 0
    load_part: float = 1.0
    rir: int | None = None

    @property
    def changes(self) -> bool:
        """Whether it is not done as written."""
        return self != BlockWeek()


AS_WRITTEN = BlockWeek()


def in_week(sets: Sequence[PlannedSet], week: BlockWeek, law: str = "epley") -> list[PlannedSet]:
    """Sets as a week has them: further ones like the last, fewer from the end, one at least.

    The repetitions stay: where a week says another reserve and nothing of the load, the load is what leaves it, by ``law``.
    """
    count = max(1, len(sets) + week.sets)
    kept = [*sets, *[sets[-1]] * max(0, count - len(sets))][:count]
    out = []
    for s in kept:
        rir, part = s.rir if week.rir is None else week.rir, week.load_part
        if part == 1.0 and rir != s.rir:
            part = one_repetition_maximum(1.0, s.low + s.rir, law) / one_repetition_maximum(1.0, s.low + rir, law)
        out.append(replace(s, load_part=s.load_part * part, rir=rir))
    return out


def week_on(starts: dt.date, weeks: int, day: dt.date) -> int | None:
    """Which week of a block a day lies in, from 0; None before it and after it."""
    number = (day - starts).days // 7
    return number if 0 <= number < weeks else None


def scheme_words(sets: Sequence[PlannedSet], loads: Sequence[str] = ()) -> str:
    """Sets in few words: ``6 at 100 kg, then 2 × 10 at 80 kg``; without ``loads`` as parts of the line's load."""
    said = loads or ["" if abs(s.load_part - 1) < 5e-3 else f"{round(100 * s.load_part)} %" for s in sets]
    each = [(_reps(s), load) for s, load in zip(sets, said, strict=True)]
    out = []
    for (reps, load), same in groupby(each):
        times = len(list(same))
        out.append(f"{f'{times} × ' if times > 1 else ''}{reps}{f' at {load}' if load else ''}")
    return ", then ".join(out) if any(load for _, load in each) else ", ".join(out)


def _reps(s: PlannedSet) -> str:
    if s.amrap:
        return f"{s.low} or more"
    return f"{s.low}" if s.low == s.high else f"{s.low}–{s.high}"
