"""The documents that come out: profiles and ranked swaps. Numbers are rounded to what is known."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

from oddswap.coaching.advice import after_failure, completes, dissents, first_to_go, muscle_changes, remedies, to_see
from oddswap.coaching.explanation import cautions, explain, learned_words, load_words
from oddswap.coaching.library import kits_of, variants_of
from oddswap.documents.documents import SetUpDoc
from oddswap.equivalence.candidates import Swap, key_of, movement_name
from oddswap.equivalence.conversion import Conversion
from oddswap.equivalence.evaluate import Aim
from oddswap.equivalence.figure import figure
from oddswap.equivalence.lenses import PARTS, Lens
from oddswap.equivalence.muscle_work import Helper, effort_curve, gives_out_first, helpers, target_of
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.profile import Profile, bin_edges
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.tolerance import Choice, choices
from oddswap.exercises import movement
from oddswap.mechanics.motion import COORDINATES
from oddswap.mechanics.movement import Movement, Variant
from oddswap.mechanics.muscles import AXES, muscle_table
from oddswap.mechanics.types import Floats


class Result(BaseModel):
    """Common rules of results."""

    model_config = ConfigDict(use_attribute_docstrings=True)


def rounded(values: Floats, digits: int) -> Any:
    """Nested lists with at most ``digits`` decimals."""
    return (np.round(values, digits) + 0.0).tolist()


class TargetCurves(Result):
    """One muscle group over the movement."""

    name: str
    length: list[float]
    """Normalised length at every pose: 0 the longest, 1 the shortest that the joints allow."""
    effective_nm: list[float]
    """Effective resistance torque at every pose, N·m."""
    effort: list[float]
    """That torque over what all muscles can give in this direction at every pose."""
    shape_nm: list[float]
    """Load shape: mean effective torque per bin of normalised length, N·m; 0 where the movement does not go."""


class MomentArm(Result):
    """Lever of the load's total pull about the joint that matters most, as drawn."""

    hinge_m: list[list[float]]
    foot_m: list[list[float]]
    length_cm: list[float]


class Pull(Result):
    """One load source as drawn."""

    prop: dict[str, Any]
    """What it looks like."""
    ends_m: list[list[float]]
    """Far ends of its line, one per working arm; empty for weight."""
    contact: str
    """Where on the body it bears."""
    at_m: list[list[float]]
    """The point on the right side at every pose."""
    force_n: list[list[float]]
    """Force there at every pose, N, world axes x forward, y left, z up."""
    mirrored: bool
    """Whether the left side is loaded alike."""


class Slab(Result):
    """A cushion of a bench or pad, as drawn: a flat box about a line."""

    kind: str
    start_m: list[float]
    end_m: list[float]
    half_width_m: float
    thickness_m: float


