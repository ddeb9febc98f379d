"""What is prescribed, for whom, and where: the input of a swap."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from oddswap.equipment.base.item import Room
from oddswap.equipment.base.positions import ELBOW_ROOM
from oddswap.equivalence.profile import Profile, profile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import Wanted, own_peak, stability
from oddswap.equivalence.set_effort import SetEffort, effort_under, handling, handling_over
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import lean_of
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.types import Floats

USUAL_SEAT_CM = 45.0
"""Height of a seat where a place has no bench, cm (own estimate)."""


@dataclass(frozen=True)
class PrescribedLine:
    """One prescribed exercise.

    Args:
        target: Muscle group it is for.
        set_up: How it is prescribed.
        sets: Number of sets.
        reps_low: Fewest reps of a set.
        reps_high: Most reps of a set.
        rir: Repetitions left in reserve.
    """

    target: str
    set_up: SetUp
    sets: int
    reps_low: int
    reps_high: int
    rir: int

    @property
    def reps(self) -> tuple[int, int, int]:
        """Fewest and most repetitions, and those in reserve."""
        return self.reps_low, self.reps_high, self.rir

    def verify(self) -> None:
        """Raise ``DomainError`` where the line cannot be."""
        groups = muscle_table().groups
        if self.target not in groups:
            raise DomainError("target", self.target, f"the muscle groups are {', '.join(groups)}", "Pick one of these")
        if self.reps_high < self.reps_low:
            raise DomainError("reps_high", self.reps_high, f"at least reps_low, {self.reps_low}", "Swap the two")
        try:
            targets = movement(self.set_up.movement).targets
            self.set_up.variant()
        except DomainError as error:
            raise error.at("set_up") from None
        if self.target not in targets:
            raise DomainError("target", self.target, f"this movement is for {', '.join(targets)}", "Pick one of these")


class Rests(NamedTuple):
    """Whether there is a bench, and an arm pad."""

    bench: bool
    pad: bool


@dataclass(frozen=True)
class Place:
    """Somewhere a client trains: its room, its kit items, and where those stand that were put somewhere, m, by id."""

    name: str
    room: Room
    kit: Sequence[Any]
    spots: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def within_reach(self, one: Any, other: Any) -> bool:
        """Whether two items can be used at once: one is brought to the other, or they stand near, as far as is known."""
        if one.carried_about or other.carried_about or not {one.id, other.id} <= set(self.spots):
            return True
        (x, y), (u, v) = self.spots[one.id], self.spots[other.id]
        return bool(np.hypot(x - u, y - v) <= rules("combined")["apart_m"])

    @property
    def seat_cm(self) -> float:
        """Height of the first bench's seat, cm, or the usual one."""
        return next((float(k.seat_cm) for k in self.kit if k.notches), USUAL_SEAT_CM)

    @property
    def rests(self) -> Rests:
        """What there is to rest on."""
        return Rests(any(k.notches for k in self.kit), any(k.pad_angles for k in self.kit))

    @property
    def movable_rests(self) -> Rests:
        """The same of what can be moved to a column or an anchor."""
        return replace(self, kit=[k for k in self.kit if k.comes_along]).rests

    @property
    def farthest(self) -> float:
        """How far off the room allows a column or an anchor to stand, m: its longer side less elbow room."""
        return max(self.room.length, self.room.width) - ELBOW_ROOM

    def without_machines(self) -> Place:
        """The same without what is built for one movement."""
        return replace(self, kit=[k for k in self.kit if not k.built_for])

    def verify(self) -> None:
        """Raise ``DomainError`` where items contradict themselves or each other."""
        seen: set[str] = set()
        for i, item in enumerate(self.kit):
            if item.id in seen:
                raise DomainError(f"kit.{i}.id", item.id, "every item has an id of its own", "Rename one of the two")
            seen.add(item.id)
            try:
                item.verify()
            except DomainError as error:
                raise error.at(f"kit.{i}") from None


