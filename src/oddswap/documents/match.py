"""A line at a place as a document: the prescription and its ranked equivalents."""

from __future__ import annotations

from typing import Literal

import numpy as np

from oddswap.coaching.advice import completes, dissents
from oddswap.coaching.explanation import cautions, explain, learned_words, load_words, too_hard_words
from oddswap.documents.base import Result
from oddswap.documents.profile import ProfileDoc, ShapeDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.documents.words import RowDoc, kit_words, plain_digits, reps_words, set_up_rows
from oddswap.equivalence.candidates import Swap, key_of, movement_name
from oddswap.equivalence.lenses import FACTORS, PARTS, Lens
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.scoring import factors_of
from oddswap.exercises import movement
from oddswap.quantities import exactly_shown, unit_shown


class ReasonDoc(Result):
    """One reason."""

    kind: Literal["same", "gain", "loss", "note"]
    text: str


class DropDoc(Result):
    """A step of a drop set."""

    words: str
    part: float
    """Effort over that of the step before."""
    coarse: bool
    """Whether the step is so large that reps rise instead of holding."""


class LoadDoc(Result):
    """The converted load in words and numbers."""

    words: str
    """What to take, with its unit."""
    first_time: str
    """What to take the first time, and how many repetitions to leave in reserve."""
    learned: str = ""
    """What the client's log of this lift did to the load; empty without one: then this is a first time."""
    amount: float
    exact: float | None
    """Amount of equal effort before rounding; none when out of reach."""
    likely: str | None
    """Range in which equal effort should lie, with its unit; none where the amount is a choice."""
    effort_ratio: float
    """Peak effort over the prescription's."""
    reps: str
    """Restated repetitions."""
    reps_sensible: bool
    """Whether the restated repetitions are worth doing."""
    equivalents: dict[str, str] = {}
    """The exact amount by each equivalence (hardest point, mean of the range, long half), with its unit."""
    drops: list[DropDoc] = []
    """A drop set's steps after this load."""


class PartDoc(Result):
    """One part of the match."""

    name: str
    title: str
    """What it is called."""
    value: float
    """0 to 1."""
    weight: float | None
    """Weight under the lens; none where it only multiplies the rest."""
    factor: float | None = None
    """What the weighed sum is multiplied by for it; none where it is weighed alone."""


class SwapDoc(Result):
    """One equivalent set-up."""

    key: str
    """Names it within this list."""
    match: float
    parts: list[PartDoc]
    title: str
    kit: str
    """Which kit and how, in a few words."""
    rows: list[RowDoc]
    """How to set it up."""
    cues: list[str]
    """What to look at."""
    load: LoadDoc
    reasons: list[ReasonDoc]
    cautions: list[str]
    set_up: SetUpDoc
    profile: ProfileDoc | None
    """Its curves; left out where only the ranking was asked for."""
    pinned: bool = False
    """Whether the coach wants it first for this client."""
    shape: ShapeDoc | None = None
    """Its resistance profile in little; none where it was kept before there were shapes."""
    asked: ShapeDoc | None = None
    """The prescription's, to hold it against."""


class PrescribedDoc(Result):
    """The prescription as computed for this client."""

    title: str
    kit: str
    load: str
    sets: int
    reps: str
    rir: int
    target: str
    target_name: str
    rows: list[RowDoc]
    cues: list[str]
    profile: ProfileDoc | None


class DissentDoc(Result):
    """A lens that would put another swap first."""

    lens: str
    lens_name: str
    swap: int
    """Its choice, as a place in the list."""
    text: str
    argument_for: str
    argument_against: str


class CompletesDoc(Result):
    """A second lift that fills what a swap leaves empty of the prescribed range."""

    swap: int
    """Place in the list."""
    part: float
    """Part of the empty range that it loads."""


class MatchDoc(Result):
    """A line at a place: the prescription and its ranked equivalents."""

    format: Literal["odd-swap/match/2"] = "odd-swap/match/2"
    line: str
    place: str
    lens: str
    lens_name: str
    lens_for: str
    lens_against: str
    prescribed: PrescribedDoc
    swaps: list[SwapDoc]
    excluded: list[str] = []
    """What was left out for the client's restricted joints, and how many variants."""
    strained: str = ""
    """What the prescribed set-up itself does to a restricted joint; empty where it does nothing to them."""
    too_hard: str = ""
    """That the prescribed set asks more than this client is computed to give, in words; empty where it does not."""
    nothing: str = ""
    """Why nothing is offered, and the ways out; empty where something is."""
    weights: dict[str, float] = {}
    """Weights of the match's parts, under the lens or the coach's own."""
    dissents: list[DissentDoc] = []
    """Lenses that would put another swap first."""
    completes: list[CompletesDoc | None] = []
    """For every swap, the other one that best fills what it leaves empty."""