class ProfileDoc(Result):
    """The computed curves of one set-up for one client."""

    format: Literal["odd-swap/profile/1"] = "odd-swap/profile/1"
    part: list[float]
    """Part of the way from the long to the short end, one entry a pose."""
    reading: list[str]
    """The moving joint's angle in words at every pose."""
    joint_angles_deg: dict[str, list[float]]
    """Joint coordinates of the regions that move: shoulder, elbow, forearm; hip, knee, ankle; trunk; girdle."""
    torques_nm: dict[str, list[float]]
    """Torque that the muscles must give, by joint and axis; the shoulder's axes are the torso's, the hip's the pelvis's."""
    targets: dict[str, TargetCurves]
    """By muscle group."""
    length_bins: list[float]
    """Edges of the bins of the load shapes."""
    muscle_lengths_cm: dict[str, list[float]]
    """Muscle-tendon length of every muscle of the table."""
    works: list[str]
    """Regions that the movement is for: arm, leg, trunk, girdle."""
    both: bool
    """Whether both sides work alike."""
    positions_m: dict[str, list[list[float]]]
    """Joints of the figure at every pose, world axes; the origin lies on the floor below the hips."""
    pulls: list[Pull]
    """Load sources with their contact forces."""
    slabs: list[Slab]
    """Cushions that carry the body."""
    moment_arm: MomentArm

    @staticmethod
    def of(set_up: SetUp, profile: Profile, only: str | None = None) -> ProfileDoc:
        """The document of a profile; with ``only`` the curves of one muscle group and what is drawn."""
        table, motion = muscle_table(), profile.motion
        kind = movement(set_up.movement)
        drawn = figure(set_up, profile)
        scale = table.stature_scale(motion.body) * 100
        regions = motion.regions if only is None else ()
        lengths = {n: motion.muscles[r].length[:, i] * scale for r in regions for i, n in enumerate(table.regions[r].names)}
        targets = {
            g.id: TargetCurves(
                name=g.name,
                length=rounded(profile.length[i], 4),
                effective_nm=rounded(profile.effective[i], 2),
                effort=rounded(profile.effort[i], 4),
                shape_nm=rounded(profile.shape[i], 2),
            )
            for i, g in enumerate(profile.groups)
            if only in (None, g.id)
        }
        return ProfileDoc(
            part=rounded(motion.part, 4),
            reading=[kind.reading_words.format(f"{a:.0f}") for a in kind.reading(motion.coords)],
            joint_angles_deg={
                n: rounded(np.degrees(motion.coords[r][:, i]), 2) for r in regions for i, n in enumerate(COORDINATES[r])
            },
            torques_nm={n: rounded(profile.demand[r][:, i], 3) for r in regions for i, n in enumerate(AXES[r])},
            targets=targets,
            length_bins=rounded(bin_edges(), 4),
            muscle_lengths_cm={n: rounded(v, 2) for n, v in lengths.items()},
            works=[r for r in motion.regions if r in {table.groups[t].region for t in kind.targets}],
            both=motion.both,
            positions_m={n: rounded(v, 4) for n, v in drawn.joints.items()},
            pulls=[
                Pull(
                    prop=p.prop,
                    ends_m=rounded(p.ends, 4),
                    contact=p.contact,
                    at_m=rounded(p.at, 4),
                    force_n=rounded(p.force, 3),
                    mirrored=p.mirrored,
                )
                for p in drawn.pulls
            ],
            slabs=[
                Slab(
                    kind=s.kind,
                    start_m=rounded(s.start, 4),
                    end_m=rounded(s.end, 4),
                    half_width_m=s.half_width,
                    thickness_m=s.thickness,
                )
                for s in drawn.slabs
            ],
            moment_arm=MomentArm(
                hinge_m=rounded(drawn.hinge, 4), foot_m=rounded(drawn.foot, 4), length_cm=rounded(drawn.moment_arm * 100, 1)
            ),
        )


class RowDoc(Result):
    """One line of set-up words."""

    what: str
    value: str


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
    """Weight under the lens; none for the target part, which multiplies the rest."""


class ElsewhereDoc(Result):
    """The same set-up on another item of the place, for when its own is taken."""

    id: str
    name: str
    match: float
    load: str


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
    elsewhere: list[ElsewhereDoc] = []
    """The same on other items here, in order of likeness."""
    pinned: bool = False
    """Whether the coach wants it first for this client."""


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

    format: Literal["odd-swap/match/1"] = "odd-swap/match/1"
    line: str
    place: str
    lens: str
    lens_name: str
    lens_for: str
    lens_against: str
    prescribed: PrescribedDoc
    swaps: list[SwapDoc]
    spared: list[str] = []
    """What was left out for the client's sore joints, and in how many ways."""
    strained: str = ""
    """What the prescribed set-up itself does to a sore joint; empty where it spares them."""
    weights: dict[str, float] = {}
    """Weights of the match's parts, under the lens or the coach's own."""
    dissents: list[DissentDoc] = []
    """Lenses that would put another swap first."""
    completes: list[CompletesDoc | None] = []
    """For every swap, the other one that best fills what it leaves empty."""


