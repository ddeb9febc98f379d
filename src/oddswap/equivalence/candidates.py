"""One set-up judged in full: its curves, its load converted, its match; found by a search or set by hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from oddswap.equipment.protocols import Setting
from oddswap.equivalence.conversion import KEPT, PLAIN, Conversion, Load, convert
from oddswap.equivalence.evaluate import (
    Aim,
    aim_at,
    body_score,
    computed,
    efforts,
    exact_ways,
    extra_of,
    fits_load,
    level_weights,
    listed,
    score,
)
from oddswap.equivalence.kit import holder, is_from, kit_of, use_of
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.local_search import Found
from oddswap.equivalence.prescription import Line, Place
from oddswap.equivalence.profile import Profile, profile
from oddswap.equivalence.scoring import load_part, off_by, under
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variants import job_for
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Variant
from oddswap.mechanics.types import Floats

SECANTS = 6
"""Steps to the load that a leaning body carries."""


@dataclass(frozen=True)
class Elsewhere:
    """The same set-up on another item of the place.

    Args:
        name: The item's name.
        id: Its id.
        match: 0 to 100.
        set_up: What to do there, with its load.
    """

    name: str
    id: str
    match: float
    set_up: SetUp

    @staticmethod
    def of(found: Found) -> Elsewhere:
        """Of a set-up with one source that holds its item."""
        item = kit_of(found.set_up.sources[0])
        return Elsewhere(item.name, item.id, found.match, found.set_up)


@dataclass(frozen=True)
class Swap:
    """One equivalent set-up, loaded and judged.

    Args:
        set_up: What to do, with the rounded load in it.
        match: 0 to 100 under the lens.
        parts: The parts of the match, 0 to 1, ``target`` among them.
        load: The converted load.
        profile: Its curves at that load.
        variant: The movement's variant.
        pinned: Whether the coach wants it first.
        existing: Amounts there are of its first source, ascending.
        elsewhere: The same on other items, in order of likeness.
    """

    set_up: SetUp
    match: float
    parts: dict[str, float]
    load: Load
    profile: Profile
    variant: Variant
    pinned: bool = False
    existing: Floats = field(default_factory=lambda: np.zeros(1))
    elsewhere: Sequence[Elsewhere] = ()


def judged(found: Found, aim: Aim, by: Lens, how: Conversion = PLAIN) -> Swap:
    """The full curves and load conversion of a set-up; its amount is kept where ``how`` has no equivalence.

    Raises:
        DomainError: Where it breaks a limit.
    """
    line, set_up, match, parts = aim.line, found.set_up, found.match, found.parts
    own, per_unit = efforts(found.way, aim, set_up)
    amount = set_up.sources[0].amount if set_up.sources else 0.0
    if set_up.sources and fits_load(found.way.motion):
        own, per_unit = about_load(aim, set_up)
    learned = how.learned_of(line.set_up, set_up)
    weights = level_weights(found.way.bins[aim.group.id])
    reps = (line.reps_low, line.reps_high, line.rir)
    load = convert(own, per_unit, aim.levels, weights, amount, found.existing, reps, how, learned)
    if set_up.sources and (load.amount != amount or learned.factor != 1.0):
        set_up = replace(set_up, sources=(set_up.sources[0].loaded(load.amount), *set_up.sources[1:]))
        parts = parts | {"load": float(load_part(np.array(load.effort_ratio)))}
        match = under(parts, by)
    return Swap(set_up, match, parts, load, computed(found.way, set_up), found.way.variant, existing=found.existing)


def carried_amount(aim: Aim, set_up: SetUp, amounts: Floats) -> float:
    """The amount there is whose peak effort is nearest the prescription's, where the body's posture follows its load.

    By secants through the efforts of loads that were tried: each try balances the body anew.
    """
    first, *rest = set_up.sources
    target, tried = aim.line.target, dict[float, float]()

    def effort(amount: float) -> float:
        if amount not in tried:
            try:
                p = profile(aim.body, replace(set_up, sources=(first.loaded(amount), *rest)), check=False)
                tried[amount] = float(p.effort[p.row(target)].max())
            except DomainError:
                tried[amount] = np.inf  # no balance under so much
        return tried[amount]

    near = float(np.clip(first.amount, amounts[0], amounts[-1]))
    far = float(np.clip(0.7 * near, amounts[0], amounts[-1]))
    for _ in range(SECANTS):
        rise = (effort(near) - effort(far)) / (near - far) if near != far else 0.0
        if not np.isfinite(rise) or rise <= 1e-6:
            near, far = float(np.clip(0.5 * (near + amounts[0]), amounts[0], amounts[-1])), near
            continue
        aimed = near + (aim.effort - effort(near)) / rise
        near, far = float(np.clip(aimed, amounts[0], amounts[-1])), near
        if abs(near - far) < 0.01 * near:
            break
    above = int(np.clip(np.searchsorted(amounts, near - 1e-9), 0, len(amounts) - 1))
    pair = sorted({float(amounts[max(above - 1, 0)]), float(amounts[above])})
    off = off_by(np.log(np.maximum([effort(amount) for amount in pair], 1e-9) / aim.effort))
    return pair[int(np.argmin(off))]


def about_load(aim: Aim, set_up: SetUp) -> tuple[Floats, Floats]:
    """Effort without and per unit of a load that the body's posture follows: a line through two loads near the aim."""
    first, *rest = set_up.sources
    target = aim.line.target

    def at(amount: float) -> Floats:
        p = profile(aim.body, replace(set_up, sources=(first.loaded(amount), *rest)), check=False)
        return np.asarray(p.effort[p.row(target)])

    low, high = 0.8 * first.amount, first.amount
    light, heavy = at(low), at(high)
    slope = (heavy - light) / (high - low)
    return heavy - slope * high, slope


