"""The one pipeline from a set-up to its match: limits, response, load, profile, parts, match.

Whatever says something of a set-up comes through here: the search, a set-up moved by hand, tolerances, remedies, and the
check whether an accepted swap still is what it was. The index holds the same quantities at fewer poses, and ranks them by the
same functions of ``loads`` and ``scoring``.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.equipment.base.law import USUAL, Law
from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equivalence.kind import kind_part
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.loads import equal_effort, round_to_existing
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.scoring import Measured, carried, own_peak, parts_of, setup_cost, stability, weigh
from oddswap.equivalence.set_up import bears_on_one_point, contact_of, law_on, press_across
from oddswap.equivalence.variants import VariantMechanics, moment_per_newton
from oddswap.mechanics.arm import dot
from oddswap.mechanics.limits import Limit, Posture, placement_limits, with_point
from oddswap.mechanics.muscles import Group
from oddswap.mechanics.types import Bools, Floats, Ints

CHUNK = 100
"""Placements whose target share and limits are computed at a time, the likeliest first."""
SPARE = 0.05
"""Room that kit's limits must leave while a load's place is sought, m: the hand then moves a little with it."""
HARDLY = 0.02
"""Relative effort of the body alone under which it hardly loads the target."""


@dataclass(frozen=True)
class Reaction:
    """Where a source bears on a variant, and what the target makes of a force there.

    Args:
        point: m, (pose, xyz).
        per_newton: Relative effort per newton, (pose, xyz).
        moments: Moment on the target's region per newton, m, (pose, axis, xyz).
    """

    point: Floats
    per_newton: Floats
    moments: Floats


def reaction(mechanics: VariantMechanics, group: Group, source: Setting) -> Reaction:
    """What a force where a source bears does to a group, on one side or on both."""
    motion, attachment, both_sides = mechanics.motion, source.attachment, source.both_sides
    usual = attachment.at in ("usual", motion.support.contact) and not attachment.across_cm and attachment.along == 1.0
    if attachment == USUAL or usual:
        per_newton = mechanics.effort_per_newton(group.id, both_sides)
        moments = mechanics.work[group.region].moments[int(both_sides and not mechanics.single)]
        return Reaction(mechanics.point, per_newton, moments)
    contact, point = contact_of(source, motion)
    mirrored = both_sides and not bears_on_one_point(contact, motion)
    moments = moment_per_newton(motion, group.region, contact, point, mirrored)
    per_newton = -np.einsum("pai,pa->pi", moments, motion.direction(group)) / mechanics.demands[group.id].capacity[:, None]
    return Reaction(point, per_newton, moments)


@dataclass(frozen=True)
class Rest:
    """What loads the target besides the source that is solved for: the body, and further sources of fixed amounts.

    Args:
        effort: Relative effort of the target, (pose,).
        moment: Moment on its region, N·m, (pose, axis).
    """

    effort: Floats
    moment: Floats


def rest_of(mechanics: VariantMechanics, group: Group, sources: Sequence[Setting]) -> Rest:
    """What the body and further sources do."""
    effort, moment = mechanics.demands[group.id].own, mechanics.work[group.region].weight
    for source in sources:
        at = reaction(mechanics, group, source)
        force = (
            fixed_force(law_on(source, mechanics.motion), at.point) + unit_force(source, mechanics, at.point) * source.amount
        )
        effort = effort + dot(force, at.per_newton)
        moment = moment + np.einsum("pai,pi->pa", at.moments, force)
    return Rest(effort, moment)


def unit_force(source: Setting, mechanics: VariantMechanics, point: Floats) -> Floats:
    """Force on the contact per unit of amount, N, (pose, xyz)."""
    force = np.asarray(np.broadcast_to(law_on(source, mechanics.motion).force(point), (1, *point.shape))[0])
    return press_across(source, mechanics.motion, mechanics.motion.support.contact, force)


def fixed_force(law: Law, point: Floats) -> Floats:
    """Force on the contact that does not grow with the amount, N, (pose, xyz)."""
    force = law.constant(point)
    return np.zeros(point.shape) if force is None else np.asarray(np.broadcast_to(force, (1, *point.shape))[0])


@dataclass(frozen=True)
class SettingBatch(Law):
    """The laws of single settings of one kind as one law with a placement axis."""

    laws: Sequence[Law]

    def force(self, grip: Floats) -> Floats:
        """See ``Law``."""
        return np.stack([np.broadcast_to(law.force(grip), (1, *grip.shape))[0] for law in self.laws])

    def constant(self, grip: Floats) -> Floats | None:
        """See ``Law``."""
        if all(law.constant(grip) is None for law in self.laws):
            return None
        return np.stack([fixed_force(law, grip) for law in self.laws])

    def leading(self, forearm: float) -> SettingBatch:
        """See ``Law``."""
        return SettingBatch([law.leading(forearm) for law in self.laws])

    def limits(self, grip: Floats) -> list[Limit]:
        """See ``Law``; settings of one kind have the same limits."""
        each = [law.limits(grip) for law in self.laws]
        return [
            Limit(same[0].field, np.array([float(np.min(c.margin)) for c in same]), same[0].words, same[0].way_out)
            for same in zip(*each, strict=True)
        ]

    @property
    def overhang(self) -> float:  # type: ignore[override]
        """See ``Law``; settings of one batch hang on one item."""
        return self.laws[0].overhang

    @property
    def far_end(self) -> Floats | None:
        """See ``Law``."""
        ends = [law.far_end for law in self.laws]
        return None if ends[0] is None else np.stack([e for e in ends if e is not None])


def batch_settings(mechanics: VariantMechanics, settings: Sequence[Setting]) -> Placements:
    """Settings of one kind as a batch of placements."""
    law: Any = SettingBatch([law_on(s, mechanics.motion) for s in settings])
    return Placements(law, len(settings), lambda i, amount: settings[i].with_amount(amount))


@dataclass(frozen=True)
class Evaluation:
    """A batch of placements with their match.

    Args:
        match: 0 to 100; -1 where a limit is broken, or where it cannot be the best, (placement,).
        amount: Amount of the source, in its own unit, (placement,).
        rows: Which placements the source itself does not rule out, (row,).
        told: The parts of the match of these, 0 to 1, ``target`` among them, (row,) each.
        ratios: Their peak effort over the prescription's, (row,).
    """

    match: Floats
    amount: Floats
    rows: Ints
    told: dict[str, Floats]
    ratios: Floats

    @property
    def parts(self) -> dict[str, Floats]:
        """The parts of the match, 0 to 1, ``target`` among them, (placement,) each."""
        return {name: _scatter(len(self.match), self.rows, values, 0.0) for name, values in self.told.items()}

    @property
    def ratio(self) -> Floats:
        """Peak effort over the prescription's, (placement,)."""
        return _scatter(len(self.match), self.rows, self.ratios, 0.0)


