"""What is said besides the set-up: remedies that are computed, checks to see, dissent of other lenses, what completes a range.

Common practice, no source, where a comment does not name one.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddswap.coaching.advice import after_failure, completes, describe_limit, dissents, muscle_changes, remedies, to_see
from oddswap.coaching.explanation import explain
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.equipment.base.item import Room
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.candidates import evaluate_set_up
from oddswap.equivalence.conversion import PLAIN, restated_reps
from oddswap.equivalence.lenses import lens_by_id, lenses
from oddswap.equivalence.prescription import Place, PrescribedLine, profile_prescription
from oddswap.equivalence.scoring import match_under, own_peak
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.body import Body
from oddswap.store.demo import document

BODY, LIGHTER = Body(1.80, 82, "male"), Body(1.75, 75, "male")
SAME = lens_by_id("same_profile")
COLUMN = CableColumn("tower", "tower", 23, 10, 230, 1, 120, 1, parked_cm=25, travel_cm=320, columns=2, spacing_cm=250)
ROOM = Room(8, 8, 3.2)


def aim_of(target, movement, source, stance="standing", recline=90.0, body=BODY, **values):
    return profile_prescription(PrescribedLine(target, SetUp(movement, [source], values, stance, recline), 3, 8, 10, 1), body)


def as_set(prescription, room, movement, source, stance="standing", recline=90.0, **values):
    """A set-up as it stands, held against an aim."""
    return evaluate_set_up(prescription, room, SAME, SetUp(movement, [source], values, stance, recline))


HEAVY = Place("heavy", ROOM, [replace(COLUMN, least_kg=20, step_kg=10)])
PULL = CablePull(replace(COLUMN, least_kg=20, step_kg=10), 1, 55.0, 25.0, 20.0)


def test_a_stack_that_starts_too_heavy_is_shortened_by_a_strap_at_the_forearm():
    prescription = aim_of("biceps", "curl", replace(PULL, column=COLUMN))
    light = aim_of("biceps", "curl", CablePull(COLUMN, 1, 55.0, 25.0, 11.0))
    near = as_set(prescription, HEAVY, "curl", PULL)
    assert abs(near.load.effort_ratio - 1) < 0.1
    assert remedies(prescription, HEAVY, SAME, near, PLAIN) == []
    swap = as_set(light, HEAVY, "curl", PULL)
    assert swap.load.effort_ratio > 1.4
    found = remedies(light, HEAVY, SAME, swap, PLAIN)
    straps = [r for r in found if "strap on the forearm" in r.text]
    assert straps
    for r in straps:
        # What is said is what the changed set-up computes to.
        again = evaluate_set_up(light, HEAVY, SAME, r.set_up)
        assert again.load.effort_ratio == pytest.approx(r.effort_ratio, rel=1e-6)
        assert f"{r.effort_ratio:.0%} of the prescribed effort" in r.text
        assert abs(np.log(r.effort_ratio)) < abs(np.log(swap.load.effort_ratio))


def test_dumbbells_that_end_too_light_are_lowered_slower_or_used_second():
    light = Place("light", ROOM, [Dumbbells("b", "dumbbells", [2.0, 4.0, 6.0])])
    prescription = aim_of("biceps", "curl", DumbbellHold(12.0))
    swap = as_set(prescription, light, "curl", DumbbellHold(6.0))
    assert swap.load.effort_ratio < 0.8
    slower, later = (r.text for r in remedies(prescription, light, SAME, swap, PLAIN) if r.effort_ratio is None)
    # Worked by hand: 1.5 s up and 2 s down against 1.5 and 4 take 3.5 of 5.5 seconds a repetition.
    assert f"{round(swap.load.reps_high * 3.5 / 5.5)} reps then take the time of {swap.load.reps_high}" in slower
    assert f"so {restated_reps(10, 1, swap.load.effort_ratio / 0.85)} reps instead of {swap.load.reps_high}" in later
    heavier = as_set(aim_of("biceps", "curl", DumbbellHold(3.0)), light, "curl", DumbbellHold(6.0))
    assert not any(
        "Lower over" in r.text for r in remedies(aim_of("biceps", "curl", DumbbellHold(3.0)), light, SAME, heavier, PLAIN)
    )


def test_pulls_are_followed_by_partials_and_presses_are_not():
    # L14: on pulls the range may shrink to the lengthened end; presses fail there already.
    row = aim_of("middle_traps", "row", CablePull(COLUMN, 10, 120.0, 0.0, 40.0, "bar"), "kneeling")
    press = aim_of("chest", "press", DumbbellHold(20.0), "bench", 0.0)
    gym = Place("gym", ROOM, [COLUMN, Dumbbells("b", "dumbbells", [float(m) for m in range(2, 41, 2)])])
    pulled = evaluate_set_up(row, gym, SAME, row.line.set_up)
    pressed = evaluate_set_up(press, gym, SAME, press.line.set_up)
    assert "partial repetitions from the lengthened end" in after_failure(pulled)
    assert "partial repetitions add nothing" in after_failure(pressed)


def test_checks_to_see_are_read_off_the_pose():
    gym = Place("gym", ROOM, [COLUMN, Machine("m", "press machine", "press", [float(m) for m in range(5, 105, 5)], "path")])
    # P28: in a one-arm pulldown forearm and cable should be one straight line.
    down = aim_of("lats", "pulldown", CablePull(COLUMN, 23, 40.0, 25.0, 25.0), "kneeling", width=0)
    said = to_see(down, evaluate_set_up(down, gym, SAME, down.line.set_up))
    motion, pushes = down.profile.motion, down.profile.pushes
    fore = motion.arm.wrist - motion.arm.elbow
    line = pushes[0].force / np.linalg.norm(pushes[0].force, axis=-1, keepdims=True)
    along = np.abs((line * fore / np.linalg.norm(fore, axis=-1, keepdims=True)).sum(axis=-1))
    off = np.degrees(np.arccos(np.minimum(along, 1.0)))
    assert any("one straight line" in s for s in said) == (off.max() < 15)
    raise_ = aim_of("side_delt", "lateral_raise", CablePull(COLUMN, 7, 20.0, -70.0, 5.0), start=1)
    assert any(
        s.startswith("The cable is square to the limb at arm ")
        for s in to_see(raise_, evaluate_set_up(raise_, gym, SAME, raise_.line.set_up))
    )
    press = aim_of("chest", "press", MachineHold(gym.kit[1], 40.0), "bench", 85.0)
    assert "Set the seat so that the grips are level with mid-chest." in to_see(
        press, evaluate_set_up(press, gym, SAME, press.line.set_up)
    )


def test_who_gives_out_first_and_what_is_won_and_lost():
    # J1: if the target is not what limits the set, it is not an equivalent.
    gym = Place("gym", ROOM, [COLUMN, Dumbbells("b", "dumbbells", [float(m) for m in range(2, 61, 2)])])
    raised = aim_of("side_delt", "lateral_raise", DumbbellHold(8.0))
    words, own = describe_limit(raised, evaluate_set_up(raised, gym, SAME, raised.line.set_up))
    assert own
    assert words == "What limits the set: the side delt, as it should be."
    assert muscle_changes(raised, evaluate_set_up(raised, gym, SAME, raised.line.set_up)) == ([], [])
    for target, movement, source in (
        ("biceps", "curl", DumbbellHold(12.0)),
        ("gastrocnemius", "calf_raise", DumbbellHold(50.0)),
    ):
        prescription = (
            aim_of(target, movement, source, body=LIGHTER, hold=1)
            if movement == "calf_raise"
            else aim_of(target, movement, source)
        )
        words, own = describe_limit(prescription, evaluate_set_up(prescription, gym, SAME, prescription.line.set_up))
        # A curl ends at the elbow, heavy dumbbells end at the fingers.
        assert own == (target == "biceps")
        assert ("grip, before the" in words) == (target == "gastrocnemius")
    press = aim_of("chest", "press", DumbbellHold(20.0), "bench", 0.0)
    fly = as_set(press, gym, "fly", DumbbellHold(10.0), "bench", 0.0)
    won, lost = muscle_changes(press, fly)
    # A soft elbow held all the way is work for its flexors; what one way wins the other loses.
    assert set(won) >= {"biceps", "brachialis"}
    flown = aim_of("chest", "fly", DumbbellHold(10.0), "bench", 0.0)
    back = muscle_changes(flown, as_set(flown, gym, "press", DumbbellHold(20.0), "bench", 0.0))
    assert (back[0], back[1]) == (lost, won)


def demo_swaps(who, name, where):
    program = ProgramDoc.model_validate_json(document(f"program-{who}"))
    line = next(doc.line() for s in program.sessions for doc in s.lines if doc.name == name)
    prescription = profile_prescription(line, ClientDoc.model_validate_json(document(f"client-{who}")).body())
    return prescription, find_swaps(prescription, PlaceDoc.model_validate_json(document(f"place-{where}")).place(), SAME)


def test_other_lenses_that_would_choose_otherwise_say_what_for():
    _, swaps = demo_swaps("tobi", "Twin cable fly", "pier-club")
    said = dissents(swaps, SAME)
    assert said
    for d in said:
        assert d.lens.id != "same_profile"
        assert d.key > 0
        best = max(range(len(swaps)), key=lambda i: match_under(swaps[i].parts, d.lens))
        assert match_under(swaps[best].parts, d.lens) == pytest.approx(match_under(swaps[d.key].parts, d.lens))
        assert f"{round(100 * max(swaps[d.key].parts.values()))}" or d.text
    quiet = set(lenses()) - {d.lens.id for d in said} - {"same_profile"}
    for name in quiet:
        assert max(range(len(swaps)), key=lambda i: match_under(swaps[i].parts, lenses()[name])) == 0


def test_what_completes_a_range_loads_what_the_swap_leaves_empty():
    prescription, swaps = demo_swaps("ilka", "Incline curl", "quay-hotel")
    filled = 0
    for i in range(len(swaps)):
        pair = completes(prescription, swaps, i)
        if pair is None:
            continue
        other, part = pair
        filled += 1
        shapes = [own_peak(swaps[k].profile.resistance_profile[swaps[k].profile.row("biceps")]) for k in (i, other)]
        empty = (own_peak(prescription.resistance_profile) >= 0.2) & (shapes[0] < 0.2)
        assert other != i
        assert (shapes[1][empty] >= 0.2).mean() == pytest.approx(part)
        assert part >= 0.5
    assert filled


def test_reasons_name_what_the_curves_show():
    # P1 and P2: a dumbbell fly is empty at the top, a cable fly is not.
    gym = Place("gym", ROOM, [COLUMN, Dumbbells("b", "dumbbells", [float(m) for m in range(2, 41)])])
    cable = aim_of("chest", "fly", CablePull(COLUMN, 13, -20.0, 125.0, 12.0, "pair"))
    dumbbell = as_set(cable, gym, "fly", DumbbellHold(10.0), "bench", 0.0)
    texts = [r.text for r in explain(cable, dumbbell)]
    assert any(t.startswith("Lighter at the end") for t in texts)
    assert "The body is held steadier." in texts
    back = aim_of("chest", "fly", DumbbellHold(10.0), "bench", 0.0)
    other = as_set(back, gym, "fly", CablePull(COLUMN, 13, -20.0, 125.0, 12.0, "pair"))
    texts = [r.text for r in explain(back, other)]
    assert any(t.startswith("Harder at the end") for t in texts)
    assert any(t.startswith("Less support for the body") for t in texts)
    same = explain(back, evaluate_set_up(back, gym, SAME, back.line.set_up))
    assert [r.kind for r in same] == ["same"]
