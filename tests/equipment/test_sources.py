"""Laws that every load source keeps: what is moved stands where it was moved to, and batches are their settings."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddswap.equipment.anchor import AnchorPoints
from oddswap.equipment.band import Band, BandPull, PullPoint
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.item import Room, Scene
from oddswap.equipment.base.setting import Placements
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equipment.lever import LeverHold, SwingLever
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.body import Body

BODY = Body(1.75, 75, "male")
COLUMN = CableColumn("twin", "twin columns", 22, 12, 222, 2.5, 80, 2.5, parked_cm=30, columns=2, spacing_cm=240)
FIXED = CableColumn("low", "low pulley", 1, 30, 30, 5, 100, 5, swivels=False)
BAND = Band("band", "long band", [PullPoint(a, f) for a, f in [(50, 0), (60, 12), (80, 26), (110, 40), (150, 60)]], 150, 3)
BAR = Barbell("bar", "bar", 20, [PlatePair(m, 4) for m in (20, 10, 5, 2.5)])
LEVER = SwingLever("lever", "floor lever", 12, 180, [5.0, 10.0, 20.0], 8)
PRESS = Machine("press", "press machine", "press", [5.0, 10.0, 20.0, 40.0], "path")
KIT = [
    COLUMN,
    FIXED,
    BAND,
    BAR,
    LEVER,
    PRESS,
    Dumbbells("dumbbells", "dumbbells", [4.0, 8.0, 12.0]),
    AnchorPoints("a", "door", [20, 110, 200]),
]
MOTION = SetUp("press", [DumbbellHold(10)], {"angle_deg": 0.0}, "bench", 45.0).perform(BODY, 9)
SCENE = Scene(
    BODY, MOTION.stance, MOTION.point("hand"), Room(6, 6, 3), (), True, "press", "hand", MOTION.joints["right shoulder"]
)
SETTINGS = {
    "cable": CablePull(COLUMN, 5, -80.0, 40.0, 20.0),
    "cable pair": CablePull(COLUMN, 9, -20.0, 120.0, 20.0, "pair"),
    "fixed pulley": CablePull(FIXED, 1, 100.0, 0.0, 20.0),
    "band": BandPull(BAND, 110, 60.0, 20.0, 2),
    "band under a foot": BandPull(BAND, 3, 10.0, -20.0, 1, "foot"),
    "dumbbells": DumbbellHold(8.0),
    "dumbbell in both hands": DumbbellHold(8.0, "shared"),
    "bar": BarbellHold(BAR, 40.0),
    "lever": LeverHold(LEVER, 30.0, 20.0),
    "machine": MachineHold(PRESS, 20.0),
}


def force(setting):
    law = setting.law_on(SCENE.hinge, SCENE.hinge_axis, SCENE.line)
    return np.broadcast_to(law.force(SCENE.grip), (1, *SCENE.grip.shape))[0]


@pytest.mark.parametrize("name", SETTINGS)
def test_a_choice_moved_to_a_value_has_that_value_and_back_again_nothing_has_changed(name):
    setting = SETTINGS[name]
    for parameter in setting.adjustable_parameters(KIT):
        for value in parameter.values()[:: max(1, len(parameter.values()) // 7)]:
            moved = setting.with_parameter(parameter.id, float(value))
            now = {f.id: f for f in moved.adjustable_parameters(KIT)}
            off = now[parameter.id].value - value
            assert ((off + 180) % 360 - 180 if parameter.unit == "°" else off) == pytest.approx(0, abs=0.06)
            assert moved.amount == setting.amount
            for other in setting.adjustable_parameters(KIT):
                if other.id != parameter.id:
                    off = abs(now[other.id].value - other.value)
                    assert min(off, abs(off - 360)) <= 0.2, other.id
            np.testing.assert_allclose(
                force(moved.with_parameter(parameter.id, parameter.value)), force(setting), rtol=0.03, atol=0.2
            )


@pytest.mark.parametrize("name", SETTINGS)
def test_neighbours_differ_in_one_choice_and_shorter_steps_lead_less_far(name):
    setting = SETTINGS[name]
    near, far = setting.nearby(0.2), setting.nearby(0.8)
    if near is None or far is None:
        assert near is far
        return
    here = {f.id: f.value for f in setting.adjustable_parameters(KIT)}
    assert near.count == far.count
    for i in range(far.count):
        there = {f.id: f.value for f in far.setting(i, setting.amount).adjustable_parameters(KIT)}
        changed = [k for k, v in there.items() if 0.3 < abs(v - here[k]) % 360 < 359.7]
        assert len(changed) <= 1
    law = setting.law()
    ends = [np.linalg.norm(b.law.far_end - law.far_end, axis=-1) for b in (near, far)]
    assert (ends[0] <= ends[1] + 1e-9).all()


@pytest.mark.parametrize("item", [k for k in KIT if k.loads], ids=lambda k: k.id)
def test_a_batch_pulls_as_its_settings_do(item):
    rng = np.random.default_rng(3)
    least = float(item.amounts()[0])
    seen = 0
    for batch in item.placements(replace(SCENE, others=item.needs_of(KIT))):
        together = np.broadcast_to(batch.law.force(SCENE.grip), (batch.count, *SCENE.grip.shape))
        for i in rng.choice(batch.count, min(batch.count, 12), replace=False):
            setting = batch.setting(int(i), least)
            np.testing.assert_allclose(force(setting), together[i], atol=0.05)
            assert setting.is_from(item)
            seen += 1
    assert seen


@pytest.mark.parametrize("item", [COLUMN, BAND], ids=lambda k: k.id)
def test_batches_joined_are_one_after_the_other(item):
    batch = next(b for b in item.placements(replace(SCENE, others=item.needs_of(KIT))) if b.count > 6)
    name = "pulley" if item is COLUMN else "anchor"
    parts = [Placements(type(batch.law)(**(vars(batch.law) | {name: vars(batch.law)[name][a:b]})), b - a,
                        lambda i, amount, a=a: batch.setting(i + a, amount)) for a, b in ((0, 2), (2, 3), (3, 7))]  # fmt: skip
    concatenate = Placements.concatenate(parts)
    assert concatenate.count == 7
    assert [concatenate.setting(i, 5.0) for i in range(7)] == [batch.setting(i, 5.0) for i in range(7)]
    np.testing.assert_allclose(concatenate.law.force(SCENE.grip), batch.law.force(SCENE.grip)[:7])


@given(st.sampled_from(sorted(SETTINGS)), st.floats(-1.5, 1.5), st.floats(-1.5, 1.5), st.floats(0.1, 2.2))
def test_what_is_carried_to_a_point_leads_there_as_near_as_kit_allows(name, x, y, z):
    setting = SETTINGS[name]
    carried = setting.with_far_end_near(np.array([x, y, z]), KIT)
    if carried is setting or setting.law().far_end is None:
        return
    end = carried.law().far_end
    heights = {"cable": COLUMN.heights(), "cable pair": COLUMN.heights(), "band": np.array([0.2, 1.1, 2.0])}
    if name in heights:
        assert abs(end[2] - z) <= np.abs(heights[name] - z).min() + 1e-6
    if name in ("cable", "band"):
        assert end[:2] == pytest.approx([x, y], abs=6e-4)
    assert carried.amount == setting.amount


@given(st.sampled_from(sorted(SETTINGS)), st.floats(0.2, 3.0))
def test_twice_the_amount_is_twice_the_pull_and_words_name_it(name, k):
    setting = SETTINGS[name]
    more = setting.with_amount(setting.amount * k)
    np.testing.assert_allclose(force(more), force(setting))  # per unit of amount
    assert setting.amount_words(setting.amount)
    assert all(row.what and row.value for row in setting.rows())


def test_one_dumbbell_in_both_hands_weighs_half_in_each():
    np.testing.assert_allclose(force(DumbbellHold(8.0, "shared")), force(DumbbellHold(8.0)) / 2)
    there = [b.setting(0, 8.0).hands for b in Dumbbells("d", "one of each", [8.0], pairs=False).placements(SCENE)]
    assert there == ["one", "shared"]