@dataclass(frozen=True)
class PrescriptionProfile:
    """What a swap is held against, computed once a line.

    Args:
        line: The prescription.
        group: Its target.
        profile: Its curves for this client.
        index: Row of the target in the profile's groups.
        relative_effort: Peak effort of the target.
        resistance_profile: N·m, (bin,).
        share: Part of the load that the target carries.
        stability: How steady the prescribed set-up is.
        lean: Times the usual hold against tipping that it asks for, at least 1: who leans into it may lean into a swap.
        felt: Times its nominal load that a machine which was never measured is felt as, by the line's repetitions.
    """

    line: PrescribedLine
    group: Group
    profile: Profile
    index: int
    relative_effort: float
    resistance_profile: Floats
    share: float
    stability: float
    lean: float = 1.0
    felt: float = 1.0

    @property
    def body(self) -> Body:
        """The client."""
        return self.profile.motion.body

    @cached_property
    def wanted(self) -> Wanted:
        """What set-ups are compared with."""
        return Wanted(own_peak(self.resistance_profile), self.stability, self.group.id)

    @cached_property
    def lift_kind(self) -> LiftKind:
        """Which joints and muscles it works."""
        return LiftKind.of(self.profile.motion)

    @cached_property
    def effort(self) -> SetEffort:
        """What ends its set."""
        p = self.profile
        return effort_under(p.set_up, p.motion, p.moment, p.pushes)

    @property
    def working(self) -> float:
        """Effort, parts of the limit, that its most repetitions and its reserve stand for (Epley 1985)."""
        return working_effort(self.line)

    @property
    def lasting(self) -> float:
        """Effort, parts of the limit, that a set which is as long ends at."""
        return float(max(self.effort.limiting, self.working))

    def felt_of(self, set_up: SetUp) -> float:
        """Times its nominal load that a set-up's is felt as: more than once where it is on a machine like the prescribed one,
        which was never measured."""
        source = set_up.sources[0] if set_up.sources else None
        alike = source is not None and not source.known and set_up.movement == self.line.set_up.movement
        return self.felt if alike else 1.0

    def handling_of(self, set_up: SetUp) -> float:
        """What hands can use of a load on a set-up's kit over what they can on the prescribed one's, a ratio; of a nominal load
        that is felt as more, so much less."""
        return handling_over(set_up, self.line.set_up) / self.felt_of(set_up)

    def counted_for(self, set_up: SetUp) -> float:
        """Times its peak effort that a set-up's repetitions are counted against: more where that has nothing to hold."""
        return 1.0 if set_up.sources else self._empty_handed

    @cached_property
    def _empty_handed(self) -> float:
        """At least 1: what hands cannot use of a load they could of the body's own weight."""
        p, group = self.profile, self.group
        own = -dot(p.motion.weight_moment[group.region], p.motion.direction(group)) / np.maximum(p.motion.capacity(group), 1e-6)
        felt = own + (p.relative_effort[self.index] - own) / handling(p.set_up)
        return max(1.0, float(felt.max()) / self.relative_effort)

    @cached_property
    def levels(self) -> dict[str, float]:
        """By equivalence, the relative effort that a swap is to equal: at the hardest point, on average, in the stretch."""
        curve = self.profile.relative_effort[self.index]
        weights = level_weights(self.profile.motion.binning(self.group))
        return {"hardest": self.relative_effort} | {name: float(w @ curve) for name, w in weights.items()}


def working_effort(line: PrescribedLine) -> float:
    """Effort, parts of the limit, that a line's most repetitions and its reserve stand for (Epley 1985)."""
    _, most, reserve = line.reps
    return float(1.0 / (1.0 + (most + reserve) / rules("loading")["repetitions"]["slope"]))


def level_weights(bins: Floats) -> dict[str, Floats]:
    """Weights (pose,) that turn effort along a variant into its mean over the muscle's length, and over the lengthened half of
    what is reached; ``bins`` (bin, pose) as of ``Motion.binning``."""
    reached = np.flatnonzero(bins.sum(axis=1) > 0)
    long = reached[: max(1, len(reached) // 2)]
    return {name: np.asarray(bins[rows].mean(axis=0)) for name, rows in (("mean", reached), ("lengthened", long))}


def profile_prescription(line: PrescribedLine, body: Body) -> PrescriptionProfile:
    """Compute what the prescription asks of this client.

    Raises:
        DomainError: If the prescribed set-up cannot be, or leaves its target unloaded.
    """
    line.verify()
    group = muscle_table().groups[line.target]
    try:
        found = profile(body, line.set_up)
    except DomainError as error:
        raise error.at("set_up") from None
    index = found.row(line.target)
    if float(found.relative_effort[index].max()) < LEAST_EFFORT:
        raise DomainError("target", line.target, "the prescribed set-up must load its target", "Check movement and load")
    felt = 1.0
    if line.set_up.sources and not line.set_up.sources[0].known:
        felt, found = _felt_by_repetitions(line, found)
    effort = float(found.relative_effort[index].max())
    share = float(found.motion.share(group, found.moment[group.region]))
    lean = max(1.0, lean_of(found.motion, found.pushes) * (1 + 1e-9))
    steady, shape = stability(line.set_up), found.resistance_profile[index]
    return PrescriptionProfile(line, group, found, index, effort, shape, share, steady, lean, felt)


def _felt_by_repetitions(line: PrescribedLine, found: Profile) -> tuple[float, Profile]:
    """How many times its nominal load a machine that was never measured is felt as, and the curves under that load.

    Its pin says nothing of how hard it is, but the line's repetitions do: what ends the set is at the effort they stand for.
    """
    amount, wanted = line.set_up.sources[0].amount, working_effort(line)
    felt, tried = 1.0, found
    for _ in range(FEELS):
        limiting = effort_under(tried.set_up, tried.motion, tried.moment, tried.pushes).limiting
        felt = float(np.clip(felt * wanted / max(limiting, LEAST_EFFORT), 1 / MOST_FELT, MOST_FELT))
        tried = profile(found.motion.body, line.set_up.with_amount(felt * amount), check=False)
    return felt, tried


FEELS, MOST_FELT = 3, 8.0
"""Steps to what a machine is felt as, and how many times its nominal load that may be at most; own choice."""
LEAST_EFFORT = 1e-3
"""Relative effort under which a set-up does not load its target at all."""
