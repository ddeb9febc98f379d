"""Torques against MuJoCo's inverse dynamics with the same segments, weights and tendons (registry package ``mujoco``)."""

from __future__ import annotations

import mujoco
import numpy as np
import pytest

from oddswap.equipment.base.lines import Cable, Elastic
from oddswap.equipment.dumbbell import Weight
from oddswap.exercises import movement
from oddswap.mechanics.arm import path_from_coordinates, turn, unit
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Path
from oddswap.mechanics.performing import as_motion, with_muscles
from oddswap.mechanics.push import Push
from oddswap.mechanics.skeleton import Built, build
from oddswap.mechanics.stance import Stance

pytestmark = pytest.mark.reference
POSES = 200
SLACK, STIFFNESS = 0.05, 60.0


def random_motion(body: Body, seed: int, recline: float) -> Motion:
    """An arm at random joint coordinates on a torso at some recline."""
    rng = np.random.default_rng(seed)
    span = np.radians([[-60, 120], [5, 160], [-70, 70], [5, 135], [-80, 80]])
    coords = rng.uniform(*span.T, (POSES, 5))
    path = Path(np.linspace(0, 1, POSES), arm=path_from_coordinates(coords))
    built = Built(movement("curl"), path, Stance("bench", recline), {})
    return with_muscles([as_motion(body, built, build(body, built))])[0]


def model(body: Body, motion: Motion, pulley: np.ndarray, dumbbell: float, stiffness: float) -> mujoco.MjModel:
    """The same arm in MuJoCo: ball joint, elbow hinge, forearm hinge, point masses, a tendon from fist to pulley."""
    upper, fore, grip = body.length("upper_arm"), body.length("forearm"), body.own("grip")
    masses = [body.segment_mass(s) for s in ("upper_arm", "forearm", "hand")]
    centres = [body.centre(s) for s in ("upper_arm", "forearm", "hand")]

    def lump(z: float, mass: float) -> str:
        return f'<inertial pos="0 0 {-z}" mass="{mass}" diaginertia="1e-9 1e-9 1e-9"/>'

    where = " ".join(str(v) for v in motion.arm.shoulder[0])
    far = " ".join(str(v) for v in pulley)
    hand = f'<body pos="0 0 {-fore}">{lump(centres[2], masses[2])}'
    hand += f'<body pos="0 0 {-grip}"><site name="fist"/>{lump(0, dumbbell) if dumbbell else lump(0, 1e-12)}</body></body>'
    spring = f'stiffness="{stiffness}" springlength="{SLACK}"' if stiffness else ""
    motor = '<actuator><motor tendon="line"/></actuator>' if not stiffness else ""
    return mujoco.MjModel.from_xml_string(f"""
    <mujoco><option gravity="0 0 {-GRAVITY}"/><compiler angle="radian" autolimits="false"/>
    <worldbody><site name="pulley" pos="{far}"/>
      <body pos="{where}"><joint type="ball" name="shoulder"/>{lump(centres[0], masses[0])}
        <body pos="0 0 {-upper}"><joint type="hinge" axis="0 -1 0"/>
          <joint type="hinge" axis="0 0 1"/>{lump(centres[1], masses[1])}{hand}</body></body>
    </worldbody>
    <tendon><spatial name="line" {spring}><site site="fist"/><site site="pulley"/></spatial></tendon>{motor}</mujoco>""")


def inverse(m: mujoco.MjModel, motion: Motion, tension: float) -> np.ndarray:
    """Torques that hold every pose still, (pose, 5): shoulder in the torso frame, elbow, forearm."""
    d = mujoco.MjData(m)
    path = path_from_coordinates(motion.coords["arm"])
    torso = motion.skeleton.torso[0]
    out = np.zeros((POSES, 5))
    for i in range(POSES):
        u = unit(path.upper_arm[i])
        antecubital = unit(path.antecubital[i])
        # MuJoCo's arm hangs along -z with the pit toward +x: columns are the humerus frame in the world.
        humerus = torso @ np.stack([antecubital, np.cross(-u, antecubital), -u], axis=-1)
        mujoco.mju_mat2Quat(d.qpos[:4], humerus.ravel())
        d.qpos[4], d.qpos[5] = motion.coords["arm"][i, 3], motion.coords["arm"][i, 4]
        d.qvel[:] = d.qacc[:] = 0
        if m.nu:
            d.ctrl[0] = -tension
        mujoco.mj_inverse(m, d)
        mujoco.mj_fwdActuation(m, d)
        torque = d.qfrc_inverse - d.qfrc_actuator
        out[i, :3] = torso.T @ humerus @ torque[:3]
        out[i, 3], out[i, 4] = torque[3], torque[4]
    return out


def ours(motion: Motion, force: np.ndarray) -> np.ndarray:
    return -(motion.weight_moment["arm"] + motion.moment("arm", Push("hand", motion.arm.grip, force[0])))


@pytest.mark.parametrize("recline", [0.0, 0.6, np.pi / 2])
@pytest.mark.parametrize("source", ["dumbbell", "cable", "band", "dumbbell and cable"])
def test_random_poses_and_sources_agree_with_inverse_dynamics(source, recline):
    rng = np.random.default_rng(len(source))
    body = Body(rng.uniform(1.5, 2.0), rng.uniform(50, 110), "female" if recline else "male")
    motion = random_motion(body, len(source), recline)
    pulley = np.array([rng.uniform(-2, 2), rng.uniform(-3, -1.5), rng.uniform(0, 2)])
    dumbbell = 14.0 if "dumbbell" in source else 0.0
    stack = 32.0 if "cable" in source else 0.0
    stiffness = STIFFNESS if source == "band" else 0.0
    cable = Cable(pulley, 0.5, 0.0, 9.0)
    # A straight spring is the one band that MuJoCo has; three of its points make our curve the same line.
    straight = Elastic(pulley, np.array([SLACK, 2.0, 9.0]), STIFFNESS * np.array([0.0, 2.0 - SLACK, 9.0 - SLACK]), 9.0)
    grip = motion.arm.grip
    force = dumbbell * Weight().force(grip) + stack * cable.force(grip[None]) + (straight.force(grip)[None] if stiffness else 0)
    expected = inverse(model(body, motion, pulley, dumbbell, stiffness), motion, stack * 0.5 * GRAVITY)
    got = ours(motion, force)
    scale = np.abs(expected).max()
    assert scale > 1
    assert np.abs(got - expected).max() / scale < 1e-6


def test_arm_positions_agree(body):
    motion = random_motion(body, 5, 0.6)
    m = model(body, motion, np.array([1.0, -2.0, 1.0]), 5.0, 0)
    d = mujoco.MjData(m)
    path = path_from_coordinates(motion.coords["arm"])
    for i in range(0, POSES, 20):
        u, antecubital = unit(path.upper_arm[i]), unit(path.antecubital[i])
        humerus = motion.skeleton.torso[0] @ np.stack([antecubital, np.cross(-u, antecubital), -u], axis=-1)
        mujoco.mju_mat2Quat(d.qpos[:4], humerus.ravel())
        d.qpos[4] = motion.coords["arm"][i, 3]
        mujoco.mj_kinematics(m, d)
        assert d.site("fist").xpos == pytest.approx(motion.arm.grip[i], abs=1e-9)
    assert turn(np.array([0.0, 0, 1]), np.array(np.pi / 2), np.array([1.0, 0, 0])) == pytest.approx([0, 1, 0], abs=1e-12)
