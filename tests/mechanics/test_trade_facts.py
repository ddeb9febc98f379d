"""Facts of the trade as computed results: common practice, no source. The id in the name is the fact's."""

from __future__ import annotations

import numpy as np
import pytest

from oddswap.errors import DomainError
from oddswap.mechanics.arm import unit
from oddswap.mechanics.attachment import strand_tensions
from oddswap.mechanics.profile import SetUp, profile
from oddswap.mechanics.sources.cable import CableColumn, CablePull
from oddswap.mechanics.sources.dumbbell import DumbbellHold

pytestmark = pytest.mark.fact
FINE = 181


def row(p, group: str) -> int:
    """Index of a muscle group in a profile."""
    return [g.id for g in p.groups].index(group)


def elevation(p):
    """Angle of the arm, shoulder to fist, off the plumb line, degrees; the soft elbow makes it differ from the upper arm's."""
    line = unit(p.motion.arm.grip - p.motion.arm.shoulder)
    return np.degrees(np.arccos(-line[:, 2]))


def raising_torque(p):
    """Torque about the axis that lifts the arm further, N·m: the raise's resistance curve."""
    u = unit(p.motion.arm.elbow - p.motion.arm.shoulder)
    axis = unit(np.cross([0.0, 0.0, -1.0], u))
    return (p.demand[:, :3] * axis).sum(axis=1)


def test_p01_flat_dumbbell_fly_is_empty_at_the_top(body):
    p = profile(body, SetUp("fly", [DumbbellHold(12)], {}, "bench", 0), FINE)
    chest = p.effective[row(p, "chest")]
    over_shoulder = np.abs(p.motion.arm.grip[:, 1] - p.motion.arm.shoulder[:, 1]).argmin()
    assert chest[over_shoulder] <= 0.15 * chest.max()
    # The peak lies where the arms are out: within the first sixth of the way.
    assert chest.argmax() < FINE / 6


def test_p02_cable_fly_is_loaded_at_both_ends(body, column):
    # Pulleys at shoulder height, a little behind the line of the shoulders. Torque about the upright axis.
    hole = 1 + int(np.abs(column.heights() - body.height("shoulder")).argmin())
    p = profile(body, SetUp("fly", [CablePull(column, hole, -30, 125, 20, "pair")]), FINE)
    closing = p.demand[:, 2]
    assert closing[0] >= 0.5 * closing.max()
    assert closing[-1] >= 0.5 * closing.max()


@pytest.mark.parametrize("plane", [0, 90])
def test_p06_dumbbell_raises_are_empty_at_the_bottom_and_hardest_level(body, plane):
    p = profile(body, SetUp("lateral_raise", [DumbbellHold(8)], {"plane_deg": plane}), FINE)
    lift = raising_torque(p)
    at_ten = np.interp(10, elevation(p), lift)
    assert at_ten < 0.2 * lift.max()
    assert abs(elevation(p)[lift.argmax()] - 90) <= 10


def test_p06_holds_for_the_load_on_the_side_delt(body):
    p = profile(body, SetUp("lateral_raise", [DumbbellHold(8)]), FINE)
    load = p.effective[row(p, "side_delt")]
    assert np.interp(10, elevation(p), load) < 0.2 * load.max()
    assert abs(elevation(p)[load.argmax()] - 90) <= 10


