"""The week's work, muscle by muscle and third by third of its length: as it is written, and as a place gives it.

A set counts as one for what its line is for. A helper counts by how hard it works beside the target, the peak of its relative
effort over the target's, at most one; in full only where it goes at least half as far over its own length as the target over
its, as what holds still beside a lift has done no set; and not at all under ``LEAST``. A muscle's sets are spread over the
thirds of its own length as its load is, so that the thirds add up to the sets.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from oddswap.equivalence.profile import Profile
from oddswap.mechanics.types import Floats

LEAST = 0.4
"""How hard a helper must work beside the target to count (own estimate: coaches count half sets from about there)."""
LOST = 0.65
"""Part of the written sets under which a muscle counts as lost somewhere (own estimate)."""
WORTH = 1.5
"""Written sets from which on a loss is worth a word (own estimate)."""
EMPTY = 0.35
"""Part of a third's written sets under which that third counts as lost (own estimate)."""


def line_work(profile: Profile, target: str, sets: float) -> dict[str, Floats]:
    """Sets by muscle group, each over the thirds of its own length, lengthened first, (third,).

    Args:
        profile: What the lift asks.
        target: Group that the line is for.
        sets: How many.
    """
    efforts = profile.relative_effort.max(axis=-1)
    most = max(float(efforts[profile.row(target)]), 1e-9)
    moves = np.ptp(profile.length, axis=-1)
    half = max(float(moves[profile.row(target)]) / 2, 1e-9)
    out: dict[str, Floats] = {}
    for row, group in enumerate(profile.groups):
        counts = 1.0 if group.id == target else min(1.0, float(efforts[row]) / most) * min(1.0, float(moves[row]) / half)
        load = np.maximum(profile.resistance_profile[row], 0.0).reshape(3, -1).sum(axis=-1)
        if counts < LEAST or load.sum() <= 1e-9:
            continue
        out[group.id] = sets * counts * load / load.sum()
    return out


def total(works: Iterable[Mapping[str, Floats]]) -> dict[str, Floats]:
    """The sum of several lines' work."""
    out: dict[str, Floats] = {}
    for work in works:
        for group, thirds in work.items():
            out[group] = out.get(group, np.zeros(3)) + thirds
    return out


@dataclass(frozen=True)
class Loss:
    """What a place leaves out of what is written for a muscle.

    Args:
        group: Muscle group.
        third: Which third of its length is lost, 0 the lengthened one; None where it is the muscle altogether.
        written: Sets written.
        left: Sets that are left.
    """

    group: str
    third: int | None
    written: float
    left: float


def losses(written: Mapping[str, Floats], given: Mapping[str, Floats], targets: Iterable[str]) -> list[Loss]:
    """What of the muscles that lines are for a place leaves out, the largest loss first."""
    out = []
    for group in dict.fromkeys(targets):
        was, now = written.get(group, np.zeros(3)), given.get(group, np.zeros(3))
        if was.sum() >= WORTH and now.sum() < LOST * was.sum():
            out.append(Loss(group, None, float(was.sum()), float(now.sum())))
            continue
        lost = [k for k in range(3) if was[k] >= WORTH and now[k] < EMPTY * was[k]]
        out += [Loss(group, k, float(was[k]), float(now[k])) for k in lost]
    return sorted(out, key=lambda loss: loss.left - loss.written)
