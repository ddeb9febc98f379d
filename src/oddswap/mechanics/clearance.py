"""What a movement must clear whatever loads it: floor and ceiling, and arms with what they hold against body and bench."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import tables
from oddswap.mechanics.limits import Limit, Posture, cushions_of, segment_distance
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.skeleton import MIRROR
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm


def room_limits(motion: Motion, ceiling: float) -> list[Limit]:
    """Limits of a motion whatever loads it: hands over the floor, hands and head under the ceiling.

    Args:
        motion: The movement.
        ceiling: Height of the room, m; infinite where it is not known.
    """
    return [*floor_limits(motion), ceiling_limit(top_of(motion), ceiling), *arm_limits(motion)]


def ceiling_limit(top: float, ceiling: float) -> Limit:
    """Head and hands under the ceiling.

    Args:
        top: How high they come, m, see ``top_of``.
        ceiling: Height of the room, m; infinite where it is not known.
    """
    words = f"head and hands stay under the ceiling, {cm(ceiling * 100)}" if np.isfinite(ceiling) else ""
    return Limit("stance", np.asarray(ceiling - top), words, "Sit, kneel, or take another lift")


def top_of(motion: Motion) -> float:
    """Height of head or of what hands hold, whichever comes higher, m."""
    head = float(motion.joints["head"][:, 2].max()) + motion.body.own("head_radius")
    hands = float(motion.arm.grip[:, 2].max()) + float(tables()["clearance"]["in_hand"])
    return max(head, hands)


def floor_limits(motion: Motion) -> list[Limit]:
    """Hands over the floor, where hips and not hands carry the body."""
    if "arm" not in motion.coords or motion.support.root != "hips":
        return []
    lowest, words = np.asarray(motion.arm.grip[:, 2].min()), "the hand must stay above the floor"
    return [Limit("seat_cm", lowest, words, "Raise the seat or shorten the range")]


def arm_limits(motion: Motion, held: bool = False, pair: bool = False) -> list[Limit]:
    """Limits of arms that move, whatever loads them: forearms clear trunk, head and thighs, arms clear a bench's rest.

    Args:
        motion: The movement.
        held: Whether a dumbbell's ends must clear them too, and a seat.
        pair: Whether each hand holds one, so that they must clear each other.
    """
    rule, arm, body, out = tables()["clearance"], motion.arm, motion.body, []
    if pair:
        slant = np.abs(arm.thumb[:, 1])
        half = rule["dumbbell_half"] * slant + rule["dumbbell_radius"] * np.sqrt(np.maximum(1 - slant**2, 0.0))
        room = -(arm.grip[:, 1] + half).max() + rule["hand_at_trunk"]
        words, way = "dumbbells in both hands cannot pass each other", "Close less far, or work one arm at a time"
        out.append(Limit("hands", np.asarray(room), words, way))
        if motion.stance.kind == "half_kneeling" and "arm" in motion.coords:
            # The left hand's dumbbell against the thigh that stands out before it, as the right side has them mirrored.
            half_long = (rule["dumbbell_half"] - rule["dumbbell_radius"]) * arm.thumb
            thigh = [motion.joints[f"left {end}"] * MIRROR for end in ("hip", "knee")]
            gap = (
                segment_distance(arm.grip - half_long, arm.grip + half_long, *thigh)
                - body.own("thigh_radius")
                - rule["dumbbell_radius"]
            )
            words, way = "a dumbbell must clear the thigh ahead", "Work the side of the knee on the floor alone"
            out.append(Limit("hands", np.asarray(gap.min() + rule["hand_at_thigh"]), words, way))
    if "arm" not in motion.coords:
        return out
    posture = Posture.of(motion, "hand", apart=1, whole=False)
    # The trunk is broader than deep.
    aside = np.zeros_like(posture.lower)
    aside[0, :, 1] = -0.5 * body.own("trunk_radius")
    lower, upper = posture.lower + aside, posture.upper + aside
    give = np.array([rule["hand_at_trunk"], rule["hand_at_trunk"], rule["hand_at_thigh"], rule["hand_at_thigh"]])
    ends, cushions = [-1.0, 1.0] if held else [0.0], cushions_of(motion)
    for end in ends:
        tip = arm.grip + end * (rule["dumbbell_half"] - rule["dumbbell_radius"]) * arm.thumb
        start = arm.grip + 0.5 * (tip - arm.grip) if held else arm.elbow + 0.4 * (arm.grip - arm.elbow)
        size = rule["dumbbell_radius"] if held else 0.7 * body.own("arm_radius")
        gap = segment_distance(start, tip, lower, upper) - np.abs(posture.radius) - size
        room = float((gap.min(axis=1) + give).min())
        words = f"{'a dumbbell' if held else 'the forearm'} must clear trunk, head and thighs"
        out.append(Limit("parameters", np.asarray(room), words, "Take other kit, or another range"))
        places = [start, tip] if held else [tip, arm.elbow, 0.5 * (arm.shoulder + arm.elbow)]
        room = min(_beside_cushions(cushions, p) for p in places) - size + rule["hand_at_rest"]
        words = f"{'a dumbbell' if held else 'the arm'} must clear the bench"
        out.append(Limit("recline_deg", np.asarray(room), words, "Sit upright on its end, or stand"))
    return out


def _beside_cushions(cushions: Floats, place: Floats) -> float:
    """Least distance of places, m, (pose, xyz), from a bench's rest and seat, (cushion, 4, xyz), m; negative within."""
    bench, out = tables()["bench"], np.inf
    for origin, along, normal, (long, _, _) in cushions:
        if long:
            rel = place - origin
            up = rel @ along
            gaps = [np.abs(rel[:, 1]) - bench["half_rest"], up - long, -up, np.abs(rel @ normal) - bench["half_thickness"]]
            out = min(out, float(np.maximum.reduce(gaps).min()))
    return out


def bar_limits(motion: Motion) -> list[Limit]:
    """Limits of a straight bar in both hands: it reaches from hand to hand, and passes neither trunk, head nor thighs."""
    rule, grip = tables()["clearance"], motion.arm.grip
    half = (np.abs(grip[:, 1]) + rule["bar_over"])[:, None] * np.array([0.0, 1.0, 0.0])
    posture = Posture.of(motion, apart=1, whole=False)
    middle = grip * np.array([1.0, 0.0, 1.0])
    gap = segment_distance(middle - half, middle + half, posture.lower, posture.upper) - posture.radius
    give = np.array([rule["bar_at_trunk"]] * 2 + [rule["bar_at_thigh"]] * 2)
    room = (gap.min(axis=1) + give).min()
    rel = grip - motion.joints["hips"]
    ahead, along = dot(rel, motion.skeleton.torso[..., 0]), dot(rel, motion.skeleton.torso[..., 2])
    ahead = ahead[along < np.linalg.norm(motion.joints["shoulders"] - motion.joints["hips"], axis=-1)]
    passed = min(ahead.max(), -ahead.min()) if len(ahead) else -1.0
    rest = _beside_cushions(cushions_of(motion), middle) - rule["bar_radius"] + rule["bar_at_rest"]
    words = "a straight bar must clear trunk, head, thighs and bench"
    # Between the legs thighs are counted as out of the way of a line, which they are not of a bar.
    margin = np.asarray(min(room, rest, rule["bar_past"] - passed, -rule["bar_over"] if motion.between_legs else np.inf))
    return [Limit("use", margin, words, "Take a rope, handles or dumbbells")]
