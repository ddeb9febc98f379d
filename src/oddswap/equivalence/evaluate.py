"""One line's demand, and how set-ups measure up to it in full: every pose, every bin of the muscle's length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.equipment.protocols import USUAL, Attachment, Check, Placements, Setting
from oddswap.equivalence.conversion import equal_effort, peak_effort, round_to_existing
from oddswap.equivalence.kit import bother
from oddswap.equivalence.lenses import PARTS, Lens
from oddswap.equivalence.prescription import Line
from oddswap.equivalence.profile import Profile, curves, profile
from oddswap.equivalence.scoring import Measured, Wanted, own_peak, parts_of, steadiness, weigh
from oddswap.equivalence.set_up import SetUp, check_set_up, hinge_axis, pushes
from oddswap.equivalence.variants import Job, Way, led, per_newton
from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import bench_clearance, lean_of, line_clearance, standing_hold
from oddswap.mechanics.motion import POSES, Motion
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.types import Bools, Floats, Ints

CHUNK = 100
"""Placements judged in full at a time."""


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
        lean: Times the usual hold against tipping that it asks for, at least 1: who leans into it may lean into a swap.
    """

    line: Line
    group: Group
    profile: Profile
    index: int
    effort: float
    shape: Floats
    share: float
    steadiness: float
    lean: float = 1.0

    @property
    def body(self) -> Body:
        """The client."""
        return self.profile.motion.body

    @cached_property
    def wanted(self) -> Wanted:
        """What set-ups are compared with."""
        return Wanted(own_peak(self.shape), self.steadiness, self.group.id)

    @cached_property
    def levels(self) -> dict[str, float]:
        """By equivalence, the effort that a swap is to equal: at the hardest point, on average, in the long half."""
        curve = self.profile.effort[self.index]
        weights = level_weights(self.profile.motion.binning(self.group))
        return {"hardest": self.effort} | {name: float(w @ curve) for name, w in weights.items()}