def prescribed_doc(prescription: PrescriptionProfile, curves: bool) -> PrescribedDoc:
    """The prescription's side of a match."""
    line = prescription.line
    variant = line.set_up.variant()
    kind = movement(line.set_up.movement)
    return PrescribedDoc(
        title=kind.title(variant),
        kit=kit_words(line.set_up),
        load=load_words(line.set_up),
        sets=line.sets,
        reps=reps_words(line.reps_low, line.reps_high),
        rir=line.rir,
        target=line.target,
        target_name=prescription.group.name,
        rows=set_up_rows(line.set_up, variant),
        cues=kind.cues(variant),
        profile=ProfileDoc.of(line.set_up, prescription.profile, line.target) if curves else None,
    )


def swap_doc(prescription: PrescriptionProfile, swap: Swap, lens: Lens, curves: bool) -> SwapDoc:
    """One swap as a document."""
    load = swap.load
    first = swap.set_up.sources[0] if swap.set_up.sources else None
    unit = first.amount_unit if first else ""
    there = unit_shown(unit)
    finite = np.isfinite(load.exact) and first is not None

    factors = {name: round(float(v), 3) for name, v in factors_of(swap.parts, lens).items()}

    def words(amount: float) -> str:
        return load_words(swap.set_up.with_amount(amount) if first else swap.set_up)

    def digits(amount: float, many: int) -> str:
        return plain_digits(exactly_shown(amount, unit), many)

    return SwapDoc(
        key=key_of(swap.set_up),
        match=round(swap.match, 1),
        parts=[
            PartDoc(
                name=k, title=(PARTS | FACTORS).get(k, k), value=round(v, 3), weight=lens.weights.get(k), factor=factors.get(k)
            )
            for k, v in swap.parts.items()
            if k in lens.weights or k in factors
        ],
        title=movement_name(swap),
        kit=kit_words(swap.set_up),
        rows=set_up_rows(swap.set_up, swap.variant),
        cues=movement(swap.set_up.movement).cues(swap.variant),
        load=LoadDoc(
            words=words(load.amount),
            first_time=f"{words(load.first_time)}, {load.first_time_rir} in reserve",
            learned=learned_words(load),
            amount=load.amount,
            exact=round(load.exact, 2) if finite else None,
            likely=f"{digits(load.low, 2)} to {digits(load.high, 2)} {there}" if finite and unit else None,
            effort_ratio=round(load.effort_ratio, 3),
            reps=reps_words(load.reps_low, load.reps_high),
            reps_sensible=load.reps_sensible,
            equivalents={k: f"{digits(v, 3)} {there}".strip() for k, v in load.equivalents.items() if np.isfinite(v) and first},
            drops=[DropDoc(words=words(d.amount), part=round(d.part, 3), coarse=d.coarse) for d in load.drops],
        ),
        reasons=[ReasonDoc(kind=r.kind, text=r.text) for r in explain(prescription, swap)],
        cautions=cautions(swap),
        set_up=SetUpDoc.of(swap.set_up),
        profile=ProfileDoc.of(swap.set_up, swap.profile, prescription.line.target) if curves else None,
        pinned=swap.pinned,
        shape=ShapeDoc.of(swap.profile, prescription.line.target),
        asked=ShapeDoc.of(prescription.profile, prescription.line.target),
    )


def reworded(doc: SwapDoc) -> SwapDoc:
    """A swap that was kept, its set-up and load worded anew, in the units in force."""
    set_up = doc.set_up.set_up()
    load = doc.load.model_copy(update={"words": load_words(set_up)})
    return doc.model_copy(update={"kit": kit_words(set_up), "rows": set_up_rows(set_up, set_up.variant()), "load": load})


def match_doc(
    name: str,
    place: str,
    prescription: PrescriptionProfile,
    swaps: list[Swap],
    lens: Lens,
    curves: bool = True,
    excluded: dict[str, int] | None = None,
    strained: str = "",
    nothing: str = "",
) -> MatchDoc:
    """A whole match as a document."""
    return MatchDoc(
        line=name,
        place=place,
        lens=lens.id,
        lens_name=lens.name,
        lens_for=lens.argument_for,
        lens_against=lens.argument_against,
        prescribed=prescribed_doc(prescription, curves),
        swaps=[swap_doc(prescription, s, lens, curves) for s in swaps],
        excluded=[f"{what} ({n} {'way' if n == 1 else 'ways'} left out)" for what, n in (excluded or {}).items()],
        strained=strained,
        nothing=nothing,
        too_hard=too_hard_words(prescription),
        weights={k: round(v, 3) for k, v in lens.weights.items()},
        dissents=[
            DissentDoc(
                lens=d.lens.id,
                lens_name=d.lens.name,
                swap=d.key,
                text=d.text,
                argument_for=d.lens.argument_for,
                argument_against=d.lens.argument_against,
            )
            for d in dissents(swaps, lens)
        ],
        completes=[
            None
            if (found := completes(prescription, swaps, i)) is None
            else CompletesDoc(swap=found[0], part=round(found[1], 2))
            for i in range(len(swaps))
        ],
    )


class SwapsDoc(Result):
    """A program mapped to a place."""

    format: Literal["odd-swap/swaps/2"] = "odd-swap/swaps/2"
    client: str
    program: str
    place: str
    lines: list[MatchDoc]
