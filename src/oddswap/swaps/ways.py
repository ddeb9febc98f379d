"""What a place's supports let a client do: every movement in its ways, led once, whatever may load it later.

All ways of a client stand in one batch: muscles, leverage and what a muscle makes of a force are computed for all poses of
all movements together, so that a gym's worth of movements costs a few large array operations.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import Body
from oddswap.mechanics.motion import BINS, Motion, Push, joined, with_muscles
from oddswap.mechanics.movements import Movement, Variant, movements
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.profile import SetUp
from oddswap.mechanics.sources.station import NEEDED
from oddswap.mechanics.types import Floats
from oddswap.swaps.prescription import Place

POSES = 9
"""Poses of a movement here: enough for means over parts of a muscle's length."""
FINE = 16
"""Steps between two poses when values along a path are sorted into bins of length."""
REMEMBERED = 4000
"""Ways kept in memory, of all clients."""


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
class Way:
    """A movement in one way on its supports, ready to be loaded.

    Args:
        kind: The movement.
        variant: The way.
        seat_cm: Height of the seat it is led on, cm.
        motion: Led by this client.
        demands: By target group.
    """

    kind: Movement
    variant: Variant
    seat_cm: float
    motion: Motion
    demands: dict[str, Demand]

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
    def point(self) -> Floats:
        """The usual contact, m, (pose, xyz)."""
        return self.motion.point(self.motion.way.contact)

    def set_up(self, *sources: object) -> SetUp:
        """The way as a set-up with load sources."""
        v = self.variant
        return SetUp(self.kind.id, sources, v.values, v.stance, v.recline_deg, self.seat_cm, v.pad)  # type: ignore[arg-type]


Job = tuple[str, tuple[tuple[str, float], ...], str, float, bool, float]
"""Movement, values, stance, recline, pad and seat height: what a way is led from."""
_led: dict[tuple[Body, Job], Way | None] = {}


def supported(place: Place, most: int | None = None, only: Sequence[str] | None = None) -> list[Job]:
    """What a place's benches, pads, stations and machines let one do.

    Args:
        place: Where.
        most: Ways of a movement at most, spread over all it has; None for all.
        only: Muscle groups that the movement must be for one of; None for any.
    """
    benches = [k for k in place.kit if k.kind == "bench"]
    notches = tuple(sorted({n for b in benches for n in b.notches_deg}))
    pads = tuple(sorted({k.angle_deg for k in place.kit if k.kind == "arm_pad"}))
    stations = {k.use for k in place.kit if k.kind == "station"}
    machines = {k.movement for k in place.kit if k.kind == "machine"}
    seat = benches[0].seat_cm if benches else 45.0
    out: list[Job] = []
    for kind in movements().values():
        if (kind.id in NEEDED and not stations & set(NEEDED[kind.id])) or (only and not set(only) & set(kind.targets)):
            continue
        found = [replace(v, values=kind.complete(v.values)) for v in kind.variants(notches, pads)]
        found = [v for v in found if benches or v.stance not in ("bench", "chest_pad") or kind.id in machines]
        chosen = range(len(found))
        picked = chosen if most is None else sorted({round(k) for k in np.linspace(0, len(found) - 1, min(most, len(found)))})
        out += [job_of(kind.id, found[i], seat) for i in picked]
    return list(dict.fromkeys(out))


def job_of(kind: str, v: Variant, seat: float) -> Job:
    """The job that leads a variant."""
    return kind, tuple(sorted(v.values.items())), v.stance, v.recline_deg, v.pad, seat


def ways_of(body: Body, place: Place, jobs: Sequence[Job]) -> list[Way]:
    """The jobs' ways for a client under a place's ceiling; what is out of the client's reach is left out."""
    missing = [job for job in jobs if (body, job) not in _led]
    if missing:
        if len(_led) + len(missing) > REMEMBERED:
            _led.clear()
        _led.update({(body, job): way for job, way in zip(missing, lead(body, missing), strict=True)})
    found = [_led.get((body, job)) for job in jobs]
    return [w for w in found if w is not None and w.motion.joints["head"][:, 2].max() <= place.room.ceiling]


