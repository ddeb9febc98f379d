"""Whole lifts and every load source against MuJoCo's inverse dynamics of the same body (registry package ``mujoco``)."""

from __future__ import annotations

import mujoco
import numpy as np
import pytest

from oddswap.equipment.band import Band, BandPull, RubberSection
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.law import Attachment
from oddswap.equipment.base.lines import rubber_force
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.counterweight import AssistHold, AssistMachine
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equipment.landmine import PIVOT_HEIGHT, Landmine, LandmineHold
from oddswap.equipment.lever import LeverHold, SwingLever
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.profile import Profile, profile
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.arm import unit
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.leg import about_x, about_y, about_z
from oddswap.mechanics.push import LOADS, Push
from oddswap.mechanics.supports import reactions

pytestmark = pytest.mark.reference
BODY = Body(1.78, 82)
COLUMN = CableColumn("c", "column", 23, 10, 230, 1, 160, 0.5, parked_cm=20, travel_cm=400, columns=2, friction=0.05)
BAR = Barbell("b", "bar", 20, [PlatePair(20, 4)])
RAILS = Barbell("s", "rail bar", 15, [PlatePair(20, 4)], rail_deg=83)
LEVER = SwingLever("l", "lever", 150, 90, [10, 20], tare_kg=4, offset_deg=15)
EXTENSION = Machine("m", "m", "leg_extension", [40])
SLED = Machine("m", "m", "leg_press", [120], "rail")
HACK = Machine("h", "h", "hack_squat", [80], "rail", rail_deg=60)
HOOKED = CablePull(COLUMN, 3, 90, 0, 20)
LANDMINE = Landmine("lm", "landmine", [0, 10, 20], 190)
STRAP = Attachment("forearm", 0.1)
SET_UPS = {
    "dumbbells, press": SetUp("press", [DumbbellHold(22)], {}, "bench", 20),
    "cable pair, fly": SetUp("fly", [CablePull(COLUMN, 12, -30, 120, 20, "pair")]),
    "rope, pushdown": SetUp("pushdown", [CablePull(COLUMN, 23, 45, 0, 30, "rope")]),
    "strap, straight-arm": SetUp(
        "straight_arm_pulldown", [CablePull(COLUMN, 23, 90, 10, 30, attachment=Attachment("forearm", 0.1))]
    ),
    "uneven dumbbell, supination": SetUp("supination", [DumbbellHold(8, "one", 0.3)]),
    "bar, row": SetUp("row", [BarbellHold(BAR, 60)], {}, "bent_over", 20),
    "dumbbell and cable, raise": SetUp("lateral_raise", [DumbbellHold(4, "one"), CablePull(COLUMN, 4, 10, -90, 8)]),
    "lever and cable, press": SetUp(
        "press", [LeverHold(LEVER, -60, 20, "both", 50, CablePull(COLUMN, 3, 90, 0, 20))], {}, "bench", 85
    ),
    "machine, leg extension": SetUp("leg_extension", [MachineHold(EXTENSION, 40)], {}, "bench", 85),
    "sled, leg press": SetUp("leg_press", [MachineHold(SLED, 120)], {}, "bench", 45),
    "sled, hack squat": SetUp("hack_squat", [MachineHold(HACK, 80)]),
    "bar, squat": SetUp("squat", [BarbellHold(BAR, 100, carried=True)]),
    "rail bar, squat": SetUp("squat", [BarbellHold(RAILS, 55, carried=True)]),
    "bar, romanian deadlift": SetUp("romanian_deadlift", [BarbellHold(BAR, 100)]),
    "dumbbells, split squat": SetUp("split_squat", [DumbbellHold(14)]),
    "bar, hip thrust": SetUp("hip_thrust", [BarbellHold(BAR, 100, carried=True)], {}, "floor"),
    "bar, calf raise": SetUp("calf_raise", [BarbellHold(BAR, 100, carried=True)]),
    "body, push-up": SetUp("push_up", [], {}, "floor"),
    "body, pull-up": SetUp("pull_up", [], {}, "hanging"),
    "assist, dip": SetUp("dip", [AssistHold(AssistMachine("a", "a", [20]), 20)], {}, "hanging"),
    "body, inverted row": SetUp("inverted_row", [], {}, "floor"),
    "dumbbell, back extension": SetUp("back_extension", [DumbbellHold(10)], {}, "hip_pad", 45),
    "bar, deadlift": SetUp("deadlift", [BarbellHold(BAR, 100)]),
    "dumbbells, step-up": SetUp("step_up", [DumbbellHold(14)]),
    "dumbbell, hip thrust": SetUp("hip_thrust", [DumbbellHold(30, "one", held=Attachment("hips"))], {}, "floor"),
    "machine, belt squat": SetUp("belt_squat", [MachineHold(Machine("b", "b", "belt_squat", [100], "path"), 100)]),
    "belt at a pulley, belt squat": SetUp("belt_squat", [CablePull(COLUMN, 1, 60, 0, 60, "belt")]),
    "body, hanging leg raise": SetUp("leg_raise", [], {}, "hanging"),
    "body, lying leg raise": SetUp("leg_raise", [], {"lying": 1.0}, "lying"),
    "dumbbell, floor crunch": SetUp("floor_crunch", [DumbbellHold(5)], {"hold": 1.0}, "lying"),
    "body, kneeling leg curl": SetUp("kneeling_leg_curl", [], {}, "kneeling"),
    "landmine, press": SetUp("press", [LandmineHold(LANDMINE, 120, 15, 20)], {"angle_deg": 45}),
}


