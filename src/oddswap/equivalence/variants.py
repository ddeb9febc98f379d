"""What a place's supports let a client do: every movement in its ways, led once, whatever may load it later.

All ways of a client stand in one batch: muscles, leverage and what a muscle makes of a force are computed for all poses of
all movements together, so that a gym's worth of movements costs a few large array operations.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equipment.protocols import BAR_GIVES, BAR_HANDS, Attachment, Placements, Scene, place_of
from oddswap.equipment.station import NEEDED
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp, hinge_axis
from oddswap.errors import DomainError
from oddswap.exercises import movement, movements
from oddswap.exercises.curl import NEUTRAL
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.motion import Motion, Push, joined, with_muscles
from oddswap.mechanics.movement import Contact, Movement, Variant
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.types import Bools, Floats, Ints

POSES = 9
"""Poses of a movement here: enough for means over parts of a muscle's length."""
REMEMBERED = 4000
"""Ways kept in memory, of all clients."""
LINES = ("cable_column", "band")
"""Kit that pulls along a line, and can be fixed to a leg."""
CLOSE_HANDS = 0.28
"""Hands' distance from the middle up to which a rope serves them, m."""


@dataclass(frozen=True)
class Demand:
    """What a muscle group makes of a force on the contact along one way.

    Args:
        own: Effort of the body's own weight, (pose,).
        lever: Effort per newton of a force on the right side's contact, world, (pose, xyz), supports' answer included.
        lever_both: The same where the left side bears its mirror image too.
        capacity: N·m, (pose,).
        length: Normalised length, (pose,).
    """

    own: Floats
    lever: Floats
    lever_both: Floats
    capacity: Floats
    length: Floats


@dataclass(frozen=True)
class Work:
    """What a region's muscles have to do along one way, and what they can.

    Args:
        weight: Moment of the body's own weight, N·m, (pose, axis).
        moments: Moment per newton on the contact on one side, and on both, m, (pose, axis, xyz) each.
        leverage: Of every muscle that is free to work, m, (pose, muscle, axis).
        strongest: Greatest force of every muscle, N, (pose, muscle).
    """

    weight: Floats
    moments: tuple[Floats, Floats]
    leverage: Floats
    strongest: Floats


@dataclass(frozen=True)
class Way:
    """A movement in one way on its supports, ready to be loaded.

    Args:
        kind: The movement.
        variant: The way.
        seat_cm: Height of the seat it is led on, cm.
        load: Mass at the contact that the body's balance is found with, kg, at each hand where hands hold it; 0 without one.
        motion: Led by this client.
        demands: By target group.
        work: By region of these.
    """

    kind: Movement
    variant: Variant
    seat_cm: float
    load: float
    motion: Motion
    demands: dict[str, Demand]
    work: dict[str, Work]

    @property
    def title(self) -> str:
        """In words."""
        return self.kind.title(self.variant)

    @property
    def both(self) -> bool:
        """Whether both sides may work at once."""
        return not self.motion.way.one_side

    @property
    def single(self) -> bool:
        """Whether one point carries the load of both sides."""
        return self.motion.way.contact in ("back", "hips") or self.motion.way.one_side

    def felt(self, group: str, both: bool) -> Floats:
        """Effort per newton, (pose, xyz), of a load that bears on ``both`` sides if the way has two."""
        demand = self.demands[group]
        return demand.lever_both if both and not self.single else demand.lever

    @cached_property
    def job(self) -> Job:
        """What it was led from."""
        return job_of(self.kind.id, self.variant, self.seat_cm, self.load)

    @cached_property
    def carries(self) -> bool:
        """See ``carries``."""
        return carries(self.kind, self.variant.values)

    @cached_property
    def bins(self) -> dict[str, Floats]:
        """By target group, the matrix (bin, pose) of ``Motion.binning``."""
        return {g: self.motion.binning(muscle_table().groups[g]) for g in self.demands}

    @cached_property
    def point(self) -> Floats:
        """The usual contact, m, (pose, xyz)."""
        return self.motion.point(self.motion.way.contact)

    def set_up(self, *sources: object) -> SetUp:
        """The way as a set-up with load sources."""
        v = self.variant
        return SetUp(self.kind.id, sources, v.values, v.stance, v.recline_deg, self.seat_cm, v.pad)  # type: ignore[arg-type]


