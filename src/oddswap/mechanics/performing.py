"""A movement performed: poses along its path, and muscles at every pose."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import Arm, ArmPath
from oddswap.mechanics.balance import Loads, solve_balance
from oddswap.mechanics.body import Body, within_ranges
from oddswap.mechanics.leading import Following, Lead, lead_arm
from oddswap.mechanics.leg import COORDINATES as LEG_COORDINATES
from oddswap.mechanics.leg import within_leg_ranges
from oddswap.mechanics.motion import SCAPULA_RADIUS, Motion
from oddswap.mechanics.movement import BOTH_SIDES, Movement, Path, Sides
from oddswap.mechanics.muscle_regions import MuscleState
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.skeleton import Built, Skeleton, build_many
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.types import Floats

POSES = 31
"""Poses along a repetition."""

LEAST_RANGE = 0.1
"""Least part of the whole way that a repetition goes over."""


@dataclass(frozen=True)
class Performance:
    """What a motion follows from, besides the client.

    Args:
        movement: What is done.
        values: Parameter values; defaults fill what is missing.
        stance: How the body is carried.
        pad: Whether a pad carries the upper arm.
        sides: Which limbs work on both sides.
        loads: What loads the body, where balance is solved for.
        lead: What the load makes of the forearm's direction; None where it goes the movement's own way.
    """

    movement: Movement
    values: dict[str, float]
    stance: Stance
    pad: bool = False
    sides: Sides = BOTH_SIDES
    loads: Loads | None = None
    lead: Lead | None = None

    @cached_property
    def likeness(self) -> object:
        """Equal for those whose bodies go the same way but for the arm that a load leads."""
        balanced = id(self) if self.loads is not None else 0
        return self.movement.id, tuple(sorted(self.values.items())), self.stance, self.sides, balanced

    @cached_property
    def is_led(self) -> bool:
        """Whether its load leads an arm."""
        return self.lead is not None and bool(self.movement.led)


def perform(body: Body, wanted: Performance, poses: int = POSES, muscles: bool = True) -> Motion:
    """Take ``body`` through a movement.

    Args:
        body: The client.
        wanted: The movement, and how it is done.
        poses: How many poses.
        muscles: Whether muscles are followed too; ``with_muscles`` does it for many motions at once.

    Raises:
        DomainError: For parameter values outside their ranges, poses that no joint reaches, or no balance.
    """
    found = perform_many(body, [wanted], poses)[0]
    if isinstance(found, DomainError):
        raise found
    return with_muscles([found])[0] if muscles else found


def perform_many(body: Body, wanted: Sequence[Performance], poses: int = POSES) -> list[Motion | DomainError]:
    """Motions without their muscles, bodies that rest alike posed together; an error in place of what cannot be."""
    # Loads that lead an arm another way leave the rest of the body where it is: it is placed once for all of them.
    distinct = {w.likeness: w for w in wanted}
    ways = dict(zip(distinct, _in_step(body, [_whole_way(body, w, poses) for w in distinct.values()]), strict=True))
    found: list[Any] = [ways[w.likeness] for w in wanted]
    led = [i for i, w in enumerate(wanted) if w.is_led and isinstance(found[i], Built) and found[i].path.arm is not None]
    bare = {id(found[i]): found[i] for i in led}
    arms = dict(zip(bare, (skeleton.arm for skeleton in build_many(body, list(bare.values()))), strict=True))
    for i in led:
        found[i] = _led(body, wanted[i], found[i], poses, arms[id(found[i])])
    there = [i for i, f in enumerate(found) if isinstance(f, Built)]
    for i in there:
        found[i] = replace(found[i], path=_cut(found[i].path, poses))
    for i, skeleton in zip(there, build_many(body, [found[i] for i in there]), strict=True):
        motion = as_motion(body, found[i], skeleton, wanted[i].pad)
        try:
            check_ranges(motion)
            found[i] = motion
        except DomainError as error:
            found[i] = error if not wanted[i].is_led else _out_of_line(wanted[i].movement)
    return found


def _in_step(body: Body, works: Sequence[Generator[Built, Motion, Built | DomainError]]) -> list[Built | DomainError]:
    """What generators come to that ask for bodies to be placed: all that are asked for at a time are placed together."""
    ends: dict[int, Built | DomainError] = {}
    asked: dict[int, Built] = {}

    def go_on(i: int, motion: Motion | None) -> None:
        try:
            asked[i] = works[i].send(motion)  # type: ignore[arg-type]
        except StopIteration as end:
            ends[i] = end.value

    for i in range(len(works)):
        go_on(i, None)
    while asked:
        answered = list(asked.items())
        asked.clear()
        for (i, built), skeleton in zip(answered, build_many(body, [built for _, built in answered]), strict=True):
            go_on(i, as_motion(body, built, skeleton))
    return [ends[i] for i in range(len(works))]


def _whole_way(body: Body, wanted: Performance, poses: int) -> Generator[Built, Motion, Built | DomainError]:
    """The body's path over the whole way, and then over the part that is done where that is less."""
    try:
        complete = wanted.movement.complete(wanted.values)
        first, last = complete["range_from_pct"] / 100, complete["range_to_pct"] / 100
        if last - first < LEAST_RANGE:
            limit = f"a repetition goes over at least {LEAST_RANGE:.0%} of the whole way"
            raise DomainError("parameters.range_to_pct", complete["range_to_pct"], limit, "Let it end farther from its start")
        part = np.linspace(0.0, 1.0, poses)
        # A part of the way is cut out of the whole, which says where an arm hangs and how far apart hands hold a bar.
        way = part if (first, last) == (0.0, 1.0) else np.concatenate([part, first + (last - first) * part])
        free, bare = np.zeros(len(way)), Built(wanted.movement, Path(way), wanted.stance, complete, wanted.sides)
        if wanted.movement.support(complete).balance is not None:
            free = yield from solve_balance(body, bare, way, wanted.loads)
        return replace(bare, path=wanted.movement.path(complete, way, free, body))
    except DomainError as error:
        return error


