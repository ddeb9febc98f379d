"""A movement done with given kit: what is set, the forces it puts on the body, and its hard limits."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import cast

import numpy as np

from oddswap.equipment.base.law import Law
from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.rules import rules
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.arm import dot, unit
from oddswap.mechanics.bar_push import press_along_bar
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.clearance import arm_limits, bar_limits, room_limits
from oddswap.mechanics.leading import MIDDLE, Lead, far_along
from oddswap.mechanics.limits import Posture, placement_limits
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import BodySupport, Contact, Sides, Variant
from oddswap.mechanics.performing import POSES, Performance, perform
from oddswap.mechanics.push import Push
from oddswap.mechanics.stance import KNEELING, ONE_HANDED, STANDING, Stance, StanceKind
from oddswap.mechanics.tempo import along_path
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm

ARM_CONTACTS, LEG_CONTACTS = {"hand", "forearm", "upper_arm"}, {"thigh", "shank", "foot"}
AVERAGE = Body(1.75, 75.0)
"""Whose arms show where a movement's path begins and leads."""
UPRIGHT = (*STANDING, *KNEELING, "sitting", "hanging", "floor", "lying")
"""Stances in which the trunk is upright unless the movement leans it."""


@dataclass(frozen=True)
class SetUp:
    """A movement done with given kit, without the client.

    Args:
        movement: Movement id.
        parameters: Its parameter values; defaults fill what is missing.
        sources: Load sources; they add up. None where the body is its own load.
        stance: How the body is carried, see ``Stance``.
        recline_deg: Spine to floor, degrees; 90 upright, 0 level.
        seat_cm: Height of the bench's seat, cm.
        pad: Whether an arm pad carries the upper arm.
        lift_s: Duration of the lifting phase, s, where moving weights shall count; None for slow lifting.
    """

    movement: str
    sources: Sequence[Setting]
    parameters: Mapping[str, float] = field(default_factory=dict)
    stance: str = "standing"
    recline_deg: float = 90.0
    seat_cm: float = 45.0
    pad: bool = False
    lift_s: float | None = None

    def variant(self) -> Variant:
        """The movement's variant that this set-up does, defaults filled in.

        Raises:
            DomainError: For a movement or parameter that does not exist.
        """
        values = movement(self.movement).complete(self.parameters)
        return Variant(values, self.stance, self.recline_deg, self.pad)

    @cached_property
    def support(self) -> BodySupport:
        """How the body rests and is loaded."""
        kind = movement(self.movement)
        return kind.support(kind.complete(self.parameters))

    @property
    def both_sides(self) -> bool:
        """Whether both sides are loaded at once."""
        return all(s.both_sides for s in self.sources) and not self.support.one_side

    @property
    def on_machine(self) -> bool:
        """Whether it is done on a machine that is built for it, with a seat and pads of its own."""
        return any(s.item is not None and s.item.built_for == self.movement for s in self.sources)

    @property
    def sides(self) -> Sides:
        """Which limbs work on both sides: a load in one hand is still lifted by two legs."""
        usual = self.support.contact
        one_sided = {usual if s.attachment.at == "usual" else s.attachment.at for s in self.sources if not s.both_sides}
        one_leg = self.support.one_side or self.support.one_foot or bool(one_sided & LEG_CONTACTS)
        return Sides(arms=not one_sided & ARM_CONTACTS and not self.support.one_side, legs=not one_leg)

    def stands(self) -> Stance:
        """The stance; standing feet are staggered when a line pulls from ahead or behind."""
        recline = np.pi / 2 if self.stance in UPRIGHT else float(np.radians(self.recline_deg))
        staggered = any(s.pulls_level for s in self.sources)
        return Stance(cast(StanceKind, self.stance), recline, self.seat_cm / 100, staggered)

    @property
    def lead(self) -> Lead | None:
        """What the load makes of the forearm's direction: the first source's where a hand holds it."""
        if not self.sources or not movement(self.movement).led:
            return None
        at = self.sources[0].attachment.at
        held = (self.support.contact if at == "usual" else at) == "hand"
        if held and self.sources[0].guides_hand:
            return guide_lead(self)
        return self.sources[0].lead if held else None

    def perform(self, body: Body, poses: int = POSES, muscles: bool = True) -> Motion:
        """The movement of ``body`` in this set-up, with its ``muscles`` unless they are followed later.

        Raises:
            DomainError: If a parameter is out of range, a pose out of reach, or there is no balance.
        """
        return perform(body, self.performance(), poses, muscles)

    def performance(self, lead: Lead | None = None) -> Performance:
        """What its motion follows from; without a ``lead`` its own load leads the forearm.

        Raises:
            DomainError: For a movement or parameter that does not exist, or a stance that the movement is not done in.
        """
        variant, kind = self.variant(), movement(self.movement)
        if self.stance not in kind.stances:
            raise DomainError("stance", self.stance, f"{kind.name} is done {' or '.join(kind.stances)}", "Pick one of these")
        if self.stance in ONE_HANDED and self.sides.arms and self.sources:
            raise DomainError(
                "stance", self.stance, "one hand holds on, so that the other works alone", "Load one side, or let go"
            )
        loads = (lambda m: balance_pushes(self, m)) if kind.support(variant.values).balance is not None else None
        return Performance(kind, dict(variant.values), self.stands(), self.pad, self.sides, loads, lead or self.lead)

    def with_source(self, index: int, source: Setting) -> SetUp:
        """With another source in one's place."""
        sources = list(self.sources)
        sources[index] = source
        return replace(self, sources=tuple(sources))

    def with_amount(self, amount: float) -> SetUp:
        """With another amount of its first source."""
        return self.with_source(0, self.sources[0].with_amount(amount))