def support_rows(variant: Variant, movement_: Movement) -> list[RowDoc]:
    """Bench, pad or floor, in words."""
    if variant.pad:
        return [RowDoc(what="Support", value="upper arm on the pad")]
    words = {
        "bent": f"bent over, trunk {variant.recline_deg:.0f}° above level",
        "chest_pad": f"face down, pad at {variant.recline_deg:.0f}°" if variant.recline_deg > 5 else "face down, flat",
        "kneeling": "kneeling, hips tall",
        "hanging": "hanging from the hands",
        "floor": "on the floor",
    }
    if variant.stance in words:
        return [RowDoc(what="Carried", value=words[variant.stance])]
    if variant.stance == "bench":
        return [RowDoc(what="Bench", value=f"rest at {variant.recline_deg:.0f}°" if variant.recline_deg > 5 else "flat")]
    if movement_.way(variant.values).root == "hips":
        return [RowDoc(what="Stand", value="feet staggered, hips square")]
    return [RowDoc(what="Stand", value="weight over the middle of the foot")]


def set_up_rows(set_up: SetUp, variant: Variant) -> list[RowDoc]:
    """All set-up words of a set-up."""
    # A hand that holds a bell holds no handle besides.
    full = len(set_up.sources) > 1 and any(s.kind == "dumbbell" for s in set_up.sources)
    rows = [
        RowDoc(what=r.what, value=r.value.replace("strap handle", "loop around the wrist") if full else r.value)
        for s in set_up.sources
        for r in s.rows()
    ]
    return support_rows(variant, movement(set_up.movement)) + rows


def reps_words(low: int, high: int) -> str:
    """For example ``10–12``."""
    return f"{low}–{high}" if high > low else f"{low}"


def kit_words(set_up: SetUp) -> str:
    """Which kit and how, in a few words."""
    return " + ".join(s.short() for s in set_up.sources) or "own body"


def prescribed_doc(aim: Aim, curves: bool) -> PrescribedDoc:
    """The prescription's side of a match."""
    line = aim.line
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
        target_name=aim.group.name,
        rows=set_up_rows(line.set_up, variant),
        cues=kind.cues(variant),
        profile=ProfileDoc.of(line.set_up, aim.profile, line.target) if curves else None,
    )


def swap_doc(aim: Aim, swap: Swap, weights: dict[str, float], curves: bool) -> SwapDoc:
    """One swap as a document."""
    load = swap.load
    first = swap.set_up.sources[0] if swap.set_up.sources else None
    rest = swap.set_up.sources[1:]
    unit = first.amount_unit if first else ""
    finite = np.isfinite(load.exact) and first is not None

    def words(amount: float) -> str:
        if first is None:
            return "own bodyweight"
        return " + ".join([first.amount_words(amount), *(s.amount_words(s.amount) for s in rest)])

    return SwapDoc(
        key=key_of(swap.set_up),
        match=round(swap.match, 1),
        parts=[
            PartDoc(name=k, title=PARTS.get(k, k), value=round(v, 3), weight=weights.get(k))
            for k, v in swap.parts.items()
            if k in weights or k == "target"
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
            likely=f"{load.low:.2g} to {load.high:.2g} {unit}" if finite and unit else None,
            effort_ratio=round(load.effort_ratio, 3),
            reps=reps_words(load.reps_low, load.reps_high),
            reps_sensible=load.reps_sensible,
            equivalents={k: f"{v:.3g} {unit}".strip() for k, v in load.equivalents.items() if np.isfinite(v) and first},
            drops=[DropDoc(words=words(d.amount), part=round(d.part, 3), coarse=d.coarse) for d in load.drops],
        ),
        reasons=[ReasonDoc(kind=r.kind, text=r.text) for r in explain(aim, swap)],
        cautions=cautions(swap),
        set_up=SetUpDoc.of(swap.set_up),
        profile=ProfileDoc.of(swap.set_up, swap.profile, aim.line.target) if curves else None,
        elsewhere=[
            ElsewhereDoc(id=e.id, name=e.name, match=round(e.match, 1), load=load_words(e.set_up)) for e in swap.elsewhere
        ],
        pinned=swap.pinned,
    )