def _led(body: Body, wanted: Performance, built: Built, poses: int, bare: Arm) -> Built:
    """With the arm in its load's line, which the ``bare`` arm says where to look from."""
    lead, arm = wanted.lead, built.path.arm
    assert lead is not None
    assert arm is not None
    lean_in, grip = float(np.radians(built.values.get("lean_in_deg", 0.0))), built.values.get("grip_cm", 0.0) / 100
    following = Following(wanted.movement.led, built.path.part, poses, lean_in, grip)
    return replace(built, path=replace(built.path, arm=lead_arm(body, following, arm, lead, bare.shoulder, bare.torso)))


def _cut(path: Path, poses: int) -> Path:
    """The part of the way that is done, counted from 0 to 1."""
    return path if len(path.part) == poses else replace(last_poses(path, poses), part=np.linspace(0.0, 1.0, poses))


def _out_of_line(movement: Movement) -> DomainError:
    """Where an arm cannot follow its load."""
    limit = "the arm must be able to follow the load's line, which here would turn it farther than its joints go"
    return DomainError("sources.0", movement.id, limit, "Place the load where the movement pulls or presses")


def last_poses(path: Path, count: int) -> Path:
    """The last poses of a path, (pose,)."""

    def cut(value: Any) -> Any:
        if isinstance(value, ArmPath):
            return ArmPath(*(cut(getattr(value, f.name)) for f in fields(ArmPath)))
        return value[-count:] if isinstance(value, np.ndarray) and value.ndim and len(value) == len(path.part) else value

    return Path(**{f.name: cut(getattr(path, f.name)) for f in fields(Path)})


