"""How like a set-up is to the prescription: parts between 0 and 1, weighed by a lens."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.equipment.base.item import KitItem
from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.lengths import BINS
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.types import Floats


def own_peak(shape: Floats, axis: int = -1) -> Floats:
    """Shapes (..., bin), or with bins on another ``axis``, scaled to their own peak; an empty shape stays zero."""
    peak = shape.max(axis=axis, keepdims=True)
    return np.asarray(shape / np.where(peak > 0, peak, 1))


def overlap(one: Floats, other: Floats) -> Floats:
    """Area in common over area in all of two resistance profiles, each to its own peak, (..., bin) to (...)."""
    return _overlap(own_peak(one), own_peak(other), -1)


def _overlap(a: Floats, b: Floats, axis: int) -> Floats:
    """``overlap`` of shapes that are scaled already, with bins on ``axis``.

    With D the area between them and S the sum of both, what is in common is (S - D) / 2 and all is (S + D) / 2.
    """
    between, both = np.abs(a - b).sum(axis=axis), a.sum(axis=axis) + b.sum(axis=axis)
    return np.asarray((both - between) / np.maximum(both + between, np.float32(1e-12)))


def covered(prescribed: Floats, swap: Floats) -> Floats:
    """Part of the prescription's loaded range that the swap loads too, (..., bin) to (...); loaded is not empty."""
    return _covered(own_peak(prescribed), own_peak(swap), -1)


def _covered(prescribed: Floats, swap: Floats, axis: int) -> Floats:
    """``covered`` of shapes that are scaled already, with bins on ``axis``."""
    least = rules("lenses")["parts"]["empty"]
    wanted = prescribed >= least
    return np.asarray((wanted & (swap >= least)).sum(axis=axis) / np.maximum(wanted.sum(axis=axis), 1))


def off_by(off: Floats) -> Floats:
    """How far loads or efforts are off, 0 or more, from how far they lie above the aim, in that unit, (...).

    Too heavy counts more than too light: it costs repetitions where too light only adds some.
    """
    return np.asarray(np.where(off > 0, rules("loading")["rounding"]["heavier_counts"] * off, -off))


def load_part(effort_ratio: Floats) -> Floats:
    """1 where the peak effort equals the prescription's, falling to 0 when it is off by a doubling, (...).

    Too heavy counts as in rounding: it costs repetitions, and soon all of them.
    """
    octaves = off_by(np.log2(np.maximum(effort_ratio, np.asarray(effort_ratio).dtype.type(1e-9))))
    return np.asarray(np.maximum(0, 1 - octaves / rules("lenses")["parts"]["load_octaves"]))


def stability(set_up: SetUp) -> float:
    """How steady the body is held, 0 to 1."""
    return stability_of(set_up.stance, set_up.pad, set_up.both_sides, {s.kind for s in set_up.sources})


def stability_of(stance: str, pad: bool, both: bool, kinds: Iterable[str]) -> float:
    """How steady the body is held in a stance by kinds of load sources, 0 to 1.

    Args:
        stance: How the body is carried.
        pad: Whether an arm pad carries the upper arm.
        both: Whether both sides are loaded.
        kinds: Kinds of load sources.
    """
    table, kinds = rules("lenses")["stability"], set(kinds)
    value = table["pad"] if pad else table[stance]
    value += 0.0 if both else table["one_arm"]
    value += sum(table["added"].get(kind, 0.0) for kind in kinds)
    value = max([value, *(table["at_least"][kind] for kind in kinds if kind in table["at_least"])])
    return float(np.clip(value, 0.0, 1.0))


def setup_cost(source: Setting | KitItem, contact: Contact) -> float:
    """Part of a score that a kind of kit costs in setting up, 0 to 1: more where a line needs a cuff.

    Args:
        source: Kit item or setting.
        contact: Where on the body it bears.
    """
    costs = rules("reach")["setup_cost"]
    return float(costs.get(source.source_kind, 0.0)) + (float(costs["cuff"]) if source.line and contact != "hand" else 0.0)