Job = tuple[str, tuple[tuple[str, float], ...], str, float, bool, float, float]
"""Movement, values, stance, recline, pad, seat height and load: what a way is led from."""
NOMINAL = {"back": 40.0, "hand": 15.0}
"""Load that the balance of lifts on the feet is found with for a table, kg; own choice, the match bench takes the real one."""
_led: dict[tuple[Body, Job, int], Way | None] = {}


def supported(place: Place, most: int | None = None) -> list[Job]:
    """What a place's benches, pads, stations and machines let one do.

    Args:
        place: Where.
        most: Ways of a movement at most, spread over all it has; None for all.
    """
    benches = [k for k in place.kit if k.kind == "bench"]
    notches = tuple(sorted({n for b in benches for n in b.notches_deg}))
    pads = tuple(sorted({k.angle_deg for k in place.kit if k.kind == "arm_pad"}))
    stations = {k.use for k in place.kit if k.kind == "station"}
    machines = {k.movement for k in place.kit if k.kind == "machine"}
    seat = benches[0].seat_cm if benches else 45.0
    out: list[Job] = []
    for kind in movements().values():
        if kind.id in NEEDED and not stations & set(NEEDED[kind.id]):
            continue
        found = [replace(v, values=kind.complete(v.values)) for v in kind.variants(notches, pads)]
        found = [v for v in found if benches or v.stance not in ("bench", "chest_pad") or kind.id in machines]
        chosen = range(len(found))
        picked = chosen if most is None else sorted({round(k) for k in np.linspace(0, len(found) - 1, min(most, len(found)))})
        for v in (found[i] for i in picked):
            out.append(job_of(kind.id, v, seat))
            if carries(kind, v.values):
                out.append(job_of(kind.id, v, seat, NOMINAL[kind.way(v.values).contact]))
    return list(dict.fromkeys(out))


def carries(kind: Movement, values: Mapping[str, float]) -> bool:
    """Whether the body must find its balance under a weight: its posture then depends on the load."""
    way = kind.way(kind.complete(values))
    weighs = way.balance is not None and way.balance.held == "weight"
    return weighs and way.contact in NOMINAL and way.support == "feet" and kind.id not in rules("reach")["pulled"]


def job_of(kind: str, v: Variant, seat: float, load: float = 0.0) -> Job:
    """The job that leads a variant."""
    return kind, tuple(sorted(v.values.items())), v.stance, v.recline_deg, v.pad, seat, float(load)


def job_for(set_up: SetUp, seat: float | None = None) -> Job:
    """The job that leads a set-up's way, under its own first load where that bears on the balance."""
    v = set_up.variant()
    held = set_up.sources[0].amount if set_up.sources and carries(movement(set_up.movement), v.values) else 0.0
    way = movement(set_up.movement).way(v.values)
    hands = 2 if set_up.sources and set_up.sources[0].kind == "barbell" and way.contact == "hand" else 1
    return job_of(set_up.movement, v, set_up.seat_cm if seat is None else seat, round(held / hands))


def ways_of(body: Body, place: Place, jobs: Sequence[Job]) -> list[Way]:
    """The jobs' ways for a client under a place's ceiling; what is out of the client's reach is left out."""
    found = led(body, jobs, POSES)
    return [w for w in found if w is not None and w.motion.joints["head"][:, 2].max() <= place.room.ceiling]


def led(body: Body, jobs: Sequence[Job], poses: int) -> list[Way | None]:
    """``lead``, remembered."""
    keys = [(body, job, poses) for job in jobs]
    found = {key: _led[key] for key in keys if key in _led}
    missing = [key for key in dict.fromkeys(keys) if key not in found]
    if missing:
        found.update(zip(missing, lead(body, [job for _, job, _ in missing], poses), strict=True))
        if len(_led) + len(missing) > REMEMBERED:
            _led.clear()
        _led.update((key, found[key]) for key in missing)
    return [found[key] for key in keys]


