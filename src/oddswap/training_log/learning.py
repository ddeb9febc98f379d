"""What logged sets teach: strength, its growth, and how far kit and kinds of lift are off what is computed.

A small Bayesian update, Gaussian throughout. Of every set the logarithm of the strength it shows is

    strength(line) + growth(line) x weeks + off(family) + off(items) - fatigue x sets before + day + noise,

with the prior beliefs of ``data/log.toml``. All of it is one weighted least squares problem (Gelman et al. 2013, chapter 14,
from memory); sets far from what the rest says count less, the farther the less (Huber 1964, from memory, squared so that a slip
of the finger hardly counts). What an item is off is shared by all who use it: each client's evidence, without the prior, is a
message to the others (a product of Gaussians).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from oddswap.equivalence.conversion import FOUR_OF_FIVE
from oddswap.equivalence.rules import rules as conversion_rules
from oddswap.mechanics.types import Floats
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet, Target, repetitions_of, written_strength

TURNS = 4
"""Times that far sets are weighed anew."""
OPEN_RESERVE = 4
"""Told reserve from which on it means so many or more."""
LEAST_PRECISION = 1e-3
"""Precision of a message under which it says nothing."""


@dataclass(frozen=True)
class Belief:
    """A Gaussian belief about a logarithm: mean, standard deviation, and from how many sets."""

    mean: float
    spread: float
    sets: int = 0

    @property
    def factor(self) -> float:
        """The ratio that the mean stands for."""
        return float(np.exp(self.mean))

    def between(self, deviations: float = FOUR_OF_FIVE) -> tuple[float, float]:
        """Ratios that it lies between, by default four times of five."""
        return float(np.exp(self.mean - deviations * self.spread)), float(np.exp(self.mean + deviations * self.spread))


@dataclass(frozen=True, eq=False)
class Lesson:
    """What one client's log taught.

    Args:
        day: The day that strengths are told for.
        names: Of the unknowns.
        mean: (unknown,).
        covariance: (unknown, unknown).
        sets: By name, how many sets speak of it.
        targets: By line, what is written.
        priors: By name, mean and standard deviation before.
    """

    day: float
    names: Sequence[str]
    mean: Floats
    covariance: Floats
    sets: Mapping[str, int]
    targets: Mapping[str, Target]
    priors: Mapping[str, tuple[float, float]]
    law: str = "epley"
    residuals: Mapping[str, tuple[Floats, Floats]] = field(default_factory=dict)

    def belief(self, weights: Mapping[str, float]) -> Belief:
        """About a sum of unknowns, each times its weight; those it never met have their prior belief."""
        mean, variance, told = 0.0, 0.0, 0
        at = {name: i for i, name in enumerate(self.names)}
        known = [(at[name], w) for name, w in weights.items() if name in at]
        if known:
            rows, w = np.array([i for i, _ in known]), np.array([w for _, w in known])
            mean += float(w @ self.mean[rows])
            variance += float(w @ self.covariance[np.ix_(rows, rows)] @ w)
        for name, weight in weights.items():
            told = max(told, self.sets.get(name, 0)) if not name.startswith("strength") else told
            if name not in at:
                m, s = self.priors.get(name, prior_of(name))
                mean, variance = mean + weight * m, variance + weight**2 * s**2
        return Belief(mean, float(np.sqrt(max(variance, 0.0))), told)

    def correction(self, family: str, items: Sequence[str]) -> Belief:
        """How far a kind of lift on some items is off what is computed: over nothing where the client moves more."""
        named = {f"family {family}": 1.0} | {f"item {i}": 1.0 for i in items}
        sets = self.sets.get(f"family {family}", 0)
        found = self.belief(named)
        return Belief(found.mean, found.spread, sets)

    def strength(self, line: str, family: str, items: Sequence[str], own: bool, day: float) -> Belief:
        """Strength in a written line as it shows in a set-up on a day, as ``LoggedSet.shown`` counts it, in logarithms."""
        weeks = (day - self.day) / 7
        named = {f"strength {line}": 1.0, f"growth {line}": weeks}
        if not own:
            named |= {f"family {family}": 1.0} | {f"item {i}": 1.0 for i in items}
        found = self.belief(named)
        base = np.log(written_strength(self.targets[line], self.law)) if line in self.targets else 0.0
        return Belief(found.mean + float(base), found.spread, self.sets.get(f"strength {line}", 0))

    def messages(self) -> dict[str, tuple[float, float]]:
        """By item, what this log alone says of it: mean and precision, without any prior belief."""
        out = {}
        for i, name in enumerate(self.names):
            if not name.startswith("item "):
                continue
            m0, s0 = self.priors[name]
            precision = 1 / max(float(self.covariance[i, i]), 1e-12) - 1 / s0**2
            if precision > LEAST_PRECISION:
                mean = (float(self.mean[i]) / float(self.covariance[i, i]) - m0 / s0**2) / precision
                out[name.removeprefix("item ")] = (mean, precision)
        return out


def prior_of(name: str, known: bool = True) -> tuple[float, float]:
    """Mean and standard deviation believed of an unknown before a set is logged."""
    p, kind = rules("prior"), name.split(" ", 1)[0]
    return {
        "strength": (0.0, p["strength"]),
        "growth": (p["growth"], p["growth_spread"]),
        "family": (0.0, p["family"]),
        "item": (0.0, p["item"] if known else p["unmeasured"]),
        "fatigue": (p["fatigue"], p["fatigue_spread"]),
        "day": (0.0, rules("noise")["day"]),
    }[kind]


def pooled(messages: Sequence[Mapping[str, tuple[float, float]]]) -> dict[str, tuple[float, float]]:
    """What several logs say of items together: by item, mean and precision."""
    out: dict[str, tuple[float, float]] = {}
    for one in messages:
        for item, (mean, precision) in one.items():
            m, p = out.get(item, (0.0, 0.0))
            out[item] = ((m * p + mean * precision) / (p + precision), p + precision)
    return out


def noise_of(one: LoggedSet) -> float:
    """Standard deviation of the logarithm of the strength that a set shows."""
    n = rules("noise")
    slope = conversion_rules("loading")["repetitions"]["slope"]
    off = n["untold"] if one.rir is None else n["reserve"] * (1.0 if one.rir < OPEN_RESERVE else 1.5)
    return float(np.hypot(n["set"], off / (slope + one.to_failure)))


def learn(
    sets: Sequence[LoggedSet],
    day: float,
    others: Mapping[str, tuple[float, float]] | None = None,
) -> Lesson:
    """What a client's sets teach.

    Args:
        sets: Of one client, in any order.
        day: The day that strengths are told for.
        others: By item, mean and precision of what other clients' logs say.
    """
    window = rules("window")["days"]
    used = [s for s in sets if day - window <= s.day <= day + 1]
    law = used[0].law if used else "epley"
    names, priors, told = _unknowns(used, others or {})
    at = {name: i for i, name in enumerate(names)}
    design, shown, noise = _rows(used, at, day)
    precision0 = np.array([1 / priors[n][1] ** 2 for n in names])
    mean0 = np.array([priors[n][0] for n in names])
    mean: Floats = mean0
    covariance: Floats = np.diag(1 / precision0) if len(names) else np.zeros((0, 0))
    weight: Floats = np.ones(len(used))
    open_ended = np.array([s.rir is not None and s.rir >= OPEN_RESERVE for s in used], dtype=bool)
    for _ in range(TURNS if used else 0):
        w = weight / noise**2
        covariance = np.asarray(np.linalg.inv((design * w[:, None]).T @ design + np.diag(precision0)), dtype=float)
        mean = covariance @ (design.T @ (w * shown) + precision0 * mean0)
        off = (shown - design @ mean) / noise
        weight = np.asarray(np.minimum(1.0, (rules("noise")["outlier"] / np.maximum(np.abs(off), 1e-9)) ** 2), dtype=float)
        # Who tells of four left or more says no more than that: more strength than shown is no contradiction.
        weight[open_ended & (off < 0)] *= rules("noise")["open_weight"]
    targets = {s.line: s.written for s in used}
    return Lesson(day, names, mean, covariance, told, targets, priors, law, _residuals(used, design, shown, mean, at))


def _unknowns(
    used: Sequence[LoggedSet], others: Mapping[str, tuple[float, float]]
) -> tuple[list[str], dict[str, tuple[float, float]], dict[str, int]]:
    """Names of what is unknown, the belief before, and how many sets speak of each."""
    priors: dict[str, tuple[float, float]] = {}
    told: dict[str, int] = {}
    for s in used:
        for name in _names(s):
            told[name] = told.get(name, 0) + 1
            if name in priors:
                continue
            mean, spread = prior_of(name, s.known)
            heard = others.get(name.removeprefix("item ")) if name.startswith("item ") else None
            if heard is not None:
                precision = 1 / spread**2 + heard[1]
                mean, spread = (mean / spread**2 + heard[0] * heard[1]) / precision, float(precision**-0.5)
            priors[name] = (mean, spread)
    return list(priors), priors, told


def _names(s: LoggedSet) -> list[str]:
    kit = [] if s.own else [f"family {s.family}", *(f"item {i}" for i in s.items)]
    return [f"strength {s.line}", f"growth {s.line}", f"fatigue {s.line}", f"day {int(s.day)}", *kit]


def _rows(used: Sequence[LoggedSet], columns: Mapping[str, int], day: float) -> tuple[Floats, Floats, Floats]:
    """Design (set, unknown), shown strength over the written one's in logarithms (set,), and its noise (set,)."""
    design, shown, noise = np.zeros((len(used), len(columns))), np.zeros(len(used)), np.ones(len(used))
    for r, s in enumerate(used):
        for name in _names(s):
            kind = name.split(" ", 1)[0]
            design[r, columns[name]] = {"growth": (s.day - day) / 7, "fatigue": -float(s.order)}.get(kind, 1.0)
        shown[r] = np.log(max(s.shown, 1e-6) / written_strength(s.written, s.law))
        noise[r] = noise_of(s)
    return design, shown, noise


