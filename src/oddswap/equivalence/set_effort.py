"""What ends a set: the joint that works nearest its limit among those that move, or the grip, not the target alone.

A joint's effort is the torque that its muscles must give over what they could give together the same way. It grows with the
load beyond all bounds, unlike an activation, so that loads can be compared by it.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, cached_property, reduce
from typing import Any

import numpy as np

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp, pushes, total_moment
from oddswap.mechanics.arm import cross, dot, unit
from oddswap.mechanics.body import GRAVITY, borne_across, tables
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.muscle_regions import AXES, JOINTS
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.push import Push
from oddswap.mechanics.stance import KNEELING
from oddswap.mechanics.types import Floats

ENDING = {region: joints for region, joints in JOINTS.items() if region != "scapula"}
"""Joints whose muscles may end a set, by region."""
HANGING, AT_CHEST = 1.0, 2.0
"""Choices of a lift on the feet where the arms hang down with its load, and where they hold it before the chest."""
PLACE_WORDS = {"lift": "bodyweight that holds you down", "slide": "feet's hold on the floor", "roll": "bench's hold on you"}
"""What gives way where the body leaves its place."""
HINGES: tuple[tuple[str, str], ...] = (("arm", "elbow"), ("leg", "knee"))
"""Joints that bend one way only, by region."""


@dataclass(frozen=True)
class SetEffort:
    """What a set-up asks besides its target; every value is the peak over the movement, of a batch of placements one each,
    (placement,).

    Args:
        moving: By joint that the movement moves, and ``grip``: effort, parts of what there is.
        still: By joint that only holds: the same.
        sideways: By hinge joint: torque across its hinge over what is borne, parts.
        place: By what would move the body off its place (``lift``, ``slide``, ``roll``): over what holds it there, parts.
        on_leg: What each working leg carries of free weights and body, kg; 0 where no free weight is lifted on the feet.
    """

    moving: Mapping[str, Any]
    still: Mapping[str, Any]
    sideways: Mapping[str, Any]
    place: Mapping[str, Any]
    on_leg: float = 0.0

    @cached_property
    def limiting(self) -> Any:
        """The effort that ends the set: the greatest of what moves, the more the farther something else holds beyond its limit.

        A hold counts from its limit on, and by no leap there: that the trunk is asked a thirtieth more or less than it can give
        makes no other set of it.
        """
        return self.most_moving * reduce(np.maximum, self.still.values(), 1.0)

    @cached_property
    def most_moving(self) -> Any:
        """The greatest effort of what moves."""
        return reduce(np.maximum, self.moving.values(), 0.0)

    def ended_by(self, joint: str) -> Any:
        """The effort that ends the set where a joint is what ends it, 0 where another does."""
        return np.where(self.moving[joint] >= self.most_moving, self.limiting, 0.0) if joint in self.moving else 0.0

    @cached_property
    def limiting_joint(self) -> str:
        """Where what moves is nearest its limit: a joint or ``grip``."""
        return max(self.moving, key=lambda k: self.moving[k], default="")

    @cached_property
    def hardest(self) -> tuple[str, float]:
        """What is asked most of what moves, or holds at its limit or beyond, and how much: a joint or ``grip``, parts."""
        every = {**{k: e for k, e in self.still.items() if e >= 1.0}, **self.moving}
        return max(every.items(), key=lambda one: one[1], default=("", 0.0))

    def beyond(self, other: SetEffort, working: float, most: float) -> tuple[float, str]:
        """How far it goes beyond what another asks, over 1 where it does, and where it goes so.

        What moves may be asked ``most`` times the most of what moves there: that something else only held beyond its limit is
        no leave. What only holds may reach its limit, and a hinge be pressed sideways as far as it bears, or each as far as in
        the other.

        Args:
            other: What the prescription asks.
            working: Effort that its repetitions and reserve stand for, where it is computed to ask less of this client.
            most: How many times as much is still the same, as loads go in steps.
        """
        over = self.over(other, working, most)
        worst = max(over, key=lambda k: over[k], default="")
        return over.get(worst, 0.0), worst

    def over(self, other: SetEffort, working: float, most: float) -> dict[str, Any]:
        """The same by where, over 1 where it goes beyond; see ``beyond``."""
        allowed = most * max([*other.moving.values(), working])
        over = {joint: e / allowed for joint, e in self.moving.items()}
        for joint, e in self.still.items():
            over[joint] = np.maximum(over.get(joint, 0.0), e / max(1.0, most * other.still.get(joint, 0.0)))
        for joint, e in self.sideways.items():
            over[f"side of the {joint}"] = e / max(1.0, most * other.sideways.get(joint, 0.0))
        for how, e in self.place.items():
            over[PLACE_WORDS[how]] = e / max(1.0, most * other.place.get(how, 0.0))
        if self.on_leg and other.on_leg:
            # Whoever lifts no more than this was never under more: joints of two lifts are not known well enough to say so.
            over["legs under the weight"] = self.on_leg / (float(rules("loading")["effort"]["on_leg"]) * other.on_leg)
        return over


def set_effort(set_up: SetUp, motion: Motion) -> SetEffort:
    """What a set-up asks of joints and grip at its own load."""
    loads = pushes(set_up, motion)
    return effort_under(set_up, motion, total_moment(set_up, motion, loads), loads)


def handling(set_up: SetUp) -> float:
    """What hands use on a set-up's first source of a strength that they would on a bar, parts: holding and balancing cost."""
    table = rules("loading")["handling"]
    if not set_up.sources:
        return 1.0
    first = set_up.sources[0]
    if set_up.support.base in ("feet", "two feet") and set_up.parameters.get("hold") == AT_CHEST:
        return float(table["at_chest_bar" if first.kind == "barbell" else "at_chest"])
    if first.attachment.at == "hips":
        return 1.0  # nothing is held up
    name = first.item.sort if first.item is not None and first.item.sort in table else first.kind
    # A cuff on one leg is no handle in one hand.
    in_hand = (set_up.support.contact if first.attachment.at == "usual" else first.attachment.at) == "hand"
    return float(table.get(f"{name}{handling_suffix(first) if in_hand else ''}", table.get(name, 1.0)))


