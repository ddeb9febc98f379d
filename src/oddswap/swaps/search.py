"""From a prescribed line and a place to ranked equivalent set-ups.

Candidates are never read from a list of pairs: every movement that may target the muscle is tried in every variant the
supports allow with every load source of the place. Free parameters (hole, distance, facing, notch, anchor) are searched
in two passes, a grid and a finer grid around its best, under the hard limits.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.clearance import bench_clearance, line_clearance, standing_hold
from oddswap.mechanics.motion import Motion, Push
from oddswap.mechanics.movements import Variant, movement, movements
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.profile import Profile, SetUp, hinge_axis, profile
from oddswap.mechanics.sources import Placements, Scene
from oddswap.mechanics.types import Bools, Floats, Ints
from oddswap.swaps.loading import Load, convert, equal_effort, peak_effort, round_to_existing
from oddswap.swaps.match import Lens, covered, load_part, overlap, steadiness, weigh
from oddswap.swaps.prescription import Line, Place
from oddswap.swaps.sore import Sore, strains

CHUNK = 100
"""Placements judged in full at a time."""
SHOWN = 12
"""Candidates returned at most."""
ALIKE = 2
"""Candidates at most that share movement, kit item and support."""
SPARE = 3
"""Candidates kept beyond what is shown, as a few may break a limit once their numbers are rounded."""
REFINED = 4.0
"""Points of match that the finer grid may add to a batch's best, so that a batch is not left too early."""


@dataclass(frozen=True)
class Aim:
    """What a swap is held against, computed once a line.

    Args:
        line: The prescription.
        group: Its target.
        profile: Its curves for this client.
        index: Row of the target in the profile's groups.
        effort: Peak effort of the target.
        shape: Load shape, N·m, (bin,).
        share: Part of the load that the target carries.
        steadiness: How steady the prescribed set-up is.
    """

    line: Line
    group: Group
    profile: Profile
    index: int
    effort: float
    shape: Floats
    share: float
    steadiness: float


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
    """

    set_up: SetUp
    match: float
    parts: dict[str, float]
    load: Load
    profile: Profile
    variant: Variant


@dataclass(frozen=True)
class Family:
    """A variant of a movement on its supports, ready to be loaded."""

    variant: Variant
    prescribed: bool
    make: Callable[[Sequence[object]], SetUp]
    motion: Motion
    point: Floats
    own: Floats
    capacity: Floats
    virtual: Floats
    binning: Floats

    @staticmethod
    def of(variant: Variant, prescribed: bool, make: Callable[[Sequence[object]], SetUp], body: Body, group: Group) -> Family:
        """Compute all that does not depend on the load; ``prescribed`` marks the prescription's own variant."""
        motion = make([]).perform(body)
        capacity = np.maximum(motion.capacity(group), 1e-6)
        return Family(
            variant,
            prescribed,
            make,
            motion,
            motion.point(motion.way.contact),
            motion.own_demand(group),
            capacity,
            motion.virtual_path(group, motion.way.contact),
            motion.binning(group),
        )


@dataclass(frozen=True)
class Found:
    """The best placement of one batch, before its full curves are computed."""

    match: float
    parts: dict[str, float]
    set_up: SetUp
    family: Family
    existing: Floats


@dataclass(frozen=True)
class Scored:
    """A batch of placements with their scores; all (placement,)."""

    match: Floats
    amount: Floats
    parts: dict[str, Floats]


def aim_at(line: Line, body: Body) -> Aim:
    """Compute what the prescription asks of this client.

    Raises:
        DomainError: If the prescribed set-up cannot be, or leaves its target unloaded.
    """
    line.verify()
    group = muscle_table().groups[line.target]
    try:
        computed = profile(body, line.set_up)
    except DomainError as error:
        raise error.at("set_up") from None
    index = [g.id for g in computed.groups].index(line.target)
    effort = float(computed.effort[index].max())
    if effort < 1e-3:
        raise DomainError("target", line.target, "the prescribed set-up must load its target", "Check movement and load")
    share = float(computed.motion.share(group, computed.moment[group.region]))
    return Aim(line, group, computed, index, effort, computed.shape[index], share, steadiness(line.set_up))


