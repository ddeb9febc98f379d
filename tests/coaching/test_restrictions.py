"""Sore joints: what a coach would leave out is left out, and said; what spares the joint stays."""

from __future__ import annotations

from functools import partial

import pytest

from oddswap.coaching.restrictions import Restriction, restriction_rules, strains
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import profile_prescription
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.store.demo import document

BODY = Body(1.75, 75)


def motion_of(movement, stance="standing", recline=90.0, **values):
    return SetUp(movement, (), values, stance, recline).perform(BODY, 16)


@pytest.mark.parametrize(
    ("joint", "action", "strained", "free"),
    [
        ("shoulder", "overhead", motion_of("overhead_extension"), motion_of("pushdown")),
        ("shoulder", "behind the body", motion_of("curl", arm_angle_deg=-40.0), motion_of("curl", arm_angle_deg=30.0)),
        ("knee", "bent deep", motion_of("squat"), motion_of("romanian_deadlift")),
        ("lower back", "bent deep", motion_of("row", "bent_over", 35.0), motion_of("row", "chest_supported", 30.0)),
        ("wrist", "gripping", motion_of("curl"), motion_of("squat")),
        ("hip", "wide", motion_of("hip_abduction"), motion_of("hip_extension")),
    ],
    ids=lambda v: v if isinstance(v, str) else "",
)
def test_what_strains_a_joint(joint, action, strained, free):
    """Common practice, no source."""
    restrictions = [Restriction(joint, action, "left")]
    assert strains(strained, restrictions).startswith(f"left {joint}: ")
    assert strains(free, restrictions) == ""
    assert strains(strained, []) == ""


def test_every_joint_and_action_of_the_document_is_covered_by_a_rule():
    joints = {r["joint"] for r in restriction_rules()}
    assert joints == set(ClientDoc.model_json_schema()["$defs"]["RestrictionDoc"]["properties"]["joint"]["enum"])
    assert all(sum(k in r for k in ("above", "below", "moves")) == 1 for r in restriction_rules())


def test_a_shoulder_that_hurts_changes_the_ranking_and_says_why():
    program = ProgramDoc.model_validate_json(document("program-tobi"))
    line = next(x.line() for s in program.sessions for x in s.lines if x.set_up.movement in ("press", "fly"))
    hall = PlaceDoc.model_validate_json(document("place-harbour-hall")).place()
    body = ClientDoc.model_validate_json(document("client-tobi")).body()
    excluded: dict[str, int] = {}
    plain = find_swaps(profile_prescription(line, body), hall, lens_by_id("same_profile"))
    careful = find_swaps(
        profile_prescription(line, body),
        hall,
        lens_by_id("same_profile"),
        filters=SearchFilters(partial(strains, restrictions=[Restriction("shoulder", "wide", "right")])),
        excluded=excluded,
    )
    assert excluded
    assert all(words.startswith("right shoulder: ") for words in excluded)
    assert [s.set_up for s in plain] != [s.set_up for s in careful]
    assert all(not strains(s.profile.motion, [Restriction("shoulder", "wide")]) for s in careful)
    curl = next(x.line() for s in program_of("ilka") for x in s.lines if x.set_up.movement == "curl")
    with pytest.raises(DomainError, match="must spare the elbow"):
        find_swaps(
            profile_prescription(curl, body),
            hall,
            lens_by_id("same_profile"),
            filters=SearchFilters(partial(strains, restrictions=[Restriction("elbow", "under load")])),
        )


def program_of(who):
    return ProgramDoc.model_validate_json(document(f"program-{who}")).sessions