def handling_over(set_up: SetUp, prescribed: SetUp) -> float:
    """What hands can use of a load on a set-up's kit over what they can on the prescribed one's, a ratio."""
    return handling(set_up) / handling(prescribed)


def handling_suffix(source: Setting) -> str:
    """What tells uses of one kind of load apart in the table of handling factors."""
    if source.grip != "handle":
        return "_shared" if source.line else ""
    return "_shared" if source.between_hands else "" if source.both_sides else "_one"


def effort_under(set_up: SetUp, motion: Motion, moment: Mapping[str, Floats], loads: Sequence[Push]) -> SetEffort:
    """What a set-up asks of joints and grip, its loads and their moments known.

    Args:
        set_up: What is done.
        motion: The movement.
        moment: Of loads, weights and supports by region, N·m, (pose, axis).
        loads: The loads' pushes.
    """
    grips, moves = [s.grip for s in set_up.sources], moving_joints(motion)
    return effort_of_loads(motion, moves, moment, loads, grips, carried_by_leg(set_up, motion))


def effort_of_loads(
    motion: Motion,
    moves: Collection[str],
    moment: Mapping[str, Floats],
    loads: Sequence[Push],
    grips: Sequence[str],
    on_leg: float = 0.0,
) -> SetEffort:
    """The same of one placement, or of a batch.

    Args:
        motion: The movement.
        moves: Its ``moving_joints``.
        moment: Of loads, weights and supports by region, N·m, (..., pose, axis).
        loads: The loads' pushes, N, (..., pose, xyz).
        grips: What hands hold of each.
        on_leg: What each working leg carries, kg.
    """
    moving, still = dict[str, Any](), dict[str, Any]()
    for (region, joint), effort in joint_efforts(motion, moment).items():
        peak = effort.max(axis=-1)
        if joint in moves:
            moving[joint] = peak
        elif region != "trunk" or motion.support.base != "seat":
            still[joint] = peak
    if "wrist" not in motion.regions and np.any((bent := knuckles_up(motion, loads).max(axis=-1)) > 0):
        still["wrist"] = bent
    held = grip_effort(motion, loads, grips)
    moving |= {"grip": held.max(axis=-1)} if held.any() else {}
    return SetEffort(moving, still, sideways_torque(motion, loads), off_place(motion, loads), on_leg)