def model(p: Profile, i: int) -> mujoco.MjModel:
    """Pelvis free in space, a hinge at the lower back, both arms and both legs, the same point masses."""
    at, leg, arm = p.motion.skeleton, p.motion.leg, p.motion.arm
    to_pelvis, to_torso = at.pelvis[i].T, at.torso[i].T
    hips, lumbosacral = at.joints["hips"][i], at.joints["lumbosacral"][i]
    text = lambda v: " ".join(f"{x:.17g}" for x in v)

    def lump(pos: np.ndarray, mass: float) -> str:
        return f'<inertial pos="{text(pos)}" mass="{mass:.17g}" diaginertia="1e-9 1e-9 1e-9"/>'

    thigh, shank = BODY.length("thigh"), BODY.length("shank")
    upper, fore = BODY.length("upper_arm"), BODY.length("forearm")
    foot = leg_frames(p)[2][i].T @ (leg.centres[i, 2] - leg.ankle[i])
    limbs_up, limbs_down = "", ""
    for side, sign in (("r", 1.0), ("l", -1.0)):
        flip = np.array([1.0, sign, 1.0])
        hip = flip * (to_pelvis @ (leg.hip[i] - hips))
        limbs_down += f'''<body name="thigh_{side}" pos="{text(hip)}">
          <joint name="hf_{side}" axis="0 -1 0"/><joint name="ha_{side}" axis="{sign} 0 0"/>
          <joint name="hr_{side}" axis="0 0 {sign}"/>
          {lump(np.array([0, 0, -thigh * BODY.centre_part("thigh")]), leg.masses[0])}
          <body name="shank_{side}" pos="0 0 {-thigh:.17g}"><joint name="k_{side}" axis="0 1 0"/>
          {lump(np.array([0, 0, -shank * BODY.centre_part("shank")]), leg.masses[1])}
          <body name="foot_{side}" pos="0 0 {-shank:.17g}"><joint name="a_{side}" axis="0 -1 0"/>
          {lump(flip * foot, leg.masses[2])}
          </body></body></body>'''
        shoulder = flip * (to_torso @ (arm.shoulder[i] - lumbosacral))
        limbs_up += f'''<body name="upper_{side}" pos="{text(shoulder)}"><joint name="s_{side}" type="ball"/>
          {lump(np.array([0, 0, -BODY.centre("upper_arm")]), arm.masses[0])}
          <body name="fore_{side}" pos="0 0 {-upper:.17g}"><joint name="e_{side}" axis="0 -1 0"/>
          <joint name="p_{side}" axis="0 0 1"/>{lump(np.array([0, 0, -BODY.centre("forearm")]), arm.masses[1])}
          <body name="hand_{side}" pos="0 0 {-fore:.17g}">{lump(np.array([0, 0, -BODY.centre("hand")]), arm.masses[2])}</body>
          </body></body>'''
    high, low, head = (p.motion.skeleton.centres[i, k] for k in range(3))
    masses = p.motion.skeleton.masses
    return mujoco.MjModel.from_xml_string(f"""
    <mujoco><option gravity="0 0 {-GRAVITY}"/><compiler angle="radian" autolimits="false"/>
    <worldbody><body name="pelvis"><freejoint name="root"/>{lump(to_pelvis @ (low - hips), masses[1])}{limbs_down}
      <body name="torso" pos="{text(to_pelvis @ (lumbosacral - hips))}"><joint name="lumbosacral" axis="0 1 0"/>
      {lump(to_torso @ (high - lumbosacral), masses[0])}
      <body name="head">{lump(to_torso @ (head - lumbosacral), masses[2])}</body>
      {limbs_up}</body></body></worldbody></mujoco>""")