def as_motion(body: Body, built: Built, skeleton: Skeleton, pad: bool = False) -> Motion:
    """A body that is placed, as a motion without its muscles and without a look at joint ranges; ``pad`` carries an arm."""
    path, stance, movement, values = built.path, built.stance, built.movement, dict(built.values)
    count = len(path.part)
    coords: dict[str, Floats] = {}
    support = movement.support(values)
    rests = support.forearm_rests
    if path.arm is not None and not rests:
        coords["arm"] = path.arm.coordinates()
    if path.side is not None:
        coords["waist"] = path.side[:, None]
    if path.arm is not None and path.arm.wrist is not None:
        coords["wrist"] = path.arm.wrist[:, None]
    if path.leg is not None:
        coords["leg"] = path.leg
    if (path.arm is not None and not rests) or path.scapula is not None:
        shift = np.zeros((count, 3)) if path.scapula is None else path.scapula
        coords["scapula"] = shift[:, [0, 2]] / SCAPULA_RADIUS
    if stance.kind not in ("bench", "chest_supported") and not (stance.kind == "lying" and support.base == "seat"):
        # On a bench the rest carries the trunk, and the floor one that lies still.
        coords["trunk"] = np.broadcast_to(np.asarray(path.lumbar, float), (count,))[:, None]
    return Motion(body, movement, values, stance, path.part, coords, skeleton, {}, pad, built.sides, path.hold)


def with_muscles(motions: Sequence[Motion]) -> list[Motion]:
    """Motions posed without their muscles, with them: one evaluation a region for all."""
    states: list[dict[str, MuscleState]] = [{} for _ in motions]
    for name, region in muscle_table().regions.items():
        where = [i for i, m in enumerate(motions) if name in m.coords]
        if where:
            whole = region.evaluate_many(np.concatenate([motions[i].coords[name] for i in where]))
            end = 0
            for i in where:
                start, end = end, end + len(motions[i].part)
                states[i][name] = MuscleState(whole.length[start:end], whole.moment_arm[start:end])
    return [replace(m, muscles=state) for m, state in zip(motions, states, strict=True)]


def concatenate(motions: Sequence[Motion]) -> Motion:
    """Motions of one body laid end to end, so that what depends on poses alone is computed for all at once.

    They must rest and be held alike; movement, values and stance are the first one's.
    """
    first = motions[0]
    at = [m.skeleton for m in motions]

    def limb(which: str) -> Any:
        parts = [getattr(s, which) for s in at]
        names = [f.name for f in fields(parts[0]) if f.name != "masses"]
        return replace(parts[0], **{n: np.concatenate([getattr(p, n) for p in parts]) for n in names})

    skeleton = Skeleton(
        {k: np.concatenate([s.joints[k] for s in at]) for k in at[0].joints},
        np.concatenate([s.torso for s in at]),
        np.concatenate([s.pelvis for s in at]),
        limb("arm"),
        limb("leg"),
        at[0].masses,
        np.concatenate([s.centres for s in at]),
        at[0].upper,
    )
    states = {
        region: MuscleState.of(
            np.concatenate([m.muscles[region].length.T for m in motions], axis=-1),
            np.concatenate([m.muscles[region].moment_arm.T for m in motions], axis=-1),
            (sum(len(m.part) for m in motions),),
        )
        for region in first.muscles
        if all(region in m.muscles for m in motions)
    }
    part = np.concatenate([m.part for m in motions])
    return replace(first, part=part, skeleton=skeleton, muscles=states)


def check_ranges(motion: Motion) -> None:
    """Raise ``DomainError`` where a pose lies outside the joint ranges, published or the client's own."""
    given = {k: round(v, 1) for k, v in motion.values.items()}
    way = "Choose values nearer the movement's defaults"
    plane, elevation, rotation, elbow, pronation = (
        np.moveaxis(motion.coords["arm"], -1, 0) if "arm" in motion.coords else np.zeros((5, 1))
    )
    if not within_ranges(plane, elevation, rotation, elbow, pronation, motion.body).all():
        raise DomainError("parameters", given, "every pose must lie within the arm's joint ranges", way)
    if "leg" in motion.coords:
        names = ("hip_flexion", "hip_adduction", "hip_rotation", "knee", "ankle")
        off = within_leg_ranges(motion.coords["leg"], {n: motion.body.range(n) for n in names}).max(axis=0)
        if off.max() > 0.01:
            worst = LEG_COORDINATES[int(off.argmax())]
            limit = f"every pose must lie within the joint ranges; {worst} is {off.max():.0f}° over"
            raise DomainError("parameters", given, limit, way)
