"""Why a swap is what it is, in words a coach can check: where it is hardest and empty, what is gained and lost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oddswap.equivalence.candidates import Swap
from oddswap.equivalence.conversion import Load
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import own_peak, stability
from oddswap.equivalence.set_up import SetUp, is_for_arm
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.limits import lean_of
from oddswap.mechanics.types import Bools, Floats

Kind = Literal["same", "gain", "loss", "note"]
ZONES = ("lengthened", "mid", "shortened")
THIRDS = ("at the start, in the stretch,", "in the middle", "at the end, with the muscle short,")
WORKS = 0.35
"""Part of the joint that moves most that one must move to count as working."""
EDGE = 0.03
"""Part of a muscle's length range under which a loaded or empty end is not worth a word."""
LEANS = 0.01
"""Part of the usual hold against tipping beyond which leaning against a pull is worth a word."""
AGREES = 0.005
"""Part of a load up to which a log agrees with it."""
LESS = 0.97
"""Part of the prescribed effort under which it is worth a word that something else held the load back."""
TELLING = 0.10
"""Differences of mean load under this part of the peak are not worth a word."""


def load_words(set_up: SetUp) -> str:
    """All sources' amounts, for people."""
    said = " + ".join(s.amount_words(s.amount) for s in set_up.sources) or "bodyweight"
    # A weight that legs or trunk lift is held as it can be.
    return said if is_for_arm(set_up) else said.replace(", one arm", "")


@dataclass(frozen=True)
class Reason:
    """One sentence, and whether it speaks for or against the swap."""

    kind: Kind
    text: str


def learned_words(load: Load) -> str:
    """What a client's log says of a load; empty where there is none or it agrees with what was computed."""
    log = load.learned
    if not log.sets:
        return ""
    sets = f"{log.sets} logged set{'s' if log.sets > 1 else ''}"
    off = abs(log.factor - 1)
    if off < AGREES:
        return f"{sets} agree with the computed load"
    return f"{sets}: {off:.0%} {'more' if log.factor > 1 else 'less'} than computed"


END_WORDS = {
    "grip": "grip ends the set: use straps",
    "shoulder": "muscles around the shoulder end the set",
    "elbow": "muscles at the elbow end the set",
    "hip": "muscles at the hip end the set",
    "knee": "muscles at the knee end the set",
    "ankle": "calf ends the set",
    "trunk": "trunk ends the set: brace, or take support",
    "waist": "side of the waist ends the set",
    "wrist": "wrists give out: turn the palms up or inward",
}
"""What ends a set where it is not the target, by joint."""


def too_hard_words(prescription: PrescriptionProfile) -> str:
    """That a prescribed set asks more than this client is computed to give; empty where it does not."""
    joint, effort = prescription.effort.hardest
    if effort <= rules("loading")["effort"]["hard"]:
        return ""
    where = "grip" if joint == "grip" else f"muscles at the {joint}"
    load = load_words(prescription.line.set_up)
    return f"As computed, {load} asks {effort:.0%} of what this client's {where} can give: check the load first."


def zone(length: float) -> str:
    """Name of the third of a muscle's own length range, 0 longest to 1 shortest."""
    return ZONES[min(int(length * 3), 2)]


def explain(prescription: PrescriptionProfile, swap: Swap) -> list[Reason]:
    """All reasons, the weightiest first."""
    name = prescription.group.name
    shape = swap.profile.resistance_profile[swap.profile.row(prescription.line.target)]
    return [
        *_kind(prescription, swap),
        *_hardest(prescription, swap),
        *_thirds(prescription.resistance_profile, shape),
        *_range(prescription, shape, name),
        *_load(prescription, swap, name),
        *_share(swap, name),
        *_body(prescription, swap),
    ]


def _peak_words(set_up: SetUp, coords: Mapping[str, Floats], effective: Floats) -> str:
    kind = movement(set_up.movement)
    at = float(kind.reading(coords)[int(np.argmax(effective))])
    return kind.describe_reading(at)


def _hardest(prescription: PrescriptionProfile, swap: Swap) -> list[Reason]:
    ours, theirs = swap.profile, prescription.profile
    i, k = ours.row(prescription.line.target), prescription.index
    there, here = (float(p.length[r][int(np.argmax(p.effective[r]))]) for p, r in ((theirs, k), (ours, i)))
    words = _peak_words(swap.set_up, ours.motion.coords, ours.effective[i])
    if abs(there - here) < 0.04:
        return [Reason("same", f"Hardest at the same muscle length as prescribed, {words}.")]
    mechanics = "longer" if here < there else "shorter"
    before = _peak_words(prescription.line.set_up, theirs.motion.coords, theirs.effective[k])
    if before == words:
        return [
            Reason(
                "note",
                f"Hardest with the {prescription.group.name} {mechanics} than prescribed, though at the same angle: {words}.",
            )
        ]
    return [Reason("note", f"Hardest with the {prescription.group.name} {mechanics} than prescribed: {words}, not {before}.")]


