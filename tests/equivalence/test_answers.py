"""What an answer says of a set-up is what ``evaluate`` and the set-up's own curves say of it, at the load in it."""

from __future__ import annotations

from functools import partial

import numpy as np
import pytest

from oddswap.coaching.restrictions import Restriction, quantity, strains
from oddswap.documents.place import PlaceDoc
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.item import Room
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equivalence.candidates import evaluate_set_up
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.lenses import lens_by_id, lenses
from oddswap.equivalence.prescription import Place, PrescribedLine, profile_prescription
from oddswap.equivalence.profile import profile
from oddswap.equivalence.scoring import covered, load_part, overlap
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_effort import handling, joint_of, set_effort
from oddswap.equivalence.set_up import SetUp, check_set_up
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import variants_at
from oddswap.errors import DomainError
from oddswap.mechanics.arm import dot
from oddswap.store.demo import document
from offered import BODIES

BAR = Barbell("bar", "bar", 20, [PlatePair(m, 20) for m in (20, 10, 5, 2.5, 1.25)])
COLUMN = CableColumn("ours", "tower", 23, 10, 230, 1, 120, 1, parked_cm=25, travel_cm=320, columns=2, spacing_cm=250)
ON_FEET = [
    ("hamstrings", SetUp("romanian_deadlift", [BarbellHold(BAR, 60.0)])),
    ("glute_max", SetUp("pull_through", [CablePull(COLUMN, 3, -90.0, 0.0, 25.0, "rope")])),
    ("quads", SetUp("squat", [BarbellHold(BAR, 60.0, carried=True)], {"hold": 0.0})),
    ("quads", SetUp("squat", [DumbbellHold(16.0)], {"hold": 1.0})),
    ("quads", SetUp("split_squat", [DumbbellHold(12.0)], {"hold": 1.0})),
    ("gastrocnemius", SetUp("calf_raise", [DumbbellHold(20.0)], {"hold": 1.0})),
]


def place(name):
    return PlaceDoc.model_validate_json(document(f"place-{name}")).place()


def random_lines(count, seed):
    """Lines of any variant that a hand or the feet load, with dumbbells or on a column, for clients of three sizes."""
    rng, hall = np.random.default_rng(seed), place("harbour-hall")
    while count:
        body = BODIES[rng.integers(3)]
        if rng.random() < 0.35:
            target, set_up = ON_FEET[rng.integers(len(ON_FEET))]
        else:
            every = [v for v in variants_at(body, hall, list_variant_keys(hall)) if v.bearing.base == "seat"]
            every = [v for v in every if v.bearing.contact == "hand"]
            mechanics = every[rng.integers(len(every))]
            target = sorted(mechanics.demands)[rng.integers(len(mechanics.demands))]
            off, turned = rng.uniform(50, 180), rng.uniform(-np.pi, np.pi)
            at = round(float(off * np.cos(turned)), 1), round(float(off * np.sin(turned)), 1)
            cable = CablePull(COLUMN, int(rng.integers(1, 24)), *at, 10.0)
            set_up = mechanics.set_up(cable if rng.random() < 0.6 else DumbbellHold(float(rng.integers(3, 16))))
        try:
            prescription = profile_prescription(PrescribedLine(target, set_up, 3, 8, 12, 1), body)
        except DomainError:
            continue
        if 0.08 < prescription.relative_effort < 0.9 and prescription.share > 0.15:
            count -= 1
            yield prescription


PLACES = ("harbour-hall", "quay-hotel", "spare-room", "tallow-garage", "pier-club")


@pytest.mark.parametrize(("seed", "lines"), [(5, 6), *(pytest.param(s, 14, marks=pytest.mark.nightly) for s in range(5))])
def test_what_an_answer_says_is_what_evaluate_and_its_own_curves_say(seed, lines):
    """Seven swaps and more a line: over five hundred in a nightly run."""
    rng, seen = np.random.default_rng(seed), 0
    places = [place(n) for n in PLACES[: 5 if lines == 14 else 4]]
    for prescription in random_lines(lines, seed):
        at, lens = places[rng.integers(len(places))], list(lenses().values())[rng.integers(5)]
        try:
            swaps = find_swaps(prescription, at, lens)
        except DomainError:
            continue
        for swap in swaps:
            again = evaluate_set_up(prescription, at, lens, swap.set_up)
            assert again.match == pytest.approx(swap.match, abs=1e-9)
            assert again.parts == pytest.approx(swap.parts, abs=1e-9)
            assert again.load.effort_ratio == pytest.approx(swap.load.effort_ratio, abs=1e-9)
            alone = profile(prescription.body, swap.set_up)
            row = alone.row(prescription.line.target)
            curve = alone.resistance_profile[row]
            assert swap.parts["profile"] == pytest.approx(float(overlap(prescription.resistance_profile, curve)), abs=2e-3)
            assert swap.parts["range"] == pytest.approx(float(covered(prescription.resistance_profile, curve)), abs=0.02)
            # Hands that hold more of it by themselves find the same load heavier, their own weight as it is.
            handled = handling(swap.set_up) / handling(prescription.line.set_up)
            group, motion = prescription.group, alone.motion
            moments = alone.moment[group.region], motion.weight_moment[group.region]
            every, own = (-dot(m, motion.direction(group)) / motion.capacity(group) for m in moments)
            seen += 1
            if len(swap.set_up.sources) > 1:
                continue
            ratio = float((own + (every - own) / handled).max()) / prescription.relative_effort
            assert swap.load.effort_ratio == pytest.approx(ratio, rel=1e-3)
            # Where the target's own joint ends the set, the set is as hard as that.
            asked = set_effort(swap.set_up, motion)
            lasts = max(prescription.effort.limiting, prescription.working) * handled
            ended = asked.limiting / lasts if asked.limiting_joint == joint_of(motion, group) else 0.0
            assert swap.parts["load"] == pytest.approx(float(load_part(np.array(max(ratio, ended)))), abs=2e-3)
    assert seen >= (100 if lines == 14 else 28)


