"""Where a usual line of pull stands for a movement: of many places the one that loads its first target most evenly."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from oddswap.equipment.base.item import KitItem, Room, Scene
from oddswap.equipment.base.law import Attachment, Law
from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equivalence.profile import profile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot, unit
from oddswap.mechanics.body import Body
from oddswap.mechanics.clearance import bar_limits
from oddswap.mechanics.limits import Posture, place_limits, placement_limits
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import ON_FEET, Contact, Movement, Variant
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.push import Push
from oddswap.mechanics.types import Bools, Floats
from oddswap.mechanics.virtual_work import virtual_path

BAR_ASIDE = 0.06
"""How far a bar is held off thighs and trunk beyond the movement's own way, m (own estimate)."""
BOTH_OFF_DEG = 40.0
"""How far off the arms' own way a line that leads both may be, degrees: seats stand before a pulley, not under it."""
LOOKED_AT, LONG_LOOKED_AT = 6, 40
"""Places of each use that are looked at in full for a lift that a hand pulls or presses, and of what seldom holds: a band
that goes slack, and a bar that leads the arms past the head."""
BEFORE_BELT = 0.7
"""How far off a pulley is that a belt hangs from, m (own estimate)."""
PULLED_BELOW, PULLED_OFF = 0.35, (0.95, 1.65)
"""How high at most and how far off a line begins that is pulled between the legs, m (own estimates)."""
UNDER_FOOT = 1.0
"""Points by which a band at an anchor must load the target better than one under a foot, where nothing has to be fixed (own
estimate)."""
FOOT_ASIDE = 2.0
"""Points that it costs for every metre that the foot stands off the place below the hips (own estimate)."""
HALF_TURNED, SIDE_ON, STRAIGHT_DEG = 0.4, 0.3, 20.0
"""Points that it costs to stand half turned to a band's anchor, or side-on, and how far off is still straight, degrees (own
estimates)."""
OUT_OF_PLANE = 0.5
"""Points that a pull costs that stands square to the plane of the movement (own estimate)."""
HELD = {"handle": ("handle", False), "handles": ("handle", True)}
"""What hands hold without sharing it, and whether each has one."""
ROOM = Room(8, 8, 3.2)


def law_of(motion: Motion, batch: Placements) -> Law:
    """The law of placements on a movement's own way."""
    return batch.law.leading(motion.body.to_hand) if motion.movement.led == "pull" else batch.law


def usable_places(kind: Movement, motion: Motion, batch: Placements, aside: float) -> Bools:
    """Which placements of a cable leave it taut, free of the body, and in the line that the movement goes, (placement,).

    Args:
        kind: The movement.
        motion: By the client, on its own way.
        batch: Placements of one use.
        aside: How far a bar may be in the body's way, m: it is held a little off.
    """
    law, far, example = law_of(motion, batch), batch.law.far_end, batch.setting(0, 1.0)
    assert far is not None
    kept = np.ones(batch.count, bool)
    for limit in law.limits(motion.point(motion.support.contact)):
        kept &= limit.kept
    if motion.support.contact == "hips":
        # A belt hangs from the lowest pulley, half a step ahead.
        kept &= (far[:, 2] <= far[:, 2].min() + 1e-6) & (far[:, 0] > 0) & (far[:, 0] < BEFORE_BELT)
    if kind.id in rules("reach")["pulled"] and motion.support.contact == "hand":
        # What is pulled through the legs comes from near the floor, a long step away.
        off = np.hypot(far[:, 0], far[:, 1])
        kept &= (far[:, 2] <= PULLED_BELOW) & (off >= PULLED_OFF[0]) & (off <= PULLED_OFF[1])
    near = np.cos(np.radians(BOTH_OFF_DEG if example.both_sides else rules("reach")["pull_off_deg"]))
    if kind.led == "pull":
        # Both hands on one bar or rope pull towards its middle: what counts is seen from the side.
        level = np.array([1.0, 1.0 if example.grip == "handle" else 0.0, 1.0])
        pull, arm = (far - motion.arm.shoulder[0]) * level, (motion.arm.elbow - motion.arm.shoulder)[0] * level
        kept &= unit(pull) @ unit(arm) > near
    elif kind.led == "press":
        # A press goes against its load: the forearm lies in the line of pull, away from the pulley.
        fore = unit(motion.arm.elbow - motion.arm.grip)
        kept &= (dot(unit(far[:, None] - motion.arm.elbow), fore) > near).all(axis=1)
    # A line between the legs, as a pull-through has it, would count as cutting through them.
    if motion.support.contact == "hand" and motion.support.base == "seat":
        posture = Posture.of(motion)
        posture = posture if example.grip == "handle" else posture.in_middle(example.grip == "rope")
        if kind.led == "pull" and example.grip != "handle":
            # It leads the arms past the head, where their own way would have the line cut through.
            for limit in place_limits(posture, far, example.both_sides):
                kept &= limit.kept
            return kept
        for limit in placement_limits(posture, far, None, example.both_sides):
            kept &= limit.kept
        kept &= example.grip != "bar" or all(float(np.min(limit.margin)) > -aside - 1e-6 for limit in bar_limits(motion))
    return kept


