"""Every movement on generic kit: what the movement library shows, and a first idea of what a movement is for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Literal

import numpy as np

from oddswap.coaching.attachments import attachments_for, usual_attachment
from oddswap.coaching.holds import dumbbell_between, hands_keep_apart
from oddswap.coaching.lines_of_pull import even_line
from oddswap.coaching.machines import usual_machine, usual_radius
from oddswap.coaching.pivots import LANDMINE, on_landmine, use_of
from oddswap.equipment.anchor import AnchorPoints
from oddswap.equipment.band import Band, PullPoint
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.lines import rubber_force
from oddswap.equipment.base.setting import Setting
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.counterweight import AssistHold, AssistMachine
from oddswap.equipment.dumbbell import ON_HIPS, DumbbellHold
from oddswap.equipment.handle import Handle
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.muscle_work import find_limiting_muscle, target_of, target_share
from oddswap.equivalence.profile import Profile, profile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_effort import HANGING
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises.curl import NEUTRAL
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.movement import NOTCHES, ON_FEET, PADS, Movement, Variant
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.stance import ONE_HANDED
from oddswap.quantities import MassUnit, kg, pounds, units_shown

EFFORT = 0.6
"""Peak effort that a library example is loaded to."""
WORTHY = 0.18
"""Part of the load at the movement's joint under which its targets only help."""
FAIR = 0.3
"""Part of it that the usual kit leaves to them."""
LIMIT, HARDLY = 0.9, 0.06
"""Nothing else is asked for more than the first; under the second the target is not trained."""
OVERHAND = 60.0
"""Forearm rotation on a straight bar where hands that go free keep their palms together, degrees."""
COLUMN = CableColumn("column", "column", 23, 10, 230, 1, 200, 1, parked_cm=25, travel_cm=320, columns=2, spacing_cm=250)
ASSIST = AssistMachine("assist", "assisting platform", [float(m) for m in range(5, 101, 5)])
ADDED = {"kg": {"belt": 10.0, "assist": 20.0}, "lb": {"belt": pounds(25), "assist": pounds(45)}}
"""What is hung from a belt, and what a platform takes off, where nothing is said, kg, in either unit's plates: own choice."""
BELT = Handle("belt", "belt", "belt")
BAR = Barbell("bar", "bar", 20, [PlatePair(m, 20) for m in (20, 10, 5, 2.5, 1.25)])
BARS = {"kg": BAR, "lb": Barbell("bar", "bar", pounds(45), [PlatePair(pounds(m), 20) for m in (45, 25, 10, 5, 2.5)])}
"""Bar and plates as they are sold in either unit."""
STRENGTHS = tuple(25.0 * 1.35**k for k in range(12))
"""What bands are made to pull at twice their slack length, N: own choice, from what rehabilitation takes to what carries part
of a body."""
ANCHOR = AnchorPoints("anchor", "anchor", [10, 60, 110, 160, 230])
SLACK_CM, MOST_STRETCH = (60.0, 40.0, 90.0), 3.0
"""Slack lengths of usual bands from hand to anchor, cm, the most usual first, and how many times that they may be stretched to:
usual practice."""


UNLOADED = (*ON_FEET, "back and feet", "thighs and ankles")
"""What bodies rest on where they are load enough without more."""


@dataclass(frozen=True)
class Kit:
    """One generic way to load a movement."""

    id: str
    name: str


KITS = {
    k.id: k
    for k in (
        Kit("dumbbells", "dumbbells"),
        Kit("cable", "cable"),
        Kit("bar", "barbell"),
        Kit("rails", "bar on rails"),
        Kit("machine", "machine"),
        Kit("band", "band"),
        Kit("shared", "one dumbbell in both hands"),
        Kit("body", "bodyweight"),
        Kit("landmine", "landmine"),
        Kit("belt", "weight on a belt"),
        Kit("assist", "assisting platform"),
    )
}


def variants_of(kind: Movement) -> list[Variant]:
    """The movement's ways with all supports at hand, defaults filled in; the first that leaves all as it is comes first, and of
    those in a stance that is chosen by hand alone there is the most usual."""
    plain, listed = kind.complete({}), {v.stance for v in kind.variants(NOTCHES, PADS)}
    every = [replace(v, values=kind.complete(v.values)) for v in kind.every_way(NOTCHES, PADS)]
    found, by_hand = ([v for v in every if (v.stance in listed) == there] for there in (True, False))
    usual = next((v for v in found if v.values == plain), found[0])
    nearest = {v.stance: v for v in sorted(by_hand, key=lambda v: -sum(abs(v.values[k] - plain[k]) for k in plain))}
    return [usual, *(v for i, v in enumerate(found) if v != usual and v not in found[:i]), *nearest.values()]


