"""Laws of placing finely, and kit as the search sees it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddswap.documents.place import PlaceDoc
from oddswap.equipment.cable import CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.candidates import Candidate
from oddswap.equivalence.kit import distinct_items
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.local_search import LITTLE, LocalSearch, SearchPoint, keep_better_half
from oddswap.equivalence.prescription import PrescribedLine, profile_prescription
from oddswap.equivalence.set_up import SetUp, check_set_up
from oddswap.equivalence.variants import mechanics_of
from oddswap.mechanics.body import Body
from oddswap.store.demo import document

BODY = Body(1.75, 75, "male")
GYM = PlaceDoc.model_validate_json(document("place-pier-club")).place()
COLUMNS = [k for k in GYM.kit if k.kind == "cable_column"]
TWIN = next(k for k in COLUMNS if k.columns == 2)


def starts_of(local_search, mechanics, seed, count=8):
    """Settings all round one column, evaluated."""
    rng = np.random.default_rng(seed)
    off, turned = rng.uniform(50, 200, count), rng.uniform(-np.pi, np.pi, count)
    holes = rng.integers(1, TWIN.holes + 1, count)
    settings = [
        CablePull(TWIN, int(h), round(float(d * np.cos(a)), 1), round(float(d * np.sin(a)), 1), TWIN.least_kg)
        for h, d, a in zip(holes, off, turned, strict=True)
    ]
    return local_search.evaluate_settings(mechanics, settings, TWIN.amounts())


@pytest.mark.parametrize(
    ("target", "movement", "values"),
    [("biceps", "curl", {}), ("side_delt", "lateral_raise", {"start": 1.0}), ("rear_delt", "rear_fly", {})],
)
def test_climbing_betters_every_group_and_keeps_every_limit(target, movement, values):
    own = CablePull(TWIN, 13, 60, -60, 5) if movement == "rear_fly" else DumbbellHold(8, "one")
    written = SetUp(movement, [own], values)
    prescription = profile_prescription(PrescribedLine(target, written, 3, 10, 12, 1), BODY)
    local_search = LocalSearch(prescription, lens_by_id("same_profile"))
    mechanics = mechanics_of(BODY, SetUp(movement, [CablePull(TWIN, 3, -60, 20, 10)], values))
    groups = [g for seed in range(4) if (g := starts_of(local_search, mechanics, seed))]
    parts = []
    found = local_search.climb(groups, parts.append, steps=60)
    assert parts == sorted(parts)
    assert parts[-1] == 1.0
    assert len(found) == len(groups)
    for best, group in zip(found, groups, strict=True):
        assert best.match >= max(f.match for f in group)
        check_set_up(best.set_up, best.set_up.perform(BODY))
        again = local_search.evaluate_settings(mechanics, [best.set_up.sources[0]], TWIN.amounts())
        # Set to the tenth of a centimetre, as it is written down.
        assert again[0].match == pytest.approx(best.match, abs=1.5 if best.match > 30 else 4.0)
        # At the end no step of the least size leads higher.
        around = best.set_up.sources[0].nearby(0.5 * 0.6**5)
        near = local_search.evaluate_settings(
            mechanics, [around.setting(i, best.set_up.sources[0].amount) for i in range(around.count)], TWIN.amounts()
        )
        assert max(f.match for f in near) <= best.match + 20 * LITTLE
    # A group climbs alone as it does among others, or better: what falls behind elsewhere takes nothing from it.
    alone = local_search.climb(groups[:1])[0]
    assert alone.match >= found[0].match - 3.0


@given(st.lists(st.tuples(st.floats(0, 100), st.integers(0, 4)), min_size=1, max_size=30))
def test_the_worse_half_goes_but_for_the_best_of_each_group(pairs):
    points = [SearchPoint(Candidate(m, None, None, np.zeros(1)), g) for m, g in pairs]
    kept = keep_better_half(points)
    assert {c.group for c in kept} == {g for _, g in pairs}
    for g in {g for _, g in pairs}:
        assert max(c.candidate.match for c in kept if c.group == g) == max(m for m, k in pairs if k == g)
    assert max(m for m, _ in pairs) == max(c.candidate.match for c in kept)
    assert len(kept) <= -(-len(pairs) // 2) + len({g for _, g in pairs})


def test_an_offer_that_breaks_a_limit_is_mended_beside_it_or_not_at_all():
    prescription = profile_prescription(
        PrescribedLine("biceps", SetUp("curl", [DumbbellHold(8)], {}, "bench", 45), 3, 10, 12, 1), BODY
    )
    local_search = LocalSearch(prescription, lens_by_id("same_profile"))
    mechanics = mechanics_of(BODY, SetUp("curl", [CablePull(TWIN, 1, -60, 20, 10)], {}, "bench", 45))
    blocked = CablePull(TWIN, 1, -58.0, 25.0, TWIN.least_kg)  # where the bench stands
    assert local_search.evaluate_settings(mechanics, [blocked], TWIN.amounts()) == []
    found = local_search.step_aside(mechanics, blocked, TWIN.amounts())
    for f in found:
        check_set_up(f.set_up, f.set_up.perform(BODY))
    far = CablePull(TWIN, 1, -8.0, 0.0, TWIN.least_kg)
    assert local_search.step_aside(mechanics, far, TWIN.amounts()) == []
    assert found


def test_one_of_each_kind_stands_for_those_that_it_covers():
    kept = distinct_items(GYM.kit)
    items = [item for item, _ in kept]
    assert len({id(i) for i in items}) == len(items)
    assert sum(i.kind == "dumbbells" for i in items) <= 2
    for item in GYM.kit:
        if item.loads and item.searched:
            assert any(i.kind == item.kind for i in items)
    # Two sets of dumbbells are one with the masses of both; a name alone makes no other item.
    two = [Dumbbells("a", "light dumbbells", [2.0, 4.0]), Dumbbells("b", "heavy dumbbells", [4.0, 20.0])]
    ((_, amounts),) = distinct_items(two)
    assert amounts.tolist() == [2, 4, 20]
    assert len(distinct_items([TWIN, replace(TWIN, id="x", name="the same")])) == 1


@pytest.mark.parametrize("use", ["one", "pair"])
def test_a_setting_moved_to_another_column_stands_at_the_nearest_height(use):
    setting = CablePull(TWIN, 9, -40.0, 60.0, 20.0, use)
    for column in COLUMNS:
        moved = setting.with_item(column)
        if use == "pair" and column.columns == 1:
            assert moved is None
            continue
        assert moved.item is column
        assert moved.is_from(column)
        assert moved.use_label == use
        # Of a pair one stands midway, however far apart its columns are.
        assert (moved.forward_cm, moved.right_cm) == (-40.0, 60.0 if use == "one" else column.spacing_cm / 2)
        height = TWIN.height(9)
        assert abs(column.height(moved.hole) - height) == np.abs(column.heights() - height).min()


def test_a_machine_hands_its_lift_to_one_of_its_own_sort_only():
    lying, seated = (Machine(s, s, "leg_curl", [10.0, 20.0], stance=s) for s in ("chest_supported", "bench"))
    hold = MachineHold(lying, 20.0)
    assert hold.with_item(seated) is None
    assert hold.with_item(replace(lying, movement="leg_extension")) is None
    assert hold.with_item(replace(lying, id="other")).item.id == "other"
    assert DumbbellHold(10).with_item(Dumbbells("b", "dumbbells", [10.0])) is None