@pytest.mark.parametrize(("seed", "lines"), [(3, 3), *(pytest.param(s, 25, marks=pytest.mark.nightly) for s in (1, 2))])
def test_no_swap_asks_more_of_anything_than_the_prescribed_set(seed, lines):
    """Joints that move, the grip, hinges sideways and the body's hold, at the final load; hands within what they hold."""
    rng, seen = np.random.default_rng(seed), 0
    places = [place(n) for n in PLACES[: 5 if lines == 25 else 4]]
    for prescription in random_lines(lines, seed):
        at = places[rng.integers(len(places))]
        try:
            swaps = find_swaps(prescription, at, lens_by_id("same_profile"))
        except DomainError:
            continue
        for swap in swaps:
            effort = set_effort(swap.set_up, swap.profile.motion)
            most = 1.16 if not swap.set_up.sources else 1.006
            over, where = effort.beyond(prescription.effort, prescription.working, most)
            handled = handling(swap.set_up) / handling(prescription.line.set_up)
            assert over <= max(1.0, handled), where
            assert 1 <= swap.load.reps_high <= 100
            check_set_up(swap.set_up, swap.profile.motion, at.room.ceiling, at.farthest)
            seen += 1
    assert seen >= 4 * lines


def test_a_load_in_one_hand_is_lifted_by_two_legs():
    body = BODIES[1]
    for movement in ("squat", "calf_raise", "romanian_deadlift"):
        values = {"hold": 1.0} if movement != "romanian_deadlift" else {}
        one, two = (profile(body, SetUp(movement, [DumbbellHold(*d)], values)) for d in ((30.0, "one"), (15.0, "both")))
        for group in ("quads", "soleus", "hamstrings"):
            ours, theirs = (p.relative_effort[p.row(group)].max() for p in (one, two))
            assert ours == pytest.approx(theirs, rel=0.08, abs=0.01), (movement, group)


def test_one_leg_carries_what_two_did_and_both_dumbbells_count():
    """A calf raise or a hip thrust on one leg asks about twice as much of it; a second dumbbell is not lost with the leg."""
    body = BODIES[1]

    def asked(movement, source, group, stance="standing", **values):
        p = profile(body, SetUp(movement, [source], values, stance))
        return p.relative_effort[p.row(group)].max()

    held = {"hold": 1.0, "one_leg": 1.0}
    one, two = (asked("calf_raise", DumbbellHold(20.0, hands), "soleus", **held) for hands in ("one", "both"))
    assert two / one == pytest.approx((body.mass + 40) / (body.mass + 20), rel=0.05)
    assert 1.8 < two / asked("calf_raise", DumbbellHold(20.0), "soleus", hold=1.0) < 2.2
    bar = BarbellHold(BAR, 60.0, carried=True)
    thrusts = [asked("hip_thrust", bar, "glute_max", "floor", one_leg=legs) for legs in (0.0, 1.0)]
    assert 1.6 < thrusts[1] / thrusts[0] < 2.4


def test_a_calf_raise_with_two_dumbbells_converts_to_one_of_about_their_sum():
    line = PrescribedLine("gastrocnemius", SetUp("calf_raise", [DumbbellHold(16.0)], {"hold": 1.0}), 3, 10, 12, 1)
    single = Dumbbells("d", "single dumbbells", [float(m) for m in range(1, 61)], pairs=False)
    found = find_swaps(profile_prescription(line, BODIES[1]), Place("p", Room(5, 5, 3), [single]), lens_by_id("same_profile"))
    raised = next(s for s in found if s.set_up.movement == "calf_raise" and s.set_up.sources)
    assert raised.load.amount == pytest.approx(32, abs=4)