def leg_frames(p: Profile) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """World frames of thigh, shank and foot."""
    c = p.motion.coords.get("leg")
    if c is None:
        leg = p.motion.leg
        thigh = frame(leg.knee - leg.hip, leg.knee_axis)
        shank = frame(leg.ankle - leg.knee, -leg.ankle_axis)
        ahead = unit(leg.ball - leg.heel)
        return thigh, shank, np.stack([ahead, -leg.ankle_axis, np.cross(ahead, -leg.ankle_axis)], axis=-1)
    thigh = p.motion.skeleton.pelvis @ about_y(-c[:, 0]) @ about_x(c[:, 1]) @ about_z(c[:, 2])
    shank = thigh @ about_y(c[:, 3])
    return thigh, shank, shank @ about_y(-c[:, 4])


def frame(down: np.ndarray, left: np.ndarray) -> np.ndarray:
    """Axes ahead, left, up of a segment that points ``down``."""
    up = -unit(down)
    return np.stack([np.cross(left, up), left, up], axis=-1)


def everything(p: Profile) -> list[Push]:
    """Loads and what the supports give back, as plain pushes."""
    motion = p.motion
    weight = np.zeros_like(motion.skeleton.centres)
    weight[..., 2] = -GRAVITY * motion.skeleton.masses
    force, about = weight.sum(axis=1), np.cross(motion.skeleton.centres, weight).sum(axis=1)
    below = (weight * (1 - motion.skeleton.upper[:, None])).sum(axis=1)
    for push in p.pushes:
        one, turn = push.force, np.cross(push.point, push.force)
        if push.mirrored:
            one, turn = one + one * [1, -1, 1], turn - turn * [1, -1, 1]
        force, about = force + one, about + turn
        below = below + (one if push.contact in ("thigh", "shank", "foot", "hips") else 0.0)
    return [*p.pushes, *reactions(motion, force, about, below)]


BEARER = {"hand": "hand", "forearm": "fore", "upper_arm": "upper", "thigh": "thigh", "shank": "shank", "foot": "foot"}


@pytest.mark.parametrize("name", list(SET_UPS))
def test_whole_lifts_agree_with_inverse_dynamics(name):
    p = profile(BODY, SET_UPS[name], 9, check=False)
    motion = p.motion
    thigh, shank, foot = leg_frames(p)
    arm = motion.arm
    worst, scale = 0.0, 1.0
    for i in range(9):
        # The scapula may shift the shoulder, so every pose gets a body of its own.
        m = model(p, i)
        d = mujoco.MjData(m)
        pose(m, d, p, i, thigh, shank, foot)
        assert d.body("hand_r").xpos == pytest.approx(arm.wrist[i], abs=1e-9)
        assert d.body("foot_r").xpos == pytest.approx(motion.leg.ankle[i], abs=1e-9)
        d.qvel[:] = d.qacc[:] = 0
        mujoco.mj_inverse(m, d)
        torque = d.qfrc_inverse.copy()
        for push in everything(p):
            for sign, side in ((1.0, "r"), (-1.0, "l")) if push.mirrored else ((1.0, "r"),):
                bearer = BEARER.get(push.contact)
                body = m.body(f"{bearer}_{side}" if bearer else "torso" if push.contact == "back" else "pelvis").id
                flip = np.array([1.0, sign, 1.0])
                out = np.zeros(m.nv)
                couple = np.zeros(3) if push.couple is None else push.couple[i] * flip * sign
                mujoco.mj_applyFT(m, d, push.force[i] * flip, couple, push.point[i] * flip, body, out)
                torque -= out
        expected, got = compared(m, d, p, i, torque)
        worst, scale = max(worst, float(np.abs(expected - got).max())), max(scale, float(np.abs(expected).max()))
    assert scale > 3
    assert worst / scale < 1e-6


