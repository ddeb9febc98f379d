"""Lines as coaches prescribe them, and what a good coach would make of each at four places.

Common practice, no source: what must be among the first three, what must not, where a line of pull belongs there, and which
caution must stand at one of the first three.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import pytest

from oddswap.coaching.explanation import cautions
from oddswap.documents.place import PlaceDoc
from oddswap.equipment.barbell import Barbell, BarbellHold, PlatePair
from oddswap.equipment.base.item import Room
from oddswap.equipment.bench import Bench
from oddswap.equipment.cable import CableColumn, CablePull
from oddswap.equipment.dumbbell import DumbbellHold, Dumbbells
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import Place, PrescribedLine, profile_prescription
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_up import SetUp
from oddswap.exercises import movement
from oddswap.mechanics.body import Body
from oddswap.store.demo import document
from thinning import thin

PLACES = ("pier-club", "quay-hotel", "spare-room", "tallow-garage")
ROOMY = ("pier-club", "quay-hotel", "tallow-garage")
COLUMN = CableColumn("ours", "tower", 23, 10, 230, 1, 120, 1, parked_cm=25, travel_cm=320, columns=2, spacing_cm=250)
BAR = Barbell("ours", "bar", 20, [PlatePair(m, 20) for m in (20, 10, 5, 2.5, 1.25)])


def dumbbells(kg, hands="both"):
    return DumbbellHold(kg, hands)


def cable(kg, height_cm, forward, right=0.0, use="one"):
    hole = 1 + round((height_cm - 10) / 10)
    return CablePull(COLUMN, hole, forward, right, kg, use)


def bar(kg, carried=False):
    return BarbellHold(BAR, kg, carried=carried)


def machine(movement, kg, **figures):
    return MachineHold(Machine("ours", "machine", movement, [float(m) for m in range(5, 305, 5)], **figures), kg)


@dataclass(frozen=True)
class Judgement:
    """One line and what is right for it."""

    name: str
    target: str
    set_up: SetUp
    want: set[str]
    never: set[str] = field(default_factory=set)
    places: tuple[str, ...] = PLACES
    line_at: tuple[str, ...] = ()
    caution: str = ""


def up(movement, *sources, stance="standing", recline=90.0, pad=False, **values):
    return SetUp(movement, sources, values, stance, recline, 45.0, pad)


PRESSES = {"press", "push_up", "dip"}
CURLS = {"curl", "supination"}
JUDGEMENTS = [
    Judgement(
        "incline curl, dumbbells",
        "biceps",
        up("curl", dumbbells(9), stance="bench", recline=45, arm_angle_deg=-45, forearm_deg=-80),
        CURLS,
        {"pull_up", "pulldown"},
    ),
    Judgement(
        "standing curl, dumbbells",
        "biceps",
        up("curl", dumbbells(12), arm_angle_deg=0, forearm_deg=-80),
        CURLS,
        {"pull_up", "pulldown"},
    ),
    Judgement(
        "curl, back to a low cable",
        "biceps",
        up("curl", cable(10, 20, -60, 20), arm_angle_deg=-15, forearm_deg=-80),
        CURLS,
        {"pull_up", "pulldown"},
        line_at=PLACES,
    ),
    Judgement("bar curl", "biceps", up("curl", bar(30), arm_angle_deg=12, forearm_deg=-80), CURLS, {"pull_up", "pulldown"}),
    Judgement(
        "resisted supination, dumbbell held at its end",
        "biceps",
        up("supination", dumbbells(6, "one"), off_cm=-7),
        {"supination"},
        {"pull_up", "pulldown"},
    ),
    Judgement(
        "hammer curl", "brachialis", up("curl", dumbbells(12), arm_angle_deg=0, forearm_deg=0), CURLS, {"pull_up", "pulldown"}
    ),
    Judgement("reverse curl, bar", "brachioradialis", up("curl", bar(22.5), arm_angle_deg=12, forearm_deg=70), CURLS, set()),
    Judgement(
        "overhead extension, dumbbell",
        "triceps_long",
        up("overhead_extension", dumbbells(8)),
        {"overhead_extension", "lying_extension"},
        {"dip", "press", "pullover", "straight_arm_pulldown"},
    ),
    Judgement(
        "pushdown",
        "triceps_short",
        up("pushdown", cable(20, 200, 45, 0, "bar")),
        {"pushdown", "lying_extension", "kickback", "overhead_extension", "cross_body_extension"},
        {"dip", "press", "push_up"},
    ),
    Judgement(
        "lying extension, dumbbells",
        "triceps_long",
        up("lying_extension", dumbbells(8), stance="bench", recline=0),
        {"lying_extension", "overhead_extension", "cross_body_extension"},
        {"dip", "press", "pullover", "straight_arm_pulldown"},
    ),
    Judgement(
        "flat press, dumbbells",
        "chest",
        up("press", dumbbells(20), stance="bench", recline=0, angle_deg=0),
        PRESSES,
        {"internal_rotation", "pull_in", "pullover"},
        places=ROOMY,
        caution="shoulder",
    ),
    Judgement(
        "flat fly, dumbbells",
        "chest",
        up("fly", dumbbells(10), stance="bench", recline=0),
        {"fly"},
        {"internal_rotation", "pullover"},
        caution="torso",
    ),
    Judgement(
        "cable fly",
        "chest",
        up("fly", cable(12, 130, -20, 125, "pair"), rise_deg=0),
        {"fly"},
        {"internal_rotation", "pullover"},
        line_at=PLACES,
    ),
    Judgement(
        "push-up", "chest", up("push_up", stance="floor"), {"push_up", "press"}, {"internal_rotation", "pull_in", "pullover"}
    ),
    Judgement(
        "incline press, dumbbells",
        "upper_chest",
        up("press", dumbbells(16), stance="bench", recline=30, angle_deg=30),
        {"press", "fly"},
        {"push_up"},
    ),
    Judgement(
        "low-to-high cable fly",
        "upper_chest",
        up("fly", cable(6, 30, -20, 125, "pair"), rise_deg=30),
        {"fly"},
        {"push_up"},
        line_at=("quay-hotel", "pier-club"),
    ),
    Judgement(
        "seated overhead press, dumbbells",
        "front_delt",
        up("press", dumbbells(14), stance="bench", recline=85, angle_deg=90),
        {"press"},
        {"dip", "push_up"},
    ),
    Judgement(
        "front raise, dumbbells",
        "front_delt",
        up("lateral_raise", dumbbells(6), plane_deg=90),
        {"lateral_raise"},
        {"dip", "push_up"},
    ),
    Judgement("lateral raise, dumbbells", "side_delt", up("lateral_raise", dumbbells(7)), {"lateral_raise"}, {"press"}),
    Judgement(
        "cable lateral raise from across",
        "side_delt",
        up("lateral_raise", cable(5, 70, 25, -70), start=1),
        {"lateral_raise"},
        {"press"},
    ),
    Judgement(
        "bent-over rear-delt fly, dumbbells",
        "rear_delt",
        up("rear_fly", dumbbells(6), stance="bent_over", recline=15),
        {"rear_fly"},
        {"pulldown"},
    ),
    Judgement(
        "rear-delt fly, cable from across",
        "rear_delt",
        up("rear_fly", cable(5, 130, 60, -60)),
        {"rear_fly", "face_pull"},
        {"pulldown"},
        line_at=ROOMY,
    ),
    Judgement(
        "pulldown, elbows tucked",
        "lats",
        up("pulldown", cable(45, 220, 45, 0, "bar"), stance="kneeling", width=0),
        {"pulldown", "pull_up", "row", "straight_arm_pulldown", "pullover", "inverted_row"},
        {"internal_rotation"},
    ),
    Judgement(
        "straight-arm pulldown",
        "lats",
        up("straight_arm_pulldown", cable(20, 200, 90, 0, "bar")),
        {"straight_arm_pulldown", "pullover", "pulldown"},
        {"internal_rotation"},
    ),
    Judgement(
        "one-arm row to the hip, dumbbell",
        "lats",
        up("row", dumbbells(20, "one"), stance="bent_over", recline=15, width=0),
        {"row", "inverted_row"},
        {"internal_rotation"},
    ),
    Judgement(
        "pull-up",
        "lats",
        up("pull_up", stance="hanging", width=0),
        {"pull_up", "pulldown"},
        {"internal_rotation"},
        places=("pier-club", "tallow-garage"),
    ),
    Judgement(
        "row, elbows wide",
        "middle_traps",
        up("row", cable(35, 100, 120, 0, "bar"), stance="kneeling", width=1),
        {"row", "face_pull", "rear_fly", "scapular_retraction", "inverted_row"},
        {"up_and_in_shrug"},
    ),
    Judgement(
        "shrug, dumbbells",
        "upper_traps",
        up("shrug", dumbbells(28)),
        {"shrug", "up_and_in_shrug", "upright_row", "lateral_raise"},
        set(),
    ),
    Judgement(
        "back squat",
        "quads",
        up("squat", bar(80, True), depth_deg=90, hold=0),
        {"squat", "leg_press", "split_squat"},
        {"hip_thrust"},
    ),
    Judgement(
        "leg extension machine",
        "quads",
        up("leg_extension", machine("leg_extension", 45), stance="bench", recline=75),
        {"leg_extension", "squat", "split_squat"},
        {"hip_thrust"},
        places=("tallow-garage", "pier-club"),  # elsewhere nothing comes near enough, and that is said
    ),
    Judgement(
        "split squat, dumbbells",
        "quads",
        up("split_squat", dumbbells(14), hold=1),
        {"split_squat", "squat", "leg_press", "leg_extension"},
        {"hip_thrust"},
    ),
    Judgement(
        "lying leg curl",
        "hamstrings",
        up("leg_curl", machine("leg_curl", 30), stance="chest_supported", recline=0),
        {"leg_curl", "romanian_deadlift", "hip_extension"},
        set(),  # see the hip thrust below
        places=ROOMY,
    ),
    Judgement(
        "hinge, bar",
        "hamstrings",
        up("romanian_deadlift", bar(80)),
        {"romanian_deadlift", "hip_extension", "pull_through", "leg_curl"},
        {"hip_thrust"},
        places=ROOMY,
    ),
    Judgement(
        "hip thrust, bar",
        "glute_max",
        up("hip_thrust", bar(90, True), stance="floor"),
        {"hip_thrust", "hip_extension", "pull_through", "squat", "romanian_deadlift", "split_squat", "leg_press"},
        {"hip_abduction"},
    ),
    Judgement(
        "hip abduction, cable",
        "glute_med",
        up("hip_abduction", cable(7, 20, 0, -80)),
        {"hip_abduction"},
        set(),
        places=ROOMY,
    ),
    Judgement(
        "standing calf raise, dumbbells", "gastrocnemius", up("calf_raise", dumbbells(24), hold=1), {"calf_raise"}, {"leg_curl"}
    ),
    Judgement(
        "kneeling crunch, cable",
        "abs",
        up("kneeling_crunch", cable(40, 200, 105, 0, "rope"), stance="kneeling"),
        {"kneeling_crunch"},
        set(),
        places=ROOMY,
    ),
    Judgement(
        "external rotation, cable",
        "external_rotators",
        up("external_rotation", cable(4, 100, 10, -80)),
        {"external_rotation"},
        set(),
    ),
]

BODY = Body(1.80, 82, "male")


LOADED = [j for j in JUDGEMENTS if j.set_up.sources]


@pytest.mark.parametrize("judgement", thin(LOADED, 3), ids=lambda j: j.name)
def test_a_line_is_its_own_best_swap_where_its_kit_is(judgement):
    prescription = profile_prescription(PrescribedLine(judgement.target, judgement.set_up, 3, 8, 10, 1), BODY)
    source = judgement.set_up.sources[0]
    dumbbells = Dumbbells("dumbbells", "dumbbells", [float(m) for m in range(1, 41)])
    kit = [Bench("bench", "bench", [0, 15, 30, 45, 60, 75, 80, 85]), dumbbells if source.kind == "dumbbell" else source.item]
    best = find_swaps(prescription, Place("own", Room(8, 8, 3.2), kit), lens_by_id("same_profile"))[0]
    assert best.match == pytest.approx(100, abs=0.01)
    assert best.load.exact == pytest.approx(source.amount, rel=1e-3)
    assert (best.load.reps_low, best.load.reps_high) == (8, 10)


@pytest.mark.parametrize("judgement", JUDGEMENTS, ids=lambda j: j.name)
def test_what_must_not_stand_there_could(judgement):
    """A movement that cannot be meant for the muscle would never be offered, whatever else went wrong."""
    assert [m for m in judgement.never if judgement.target not in movement(m).targets] == []


# Some are asked for at every run, beside the matrix of ``tests/judgement``, and all in all places by night.
EVERYWHERE = [("quay-hotel", 0)], [(w, part) for part in range(4) for w in PLACES if (w, part) != ("quay-hotel", 0)]


@pytest.mark.parametrize(
    ("where", "part"), [*EVERYWHERE[0], *(pytest.param(*e, marks=pytest.mark.nightly) for e in EVERYWHERE[1])]
)
def test_a_good_coach_would_agree(where, part):
    place = PlaceDoc.model_validate_json(document(f"place-{where}")).place()
    wrong, turn = [], (PLACES.index(where) + part) % len(PLACES)
    here = [j for i, j in enumerate(JUDGEMENTS) if where in j.places and i % len(PLACES) == turn]
    for j in here:
        first = find_swaps(
            profile_prescription(PrescribedLine(j.target, j.set_up, 3, 8, 10, 1), BODY), place, lens_by_id("same_profile")
        )[:3]
        shown = [s.set_up.movement for s in first]
        if not set(shown) & j.want:
            wrong.append(f"{j.name}: none of {j.want} among {shown}")
        if set(shown) & j.never:
            wrong.append(f"{j.name}: {set(shown) & j.never} has no place among the first three")
        if where in j.line_at and not any(x.kind in ("cable", "band") for s in first for x in s.set_up.sources):
            wrong.append(f"{j.name}: a cable or a band belongs among the first three")
        if j.caution and not any(j.caution in c for s in first for c in cautions(s)):
            wrong.append(f"{j.name}: no caution of the {j.caution}")
    assert not wrong
    assert len(here) >= 7
    assert sum(where in j.places for j in JUDGEMENTS) >= 30


def test_a_press_is_answered_by_a_press_where_dumbbells_are_light():
    place = PlaceDoc.model_validate_json(document("place-spare-room")).place()
    j = next(j for j in JUDGEMENTS if j.name == "flat press, dumbbells")
    line = profile_prescription(PrescribedLine(j.target, j.set_up, 3, 8, 10, 1), BODY)
    assert PRESSES & {s.set_up.movement for s in find_swaps(line, place, lens_by_id("same_profile"))[:3]}


def test_a_hip_thrust_is_no_leg_curl():
    place = PlaceDoc.model_validate_json(document("place-tallow-garage")).place()
    j = next(j for j in JUDGEMENTS if j.name == "lying leg curl")
    line = profile_prescription(PrescribedLine(j.target, j.set_up, 3, 8, 10, 1), BODY)
    assert "hip_thrust" not in [s.set_up.movement for s in find_swaps(line, place, lens_by_id("same_profile"))[:3]]


def test_a_pull_up_becomes_a_pulldown_before_it_becomes_rows():
    place = PlaceDoc.model_validate_json(document("place-quay-hotel")).place()
    j = next(j for j in JUDGEMENTS if j.name == "pull-up")
    line = profile_prescription(PrescribedLine(j.target, j.set_up, 3, 8, 10, 1), BODY)
    assert "pulldown" in [s.set_up.movement for s in find_swaps(line, place, lens_by_id("same_profile"))[:3]]
