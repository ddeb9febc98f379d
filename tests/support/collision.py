"""A set-up rebuilt as solids in MuJoCo, whose collision detection then looks at every pose (registry package ``mujoco``).

Nothing of the project's own limits is used: capsules for the body with breadths and depths of their own, boxes for benches and
columns, cylinders for bars, plates, dumbbells and lines of pull.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import mujoco
import numpy as np

from oddswap.equivalence.figure import figure
from oddswap.equivalence.profile import Profile
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.arm import unit

BREADTHS = {
    "chest": 0.060, "pelvis": 0.055, "head": 0.045, "upper arm": 0.026, "forearm": 0.021, "thigh": 0.040, "shank": 0.028,
    "foot": 0.018,
}  # fmt: skip
"""Radii as parts of stature (own estimate; chest half-depth after Drillis and Contini 1966, from memory)."""
SIDES = ("right", "left")
PLATE, BAR, LINE = 0.225, 0.014, 0.004
"""Radii of a full plate, a bar and a line of pull, m (common practice)."""
SHORT = 3
"""Every so many poses are looked at."""


@dataclass
class Scene:
    """Solids by name, each with a place and turn at every pose."""

    shapes: dict[str, tuple[str, str]] = field(default_factory=dict)
    places: dict[str, tuple[np.ndarray, np.ndarray]] = field(default_factory=dict)

    def rod(self, name, start, end, radius, shape="capsule"):
        """A capsule or cylinder between two places, m, (pose, xyz); it keeps the length of its first pose."""
        half = float(np.linalg.norm(end - start, axis=-1).max()) / 2
        self.shapes[name] = shape, f"{radius:.5f} {max(half, 1e-3):.5f}"
        along = unit(end - start)
        side = unit(np.cross(along, np.where(np.abs(along[:, :1]) < 0.9, [[1.0, 0, 0]], [[0, 1.0, 0]])))
        self.places[name] = (start + end) / 2, np.stack([side, np.cross(along, side), along], axis=-1)

    def box(self, name, centre, axes, halves):
        """A box at rest: centre (xyz,), axes as columns, half edges, m."""
        self.shapes[name] = "box", " ".join(f"{h:.5f}" for h in halves)
        self.places[name] = centre[None], axes[None]

    def touching(self):
        """Pairs of solids that overlap and by how much at most, m."""
        bodies = "".join(
            f'<body name="{n}"><freejoint/><geom name="{n}" type="{s}" size="{size}" mass="1"/></body>'
            for n, (s, size) in self.shapes.items()
        )
        floor = '<geom name="floor" type="plane" size="9 9 1"/>'
        model = mujoco.MjModel.from_xml_string(f'<mujoco><size memory="20M"/><worldbody>{floor}{bodies}</worldbody></mujoco>')
        data, deepest = mujoco.MjData(model), {}
        count = max(len(p) for p, _ in self.places.values())
        quat = np.zeros(4)
        for pose in range(0, count, SHORT):
            for k, (place, axes) in enumerate(self.places.values()):
                i = min(pose, len(place) - 1)
                mujoco.mju_mat2Quat(quat, axes[i].ravel())
                data.qpos[7 * k : 7 * k + 3], data.qpos[7 * k + 3 : 7 * k + 7] = place[i], quat
            mujoco.mj_kinematics(model, data)
            mujoco.mj_collision(model, data)
            for c in data.contact[: data.ncon]:
                pair = tuple(sorted((model.geom(c.geom1).name, model.geom(c.geom2).name)))
                deepest[pair] = max(deepest.get(pair, 0.0), -float(c.dist))
        return deepest


def scene_of(set_up: SetUp, profile: Profile) -> Scene:
    """The solids of a set-up."""
    motion, out = profile.motion, Scene()
    j, body = motion.joints, motion.body
    r = {k: v * body.stature for k, v in BREADTHS.items()}
    across = r["chest"] * 0.5 * np.array([0.0, 1.0, 0.0])
    spine = unit(j["shoulders"] - j["hips"])
    for name, way in (("trunk 1", across), ("trunk 2", -across)):
        out.rod(name, j["lumbosacral"] + way, j["shoulders"] - 0.5 * r["chest"] * spine + way, r["chest"])
    out.rod("head", j["head"] - 0.02 * spine, j["head"] + 0.04 * spine, r["head"])
    for side in SIDES:
        s = f"{side} "
        out.rod(s + "upper arm", j[s + "shoulder"], j[s + "elbow"], r["upper arm"])
        out.rod(s + "forearm", j[s + "elbow"], j[s + "grip"], r["forearm"])
        out.rod(s + "thigh", j[s + "hip"], j[s + "knee"], r["thigh"])
        out.rod(s + "shank", j[s + "knee"], j[s + "ankle"], r["shank"])
        lift = r["foot"] * unit(j[s + "ankle"] - 0.5 * (j[s + "heel"] + j[s + "toe"]))
        out.rod(s + "foot", j[s + "heel"] + lift, j[s + "toe"] + lift, r["foot"])
    drawn = figure(set_up, profile)
    for i, slab in enumerate(drawn.slabs):
        along, middle = slab.end - slab.start, (slab.start + slab.end) / 2
        if slab.kind == "bar":
            out.rod(f"rail {i}", slab.start[None], slab.end[None], slab.half_width)
            continue
        x = unit(along)
        y = np.array([0.0, 1.0, 0.0]) if abs(x[1]) < 0.9 else np.array([1.0, 0.0, 0.0])
        axes = np.stack([x, y, np.cross(x, y)], axis=-1)
        out.box(f"{slab.kind} {i}", middle, axes, [np.linalg.norm(along) / 2, slab.half_width, slab.thickness / 2])
    for i, (source, pull) in enumerate(zip(set_up.sources, drawn.pulls, strict=True)):
        _add_source(out, i, source, pull, j, body.stature)
    return out


def _add_source(out, i, source, pull, j, stature):
    both = SIDES if pull.mirrored else ("right",)
    kind = pull.prop["kind"]
    level = np.array([0.0, 1.0, 0.0])
    if kind == "dumbbell" and pull.contact == "hand":
        size = 0.03 + 0.03 * np.cbrt(pull.prop["mass_kg"] / 10)
        for side in both:
            grip, thumb = j[f"{side} grip"], unit(j[f"{side} thumb"] - j[f"{side} grip"])
            for end, way in (("a", 1.0), ("b", -1.0)):
                inner, outer = grip + way * 0.065 * thumb, grip + way * (0.075 + size) * thumb
                out.rod(f"dumbbell {i} {side} {end}", inner, outer, size, "cylinder")
    elif kind == "bar":
        middle = pull.at * np.array([1.0, 0.0, 1.0])
        out.rod(f"bar {i}", middle - 0.65 * level, middle + 0.65 * level, BAR, "cylinder")
        if pull.prop["mass_kg"] > 25:
            for side, way in (("a", 1.0), ("b", -1.0)):
                start, end = middle + way * 0.66 * level, middle + way * 0.72 * level
                out.rod(f"plate {i} {side}", start, end, PLATE if pull.prop["mass_kg"] > 55 else 0.15, "cylinder")
    elif source.grip == "bar" and pull.contact == "hand":
        middle = pull.at * np.array([1.0, 0.0, 1.0])
        half = (np.abs(pull.at[:, 1:2]) + 0.06) * level
        out.rod(f"bar {i}", middle - half, middle + half, BAR, "cylinder")
    for k, far in enumerate(pull.ends):
        side = SIDES[k]
        at = pull.at * np.array([1.0, -1.0 if k else 1.0, 1.0])
        if source.grip != "handle" and pull.contact == "hand":
            at = at * np.array([1.0, 0.0, 1.0])
            # Strands lead past both sides of the body to where they meet.
            at = at + (0.27 if source.grip == "rope" else 0.0) * unit(far - at)
        # The line's length changes from pose to pose: as long as the nearest, from the body.
        way, long = unit(far - at), np.linalg.norm(far - at, axis=-1).min()
        out.rod(f"line {i} {side}", at + 0.04 * way, at + way * max(long - 0.02, 0.05), LINE, "cylinder")
        if far[2] > 0.06 and kind in ("column", "band"):
            away = unit(far * np.array([1.0, 1.0, 0.0]))
            stands = far * np.array([1.0, 1.0, 0.0]) + (0.14 + source.law().overhang) * away
            axes = np.stack([away, np.array([-away[1], away[0], 0.0]), np.array([0.0, 0.0, 1.0])], axis=-1)
            out.box(f"column {i} {side}", stands + np.array([0.0, 0.0, 1.0]), axes, [0.1, 0.1, 1.0])


OWN = {"trunk", "head", "upper arm", "forearm", "thigh", "shank", "foot"}


def part(name: str) -> str:
    """A solid's kind: its name without side and number."""
    words = [w for w in name.split() if w not in SIDES and not w.isdigit() and w not in ("a", "b")]
    return " ".join(words)