def pose(m, d, p: Profile, i: int, thigh, shank, foot) -> None:
    """Put the model into pose ``i``."""
    at, arm = p.motion.skeleton, p.motion.arm

    def set_quaternion(name: str, matrix: np.ndarray) -> None:
        quaternion = np.zeros(4)
        mujoco.mju_mat2Quat(quaternion, np.ascontiguousarray(matrix).ravel())
        address = m.jnt_qposadr[m.joint(name).id]
        d.qpos[address + (3 if name == "root" else 0) :][:4] = quaternion

    d.qpos[:3] = at.joints["hips"][i]
    set_quaternion("root", at.pelvis[i])
    turn = at.pelvis[i].T @ at.torso[i]
    d.joint("lumbosacral").qpos = np.arctan2(turn[0, 2], turn[2, 2])
    u, f = unit(arm.elbow - arm.shoulder)[i], unit(arm.wrist - arm.elbow)[i]
    axis = arm.elbow_axis[i]
    humerus = np.stack([np.cross(axis, u), -axis, -u], axis=-1)
    bend = np.arctan2(np.cross(u, f) @ axis, u @ f)
    relative = at.torso[i].T @ humerus
    mirror = np.diag([1.0, -1.0, 1.0])
    for side, matrix in (("r", relative), ("l", mirror @ relative @ mirror)):
        set_quaternion(f"s_{side}", matrix)
        d.joint(f"e_{side}").qpos = bend
        d.joint(f"p_{side}").qpos = 0.0
    r = at.pelvis[i].T @ thigh[i]
    adduction = np.arcsin(np.clip(-r[1, 2], -1, 1))
    flexion, rotation = np.arctan2(-r[0, 2], r[2, 2]), np.arctan2(r[1, 0], r[1, 1])
    s = thigh[i].T @ shank[i]
    knee = np.arctan2(s[0, 2], s[2, 2])
    t = shank[i].T @ foot[i]
    ankle = -np.arctan2(t[0, 2], t[2, 2])
    for side in ("r", "l"):
        for joint, value in (("hf", flexion), ("ha", adduction), ("hr", rotation), ("k", knee), ("a", ankle)):
            d.joint(f"{joint}_{side}").qpos = value
    mujoco.mj_kinematics(m, d)
    mujoco.mj_comPos(m, d)