def scores(kind: Movement, motion: Motion, group: Group, batch: Placements, both: bool, aside: float) -> Floats:
    """How evenly, strongly and aptly placements of a line load a group, points, (placement,); negative where they may not be.

    Args:
        kind: The movement.
        motion: By the client, on its own way.
        group: The muscle group.
        batch: Placements of one use.
        both: Whether both sides are loaded at once.
        aside: How far a bar may be in the body's way, m.
    """
    law, contact = law_of(motion, batch), motion.support.contact
    point = motion.point(contact)
    kept = usable_places(kind, motion, batch, aside)
    if group.region in ("scapula", "waist"):
        moved = motion.moment(group.region, Push(contact, point, law.force(point), mirrored=both))
        load = -np.einsum("npi,pi->np", moved, motion.direction(group))
    elif motion.support.base != "seat":
        moment = motion.response(Push(contact, point, law.force(point)))[group.region]
        load = -dot(moment, motion.direction(group))
    elif group.region == "trunk":
        load = np.cross(point - motion.joints["lumbosacral"], law.force(point))[..., 1] * -motion.direction(group)[:, 0]
    else:
        load = -dot(law.force(point), virtual_path(motion, group, contact))
    # A place that asks the target for its own work, and not its helpers for theirs.
    apt: Floats | float = 0.0
    if group.region in ("arm", "leg"):
        apt = motion.share(group, motion.moment(group.region, Push(contact, point, law.force(point))))
        apt = apt / max(float(np.max(apt)), 1e-9)
    evenness = load.mean(axis=-1) / np.maximum(load.max(axis=-1), 1e-9)
    strength = load.max(axis=-1) / np.maximum(np.linalg.norm(law.force(point), axis=-1).max(axis=-1), 1e-9)
    good = evenness + 0.3 * strength + apt - OUT_OF_PLANE * out_of_plane(motion, contact, law.force(point))
    return np.asarray(np.where(kept & (load.max(axis=-1) > 0.03), np.maximum(good, 1e-3), -1.0))


def out_of_plane(motion: Motion, contact: Contact, force: Floats) -> Floats:
    """Part of a pull that stands out of the plane that an arm moves in, mean over poses, (placement,); 0 where it has none.

    Args:
        motion: The movement.
        contact: Where the pull bears.
        force: N, (placement, pose, xyz).
    """
    point = motion.point(contact)
    if motion.movement.led or contact != "hand":
        return np.zeros(len(force))
    centre = motion.joints[motion.movement.hinge]
    arm = point - centre
    turning = np.cross(arm[:-1], arm[1:]).sum(axis=0)
    return np.asarray(np.abs(unit(force) @ unit(turning)).mean(axis=-1))


def turned(far: Floats) -> Floats:
    """Points, (placement,), that it costs to stand turned to anchors, m, (placement, xyz): none facing them or away."""
    bearing = np.degrees(np.arctan2(far[:, 1], far[:, 0]))
    off = np.abs(bearing - 180 * np.round(bearing / 180))
    return np.asarray(np.select([off < STRAIGHT_DEG, off > 90 - STRAIGHT_DEG], [0.0, SIDE_ON], HALF_TURNED))