def kits_of(kind: Movement, variant: Variant) -> list[Kit]:
    """Generic kit that can load a variant, the most usual first; last a band where a cable can, and a machine where it is done
    without one as well."""
    found, made = _kits_of(kind, variant), KITS["machine"]
    if variant.stance in ONE_HANDED:
        return [k for k in (*found, KITS["band"]) if k.id in ("dumbbells", "cable", "band")]
    contact = kind.support(variant.values).contact
    if KITS["bar"] in found and (contact != "hand" or kind.led == "press"):
        found = [*found, KITS["rails"]]
    if KITS["cable"] in found and contact != "hips":
        found = [*found, KITS["band"]]
    if KITS["dumbbells"] in found and (between := dumbbell_between(kind, variant)):
        # Before the chest there is room for one.
        found = [KITS["shared"], *found[1:]] if between == "chest" else [*found, KITS["shared"]]
    if use_of(kind, variant) is not None:
        found = [*found, KITS["landmine"]]
    if made not in found and usual_machine(kind, variant, (10.0,)) is not None:
        found = [*found, made]
    return [*found, KITS["body"]] if KITS["body"] not in found and serves_unloaded(kind, variant) else found


def serves_unloaded(kind: Movement, variant: Variant) -> bool:
    """Whether a lift is done with the body alone too: on the feet, back and feet, or a pad under the hips."""
    return not (kind.loaded or kind.machine_only) and kind.support(variant.values).base in UNLOADED


def _kits_of(kind: Movement, variant: Variant) -> list[Kit]:
    support = kind.support(variant.values)
    if support.body_alone:
        hangs = variant.stance == "hanging" and kind.hinge.endswith("shoulder")
        return [KITS["body"], KITS["belt"], KITS["assist"]] if hangs else [KITS["body"]]
    if kind.machine_only:
        return [KITS["machine"]]
    if support.contact == "hips":
        if kind.id in rules("reach")["pulled"]:
            return [KITS["machine"], KITS["cable"]]
        return [KITS["bar"], KITS["dumbbells"]]
    if support.contact == "back":
        return [KITS["bar"]]
    if support.contact == "foot":
        return [KITS["machine"]]
    if support.contact in ("shank", "thigh"):
        return [KITS["machine"], KITS["cable"]] if support.contact == "shank" else [KITS["machine"]]
    if kind.id in rules("reach")["pulled"]:
        return [KITS["cable"]]
    if support.base == "feet":
        # What hangs in both hands beside the legs is no bar.
        hanging = variant.values.get("hold") == HANGING
        return [KITS["dumbbells"]] if hanging else [KITS["dumbbells"], KITS["bar"]]
    turned = kind.led or variant.values.get("forearm_deg") != NEUTRAL
    straight = turned and not support.across_cm
    by = sorted(variant.values.items())
    bar = straight and hands_keep_apart(kind.id, variant.stance, variant.recline_deg, *by)
    return [KITS["dumbbells"], KITS["cable"], *([KITS["bar"]] if bar else [])]


def example(
    body: Body,
    kind: Movement,
    variant: Variant,
    kit: str,
    amount: float | None = None,
    attachment: str = "",
    target: str = "",
) -> Profile:
    """A variant on generic kit, placed so that the target is loaded evenly and loaded to a usual effort.

    Args:
        body: The client.
        kind: The movement.
        variant: Which way of it.
        kit: Id of the kit; empty for the first that loads it as it should be.
        amount: Its load in the kit's own unit; None for the one that loads the target to a usual effort.
        attachment: What hangs on a cable, see ``even_line``; empty for what does for this movement as a rule.
        target: Muscle group that a line of pull is placed for; empty for the movement's first.

    Raises:
        DomainError: If this kit cannot load it, or the client cannot do it.
    """
    if not kit:
        return usual(body, kind, variant)
    if kit not in (offered := [k.id for k in kits_of(kind, variant)]):
        raise DomainError("kit", kit, f"{kind.name} is shown with {', '.join(offered)}", "Pick one of these")

    def set_up(*sources: Setting) -> SetUp:
        values = _values_on(kit, kind, variant, sources)
        return SetUp(kind.id, sources, values, variant.stance, variant.recline_deg, 45.0, variant.pad)

    if kit == "body":
        return profile(body, set_up())
    unit = units_shown().mass
    makers = _makers(kind, variant, unit)
    if kit == "cable":
        hung = "handle" if variant.stance in ONE_HANDED else usual_attachment(kind.id)
        placed, part = on_cable(body, kind, variant, set_up, attachment or hung, target)
        makers["cable"] = lambda kg: replace(placed, stack_kg=kg)
        amount = amount * part if amount else amount
    if kit == "landmine":
        pivoting = on_landmine(body, kind, variant, set_up)
        makers["landmine"] = pivoting.with_amount
        amount = amount + LANDMINE.tare_kg if amount else amount  # what is said are plates
    amount = ADDED[unit].get(kit) if amount is None else amount
    if kit == "band":
        if amount is not None:
            raise DomainError("amount", amount, "a band has no weight: its strength is found", "Leave the load out")
        return band_example(body, kind, variant, set_up)
    if amount is not None:
        made = makers[kit](1.0).with_amount(amount)
        made.verify()
        return profile(body, set_up(made), check=False)
    try:
        return load_to_effort(body, lambda kg: set_up(makers[kit](kg)), _amounts(kit, unit))
    except DomainError as error:
        if error.field != "sources.0":
            raise
        raise DomainError("kit", kit, error.limit, "Take other kit") from None