def compared(m, d, p: Profile, i: int, torque: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The engine's torques, and ours about the same axes."""
    of = lambda name, count=1: torque[m.jnt_dofadr[m.joint(name).id] :][:count]
    expected, got = [], []
    if "arm" in p.motion.regions:
        humerus = d.body("upper_r").xmat.reshape(3, 3)
        world = p.motion.arm.torso[i] @ p.demand["arm"][i, :3]
        expected += [*(humerus @ of("s_r", 3)), of("e_r")[0]]
        got += [*world, p.demand["arm"][i, 3]]
        if "hand" in [q.contact for q in p.pushes] and all(q.contact in ("hand",) for q in p.pushes):
            expected.append(of("p_r")[0])
            got.append(p.demand["arm"][i, 4])
    if "leg" in p.motion.regions:
        world = p.motion.skeleton.pelvis[i] @ p.demand["leg"][i, :3]
        # A seat that carries the thigh takes what the hip would have to give.
        for joint in () if p.motion.held("leg") else ("hf_r", "ha_r", "hr_r"):
            expected.append(of(joint)[0])
            got.append(world @ d.xaxis[m.joint(joint).id])
        expected += [of("k_r")[0], of("a_r")[0]]
        got += list(p.demand["leg"][i, 3:])
    # The engine's idle arm mirrors the working one.
    if "trunk" in p.motion.regions and p.motion.sides.arms:
        expected.append(of("lumbosacral")[0])
        got.append(p.demand["trunk"][i, 0])
    return np.array(expected), np.array(got)


def test_every_contact_is_covered():
    covered = {q.contact for s in SET_UPS.values() for q in everything(profile(BODY, s, 5, check=False))}
    assert covered >= set(LOADS) - {"upper_arm", "thigh"}


def test_the_lever_s_moment_is_the_engine_s():
    """A swinging lever with its plates as a body of its own: the torque that holds it equals ours at the handle."""
    law = LeverHold(LEVER, -20, 20, "one").law()
    rng = np.random.default_rng(2)
    for _ in range(20):
        angle, reach = rng.uniform(-1.2, 1.2), rng.uniform(0.5, 1.0)
        handle = np.array([-0.2 + reach * np.sin(angle), -0.2, 1.5 - reach * np.cos(angle)])
        m = mujoco.MjModel.from_xml_string(f"""<mujoco><option gravity="0 0 {-GRAVITY}"/><compiler angle="radian"/><worldbody>
          <body pos="-0.2 0 1.5"><joint axis="0 1 0"/><inertial pos="0 0 -0.9" mass="24" diaginertia="1e-9 1e-9 1e-9"/></body>
          </worldbody></mujoco>""")
        d = mujoco.MjData(m)
        d.qpos[0] = -angle + np.radians(15)
        mujoco.mj_inverse(m, d)
        force = law.force(handle[None])[0] * 24
        about = np.cross(handle - np.array([-0.2, -0.2, 1.5]), force)[1]
        assert about == pytest.approx(-d.qfrc_inverse[0], rel=1e-9)


@pytest.mark.parametrize("hands", ["one", "both"])
def test_the_landmine_s_moment_is_the_engine_s(hands):
    """A bar on a pivot, its own mass along it and plates at its end: the hands hold it, square to it."""
    setting = LandmineHold(LANDMINE, 120, 0, 20, hands)
    rise, length = np.radians(np.array([0.0, 25.0, 60.0])), 1.75
    grip = np.stack([1.2 - length * np.cos(rise), 0 * rise, PIVOT_HEIGHT + length * np.sin(rise)], axis=-1)
    force = setting.law().force(grip) * setting.amount
    for i, angle in enumerate(rise):
        m = mujoco.MjModel.from_xml_string(f"""<mujoco><option gravity="0 0 {-GRAVITY}"/><compiler angle="radian"/><worldbody>
          <body><joint axis="0 1 0"/><inertial pos="-0.95 0 0" mass="20" diaginertia="1e-9 1e-9 1e-9"/>
          <body pos="-1.9 0 0"><inertial pos="0 0 0" mass="20" diaginertia="1e-9 1e-9 1e-9"/></body></body>
          </worldbody></mujoco>""")
        d = mujoco.MjData(m)
        d.qpos[0] = angle
        mujoco.mj_inverse(m, d)
        assert np.linalg.norm(force[i]) * length * (2 if hands == "both" else 1) == pytest.approx(
            abs(d.qfrc_inverse[0]), rel=1e-6
        )
        assert force[i] @ (grip[i] - [1.2, 0, PIVOT_HEIGHT]) == pytest.approx(0, abs=1e-9)
        assert force[i][2] < 0


def test_two_hands_around_one_bar_are_together():
    law = LandmineHold(Landmine("lm", "landmine", [0, 10], 205), 190, 0, 10, "both").law()
    for side, kept in ((0.1, True), (0.4, False)):
        hands = next(x for x in law.limits(np.array([[0.3, -side, 1.2]])) if x.field == "hands")
        assert (hands.margin >= 0).all() == kept


def test_a_choked_band_is_a_shorter_one_of_the_same_section():
    band = Band("b", "band", [], 200, RubberSection(80, 150))
    choked, lengths = BandPull(band, 0, 0, 0, choke_cm=20).law(), np.linspace(0.65, 1.7, 9)
    assert choked.tension(lengths) == pytest.approx(rubber_force(lengths, 0.60, 150e-6), rel=5e-3)
    assert choked.lengths[0] == pytest.approx(0.60)
    assert choked.most == pytest.approx(1.5)
    with pytest.raises(DomainError, match="half the slack length"):
        BandPull(band, 0, 0, 0, choke_cm=45).verify()


def test_band_force_of_a_doubled_band():
    """Folded in two it is half as long and pulls with both halves: the same energy per length."""
    band = Band("r", "r", [], 150, section=RubberSection(50, 60))
    band.verify()
    plain, folded = BandPull(band, 100, 50, 0).law(), BandPull(band, 100, 50, 0, doubled=True).law()
    lengths = np.linspace(0.55, 1.4, 9)
    assert folded.tension(lengths / 2) == pytest.approx(2 * plain.tension(lengths))
