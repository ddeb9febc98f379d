"""What to do beyond the set-up itself: when kit is too light or too heavy, when a part of the range stays empty, when the set
is over, and who would choose otherwise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from oddswap.equipment.base.law import Attachment
from oddswap.equipment.cable import CablePull
from oddswap.equivalence.candidates import Swap, evaluate_set_up, movement_name
from oddswap.equivalence.conversion import Conversion, restated_reps, slower_by
from oddswap.equivalence.lenses import Lens, lenses
from oddswap.equivalence.muscle_work import helpers, relative_effort_curve, relative_efforts
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import match_under, own_peak
from oddswap.equivalence.set_effort import effort_under, joint_of
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.arm import unit
from oddswap.mechanics.types import Floats

IN_LINE = 15.0
"""Degrees between forearm and cable up to which they look like one line."""
HOLDING, STILL = 1.2, 0.02
"""What a muscle that only holds can give over one that lifts slowly (own estimate: lowering strength is put at about 1.4 times
lifting strength, common practice), and the part of its length range within which it holds."""
CLOSE = 1.5
"""How many times as much as the target another muscle must be asked for to be told from it; own choice."""
LEAST_EMPTY, FILLED = 4, 0.5
"""Bins of a muscle's length that must be empty before another lift is named for them, and the part of them it must load; own
choice."""
OFF = 0.10
"""Part by which effort may be off before a remedy is worth a word."""


@dataclass(frozen=True)
class Remedy:
    """What would bring the load nearer, computed.

    Args:
        text: What to do, and what it changes.
        effort_ratio: Peak effort over the prescription's then; None where it changes the set and not the effort.
        set_up: The changed set-up; None where it is the same.
    """

    text: str
    effort_ratio: float | None = None
    set_up: SetUp | None = None


@dataclass(frozen=True)
class Dissent:
    """A lens that would put another swap first.

    Args:
        lens: The lens.
        key: Index of its choice in the list.
        text: Its choice and why.
    """

    lens: Lens
    key: int
    text: str


def remedies(prescription: PrescriptionProfile, place: Place, lens: Lens, swap: Swap, conversion: Conversion) -> list[Remedy]:
    """How to bring a load that is too light or too heavy nearer to the prescription; empty where it is near enough."""
    ratio = swap.load.effort_ratio
    if abs(ratio - 1) < OFF:
        return []
    out = (
        [*_levers(prescription, place, lens, swap, conversion), *_slower(prescription, swap)]
        if ratio < 1
        else _levers(prescription, place, lens, swap, conversion)
    )
    return sorted(out, key=lambda r: 9.0 if r.effort_ratio is None else abs(np.log(r.effort_ratio)))[:4]


def _levers(prescription: PrescriptionProfile, place: Place, lens: Lens, swap: Swap, conversion: Conversion) -> list[Remedy]:
    """Other straps, hands and handles, each tried with all loads there are; what comes nearer is kept."""
    if len(swap.set_up.sources) != 1:
        return []
    source: Any = swap.set_up.sources[0]
    ratio = swap.load.effort_ratio
    tries: list[tuple[str, Any]] = []
    if isinstance(source, CablePull):
        if ratio > 1 and source.use == "one":
            for along in (0.6, 0.3):
                strap = Attachment("forearm", along)
                tries.append(
                    (f"a strap on the forearm, {along:.0%} of the way from elbow to wrist", replace(source, attachment=strap))
                )
            tries.append(("both hands on one bar, which halves the pull on each", replace(source, use="bar", right_cm=0.0)))
        if ratio < 1 and source.use in ("bar", "rope"):
            tries.append(("one arm alone, which then has the whole pull", replace(source, use="one")))
    if source.kind == "dumbbell" and ratio > 1:
        tries.append(
            ("the dumbbell held in the crook of the elbow, or cuffed there", replace(source, held=Attachment("forearm", 0.3)))
        )
    out = []
    for words, changed in tries:
        try:
            other = evaluate_set_up(prescription, place, lens, replace(swap.set_up, sources=(changed,)), conversion)
        except DomainError:
            continue
        now = other.load.effort_ratio
        if abs(np.log(now)) < abs(np.log(ratio)) - 0.02:
            amount = other.set_up.sources[0].amount_words(other.load.amount)
            out.append(
                Remedy(f"{words[0].upper()}{words[1:]}: {amount} gives {now:.0%} of the prescribed effort.", now, other.set_up)
            )
    return out


def _slower(prescription: PrescriptionProfile, swap: Swap) -> list[Remedy]:
    """A slower lowering, and the lift second in the session: what they do to the reps."""
    rule, load, line = rules("loading")["slow"], swap.load, prescription.line
    reps = max(1, round(load.reps_high / slower_by()))
    tired = restated_reps(line.reps_high, line.rir, load.effort_ratio / (1 - rule["tired"]))
    seconds = f"Lower over {rule['slow_lower_s']:g} s instead of {rule['lower_s']:g} s"
    later = f"Do it after another lift for the same muscle: about {rule['tired']:.0%} less is left"
    return [
        Remedy(f"{seconds}: {reps} reps then take the time of {load.reps_high}."),
        Remedy(f"{later}, so {tired} reps instead of {load.reps_high}."),
    ]


def dissents(swaps: Sequence[Swap], lens: Lens) -> list[Dissent]:
    """For every other lens whose first choice differs: which, and what speaks for it."""
    out = []
    for other in lenses().values():
        if other.id == lens.id or not swaps:
            continue
        ranked = sorted(range(len(swaps)), key=lambda i: -match_under(swaps[i].parts, other))
        best, first = ranked[0], swaps[0]
        if best == 0:
            continue
        chosen = swaps[best]
        gains = {k: w * (chosen.parts[k] - first.parts[k]) for k, w in other.weights.items()}
        part = max(gains, key=lambda k: gains[k])
        words = rules("lenses")["words"][part]
        kit = " + ".join(s.short() for s in chosen.set_up.sources) or "bodyweight"
        text = f"{movement_name(chosen)}, {kit}: {words} {chosen.parts[part]:.0%}, here {first.parts[part]:.0%}."
        out.append(Dissent(other, best, text))
    return out


def describe_limit(prescription: PrescriptionProfile, swap: Swap) -> tuple[str, bool]:
    """What limits the set, in words, and whether that is the target or a part of it, as far as can be told.

    How muscles share a load is known roughly: one that is asked for little more than the target is only named as close. A
    muscle whose length stays as it is only holds, and can give more than one that lifts.
    """
    p, members = swap.profile, prescription.group.weights > 0
    still = {g.name for g in p.groups if np.ptp(p.motion.target_length(g)) < STILL}
    effort_per_unit = {name: float(e.max()) / (HOLDING if name in still else 1.0) for name, e in relative_efforts(p).items()}
    parts = {g.name for g in p.groups if g.region == prescription.group.region and ((g.weights > 0) & members).any()}
    own = max(
        [float(p.activation(prescription.group.id).max()), *(effort_per_unit[name] for name in parts & effort_per_unit.keys())]
    )
    others = {name: e for name, e in effort_per_unit.items() if name not in parts}
    # Fingers are held against the joint as a whole, as where loads are held back, and not against one muscle's part in it.
    asked = effort_under(p.set_up, p.motion, p.moment, p.pushes).moving
    joint = joint_of(p.motion, prescription.group)
    if {"grip", joint} <= asked.keys():
        others["grip"] = own * asked["grip"] / max(asked[joint], 1e-9)
    first = max(others, key=lambda name: others[name], default="")
    if not first or others[first] <= own:
        return f"What limits the set: the {prescription.group.name}, as it should be.", True
    if others[first] <= CLOSE * own:
        return f"What limits the set: the {prescription.group.name} as far as can be told, with the {first} close behind.", True
    return f"What limits the set: the {first}, before the {prescription.group.name}.", False


def muscle_changes(prescription: PrescriptionProfile, swap: Swap) -> tuple[list[str], list[str]]:
    """Muscles that the swap works and the prescription does not, and those that it no longer works; by name."""
    before = {h.group.name: h.share for h in helpers(prescription.profile, 1)}
    after = {h.group.name: h.share for h in helpers(swap.profile, 1)}
    telling = float(rules("lenses")["parts"]["telling_share"])
    won = [n for n, s in after.items() if s - before.get(n, 0.0) >= telling]
    lost = [n for n, s in before.items() if s - after.get(n, 0.0) >= telling]
    return won, lost


def after_failure(swap: Swap) -> str:
    """Whether partial repetitions at the lengthened end make sense once the full range fails: pulls yes, presses no.

    Read off the effort curve: where the shortened end is the hardest part, the lengthened end still moves. In a pull it always
    does, since the arms hang in the line of pull there (common practice, no source).
    """
    partials = "It fails at the shortened end: after that, partial repetitions from the lengthened end still load the muscle."
    if movement(swap.set_up.movement).led == "pull":
        return partials
    curve = relative_effort_curve(swap.profile)
    third = max(1, len(curve) // 3)
    long, short = float(curve[:third].max()), float(curve[-third:].max())
    if short > 1.1 * long:
        return partials
    if long > 1.1 * short:
        return "It fails at the lengthened end already: partial repetitions add nothing; keep a way out."
    return ""


def completes(prescription: PrescriptionProfile, swaps: Sequence[Swap], index: int) -> tuple[int, float] | None:
    """The swap of the list that best fills what another leaves empty of the prescribed range, and how much of it.

    Returns:
        Its index, and the part of the empty bins that it loads; None where nothing is empty or nothing fills it.
    """
    least = float(rules("lenses")["parts"]["empty"])
    target = prescription.line.target

    def shape(s: Swap) -> Floats:
        return own_peak(s.profile.resistance_profile[s.profile.row(target)])

    empty = (own_peak(prescription.resistance_profile) >= least) & (shape(swaps[index]) < least)
    if empty.sum() < LEAST_EMPTY:
        return None
    fills = [float((shape(s)[empty] >= least).mean()) if i != index else 0.0 for i, s in enumerate(swaps)]
    best = int(np.argmax(fills))
    return (best, fills[best]) if fills[best] >= FILLED else None


def to_see(prescription: PrescriptionProfile, swap: Swap) -> list[str]:
    """Checks that a client can see: forearm in line with the cable, cable square to the limb, grips at mid-chest."""
    p, motion = swap.profile, swap.profile.motion
    out = []
    hand = [push for push in p.pushes if push.contact == "hand"]
    lines = [s for s in swap.set_up.sources if s.kind in ("cable", "band")]
    word = "band" if lines and lines[0].kind == "band" else "cable"
    if lines and hand:
        pull = unit(hand[0].force)
        fore = unit(motion.arm.wrist - motion.arm.elbow)
        off = np.degrees(np.arccos(np.clip(np.abs((pull * fore).sum(axis=-1)), 0.0, 1.0)))
        if off.max() < IN_LINE:
            out.append(f"Forearm and {word} stay in one straight line, within {off.max():.0f}°.")
        limb = unit(hand[0].point - motion.joints[motion.movement.hinge])
        square = np.abs((pull * limb).sum(axis=-1))
        at = int(square.argmin())
        if square[at] < 0.1 and 0 < at < len(square) - 1:
            reading = float(motion.movement.reading(motion.coords)[at])
            words = motion.movement.describe_reading(reading)
            out.append(f"The {word} is square to the limb at {words}.")
    if any(s.kind == "machine" for s in swap.set_up.sources) and motion.movement.id in ("press", "row", "fly"):
        out.append("Set the seat so that the grips are level with mid-chest.")
    return out