def _values_on(kit: str, kind: Movement, variant: Variant, sources: Sequence[Setting]) -> dict[str, float]:
    """A variant's values on generic kit: no straight bar is held with palms facing, and a pivot's end stops at the chest."""
    values = dict(variant.values)
    on_bar = kit in ("bar", "rails") or any(s.grip == "bar" for s in sources)
    if on_bar and values.get("forearm_deg") == NEUTRAL:
        values["forearm_deg"] = OVERHAND
    if kit == "landmine" and (use := use_of(kind, variant)):
        values["range_to_pct"] = min(values["range_to_pct"], float(use["until_pct"]))
    return values


def _makers(kind: Movement, variant: Variant, unit: MassUnit) -> dict[str, Callable[[float], Setting]]:
    """By kit that is placed nowhere, what makes a source of an amount, kg."""
    support = kind.support(variant.values)
    hips, carried = support.contact == "hips", support.contact in ("back", "hips")
    hands: Literal["one", "both"] = "one" if support.one_side or variant.stance in ONE_HANDED else "both"
    return {
        "dumbbells": lambda kg: DumbbellHold(kg, "one", held=ON_HIPS) if hips else DumbbellHold(kg, hands),
        "bar": lambda kg: BarbellHold(BARS[unit], kg, carried=carried),
        "rails": lambda kg: BarbellHold(replace(BARS[unit], rail_deg=90.0), kg, carried=carried),
        "machine": lambda kg: MachineHold(_machine(kind, variant), kg, hands),
        "belt": lambda kg: DumbbellHold(kg, "belt"),
        "shared": lambda kg: DumbbellHold(kg, "shared"),
        "assist": lambda kg: AssistHold(ASSIST, kg),
    }


def on_cable(
    body: Body, kind: Movement, variant: Variant, set_up: Callable[..., SetUp], attachment: str, target: str
) -> tuple[CablePull, float]:
    """A place at a usual column by what hangs there, or by the next best that finds one; with the part of a load on the first
    that comes to as much in each hand.

    Raises:
        DomainError: If none does.
    """
    beside = [BELT] if kind.support(variant.values).contact == "hips" else []
    refused = None
    for hung, part in attachments_for(attachment):
        try:
            return even_line(body, kind, variant, COLUMN, beside, set_up, hung, target), part
        except DomainError as error:
            refused = refused or error
    assert refused is not None
    raise refused


def usual(body: Body, kind: Movement, variant: Variant) -> Profile:
    """The first kit that leaves a fair part of the load to the target, else the one that leaves it most."""
    made, rejected = [], None
    for kit in kits_of(kind, variant):
        try:
            made.append(example(body, kind, variant, kit.id))
        except DomainError as error:
            rejected = error
            continue
        if target_share(made[-1]) >= FAIR:
            return made[-1]
    if rejected is not None and not made:
        raise rejected
    return max(made, key=target_share)


def usual_band(pull: float, slack_cm: float) -> Band:
    """A band that pulls so many newtons at twice its slack length, cm, by which it is named."""
    stretched = np.linspace(1.0, MOST_STRETCH, 17)
    part = rubber_force(stretched, 1.0, 1.0, 1.0) / rubber_force(np.array(2.0), 1.0, 1.0, 1.0)
    points = [PullPoint(float(slack_cm * x), round(float(pull * f), 2)) for x, f in zip(stretched, part, strict=True)]
    return Band("band", f"{kg(round(pull / GRAVITY, 1))} band", points, slack_cm * MOST_STRETCH)