def _residuals(
    used: Sequence[LoggedSet], design: Floats, shown: Floats, mean: Floats, columns: Mapping[str, int]
) -> dict[str, tuple[Floats, Floats]]:
    """By item, days and what is left of shown strengths once all but the item's own part is taken out, (set,) each."""
    # A day's own ups and downs stay in: they would hide what began on a day.
    lasting = np.array([0.0 if name.startswith("day ") else 1.0 for name in columns])
    left = shown - design @ (mean * lasting) if used else np.zeros(0)
    out = {}
    for item in {i for s in used if not s.own for i in s.items}:
        rows = [r for r, s in enumerate(used) if not s.own and item in s.items]
        days = np.array([used[r].day for r in rows])
        order = np.argsort(days, kind="stable")
        out[item] = (days[order], left[rows][order] + mean[columns[f"item {item}"]])
    return out


@dataclass(frozen=True)
class Shift:
    """An item that pulls otherwise since a day: by so much, as a part of its load, over nothing where it has become lighter."""

    item: str
    day: float
    by: float
    deviations: float


def shifts(lesson: Lesson) -> list[Shift]:
    """Items whose sets before and after some day disagree by more than chance: measure them again."""
    rule, out = rules("shift"), []
    least = int(rule["least_sets"])
    for item, (days, left) in sorted(lesson.residuals.items()):
        best: Shift | None = None
        for day in np.unique(days)[1:]:
            before, after = left[days < day], left[days >= day]
            if min(len(before), len(after)) < least:
                continue
            by = float(after.mean() - before.mean())
            spread = max(float(np.sqrt((before.var() * len(before) + after.var() * len(after)) / len(left))), 0.01)
            # Sets of one day share that day: sessions are counted, not sets.
            sessions = [max(len(np.unique(days[days < day])), 1), max(len(np.unique(days[days >= day])), 1)]
            error = float(np.sqrt(sum((spread**2 + rules("noise")["day"] ** 2) / n for n in sessions)))
            if abs(by) >= rule["least"] and abs(by) >= rule["deviations"] * error:
                found = Shift(item, float(day), by, abs(by) / error)
                best = found if best is None or found.deviations > best.deviations else best
        if best is not None:
            out.append(best)
    return out


@dataclass(frozen=True)
class Repetitions:
    """Repetitions that are expected at a load and reserve, and between which they lie four times of five."""

    expected: float
    low: float
    high: float


def expected_repetitions(strength: Belief, ratio: float, reserve: float, law: str = "epley", daily: bool = True) -> Repetitions:
    """Repetitions of a first set.

    Args:
        strength: As of ``Lesson.strength``.
        ratio: Effort over the written set's at the load.
        reserve: Repetitions to be left.
        law: By which repetitions follow from strength.
        daily: Whether a single day's ups and downs are in what is expected.
    """
    n = rules("noise")
    spread = float(np.sqrt(strength.spread**2 + (n["day"] ** 2 + n["set"] ** 2 if daily else 0.0)))
    low, high = strength.mean - FOUR_OF_FIVE * spread, strength.mean + FOUR_OF_FIVE * spread
    return Repetitions(*(repetitions_of(float(np.exp(x)), ratio, reserve, law) for x in (strength.mean, low, high)))
