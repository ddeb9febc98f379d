"""What a place's supports let a client do: every movement in its variants, computed once, whatever may load it later.

All variants of a client stand in one batch: muscles, moment arms and what a muscle makes of a force are computed for all
poses of all movements together, so that a gym's worth of movements costs a few large array operations.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from oddswap.equipment.base.item import Bearing
from oddswap.equipment.base.law import Law
from oddswap.equipment.base.setting import Placements
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_effort import AT_CHEST
from oddswap.equivalence.set_up import SetUp, bears_on_one_point
from oddswap.equivalence.variant_key import FOLLOWING, VariantKey
from oddswap.equivalence.variant_list import balances_weight
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.exercises.curl import NEUTRAL
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.clearance import arm_limits, bar_limits, ceiling_limit, floor_limits, top_of
from oddswap.mechanics.leading import far_along
from oddswap.mechanics.limits import Posture
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import ON_FEET, Contact, Movement, Sides, Variant
from oddswap.mechanics.muscles import REGIONS, muscle_table
from oddswap.mechanics.performing import POSES as EXACT_POSES
from oddswap.mechanics.performing import Performance, concatenate, perform_many, with_muscles
from oddswap.mechanics.push import Push
from oddswap.mechanics.stance import ONE_HANDED, Stance
from oddswap.mechanics.supports import ON_FLOOR_CM
from oddswap.mechanics.types import Floats

POSES = 9
"""Poses of a variant in the index: enough for means over parts of a muscle's length."""
REMEMBERED = 3000
"""Variants kept in memory, of all clients: what a program at four places comes to; each takes a twentieth of a megabyte, or a
fourth with every pose."""


@dataclass(frozen=True)
class Demand:
    """What a muscle group makes of a force on the contact along one variant.

    Args:
        own: Relative effort of the body's own weight, (pose,).
        per_newton: Relative effort per newton of a force on the right side's contact, world, supports' answer included,
            (pose, xyz).
        per_newton_both: The same where the left side bears its mirror image too, (pose, xyz).
        capacity: N·m, (pose,).
        length: Normalised length, (pose,).
    """

    own: Floats
    per_newton: Floats
    per_newton_both: Floats
    capacity: Floats
    length: Floats


@dataclass(frozen=True)
class Work:
    """What a region's muscles have to do along one variant, and what they can.

    Args:
        weight: Moment of the body's own weight, N·m, (pose, axis).
        moments: Moment per newton on the contact on one side, and on both, m, (pose, axis, xyz) each.
        moment_arm: Of every muscle that is free to work, m, (pose, muscle, axis).
        strongest: Greatest force of every muscle, N, (pose, muscle).
    """

    weight: Floats
    moments: tuple[Floats, Floats]
    moment_arm: Floats
    strongest: Floats


