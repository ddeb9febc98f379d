"""Laws that hold whatever the numbers: property tests."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddswap.equipment.band import BandPull, PullPoint
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.law import Attachment
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Weight
from oddswap.equipment.lever import LeverHold, SwingLever
from oddswap.equivalence.profile import profile, profile_motion
from oddswap.equivalence.set_up import UPRIGHT, SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement, movements
from oddswap.mechanics.arm import Arm, cross, dot, path_from_coordinates
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import segment_distance
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.performing import Performance, perform
from oddswap.mechanics.push import Push
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.supports import reactions
from oddswap.mechanics.virtual_work import virtual_path

VECTOR = st.tuples(*[st.floats(-300, 300)] * 3).map(np.array)
POINT = st.tuples(*[st.floats(-2, 2)] * 3).map(np.array)
ANGLE = st.floats(-np.pi, np.pi)


def curl() -> Motion:
    return perform(Body(1.75, 75), Performance(movement("curl"), {"arm_angle_deg": -20.0}, Stance()))


def moved(motion: Motion, lens: np.ndarray) -> Motion:
    """The whole arm and torso under a linear map of the world."""
    a = motion.arm
    turn = lambda v: v @ lens.T
    arm = Arm(
        turn(a.shoulder),
        turn(a.elbow),
        turn(a.wrist),
        turn(a.grip),
        turn(a.centres),
        a.masses,
        turn(a.elbow_axis) * np.linalg.det(lens),
        turn(a.pronation_axis) * np.linalg.det(lens),
        turn(a.thumb),
        lens @ a.torso,
    )
    return replace(motion, skeleton=replace(motion.skeleton, arm=arm))


def on_hand(motion: Motion, force: np.ndarray) -> np.ndarray:
    """Moment of a force on the hand, N·m, (pose, 5)."""
    return motion.moment("arm", Push("hand", motion.arm.grip, force))


def rotation(yaw: float, pitch: float) -> np.ndarray:
    c, s, d, t = np.cos(yaw), np.sin(yaw), np.cos(pitch), np.sin(pitch)
    return np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]) @ np.array([[d, 0, t], [0, 1, 0], [-t, 0, d]])


@given(VECTOR, ANGLE, ANGLE)
def test_rotating_the_whole_scene_changes_no_torque(force, yaw, pitch):
    motion, lens = curl(), rotation(yaw, pitch)
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    turned = on_hand(moved(motion, lens), forces @ lens.T)
    assert turned == pytest.approx(on_hand(motion, forces), abs=1e-9)


@given(VECTOR)
def test_mirroring_the_scene_mirrors_the_torques(force):
    motion, flip = curl(), np.diag([1.0, -1.0, 1.0])
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    mirrored = on_hand(moved(motion, flip), forces @ flip.T)
    # A moment is a pseudo-vector: in the mirrored torso frame its shoulder part changes sign, the hinges' parts do not.
    assert mirrored * [-1, -1, -1, 1, 1] == pytest.approx(on_hand(motion, forces), abs=1e-9)


@given(VECTOR, st.floats(0, 5))
def test_torque_scales_with_the_load_and_sources_add_up(force, k):
    motion = curl()
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    whole = on_hand(motion, forces)
    assert on_hand(motion, k * forces) == pytest.approx(k * whole, abs=1e-8)
    assert on_hand(motion, 0.3 * forces) + on_hand(motion, 0.7 * forces) == pytest.approx(whole, abs=1e-8)


@given(st.floats(1, 30))
def test_two_dumbbells_in_one_hand_are_one_heavier_bell(mass):
    body = Body(1.7, 70)
    one = profile(body, SetUp("curl", [DumbbellHold(2 * mass)]), 11)
    two = profile(body, SetUp("curl", [DumbbellHold(mass), DumbbellHold(mass)]), 11)
    assert two.demand["arm"] == pytest.approx(one.demand["arm"])


DUMBBELL, LEVER = DumbbellHold(10, "one"), SwingLever("lever", "lever", 150, 80, [10, 20, 30])
TALL = CableColumn("c", "column", 23, 10, 230, 1, 100, 1, parked_cm=10, travel_cm=320)
BAR = Barbell("bar", "bar", 20, [PlatePair(20, 8)])
CALCULATORS = {
    "dumbbell and band": ("curl", "standing", DUMBBELL, lambda band: BandPull(band, 5, 20, 0)),
    "lever and cable": (
        "lateral_raise",
        "standing",
        LeverHold(LEVER, 0, 20, "one"),
        lambda band: CablePull(TALL, 9, 60, -100, 12),
    ),
    "two columns": ("curl", "standing", CablePull(TALL, 2, -85, 15, 8), lambda band: CablePull(TALL, 3, 70, 15, 8)),
    "bar and bands": ("press", "bench", BarbellHold(BAR, 60), lambda band: BandPull(band, 0, 0, 20, hands="both")),
    "pull-up and band": ("pull_up", "hanging", None, lambda band: BandPull(band, 225, 0, 0, attachment=Attachment("foot"))),
}


@pytest.mark.parametrize("name", CALCULATORS)
def test_sources_add_up_at_every_joint(body, band, name):
    lift, stance, first, second = CALCULATORS[name]
    band = replace(band, points=[*band.points, PullPoint(320, 260)], most_cm=320, count=2)
    one, two = ([first] if first else []), [second(band)]
    motion = SetUp(lift, one + two, {}, stance, 0).perform(body, 21)
    at = lambda sources: profile_motion(SetUp(lift, sources, {}, stance, 0), motion, check=False)
    a, b, both = (at(s) for s in (one, two, one + two))
    for region in both.moment:
        rest = a.motion.weight_moment[region]
        assert both.moment[region] == pytest.approx(a.moment[region] + b.moment[region] - rest, abs=1e-9)
    assert np.abs(both.moment["arm"] - a.moment["arm"]).max() > 1


@given(VECTOR, st.sampled_from(["biceps", "chest", "side_delt"]))
def test_virtual_work_gives_the_same_load_as_the_moment_law(force, group):
    motion, target = curl(), muscle_table().groups[group]
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    by_moment = -dot(on_hand(motion, forces), motion.direction(target))
    assert -dot(forces, virtual_path(motion, target)) == pytest.approx(by_moment, abs=1e-9)


@given(VECTOR)
def test_elbow_torque_does_the_work_the_hand_receives(force):
    motion = perform(Body(1.75, 75), Performance(movement("curl"), {}, Stance()), 400)
    forces = np.broadcast_to(force, motion.arm.grip.shape)
    by_joint = np.trapezoid(on_hand(motion, forces)[:, 3], motion.coords["arm"][:, 3])
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


def stance_of(v) -> Stance:
    """The stance of a variant."""
    return Stance(v.stance, np.pi / 2 if v.stance in UPRIGHT else np.radians(v.recline_deg))


@settings(max_examples=8)
@pytest.mark.parametrize("name", sorted(movements()))
@given(data=st.data())
def test_every_movement_is_smooth_and_within_reach(name, data):
    kind = movements()[name]
    v = data.draw(st.sampled_from(kind.every_way([0, 30, 45, 60, 90], [45])))
    body = Body(data.draw(st.floats(1.5, 2.0)), data.draw(st.floats(50, 120)))
    # Raises where a pose lies outside the joint ranges or finds no balance.
    motion = perform(body, Performance(kind, dict(v.values), stance_of(v), v.pad), 60)
    # Hands and feet move without jumps, never through the floor, and what rests stays.
    for at in (motion.arm.grip, motion.leg.sole):
        assert np.linalg.norm(np.diff(at, axis=0), axis=1).max() < 0.06
    assert motion.arm.grip[:, 2].min() > -0.02
    feet = np.stack([motion.joints[f"{s} {at}"][:, 2] for s in ("right", "left") for at in ("toe", "heel")])
    assert min(feet.min(), motion.leg.ball[:, 2].min()) > -0.03
    if kind.id == "split_squat":
        assert feet[2] == pytest.approx(v.values["rear_cm"] / 100, abs=0.012)
    rests = {"feet": motion.leg.sole, "toes": motion.leg.ball, "hands": motion.arm.grip, "knees": motion.leg.knee}
    if motion.support.root in rests:
        assert np.ptp(rests[motion.support.root][:, [0, 2]], axis=0) == pytest.approx([0, 0], abs=1e-6)
    # The lengthened end is really long for some muscle the movement is for.
    spans = [motion.target_length(muscle_table().groups[g]) for g in kind.targets]
    assert any(s[-1] - s[0] > 0.08 for s in spans)


LONG_ARMS = {"upper_arm": 35.5, "forearm": 27.5}
SHORT_LEGS = {"thigh": 40.5, "shank": 40.0}


@pytest.mark.parametrize(
    "measured", [{}, LONG_ARMS, SHORT_LEGS, LONG_ARMS | SHORT_LEGS], ids=["tables", "arms", "legs", "both"]
)
def test_hands_stay_on_the_bar_whatever_the_client_s_own_segments(measured):
    client = Body(1.75, 75, measured={k: v / 100 for k, v in measured.items()})
    for height in (90.0, 105.0):
        motion = perform(client, Performance(movement("inverted_row"), {"bar_cm": height}, Stance("floor")), 40)
        assert motion.arm.grip[:, 2] == pytest.approx(np.full(len(motion.arm.grip), height / 100), abs=1e-6)
        assert np.ptp(motion.arm.grip, axis=0) == pytest.approx([0, 0, 0], abs=0.006)
        for part, joints in (
            ("upper_arm", (motion.arm.shoulder, motion.arm.elbow)),
            ("thigh", (motion.leg.hip, motion.leg.knee)),
        ):
            assert np.linalg.norm(joints[1] - joints[0], axis=1) == pytest.approx(
                np.full(len(joints[0]), client.length(part)), abs=1e-9
            )


@pytest.mark.parametrize("measured", [{}, SHORT_LEGS, {"thigh": 47.0}], ids=["tables", "legs", "thigh"])
@pytest.mark.parametrize("rear", [0.0, 30.0])
def test_both_feet_of_a_split_squat_stay_whatever_the_client_s_own_segments(measured, rear):
    client = Body(1.75, 75, measured={k: v / 100 for k, v in measured.items()})
    motion = perform(client, Performance(movement("split_squat"), {"rear_cm": rear}, Stance()), 40)
    for foot in ("right heel", "left toe"):
        assert np.ptp(motion.joints[foot], axis=0) == pytest.approx([0, 0, 0], abs=0.025)
        assert np.ptp(motion.joints[foot][:, [0, 2]], axis=0) == pytest.approx([0, 0], abs=0.002)
    assert motion.joints["left toe"][:, 2] == pytest.approx(np.full(40, rear / 100), abs=0.004)


@pytest.mark.parametrize(
    "name",
    ["squat", "romanian_deadlift", "pull_up", "dip", "push_up", "inverted_row", "hip_thrust", "calf_raise", "back_extension"],
)
def test_what_supports_give_back_holds_the_whole_body_still(body, name):
    kind = movements()[name]
    v = next(iter(kind.variants([0, 30, 45, 60, 90], [45])))
    motion = perform(body, Performance(kind, dict(v.values), stance_of(v)))
    at = motion.skeleton
    weight = np.zeros_like(at.centres)
    weight[..., 2] = -9.80665 * at.masses
    force, about = weight.sum(axis=1), np.cross(at.centres, weight).sum(axis=1)
    for push in reactions(motion, force, about):
        one, turn = push.force, np.cross(push.point, push.force)
        turn = turn if push.couple is None else turn + push.couple
        if push.mirrored:
            one, turn = one + one * [1, -1, 1], turn - turn * [1, -1, 1]
        force, about = force + one, about + turn
    assert force == pytest.approx(np.zeros_like(force), abs=1e-6)
    # Along the plane of symmetry nothing turns either.
    assert about[:, 1] == pytest.approx(np.zeros(len(about)), abs=1e-6)


COLUMN = CableColumn("c", "column", 23, 10, 230, 1, 100, 1, parked_cm=10)


@pytest.mark.parametrize(
    ("source", "heavier"),
    [
        (DumbbellHold(10, "one"), True),
        (CablePull(COLUMN, 2, -85, 15, 12), True),
        (CablePull(replace(COLUMN, drive="air"), 2, -85, 15, 12), False),
    ],
    ids=["dumbbell", "stack", "air"],
)
def test_swinging_a_weight_loads_the_turn_and_frees_the_top(body, source, heavier):
    slow, fast = (profile(body, SetUp("curl", [source], lift_s=t), 181, check=False) for t in (None, 0.6))
    extra = fast.force[0] - slow.force[0]
    along = np.gradient(slow.motion.arm.grip, axis=0)
    against = -(extra * along).sum(axis=1) / np.linalg.norm(along, axis=1)
    if not heavier:
        assert extra == pytest.approx(np.zeros_like(extra), abs=1e-9)
        return
    # Resists at the turn, pulls along near the top, and over a phase from rest to rest does no work.
    assert against[0] > 0.15 * np.linalg.norm(slow.force[0][0])
    assert against[-45:].mean() < 0
    work = (extra[1:] + extra[:-1]) / 2 * np.diff(slow.motion.arm.grip, axis=0)
    assert abs(work.sum()) < 0.02 * np.abs(work).sum()
    assert fast.demand["arm"][1, 3] > slow.demand["arm"][1, 3]


def test_shares_balance_the_moments_and_stay_within_bounds(body):
    p = profile(body, SetUp("press", [DumbbellHold(20)], {}, "bench", 0))
    shares, state = p.shares()["arm"], p.motion.muscles["arm"]
    given = np.einsum("pm,pma->pa", shares.force, state.moment_arm)
    assert given + shares.left == pytest.approx(shares.demand)
    assert shares.activation.min() >= 0
    assert shares.activation.max() <= 1


def test_a_pad_carries_the_shoulder_and_leaves_the_elbow(body):
    pad, free = (perform(body, Performance(movement("curl"), {"arm_angle_deg": 45.0}, Stance(), p)) for p in (True, False))
    force = Weight().force(free.arm.grip)[0] * 10
    assert on_hand(pad, force)[:, 3:] == pytest.approx(on_hand(free, force)[:, 3:])
    assert not on_hand(pad, force)[:, :3].any()
    assert np.abs(cross(free.arm.grip - free.arm.shoulder, force)).max() > 5


def test_a_sharing_that_ran_out_of_steps_says_so(body, monkeypatch):
    p = profile(body, SetUp("curl", [DumbbellHold(12)]), 11)
    assert p.shares()["arm"].settled.all()
    monkeypatch.setattr("oddswap.mechanics.sharing.ITERATIONS", 1)
    assert not p.shares()["arm"].settled.all()


def test_a_balance_that_is_not_found_is_an_error_not_a_pose(body, monkeypatch):
    monkeypatch.setattr("oddswap.mechanics.balance.STEPS", 1)
    with pytest.raises(DomainError, match="balance must settle"):
        perform(body, Performance(movement("squat"), {}, Stance()))


@pytest.mark.parametrize(
    "set_up",
    [
        SetUp("curl", [DumbbellHold(10)], {"drift_deg": 15.0}),
        SetUp("press", [BarbellHold(Barbell("b", "b", 20, [PlatePair(10, 2)]), 40)], {"depth_deg": 5.0}, "bench", 0),
        SetUp("pulldown", [CablePull(CableColumn("c", "c", 1, 210, 210, 5, 100, 5), 1, 60, 19, 30)], {}, "kneeling"),
        SetUp("row", [DumbbellHold(20)], {}, "bent_over", 15.0),
        SetUp("split_squat", [DumbbellHold(10)], {"hold": 1.0}),
        SetUp("romanian_deadlift", [DumbbellHold(20)]),
    ],
    ids=lambda s: s.movement,
)
def test_a_part_of_the_way_is_cut_out_of_the_whole(body, set_up):
    """A bottom half, or a lockout left out, goes through the places of the whole repetition, with its hands and hang."""
    part = replace(set_up, parameters=dict(set_up.parameters) | {"range_from_pct": 20.0, "range_to_pct": 70.0})
    whole, cut = set_up.perform(body, 61), part.perform(body, 31)
    for joint in ("right grip", "right elbow", "right knee", "hips", "head"):
        assert cut.joints[joint] == pytest.approx(whole.joints[joint][12:43], abs=3e-3), joint
    with pytest.raises(DomainError, match="at least 10%"):
        replace(set_up, parameters={"range_from_pct": 60.0, "range_to_pct": 65.0}).perform(body)