def intended(a: str, b: str, profile: Profile) -> bool:
    """Whether two solids are meant to touch, or only stand for what gives or is cut out there."""
    kinds, motion = {part(a), part(b)}, profile.motion
    one_side = {n.split()[0] for n in (a, b)} & set(SIDES)
    if kinds <= OWN:
        # Limbs that carry out the movement must not pass through trunk, head or each other; neighbours in the body meet.
        led = "arm" in motion.coords
        limbs, other = kinds & {"forearm"}, kinds - {"forearm"}
        crossed = float(motion.arm.grip[:, 1].max()) > 0  # hands that cross pass one over the other
        crossing = (limbs and other & {"trunk", "head", "thigh", "shank"}) or (
            kinds == {"forearm"} and len(one_side) == 2 and not crossed
        )
        idle = not motion.sides.arms and "left" in one_side
        return not (led and crossing) or idle
    support = motion.support
    if motion.between_legs and "thigh" in kinds and kinds & {"line", "dumbbell"}:
        return True  # feet are set so far apart
    still = "arm" not in motion.coords or (one_side == {"left"} and not motion.sides.arms)
    if kinds & {"line", "column"} and kinds & {"upper arm", "forearm"} and still:
        return True  # arms that only hold move out of the way
    if "line" in kinds and kinds & {"thigh", "shank"} and support.contact in ("shank", "foot") and not support.one_side:
        return True  # as does an idle leg that nobody stands on
    if kinds == {"line", "head"} and motion.hold == "head":
        return True  # a rope's strands pass on both sides
    if kinds == {"line", "dumbbell"}:
        return True  # both in one hand, the line on a wrist loop
    touching = {
        "floor": {"foot", "shank", "plate", "step", "seat", "rest", "pad", "column", "line"}
        | ({"forearm"} if support.base.startswith("hands") else set())
        | ({"thigh", "shank", "trunk", "head", "upper arm"} if motion.stance.kind in ("floor", "kneeling", "lying") else set()),
        "seat": {"trunk", "thigh", "rest", "pad"},
        "rest": {"trunk", "head", "thigh", "seat", "pad", "rail"},
        "pad": {"upper arm", "trunk", "forearm", "seat", "rest"},
        "step": {"foot", "forearm"},
        "rail": {"forearm", "foot", "shank"},
        "bar": {"forearm", "plate"}
        | ({"trunk", "upper arm", "head", "thigh"} if support.contact in ("back", "hips") else set()),
        "dumbbell": {"forearm"} | ({"dumbbell"} if len(one_side) == 1 else set()),
        "line": {"column", "bar", "line", {"hand": "forearm", "shank": "foot"}.get(support.contact, "")}
        | ({"shank", "thigh"} if support.contact in ("shank", "foot") and len(one_side) == 1 else set())
        | ({"upper arm"} if support.contact == "upper_arm" or motion.movement.led == "press" else set()),
        "column": {"column"},
        "plate": {"plate"},
    }
    return any((kinds - {k} or kinds) <= others for k, others in touching.items() if k in kinds)


def penetrations(set_up: SetUp, profile: Profile) -> dict[tuple[str, str], float]:
    """What passes through what and how deep, m, where no contact is meant."""
    found = scene_of(set_up, profile).touching()
    return {pair: deep for pair, deep in found.items() if not intended(*pair, profile)}