def item_of(set_up: SetUp) -> str:
    """Ids of the kit items a set-up is loaded by, or the kinds of load where any will do."""
    return "+".join(str(getattr(kit_of(s), "id", s.kind)) for s in set_up.sources) or "body"


def uses_of(set_up: SetUp) -> str:
    """How its items are used, where one has several ways."""
    return "+".join(use_of(s) for s in set_up.sources)


def key_of(set_up: SetUp) -> str:
    """Names a way of doing a movement with an item, whatever its placement and load."""
    values = "-".join(f"{v:g}" for v in set_up.variant().values.values())
    return f"{set_up.movement}:{values}:{set_up.stance}-{set_up.recline_deg:g}:{item_of(set_up)}:{uses_of(set_up)}"


def assessed(aim: Aim, place: Place, by: Lens, set_up: SetUp, how: Conversion = KEPT) -> Swap:
    """A set-up as it stands, with its own load: what hands on the controls are answered with.

    Args:
        aim: The line's demand.
        place: Where, for the amounts there are.
        by: The lens.
        set_up: The set-up; its first source's item is looked up by id.
        how: How its load shall be converted anew; without an equivalence to keep it.

    Raises:
        DomainError: Where it cannot be.
    """
    job = job_for(set_up)
    way = exact_ways(aim.body, [job])[0]
    if way is None or aim.line.target not in way.demands:
        limit = f"a way of a movement for the {aim.group.name} within this client's reach"
        raise DomainError("movement", set_up.movement, limit, "Choose another way")
    if not set_up.sources:
        scored = body_score(way, aim, by)
        if scored is None:
            raise DomainError("movement", set_up.movement, f"it must load the {aim.group.name}", "Choose another way")
        return judged(Found.of(scored, 0, way.set_up(), way, np.zeros(1)), aim, by, how)
    first, *rest = set_up.sources
    amounts = amounts_of(first, place)
    computed(way, set_up)  # names the field of a limit that is broken
    refused: dict[str, int] = {}
    fixed = first.amount if how.equivalence is None else None
    if fixed is None and way.load:
        fixed = carried_amount(aim, set_up, amounts)
        first = first.loaded(fixed)
        way = exact_ways(aim.body, [job_for(replace(set_up, sources=(first, *rest)))])[0] or way
    extra = extra_of(way, aim.group, rest)
    scored = score(listed(way, [first]), way, amounts, aim, by, refused, extra=extra, fixed=fixed)
    if scored is None:
        limit = next((words for words, n in refused.items() if n), f"the load must reach the {aim.group.name}")
        raise DomainError("sources.0", first.kind, limit, "Move it elsewhere")
    found = Found.of(scored, 0, replace(set_up, sources=(first.loaded(float(scored.amount[0])), *rest)), way, amounts)
    return judged(found, aim, by, how)


def amounts_of(source: Setting, place: Place) -> Floats:
    """Amounts that a place has for a source; its own where the place has none."""
    lists = [k.amounts() for k in place.kit if hasattr(k, "placements") and k.kind != "assist" and is_from(source, k)]
    return np.unique(np.concatenate(lists)) if lists else np.array([source.amount])


def reassessed(line: Line, place: Place, body: Body, by: Lens, set_up: SetUp) -> float:
    """Match of a set-up that was found before, with its kit as it is now; 0 where it cannot be any more.

    Args:
        line: What is prescribed.
        place: Where, with its kit of today.
        body: Who does it.
        by: The lens.
        set_up: What was found; its load sources are looked up by their items' ids.
    """
    sources = []
    for source in set_up.sources:
        name = holder(source)
        if name is None:
            if not any(is_from(source, k) for k in place.kit):
                return 0.0
            sources.append(source)
            continue
        item = next((k for k in place.kit if k.id == getattr(source, name).id), None)
        if item is None or item.kind != getattr(source, name).kind:
            return 0.0
        sources.append(replace(source, **{name: item}))  # type: ignore[type-var]
    try:
        return assessed(aim_at(line, body), place, by, replace(set_up, sources=tuple(sources)), PLAIN).match
    except DomainError:
        return 0.0


def movement_name(swap: Swap) -> str:
    """Title of a swap, for example ``Incline curl, rest 45°``."""
    return set_up_title(swap.set_up, swap.variant)


def set_up_title(set_up: SetUp, variant: Variant) -> str:
    """Title of a set-up; where the body is the load it says nothing of where a load would be held."""
    kind = movement(set_up.movement)
    title = kind.title(variant)
    held = next((p.choices for p in kind.parameters if p.id == "hold"), {})
    for words in held.values() if not set_up.sources else ():
        title = title.replace(f", {words}", "")
    return title