def level_weights(bins: Floats) -> dict[str, Floats]:
    """Weights (pose,) that turn effort along a way into its mean over the muscle's length, and over the long half of what is
    reached; ``bins`` as of ``Motion.binning``."""
    reached = np.flatnonzero(bins.sum(axis=1) > 0)
    long = reached[: max(1, len(reached) // 2)]
    return {name: np.asarray(bins[rows].mean(axis=0)) for name, rows in (("mean", reached), ("long", long))}


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
    index = computed.row(line.target)
    effort = float(computed.effort[index].max())
    if effort < 1e-3:
        raise DomainError("target", line.target, "the prescribed set-up must load its target", "Check movement and load")
    share = float(computed.motion.share(group, computed.moment[group.region]))
    lean = max(1.0, lean_of(computed.motion, computed.pushes) * (1 + 1e-9))
    return Aim(line, group, computed, index, effort, computed.shape[index], share, steadiness(line.set_up), lean)


def exact_ways(body: Body, jobs: Sequence[Job]) -> list[Way | None]:
    """Ways with every pose, remembered."""
    return led(body, jobs, POSES)


def fits_load(motion: Motion) -> bool:
    """Whether the body's posture depends on its load, so that the amount must be found step by step."""
    law = motion.way.balance
    return law is not None and law.held == "weight"


@dataclass(frozen=True)
class Bearing:
    """Where a source bears on a way, and what the target makes of it.

    Args:
        point: m, (pose, xyz).
        lever: Effort per newton, (pose, xyz).
        moments: Moment on the target's region per newton, m, (pose, axis, xyz).
    """

    point: Floats
    lever: Floats
    moments: Floats


def bearing(way: Way, group: Group, attachment: Attachment, sides: bool) -> Bearing:
    """What a force at an attachment does to a group, on one side or on both ``sides``."""
    motion = way.motion
    mirrored = sides and not way.single
    if attachment == USUAL or (attachment.at == motion.way.contact and not attachment.across_cm and attachment.along == 1.0):
        return Bearing(way.point, way.felt(group.id, sides), way.work[group.region].moments[int(mirrored)])
    contact = motion.way.contact if attachment.at == "usual" else attachment.at
    point = motion.point(contact, attachment.along, attachment.across_cm / 100)
    moments = per_newton(motion, group.region, contact, point, mirrored)
    lever = -np.einsum("pai,pa->pi", moments, motion.direction(group)) / way.demands[group.id].capacity[:, None]
    return Bearing(point, lever, moments)


@dataclass(frozen=True)
class Extra:
    """What further sources of fixed amounts do besides the one that is solved for.

    Args:
        effort: On the target, (pose,).
        moment: On its region, N·m, (pose, axis).
    """

    effort: Floats
    moment: Floats


def extra_of(way: Way, group: Group, sources: Sequence[Setting]) -> Extra | None:
    """The further sources' effect; None without any."""
    if not sources:
        return None
    effort, moment = np.zeros(1), np.zeros((1, 1))
    for source in sources:
        at = bearing(way, group, source.attachment, source.both_arms)
        force = force_of(way, source, at.point) * source.amount
        effort = effort + dot(force, at.lever)
        moment = moment + np.einsum("pai,pi->pa", at.moments, force)
    return Extra(effort, moment)


def law_of(way: Way, source: Setting) -> Any:
    """A source's law on a way."""
    made = getattr(source, "law_at", None)
    motion = way.motion
    return made(motion.joints[motion.movement.hinge], hinge_axis(motion)) if made else source.law()


def force_of(way: Way, source: Setting, point: Floats) -> Floats:
    """Force on the contact per unit of amount, N, (pose, xyz)."""
    return np.asarray(np.broadcast_to(law_of(way, source).force(point), (1, *point.shape))[0])


@dataclass(frozen=True)
class Listed:
    """The laws of single settings as one law with a placement axis."""

    laws: Sequence[Any]

    def force(self, grip: Floats) -> Floats:
        """See ``Law``."""
        return np.stack([np.broadcast_to(law.force(grip), (1, *grip.shape))[0] for law in self.laws])

    def checks(self, grip: Floats) -> list[Check]:
        """See ``Law``; settings of one kind have the same limits."""
        each = [law.checks(grip) for law in self.laws]
        return [replace(same[0], margin=np.array([float(np.min(c.margin)) for c in same])) for same in zip(*each, strict=True)]

    @property
    def far_end(self) -> Floats | None:
        """See ``Law``."""
        ends = [law.far_end for law in self.laws]
        return None if ends[0] is None else np.stack(ends)


def listed(way: Way, settings: Sequence[Setting]) -> Placements:
    """Settings of one kind as a batch of placements."""
    return Placements(Listed([law_of(way, s) for s in settings]), len(settings), lambda i, amount: settings[i].loaded(amount))


@dataclass(frozen=True)
class Scored:
    """A batch of placements with their scores; all (placement,)."""

    match: Floats
    amount: Floats
    parts: dict[str, Floats]


def within_kit(batch: Placements, point: Floats, refused: dict[str, int]) -> Bools:
    """Which placements keep the kit's own limits, (placement,); counts what the others break."""
    kept = np.ones(batch.count, dtype=bool)
    for check in batch.law.checks(point):
        refused[check.limit] = refused.get(check.limit, 0) + int((~check.kept).sum())
        kept &= check.kept
    return kept


def within_body(
    batch: Placements, way: Way, rows: Ints, force: Floats, both: bool, refused: dict[str, int], lean: float = 1.0
) -> Bools:
    """Which of the placements ``rows`` clear the body and leave the client standing, (row,); counts what the others break."""
    motion = way.motion
    if batch.law.far_end is None:
        return np.ones(len(rows), dtype=bool)
    far_end = batch.law.far_end[rows]
    limits = {"the bench would stand in the column or wall": bench_clearance(motion, far_end)}
    if motion.way.support == "seat":
        limits["the pull would topple the client"] = standing_hold(motion, force, both, lean)
        if motion.way.contact == "hand":
            limits["the line of pull would cut through the body"] = line_clearance(motion, far_end)
    for words, room in limits.items():
        refused[words] = refused.get(words, 0) + int((room < 0).sum())
    return np.asarray(np.min(np.stack(list(limits.values())), axis=0) >= 0)


def score(
    batch: Placements,
    way: Way,
    existing: Floats,
    aim: Aim,
    by: Lens,
    refused: dict[str, int] | None = None,
    floor: float = -1.0,
    extra: Extra | None = None,
    fixed: float | None = None,
) -> Scored | None:
    """Match of every placement that may be best; those that break a limit or cannot be best get -1. None if all break one.

    Args:
        batch: Placements of one source.
        way: What it loads, every pose.
        existing: Amounts there are, ascending.
        aim: What it is held against.
        by: The lens.
        refused: Counts what limits are broken.
        floor: Match that is of no use any more.
        extra: What further sources do.
        fixed: An amount to keep; None to solve for the aim's effort.
    """
    refused = {} if refused is None else refused
    group = aim.group
    example = batch.setting(0, float(existing[0]))
    sides = example.both_arms
    at = bearing(way, group, example.attachment, sides)
    rows = np.flatnonzero(within_kit(batch, at.point, refused))
    if not len(rows):
        return None
    demand = way.demands[group.id]
    own = demand.own if extra is None else demand.own + extra.effort
    force = np.broadcast_to(batch.law.force(at.point), (batch.count, *at.point.shape))[rows]
    per_unit = dot(force, at.lever)
    wanted = equal_effort(own, per_unit, aim.effort)
    loads = np.isfinite(wanted)
    if fixed is not None:
        amount = np.full(len(rows), fixed)
    else:
        amount = round_to_existing(np.where(loads, wanted, existing[0]), own, per_unit, aim.effort, existing)
    ratio = peak_effort(own, per_unit, amount) / aim.effort
    shape = np.maximum(0.0, (own + amount[:, None] * per_unit) * demand.capacity) @ way.bins[group.id].T
    place = np.clip(np.searchsorted(existing, amount - 1e-9), 0, len(existing) - 1)
    following = existing[np.minimum(place + 1, len(existing) - 1)]
    steady = steadiness(way.set_up(example))
    safe = np.maximum(amount, 1e-9)
    measured = Measured(
        own_peak(shape),
        ratio,
        np.full(len(rows), steady),
        following / safe,
        existing[-1] / safe,
        np.full(len(rows), bother(example, way)),
    )
    parts = parts_of(measured, aim.wanted, PARTS)
    # Without the target's share the match is an upper bound, so placements are judged in full best bound first, a chunk at
    # a time, until no other can be better.
    bound = np.where(loads, weigh(parts, np.ones(len(rows)), by), -1.0)
    order = np.argsort(-bound, kind="stable")
    match, target = np.full(len(rows), -1.0), np.zeros(len(rows))
    weight = way.work[group.region].weight if extra is None else way.work[group.region].weight + extra.moment
    for start in range(0, len(order), CHUNK):
        chunk = order[start : start + CHUNK]
        if bound[chunk[0]] <= max(match.max(), floor) and fixed is None:
            break
        pull = force[chunk] * amount[chunk, None, None]
        moment = weight + (at.moments @ pull[..., None])[..., 0]
        target[chunk] = np.minimum(1.0, way.motion.share(group, moment) / aim.share)
        kept = within_body(batch, way, rows[chunk], pull, sides, refused, aim.lean) & (bound[chunk] >= 0)
        match[chunk] = np.where(kept, target[chunk] * bound[chunk], -1.0)
    if match.max() < 0:
        return None
    spread = {k: _scatter(batch.count, rows, v, 0.0) for k, v in (parts | {"target": target}).items()}
    return Scored(_scatter(batch.count, rows, match, -1.0), _scatter(batch.count, rows, amount, 0.0), spread)


def body_score(way: Way, aim: Aim, by: Lens) -> Scored | None:
    """Match of the body as its own load, a batch of one; None where it hardly loads the target."""
    group, demand = aim.group, way.demands[aim.group.id]
    ratio = np.array([max(float(demand.own.max()), 1e-9) / aim.effort])
    if float(demand.own.max()) < 0.02:
        return None
    shape = (np.maximum(0.0, demand.own * demand.capacity) @ way.bins[group.id].T)[None]
    one = np.ones(1)
    measured = Measured(own_peak(shape), ratio, np.full(1, steadiness(way.set_up())), one, one, 0 * one)
    parts = parts_of(measured, aim.wanted, PARTS)
    target = np.atleast_1d(np.minimum(1.0, way.motion.share(group, way.work[group.region].weight) / aim.share))
    return Scored(weigh(parts, target, by), np.zeros(1), parts | {"target": target})


def _scatter(count: int, rows: Ints, values: Floats, empty: float) -> Floats:
    out = np.full(count, empty)
    out[rows] = values
    return out


def efforts(way: Way, aim: Aim, set_up: SetUp) -> tuple[Floats, Floats]:
    """Effort of body and further sources, (pose,), and per unit of the first source's amount, (pose,)."""
    own = way.demands[aim.group.id].own
    if not set_up.sources:
        return own, np.zeros_like(own)
    extra = extra_of(way, aim.group, set_up.sources[1:])
    first = set_up.sources[0]
    at = bearing(way, aim.group, first.attachment, first.both_arms)
    return own if extra is None else own + extra.effort, dot(force_of(way, first, at.point), at.lever)


def computed(way: Way, set_up: SetUp) -> Profile:
    """The full curves of a set-up on a way that is led already, held against its hard limits.

    Raises:
        DomainError: Where it breaks one.
    """
    body = way.motion.body
    if fits_load(way.motion) or set_up.lift_s is not None:
        return profile(body, set_up)
    motion = replace(way.motion, stance=set_up.stands(), both=set_up.both_arms)
    check_set_up(set_up, motion)
    loads = [push for push, _ in pushes(set_up, motion)]
    moment = dict(motion.weight_moment)
    for push in loads:
        for region, added in motion.response(push).items():
            moment[region] = moment[region] + added
    return curves(set_up, motion, loads, moment)