@dataclass(frozen=True)
class Use:
    """What does not hang on where a source is placed, only on how it is used.

    Args:
        at: Where it bears.
        rest: What else loads the target.
        posture: What limits hang on.
        used: What the client moves of it at the same effort over what is computed.
        felt: Times its nominal load that it is felt as.
        stability: How steady the body is held, 0 to 1.
        setup_cost: Part of a score that setting up costs, 0 to 1.
    """

    at: Reaction
    rest: Rest
    posture: Posture
    used: float
    felt: float
    stability: float
    setup_cost: float


@dataclass(frozen=True)
class Question:
    """What set-ups of one variant are evaluated by.

    Args:
        mechanics: The variant, every pose.
        prescription: What they are held against.
        lens: How the parts are weighed.
        existing: Amounts there are of the source that is solved for, ascending, (amount,).
        rest: Further sources of fixed amounts.
        fixed: An amount to keep; None to solve for equal effort at the hardest point.
        factor: What the client moves at the same effort over what is computed, by the log.
        farthest: How far off the room allows a line to reach, m.
        names: Parts of the match to tell besides those that the lens weighs.
        ended: Effort over the prescription's at which the target's own joint ends the set, where that is known: a set is no
            less hard where the joint gives out at lengths at which the target is not at its peak.
    """

    mechanics: VariantMechanics
    prescription: PrescriptionProfile
    lens: Lens
    existing: Floats
    rest: Sequence[Setting] = ()
    fixed: float | None = None
    factor: float = 1.0
    farthest: float = np.inf
    names: Collection[str] = ()
    ended: float = 0.0
    _used: dict[object, Use] = field(default_factory=dict, compare=False, repr=False)

    @cached_property
    def kind(self) -> Floats:
        """How much the variant is the prescribed kind of lift, (1,)."""
        return kind_part(self.prescription, [self.mechanics])

    def use_of(self, example: Setting) -> Use:
        """What all placements used like an example share, worked out once."""
        like = type(example), id(example.item), example.attachment, example.grip, example.both_sides
        found = self._used.get(like)
        if found is None:
            found = self._used[like] = self._work_out(example)
        return found

    def _work_out(self, example: Setting) -> Use:
        mechanics, prescription = self.mechanics, self.prescription
        at, tried, posture = reaction(mechanics, prescription.group, example), mechanics.set_up(example), mechanics.posture
        if at.point is not mechanics.point:
            posture = with_point(posture, at.point)
        posture = posture.in_middle(example.grip == "rope") if example.grip != "handle" else posture
        # What the log knows of this client, and what of a load hands can use on this kit over the prescription's.
        used = self.factor * prescription.handling_of(tried)
        steady = stability(mechanics.set_up(example, *self.rest))
        cost = setup_cost(example, mechanics.motion.support.contact)
        return Use(
            at, rest_of(mechanics, prescription.group, self.rest), posture, used, prescription.felt_of(tried), steady, cost
        )