@dataclass(frozen=True)
class Measured:
    """What the parts of a match are read off, for a batch of set-ups.

    Args:
        scaled: Resistance profiles to their own peak, (..., bin), or with bins second last.
        ratio: Peak effort over the prescription's, (...).
        stability: How steady the body is held, 0 to 1, (...).
        step_up: The next amount over this one, 1 at the last, (...).
        most: The greatest amount over this one, (...).
        setup_cost: Part of a score that setting up costs, (...).
        kind: How much they are the prescribed kind of lift, 0 to 1, (...).
    """

    scaled: Floats
    ratio: Floats
    stability: Floats
    step_up: Floats
    most: Floats
    setup_cost: Floats
    kind: Floats


@dataclass(frozen=True)
class Wanted:
    """What the prescription is like, for the parts that compare with it.

    Args:
        scaled: Its resistance profile to its own peak, broadcast against the set-ups'.
        stability: How steady it is, (...) or one value.
        group: Id of the target.
    """

    scaled: Floats
    stability: Floats | float
    group: str


def parts_of(m: Measured, wanted: Wanted, names: Iterable[str], axis: int = -1) -> dict[str, Floats]:
    """Parts of the match by name, 0 to 1, (...).

    Args:
        m: What is scored; its shapes have their bins on ``axis``.
        wanted: The prescription.
        names: Which parts; ``load`` and ``kind`` are always among them.
        axis: -1 or -2: many set-ups are compared faster with bins before them.
    """
    rule = rules("lenses")["parts"]

    def reached(first: float, last: float) -> Floats:
        # Only what any movement can reach of this muscle's length counts.
        low, high = rules("reach")["span"].get(wanted.group, (0, BINS))
        bins = m.scaled.shape[axis]
        start = int(np.floor((low + first * (high - low)) / BINS * bins))
        end = max(int(np.ceil((low + last * (high - low)) / BINS * bins)), start + 1)
        inside = m.scaled[..., start:end] if axis == -1 else m.scaled[..., start:end, :]
        return np.asarray(inside.mean(axis=axis))

    makers: dict[str, Callable[[], Floats]] = {
        "profile": lambda: _overlap(wanted.scaled, m.scaled, axis),
        "range": lambda: _covered(wanted.scaled, m.scaled, axis),
        "load": lambda: load_part(m.ratio),
        "kind": lambda: m.kind,
        "stability": lambda: np.minimum(1, 1 - (wanted.stability - m.stability)),
        "even": lambda: reached(0.0, 1.0),
        "lengthened": lambda: reached(0.0, 1 / 3),
        "support": lambda: m.stability,
        "reserve": lambda: np.clip((m.most - 1) / rule["reserve_full"], 0, 1),
        "steps": lambda: np.clip(1 - (m.step_up - 1) / rule["coarsest_step"], 0, 1),
        "setup": lambda: np.clip(1 - m.setup_cost / rule["most_setup_cost"], 0, 1),
    }
    return {name: makers[name]() for name in dict.fromkeys([*names, "load", "kind"])}


def carried(target: Floats) -> Floats:
    """What the match is multiplied by where the target carries so much of its share in the prescription, (...)."""
    return np.asarray(target ** rules("lenses")["parts"]["target_power"])


def match_under(parts: Mapping[str, float], lens: Lens) -> float:
    """The match under another lens of a set-up whose parts are all known, 0 to 100."""
    arrays = {k: np.array(v) for k, v in parts.items()}
    return float(weigh(arrays, arrays["target"], lens))


def weigh(parts: dict[str, Floats], target: Floats, lens: Lens) -> Floats:
    """The match, 0 to 100: 100 x root of target x kind x reach x sum of weight x part, (...).

    Reach is 1 while the load can be brought near the prescribed effort and falls to a tenth with the load part's lower
    half: a set-up that cannot be loaded is no equivalent, however like its shape. How much another kind of lift costs is the
    lens's own.
    """
    weighed = sum(weight * parts[name] for name, weight in lens.weights.items())
    factors = factors_of(parts, lens)
    return np.asarray(100 * carried(target) * factors["kind"] * factors["load"] * weighed)


def factors_of(parts: Mapping[str, Any], lens: Lens) -> dict[str, Any]:
    """What the weighed parts are multiplied by, by part: the target's where it is known, the kind of lift's and the load's
    reach, (...) each."""
    reach = np.clip(2 * np.asarray(parts["load"]), rules("lenses")["parts"]["least_reach"], 1.0)
    out = {"kind": 1 - lens.kind_counts * (1 - np.asarray(parts["kind"])), "load": reach}
    return out | {"target": carried(np.asarray(parts["target"]))} if "target" in parts else out