def find_swaps(
    line: Line,
    place: Place,
    body: Body,
    by: Lens,
    progress: Callable[[float], None] = lambda part: None,
    sore: Sequence[Sore] = (),
    spared: dict[str, int] | None = None,
) -> list[Swap]:
    """The best equivalents for a line at a place, best first.

    Args:
        line: What is prescribed.
        place: Where it shall be done.
        body: Who does it.
        by: The lens to rank under.
        progress: Told the part done, 0 to 1.
        sore: Joints that hurt; ways that strain one are left out.
        spared: Filled with what was left out: what it does to which joint, and how many ways.

    Raises:
        DomainError: If the line or the place cannot be, or nothing at the place can load the target.
    """
    place.verify()
    aim = aim_at(line, body)
    # The prescription's own movement first: what it reaches lets the rest be left early.
    families = sorted(candidates(aim, place, body), key=lambda f: f.motion.movement.id != line.set_up.movement)
    left_out = {} if spared is None else spared
    for family in list(families) if sore else ():
        why = strains(family.motion, sore)
        if why:
            left_out[why] = left_out.get(why, 0) + 1
            families.remove(family)
    found: list[Found] = []
    best_of_like: dict[tuple[object, ...], list[float]] = {}
    refused: dict[str, int] = {}
    for i, family in enumerate(families):
        scene = scene_of(family, place)
        for item in place.kit:
            if hasattr(item, "placements") and allowed_together(family.variant, item, place):
                batches = list(item.placements(scene))
                if family.prescribed and (own := aim.line.set_up.sources[0].offered_by(item)) is not None:
                    batches.append(own)
                for batch in batches:
                    like = (family.motion.movement.id, item.id, family.variant.stance, family.variant.pad)
                    floor = least_worth(best_of_like, like)
                    best = best_of(batch, family, item.amounts(), aim, by, refused, floor)
                    if best is not None:
                        found.append(best)
                        kept = sorted([*best_of_like.get(like, []), best.match], reverse=True)
                        best_of_like[like] = kept[: ALIKE + SPARE]
        progress((i + 1) / len(families))
    if not families and left_out:
        limit = f"some way here must spare the {'; '.join(left_out)}"
        raise DomainError("kit", [item.id for item in place.kit], limit, "Prescribe another muscle, or another place")
    if not found:
        raise DomainError("kit", [item.id for item in place.kit], _nothing(aim, refused), "Add kit, or choose another place")
    return shortlist(found, aim)


def least_worth(best_of_like: dict[tuple[object, ...], list[float]], like: tuple[object, ...]) -> float:
    """Match under which a batch cannot be shown: its likes fill their places, or all places are filled by better ones."""
    own = best_of_like.get(like, [])
    full = own[-1] if len(own) == ALIKE + SPARE else -1.0
    everyone = sorted((m for kept in best_of_like.values() for m in kept[:ALIKE]), reverse=True)
    last = everyone[SHOWN + SPARE - 1] if len(everyone) >= SHOWN + SPARE else -1.0
    return max(full, last)


def scene_of(family: Family, place: Place) -> Scene:
    """What kit needs to know of a family to propose placements."""
    motion = family.motion
    return Scene(
        motion.body,
        motion.stance,
        family.point,
        place.room,
        place.kit,
        movement=motion.movement.id,
        contact=motion.way.contact,
        hinge=motion.joints[motion.movement.hinge],
        hinge_axis=hinge_axis(motion),
    )


def _nothing(aim: Aim, refused: dict[str, int]) -> str:
    """Why a place offers nothing."""
    why = f"; most often: {max(refused, key=lambda k: refused[k])}" if refused else ""
    return f"something here must load the {aim.group.name}{why}"


