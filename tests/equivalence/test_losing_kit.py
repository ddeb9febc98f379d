"""What was found at a place before it lost some kit, and does without that kit, still is what it was."""

from __future__ import annotations

from dataclasses import replace

import pytest

from oddswap.application.stations import items_of, kit_needed
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.equipment.band import BandPull
from oddswap.equipment.base.positions import anchor_heights
from oddswap.equivalence.candidates import PLAIN, evaluate_set_up, with_kit_of
from oddswap.equivalence.first_look import take_first_look
from oddswap.equivalence.kit import affected_by_loss, changed_kit
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import profile_prescription
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variant_list import has_supports
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.store.demo import document

SAME = lens_by_id("same_profile")
BODY = ClientDoc.model_validate_json(document("client-tobi")).body()
LINES = [x.line() for s in ProgramDoc.model_validate_json(document("program-tobi-week")).sessions for x in s.lines][::6]
HANGING = SetUp("pull_up", [], stance="hanging")


def place(name):
    return PlaceDoc.model_validate_json(document(f"place-{name}")).place()


@pytest.mark.parametrize("name", ["spare-room", "tallow-garage", "quay-hotel"])
def test_what_does_without_it_stands_and_matches_as_before(name):
    before, stood, stood_in = place(name), 0, 0
    prescriptions = [profile_prescription(line, BODY) for line in LINES]
    looks = []
    for prescription in prescriptions:
        try:
            looks.append((prescription, take_first_look(prescription, before, SAME)))
        except DomainError:
            continue
    assert looks
    for item in before.kit:
        now = replace(before, kit=[k for k in before.kit if k is not item])
        affected = affected_by_loss(before, now)
        assert affected is not None
        assert item.id in affected
        for prescription, (look, others) in looks:
            # What was seen besides and needs nothing that is gone can be done as well, held and hung as it was.
            changed = changed_kit(before, now)
            for other in (c for c in others if not changed & kit_needed(c.set_up, before)):
                assert with_kit_of(other.set_up, now) == other.set_up
                assert has_supports(now, movement(other.set_up.movement), other.variant)
                contact = other.set_up.support.contact
                assert all(s.can_be_held(now.kit, contact) and s.can_be_hung(now.kit) for s in other.set_up.sources)
                stood_in += 1
            if not affected & items_of(look.set_up, before):
                assert with_kit_of(look.set_up, now) == look.set_up
                assert has_supports(now, movement(look.set_up.movement), look.variant)
                assert now.rests.bench or look.set_up.stance not in ("bench", "chest_supported")
                again = evaluate_set_up(prescription, now, SAME, look.set_up, PLAIN)
                assert again.match == pytest.approx(look.match, abs=1e-9)
                assert again.set_up.sources == look.set_up.sources
                stood += 1
    assert stood >= 3
    assert stood_in >= 3


def test_what_hangs_on_it_is_affected_too_and_any_other_change_is_no_loss():
    room, garage = place("spare-room"), place("tallow-garage")
    no_door = replace(room, kit=[k for k in room.kit if k.kind != "anchor"])
    assert affected_by_loss(room, no_door) >= {k.id for k in room.kit if k.kind in ("band", "anchor")}
    no_rope = replace(garage, kit=[k for k in garage.kit if k.id != "rope"])
    assert {"rope", "pulley"} <= affected_by_loss(garage, no_rope)
    assert affected_by_loss(garage, garage) == set()
    hung = BandPull(next(k for k in room.kit if k.kind == "band"), 100.0, 60.0, 0.0)
    at_the_door = SetUp("lateral_raise", [replace(hung, height_cm=anchor_heights(room.kit)[0])])
    assert kit_needed(at_the_door, room) == {hung.band.id, *(k.id for k in room.kit if k.kind == "anchor")}
    assert changed_kit(room, no_door) & kit_needed(at_the_door, room)
    # What is hung from or stepped on is part of what it is done with, though it loads nothing.
    assert items_of(HANGING, garage) == {"chins"}
    assert items_of(SetUp("step_up", [], {"box_cm": 40.0}), garage) & {"box", "bench"}
    assert items_of(HANGING, room) == set()
    assert affected_by_loss(no_rope, garage) is None
    lower = replace(garage, room=replace(garage.room, ceiling=garage.room.ceiling - 0.1))
    assert affected_by_loss(garage, lower) is None
    bench = next(k for k in garage.kit if k.kind == "bench")
    two = replace(garage, kit=[*garage.kit, replace(bench, id="other", seat_cm=bench.seat_cm + 4)])
    # Which of two benches was lain on cannot be told.
    assert affected_by_loss(two, replace(two, kit=[k for k in two.kit if k is not bench])) is None