@dataclass(frozen=True)
class VariantMechanics:
    """A movement in one variant on its supports, ready to be loaded.

    Args:
        kind: The movement.
        key: What it was computed from.
        motion: By this client.
        demands: By target group.
        work: By region of these.
    """

    kind: Movement
    key: VariantKey
    motion: Motion
    demands: dict[str, Demand]
    work: dict[str, Work]

    @cached_property
    def variant(self) -> Variant:
        """The movement's variant."""
        return self.key.variant

    @property
    def title(self) -> str:
        """In words."""
        return self.kind.title(self.variant)

    @property
    def both(self) -> bool:
        """Whether both sides may work at once."""
        return not self.motion.support.one_side and self.motion.stance.kind not in ONE_HANDED

    @property
    def single(self) -> bool:
        """Whether one point carries the load of both sides."""
        return bears_on_one_point(self.motion.support.contact, self.motion)

    def effort_per_newton(self, group: str, both_sides: bool) -> Floats:
        """Relative effort per newton, (pose, xyz), of a load that bears on both sides, if the variant has two, or on one."""
        demand = self.demands[group]
        return demand.per_newton_both if both_sides and not self.single else demand.per_newton

    @cached_property
    def lift_kind(self) -> LiftKind:
        """Which joints and muscles it works."""
        return LiftKind.of(self.motion)

    def law_of(self, batch: Placements) -> Law:
        """The law of placements on it; what leads a pull's hands pulls at the elbow where they go free."""
        lead = self.key.lead
        free = self.kind.led == "pull" and self.key.eased and (lead is None or lead.hands == "free")
        return batch.law.leading(self.motion.body.to_hand) if free else batch.law

    @cached_property
    def needs_load(self) -> bool:
        """Whether its posture follows the load, but none was put on it."""
        return self.key.load_kg == 0 and balances_weight(self.kind, self.variant)

    @property
    def bare(self) -> bool:
        """Whether the body alone may be its load."""
        return self.key.load_kg == 0 and not self.kind.loaded

    @cached_property
    def bins(self) -> dict[str, Floats]:
        """By target group, the matrix (bin, pose) of ``Motion.binning``."""
        return {g: self.motion.binning(muscle_table().groups[g]) for g in self.demands}

    @cached_property
    def point(self) -> Floats:
        """The usual contact, m, (pose, xyz)."""
        return self.motion.point(self.motion.support.contact)

    @cached_property
    def posture(self) -> Posture:
        """What limits hang on."""
        return Posture.of(self.motion)

    def standing(self, stance: Stance, sides: Sides) -> Motion:
        """Its motion with the feet as a load wants them, and which limbs it works; what follows from it is worked out once."""
        if (stance, sides) not in self._stood:
            same = (stance, sides) == (self.motion.stance, self.motion.sides)
            self._stood[stance, sides] = self.motion if same else replace(self.motion, stance=stance, sides=sides)
        return self._stood[stance, sides]

    @cached_property
    def _stood(self) -> dict[tuple[Stance, Sides], Motion]:
        return {}

    @cached_property
    def clears_itself(self) -> bool:
        """Whether its arms clear floor, body and bench, whatever loads it."""
        return all(bool(limit.kept.all()) for limit in (*floor_limits(self.motion), *arm_limits(self.motion)))

    @cached_property
    def top(self) -> float:
        """Height of head or of what hands hold, whichever comes higher, m."""
        return top_of(self.motion)

    @cached_property
    def fits_bar(self) -> bool:
        """Whether the body leaves room for a straight bar from hand to hand."""
        return all(bool(limit.kept.all()) for limit in bar_limits(self.motion))

    @cached_property
    def fits_dumbbells(self) -> tuple[bool, bool]:
        """Whether body and bench leave room for a dumbbell in one hand, and for one in each."""
        broken = [limit.field for limit in arm_limits(self.motion, held=True, pair=True) if not limit.kept.all()]
        return not [field for field in broken if field != "hands"], not broken

    @cached_property
    def pull_start(self) -> tuple[VariantKey, Floats] | None:
        """For a pull whose arm hangs in a given line: the variant whatever the line, and the line, unit, (xyz,)."""
        lead = self.key.lead
        if lead is None or not self.key.eased:
            return None
        return replace(self.key, lead=None), lead.line(np.zeros((1, 3)))[0]

    @cached_property
    def bearing(self) -> Bearing:
        """What kit needs to know of it."""
        support, pulled, hung = self.motion.support, rules("reach")["pulled"], rules("reach")["hung"]
        # A bar hangs from the hands, or lies in them before the chest.
        in_hands = self.kind.id in hung or (support.base in ON_FEET and self.variant.values.get("hold") == AT_CHEST)
        return Bearing(
            self.kind.id, self.variant.stance, support.contact, support.base, self.variant.values.get("forearm_deg") == NEUTRAL,
            support.across_cm != 0, self.kind.id in pulled, in_hands, self.kind.led in FOLLOWING,
            self.variant,
        )  # fmt: skip

    def set_up(self, *sources: object) -> SetUp:
        """The variant as a set-up with load sources."""
        return replace(self._bare, sources=sources)  # type: ignore[arg-type]

    @cached_property
    def _bare(self) -> SetUp:
        return self.key.set_up()


_cached: SharedCache[tuple[Body, VariantKey, int], VariantMechanics | None] = SharedCache(REMEMBERED)
_loaded: SharedCache[tuple[Body, str], VariantMechanics] = SharedCache(REMEMBERED)


def variants_at(body: Body, place: Place, keys: Sequence[VariantKey]) -> list[VariantMechanics]:
    """The keys' variants for a client under a place's ceiling; what is out of the client's reach is left out."""
    found = cached_variants(body, keys, POSES)
    return [v for v in found if v is not None and v.clears_itself and ceiling_limit(v.top, place.room.ceiling).kept]


