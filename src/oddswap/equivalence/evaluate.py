"""The one pipeline from a set-up to its match: limits, response, load, profile, parts, match.

Whatever says something of a set-up comes through here: the search, a set-up moved by hand, tolerances, remedies, and the
check whether an accepted swap still is what it was. The index holds the same quantities at fewer poses, and ranks them by the
same functions of ``loads`` and ``scoring``.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from oddswap.equipment.base.law import Law
from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equivalence.batch_effort import BatchEffort
from oddswap.equivalence.kind import kind_part
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.loads import equal_effort, place_below, round_to_existing
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.response import Reaction, Rest, reaction, rest_of
from oddswap.equivalence.scoring import Measured, carried, own_peak, parts_of, setup_cost, stability, weigh
from oddswap.equivalence.set_up import press_across
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.variants import VariantMechanics
from oddswap.mechanics.arm import dot
from oddswap.mechanics.limits import Limit, Posture, placement_limits, with_point
from oddswap.mechanics.types import Bools, Floats, Ints

CHUNK = 100
"""Placements whose target share and limits are computed at a time, the likeliest first."""
SPARE = 0.05
"""Room that kit's limits must leave while a load's place is sought, m: the hand then moves a little with it."""
HARDLY = 0.02
"""Relative effort of the body alone under which it hardly loads the target."""
GIVES_OUT = 0.3
"""Part of the match that is left where the lightest load asks more of something than the prescribed set: nothing is answered by
it, but it may be said why."""

STEEP = 10.0
"""Power of what a stretch asks too much by which it is worth less where it must not: a slope to where it does not."""


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
        batch_effort: What it asks besides the target; None where that hangs on the load itself.
        stretches: Whether how much it pulls lies in where it is placed.
    """

    at: Reaction
    rest: Rest
    posture: Posture
    used: float
    felt: float
    stability: float
    setup_cost: float
    batch_effort: BatchEffort | None
    stretches: bool


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
        strict: Whether what pulls as hard as it is placed, and so asks too much, is hardly worth anything there.
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
    strict: bool = False
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
        rest, felt = rest_of(mechanics, prescription.group, self.rest), prescription.felt_of(tried)
        batch_effort = BatchEffort.of(prescription, mechanics, example, self.rest, used * felt)
        stretches = example.item is not None and example.item.stretches
        return Use(at, rest, posture, used, felt, steady, cost, batch_effort, stretches)


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
    force, steady = _forces(mechanics, law, batch, example, at, rows)
    own = rest.effort if steady is None else rest.effort + dot(steady, at.per_newton)
    per_unit = dot(force, at.per_newton) / used
    wanted = equal_effort(own, per_unit, prescription.relative_effort)
    loads = np.isfinite(wanted)
    if q.fixed is not None:
        amount = np.full(len(rows), q.fixed)
    else:
        exact = np.where(loads, wanted, q.existing[0])
        amount = round_to_existing(exact, own, per_unit, prescription.relative_effort, q.existing)
    own = np.broadcast_to(own, per_unit.shape)
    solved = Solved(own, per_unit, force, steady, amount, *_parts(q, use, own, per_unit, amount))
    # Without the target's share, and with no load held back, the match is an upper bound, so placements are looked at in full
    # best bound first, a chunk at a time, until no other can be better.
    bound = np.where(loads | (q.fixed is not None), weigh(solved.parts, np.ones(len(rows)), q.lens), -1.0)
    match, target = _finish(q, batch, use, rows, bound, solved, example.both_sides, rejected, floor)
    if match.max() < 0:
        return None
    whole, amounts = _scatter(batch.count, rows, match, -1.0), _scatter(batch.count, rows, solved.amount, 0.0)
    return Evaluation(whole, amounts, rows, solved.parts | {"target": target}, solved.ratio)


def asked_at(question: Question, setting: Setting) -> float:
    """Times what lasts as long as the prescribed set that a setting asks of what it asks most of, as far as is known while its
    place is sought; 1 where that is not known."""
    use, batch = question.use_of(setting), batch_settings(question.mechanics, [setting])
    if use.batch_effort is None:
        return 1.0
    law = question.mechanics.law_of(batch)
    force, steady = _forces(question.mechanics, law, batch, setting, use.at, np.zeros(1, int))
    pull = force * (setting.amount * use.felt)
    return float(use.batch_effort.asked(pull if steady is None else pull + steady)[0][0])


def _forces(
    mechanics: VariantMechanics, law: Law, batch: Placements, example: Setting, there: Reaction, rows: Ints
) -> tuple[Floats, Floats | None]:
    """Force on the contact, N per unit of amount, and what does not grow with the amount, N, (row, pose, xyz) each; None for
    nothing."""
    shape = (batch.count, *there.point.shape)
    force = np.broadcast_to(law.force(there.point), shape)[rows]
    force = press_across(example, mechanics.motion, mechanics.motion.support.contact, force)
    constant = law.constant(there.point)
    return force, None if constant is None else np.broadcast_to(constant, shape)[rows]


@dataclass(frozen=True)
class Solved:
    """Placements with their amounts; amounts, parts and ratios are changed where a load is held back.

    Args:
        own: Relative effort of all that is fixed, (row, pose).
        per_unit: Per unit of the source's amount, (row, pose).
        force: Of the source, N per unit, (row, pose, xyz).
        steady: What does not grow with the amount, N, (row, pose, xyz); None for nothing.
        amount: Of the source, in its own unit, (row,).
        parts: Parts of the match without the target's, (row,) each.
        ratio: Peak effort over the prescription's, (row,).
    """

    own: Floats
    per_unit: Floats
    force: Floats
    steady: Floats | None
    amount: Floats
    parts: dict[str, Floats]
    ratio: Floats

    def pull(self, rows: Ints, felt: float) -> Floats:
        """What rows of it pull with, felt as so many times their amount, N, (row, pose, xyz)."""
        pull = self.force[rows] * (self.amount[rows] * felt)[:, None, None]
        return pull if self.steady is None else pull + self.steady[rows]


