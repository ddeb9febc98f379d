"""The fewest lifts for a wish: against every choice there is, and where nothing covers it."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddswap.planning.exact import OutOfTimeError
from oddswap.planning.fewest import LEAST_SETS, MOST_SETS, SCALE, Covering, fewest_lifts

PARTS = [("chest", 0), ("chest", 2), ("triceps", 1)]


@st.composite
def coverings(draw):
    shares = st.sampled_from([0.0, 0.25, 0.5, 1.0])
    lifts = draw(st.integers(1, 4))
    return [
        Covering(f"{k}", {p: draw(shares) for p in PARTS}, draw(st.sampled_from([60.0, 90.0, 130.0]))) for k in range(lifts)
    ]


def covers(lifts, sets, wish):
    return all(
        sum(int(SCALE * x.parts.get(p, 0)) * n for x, n in zip(lifts, sets, strict=True)) >= SCALE * v for p, v in wish.items()
    )


@settings(max_examples=40)
@given(coverings(), st.fixed_dictionaries({p: st.sampled_from([0, 1, 3]) for p in PARTS}), st.sampled_from([None, 900]))
def test_nothing_smaller_covers_it(lifts, wish, most_s):
    every = product([0, *range(LEAST_SETS, MOST_SETS + 1)], repeat=len(lifts))
    cost = {}
    for sets in every:
        time = sum(x.set_s * n for x, n in zip(lifts, sets, strict=True))
        if covers(lifts, sets, wish) and (most_s is None or time <= most_s):
            cost[sets] = sum(n > 0 for n in sets), time
    found = fewest_lifts(lifts, wish, most_s)
    if not cost:
        assert found is None
        return
    assert found is not None
    assert found.proven
    assert cost[found.sets] == min(cost.values())


def test_one_compound_serves_for_two_isolations():
    press = Covering("press", {("chest", 0): 0.6, ("triceps", 1): 0.5}, 180)
    fly, pushdown = Covering("fly", {("chest", 0): 1.0}, 110), Covering("pushdown", {("triceps", 1): 1.0}, 110)
    wish = {("chest", 0): 2.4, ("triceps", 1): 2.0}
    found = fewest_lifts([fly, pushdown, press], wish)
    assert found is not None
    assert found.sets == (0, 0, 4)
    # With too little time for it, nothing will do.
    assert fewest_lifts([fly, pushdown, press], wish, 400) is None


def test_what_was_not_found_in_time_is_not_called_nothing(monkeypatch):
    monkeypatch.setattr("oddswap.planning.fewest.LIMIT_S", 0.0)
    press = Covering("press", {("chest", 0): 0.6, ("triceps", 1): 0.5}, 180)
    with pytest.raises(OutOfTimeError):
        fewest_lifts([press] * 30, {("chest", 0): 2.4, ("triceps", 1): 2.0}, 4000)
