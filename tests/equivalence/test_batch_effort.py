"""What a batch of placements is told of joints and grip is what each of them is told alone, and held back by."""

from __future__ import annotations

from itertools import islice

import numpy as np
import pytest

from oddswap.equipment.cable import CablePull
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equivalence.batch_effort import BatchEffort
from oddswap.equivalence.evaluate import Question, evaluate
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import PrescribedLine, profile_prescription
from oddswap.equivalence.rules import rules
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_effort import joint_of, set_effort
from oddswap.equivalence.set_up import SetUp, follows_load, pushes
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.variants import mechanics_of
from oddswap.mechanics.body import Body
from offered import demo_place, offered

SAME = lens_by_id("same_profile")
ROUNDING = rules("loading")["effort"]["rounding"]


def test_a_batch_asks_of_everything_what_each_set_up_asks_alone():
    seen = 0
    for prescription, _, swap in islice(offered(4), 40):
        set_up, body = swap.set_up, prescription.body
        if not set_up.sources or follows_load(set_up):
            continue
        seen += 1
        mechanics, (first, *rest) = mechanics_of(body, set_up), set_up.sources
        motion = mechanics.standing(set_up.stands(), set_up.sides)
        batch_effort = BatchEffort.of(prescription, mechanics, first, rest, 1.0)
        force = pushes(set_up, motion)[0].force
        over, ended = batch_effort.asked(np.stack([0.5 * force, force]))
        alone = set_effort(set_up, motion)
        told = {k: v for k, v in alone.over(prescription.effort, prescription.working, ROUNDING).items() if "under" not in k}
        assert over[1] == pytest.approx(max(told.values()), rel=1e-6)
        own = joint_of(motion, prescription.group) == alone.limiting_joint
        lasts = max(prescription.effort.limiting, prescription.working)
        assert ended[1] == pytest.approx(alone.limiting / lasts if own else 0.0, rel=1e-6)
    assert seen >= 20


def test_no_more_is_counted_on_than_a_joint_bears():
    # Common practice, no source: pulled from the side, a knee that straightens gives out sideways; from behind it does not.
    woman, club = Body(1.62, 58, "female"), demo_place("tallow-garage")
    column = next(k for k in club.kit if k.kind == "cable_column")
    way = {"hip_deg": 85.0}, "bench", 85.0
    written = SetUp("leg_extension", (CablePull(column, 1, -40.0, 0.0, 40.0),), *way)
    prescription = profile_prescription(PrescribedLine("quads", written, 3, 8, 12, 2), woman)
    mechanics = mechanics_of(woman, written)
    behind, aside = (CablePull(column, 1, x, y, 5.0) for x, y in ((-40.0, 0.0), (-12.0, -44.0)))
    found = evaluate(Question(mechanics, prescription, SAME, column.amounts()), batch_settings(mechanics, [behind, aside]))
    assert found.amount[0] == pytest.approx(40.0, abs=2.5)
    assert found.amount[1] < 0.5 * found.amount[0]
    assert found.match[1] < 0.5 * found.match[0]


@pytest.mark.parametrize(
    ("target", "written", "body", "where", "least"),
    [
        ("rectus_femoris", "leg extension", Body(1.62, 58, "female"), "tallow-garage", 85.0),
        ("upper_traps", "shrug", Body(1.96, 97), "tallow-garage", 85.0),
    ],
)
def test_a_place_is_found_where_nothing_else_gives_out(target, written, body, where, least):
    """What stands likeliest in the table asks too much of a knee's or an elbow's side, and others do not."""
    at = demo_place(where)
    if written == "shrug":
        set_up = SetUp("shrug", (DumbbellHold(50.0),))
    else:
        column = next(k for k in at.kit if k.kind == "cable_column")
        set_up = SetUp("leg_extension", (CablePull(column, 1, -40.0, 0.0, 40.0),), {"hip_deg": 85.0}, "bench", 85.0)
    prescription = profile_prescription(PrescribedLine(target, set_up, 3, 8, 12, 2), body)
    cables = [s for s in find_swaps(prescription, at, SAME) if s.set_up.sources and s.set_up.sources[0].kind == "cable"]
    own = [s.match for s in cables if s.set_up.movement == set_up.movement]
    assert max(own, default=0.0) >= least