def match_doc(
    name: str, place: str, aim: Aim, swaps: list[Swap], by: Any, curves: bool = True, spared: dict[str, int] | None = None,
    strained: str = "",
) -> MatchDoc:  # fmt: skip
    """A whole match as a document."""
    return MatchDoc(
        line=name,
        place=place,
        lens=by.id,
        lens_name=by.name,
        lens_for=by.argument_for,
        lens_against=by.argument_against,
        prescribed=prescribed_doc(aim, curves),
        swaps=[swap_doc(aim, s, by.weights, curves) for s in swaps],
        spared=[f"{what} ({n} {'way' if n == 1 else 'ways'} left out)" for what, n in (spared or {}).items()],
        strained=strained,
        weights={k: round(v, 3) for k, v in by.weights.items()},
        dissents=[
            DissentDoc(
                lens=d.lens.id,
                lens_name=d.lens.name,
                swap=d.key,
                text=d.text,
                argument_for=d.lens.argument_for,
                argument_against=d.lens.argument_against,
            )
            for d in dissents(swaps, by)
        ],
        completes=[
            None if (found := completes(aim, swaps, i)) is None else CompletesDoc(swap=found[0], part=round(found[1], 2))
            for i in range(len(swaps))
        ],
    )


class FreedomDoc(Result):
    """A choice of a set-up that can be made otherwise, and how far it may be off."""

    source: int
    """Which of the set-up's sources it belongs to."""
    id: str
    name: str
    unit: str
    value: float
    least: float
    most: float
    step: float
    values: list[float]
    """The values that exist, where not all do."""
    low: float
    """Least value that costs at most 5 points of match."""
    high: float
    """Greatest such value."""
    cost: float
    """Points of match that a usual slip costs."""
    words: str
    """The tolerance in words."""


class DetailDoc(Result):
    """What is worth knowing of one set-up beyond its ticket: tolerances, who works, what helps."""

    format: Literal["odd-swap/detail/1"] = "odd-swap/detail/1"
    choices: list[FreedomDoc]
    """The dearest slip first."""
    amounts: list[float]
    """Amounts there are of the first source, ascending."""
    first_to_go: str
    target_first: bool
    """Whether the target is what gives out first."""
    helpers: list[HelperDoc]
    won: list[str]
    """Muscles that work more than in the prescription."""
    lost: list[str]
    """Muscles that work less."""
    remedies: list[str]
    """What would bring the load nearer, computed."""
    after_failure: str
    to_see: list[str]
    """Checks that a client can see."""

    @staticmethod
    def of(aim: Aim, place: Place, by: Lens, swap: Swap, how: Conversion) -> DetailDoc:
        """The document of a set-up's detail."""
        words, target_first = first_to_go(aim, swap)
        won, lost = muscle_changes(aim, swap)
        return DetailDoc(
            choices=[freedom_doc(c) for c in choices(aim, place, by, swap.set_up, swap.match)],
            amounts=rounded(swap.existing, 3),
            first_to_go=words,
            target_first=target_first,
            helpers=[helper_doc(h) for h in helpers_first(swap)],
            won=won,
            lost=lost,
            remedies=[r.text for r in remedies(aim, place, by, swap, how)],
            after_failure=after_failure(swap),
            to_see=to_see(aim, swap),
        )


def helpers_first(swap: Swap) -> list[Helper]:
    """Who carries the load, the joint that the movement is about first."""
    hinge = swap.profile.motion.movement.hinge.split()[-1]
    return sorted(helpers(swap.profile), key=lambda h: h.joint != hinge)


def freedom_doc(c: Choice) -> FreedomDoc:
    """A choice as a document."""
    f = c.freedom
    unit = f.unit if f.unit in ("", "°") else f" {f.unit}"
    low, high = c.low, c.high
    # Nobody sets tenths: the words keep to whole numbers inside.
    first, last = (np.ceil(low), np.floor(high)) if np.ceil(low) < np.floor(high) else (low, high)
    words = f"{first:g} to {last:g}{unit} will do" if last > first else f"only {first:.0f}{unit} will do"
    return FreedomDoc(
        source=c.source,
        id=f.id,
        name=f.name,
        unit=f.unit,
        value=f.value,
        least=f.low,
        most=f.high,
        step=f.step,
        values=list(f.choices),
        low=low,
        high=high,
        cost=round(c.cost, 1),
        words=words,
    )


class SwapsDoc(Result):
    """A program mapped to a place."""

    format: Literal["odd-swap/swaps/1"] = "odd-swap/swaps/1"
    client: str
    program: str
    place: str
    lines: list[MatchDoc]


