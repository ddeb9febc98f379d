"""Laws of comparing lines with a reach table."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np
import pytest

from oddswap.documents.place import PlaceDoc
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equivalence.index import build_reach_table
from oddswap.equivalence.lenses import lens_by_id, lenses
from oddswap.equivalence.prescription import PrescribedLine, profile_prescription
from oddswap.equivalence.ranking import rank, rank_many
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.store.demo import document

BODY = Body(1.80, 82, "male")
SAME = lens_by_id("same_profile")
LINES = [
    PrescribedLine("biceps", SetUp("curl", [DumbbellHold(10)]), 3, 8, 10, 1),
    PrescribedLine("chest", SetUp("fly", [DumbbellHold(10)], {}, "bench", 0.0), 3, 8, 10, 1),
    PrescribedLine("side_delt", SetUp("lateral_raise", [DumbbellHold(7)]), 3, 8, 10, 1),
    PrescribedLine("quads", SetUp("squat", [DumbbellHold(20)], {"hold": 1.0}), 3, 8, 10, 1),
]


def garage():
    return PlaceDoc.model_validate_json(document("place-tallow-garage")).place()


@cache
def table():
    return build_reach_table(BODY, garage())


@cache
def prescriptions():
    return [profile_prescription(line, BODY) for line in LINES]


@pytest.mark.parametrize("i", range(len(LINES)))
def test_what_is_ranked_exists_holds_and_is_no_better_than_perfect(i):
    found, prescription = rank(table(), prescriptions()[i], SAME), prescriptions()[i]
    best = found.best()
    assert len(best) > 10
    assert (np.diff(found.match[best]) <= 1e-6).all()
    for k in best[:200]:
        source, amount = table().sources[found.rows.source[k]], float(found.amount[k])
        assert np.isclose(source.amounts, amount, rtol=1e-4).any()
        assert 0 < found.match[k] <= 100.01
        assert amount <= found.rows.hold[k] * prescription.lean * 1.0001
        assert LINES[i].target in table().variants[found.rows.variant[k]].demands
        # The amount is the nearest to equal effort that there is.
        relative_effort = (found.rows.own[k] + source.amounts[:, None] * found.rows.unit[k]).max(axis=1)
        off = np.log(np.maximum(relative_effort, 1e-9) / prescription.relative_effort)
        off = np.where(off > 0, 2 * off, -off)
        assert off[np.isclose(source.amounts, amount, rtol=1e-4)][0] <= off.min() + 1e-3


@pytest.mark.parametrize("i", range(len(LINES)))
def test_what_is_not_allowed_is_not_ranked_and_the_rest_stays_as_it_was(i):
    everything = rank(table(), prescriptions()[i], SAME)
    first = everything.rows.variant[everything.best()[0]]
    allowed = np.arange(len(table().variants)) != first
    found = rank(table(), prescriptions()[i], SAME, allowed)
    assert not (found.rows.variant[found.best()] == first).any()
    both = set(found.best().tolist()) & set(everything.best().tolist())
    assert both
    for k in both:
        assert found.match[k] == pytest.approx(everything.match[k], abs=1e-3)
    alone = rank(table(), prescriptions()[i], SAME, one_side=True)
    for k in alone.best():
        source, mechanics = table().sources[alone.rows.source[k]], table().variants[alone.rows.variant[k]]
        assert not (source.both and mechanics.both)


def test_many_lines_together_are_each_line_alone_under_every_lens():
    for lens in lenses().values():
        together = rank_many(table(), prescriptions() * 3, lens)
        for prescription, found in zip(prescriptions() * 3, together, strict=True):
            alone = rank(table(), prescription, lens)
            best = alone.best(50)
            np.testing.assert_allclose(found.match[best], alone.match[best], atol=1e-3)


def test_a_heavier_prescription_takes_a_heavier_load_at_the_same_placement():
    light, heavy = (
        rank(table(), profile_prescription(replace(LINES[0], set_up=SetUp("curl", [DumbbellHold(kg)])), BODY), SAME)
        for kg in (6.0, 16.0)
    )
    both = sorted(set(light.best().tolist()) & set(heavy.best().tolist()))
    assert len(both) > 20
    assert (heavy.amount[both] >= light.amount[both]).all()
    assert (heavy.amount[both] > light.amount[both]).mean() > 0.8


def test_a_place_that_cannot_load_a_muscle_says_so():
    dumbbells = replace(garage(), kit=[Dumbbells("b", "dumbbells", [5.0])])
    bare = build_reach_table(BODY, dumbbells)
    target = next(t for t in table().rows if t not in bare.rows)
    prescription = replace(prescriptions()[0], line=replace(LINES[0], target=target))
    with pytest.raises(DomainError, match="something here must load"):
        rank(bare, prescription, SAME)