def test_one_leg_alone_carries_what_a_cuff_on_one_side_pulls():
    pull = CablePull(COLUMN, 1, 120.0, 0.0, 10.0)
    set_up = SetUp("leg_extension", [pull], stance="bench", recline_deg=75)
    assert (set_up.sides.arms, set_up.sides.legs) == (True, False)
    assert SetUp("squat", [DumbbellHold(20, "one")], {"hold": 1.0}).sides.legs
    assert not SetUp("curl", [DumbbellHold(10, "one")]).sides.arms


def test_what_hurts_is_spared_under_the_final_load():
    """A trunk leans more under less weight before the chest: what is offered keeps the rule at the load that is offered."""
    rule = [Restriction("lower back", "bent deep")]
    line = PrescribedLine("quads", SetUp("squat", [DumbbellHold(6.0)], {"hold": 2.0, "depth_deg": 60.0}), 3, 10, 12, 1)
    found = []
    for light in (2.0, 5.0, 15.0):
        kit = [Dumbbells("d", "dumbbells", [light, light + 1])]
        filters = SearchFilters(strains=partial(strains, restrictions=rule))
        try:
            prescription = profile_prescription(line, BODIES[1])
            found += find_swaps(prescription, Place("p", Room(5, 5, 3), kit), lens_by_id("same_profile"), filters=filters)
        except DomainError:
            continue
    assert found
    for swap in found:
        motion = swap.set_up.perform(BODIES[1])
        lean = quantity(motion, "lean")
        assert lean is None or lean.max() <= 35 + 1e-6, (swap.set_up.movement, lean.max())


@pytest.mark.parametrize(
    ("set_up", "room", "words"),
    [
        (SetUp("curl", [CablePull(COLUMN, 1, 20.0, 0.0, 10.0, "bar")]), (5, 5, 3), "at least 40 cm"),
        (SetUp("pushdown", [CablePull(COLUMN, 20, 12.0, 0.0, 10.0, "rope")]), (5, 5, 3), "at least 40 cm"),
        (SetUp("curl", [CablePull(COLUMN, 3, -150.0, 20.0, 10.0)]), (2.0, 2.0, 3), "inside the room"),
        (SetUp("press", [DumbbellHold(8)], {"angle_deg": 85.0}), (5, 5, 2.1), "under the ceiling"),
        (
            SetUp("squat", [CablePull(COLUMN, 13, -120.0, 0.0, 2.0, "rope")], {"hold": 2.0, "depth_deg": 60.0}),
            (5, 5, 3),
            "cut through the body",
        ),
        (SetUp("press", [BarbellHold(BAR, 40.0)], {"depth_deg": 45.0}, "bench", 0), (5, 5, 3), "stops at the chest"),
    ],
    ids=["bar near", "rope near", "out of the room", "ceiling over hands", "line through a standing body", "bar at the chest"],
)
def test_every_path_holds_the_same_limits(set_up, room, words):
    body, at = BODIES[1], Place("p", Room(*room), [COLUMN, Dumbbells("d", "d", [8.0]), BAR])
    with pytest.raises(DomainError, match=words):
        check_set_up(set_up, set_up.perform(body), at.room.ceiling, at.farthest)
    known = {
        "pushdown": SetUp("pushdown", [CablePull(COLUMN, 20, 50.0, 0.0, 15.0, "bar")]),
        "press": SetUp("press", [DumbbellHold(8)], {}, "bench", 0),
        "squat": SetUp("squat", [DumbbellHold(8)], {"hold": 1.0}),
    }
    line = known.get(set_up.movement, SetUp(set_up.movement, [DumbbellHold(8)]))
    targets = {"curl": "biceps", "pushdown": "triceps_short", "press": "front_delt", "squat": "quads"}
    prescription = profile_prescription(PrescribedLine(targets[set_up.movement], line, 3, 8, 10, 1), body)
    with pytest.raises(DomainError, match=words):
        evaluate_set_up(prescription, at, lens_by_id("same_profile"), set_up)


@pytest.mark.parametrize("where", ["quay-hotel", "tallow-garage", "spare-room"])
def test_nothing_offered_leaves_the_room_or_stands_too_near(where):
    at = place(where)
    for prescription in random_lines(2, 11):
        try:
            swaps = find_swaps(prescription, at, lens_by_id("same_profile"))
        except DomainError:
            continue
        for swap in swaps:
            check_set_up(swap.set_up, swap.profile.motion, at.room.ceiling, at.farthest)
            for source in swap.set_up.sources:
                end = source.law().far_end if source.line else None
                if end is not None and end[2] > 0.05:
                    assert 0.3 - 1e-3 <= np.hypot(end[0], end[1]) <= at.farthest + 1e-3