def lead(body: Body, jobs: Sequence[Job]) -> list[Way | None]:
    """Ways of a client, all led together; None where a pose is out of reach or there is no balance."""
    made: list[Motion | None] = []
    for kind, values, stance, recline, pad, seat in jobs:
        try:
            made.append(SetUp(kind, (), dict(values), stance, recline, seat, pad).perform(body, POSES, muscles=False))
        except DomainError:
            made.append(None)
    motions = iter(with_muscles([m for m in made if m is not None]))
    led = [next(motions) if m is not None else None for m in made]
    alike: dict[object, list[int]] = {}
    for i, m in enumerate(led):
        if m is not None:
            regions = tuple(r for r in ("arm", "leg", "trunk", "girdle") if _aimed(m, r))
            rests = m.way.support, m.way.root if m.way.support != "seat" else "", m.both
            alike.setdefault((regions, m.held("arm"), m.held("leg"), m.way.contact, rests, m.regions), []).append(i)
    demands: dict[int, dict[str, Demand]] = {}
    for where in alike.values():
        demands |= dict(zip(where, _demands([led[i] for i in where if led[i] is not None]), strict=True))  # type: ignore[misc]
    out: list[Way | None] = []
    for i, (m, (_, values, stance, recline, pad, seat)) in enumerate(zip(led, jobs, strict=True)):
        out.append(None if m is None else Way(m.movement, Variant(dict(values), stance, recline, pad), seat, m, demands[i]))
    return out


def _aimed(motion: Motion, region: str) -> bool:
    """Whether the movement is for a muscle of a region that it leads."""
    return region in motion.regions and any(muscle_table().groups[t].region == region for t in motion.movement.targets)


def _demands(motions: Sequence[Motion]) -> list[dict[str, Demand]]:
    """What the targets of motions that rest and are held alike make of forces, by group."""
    one = joined(motions) if len(motions) > 1 else motions[0]
    poses = len(motions[0].part)
    out: list[dict[str, Demand]] = [{} for _ in motions]
    for name in sorted({t for m in motions for t in m.movement.targets}):
        g = muscle_table().groups[name]
        if g.region not in one.regions:
            continue
        capacity = np.maximum(one.capacity(g), 1e-6)
        # Only a trunk, or supports that answer, feel what bears on the other side.
        alone = one.way.support == "seat" and g.region != "trunk"
        lever = per_newton(one, g, False) / capacity[:, None]
        levers = lever, lever if alone else per_newton(one, g, True) / capacity[:, None]
        own, length = one.own_demand(g) / capacity, one.target_length(g)
        for i, m in enumerate(motions):
            if name in m.movement.targets:
                at = slice(i * poses, (i + 1) * poses)
                out[i][name] = Demand(own[at], levers[0][at], levers[1][at], capacity[at], length[at])
    return out


def per_newton(motion: Motion, group: Group, mirrored: bool) -> Floats:
    """Effective torque on a group per newton on the contact, m, world, (pose, xyz): moments are linear in the force."""
    point = motion.point(motion.way.contact)
    force = np.zeros((3, *point.shape))
    for axis in range(3):
        force[axis, :, axis] = 1.0
    push = Push(motion.way.contact, point, force, mirrored=mirrored)
    moments = answered(motion, push, group.region)[group.region]
    return np.asarray(np.moveaxis(-dot(moments, motion.direction(group)), 0, -1))


def answered(motion: Motion, push: Push, region: str) -> dict[str, Floats]:
    """Moments of a load on a region, N·m, and on the others where the supports' answer is computed for all anyway."""
    return {region: motion.moment(region, push)} if motion.way.support == "seat" else motion.response(push)


def binned(length: Floats, edges: Sequence[int]) -> Floats:
    """Matrices (way, span, pose) that turn values along a path into sums over bins of normalised length.

    A value's mean in each of the ``BINS`` bins is summed over the bins of every span between two ``edges``; bins that a way
    does not reach count zero. Between poses values are taken as linear.

    Args:
        length: Normalised lengths, (way, pose).
        edges: Bins where spans begin and end, ascending, (span + 1,).
    """
    count, poses = length.shape
    fine = np.linspace(0, poses - 1, FINE * poses)
    low = np.minimum(fine.astype(int), poses - 2)
    spread = np.zeros((len(fine), poses))
    rows = np.arange(len(fine))
    spread[rows, low], spread[rows, low + 1] = 1 - (fine - low), fine - low
    where = np.clip((length @ spread.T * BINS).astype(int), 0, BINS - 1)
    flat = where + BINS * np.arange(count)[:, None]
    often = np.bincount(flat.ravel(), minlength=count * BINS)
    weight = 1.0 / often[flat]
    span = np.searchsorted(np.asarray(edges), where, side="right") - 1
    member = span[:, None] == np.arange(len(edges) - 1)[:, None]
    return np.asarray((member * weight[:, None]) @ spread)
