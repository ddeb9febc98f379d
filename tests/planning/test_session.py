"""Sessions over time: the best order against every order there is, arithmetic worked by hand, and what is cut first."""

from __future__ import annotations

from itertools import permutations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oddswap.planning.scheduling import cut_to, plan_session
from oddswap.planning.session import Block, Lift, good_order, may_pair, possible_blocks, session_cost, timed

MUSCLES = ("chest", "lats", "quads", "biceps", "triceps", "side_delt")
CURL = Lift(1, "curl", 3, 40, 75, ("dumbbells",), {("dumbbells", "load"): "12 kg"}, (0, 0), {"biceps": 1.0})
PUSHDOWN = Lift(2, "pushdown", 3, 40, 75, ("tower",), {("tower", "Pulley"): "hole 20"}, (2, 0), {"triceps": 1.0})
PRESSED = {"chest": 1.0, "triceps": 0.8, "front_delt": 0.7}
BENCH = Lift(3, "bench press", 4, 40, 150, ("rack",), {("rack", "Bar"): "bar"}, (6, 0), PRESSED, heaviness=0.7)


@st.composite
def lifts(draw, most=5):
    out = []
    for i in range(draw(st.integers(1, most))):
        item = draw(st.sampled_from(["tower", "rack", "dumbbells"]))
        muscles = draw(st.lists(st.sampled_from(MUSCLES), min_size=1, max_size=3, unique=True))
        work = {m: draw(st.sampled_from([0.5, 0.8, 1.0])) for m in muscles} | {muscles[0]: 1.0}
        sets, set_s, rest_s = draw(st.integers(2, 4)), draw(st.sampled_from([30.0, 45.0])), draw(st.sampled_from([60.0, 150.0]))
        hole, spot = draw(st.sampled_from("ab")), draw(st.sampled_from([(0.0, 0.0), (3.0, 0.0), (9.0, 4.0)]))
        stands = {(item, "Pulley"): hole}
        out.append(
            Lift(
                i,
                f"lift {i}",
                sets,
                set_s,
                rest_s,
                (item,),
                stands,
                spot,
                work,
                priority=draw(st.booleans()),
                heaviness=0.3 * len(muscles),
            )
        )
    return out


def every_session(some):
    """All ways to put lifts into blocks, in every order."""

    def split(left):
        if not left:
            yield []
            return
        for block in possible_blocks(some):
            if left[0].id in block.ids <= {x.id for x in left}:
                for rest in split([x for x in left if x.id not in block.ids]):
                    yield [block, *rest]

    for blocks in split(list(some)):
        yield from permutations(blocks)


@settings(max_examples=25)
@given(lifts(), st.sampled_from(["heavy_first", "warm_first"]))
def test_no_order_is_better(some, school):
    orders = good_order(some, school)
    least = min(session_cost(blocks, orders) for blocks in every_session(some))
    found = plan_session(some, school, limit_s=20)
    assert found.proven
    assert found.cost == pytest.approx(least, abs=1.0)
    assert sorted(lift.id for b in found.blocks for lift in b.lifts) == [lift.id for lift in some]


def test_twelve_lifts_are_proven_or_say_how_far_off_they_may_be():
    rng = np.random.default_rng(4)
    many = [
        Lift(
            i, f"lift {i}", 3, 40, 150 if i < 4 else 75, ("tower",), {("tower", "Pulley"): f"{i % 3}"}, (float(i % 4) * 2, 0.0),
            {MUSCLES[i % 6]: 1.0} | ({MUSCLES[(i + 1) % 6]: float(rng.uniform(0.5, 0.9))} if i < 6 else {}),
        )
        for i in range(12)
    ]  # fmt: skip
    found = plan_session(many)
    assert found.bound <= found.cost + 1e-6
    assert found.proven or found.cost - found.bound < 0.1 * found.cost


def test_one_lift_takes_its_sets_and_rests():
    # 3 sets of 40 s, 75 s between them: 3 x 40 + 2 x 75.
    assert Block((CURL,)).duration_s == 270
    # In turns: curl 0, pushdown 40 + 2.5 m / 0.8 m/s there (2 m: 2.5 s), back 2.5 s; the curl rests 75 s after its set.
    pair = Block((CURL, PUSHDOWN))
    assert pair.set_starts() == [[0, 115, 230], [42.5, 157.5, 272.5]]
    assert pair.duration_s == 312.5
    # 540 s one after the other, 312.5 s in turns.
    assert may_pair(CURL, PUSHDOWN)


@pytest.mark.parametrize(
    ("other", "why"),
    [
        (Lift(4, "hammer curl", 3, 40, 75, ("tower",), {}, (0, 0), {"biceps": 0.9}), "the same muscle"),
        (Lift(4, "pushdown", 3, 40, 75, ("tower",), {}, (12, 0), {"triceps": 1.0}), "too far"),
        (
            Lift(4, "raise", 3, 40, 75, ("dumbbells",), {("dumbbells", "load"): "6 kg"}, (0, 0), {"side_delt": 1.0}),
            "another load",
        ),
        (Lift(4, "pushdown", 3, 40, 75, ("tower",), {}, (0, 0), {"triceps": 1.0}, crowded=True), "crowded"),
        (Lift(4, "pushdown", 6, 40, 75, ("tower",), {}, (0, 0), {"triceps": 1.0}), "twice the sets"),
    ],
)
def test_what_is_not_done_in_turns(other, why):
    assert not may_pair(CURL, other), why
    assert len(plan_session([CURL, other]).blocks) == 2


def test_the_schools_differ_in_what_comes_first():
    light = Lift(5, "pushdown", 3, 40, 75, ("tower",), {}, (6, 0), {"triceps": 1.0})
    heavy_first, warm_first = (plan_session([light, BENCH], s, pairs=False) for s in ("heavy_first", "warm_first"))
    assert [b.lifts[0].name for b in heavy_first.blocks] == ["bench press", "pushdown"]
    assert [b.lifts[0].name for b in warm_first.blocks] == ["pushdown", "bench press"]
    kept = plan_session([light, BENCH], pairs=False)
    assert not [o for o in kept.broken if o.why]
    other = timed(kept.blocks[::-1], good_order([light, BENCH], "heavy_first"), 0.0)
    assert [o.why for o in other.broken] == ["the heavier lift first"]


def test_groups_stay_together():
    some = [Lift(i, f"lift {i}", 3, 30, 60, group="A" if i in (0, 3) else "", work={MUSCLES[i]: 1.0}) for i in range(5)]
    found = plan_session(some)
    assert [{x.id for x in b.lifts} for b in found.blocks if any(x.group for x in b.lifts)] == [{0, 3}]


def test_a_short_session_loses_what_is_covered_elsewhere_first():
    again = Lift(6, "second pushdown", 3, 40, 75, ("tower",), {}, (2, 0), {"triceps": 1.0})
    whole = plan_session([CURL, PUSHDOWN, again], pairs=False)
    cuts, left = cut_to([CURL, PUSHDOWN, again], whole.duration_s - 100, pairs=False)
    assert {c.name for c in cuts} <= {"pushdown", "second pushdown"}
    assert left.duration_s <= whole.duration_s - 100
    none, same = cut_to([CURL, PUSHDOWN], whole.duration_s)
    assert none == []
    assert sum(len(b.lifts) for b in same.blocks) == 2
    _, least = cut_to([CURL, PUSHDOWN, again], 60)
    assert len(least.blocks) == 1