def evaluate(
    question: Question, batch: Placements | None, rejected: dict[str, int] | None = None, floor: Floats | float = -1.0
) -> Evaluation | None:
    """Match of every placement that may be best. None if all break a limit, or nothing is loaded.

    Args:
        question: The variant, what it is held against, and what there is.
        batch: Placements of one source; None where the body is the load.
        rejected: Counts what limits are broken, by their words.
        floor: Match that is of no use any more, one for all or (placement,).
    """
    rejected = {} if rejected is None else rejected
    if batch is None:
        return _evaluate_body(question)
    q, prescription, mechanics = question, question.prescription, question.mechanics
    example = batch.setting(0, float(q.existing[0]))
    use = q.use_of(example)
    at, rest, used = use.at, use.rest, use.used
    spare = SPARE if mechanics.key.eased else 0.0
    law = mechanics.law_of(batch)
    rows = np.flatnonzero(_kept(law.limits(at.point), batch.count, rejected, spare))
    if not len(rows):
        return None
    shape = (batch.count, *at.point.shape)
    force = np.broadcast_to(law.force(at.point), shape)[rows]
    force = press_across(example, mechanics.motion, mechanics.motion.support.contact, force)
    constant = law.constant(at.point)
    steady = None if constant is None else np.broadcast_to(constant, shape)[rows]
    own = rest.effort if steady is None else rest.effort + dot(steady, at.per_newton)
    per_unit = dot(force, at.per_newton) / used
    wanted = equal_effort(own, per_unit, prescription.relative_effort)
    loads = np.isfinite(wanted)
    if q.fixed is not None:
        amount = np.full(len(rows), q.fixed)
    else:
        exact = np.where(loads, wanted, q.existing[0])
        amount = round_to_existing(exact, own, per_unit, prescription.relative_effort, q.existing)
    effort = own + amount[:, None] * per_unit
    curve = own + amount[:, None] * per_unit * used * use.felt
    parts, ratio = _parts(q, effort, amount, use, curve)
    # Without the target's share the match is an upper bound, so placements are looked at in full best bound first, a chunk
    # at a time, until no other can be better.
    bound = np.where(loads | (q.fixed is not None), weigh(parts, np.ones(len(rows)), q.lens), -1.0)
    pull = force * (amount * use.felt)[:, None, None]
    match, target = _finish(q, batch, use, rows, bound, pull, steady, example.both_sides, rejected, floor)
    if match.max() < 0:
        return None
    whole, amounts = _scatter(batch.count, rows, match, -1.0), _scatter(batch.count, rows, amount, 0.0)
    return Evaluation(whole, amounts, rows, parts | {"target": target}, ratio)


def _evaluate_body(q: Question) -> Evaluation | None:
    """The body as its own load, a batch of one; None where it hardly loads the target."""
    group = q.prescription.group
    rest = rest_of(q.mechanics, group, ())
    if float(rest.effort.max()) < HARDLY:
        return None
    parts, ratio = _parts(q, rest.effort[None], np.ones(1), None)
    share = q.mechanics.motion.share(group, rest.moment)
    target = np.atleast_1d(np.minimum(1.0, share / q.prescription.share))
    return Evaluation(weigh(parts, target, q.lens), np.zeros(1), np.zeros(1, int), parts | {"target": target}, ratio)


