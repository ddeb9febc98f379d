"""Sets that differ and weeks of a block: arithmetic worked by hand, and laws."""

from __future__ import annotations

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddswap.application.writing import read_typed
from oddswap.documents.client import ClientDoc
from oddswap.planning.sets import AS_WRITTEN, BlockWeek, PlannedSet, in_week, scheme_words, week_on
from oddswap.planning.shorthand import read_line
from oddswap.store.demo import document

TOP, BACK_OFF = PlannedSet(6, 6, 1), PlannedSet(10, 12, 2, 0.8)
SETS = st.lists(
    st.builds(PlannedSet, st.integers(1, 20), st.integers(20, 30), st.integers(0, 4), st.floats(0.3, 1.2)),
    min_size=1,
    max_size=12,
)
WEEKS = st.builds(BlockWeek, st.integers(-6, 6), st.floats(0.4, 1.2), st.one_of(st.none(), st.integers(0, 6)))


@given(SETS, WEEKS)
def test_a_week_changes_every_set_alike_and_leaves_one_at_least(sets, week):
    out = in_week(sets, week)
    assert len(out) == max(1, len(sets) + week.sets)
    for i, one in enumerate(out):
        before = sets[min(i, len(sets) - 1)]
        if week.load_part != 1.0 or one.rir == before.rir:
            assert one.load_part == pytest.approx(before.load_part * week.load_part)
        assert one.rir == (before.rir if week.rir is None else week.rir)
        assert (one.low, one.high, one.amrap) == (before.low, before.high, before.amrap)
    assert in_week(sets, AS_WRITTEN) == sets


def test_more_in_reserve_at_the_same_repetitions_is_less_load_by_hand():
    """Epley 1985, from memory: six with one left stand for (1 + 7 / 30), six with three left for (1 + 9 / 30)."""
    (eased,) = in_week([TOP], BlockWeek(rir=3))
    assert (eased.low, eased.rir, eased.load_part) == (6, 3, pytest.approx(37 / 39))
    assert in_week([TOP], BlockWeek(rir=1)) == [TOP]


def test_a_deload_by_hand():
    eased = in_week([TOP, BACK_OFF, BACK_OFF], BlockWeek(-1, 0.5, 4))
    assert [(s.low, s.rir, s.load_part) for s in eased] == [(6, 4, 0.5), (10, 4, 0.4)]


@pytest.mark.parametrize(
    ("day", "week"), [("2026-03-01", None), ("2026-03-02", 0), ("2026-03-08", 0), ("2026-03-09", 1), ("2026-03-30", None)]
)
def test_a_day_lies_in_its_week_of_the_block(day, week):
    assert week_on(dt.date(2026, 3, 2), 4, dt.date.fromisoformat(day)) == week


def test_sets_are_said_in_few_words():
    assert scheme_words([TOP, BACK_OFF, BACK_OFF]) == "6, then 2 × 10–12 at 80 %"
    assert scheme_words([TOP, TOP], ["100 kg", "100 kg"]) == "2 × 6 at 100 kg"
    assert scheme_words([PlannedSet(8, 8, 1), PlannedSet(8, 8, 1), PlannedSet(5, 5, 1, amrap=True)]) == "2 × 8, 5 or more"


WRITTEN = {
    "squat 8,8,6,6 100kg @1": "2 × 8, 2 × 6",
    "bench press 12/10/8 60kg @2": "12, 10, 8",
    "bench press top set 1x6 100kg @1 back-offs 2x10 80kg": "6, then 2 × 10 at 80 %",
    "squat 1x5 140kg, back off 3x8 -20%": "5, then 3 × 8 at 80 %",
    "db row 2x8 30kg backoff sets 2x12 at 75%": "2 × 8, then 2 × 12 at 75 %",
    "squat 1x5 220lb back-offs 2x8 165lb": "5, then 2 × 8 at 75 %",
    "calf raise 3x30s": "3 × 30 s",
    "pull up 3 AMRAP": "3 × as many as possible",
    "curl 3x8-12 10kg": "3 × 8–12",
    "bench press 5x5 75%": "5 × 5",
}


@pytest.mark.parametrize("text", WRITTEN)
def test_sets_that_differ_are_read(text):
    """Common practice, no source: how coaches write them."""
    made = read_typed(ClientDoc.model_validate_json(document("client-tobi")), text, {})
    assert made.line is not None
    assert not made.written.unknown
    assert made.line.scheme() == WRITTEN[text]
    made.line.verify()


def test_a_part_of_the_most_leaves_a_reserve():
    """Epley 1985, from memory: at 75 % of it ten repetitions can be done, so that five leave five."""
    assert (read_line("bench press 5x5 75%").rir, read_line("squat 3x3 90% of 1rm").rir) == (5, 0)


@pytest.mark.parametrize(
    "text",
    ["bench press 1x6 100kg back-offs 2x10", "squat 3x5 back-offs 2x8 110%", "squat 8,8,6,6 100kg back-offs 2x8 80kg"],
)
def test_back_offs_that_are_not_said_whole_are_asked(text):
    read = read_line(text)
    assert not read.sure
    assert "back-off" in " ".join(u.text for u in read.unknown)
