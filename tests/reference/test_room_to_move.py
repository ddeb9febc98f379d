"""Offered set-ups as solids, looked at by MuJoCo's collision detection (registry package ``mujoco``).

In every run a sample of a hundred; ``make judge`` looks at a thousand.
"""

from __future__ import annotations

from itertools import islice

import numpy as np
import pytest

from collision import Scene, penetrations
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equivalence.profile import profile
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.body import Body
from offered import offered

pytestmark = pytest.mark.reference
GIVES = 0.02
"""What flesh and cushions give, m."""


@pytest.mark.parametrize(("seed", "count"), [(1, 100), pytest.param(2, 1000, marks=pytest.mark.judge)])
def test_nothing_passes_through_anything(seed, count):
    faults = []
    for _, _, swap in islice(offered(seed), count):
        deep = {pair: round(100 * m, 1) for pair, m in penetrations(swap.set_up, swap.profile).items() if m > GIVES}
        if deep:
            faults.append((swap.set_up.movement, swap.set_up.stance, deep))
    # Limits and solids are made of different shapes: one in a hundred may differ by a little more than is given.
    worst = max((cm for _, _, deep in faults for cm in deep.values()), default=0.0)
    assert len(faults) <= count / 100, faults
    assert worst < 4.0, faults


@pytest.mark.parametrize(
    ("set_up", "through"),
    [
        (
            SetUp("curl", [BarbellHold(Barbell("b", "b", 20, [PlatePair(10, 2)]), 40)], {"arm_angle_deg": -45.0}, "bench", 45),
            "bar",
        ),
        (SetUp("overhead_extension", [DumbbellHold(10)], {}, "bench", 75), "rest"),
        (SetUp("lateral_raise", [DumbbellHold(40)], {"start": 1.0}), "dumbbell"),
    ],
    ids=["bar through the back rest", "forearms through the back rest", "dumbbells through each other"],
)
def test_solids_that_do_pass_through_are_seen(set_up, through):
    shown = profile(Body(1.75, 75), set_up, check=False)
    found = {name for pair, deep in penetrations(set_up, shown).items() if deep > GIVES for name in pair}
    assert any(through in name for name in found), found


@pytest.mark.parametrize("stature", [1.52, 1.75, 1.97])
@pytest.mark.parametrize("palm", [0.0, 1.0])
def test_dumbbells_beyond_the_knees_clear_them_whatever_ones_size(stature, palm):
    set_up = SetUp("wrist_curl", [DumbbellHold(12)], {"palm": palm}, "bench", 90)
    deep = penetrations(set_up, profile(Body(stature, 25 * stature**2), set_up, check=False))
    assert not {pair: m for pair, m in deep.items() if m > GIVES}


def test_a_solid_where_it_should_not_be_is_measured_right():
    """A plate's own depth in the floor, known by hand."""
    scene = Scene()
    low, high = np.array([[0.0, 0.0, 0.10]]), np.array([[0.0, 0.0, 0.100001]])
    scene.rod("ball", low, high, 0.15)
    assert scene.touching()[("ball", "floor")] == pytest.approx(0.05, abs=2e-3)