def _parts(
    q: Question, effort: Floats, amount: Floats, use: Use | None, shape: Floats | None = None
) -> tuple[dict[str, Floats], Floats]:
    """Parts of the match without the target's, and the effort ratio, from relative efforts (placement, pose).

    The curve's ``shape`` is that of the forces alone, whatever this client moves of them.
    """
    group = q.prescription.group
    demand = q.mechanics.demands[group.id]
    profile = np.maximum(0.0, (effort if shape is None else shape) * demand.capacity) @ q.mechanics.bins[group.id].T
    ratio = np.maximum(effort.max(axis=-1), 1e-9) / q.prescription.relative_effort
    count, one = len(amount), np.ones(len(amount))
    step_up, most, cost = one, one, 0.0
    if use is not None:
        safe = np.maximum(amount, 1e-9)
        place = np.minimum(np.searchsorted(q.existing, amount - 1e-9), len(q.existing) - 1)
        step_up = q.existing[np.minimum(place + 1, len(q.existing) - 1)] / safe
        most = q.existing[-1] / safe
        cost = use.setup_cost
    steady = np.full(count, stability(q.mechanics.set_up()) if use is None else use.stability)
    kind = np.broadcast_to(q.kind, (count,))
    measured = Measured(own_peak(profile), np.maximum(ratio, q.ended), steady, step_up, most, np.full(count, cost), kind)
    return parts_of(measured, q.prescription.wanted, [*q.lens.weights, *q.names]), ratio


def _finish(
    q: Question, batch: Placements, use: Use, rows: Ints, bound: Floats, pull: Floats, steady: Floats | None,
    both_sides: bool, rejected: dict[str, int], floor: Floats | float,
) -> tuple[Floats, Floats]:  # fmt: skip
    """Match and target part of the placements ``rows``, those that cannot be the best left at -1, (row,) each."""
    prescription, motion = q.prescription, q.mechanics.motion
    match, target = np.full(len(rows), -1.0), np.zeros(len(rows))
    order = np.argsort(-bound, kind="stable")
    if q.fixed is None:
        order = order[(bound > np.broadcast_to(floor, batch.count)[rows])[order]]
    for start in range(0, len(order), CHUNK):
        chunk = order[start : start + CHUNK]
        if bound[chunk[0]] <= match.max() and q.fixed is None:
            break
        force = pull[chunk] if steady is None else pull[chunk] + steady[chunk]
        moment = use.rest.moment + (use.at.moments @ force[..., None])[..., 0]
        target[chunk] = np.minimum(1.0, motion.share(prescription.group, moment) / prescription.share)
        end = None if batch.law.far_end is None else batch.law.far_end[rows[chunk]]
        limits = placement_limits(use.posture, end, force, both_sides, q.farthest, prescription.lean, batch.law.overhang)
        kept = _kept(limits, len(chunk), rejected) & (bound[chunk] >= 0)
        match[chunk] = np.where(kept, carried(target[chunk]) * bound[chunk], -1.0)
    return match, target


def _kept(limits: Sequence[Limit], count: int, rejected: dict[str, int], spare: float = 0.0) -> Bools:
    """Which placements keep all limits with so much to spare, (placement,); counts what the others break, by its words."""
    kept = np.ones(count, dtype=bool)
    for limit in limits:
        within = np.asarray(limit.margin >= spare if spare else limit.kept)
        if not within.all():
            broken = int(np.count_nonzero(~within)) if within.ndim else count
            rejected[limit.words] = rejected.get(limit.words, 0) + broken
            kept &= within
    return kept


def _scatter(count: int, rows: Ints, values: Floats, empty: float) -> Floats:
    out = np.full(count, empty)
    out[rows] = values
    return out


def response(mechanics: VariantMechanics, group: Group, source: Setting, rest: Sequence[Setting] = ()) -> tuple[Floats, Floats]:
    """What a setting asks of a group: relative effort of all that is fixed and per unit of its amount, (pose,) each."""
    at = reaction(mechanics, group, source)
    law = law_on(source, mechanics.motion)
    own = rest_of(mechanics, group, rest).effort + dot(fixed_force(law, at.point), at.per_newton)
    return own, dot(unit_force(source, mechanics, at.point), at.per_newton)