def lead(body: Body, jobs: Sequence[Job], poses: int) -> list[Way | None]:
    """Ways of a client, all led together; None where a pose is out of reach or there is no balance."""
    made: list[Motion | None] = []
    for kind, values, stance, recline, pad, seat, load in jobs:
        at = movement(kind).way(dict(values)).contact
        held = [DumbbellHold(load, "both", held=Attachment(at))] if load else []
        try:
            made.append(SetUp(kind, held, dict(values), stance, recline, seat, pad).perform(body, poses, muscles=False))
        except DomainError:
            made.append(None)
    motions = iter(with_muscles([m for m in made if m is not None]))
    led = [next(motions) if m is not None else None for m in made]
    alike: dict[object, list[int]] = {}
    for i, m in enumerate(led):
        if m is not None:
            regions = tuple(r for r in ("arm", "leg", "trunk", "girdle") if _aimed(m, r))
            rests = m.way.support, m.way.root if m.way.support != "seat" else "", m.both
            bears = m.way.contact, m.way.across_cm
            alike.setdefault((regions, m.held("arm"), m.held("leg"), bears, rests, m.regions), []).append(i)
    made_of: dict[int, tuple[dict[str, Demand], dict[str, Work]]] = {}
    for where in alike.values():
        made_of |= dict(zip(where, _demands([led[i] for i in where if led[i] is not None]), strict=True))  # type: ignore[misc]
    out: list[Way | None] = []
    for i, (m, (_, values, stance, recline, pad, seat, load)) in enumerate(zip(led, jobs, strict=True)):
        variant = Variant(dict(values), stance, recline, pad)
        out.append(None if m is None else Way(m.movement, variant, seat, load, m, *made_of[i]))
    return out


def _aimed(motion: Motion, region: str) -> bool:
    """Whether the movement is for a muscle of a region that it leads."""
    return region in motion.regions and any(muscle_table().groups[t].region == region for t in motion.movement.targets)


def _demands(motions: Sequence[Motion]) -> list[tuple[dict[str, Demand], dict[str, Work]]]:
    """What the targets of motions that rest and are held alike make of forces, by group, and their regions' work."""
    one = joined(motions) if len(motions) > 1 else motions[0]
    poses = len(motions[0].part)
    groups = [g for g in muscle_table().groups.values() if g.region in one.regions]
    aimed = [g for g in groups if any(g.id in m.movement.targets for m in motions)]
    whole = {region: _work(one, region) for region in dict.fromkeys(g.region for g in aimed)}
    out: list[tuple[dict[str, Demand], dict[str, Work]]] = [({}, {}) for _ in motions]
    every = [slice(i * poses, (i + 1) * poses) for i in range(len(motions))]
    for region, work in whole.items():
        for at, (_, works), m in zip(every, out, motions, strict=True):
            if any(muscle_table().groups[t].region == region for t in m.movement.targets):
                moments = work.moments[0][at], work.moments[1][at]
                works[region] = Work(work.weight[at], moments, work.leverage[at], work.strongest[at])
    for g in aimed:
        work, direction = whole[g.region], one.direction(g)
        capacity = np.maximum(
            (work.strongest * np.maximum(0.0, (work.leverage @ direction[..., None])[..., 0])).sum(axis=-1), 1e-6
        )
        levers = [-np.einsum("pai,pa->pi", moments, direction) / capacity[:, None] for moments in work.moments]
        own, length = -dot(work.weight, direction) / capacity, one.target_length(g)
        for at, (demands, _), m in zip(every, out, motions, strict=True):
            if g.id in m.movement.targets:
                demands[g.id] = Demand(own[at], levers[0][at], levers[1][at], capacity[at], length[at])
    return out


def _work(motion: Motion, region: str) -> Work:
    """A region's work along a motion."""
    contact = motion.way.contact
    point = motion.point(contact)
    # Only a trunk, or supports that answer, feel what bears on the other side.
    unfelt = motion.way.support == "seat" and region != "trunk"
    alone = per_newton(motion, region, contact, point, False)
    leverage = motion.muscles[region].leverage
    if motion.held(region):
        leverage = leverage.copy()
        leverage[..., : motion.held(region)] = 0.0
    strongest = muscle_table().regions[region].capacity(motion.muscles[region].length) * motion.body.strength
    return Work(
        motion.weight_moment[region],
        (alone, alone if unfelt else per_newton(motion, region, contact, point, True)),
        leverage,
        strongest,
    )


def per_newton(motion: Motion, region: str, contact: Contact, point: Floats, mirrored: bool) -> Floats:
    """Moment on a region per newton of a force at a contact's ``point`` (pose, xyz), the supports' answer included, m,
    (pose, axis, xyz): moments are linear in the force."""
    force = np.zeros((3, *point.shape))
    for axis in range(3):
        force[axis, :, axis] = 1.0
    return np.moveaxis(answered(motion, Push(contact, point, force, mirrored=mirrored), region)[region], 0, -1)


def answered(motion: Motion, push: Push, region: str) -> dict[str, Floats]:
    """Moments of a load on a region, N·m, and on the others where the supports' answer is computed for all anyway."""
    return {region: motion.moment(region, push)} if motion.way.support == "seat" else motion.response(push)