def exact_variants(body: Body, keys: Sequence[VariantKey]) -> list[VariantMechanics | None]:
    """Variants with every pose, remembered; None where a pose is out of reach or there is no balance."""
    return cached_variants(body, keys, EXACT_POSES)


def mechanics_of(body: Body, set_up: SetUp) -> VariantMechanics:
    """The variant that a set-up does, with every pose, its posture as under the set-up's own load.

    Raises:
        DomainError: If a pose is out of reach, or there is no balance.
    """
    balance = set_up.support.balance
    if balance is not None and balance.held == "weight":
        slow = replace(set_up, lift_s=None)

        return _loaded.get((body, repr(slow)), lambda: _as_loaded(set_up, slow.perform(body, EXACT_POSES)))
    found = exact_variants(body, [_key_of(set_up)])[0]
    if found is None:
        set_up.perform(body)  # names the field that cannot be
        raise DomainError("movement", set_up.movement, "a variant within this client's reach", "Choose another")
    return found


def perform_loaded(body: Body, set_ups: Sequence[SetUp]) -> None:
    """Lifts whose posture follows their load, balanced in step, so that ``mechanics_of`` finds them known; what cannot be is
    left for it to say why."""
    wanted = {(body, repr(s)): s for s in set_ups if s.lift_s is None}
    known = _loaded.known(wanted)
    missing = {name: s for name, s in wanted.items() if name not in known}
    if len(missing) < 2:
        return
    motions = perform_many(body, [s.performance() for s in missing.values()])
    there = {name: m for name, m in zip(missing, motions, strict=True) if isinstance(m, Motion)}
    whole = with_muscles(list(there.values()))
    _loaded.put({name: _as_loaded(missing[name], motion) for name, motion in zip(there, whole, strict=True)})


def _as_loaded(set_up: SetUp, motion: Motion) -> VariantMechanics:
    return VariantMechanics(motion.movement, _key_of(set_up), motion, *_compute_demands([motion])[0])


def _key_of(set_up: SetUp) -> VariantKey:
    """Of a set-up as it stands."""
    return replace(VariantKey.of(set_up.movement, set_up.variant(), set_up.seat_cm), lead=set_up.lead, eased=False)


def placed_mechanics(body: Body, set_up: SetUp) -> VariantMechanics:
    """The variant that a set-up does while its load may still be moved a little; see ``mechanics_of``."""
    exact, lead = mechanics_of(body, set_up), set_up.lead
    if lead is None or movement(set_up.movement).led not in FOLLOWING:
        return exact
    key = VariantKey.of(set_up.movement, set_up.variant(), set_up.seat_cm)
    way = lead.line(exact.motion.arm.shoulder)[0]
    key = replace(key, lead=lead if lead.toward is None else replace(far_along(way), hands=lead.hands, strand=lead.strand))
    found = exact_variants(body, [key])[0]
    return exact if found is None else found


def cached_variants(body: Body, keys: Sequence[VariantKey], poses: int) -> list[VariantMechanics | None]:
    """``compute_variants``, remembered."""
    every = [(body, key, poses) for key in keys]
    return _cached.get_many(every, lambda missing: compute_variants(body, [key for _, key, _ in missing], poses))


def compute_variants(body: Body, keys: Sequence[VariantKey], poses: int) -> list[VariantMechanics | None]:
    """Variants of a client, all computed together.

    Args:
        body: The client.
        keys: Which.
        poses: How many poses each.

    Returns:
        In the order of the keys; None where a pose is out of reach or there is no balance.
    """
    wanted: dict[int, Performance] = {}
    for i, key in enumerate(keys):
        with suppress(DomainError):
            wanted[i] = key.set_up().performance(key.lead)
    performed = zip(wanted, perform_many(body, list(wanted.values()), poses), strict=True)
    posed = {i: replace(m, eased=keys[i].eased) for i, m in performed if isinstance(m, Motion)}
    whole = dict(zip(posed, with_muscles(list(posed.values())), strict=True))
    alike: dict[object, list[int]] = {}
    for i, m in whole.items():
        regions = tuple(r for r in REGIONS if _targets_region(m, r))
        on_floor = m.support.base.startswith("hands and") and m.support.hand_cm <= ON_FLOOR_CM
        rests = m.support.base, m.support.root if m.support.base != "seat" else "", m.sides, m.support.knee_locked, on_floor
        bears = m.support.contact, m.support.across_cm, m.eased, m.values.get("lean_in_deg") if m.eased else None
        alike.setdefault((regions, m.held("arm"), m.held("leg"), bears, rests, m.regions), []).append(i)
    made: dict[int, VariantMechanics] = {}
    for where in alike.values():
        for i, (demands, work) in zip(where, _compute_demands([whole[i] for i in where]), strict=True):
            made[i] = VariantMechanics(whole[i].movement, keys[i], whole[i], demands, work)
    return [made.get(i) for i in range(len(keys))]


