"""What no body, bar, rope or room can do is not offered: each by figures that were once offered."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oddswap.documents.place import PlaceDoc
from oddswap.equipment.band import Band, BandPull, RubberSection
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.item import Room
from oddswap.equipment.bench import Bench
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.counterweight import AssistHold, AssistMachine
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equipment.handle import Handle
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equipment.station import Station
from oddswap.equivalence.candidates import evaluate_set_up
from oddswap.equivalence.combined import rules
from oddswap.equivalence.conversion import PLAIN
from oddswap.equivalence.index import build_reach_table
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import Place, PrescribedLine, profile_prescription
from oddswap.equivalence.profile import profile
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_effort import set_effort
from oddswap.equivalence.set_up import SetUp, check_set_up, pushes
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.mechanics.limits import Posture
from oddswap.mechanics.quiet_limbs import sole_ahead
from oddswap.store.demo import document

MAN, WOMAN = Body(1.80, 82), Body(1.65, 55, "female")
COLUMN = CableColumn("column", "column", 39, 10, 200, 2.5, 100, 2.5, columns=2, spacing_cm=200)
BAR = Barbell("bar", "bar", 20, [PlatePair(m, 20) for m in (20, 10, 5, 2.5, 1.25)])
DUMBBELLS = Dumbbells("dumbbells", "dumbbells", [m / 2 for m in range(2, 100)])
GYM = Place("gym", Room(9, 9, 3.5), [COLUMN, BAR, DUMBBELLS, Bench("bench", "bench", [0, 30, 45, 60, 85], True)])
SAME = lens_by_id("same_profile")
FLAT, SEATED = {"stance": "bench", "recline_deg": 0}, {"stance": "bench", "recline_deg": 85}


def cable(height_cm, forward, right, kg, use="one"):
    return CablePull(COLUMN, 1 + round((height_cm - 10) / 5), forward, right, kg, use)


def line(target, movement, source=None, parameters=None, body=MAN, **how):
    set_up = SetUp(movement, () if source is None else (source,), parameters or {}, **how)
    return profile_prescription(PrescribedLine(target, set_up, 3, 8, 10, 1), body)


def answer(prescription, movement, source, parameters=None, where=GYM, **how):
    return evaluate_set_up(prescription, where, SAME, SetUp(movement, (source,), parameters or {}, **how), PLAIN)


def test_a_ropes_hands_do_not_part_farther_than_its_strands():
    wide = SetUp("lateral_raise", (cable(50, 90, 0, 20, "rope"),))
    with pytest.raises(DomainError, match="rope's hands stay within 54 cm"):
        check_set_up(wide, wide.perform(MAN))
    pull = SetUp("face_pull", (cable(150, 90, 0, 20, "rope"),))
    (push,) = pushes(pull, pull.perform(MAN))
    # Half the tension each, and what the spread of the strands adds.
    assert np.linalg.norm(push.force, axis=1).max() < 20 * 9.81


@pytest.mark.parametrize(("body", "kg"), [(MAN, 60), (WOMAN, 40)])
def test_a_heavy_pull_through_ends_with_trunk_and_legs_in_one_line_leaning_into_it(body, kg):
    # Common practice: an upright trunk would be pulled over backwards by two thirds of bodyweight at the hips.
    motion = SetUp("pull_through", (cable(10, -130, 0, kg, "rope"),)).perform(body)
    trunk = motion.joints["shoulders"] - motion.joints["hips"]
    lean, hip = np.degrees(np.arctan2(trunk[:, 0], trunk[:, 2])), np.degrees(motion.coords["leg"][:, 0])
    assert 10 < lean[-1] < 30
    assert abs(hip[-1]) < 10
    assert lean[0] > 55


@pytest.mark.parametrize(
    ("target", "before", "after", "was"),
    [
        ("rear_delt", ("face_pull", cable(150, 110, 0, 20, "rope"), {}, {}),
         ("row", cable(100, 120, 0, 20), {"width": 1.0}, {"stance": "kneeling"}), 90.0),
        ("triceps_long", ("overhead_extension", cable(40, -90, 0, 35, "rope"), {}, {}),
         ("lying_extension", BarbellHold(BAR, 40), {}, FLAT), 92.5),
        ("biceps", ("curl", BarbellHold(BAR, 30), {"arm_angle_deg": 45.0}, {**SEATED, "pad": True}),
         ("curl", BarbellHold(BAR, 40), {"arm_angle_deg": 12.0}, {}), 72.5),
    ],
    ids=["face pull to row", "overhead rope to lying bar", "preacher to standing curl"],
)  # fmt: skip
def test_no_load_is_more_than_the_prescribed_set_lets_every_joint_bear(target, before, after, was):
    movement, source, parameters, how = before
    prescription = line(target, movement, source, parameters, **how)
    movement, source, parameters, how = after
    swap = answer(prescription, movement, source, parameters, **how)
    assert swap.load.amount < was
    effort = set_effort(swap.set_up, swap.profile.motion)
    assert effort.limiting <= 1.01 * max(prescription.effort.limiting, prescription.working)


def test_a_column_does_not_stand_in_the_hips():
    for near in (6.0, 24.0, 36.0):
        set_up = SetUp("curl", (cable(10, near, 0, 10),))
        with pytest.raises(DomainError, match="at least 40 cm"):
            check_set_up(set_up, set_up.perform(MAN))


@pytest.mark.parametrize("recline", [45.0, 60.0])
def test_a_straight_bar_does_not_pass_through_back_rest_and_trunk(recline):
    set_up = SetUp("curl", (BarbellHold(BAR, 30),), {"arm_angle_deg": recline - 90, "forearm_deg": -80.0}, "bench", recline)
    with pytest.raises(DomainError, match="straight bar must clear"):
        check_set_up(set_up, set_up.perform(MAN))
    found = find_swaps(line("biceps", "curl", DumbbellHold(12), {"arm_angle_deg": recline - 90, "forearm_deg": -80.0},
                            stance="bench", recline_deg=recline), GYM, SAME)  # fmt: skip
    behind = [s for s in found if s.set_up.recline_deg == recline and any(x.grip == "bar" for x in s.set_up.sources)]
    assert found
    assert not behind


@pytest.mark.parametrize(
    ("stance", "ahead", "behind"),
    [("standing", True, True), ("back_rested", True, False), ("chest_rested", False, True),
     ("half_kneeling", False, False), ("holding_on", False, False)],
)  # fmt: skip
def test_pads_knees_and_a_hand_that_holds_on_keep_from_tipping(stance, ahead, behind):
    posture = SetUp("lateral_raise", (DumbbellHold(5, "one"),), {}, stance).perform(MAN)
    tips = [bool(Posture.of(posture).toppling(np.tile([x, 0.0, 0.0], (31, 1)), False) > 0) for x in (90.0, -90.0)]
    assert tips == [ahead, behind]


def test_a_hand_that_holds_on_leaves_the_other_to_work_alone():
    with pytest.raises(DomainError, match="one hand holds on"):
        SetUp("row", (cable(100, 120, 0, 20, "bar"),), {}, "holding_on").perform(MAN)
    raised = line("side_delt", "lateral_raise", CablePull(COLUMN, 1, 25, -60, 6, "one"), {"start": 1.0}, stance="holding_on")
    own = next(s for s in find_swaps(raised, GYM, SAME) if s.set_up.stance == "holding_on")
    assert own.match > 95
    assert not own.set_up.both_sides


def test_on_one_knee_the_other_foot_stands_ahead_and_the_lift_is_its_own_best_answer():
    rowed = line("lats", "row", cable(60, 120, 0, 20, "one"), {"width": 0.0}, stance="half_kneeling")
    at = rowed.profile.motion.joints
    assert at["left toe"][:, 0].min() > 0.4
    assert at["right toe"][:, 0].max() < -0.4
    assert abs(at["right knee"][:, 2].max()) < 0.08
    first = find_swaps(rowed, GYM, SAME)[0]
    assert (first.set_up.movement, first.set_up.stance) == ("row", "half_kneeling")


def test_no_pull_lifts_a_client_off_the_floor():
    weight = MAN.mass * 9.80665
    heavy = line("lats", "pull_up", stance="hanging")
    swap = answer(heavy, "pulldown", cable(200, 45, 0, 60, "bar"), {"width": 0.5}, stance="kneeling")
    (push,) = pushes(swap.set_up, swap.profile.motion)
    assert push.total()[0][:, 2].max() < 0.96 * weight


def test_a_heavy_one_arm_press_does_not_roll_its_client_off_the_bench():
    prescription = line("chest", "press", DumbbellHold(45), {}, **FLAT)
    swap = answer(prescription, "press", DumbbellHold(45, "one"), {}, **FLAT)
    rolling = set_effort(swap.set_up, swap.profile.motion).place["roll"]
    assert rolling <= 1.01
    assert swap.load.amount * 9.81 * 0.45 < 265


def test_two_columns_do_not_pull_a_knee_sideways():
    prescription = line("hamstrings", "leg_curl", MachineHold(Machine("m", "m", "leg_curl", [40.0, 50.0]), 40), {}, **FLAT)
    for forward, right in ((-60, 90), (-40, 100)):
        try:
            swap = answer(prescription, "leg_curl", cable(30, forward, right, 75, "pair"), {}, **FLAT)
        except DomainError:
            continue
        assert set_effort(swap.set_up, swap.profile.motion).sideways["knee"] <= 1.01


def test_hands_hold_one_bar_and_columns_apart_are_not_held_in_one_hand():
    assert ["cable_column", "cable_column"] not in rules("combined")["pairs"]
    place = PlaceDoc.model_validate_json(document("place-pier-club")).place()
    for target, movement, source in (("lats", "pulldown", cable(200, 45, 0, 40, "bar")),
                                     ("triceps_short", "pushdown", cable(200, 60, 0, 25, "rope"))):  # fmt: skip
        how = {"stance": "kneeling"} if movement == "pulldown" else {}
        for swap in find_swaps(line(target, movement, source, {}, **how), place, SAME):
            assert sum(s.grip != "handle" for s in swap.set_up.sources) <= 1


def test_who_sits_on_the_floor_is_held_by_braced_feet_against_a_pull_from_ahead_alone():
    ahead, aside = (SetUp("row", (cable(25, x, y, 40),), stance="sitting") for x, y in ((140, 0), (90, 90)))
    slides = [set_effort(s, s.perform(MAN)).place["slide"] for s in (ahead, aside)]
    # What is left of the first is the arm's own way in from the side.
    assert slides[0] < 0.2 < 0.35 < slides[1]
    motion = ahead.perform(MAN)
    sole = sole_ahead(MAN)
    for side in ("right", "left"):
        assert motion.joints[f"{side} heel"][0, 2] == pytest.approx(0, abs=0.005)
        assert motion.joints[f"{side} toe"][0, 0] == pytest.approx(sole[0], abs=0.02)
    # A band around the own feet has no wall behind it; an anchor there would.
    band = Band("b", "band", [], 190, section=RubberSection(64, 140))
    x, _, z = (round(100 * float(v), 1) for v in sole)
    check_set_up(
        own := SetUp("row", (BandPull(band, z, x, 0, anchor="feet", choke_cm=32),), stance="sitting"), own.perform(MAN)
    )
    wall = SetUp("row", (BandPull(band, z, x, 0, choke_cm=32),), stance="sitting")
    with pytest.raises(DomainError, match="column or wall"):
        check_set_up(wall, wall.perform(MAN))


def test_a_band_hangs_from_a_bar_that_people_hang_from():
    bands = [Band(k, k, [], 260, count=2, section=RubberSection(100, a)) for k, a in (("light", 60), ("strong", 260))]
    prescription = line("triceps_short", "pushdown", cable(200, 60, 0, 22, "rope"))
    park = Place("park", Room(15, 15, 9), [*bands, Station("bar", "high bar", "pull_up_bar", 230)])
    swaps = find_swaps(prescription, park, SAME)
    assert swaps[0].match > 80
    assert {s.set_up.sources[0].height_cm for s in swaps} == {230}
    with pytest.raises(DomainError, match=r"would match|repetitions|must load"):
        find_swaps(prescription, replace(park, kit=[*bands, Station("mat", "mat", "mat", 230)]), SAME)


def test_supports_that_are_not_there_are_not_leant_on():
    empty = replace(GYM, kit=[DUMBBELLS])
    keys = list_variant_keys(empty)
    named = [(k.movement, dict(k.values)) for k in keys]
    assert not [v for m, v in named if m == "push_up" and max(v["hands_cm"], v["feet_cm"]) > 15]
    assert not [v for m, v in named if m == "split_squat" and v["rear_cm"] > 15]
    assert "hip_thrust" not in {m for m, _ in named}
    assert not [k for k in keys if k.stance in ("bench", "chest_supported") and k.movement != "calf_raise"]
    full = {k.movement for k in list_variant_keys(GYM)}
    assert "hip_thrust" in full


def test_a_machines_own_seat_serves_no_dumbbells():
    machines = replace(
        GYM, kit=[DUMBBELLS, Machine("press", "chest press", "press", [20.0, 40.0, 60.0], guide="path", stance="bench")]
    )
    prescription = line("chest", "press", DumbbellHold(34), {}, **FLAT)
    for swap in find_swaps(prescription, machines, SAME):
        assert swap.set_up.stance != "bench" or swap.set_up.sources[0].kind == "machine"


def test_hips_bear_the_whole_stack():
    def force(source):
        set_up = SetUp("hip_thrust", (source,), {}, "floor")
        (push,) = pushes(set_up, set_up.perform(MAN))
        return float(np.linalg.norm(push.total()[0], axis=1).max())

    on_path = MachineHold(Machine("m", "m", "hip_thrust", [120.0], guide="path"), 120)
    assert force(on_path) == pytest.approx(force(BarbellHold(BAR, 120, carried=True)), rel=0.01)
    assert force(on_path) == pytest.approx(120 * 9.80665, rel=0.01)


def test_a_leg_press_extends_hips_and_knees():
    set_up = SetUp("leg_press", (MachineHold(Machine("m", "m", "leg_press", [160.0], guide="rail"), 160),), {}, "bench", 45)
    p = profile(MAN, set_up)
    assert p.carried_mean("glute_max", "hip") > 0.5
    # The feet go straight along the rail.
    foot = p.motion.point("foot")
    way = np.diff(foot, axis=0) / np.linalg.norm(np.diff(foot, axis=0), axis=1)[:, None]
    assert (way @ way[0] > 0.995).all()


def test_a_hack_squat_is_done_on_its_own_sled_alone():
    sled = Machine("hack", "hack squat", "hack_squat", [float(m) for m in range(20, 200, 5)], "rail", rail_deg=60)
    table = build_reach_table(MAN, replace(GYM, kit=[*GYM.kit, sled]))
    assert "hack_squat" not in {v.kind.id for v in build_reach_table(MAN, GYM).variants}
    rows = table.rows["quads"]
    used = {
        table.sources[s].sort
        for v, s in zip(rows.variant, rows.source, strict=True)
        if table.variants[v].kind.id == "hack_squat"
    }
    assert used == {sled.sort}
    with pytest.raises(DomainError, match="sled on rails"):
        replace(sled, guide="axis").verify()
    # The hips go straight along the rails, and a man squats about as much there as with a bar on his back.
    p = profile(MAN, SetUp("hack_squat", (MachineHold(sled, 100),)))
    way = np.diff(p.motion.joints["hips"], axis=0)
    assert np.allclose(np.degrees(np.arctan2(way[:, 2], -way[:, 0])), 60, atol=2.5)
    swap = answer(
        line("quads", "squat", BarbellHold(BAR, 100, carried=True)),
        "hack_squat",
        MachineHold(sled, 100),
        where=replace(GYM, kit=[sled]),
    )
    assert 0.7 <= swap.load.amount / 100 <= 1.3


def test_a_seated_calf_machine_leaves_the_hamstrings_alone():
    seat = MachineHold(Machine("m", "m", "calf_raise", [60.0], guide="path"), 60)
    p = profile(MAN, SetUp("calf_raise", (seat,), {"knee_deg": 85.0}, "bench", 85))
    assert np.nanmax(p.activation("hamstrings")) < 0.05
    assert np.abs(p.demand["leg"][:, 3]).max() < 1e-6


def test_a_kneeling_crunch_bends_at_the_hips_and_works_the_abs():
    p = profile(MAN, SetUp("kneeling_crunch", (cable(200, 105, 0, 30, "rope"),), {}, "kneeling"))
    assert p.carried_mean("abs", "trunk") > 0.5


def test_too_hard_a_prescription_is_taken_with_a_warning():
    from oddswap.coaching.explanation import too_hard_words

    assert "check the load first" in too_hard_words(line("rear_delt", "face_pull", cable(150, 110, 0, 90, "rope"), body=WOMAN))
    assert too_hard_words(line("chest", "press", DumbbellHold(20), {}, **FLAT)) == ""


def test_an_inverted_row_of_a_light_woman_is_no_one_arm_fly_with_forty_kilos():
    prescription = line("rear_delt", "inverted_row", body=WOMAN, stance="floor")
    one_armed = [s for s in find_swaps(prescription, GYM, SAME) if not s.set_up.both_sides]
    assert one_armed
    assert all(s.load.amount < 20 for s in one_armed)


@pytest.mark.parametrize("movement", ["pull_up", "dip"])
def test_a_platform_takes_as_much_off_as_is_pinned(movement):
    machine = AssistMachine("assist", "assist", [float(m) for m in range(10, 70, 10)])
    asked = []
    for kg in machine.amounts():
        p = profile(MAN, SetUp(movement, (AssistHold(machine, float(kg)),), {}, "hanging"))
        asked.append(float(p.relative_effort[p.row("lats" if movement == "pull_up" else "chest")].max()))
    falls = -np.diff(asked)
    assert (falls > 0.03).all()
    assert np.ptp(falls) < 0.01


def test_a_swap_goes_as_deep_and_as_far_as_the_line():
    """A squat to level thighs is not answered by one to 80 degrees, nor a bottom half by whole repetitions of the same lift."""
    deep = line("quads", "squat", BarbellHold(BAR, 60, carried=True), {"depth_deg": 90.0})
    squats = [s for s in find_swaps(deep, replace(GYM, kit=[DUMBBELLS]), SAME) if s.set_up.movement == "squat"]
    assert squats
    assert {s.set_up.variant().values["depth_deg"] for s in squats} == {90.0}
    half = line("chest", "press", DumbbellHold(30), {"range_to_pct": 50.0}, **FLAT)
    presses = [s for s in find_swaps(half, replace(GYM, kit=[BAR, GYM.kit[3]]), SAME) if s.set_up.movement == "press"]
    assert presses
    assert {s.set_up.variant().values["range_to_pct"] for s in presses} == {50.0}


def test_nobody_deadlifts_or_pulls_through_nothing():
    """Common practice, no source: a bodyweight hinge is none of them."""
    empty = Place("room", Room(4, 4, 2.6), [])
    for kind in ("deadlift", "pull_through"):
        keys = list_variant_keys(empty, only=kind)
        assert keys
        assert not build_reach_table(Body(1.75, 75), empty, keys).rows
    assert build_reach_table(Body(1.75, 75), empty, list_variant_keys(empty, only="romanian_deadlift")).rows


def test_a_belt_squat_asks_for_a_belt():
    straps, belt = Handle("s", "straps", "strap", count=2), Handle("b", "belt", "belt")

    def moved(*kit):
        squat = line("quads", "squat", BarbellHold(BAR, 60.0, carried=True))
        return {s.set_up.movement for s in find_swaps(squat, Place("gym", Room(9, 9, 3.5), [*kit, DUMBBELLS]), SAME)}

    assert "belt_squat" in moved(COLUMN, straps, belt)
    for kit in ((COLUMN, straps), (COLUMN,)):
        assert "belt_squat" not in moved(*kit)


def test_a_side_bend_is_loaded_in_one_hand():
    bent = line("waist", "side_bend", DumbbellHold(20, "one"))
    assert {s.hands for swap in find_swaps(bent, GYM, SAME) for s in swap.set_up.sources if s.kind == "dumbbell"} == {"one"}
    with pytest.raises(DomainError, match="loaded in one hand"):
        answer(bent, "side_bend", DumbbellHold(20, "both"))


def test_a_flat_line_does_not_run_through_a_seat_from_end_to_end():
    # It enters by the seat's one end and leaves by the other, and meets neither its upper nor its lower face.
    set_up = SetUp("leg_extension", (CablePull(COLUMN, 7, -69.0, 0.0, 40.0),), {"hip_deg": 85.0}, **SEATED)
    with pytest.raises(DomainError, match="bench"):
        check_set_up(set_up, set_up.perform(MAN))
    low = replace(set_up, sources=(CablePull(COLUMN, 1, -69.0, 0.0, 40.0),))
    check_set_up(low, low.perform(MAN))