def candidates(aim: Aim, place: Place, body: Body) -> Iterator[Family]:
    """Every movement for the target in every variant the place's supports allow."""
    benches = [k for k in place.kit if k.kind == "bench"]
    notches = sorted({n for b in benches for n in b.notches_deg})
    pads = sorted({k.angle_deg for k in place.kit if k.kind == "arm_pad"})
    seat = benches[0].seat_cm if benches else 45.0
    prescribed = aim.line.set_up
    own = prescribed.variant()
    for m in movements().values():
        if aim.line.target not in m.targets or not m.searched or m.way(m.complete({})).support != "seat":
            continue  # where the body is its own load, amounts cannot be solved for one source alone
        variants = [replace(v, values=m.complete(v.values)) for v in m.variants(notches, pads)]
        if m.id == prescribed.movement:
            kept = [p.id for p in m.parameters if p.kept]
            variants = [v for v in variants if all(v.values[k] == own.values[k] for k in kept)]
            possible = (own.stance != "bench" or own.recline_deg in notches) and (
                not own.pad or own.values in [v.values for v in variants]
            )
            if possible and own not in variants:
                variants.append(own)
        for v in variants:

            def make(sources: Sequence[object], v: Variant = v, name: str = m.id) -> SetUp:
                return SetUp(name, sources, v.values, v.stance, v.recline_deg, seat, v.pad)  # type: ignore[arg-type]

            try:
                family = Family.of(v, m.id == prescribed.movement and v == own, make, body, aim.group)
            except DomainError:
                continue  # a variant out of this client's reach is no candidate
            if aim.group.region not in family.motion.regions:
                continue
            top = max(family.point[:, 2].max(), body.stature)
            if top <= place.room.ceiling and family.point[:, 2].min() > 0.02:
                yield family


def allowed_together(variant: Variant, item: object, place: Place) -> bool:
    """Whether a support can be taken to where this kit pulls; bells come along anywhere."""
    if getattr(item, "kind", "") == "dumbbells":
        return True
    if getattr(item, "kind", "") == "machine":
        return True
    needed = "arm_pad" if variant.pad else "bench" if variant.stance in ("bench", "chest_pad") else None
    return needed is None or any(k.kind == needed and k.moveable for k in place.kit)


def best_of(
    batch: Placements, family: Family, existing: Floats, aim: Aim, by: Lens, refused: dict[str, int], floor: float = -1.0
) -> Found | None:
    """The best placement of a batch after refinement, or None when all break a limit or none is worth more than ``floor``."""
    scored = score(batch, family, existing, aim, by, refused, floor - REFINED)
    if scored is None:
        return None
    best = int(np.argmax(scored.match))
    if batch.finer is not None:
        fine = batch.finer(best)
        fine_scored = score(fine, family, existing, aim, by, {})
        if fine_scored is not None and fine_scored.match.max() > scored.match[best]:
            batch, scored, best = fine, fine_scored, int(np.argmax(fine_scored.match))
    parts = {k: float(v[best]) for k, v in scored.parts.items()}
    setting = batch.setting(best, float(scored.amount[best]))
    return Found(float(scored.match[best]), parts, family.make([setting]), family, existing)


def judged(found: Found, aim: Aim) -> Swap | None:
    """The full curves and load conversion of a search result, or None when whole centimetres pushed it over a limit."""
    setting, family, line = found.set_up.sources[0], found.family, aim.line
    try:
        computed = profile(aim.profile.motion.body, found.set_up)
    except DomainError:
        return None
    made = getattr(setting, "law_at", None)
    motion = family.motion
    law = made(motion.joints[motion.movement.hinge], hinge_axis(motion)) if made else setting.law()
    force = np.broadcast_to(law.force(family.point), (1, *family.point.shape))
    own, per_unit = efforts(family, force)
    reps = (line.reps_low, line.reps_high, line.rir)
    load = convert(own, per_unit[0], aim.effort, setting.amount, found.existing, reps)
    return Swap(found.set_up, found.match, found.parts, load, computed, family.variant)