def band_example(body: Body, kind: Movement, variant: Variant, set_up: Callable[..., SetUp]) -> Profile:
    """A variant on a usual band, the most usual that keeps taut, not too long, and loads the target to a usual effort.

    Raises:
        DomainError: If none does.
    """
    error = DomainError("kit", "band", "a band that loads the target", "Take other kit")
    for slack in SLACK_CM:
        try:
            tied = even_line(body, kind, variant, usual_band(STRENGTHS[0], slack), [ANCHOR], set_up)
            with_band = lambda pull, at=tied, slack=slack: set_up(replace(at, band=usual_band(pull, slack)))
            found = load_to_effort(body, with_band, STRENGTHS)
            profile(body, found.set_up)  # who leans under a stronger band may lean out of its reach
            return found
        except DomainError as off:
            error = off
    raise DomainError("kit", "band", error.limit, error.way_out)


@cache
def _amounts(kit: str, mass_unit: MassUnit) -> tuple[float, ...]:
    """Amounts of generic kit, kg: in steps as it is made for who reckons in the unit."""
    if kit == "landmine":
        plates = LANDMINE.masses_kg if mass_unit == "kg" else [pounds(m) for m in range(0, 226, 5)]
        return tuple(LANDMINE.tare_kg + m for m in plates)
    if mass_unit == "lb":
        first, last, step = {
            "dumbbells": (5, 130, 5),
            "shared": (5, 90, 5),
            "bar": (45, 445, 5),
            "rails": (45, 445, 5),
            "machine": (10, 660, 10),
        }.get(kit, (5, 330, 5))
        return tuple(pounds(m) for m in range(first, last + 1, step))
    steps = {
        "dumbbells": np.arange(2.0, 61, 1),
        "shared": np.arange(2.0, 41, 1),
        "bar": np.arange(20.0, 201, 2.5),
        "rails": np.arange(20.0, 201, 2.5),
        "machine": np.arange(5.0, 301, 5),
    }
    return tuple(steps.get(kit, np.arange(1.0, 151, 1)))


SLEDS = ("leg_press", "hack_squat")
"""Movements whose machine is a sled on rails."""


def _machine(kind: Movement, variant: Variant) -> Machine:
    masses = _amounts("machine", units_shown().mass)
    if (own := usual_machine(kind, variant, masses)) is not None:
        return own
    rail = kind.id in SLEDS
    path = kind.support(kind.complete({})).contact in ("foot", "hips", "back") and not rail
    guide: Literal["axis", "path", "rail"] = "rail" if rail else "path" if path else "axis"
    # A back that slides along the rails lies as they do.
    rail_deg = kind.complete({}).get("back_deg", 45.0)
    return Machine("machine", "machine", kind.id, list(masses), guide, radius_cm=usual_radius(kind.id), rail_deg=rail_deg)


def load_to_effort(body: Body, make: Callable[[float], SetUp], amounts: tuple[float, ...]) -> Profile:
    """The set-up at the amount that loads the first target to a usual effort, or less where something else gives out.

    Raises:
        DomainError: If by then the target is hardly loaded: this kit is not for it.
    """

    def at(amount: float) -> tuple[float, Profile]:
        """The amount, or a lighter one with which the body finds its balance."""
        while True:
            try:
                return amount, profile(body, make(amount), check=False)
            except DomainError:
                lighter = [a for a in amounts if a < 0.8 * amount]
                if not lighter:
                    raise
                amount = lighter[-1]

    (low, light), (high, heavy) = at(amounts[len(amounts) // 12]), at(amounts[len(amounts) // 4])
    # Of both loads by the same target: which of a movement's targets is busiest may change with the load.
    busy, busier = (_effort(p, target_of(light)) for p in (light, heavy))
    wanted = low + (EFFORT - busy) / max((busier - busy) / max(high - low, 1e-6), 1e-6)
    for _ in range(4):
        amount, p = at(min(amounts, key=lambda a: abs(a - wanted)))
        hardest = find_limiting_muscle(p)
        if hardest.relative_effort <= LIMIT or amount == amounts[0]:
            break
        # Near its limit effort grows faster than the load: step down with some margin.
        wanted = amount * min(0.8, 0.9 * LIMIT / hardest.relative_effort)
    if _effort(p, target_of(p)) < HARDLY or target_share(p) < WORTHY:
        target = muscle_table().groups[target_of(p)].name
        raise DomainError(
            "kit", amount, f"this kit hardly loads the {target}: other muscles carry it, or give out before", "Take other kit"
        )
    return p


def _effort(p: Profile, target: str) -> float:
    return float(p.relative_effort[p.row(target)].max())