def carried_by_leg(set_up: SetUp, motion: Motion) -> float:
    """What each working leg carries of free weights and of the body, kg; 0 without a free weight lifted on the feet."""
    if motion.support.base not in ("feet", "two feet"):
        return 0.0
    free = [s for s in set_up.sources if s.kind in ("barbell", "dumbbell")]
    if not free or len(free) < len(set_up.sources):
        return 0.0
    mass = sum(s.amount * (2 if s.splits else 1) for s in free)
    legs = 1 if motion.support.base == "two feet" or motion.support.one_foot else 2
    above = 1 - 2 * sum(motion.body.segment_mass(part) for part in ("shank", "foot")) / motion.body.mass
    return float(mass + above * motion.body.mass) / legs


def joint_efforts(motion: Motion, moment: Mapping[str, Floats]) -> dict[tuple[str, str], Floats]:
    """Effort of every joint by region and name, (..., pose).

    Args:
        motion: The movement.
        moment: By region, N·m, (..., pose, axis).
    """
    out = {}
    for region in motion.regions:
        arms, strongest = motion.free_moment_arm(region), motion.strongest(region)
        for joint in ENDING.get(region, ()):
            axes = np.array([name.startswith(joint) for name in AXES[region]])
            asked = -moment[region][..., axes]
            held = motion.held(region)
            if held and joint in ("shoulder", "hip"):
                asked = asked * (np.arange(axes.sum()) >= held)
            size = np.sqrt(dot(asked, asked))
            way = asked / np.maximum(size, 1e-9)[..., None]
            given = np.maximum(0.0, (arms[..., axes] @ way[..., None])[..., 0])
            # A joint that nearly nothing is asked of has no limit worth naming.
            out[region, joint] = size / np.maximum((strongest * given).sum(axis=-1), rules("loading")["effort"]["least_torque"])
    return out


def joint_of(motion: Motion, group: Group) -> str:
    """The joint at which a group works along a motion; of two that it crosses the one that it turns more."""
    turns = np.abs(motion.direction(group)).max(axis=0)
    by = {joint: turns[[name.startswith(joint) for name in AXES[group.region]]] for joint in ENDING.get(group.region, ())}
    return max(by, key=lambda joint: float(by[joint].max(initial=0.0)), default="")


def moving_joints(motion: Motion) -> set[str]:
    """Joints that a movement moves by more than they sway."""
    rule = np.radians(rules("loading")["effort"]["moves_deg"])
    names: dict[str, dict[str, tuple[int, ...]]] = {
        "arm": {"shoulder": (0, 1, 2), "elbow": (3,)},
        "leg": {"hip": (0, 1, 2), "knee": (3,), "ankle": (4,)},
        "trunk": {"trunk": (0,)},
        "wrist": {"wrist": (0,)},
        "waist": {"waist": (0,)},
    }
    out = set()
    for region, joints in names.items():
        if region not in motion.coords or region not in motion.regions:
            continue
        for joint, columns in joints.items():
            if joint == "shoulder":
                # Planes jump where the arm hangs or points up: the arm's own direction tells whether it moves.
                arm = np.einsum("pji,pj->pi", motion.arm.torso, unit(motion.arm.elbow - motion.arm.shoulder))
                swept = float(np.arccos(np.clip(arm @ arm[0], -1.0, 1.0)).max())
                turned = float(np.ptp(motion.coords["arm"][:, 2]))
                moved = max(swept, turned)
            else:
                moved = float(np.ptp(motion.coords[region][:, columns], axis=0).max())
            if moved > rule:
                out.add(joint)
    return out


def off_place(motion: Motion, loads: Sequence[Push]) -> dict[str, Any]:
    """What loads do to lift the body, slide it or roll it off its bench, over what holds it there, by which of the three."""
    if motion.support.base not in ("seat", "feet") or not loads:
        return {}
    rule, weight = tables()["holding"], motion.body.mass * GRAVITY
    totals = [push.total() for push in loads]
    force, about = (reduce(np.add, [t[k] for t in totals]) for k in (0, 1))
    up = np.maximum(force[..., 2], 0.0)
    out = {"lift": (up / (rule["lifted"] * weight)).max(axis=-1)}
    kind = motion.stance.kind
    if kind in ("standing", *KNEELING, "sitting") or motion.stance.rested:
        # Feet braced against the column, or in the band itself, hold what pulls forward; a pad what pushes into it.
        held = -1.0 if kind == "sitting" else motion.stance.rested
        along = np.maximum(force[..., 0] * held, 0.0) if held else force[..., 0]
        level = np.hypot(along, force[..., 1])
        out["slide"] = (level / (rule["friction"] * np.maximum(weight - force[..., 2], 0.05 * weight))).max(axis=-1)
    if kind in ("bench", "chest_supported") and motion.stance.recline < np.radians(rule["steep_deg"]):
        seat = motion.joints["hips"]
        rolling = np.abs(about[..., 0] - cross(seat, force)[..., 0])
        out["roll"] = (rolling / (rule["bench_half"] * weight)).max(axis=-1)
    return out