def _evaluate_body(q: Question) -> Evaluation | None:
    """The body as its own load, a batch of one; None where it hardly loads the target."""
    group = q.prescription.group
    rest = rest_of(q.mechanics, group, ())
    if float(rest.effort.max()) < HARDLY:
        return None
    parts, ratio = _parts(q, None, rest.effort[None], np.zeros_like(rest.effort)[None], np.ones(1))
    share = q.mechanics.motion.share(group, rest.moment)
    target = np.atleast_1d(np.minimum(1.0, share / q.prescription.share))
    return Evaluation(weigh(parts, target, q.lens), np.zeros(1), np.zeros(1, int), parts | {"target": target}, ratio)


def _parts(
    q: Question, use: Use | None, own: Floats, per_unit: Floats, amount: Floats, ended: Floats | float = 0.0
) -> tuple[dict[str, Floats], Floats]:
    """Parts of the match without the target's, and the effort ratio, (placement,) each.

    The curve's shape is that of the forces alone, whatever this client moves of them.

    Args:
        q: The question.
        use: How a source is used; None where the body is the load.
        own: Relative effort of all that is fixed, (placement, pose).
        per_unit: Per unit of the source's amount, (placement, pose).
        amount: Of the source, in its own unit, (placement,).
        ended: Effort over the prescription's at which the target's own joint ends the set, one or (placement,).
    """
    demand = q.mechanics.demands[q.prescription.group.id]
    effort, moved = own + amount[:, None] * per_unit, 1.0 if use is None else use.used * use.felt
    curve = own + amount[:, None] * per_unit * moved
    profile = np.maximum(0.0, curve * demand.capacity) @ q.mechanics.bins[q.prescription.group.id].T
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
    hardest = np.maximum(ratio, np.maximum(q.ended, ended))
    measured = Measured(own_peak(profile), hardest, steady, step_up, most, np.full(count, cost), kind)
    return parts_of(measured, q.prescription.wanted, [*q.lens.weights, *q.names]), ratio


def _finish(
    q: Question, batch: Placements, use: Use, rows: Ints, bound: Floats, solved: Solved,
    both_sides: bool, rejected: dict[str, int], floor: Floats | float,
) -> tuple[Floats, Floats]:  # fmt: skip
    """Match and target part of the placements ``rows``, those that cannot be the best left at -1, (row,) each."""
    prescription, motion = q.prescription, q.mechanics.motion
    match, target = np.full(len(rows), -1.0), np.zeros(len(rows))
    order, least = np.argsort(-bound, kind="stable"), np.broadcast_to(floor, batch.count)[rows]
    if q.fixed is None:
        order = order[(bound > least)[order]]
    for start in range(0, len(order), CHUNK):
        chunk = order[start : start + CHUNK]
        if bound[chunk[0]] <= match.max() and q.fixed is None:
            break
        force = solved.pull(chunk, use.felt)
        moment = use.rest.moment + (use.at.moments @ force[..., None])[..., 0]
        target[chunk] = np.minimum(1.0, motion.share(prescription.group, moment) / prescription.share)
        end = None if batch.law.far_end is None else batch.law.far_end[rows[chunk]]
        limits = placement_limits(use.posture, end, force, both_sides, q.farthest, prescription.lean, batch.law.overhang)
        kept = _kept(limits, len(chunk), rejected) & (bound[chunk] >= 0)
        match[chunk] = np.where(kept, carried(target[chunk]) * bound[chunk], -1.0)
        if q.fixed is None and use.batch_effort is not None:
            _hold_back(q, use, use.batch_effort, chunk[match[chunk] > np.maximum(least[chunk], 0.0)], solved, match, target)
    return match, target


def _hold_back(
    q: Question, use: Use, batch_effort: BatchEffort, rows: Ints, solved: Solved, match: Floats, target: Floats
) -> None:
    """Hold loads back as far as muscles and grip last no less long than in the prescribed set, and match what is left."""
    if not len(rows):
        return
    over, ended = batch_effort.asked(solved.pull(rows, use.felt))
    changed = (over > 1.0) | (ended > solved.ratio[rows])
    if not changed.any():
        return
    rows, over, ended = rows[changed], over[changed], ended[changed]
    asked = solved.amount[rows]
    if use.stretches:
        # A little less of a stretch is no other band: what falls short so is placed anew.
        amount, lighter = asked / np.maximum(over, 1.0), np.zeros(len(rows), int)
    else:
        lighter = place_below(q.existing, asked / np.maximum(over, 1.0))
        amount = np.where(over > 1.0, q.existing[np.maximum(lighter, 0)], asked)
    part = amount / np.maximum(asked, 1e-9)
    parts, ratio = _parts(q, use, solved.own[rows], solved.per_unit[rows], amount, ended * part)
    solved.amount[rows], solved.ratio[rows] = asked if use.stretches else amount, ratio
    for name, values in parts.items():
        whole = np.array(solved.parts[name])
        whole[rows] = values
        solved.parts[name] = whole
    left = np.where((over > 1.0) & (lighter < 0), GIVES_OUT, 1.0)
    if q.strict and use.stretches:
        left = left * np.maximum(over, 1.0) ** -STEEP
    match[rows] = left * carried(target[rows]) * weigh(parts, np.ones(len(rows)), q.lens)


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
