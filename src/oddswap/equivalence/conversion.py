"""Loads: equal effort at the hardest point, rounded to what exists, reps restated."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from oddswap.equivalence.loads import LOADS_NOTHING, beside, equal_effort, peak_effort, round_to_existing
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import off_by
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.types import Floats

LAWS = ("epley", "brzycki")
"""Laws of what can be lifted how often."""


def slower_by() -> float:
    """Times as long that a repetition lasts with a slow lowering."""
    rule = rules("loading")["slow"]
    return float((rule["lift_s"] + rule["slow_lower_s"]) / (rule["lift_s"] + rule["lower_s"]))


def one_repetition_maximum(load: float, to_failure: float, law: str = "epley") -> float:
    """What can be lifted once, from a load and its repetitions to failure.

    Epley (1985): load (1 + n / 30). Brzycki (1993): 36 load / (37 - n). Both from memory.
    """
    slope, top = rules("loading")["repetitions"]["slope"], rules("loading")["repetitions"]["top"]
    if law == "epley":
        return float(load * (1 + to_failure / slope))
    return float((top - 1) * load / max(top - to_failure, 1e-3))


def repetitions_at(load: float, once: float, law: str = "epley") -> float:
    """Repetitions to failure of a load, kg, from what can be lifted once, kg: the law turned round."""
    slope, top = rules("loading")["repetitions"]["slope"], rules("loading")["repetitions"]["top"]
    return float(slope * (once / load - 1)) if law == "epley" else float(top - (top - 1) * load / once)


def restated_reps(reps: int, rir: int, effort_ratio: float, law: str = "epley") -> int:
    """Reps at the same reserve when the effort of one rep is ``effort_ratio`` times the prescribed."""
    once = one_repetition_maximum(1.0, reps + rir, law)
    most = int(rules("loading")["repetitions"]["uncounted"])
    return min(most, max(0, round(repetitions_at(max(effort_ratio, 1e-6), once, law) - rir)))


@dataclass(frozen=True)
class Learned:
    """What a client's log says of the loads computed for a lift.

    Args:
        factor: What the client moves at the same effort over what is computed.
        sets: From how many logged sets.
        spread: Standard deviation of the factor's logarithm, where it was weighed against what was computed already; None where
            it is what somebody wrote.
    """

    factor: float = 1.0
    sets: int = 0
    spread: float | None = None

    @property
    def trust(self) -> float:
        """How much the log counts against the computation, 0 to 1: as much as it once there are ``trust`` sets."""
        return self.sets / (self.sets + float(rules("loading")["learned"]["trust"]))

    @property
    def applied(self) -> float:
        """The factor on the load that is applied, 1 without a log: few sets move the load little."""
        return self.factor if self.spread is not None else 1.0 + (self.factor - 1.0) * self.trust

    @property
    def doubt(self) -> float:
        """Part of a first conversion's doubt that is left, 0 to 1."""
        if self.spread is None:
            return float(np.sqrt(1.0 - self.trust))
        return min(1.0, FOUR_OF_FIVE * self.spread / float(rules("loading")["range"]["factor"]))


FOUR_OF_FIVE = 1.28
"""Standard deviations either way that four of five values lie within (normal distribution)."""


UNLOGGED = Learned()
"""No log yet."""


def lift_of(set_up: SetUp) -> str:
    """Names a set-up's lift for the log."""
    return lift_named(set_up.movement, "+".join(s.kind for s in set_up.sources) or "body")


def lift_named(movement: str, kit: str) -> str:
    """Names a lift for the log: the movement and the kinds of its load sources, joined by +; ``body`` for the body alone."""
    return f"{movement}:{kit}"


