"""The week's arithmetic: worked by hand on made-up figures, and laws over real lifts."""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddswap.application.week import week
from oddswap.documents.client import ClientDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.week import loss_words
from oddswap.equivalence.profile import profile
from oddswap.planning.balance import LEAST, Loss, line_work, losses, total
from oddswap.store.demo import document


def made_up(efforts, loads, moves=(0.6, 0.6, 0.6)):
    """A profile of three groups with given peak efforts, loads over six bins of length, and ways over it."""
    names = ["chest", "front_delt", "triceps_short"]
    return SimpleNamespace(
        groups=[SimpleNamespace(id=n) for n in names],
        relative_effort=np.array([[e, 0.1 * e] for e in efforts]),
        resistance_profile=np.array(loads, float),
        length=np.array([[0.2, 0.2 + m] for m in moves]),
        row=names.index,
    )


def test_three_sets_of_a_press_counted_by_hand():
    """Chest asked for 80 %, front delt 60 %, triceps 20 %: 3 sets, 3 x 0.6/0.8 = 2.25 sets, and too little to count."""
    press = made_up([0.8, 0.6, 0.2], [[4, 4, 2, 2, 0, 0], [0, 0, 3, 3, 3, 3], [1, 1, 1, 1, 1, 1]])
    work = line_work(press, "chest", 3)
    assert work["chest"] == pytest.approx([2, 1, 0])
    assert work["front_delt"] == pytest.approx([0, 1.125, 1.125])
    assert "triceps_short" not in work
    both = total([work, line_work(press, "front_delt", 2)])
    # For the front delt it counts whole, and the chest, which works harder, whole too.
    assert both["front_delt"].sum() == pytest.approx(2.25 + 2)
    assert both["chest"].sum() == pytest.approx(3 + 2)


def test_what_only_holds_still_beside_a_lift_has_done_no_set():
    """The front delt as busy as the chest, but over a sixth of the way: a third of a set each, which is too little to count."""
    even = [[1] * 6] * 3
    held = line_work(made_up([0.8, 0.8, 0.8], even, (0.6, 0.1, 0.15)), "chest", 4)
    assert set(held) == {"chest", "triceps_short"}
    assert held["triceps_short"].sum() == pytest.approx(4 * 0.5)


def test_losses_are_a_muscle_or_a_third_of_it_and_are_said_in_words():
    written = {"chest": np.array([3.0, 2.0, 1.0]), "biceps": np.array([2.0, 2.0, 2.0]), "calves": np.array([0.5, 0.5, 0.0])}
    given_ = {"chest": np.array([0.5, 4.0, 1.5]), "biceps": np.array([0.2, 0.4, 0.4])}
    found = losses(written, given_, ["chest", "biceps", "calves", "chest"])
    assert found == [Loss("biceps", None, 6.0, pytest.approx(1.0)), Loss("chest", 0, 3.0, 0.5)]
    assert loss_words(Loss("biceps", None, 6.0, 1.0)) == "Biceps: of 6 sets, 1 is left."
    assert loss_words(Loss("triceps_long", 0, 6.0, 0.2)) == "Triceps, long head: of 6 sets in the stretch, none is left."


@pytest.mark.parametrize("name", ["ilka", "tobi", "sunniva"])
def test_thirds_add_up_to_muscles_and_targets_to_sets(name):
    client = ClientDoc.model_validate_json(document(f"client-{name}"))
    lines = [x for s in ProgramDoc.model_validate_json(document(f"program-{name}")).sessions for x in s.lines]
    for line in lines:
        work = line_work(profile(client.body(), line.set_up.set_up(), check=False), line.target, line.sets)
        assert work[line.target].sum() == pytest.approx(line.sets)
        assert all(LEAST * line.sets - 1e-9 <= v.sum() <= line.sets + 1e-9 for v in work.values())
        assert all((v >= 0).all() for v in work.values())
    held = {(i, 7): x.set_up for i, x in enumerate(lines)}
    made = week(client, [(i, 1, x) for i, x in enumerate(lines)], [(7, "here"), (8, "nowhere")], held)
    # The prescription itself at a place is the week as it is written; where nothing is found yet nothing is lost.
    assert {m.group: m.written for m in made.muscles} == {g: pytest.approx(v) for g, v in made.places[0].sets.items()}
    assert [p.losses for p in made.places] == [[], []]
    assert [(p.filled, p.lines) for p in made.places] == [(len(lines), len(lines)), (0, len(lines))]
    per_target = {t: sum(x.sets for x in lines if x.target == t) for t in {x.target for x in lines}}
    for m in made.muscles:
        assert m.meant == (m.group in per_target)
        assert m.times == (sum(m.written) >= 0.95)
        assert sum(m.written) >= per_target.get(m.group, 0) - 0.03


@given(st.lists(st.tuples(*[st.floats(0, 5)] * 3), min_size=1, max_size=6))
def test_a_total_is_the_same_in_any_order(rows):
    works = [{"chest": np.array(r)} for r in rows]
    assert total(works)["chest"] == pytest.approx(total(works[::-1])["chest"])
    assert total(works)["chest"].sum() == pytest.approx(sum(map(sum, rows)))
