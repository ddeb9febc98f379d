"""Laws of the match: its parts, its lenses, and what a coach's own weights may be."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oddswap.equivalence.lenses import PARTS, Lens, lens_by_id, lenses
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import (
    Measured,
    Wanted,
    covered,
    load_part,
    match_under,
    off_by,
    overlap,
    own_peak,
    parts_of,
    stability_of,
    weigh,
)
from oddswap.errors import DomainError

SHAPES = st.lists(st.floats(0, 50), min_size=12, max_size=12).map(np.array).filter(lambda s: s.max() > 0.5)
PART = st.floats(0, 1)


def measured(shape, ratio=1.0, steady=0.9, step=1.05, most=2.0, setup_cost=0.02, kind=0.8):
    return Measured(own_peak(shape), *(np.array(v) for v in (ratio, steady, step, most, setup_cost, kind)))


def parts(shape, wanted, **figures):
    return parts_of(measured(shape, **figures), Wanted(own_peak(wanted), 0.9, "chest"), PARTS)


@given(SHAPES, SHAPES, st.floats(0.2, 5), st.floats(0.2, 5))
def test_parts_lie_between_none_and_all_and_size_does_not_count(one, other, k, ratio):
    # At the very height that counts as loaded, rounding decides.
    assume((np.abs(own_peak(one) - rules("lenses")["parts"]["empty"]) > 1e-9).all())
    found = parts(one, other, ratio=ratio)
    assert set(found) == set(PARTS)
    assert all(0 <= float(v) <= 1 for v in found.values())
    scaled = parts(k * one, other, ratio=ratio)
    assert {n: float(v) for n, v in scaled.items()} == pytest.approx({n: float(v) for n, v in found.items()})
    own = parts(one, one)
    assert float(own["profile"]) == pytest.approx(1)
    assert float(own["range"]) == 1
    assert float(own["load"]) == pytest.approx(1)


@given(SHAPES, SHAPES)
def test_bins_before_or_behind_the_set_ups_give_the_same(one, other):
    rows = np.stack([one, other, one + other])
    wanted = own_peak(one)
    each = Measured(own_peak(rows), *(np.full(3, v) for v in (0.9, 0.8, 1.1, 2.0, 0.0, 0.7)))
    turned = Measured(each.scaled.T, each.ratio, each.stability, each.step_up, each.most, each.setup_cost, each.kind)
    behind = parts_of(each, Wanted(wanted, 0.9, "chest"), PARTS)
    before = parts_of(turned, Wanted(wanted[:, None], 0.9, "chest"), PARTS, axis=-2)
    for name in PARTS:
        np.testing.assert_allclose(before[name], behind[name])
    assert behind["profile"][0] == pytest.approx(overlap(one, one))
    assert behind["range"][1] == pytest.approx(covered(one, other))


@given(st.dictionaries(st.sampled_from(sorted(PARTS)), PART, min_size=len(PARTS)), PART, st.sampled_from(sorted(lenses())))
def test_a_better_part_never_makes_a_worse_match(values, target, name):
    lens = lens_by_id(name)
    arrays = {k: np.array(v) for k, v in values.items()}
    match = float(weigh(arrays, np.array(target), lens))
    assert 0 <= match <= 100 * target**0.5 + 1e-9
    assert match_under(values | {"target": target}, lens) == pytest.approx(match)
    assert float(weigh({k: np.array(1.0) for k in values}, np.array(target), lens)) == pytest.approx(100 * target**0.5)
    # What a lens does not weigh counts by the load's reach and the kind of lift alone.
    others = {k: np.array(1 - v) for k, v in values.items() if k not in lens.weights and k not in ("load", "kind")}
    assert float(weigh(arrays | others, np.array(target), lens)) == pytest.approx(match)
    # Nothing that a lens weighs makes a match worse by being better.
    for part in lens.weights:
        better = weigh(arrays | {part: np.array(1.0)}, np.array(target), lens)
        assert float(better) >= match - 1e-9


@given(st.dictionaries(st.sampled_from(sorted(PARTS)), PART, min_size=1))
def test_own_weights_are_scaled_to_one_and_keep_their_proportions(weights):
    assume(sum(weights.values()) > 0.01)
    own = lens_by_id("same_profile").weighed(weights)
    assert sum(own.weights.values()) == pytest.approx(1)
    total = sum(weights.values())
    assert own.weights == pytest.approx({k: w / total for k, w in weights.items() if w > 0})
    assert isinstance(own, Lens)
    assert (own.id, own.name) == ("same_profile", lens_by_id("same_profile").name)


@pytest.mark.parametrize(
    ("weights", "field"),
    [({"luck": 0.5}, "weights.luck"), ({"profile": -0.1}, "weights.profile"), ({"profile": 1.5}, "weights.profile"),
     ({"profile": 0.0}, "weights")],
)  # fmt: skip
def test_weights_that_cannot_be_name_their_field(weights, field):
    with pytest.raises(DomainError) as caught:
        lens_by_id("even_pull").weighed(weights)
    assert caught.value.field == field
    assert caught.value.way_out


def test_a_lens_that_is_none_names_those_that_are():
    with pytest.raises(DomainError, match="same_profile"):
        lens_by_id("heaviest")
    for lens in lenses().values():
        assert set(lens.weights) <= set(PARTS)
        assert lens.argument_for
        assert lens.argument_against


@given(st.floats(0.05, 20), st.floats(0.05, 20))
def test_too_heavy_counts_twice_as_much_as_too_light(a, b):
    heavy, light = off_by(np.log(np.array([a, 1 / a])) if a >= 1 else np.log(np.array([1 / a, a])))
    assert heavy == pytest.approx(2 * light)
    nearer, farther = sorted([a, b], key=lambda r: float(off_by(np.log(np.array(r)))))
    assert load_part(np.array(nearer)) >= load_part(np.array(farther)) - 1e-12


def test_support_steadies_and_one_arm_and_bands_do_not():
    """Common practice, no source (S5)."""
    steady = {s: stability_of(s, False, True, ["dumbbell"]) for s in ("standing", "kneeling", "bench", "chest_supported")}
    assert steady["standing"] <= steady["kneeling"] < steady["bench"] <= steady["chest_supported"]
    assert stability_of("standing", False, False, ["dumbbell"]) < steady["standing"]
    assert stability_of("standing", False, True, ["band"]) < steady["standing"]
    assert stability_of("standing", False, True, ["machine"]) > steady["bench"] - 0.2
    assert stability_of("standing", True, True, ["dumbbell"]) >= steady["bench"]
    assert all(0 <= stability_of(s, p, b, k) <= 1 for s in steady for p in (True, False) for b in (True, False)
               for k in (["band"], ["machine", "band"], []))  # fmt: skip
