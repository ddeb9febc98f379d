"""Swaps of a session chosen together: against every choice there is, and by cases worked by hand."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddswap.planning.joint import Option, apart_points, choose_together, worth_of
from oddswap.planning.session import Lift


@st.composite
def option(draw, number, group):
    item = draw(st.sampled_from(["tower", "rack", "bench", "band"]))
    stands = {(item, "Pulley"): draw(st.sampled_from("abc")), (item, "load"): draw(st.sampled_from(["10 kg", "20 kg"]))}
    lift = Lift(number, f"lift {number}", 3, 40, 60, (item,), stands, group=group)
    return Option(draw(st.floats(60, 100)), lift)


@st.composite
def sessions(draw):
    groups = draw(st.lists(st.sampled_from(["", "A", "B"]), min_size=1, max_size=5))
    return [[draw(option(i, g)) for _ in range(draw(st.integers(1, 4)))] for i, g in enumerate(groups)]


@settings(max_examples=40)
@given(sessions())
def test_no_choice_is_worth_more(some):
    every = product(*(range(len(options)) for options in some))
    best = max(worth_of(some, chosen) for chosen in every)
    found = choose_together(some, limit_s=20)
    assert found.proven
    assert found.worth == pytest.approx(best, abs=0.02)
    assert worth_of(some, found.chosen) == found.worth


def on(number, match, item, group="", **stands):
    return Option(match, Lift(number, f"{number}", 3, 40, 60, (item,), {(item, k): v for k, v in stands.items()}, group=group))


def test_a_station_that_is_used_already_wins_against_a_slightly_better_match():
    rows = [[on(1, 90, "tower", Pulley="hole 3")], [on(2, 90.5, "rack", Bar="bar"), on(2, 90, "tower", Pulley="hole 3")]]
    assert choose_together(rows).chosen == (0, 1)
    # Not against a much better one.
    rows[1][0] = on(2, 97, "rack", Bar="bar")
    assert choose_together(rows).chosen == (0, 0)


def test_lifts_in_turns_do_not_hold_one_thing_both_and_set_nothing_anew():
    one, same, other = (on(i, 90, item, "A", load="20 kg") for i, item in ((1, "band"), (2, "band"), (2, "tower")))
    assert apart_points(one.lift, same.lift) > 0
    assert choose_together([[one], [Option(99, same.lift), other]]).chosen == (0, 1)
    # One after the other the band serves both.
    alone = [Option(o.match, Lift(**{**vars(o.lift), "group": ""})) for o in (one, Option(99, same.lift), other)]
    assert choose_together([alone[:1], alone[1:]]).chosen == (0, 0)