def test_p07_cable_raise_from_hand_height_loads_the_bottom(body, column):
    hole = 1 + int(np.abs(column.heights() - body.landmarks()["hanging hand"]).argmin())
    pull = CablePull(column, hole, 32, -85, 12)
    p = profile(body, SetUp("lateral_raise", [pull], {"start": 1}), FINE)
    # Turning moment of the cable alone about the shoulder: the resistance curve of the source.
    moment = np.linalg.norm(np.cross(p.motion.arm.grip - p.motion.arm.shoulder, p.force[0]), axis=1)
    arm = unit(p.motion.arm.grip - p.motion.arm.shoulder)
    square = np.abs((arm * unit(p.force[0])).sum(axis=1)).argmin()
    assert abs(int(moment.argmax()) - int(square)) <= FINE * 0.05
    assert moment.argmax() < FINE / 2
    assert moment[: FINE // 3].mean() > moment[-FINE // 3 :].mean()
    # And for the muscle: far more of its load at the bottom than a bell gives.
    bell = profile(body, SetUp("lateral_raise", [DumbbellHold(8)]), FINE)
    cable_start, bell_start = (q.effective[row(q, "side_delt")][0] / q.effective[row(q, "side_delt")].max() for q in (p, bell))
    assert cable_start > 2.5 * bell_start


def test_p08_standing_dumbbell_curl_is_empty_straight_and_hardest_level(body):
    p = profile(body, SetUp("curl", [DumbbellHold(12)]), FINE)
    forearm = unit(p.motion.arm.wrist - p.motion.arm.elbow)
    slope = np.degrees(np.arcsin(forearm[:, 2]))
    for curve in (p.demand[:, 3], p.effective[row(p, "biceps")]):
        assert curve[0] < 0.1 * curve.max()
        assert abs(slope[curve.argmax()]) <= 10


def test_p09_facing_away_low_cable_curl_loads_the_start(body, column):
    away = SetUp("curl", [CablePull(column, 2, -85, 15, 15)], {"arm_angle_deg": -15})
    p = profile(body, away, FINE)
    for curve in (p.demand[:, 3], p.effective[row(p, "biceps")]):
        assert curve[0] >= 0.5 * curve.max()
        quarter = curve[-FINE // 4 :]
        assert (np.diff(quarter) < 0).all()
        assert quarter[-1] < 0.8 * quarter[0]
    # Where it beats a free weight of the same peak: the first quarter to third of the range.
    bell = profile(body, SetUp("curl", [DumbbellHold(12)]), FINE).demand[:, 3]
    gain = p.demand[:, 3] / p.demand[:, 3].max() - bell / bell.max()
    assert gain[: FINE * 3 // 10].sum() > 0.6 * gain[gain > 0].sum()


@pytest.mark.parametrize("spread", [0, 40, 90, 120, 150])
def test_p15_spreading_a_two_ended_attachment_multiplies_the_load(spread):
    half = np.radians(spread / 2)
    hands = 0.3 * np.array([[np.sin(half), 0, np.cos(half)], [-np.sin(half), 0, np.cos(half)]])
    if spread == 0:
        hands[:, 1] = [-1e-4, 1e-4]  # two strands side by side
    each = strand_tensions(np.zeros(3), hands, np.array([0.0, 0.0, -100.0]))
    assert each == pytest.approx(100 / (2 * np.cos(half)), rel=1e-3)
    if spread == 150:
        assert each[0] / 100 == pytest.approx(1.93, abs=0.01)


def test_p18_upper_arm_behind_lengthens_the_biceps_not_the_brachialis(body):
    lengths = {}
    for angle in (-40, 0, 50):
        p = profile(body, SetUp("curl", [DumbbellHold(8)], {"arm_angle_deg": angle}, pad=angle > 0), FINE)
        lengths[angle] = p.length[[row(p, "biceps"), row(p, "brachialis")]]
    biceps = {a: v[0] for a, v in lengths.items()}
    # 0 is longest: behind is longer than beside is longer than before, at every elbow angle.
    assert (biceps[-40] < biceps[0] - 0.05).all()
    assert (biceps[50] > biceps[0]).all()
    assert lengths[-40][1] == pytest.approx(lengths[50][1], abs=1e-9)


def test_p35_the_cable_must_be_taut_at_the_long_end(body):
    column = CableColumn("c", "column", 21, 10, 210, 1, 80, 1, parked_cm=60)
    raise_ = {"start": 1.0}
    with pytest.raises(DomainError, match="stays taut") as caught:
        profile(body, SetUp("lateral_raise", [CablePull(column, 8, 30, -35, 5)], raise_))
    assert caught.value.field == "sources.0.forward_cm"
    p = profile(body, SetUp("lateral_raise", [CablePull(column, 8, 32, -85, 5)], raise_))
    reach = np.linalg.norm(p.motion.arm.grip - CablePull(column, 8, 32, -85, 5).law().pulley, axis=1)
    assert reach[0] > 0.60
    assert reach.min() > 0.60