def efforts(family: Family, force: Floats) -> tuple[Floats, Floats]:
    """Effort of the limb alone (pose,) and per unit of amount (placement, pose) for forces (placement, pose, xyz)."""
    return family.own / family.capacity, -dot(force, family.virtual) / family.capacity


def within_kit(batch: Placements, family: Family, refused: dict[str, int]) -> Bools:
    """Which placements keep the kit's own limits, (placement,); counts what the others break."""
    kept = np.ones(batch.count, dtype=bool)
    for check in batch.law.checks(family.point):
        refused[check.limit] = refused.get(check.limit, 0) + int((~check.kept).sum())
        kept &= check.kept
    return kept


def within_body(batch: Placements, family: Family, rows: Ints, force: Floats, both: bool, refused: dict[str, int]) -> Bools:
    """Which of the placements ``rows`` clear the body and leave the client standing, (row,); counts what the others break."""
    if batch.law.far_end is None:
        return np.ones(len(rows), dtype=bool)
    far_end = batch.law.far_end[rows]
    limits = {
        "the line of pull would cut through the body": line_clearance(family.motion, far_end),
        "the bench would stand in the column or wall": bench_clearance(family.motion, far_end),
        "the pull would topple the client": standing_hold(family.motion, force, both),
    }
    for words, room in limits.items():
        refused[words] = refused.get(words, 0) + int((room < 0).sum())
    return np.asarray(np.min(np.stack(list(limits.values())), axis=0) >= 0)


def score(
    batch: Placements, family: Family, existing: Floats, aim: Aim, by: Lens, refused: dict[str, int], floor: float = -1.0
) -> Scored | None:
    """Match of every placement that may be best; those that break a limit or cannot be best get -1. None if all break one."""
    rows = np.flatnonzero(within_kit(batch, family, refused))
    if not len(rows):
        return None
    force = np.broadcast_to(batch.law.force(family.point), (batch.count, *family.point.shape))[rows]
    own, per_unit = efforts(family, force)
    wanted = equal_effort(own, per_unit, aim.effort)
    loads = np.isfinite(wanted)
    amount = round_to_existing(np.where(loads, wanted, existing[0]), own, per_unit, aim.effort, existing)
    ratio = peak_effort(own, per_unit, amount) / aim.effort
    shape = np.maximum(0.0, (own + amount[:, None] * per_unit) * family.capacity) @ family.binning.T
    example = family.make([batch.setting(int(rows[0]), float(existing[0]))])
    parts = {
        "shape": overlap(aim.shape, shape),
        "range": covered(aim.shape, shape),
        "load": load_part(ratio),
        "steadiness": np.full(len(rows), min(1.0, 1.0 - (aim.steadiness - steadiness(example)))),
    }
    # Without the target's share the match is an upper bound, so placements are judged in full best bound first, a chunk at
    # a time, until no other can be better.
    bound = np.where(loads, weigh(parts, np.ones(len(rows)), by), -1.0)
    order = np.argsort(-bound, kind="stable")
    match, target = np.full(len(rows), -1.0), np.zeros(len(rows))
    for start in range(0, len(order), CHUNK):
        chunk = order[start : start + CHUNK]
        if bound[chunk[0]] <= max(match.max(), floor):
            break
        pull = force[chunk] * amount[chunk, None, None]
        push = Push(family.motion.way.contact, family.point, pull)
        moment = family.motion.weight_moment[aim.group.region] + family.motion.moment(aim.group.region, push)
        target[chunk] = np.minimum(1.0, family.motion.share(aim.group, moment) / aim.share)
        kept = within_body(batch, family, rows[chunk], pull, example.both_arms, refused) & (bound[chunk] >= 0)
        match[chunk] = np.where(kept, target[chunk] * bound[chunk], -1.0)
    if match.max() < 0:
        return None
    spread = {k: _scatter(batch.count, rows, v, 0.0) for k, v in (parts | {"target": target}).items()}
    return Scored(_scatter(batch.count, rows, match, -1.0), _scatter(batch.count, rows, amount, 0.0), spread)