def _kind(prescription: PrescriptionProfile, swap: Swap) -> list[Reason]:
    """Joints that work here and not in the prescribed lift, or there and not here."""
    before, after = prescription.lift_kind.joints(), LiftKind.of(swap.profile.motion).joints()
    most = max(before.values())
    out = []
    for joint, was in before.items():
        now = after[joint]
        if was > WORKS * most and now < WORKS / 2 * most:
            out.append(Reason("loss", f"The {joint} keeps still here: it moves in the prescribed lift."))
        elif now > WORKS * most and was < WORKS / 2 * most:
            out.append(Reason("note", f"The {joint} works as well, which it does not in the prescribed lift."))
    return out


def _thirds(prescribed: Floats, swap: Floats) -> list[Reason]:
    a, b = own_peak(prescribed), own_peak(swap)
    reached = np.flatnonzero(prescribed > 0)
    out = []
    for part, third in zip(np.array_split(reached, 3), THIRDS, strict=True):
        if not len(part):
            continue
        was, now = float(a[part].mean()), float(b[part].mean())
        if abs(now - was) >= TELLING:
            kind: Kind = "gain" if now > was else "loss"
            out.append(Reason(kind, f"{'Harder' if now > was else 'Lighter'} {third} than prescribed."))
    return out


def _range(prescription: PrescriptionProfile, swap: Floats, name: str) -> list[Reason]:
    least = rules("lenses")["parts"]["empty"]
    a, b = own_peak(prescription.resistance_profile) >= least, own_peak(swap) >= least
    out = []
    bin_part, middle = 1 / len(swap), np.flatnonzero(a).mean()

    def end(bins: Bools) -> str:
        return "in the stretch" if np.flatnonzero(bins).mean() < middle else "with the muscle short"

    if (a & ~b).sum() * bin_part >= EDGE:
        out.append(Reason("loss", f"Nothing for the {name} {end(a & ~b)}, where the prescribed lift still has load."))
    if (b & ~a).sum() * bin_part >= EDGE:
        out.append(Reason("gain", f"Loads the {name} {end(b & ~a)} too, where the prescribed lift does not."))
    return out


def _load(prescription: PrescriptionProfile, swap: Swap, name: str) -> list[Reason]:
    load = swap.load
    out = []
    if prescription.felt != 1.0 and load.known:
        out.append(Reason("note", "The prescribed machine was never measured, so how hard it is was read off its repetitions."))
    if learned_words(load):
        out.append(Reason("note", f"{learned_words(load)}."))
    elif not load.known:
        words = "This machine was never measured, so the load may be half or double: measure it, or log a set."
        out.append(Reason("note", words))
    if not load.reps_sensible:
        mechanics = "too light" if load.effort_ratio < 1 else "too heavy"
        words = load_words(swap.set_up)
        out.append(Reason("loss", f"This kit is {mechanics}: {words} gives {load.effort_ratio:.0%} of the prescribed effort."))
    elif swap.limited_by and load.effort_ratio < LESS:
        ends = END_WORDS.get(swap.limited_by, f"{swap.limited_by} sets the load")
        out.append(Reason("loss", f"The {ends}, with the {name} at {load.effort_ratio:.0%} of the prescribed effort."))
    elif abs(load.effort_ratio - 1) >= 0.03:
        mechanics = "lighter" if load.effort_ratio < 1 else "heavier"
        out.append(
            Reason(
                "note",
                f"The nearest load is a little {mechanics}: aim for {load.reps_low} to {load.reps_high} repetitions.",
            )
        )
    if load.step_up is not None and load.step_up >= 1.15:
        out.append(Reason("note", f"The next step up is {load.step_up - 1:.0%} harder: add reps before load."))
    return out


def _share(swap: Swap, name: str) -> list[Reason]:
    if swap.parts["target"] < 0.9:
        return [Reason("loss", f"Helpers take more of the load, so that less is left for the {name}.")]
    return []


def _body(prescription: PrescriptionProfile, swap: Swap) -> list[Reason]:
    out = []
    was, now = prescription.stability, stability(swap.set_up)
    if now - was >= 0.1:
        out.append(Reason("gain", "The body is held steadier."))
    elif was - now >= 0.1:
        out.append(Reason("loss", "Less support for the body: stagger the feet, brace, or hold on with the free hand."))
    if prescription.line.set_up.both_sides and not swap.set_up.both_sides:
        out.append(Reason("note", "One arm at a time: weaker side first, the stronger matches its reps."))
    return out


def cautions(swap: Swap) -> list[str]:
    """Usual cautions by rule from the movement's values and the kit."""
    out = [swap.complaint.words] if swap.complaint else []
    out += movement(swap.set_up.movement).cautions(swap.variant)
    for source in swap.set_up.sources:
        out += source.cautions()
    if lean_of(swap.profile.motion, swap.profile.pushes) > 1.0 + LEANS:
        out.append("The pull is more than staggered feet hold upright: lean against it, or hold on to something.")
    return out