@dataclass(frozen=True)
class Stack:
    """Ways that kit may be placed at together, with a row for every pair of a way and a muscle that it is for.

    Args:
        ways: The ways.
        point: Their contacts, m, (way, pose, xyz).
        groups: Where each muscle group's pairs stand.
        way: The way of every pair, (pair,).
        own: Effort of the body's own weight, (pair, pose).
        levers: Effort per newton of a load on one side and on both, (pair, pose, xyz) each.
        capacity: N·m, (pair, pose).
        length: Normalised length of the muscle, (pair, pose).
    """

    ways: Sequence[Way]
    point: Floats
    groups: dict[str, slice]
    way: Ints
    own: Floats
    levers: tuple[Floats, Floats]
    capacity: Floats
    length: Floats

    @cached_property
    def hinge(self) -> tuple[Floats, Floats]:
        """Place and axis that a machine's lever would turn about, for the first way: m, (pose, xyz) and (xyz,)."""
        motion = self.ways[0].motion
        return motion.joints[motion.movement.hinge], hinge_axis(motion)

    @cached_property
    def moves(self) -> tuple[Bools, Bools]:
        """Which ways need a bench that comes along, and which a pad, (way,) each."""
        benches = np.array([w.variant.stance in ("bench", "chest_pad") for w in self.ways])
        return benches, np.array([w.variant.pad for w in self.ways])

    @cached_property
    def work(self) -> dict[str, tuple[Ints, Work]]:
        """By region, the place of every way in what follows, (way,), and the work of all that use it, ways first."""
        out = {}
        for region in dict.fromkeys(r for w in self.ways for r in w.work):
            here = [i for i, w in enumerate(self.ways) if region in w.work]
            works = [self.ways[i].work[region] for i in here]
            place = np.zeros(len(self.ways), int)
            place[here] = np.arange(len(here))
            weight, leverage, strongest = (
                np.stack([getattr(k, n) for k in works]) for n in ("weight", "leverage", "strongest")
            )
            moments = tuple(np.stack([k.moments[both] for k in works]) for both in (0, 1))
            out[region] = place, Work(weight, (moments[0], moments[1]), leverage, strongest)
        return out

    @staticmethod
    def of(ways: Sequence[Way]) -> Stack:
        """From ways that are loaded and carried alike."""
        pairs = sorted((g, i) for i, w in enumerate(ways) for g in w.demands)
        names = [g for g, _ in pairs]
        groups = {g: slice(names.index(g), names.index(g) + names.count(g)) for g in dict.fromkeys(names)}
        demands = [ways[i].demands[g] for g, i in pairs]
        own, capacity, length = (np.stack([getattr(d, n) for d in demands]) for n in ("own", "capacity", "length"))
        levers = tuple(np.stack([ways[i].felt(g, both) for g, i in pairs]) for both in (False, True))
        where = np.array([i for _, i in pairs])
        return Stack(ways, np.stack([w.point for w in ways]), groups, where, own, (levers[0], levers[1]), capacity, length)


def stacks_of(ways: Sequence[Way], hands: bool) -> list[Stack]:
    """Ways by what kit proposes the same placements for: contact, support, sides, and what may be held under a foot.

    Args:
        ways: All of them.
        hands: Whether to tell apart what two hands on one bar or rope can follow.
    """
    out: dict[tuple[object, ...], list[Way]] = {}
    for w in ways:
        of = w.motion.way
        apart = np.abs(w.point[:, 1])
        on_bar = (np.ptp(apart) < BAR_GIVES and apart.max() < BAR_HANDS, apart.max() < CLOSE_HANDS) if hands else ()
        like = (of.contact, of.support == "seat", of.one_side, w.motion.stance.kind == "standing", on_bar, of.across_cm != 0)
        if w.demands:
            out.setdefault(like, []).append(w)
    return [Stack.of(alike) for alike in out.values()]


def alone(ways: Sequence[Way], kinds: Sequence[str]) -> list[Stack]:
    """Stacks of one way each, of the movements that a machine is built for."""
    return [Stack.of([w]) for w in ways if w.kind.id in kinds and w.demands]