def _scatter(count: int, rows: Ints, values: Floats, empty: float) -> Floats:
    out = np.full(count, empty)
    out[rows] = values
    return out


def shortlist(found: list[Found], aim: Aim) -> list[Swap]:
    """Best first, at most a few of the same movement on the same kit and support, so that the choice stays varied.

    Between equals the one nearer the prescribed stance comes first.
    """
    out: list[Swap] = []
    seen: dict[tuple[object, ...], int] = {}
    prescribed = aim.line.set_up
    for one in sorted(found, key=lambda f: (-round(f.match, 1), f.set_up.stance != prescribed.stance)):
        like = (one.set_up.movement, one.set_up.sources[0].kind, item_of(one.set_up), one.set_up.stance, one.set_up.pad)
        alike, same = seen.get(like, 0), seen.get((key_of(one.set_up),), 0)
        if one.match <= 0 or alike >= ALIKE or same:
            continue
        swap = judged(one, aim)
        if swap is not None:
            seen[like], seen[(key_of(one.set_up),)] = alike + 1, 1
            out.append(swap)
        if len(out) == SHOWN:
            break
    return out


def item_of(set_up: SetUp) -> str:
    """Id of the kit item a set-up is loaded by, or the kind of load where any will do."""
    source = set_up.sources[0]
    item = getattr(source, "column", None) or getattr(source, "band", None)
    return str(getattr(item, "id", source.kind))


def key_of(set_up: SetUp) -> str:
    """Names a way of doing a movement with an item, whatever its placement and load."""
    source = set_up.sources[0]
    values = "-".join(f"{v:g}" for v in set_up.variant().values.values())
    how = getattr(source, "use", None) or getattr(source, "anchor", None) or getattr(source, "hands", "")
    return f"{set_up.movement}:{values}:{set_up.stance}-{set_up.recline_deg:g}:{item_of(set_up)}:{how}"


def reassessed(line: Line, place: Place, body: Body, by: Lens, set_up: SetUp) -> float:
    """Match of a set-up that was found before, with its kit as it is now; 0 where it cannot be any more.

    Args:
        line: What is prescribed.
        place: Where, with its kit of today.
        body: Who does it.
        by: The lens.
        set_up: What was found; its load source is looked up by its item's id.
    """
    aim = aim_at(line, body)
    source = set_up.sources[0] if set_up.sources else None
    field = next((f for f in ("column", "band", "machine", "bar", "lever") if hasattr(source, f)), None)
    if source is None or field is None:
        return 0.0
    item = next((k for k in place.kit if k.id == getattr(source, field).id), None)
    if item is None:
        return 0.0
    variant = set_up.variant()

    def make(sources: Sequence[object]) -> SetUp:
        return replace(set_up, sources=tuple(sources))  # type: ignore[arg-type]

    try:
        family = Family.of(variant, False, make, body, aim.group)
    except DomainError:
        return 0.0
    setting = replace(source, **{field: item})  # type: ignore[type-var]
    batch = setting.offered_by(item)
    batches = [batch] if batch is not None else list(item.placements(scene_of(family, place)))
    scored = [score(b, family, item.amounts(), aim, by, {}) for b in batches]
    return max((float(s.match.max()) for s in scored if s is not None), default=0.0)


def movement_name(swap: Swap) -> str:
    """Title of a swap, for example ``Incline curl, rest 45°``."""
    return movement(swap.set_up.movement).title(swap.variant)