def _targets_region(motion: Motion, region: str) -> bool:
    """Whether the movement is for a muscle of a region that it moves."""
    return region in motion.regions and any(muscle_table().groups[t].region == region for t in motion.movement.targets)


def _compute_demands(motions: Sequence[Motion]) -> list[tuple[dict[str, Demand], dict[str, Work]]]:
    """What the targets of motions that rest and are held alike make of forces, by group, and their regions' work."""
    one = concatenate(motions) if len(motions) > 1 else motions[0]
    poses = len(motions[0].part)
    groups = [g for g in muscle_table().groups.values() if g.region in one.regions]
    aimed = [g for g in groups if any(g.id in m.movement.targets for m in motions)]
    whole = {region: _compute_work(one, region) for region in dict.fromkeys(g.region for g in aimed)}
    out: list[tuple[dict[str, Demand], dict[str, Work]]] = [({}, {}) for _ in motions]
    every = [slice(i * poses, (i + 1) * poses) for i in range(len(motions))]
    for region, work in whole.items():
        for at, (_, works), m in zip(every, out, motions, strict=True):
            if any(muscle_table().groups[t].region == region for t in m.movement.targets):
                moments = work.moments[0][at], work.moments[1][at]
                works[region] = Work(work.weight[at], moments, work.moment_arm[at], work.strongest[at])
    for g in aimed:
        work, direction = whole[g.region], one.direction(g)
        aligned = np.maximum(0.0, (work.moment_arm @ direction[..., None])[..., 0])
        capacity = np.maximum((work.strongest * aligned).sum(axis=-1), 1e-6)
        alone, both = (-np.einsum("pai,pa->pi", moments, direction) / capacity[:, None] for moments in work.moments)
        own, length = -dot(work.weight, direction) / capacity, one.target_length(g)
        for at, (demands, _), m in zip(every, out, motions, strict=True):
            if g.id in m.movement.targets:
                demands[g.id] = Demand(own[at], alone[at], both[at], capacity[at], length[at])
    return out


def _compute_work(motion: Motion, region: str) -> Work:
    """A region's work along a motion."""
    contact = motion.support.contact
    point = motion.felt(contact)
    # Only a trunk, or supports that answer, feel what bears on the other side.
    unfelt = motion.support.base == "seat" and region != "trunk"
    alone = moment_per_newton(motion, region, contact, point, False)
    both = alone if unfelt else moment_per_newton(motion, region, contact, point, True)
    return Work(motion.weight_moment[region], (alone, both), motion.free_moment_arm(region), motion.strongest(region))


def moment_per_newton(motion: Motion, region: str, contact: Contact, point: Floats, mirrored: bool) -> Floats:
    """Moment on a region per newton of a force at a contact, the supports' answer included: moments are linear in the force.

    Args:
        motion: The motion.
        region: Whose moment.
        contact: Where the force bears.
        point: Its point of attack, m, (pose, xyz).
        mirrored: Whether the left side bears its mirror image too.

    Returns:
        m, (pose, axis, xyz).
    """
    force = np.zeros((3, *point.shape))
    for axis in range(3):
        force[axis, :, axis] = 1.0
    return np.moveaxis(moment_with_support(motion, Push(contact, point, force, mirrored=mirrored), region), 0, -1)


def moment_with_support(motion: Motion, push: Push, region: str) -> Floats:
    """Moment of a load on a region with what the supports give back, N·m, (..., pose, axis)."""
    return motion.moment(region, push) if motion.support.base == "seat" else motion.response(push)[region]