def fits(item: Any, way: Way) -> bool:
    """Whether a kind of kit can load a way at all."""
    contact, support = way.motion.way.contact, way.motion.way.support
    if item.kind == "machine":
        return bool(item.movement == way.kind.id and item.stance in ("any", way.variant.stance))
    if item.kind == "assist":
        return False  # it takes load off; what can be put on is looked for
    if support not in ("seat", "feet", "two feet"):
        return item.kind == "barbell" and contact == "hips"  # the body is the load
    if item.kind == "barbell" and (_neutral(way) or way.motion.way.across_cm):
        return False  # a straight bar, and one that two hands hold in their middle
    if item.kind in LINES:
        return contact == "shank" or (contact == "hand" and (support == "seat" or way.kind.id in rules("reach")["pulled"]))
    if item.kind == "barbell":
        # Hanging from the hands a bar meets the legs, but for lifts made for it.
        hangs = contact == "hand" and (support == "seat" or way.kind.id in rules("reach")["hung"])
        return hangs or contact in ("back", "hips")
    return contact == "hand"


def _neutral(way: Way) -> bool:
    """Whether the palms face each other, which a straight bar does not let them do."""
    return way.variant.values.get("forearm_deg") == NEUTRAL


@dataclass(frozen=True)
class Offer:
    """One way to use an item at the ways of a stack.

    Args:
        number: Which of the item's batches it is.
        batch: Its placements.
        sides: Whether both sides are loaded at once.
        kept: Which placements keep the kit's limits at which way, (placement, way).
        force: On the contact per unit of amount, N, (placement, way, pose, xyz).
    """

    number: int
    batch: Placements
    sides: bool
    kept: Bools
    force: Floats


def scene_of(stack: Stack, place: Place, both: bool, coarse: bool) -> Scene:
    """What kit needs to know of a stack to propose placements."""
    motion = stack.ways[0].motion
    return Scene(
        motion.body, motion.stance, stack.point[0], place.room, place.kit, both, motion.movement.id, motion.way.contact,
        *stack.hinge, coarse,
    )  # fmt: skip


def batches_of(item: Any, stack: Stack, place: Place, coarse: bool = False) -> list[Placements]:
    """Every way to use an item at a stack, as its kit proposes it."""
    both = stack.ways[0].both and not (coarse and item.kind in LINES)
    return list(item.placements(scene_of(stack, place, both, coarse)))


def offers(item: Any, stack: Stack, place: Place, least: float, coarse: bool) -> Iterator[Offer]:
    """Every way to use an item at a stack, with what keeps the kit's limits there.

    Args:
        item: The kit.
        stack: Ways to load; one way alone where the item's path hangs on the movement.
        place: Its place.
        least: Its least amount.
        coarse: Whether a few placements spread wide will do; lines are then held in one hand each.
    """
    first = stack.ways[0]
    possible = np.array([(w.load > 0 or not w.carries) and fits(item, w) for w in stack.ways])
    if item.kind in LINES:
        # Bells come to any bench; a bench or a pad comes to a line only where it can be moved.
        for kind, needs in zip(("bench", "arm_pad"), stack.moves, strict=True):
            if not any(k.kind == kind and k.moveable for k in place.kit):
                possible &= ~needs
    if not possible.any():
        return
    seated = first.motion.way.support == "seat"
    for number, batch in enumerate(batches_of(item, stack, place, coarse)):
        example = batch.setting(0, least)
        sides = example.both_arms
        if sides and not first.both and seated:
            continue
        use = getattr(example, "use", "")
        straight = use == "bar"
        if use in ("bar", "rope") and first.motion.way.across_cm:
            continue
        if straight and all(_neutral(w) for w in stack.ways):
            continue
        kept = np.ones((batch.count, len(stack.ways)), bool) & possible
        law = several(batch)
        for check in law.checks(stack.point):
            kept &= check.kept
        if straight:
            kept &= np.array([not _neutral(w) for w in stack.ways])
        force = law.force(stack.point)
        force = np.broadcast_to(force, (len(force), *stack.point.shape))
        yield Offer(number, batch, sides, np.broadcast_to(kept, (len(force), len(stack.ways))), force)


def several(batch: Placements) -> Any:
    """A batch's law with an axis for several ways after that of its placements."""
    law: Any = batch.law
    name = place_of(law)
    return replace(law, **{name: getattr(law, name)[:, None]}) if name else law


def asked(offer: Offer, stack: Stack) -> Floats:
    """Effort per unit of amount of every pair at every placement, (pair, placement, pose)."""
    force, lever = offer.force[:, stack.way].transpose(1, 0, 2, 3), stack.levers[offer.sides][:, None]
    out = force[..., 0] * lever[..., 0]
    out += force[..., 1] * lever[..., 1]
    out += force[..., 2] * lever[..., 2]
    return np.asarray(out)