def follows_load(set_up: SetUp) -> bool:
    """Whether the body's posture follows its load, so that the amount must be found step by step."""
    balance = set_up.support.balance
    return balance is not None and balance.held == "weight"


def guide_lead(set_up: SetUp) -> Lead:
    """What handles on a straight guide make of the forearm: they go the movement's own way, and keep their distance."""
    bare = replace(set_up, sources=(), lift_s=None)

    def work() -> Lead:
        return replace(far_along(-straight_line(bare.perform(AVERAGE, 2, muscles=False))), hands="bar", straight=True)

    return _guides.get(repr(bare), work)


_guides: SharedCache[str, Lead] = SharedCache(512)


def contact_of(source: Setting, motion: Motion) -> tuple[Contact, Floats]:
    """Where a source bears on the body, and the point at every pose, m, (pose, xyz)."""
    at = source.attachment
    contact: Contact = motion.support.contact if at.at == "usual" else at.at
    point = motion.point(contact, at.along, at.across_cm / 100)
    if source.steadies:
        body = motion.skeleton
        point = point.copy()
        point[:, 0] = (body.centres[..., 0] @ body.masses) / body.masses.sum()
    return contact, point


def hinge_axis(motion: Motion) -> Floats:
    """Axis of a machine in line with the movement's hinge, (xyz,): the moving limb's mean axis of turning."""
    contact = motion.support.contact
    arm = motion.point(contact) - motion.joints[motion.movement.hinge]
    turn = np.cross(arm[:-1], arm[1:]).sum(axis=0)
    size = float(np.linalg.norm(turn))
    return turn / size if size > 1e-9 else np.array([0.0, 1.0, 0.0])


def straight_line(motion: Motion) -> Floats:
    """Where handles that run straight would go, unit, (xyz,): a press along its forearm, pads on the shoulders of who stands
    plumb, all else from first pose to last."""
    point = motion.point(motion.support.contact)
    if motion.support.contact == "back":
        return np.array([0.0, 0.0, 1.0])
    way = (motion.arm.grip - motion.arm.elbow).mean(axis=0) if motion.movement.led == "press" else point[-1] - point[0]
    return np.asarray(unit(way * MIDDLE))


def law_on(source: Setting, motion: Motion) -> Law:
    """A source's law on a motion."""
    if not source.moves_with_pose:
        return source.law()
    shared = not bears_on_one_point(motion.support.contact, motion)
    return source.law_on(motion.joints[motion.movement.hinge], hinge_axis(motion), straight_line(motion), shared)


def bears_on_one_point(contact: Contact, motion: Motion) -> bool:
    """Whether one point carries the whole load, so that the left side has none of its own."""
    return contact in ("back", "hips") or motion.support.one_side


def press_across(source: Setting, motion: Motion, contact: Contact, force: Floats) -> Floats:
    """Forces of a source on a contact, N, (..., pose, xyz), with what hands press across its way where that is carried."""
    return press_along_bar(motion, force) if source.carries_across and contact == "hand" else force


def pushes(set_up: SetUp, motion: Motion) -> list[Push]:
    """Every source's push on the body, N, (pose, xyz)."""
    out = []
    for source in set_up.sources:
        contact, point = contact_of(source, motion)
        law = law_on(source, motion)
        force = np.broadcast_to(law.force(point), (1, *point.shape))[0] * source.amount
        if set_up.lift_s is not None:
            velocity, acceleration = along_path(point, motion.part, set_up.lift_s)
            moved = law.inertia(point, velocity, acceleration)
            force = force if moved is None else force + np.broadcast_to(moved, (1, *point.shape))[0] * source.amount
        steady = law.constant(point)
        force = force if steady is None else force + np.broadcast_to(steady, (1, *point.shape))[0]
        force = press_across(source, motion, contact, force)
        out.append(Push(contact, point, force, mirrored=source.both_sides and not bears_on_one_point(contact, motion)))
    return out