def ranked_places(
    kind: Movement,
    motion: Motion,
    group: Group,
    item: KitItem,
    beside: Sequence[KitItem],
    attachment: str,
    together: bool,
) -> list[tuple[float, Setting]]:
    """Places of a line of pull that are worth a full look, with their points, in no order; ``together`` asks for both sides at
    once, all else as in ``even_line`` and ``scores``."""
    contact, support = motion.support.contact, motion.support
    least, shared = float(item.amounts()[0]), attachment not in ("", *HELD)
    seldom = item.stretches or (shared and kind.led == "pull")
    ranked = list[tuple[float, Setting]]()
    scene = Scene(
        motion.body, motion.stance, motion.point(contact), ROOM, item.needs_of([item, *beside]), contact=contact,
        pulled=kind.led == "pull", planted=support.base in ON_FEET,
    )  # fmt: skip
    for batch in item.placements(scene):
        far = batch.law.far_end
        assert far is not None
        first: Any = batch.setting(0, least)
        both, held = first.both_sides, first.grip
        if attachment and (held, both) != HELD.get(attachment, (attachment, True)):
            continue
        if (together and not both and not item.stretches) or (support.one_side and both):
            continue
        score = scores(kind, motion, group, batch, both, BAR_ASIDE if shared else 0.0)
        if item.stretches and first.held:
            aside = np.hypot(far[:, 0], far[:, 1]) if first.anchor == "foot" else 0.0
            score = np.where(score > 0, score + UNDER_FOOT - FOOT_ASIDE * aside, -1.0)
        elif item.stretches:
            score = np.where(score > 0, np.maximum(score - turned(far), 1e-3), -1.0)
        for i in np.argsort(-score, kind="stable")[: LONG_LOOKED_AT if seldom else LOOKED_AT]:
            if score[i] > 0:
                setting: Any = batch.setting(int(i), least)
                worn = contact not in ("hand", "hips")
                setting = replace(setting, attachment=Attachment(contact) if worn else Attachment())
                ranked.append((float(score[i]), setting))
    return ranked


def even_line(
    body: Body,
    kind: Movement,
    variant: Variant,
    item: KitItem,
    beside: Sequence[KitItem],
    set_up: Callable[..., SetUp],
    attachment: str = "",
    target: str = "",
) -> Any:
    """Of many places of a line of pull the one that loads a target most evenly, taut and free of the body.

    Args:
        body: The client.
        kind: The movement.
        variant: Which way of it.
        item: A column or a band.
        beside: What else of its kit it needs: anchors, a belt.
        set_up: Makes a set-up of sources.
        attachment: What both hands must hold on one line, ``handles`` for one in each, or ``handle`` for one hand; empty for
            anything.
        target: Id of the muscle group that it is for; empty for the movement's first.

    Raises:
        DomainError: If no place does.
    """
    group = muscle_table().groups[target or kind.targets[0]]
    # Arms that only hold do so together.
    support = kind.support(variant.values)
    shared = attachment not in ("", *HELD)
    together = (
        shared or attachment == "handles" or group.region in ("scapula", "trunk") or support.base in ("feet", "feet at a hold")
    )
    # A limb that the load leads is looked at on the movement's own way, the load in hand or not.
    motion = (set_up() if kind.led else set_up(DumbbellHold(1, "both" if together else "one"))).perform(body)
    ranked = ranked_places(kind, motion, group, item, beside, attachment, together)
    if not ranked:
        raise DomainError("kit", item.kind, f"no place of it loads the {group.name} here", "Take another kit")
    ranked.sort(key=lambda r: -r[0])
    # Limits were looked at in a few poses, and an arm follows the line of pull; of handles the best is shown where none holds,
    # a band is slack where it does not, and for a bar there is a rope.
    looked = item.stretches or (support.base == "seat" and support.contact == "hand")
    held_to = next(
        (s for _, s in ranked if looked and holds(body, set_up(s))),
        None if item.stretches or (shared and looked) else ranked[0][1],
    )
    if held_to is None:
        limit = f"no place of it keeps taut and off the body, and loads the {group.name}"
        raise DomainError("kit", item.kind, limit, "Take other kit")
    return held_to


def holds(body: Body, set_up: SetUp) -> bool:
    """Whether a client can do a set-up as it stands, all limits kept."""
    try:
        profile(body, set_up)
    except DomainError:
        return False
    return True