@dataclass(frozen=True)
class Conversion:
    """How loads are converted.

    Args:
        equivalence: By which of ``hardest``, ``mean`` and ``lengthened``; None to keep the amount.
        law: By which repetitions are restated.
        learned: By ``lift_of``, what this client's log says.
        items: By id of a kit item of the place, what all logs say of it.
    """

    equivalence: str | None = "hardest"
    law: str = "epley"
    learned: Mapping[str, Learned] = field(default_factory=dict)
    items: Mapping[str, Learned] = field(default_factory=dict)

    def keeping(self) -> Conversion:
        """With the amount kept."""
        return replace(self, equivalence=None)

    def equivalence_of(self, levels: Mapping[str, float]) -> str | None:
        """By which of the ``levels`` there are; None to keep the amount.

        Raises:
            DomainError: For one that does not exist.
        """
        named = self.equivalence
        if named is not None and named not in levels:
            raise DomainError("equivalence", named, f"loads are equal by {', '.join(levels)}", "Pick one of these")
        return named

    def reps_at(self, reps: tuple[int, int, int], ratio: float) -> tuple[int, int]:
        """Fewest and most repetitions at an effort over the prescription's.

        Args:
            reps: Prescribed fewest and most, and reserve.
            ratio: Peak effort over the prescription's.
        """
        low, high, rir = reps
        return restated_reps(low, rir, ratio, self.law), restated_reps(high, rir, ratio, self.law)

    def learned_of(self, prescribed: SetUp, set_up: SetUp) -> Learned:
        """What the log says of a set-up against the prescription, whose own loads it may correct too."""
        here, there = (self.learned.get(lift_of(s), UNLOGGED) for s in (set_up, prescribed))
        kit = [self._kit(s) for s in (set_up, prescribed)]
        factor = here.applied * kit[0].applied / (there.applied * kit[1].applied)
        spreads = [x.spread for x in (here, kit[0]) if x.spread is not None]
        return Learned(factor, here.sets, float(np.hypot.reduce(spreads)) if spreads else None)

    def _kit(self, set_up: SetUp) -> Learned:
        """What the logs say of the items that a set-up is loaded by, together."""
        known = [self.items[s.item.id] for s in set_up.sources if s.item is not None and s.item.id in self.items]
        if not known:
            return UNLOGGED
        spread = float(np.hypot.reduce([x.spread or 0.0 for x in known]))
        return Learned(float(np.prod([x.factor for x in known])), 0, spread)


PLAIN, KEPT = Conversion(), Conversion(None)
"""By the hardest point, and with the amount kept; repetitions restated by Epley's law."""


@dataclass(frozen=True)
class Drop:
    """A step of a drop set.

    Args:
        amount: What to take, an amount that exists.
        part: Effort over that of the step before.
        coarse: Whether the step is so large that reps rise instead of holding.
    """

    amount: float
    part: float
    coarse: bool


@dataclass(frozen=True)
class Load:
    """A converted load.

    Args:
        amount: What to take, an amount that exists.
        exact: Amount of equal effort before rounding; infinite when out of reach.
        low: Lower end of the conversion's uncertainty.
        high: Its upper end.
        first_time: What to take the first time, an amount that exists.
        first_time_rir: Repetitions to leave in reserve that time.
        effort_ratio: Peak effort over the prescription's, at ``amount``.
        reps_low: Restated fewest reps.
        reps_high: Restated most reps.
        step_down: Effort ratio of the next lower amount to this one, or None at the lightest.
        step_up: Effort ratio of the next higher amount to this one, or None at the heaviest.
        equivalents: By equivalence (``hardest``, ``mean``, ``lengthened``), the exact amount; infinite where it cannot be.
        drops: A drop set's amounts after this one.
        learned: What the client's log says, and by how much it corrected the amount.
        known: Whether what the kit pulls with follows from figures that hold; else ``low`` is half and ``high`` double.
    """

    amount: float
    exact: float
    low: float
    high: float
    first_time: float
    first_time_rir: int
    effort_ratio: float
    reps_low: int
    reps_high: int
    step_down: float | None
    step_up: float | None
    equivalents: dict[str, float] = field(default_factory=dict)
    drops: Sequence[Drop] = ()
    learned: Learned = UNLOGGED
    known: bool = True

    @property
    def reps_sensible(self) -> bool:
        """Whether the restated reps are worth doing."""
        law = rules("loading")["repetitions"]
        return bool(self.reps_low >= law["least"] and self.reps_high <= law["most"])