def balance_pushes(set_up: SetUp, motion: Motion) -> list[Push]:
    """What a body finds its balance under: the sources' pushes, a machine's as that of the weight it stands for.

    A guide does not say where a body stands under it; people stand as under a bar.
    """
    out = []
    for source, push in zip(set_up.sources, pushes(set_up, motion), strict=True):
        weighs = source.moves_with_pose and push.contact in ("back", "hand")
        down = np.broadcast_to([0.0, 0.0, -GRAVITY * source.amount], push.force.shape)
        out.append(replace(push, force=down) if weighs else push)
    return out


def total_moment(set_up: SetUp, motion: Motion, loads: Sequence[Push]) -> dict[str, Floats]:
    """Moment of loads, the body's own weight and what supports give back, by region, N·m, (pose, axis)."""
    if set_up.lift_s is None:
        moment = dict(motion.weight_moment)
    else:
        moment = motion.moving_weight_moment(along_path(motion.skeleton.centres, motion.part, set_up.lift_s)[1])
    for push in loads:
        for region, added in motion.response(push).items():
            moment[region] = moment[region] + added
    return moment


def check_set_up(set_up: SetUp, motion: Motion, ceiling: float = np.inf, farthest: float = np.inf) -> None:
    """Hold a set-up against its hard limits at every pose.

    Args:
        set_up: The set-up.
        motion: Its movement.
        ceiling: Height of the room, m.
        farthest: How far off the room allows a line to reach, m.

    Raises:
        DomainError: With the field of the source that breaks one.
    """
    if not set_up.sources and motion.support.base == "seat":
        raise DomainError("sources", [], "a set-up has at least one load source", "Add a dumbbell, a cable or a band")
    for limit in room_limits(motion, ceiling):
        if not limit.kept.all():
            raise DomainError(limit.field, vars(set_up)[limit.field], limit.words, limit.way_out)
    for i, source in enumerate(set_up.sources):
        try:
            source.verify()
        except DomainError as error:
            raise error.at(f"sources.{i}") from None
        if motion.support.one_side and source.both_sides and motion.support.contact == "hand":
            words = "this lift is loaded in one hand: a load in the other takes away what it asks"
            raise DomainError(f"sources.{i}", source.kind, words, "Use one side at a time")
        check_chest(set_up, source, motion)
        law, (contact, point) = law_on(source, motion), contact_of(source, motion)
        posture = Posture.of(motion, contact)
        posture = posture.in_middle(source.grip == "rope") if source.grip != "handle" else posture
        limits = [
            *law.limits(point),
            *placement_limits(posture, law.far_end, None, source.both_sides, farthest, overhang=law.overhang),
        ]
        limits += bar_limits(motion) if source.grip == "bar" and contact == "hand" else []
        limits += arm_limits(motion, held=True, pair=source.both_sides) if source.fills_hand and contact == "hand" else []
        for limit in limits:
            if not limit.kept.all():
                short = -float(np.min(limit.margin)) * 100
                words, own = f"{limit.words}; here it is {cm(short)} off", vars(set_up)
                at = limit.field if limit.field in own else f"sources.{i}.{limit.field}"
                raise DomainError(at, own.get(limit.field, vars(source).get(limit.field)), words, limit.way_out)


def check_chest(set_up: SetUp, source: Setting, motion: Motion) -> None:
    """A bar in both hands stops at the chest in a press.

    Raises:
        DomainError: Where it would go deeper.
    """
    if not source.shares_bar or set_up.movement not in rules("reach")["bar_over_chest"]:
        return
    arm = motion.arm
    rel = arm.grip - arm.shoulder
    # Over the shoulders there is no chest any more.
    at_chest = dot(rel, arm.torso[..., :, 2]) < 0.0
    ahead = dot(rel, arm.torso[..., :, 0])[at_chest].min(initial=np.inf)
    if ahead < motion.body.own("trunk_radius"):
        depth = set_up.variant().values.get("depth_deg")
        limit = "a bar stops at the chest; separate handles may pass it"
        raise DomainError("parameters.depth_deg", depth, limit, "Go less deep, or take dumbbells or cables")


def is_for_arm(set_up: SetUp) -> bool:
    """Whether an arm is what moves, and not legs or trunk that lift what arms only hold."""
    return movement(set_up.movement).hinge.split()[-1] in ("shoulder", "elbow", "wrist")