class HelperDoc(Result):
    """How much of a joint's load a muscle group carries."""

    group: str
    name: str
    joint: str
    share: float
    """Mean part of what is given at the joint, to the nearest 0.05."""
    band: Literal["main", "strong", "some", "little"]
    confidence: Literal["high", "medium", "low"]


def helper_doc(h: Helper) -> HelperDoc:
    """A helper as a document."""
    return HelperDoc(group=h.group.id, name=h.group.name, joint=h.joint, share=h.share, band=h.band, confidence=h.confidence)


class ChoiceDoc(Result):
    """Something to pick, with its name for people."""

    id: str
    name: str


class MovementDoc(Result):
    """A movement as listed in the library."""

    id: str
    name: str
    family: str
    targets: list[ChoiceDoc]
    ways: list[str]
    """Titles of its variants; the place in this list names one."""
    kits: list[list[ChoiceDoc]]
    """Generic kit that loads each variant, the most usual first."""

    @staticmethod
    def of(kind: Movement) -> MovementDoc:
        """The document of a movement."""
        groups = muscle_table().groups
        variants = variants_of(kind)
        return MovementDoc(
            id=kind.id,
            name=kind.name,
            family=kind.family,
            targets=[ChoiceDoc(id=t, name=groups[t].name) for t in kind.targets],
            ways=[kind.title(v) for v in variants],
            kits=[[ChoiceDoc(id=k.id, name=k.name) for k in kits_of(kind, v)] for v in variants],
        )


class ExampleDoc(Result):
    """A movement on generic kit for one client, with its curves and who carries them."""

    format: Literal["odd-swap/example/1"] = "odd-swap/example/1"
    movement: str
    title: str
    client: str
    kit: str
    """Id of the generic kit."""
    target: str
    """Group that this way of it asks most of."""
    target_name: str
    load: str
    rows: list[RowDoc]
    cues: list[str]
    cautions: list[str]
    helpers: list[HelperDoc]
    doubtful: list[bool]
    """Poses at which the shares are not to be believed."""
    first_to_give_out: str
    first_effort: float
    """Its peak demand over what it can give."""
    effort: list[float]
    """Effort curve: what the most loaded muscle is asked for over what it can give, at every pose."""
    resistance: dict[str, list[float]]
    """Size of the torque at each loaded joint at every pose, N·m."""
    profile: ProfileDoc

    @staticmethod
    def of(client: str, variant: Variant, computed: Profile) -> ExampleDoc:
        """The document of a library example."""
        kind, set_up = computed.motion.movement, computed.set_up
        who = helpers(computed)
        first = gives_out_first(computed)
        target = muscle_table().groups[target_of(computed)]
        joints = list(dict.fromkeys((h.group.region, h.joint) for h in who))
        demand = {j: np.linalg.norm(computed.demand[r][:, [a.startswith(j) for a in AXES[r]]], axis=1) for r, j in joints}
        return ExampleDoc(
            movement=kind.id,
            title=kind.title(variant),
            client=client,
            kit={"dumbbell": "bells", "barbell": "bar"}.get(set_up.sources[0].kind, set_up.sources[0].kind)
            if set_up.sources
            else "body",
            target=target.id,
            target_name=target.name,
            load=" + ".join(s.amount_words(s.amount) for s in set_up.sources) or "own bodyweight",
            rows=set_up_rows(set_up, variant),
            cues=kind.cues(variant),
            cautions=[*kind.cautions(variant), *(c for s in set_up.sources for c in s.cautions())],
            helpers=[helper_doc(h) for h in who],
            doubtful=computed.doubt(target.region).tolist(),
            first_to_give_out=first.name,
            first_effort=round(first.effort, 3),
            effort=rounded(effort_curve(computed), 4),
            resistance={j: rounded(v, 2) for j, v in demand.items()},
            profile=ProfileDoc.of(set_up, computed),
        )


RESULTS: dict[str, type[BaseModel]] = {
    "profile": ProfileDoc,
    "match": MatchDoc,
    "swaps": SwapsDoc,
    "example": ExampleDoc,
    "detail": DetailDoc,
}
"""Documents that come out, by name."""
