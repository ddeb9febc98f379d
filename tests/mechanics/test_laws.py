"""Laws that hold whatever the numbers: property tests."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddswap.mechanics.arm import Arm, cross, dot, path_from_coordinates
from oddswap.mechanics.body import Body, within_ranges
from oddswap.mechanics.clearance import segment_distance
from oddswap.mechanics.motion import Motion, perform
from oddswap.mechanics.movements import movement, movements
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.posture import Stance
from oddswap.mechanics.profile import SetUp, profile
from oddswap.mechanics.sources.dumbbell import DumbbellHold, Weight

VECTOR = st.tuples(*[st.floats(-300, 300)] * 3).map(np.array)
POINT = st.tuples(*[st.floats(-2, 2)] * 3).map(np.array)
ANGLE = st.floats(-np.pi, np.pi)


def curl() -> Motion:
    return perform(Body(1.75, 75), movement("curl"), {"arm_angle_deg": -20.0}, Stance())


def moved(motion: Motion, by: np.ndarray) -> Motion:
    """The whole arm and torso under a linear map of the world."""
    a = motion.arm
    turn = lambda v: v @ by.T
    arm = Arm(
        turn(a.shoulder),
        turn(a.elbow),
        turn(a.wrist),
        turn(a.grip),
        turn(a.centres),
        a.masses,
        turn(a.elbow_axis) * np.linalg.det(by),
        turn(a.pronation_axis) * np.linalg.det(by),
        turn(a.thumb),
        by @ a.torso,
    )
    return replace(motion, arm=arm)


def rotation(yaw: float, pitch: float) -> np.ndarray:
    c, s, d, t = np.cos(yaw), np.sin(yaw), np.cos(pitch), np.sin(pitch)
    return np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]) @ np.array([[d, 0, t], [0, 1, 0], [-t, 0, d]])


@given(VECTOR, ANGLE, ANGLE)
def test_rotating_the_whole_scene_changes_no_torque(force, yaw, pitch):
    motion, by = curl(), rotation(yaw, pitch)
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    turned = moved(motion, by).grip_moment(forces @ by.T)
    assert turned == pytest.approx(motion.grip_moment(forces), abs=1e-9)


@given(VECTOR)
def test_mirroring_the_scene_mirrors_the_torques(force):
    motion, flip = curl(), np.diag([1.0, -1.0, 1.0])
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    mirrored = moved(motion, flip).grip_moment(forces @ flip.T)
    # A moment is a pseudo-vector: in the mirrored torso frame its shoulder part changes sign, the hinges' parts do not.
    assert mirrored * [-1, -1, -1, 1, 1] == pytest.approx(motion.grip_moment(forces), abs=1e-9)


@given(VECTOR, st.floats(0, 5))
def test_torque_scales_with_the_load_and_sources_add_up(force, k):
    motion = curl()
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    whole = motion.grip_moment(forces)
    assert motion.grip_moment(k * forces) == pytest.approx(k * whole, abs=1e-8)
    assert motion.grip_moment(0.3 * forces) + motion.grip_moment(0.7 * forces) == pytest.approx(whole, abs=1e-8)


@given(st.floats(1, 30))
def test_two_bells_in_one_hand_are_one_heavier_bell(mass):
    body = Body(1.7, 70)
    one = profile(body, SetUp("curl", [DumbbellHold(2 * mass)]), 11)
    two = profile(body, SetUp("curl", [DumbbellHold(mass), DumbbellHold(mass)]), 11)
    assert two.demand == pytest.approx(one.demand)


@given(VECTOR, st.sampled_from(["biceps", "chest", "side_delt"]))
def test_virtual_work_gives_the_same_load_as_the_moment_law(force, group):
    motion, target = curl(), muscle_table().groups[group]
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    by_moment = -dot(motion.grip_moment(forces), motion.direction(target))
    assert -dot(forces, motion.virtual_path(target)) == pytest.approx(by_moment, abs=1e-9)


@given(VECTOR)
def test_elbow_torque_does_the_work_the_hand_receives(force):
    motion = perform(Body(1.75, 75), movement("curl"), {}, Stance(), poses=400)
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    by_joint = np.trapezoid(motion.grip_moment(forces)[:, 3], motion.coords[:, 3])
    by_hand = float(force @ (motion.arm.grip[-1] - motion.arm.grip[0]))
    assert by_joint == pytest.approx(by_hand, abs=1e-2 + 1e-4 * np.linalg.norm(force))


@given(st.integers(0, 2**32 - 1))
def test_limb_directions_and_joint_coordinates_are_one_to_one(seed):
    rng = np.random.default_rng(seed)
    coords = rng.uniform(np.radians([-89, 1, -89, 0, -89]), np.radians([129, 174, 89, 140, 84]), (50, 5))
    assert path_from_coordinates(coords).coordinates() == pytest.approx(coords, abs=1e-9)


@given(POINT, POINT, POINT, POINT)
def test_segment_distance_is_the_least_over_both_segments(a0, a1, b0, b1):
    got = float(segment_distance(a0, a1, b0, b1))
    t = np.linspace(0, 1, 60)[:, None]
    brute = np.linalg.norm((a0 + t * (a1 - a0))[:, None] - (b0 + t * (b1 - b0))[None], axis=-1).min()
    assert got <= brute + 1e-6  # m; segments under a micrometre count as points
    assert brute - got < 0.12


@settings(deadline=None)
@given(st.data())
def test_every_movement_is_smooth_and_within_reach(data):
    kind = movements()[data.draw(st.sampled_from(sorted(movements())))]
    variants = list(kind.variants([0, 30, 45, 60, 90], [45]))
    v = data.draw(st.sampled_from(variants))
    body = Body(data.draw(st.floats(1.5, 2.0)), data.draw(st.floats(50, 120)))
    stance = Stance("bench" if v.stance == "bench" else "standing", np.radians(v.recline_deg))
    motion = perform(body, kind, dict(v.values), stance, v.pad, 60)
    assert within_ranges(*motion.coords.T).all()
    # Hands move without jumps, and never through the floor.
    steps = np.linalg.norm(np.diff(motion.arm.grip, axis=0), axis=1)
    assert steps.max() < 0.06
    assert motion.arm.grip[:, 2].min() > 0
    # The long end is really long for some muscle the movement is for.
    spans = [motion.target_length(muscle_table().groups[g]) for g in kind.targets]
    assert any(s[-1] - s[0] > 0.08 for s in spans)


def test_a_pad_carries_the_shoulder_and_leaves_the_elbow(body):
    pad, free = (perform(body, movement("curl"), {"arm_angle_deg": 45.0}, Stance(), pad=p) for p in (True, False))
    force = Weight().force(free.arm.grip)[0] * 10
    assert pad.grip_moment(force)[:, 3:] == pytest.approx(free.grip_moment(force)[:, 3:])
    assert not pad.grip_moment(force)[:, :3].any()
    assert np.abs(cross(free.arm.grip - free.arm.shoulder, force)).max() > 5