def convert(
    own: Floats,
    per_unit: Floats,
    levels: Mapping[str, float],
    weights: Mapping[str, Floats],
    amount: float | None,
    existing: Floats,
    reps: tuple[int, int, int],
    conversion: Conversion = PLAIN,
    learned: Learned = UNLOGGED,
    known: bool = True,
) -> Load:
    """The full conversion of one placement.

    Args:
        own: Relative effort without the source that is solved for, (pose,).
        per_unit: Relative effort per unit of amount, (pose,).
        levels: By equivalence, the prescription's relative effort.
        weights: By equivalence but ``hardest``, weights of the poses, (pose,).
        amount: The amount where it is chosen already by the hardest point, kept unless the log or another equivalence moves it;
            None to solve for it.
        existing: Amounts that exist, ascending, (amount,).
        reps: Prescribed fewest and most reps, and reserve.
        conversion: By which equivalence and law.
        learned: What the log says of this lift against the prescribed one, its ``factor`` as applied.
        known: Whether what the kit pulls with follows from figures that hold; else it may be half or double.

    Raises:
        DomainError: For an equivalence that does not exist.
    """
    equivalence = conversion.equivalence_of(levels)
    per_unit = per_unit / learned.factor  # who moves more than computed finds every unit of the load lighter
    exact = exact_amounts(own, per_unit, levels, weights)
    chosen = exact[equivalence or "hardest"]
    moved = equivalence is not None and (equivalence != "hardest" or learned.factor != 1.0)
    if amount is None or (moved and np.isfinite(chosen)):
        amount = nearest_amount(exact, equivalence or "hardest", own, per_unit, levels["hardest"], existing)
    effort: Callable[[Floats], Floats] = lambda a: peak_effort(own, per_unit, a)
    here = float(effort(np.array(amount)))
    below, above = existing[existing < amount - 1e-9], existing[existing > amount + 1e-9]
    (under, over), (low, high) = likely_span(learned.doubt, known), conversion.reps_at(reps, here / levels["hardest"])
    # Once there are logged sets it is not the first time.
    first, more = (amount, 0) if learned.sets else first_time(existing, amount, chosen, known)
    return Load(
        amount=amount,
        exact=chosen,
        low=chosen * under,
        high=chosen * over,
        first_time=first,
        first_time_rir=reps[2] + more,
        effort_ratio=here / levels["hardest"],
        reps_low=low,
        reps_high=high,
        step_down=float(effort(below[-1])) / here if len(below) else None,
        step_up=float(effort(above[0])) / here if len(above) else None,
        equivalents=exact,
        drops=drop_ladder(existing, amount, effort),
        learned=learned,
        known=known,
    )


def likely_span(doubt: float, known: bool) -> tuple[float, float]:
    """Between which parts of it an amount most likely lies.

    Args:
        doubt: How little the log says of it, 0 to 1.
        known: Whether what the kit pulls with is known; else it may be half or double.
    """
    off = rules("loading")["range"]["factor"] * doubt
    return (1 - off, 1 + off) if known else (float(2.0**-doubt), float(2.0**doubt))


def exact_amounts(
    own: Floats, per_unit: Floats, levels: Mapping[str, float], weights: Mapping[str, Floats]
) -> dict[str, float]:
    """By equivalence, the amount before rounding, in the source's unit; infinite where it cannot be; see ``convert``."""
    exact = {"hardest": float(equal_effort(own, per_unit, levels["hardest"]))}
    for name, w in weights.items():
        rise = float(w @ per_unit)
        exact[name] = max(0.0, (levels[name] - float(w @ own)) / rise) if rise > LOADS_NOTHING else np.inf
    return exact


def nearest_amount(
    exact: Mapping[str, float], equivalence: str, own: Floats, per_unit: Floats, effort: float, existing: Floats
) -> float:
    """The amount that exists nearest to the exact one: by effort at the hardest point, by itself for other equivalences."""
    wanted = exact[equivalence] if np.isfinite(exact[equivalence]) else float(existing[0])
    if equivalence == "hardest":
        return float(round_to_existing(np.array(wanted), own, per_unit, effort, existing))
    near = [float(existing[i]) for i in beside(np.array(wanted), existing)]
    return near[int(np.argmin(off_by(np.array(near) - wanted)))]


def first_time(existing: Floats, amount: float, exact: float, known: bool = True) -> tuple[float, int]:
    """What to take the first time, and how many repetitions more to leave in reserve.

    Args:
        existing: Amounts that exist, ascending, (amount,).
        amount: The converted amount.
        exact: Before rounding.
        known: Whether what the kit pulls with is known.
    """
    margin = rules("loading")["first_time"]
    factor, coarse = (margin["factor"], margin["coarse"]) if known else (margin["unmeasured"], 0.0)
    lighter = existing[existing <= factor * min(exact, amount) + 1e-9]
    if len(lighter) and lighter[-1] >= coarse * amount:
        return float(lighter[-1]), 0
    return amount, int(margin["extra_reserve"])


def drop_ladder(existing: Floats, amount: float, relative_effort: Callable[[Floats], Floats]) -> list[Drop]:
    """A drop set's amounts: each about a fifth less effort than the one before, as far as steps allow.

    Args:
        existing: Amounts that exist, ascending, (amount,).
        amount: Where it starts.
        relative_effort: Peak effort at amounts, (...).
    """
    rule, out, at = rules("loading")["drop"], [], amount
    for _ in range(rule["steps"]):
        lower = existing[existing < at - 1e-9]
        if not len(lower) or not amount:
            break
        parts = relative_effort(lower) / relative_effort(np.array(at))
        k = int(np.abs(parts - rule["part"]).argmin())
        out.append(Drop(float(lower[k]), float(parts[k]), bool(parts[k] < rule["coarse"])))
        at = float(lower[k])
    return out