def grip_effort(motion: Motion, loads: Sequence[Push], grips: Sequence[str]) -> Floats:
    """Force on the hand over what a hand of this size holds for a set, (..., pose); zero where nothing hangs on the hand."""
    table = tables()["grip"]
    most = table[motion.body.sex] * (motion.body.stature / 1.75) ** 2
    pulls = np.zeros((len(motion.part), 3))
    kind = 1.0
    for grip, push in zip(grips, loads, strict=True):
        if push.contact == "hand":
            pulls = pulls + push.force
            kind = min(kind, table["rope"] if grip == "rope" else 1.0)
    if motion.support.base == "hands":
        pulls = pulls + np.array([0.0, 0.0, motion.body.mass * GRAVITY / 2])
    # What presses into the palm needs no grip.
    fingers = unit(motion.arm.grip - motion.arm.wrist)
    size = np.linalg.norm(pulls, axis=-1)
    pressed = (pulls * fingers).sum(axis=-1) < -0.5 * size
    return np.asarray(np.where(pressed, 0.0, size / (most * kind)))


def knuckles_up(motion: Motion, loads: Sequence[Push]) -> Floats:
    """What loads that hang on the fingers of a palm turned down ask of the wrist's extensors, parts of what they can,
    (..., pose).

    The whole way from wrist to grip is the load's lever there; a hand that may give a little lies in the line of a pull that is
    nearly the forearm's own. A load that lies in a palm turned up, or is pressed away, bears near the wrist and counts for
    nothing.
    """
    hand, pulls = motion.arm.grip - motion.arm.wrist, np.zeros((len(motion.part), 3))
    for push in loads:
        if push.contact == "hand":
            pulls = pulls + push.force
    palm = unit(cross(motion.arm.thumb, hand))
    most = wrist_extension() * motion.body.strength
    along, across = dot(pulls, unit(hand)), np.maximum(dot(pulls, palm), 0.0)
    size, angle = np.hypot(along, across), np.arctan2(across, along)
    # A hand in the line of pull gives; one that the pull lies square to has nowhere to go.
    gives = np.radians(rules("loading")["effort"]["wrist_gives_deg"]) * np.maximum(np.cos(angle), 0.0)
    return np.asarray(np.linalg.norm(hand, axis=1) * size * np.sin(np.maximum(angle - gives, 0.0)) / most)


@cache
def wrist_extension() -> float:
    """What the extensors of a straight wrist give at a strength of one, N·m."""
    region = muscle_table().regions["wrist"]
    straight = region.evaluate(np.zeros((1, 1)))
    return float((region.capacity(straight.length)[0] * np.maximum(-straight.moment_arm[0, :, 0], 0.0)).sum())


def sideways_torque(motion: Motion, loads: Sequence[Push]) -> dict[str, Any]:
    """Torque of loads across elbow and knee, which bend one way only, over what is borne there, by joint; the greatest.

    See ``borne_across``.
    """
    out = dict[str, Any]()
    for region, joint in HINGES:
        if region not in motion.regions:
            continue
        limb = motion.arm if region == "arm" else motion.leg
        start, end, hinge = (
            (limb.elbow, limb.grip, limb.elbow_axis) if region == "arm" else (limb.knee, limb.ankle, limb.knee_axis)  # type: ignore[union-attr]
        )
        along = unit(end - start)
        across = unit(cross(along, hinge))
        torque = np.zeros(len(motion.part))
        for push in loads:
            beyond = ("hand", "forearm") if region == "arm" else ("shank", "foot")
            if push.contact in beyond:
                about = cross(push.point - start, push.force)
                torque = torque + dot(about, across)
        bent = np.degrees(motion.coords[region][:, 3])
        borne = borne_across(joint, bent)
        out[joint] = (np.abs(torque) / borne).max(axis=-1)
    return out
