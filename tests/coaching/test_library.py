"""Every movement on generic kit: the library's examples can be done, load what they are for, and say who carries it."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from importlib.resources import files

import numpy as np
import pytest

from oddswap.coaching.library import example, kits_of, variants_of
from oddswap.coaching.machines import machine_ways
from oddswap.equivalence.muscle_work import find_limiting_muscle, helpers, relative_effort_curve, target_of
from oddswap.errors import DomainError
from oddswap.exercises import FAMILIES, movement, movements
from oddswap.mechanics.body import Body
from thinning import thin

# Lifts whose target is a small muscle that others help: they limit the set, which is what the page says.
HELPED = {"external_rotation", "internal_rotation", "face_pull", "supination", "upright_row", "close_press"}


LAST = [(m.id, -1) for m in movements().values() if m.family == "legs" and len(variants_of(m)) > 1]


@pytest.mark.parametrize(("name", "mechanics"), [(name, 0) for name in sorted(movements())] + thin(LAST, 4))
def test_every_movement_has_an_example_that_loads_its_target(name, mechanics):
    kind = movements()[name]
    assert kind.family in FAMILIES
    variants = variants_of(kind)
    titles = [kind.title(v) for v in variants]
    assert len(set(titles)) == len(titles)
    p = example(Body(1.68, 64, "female"), kind, variants[mechanics], "")
    target = target_of(p)
    assert target in kind.targets
    assert p.effective[p.row(target)].max() > 1
    who = helpers(p)
    assert who
    if name not in HELPED:
        assert target in [h.group.id for h in who if h.band in ("main", "strong")], [(h.group.id, h.share) for h in who]
    for joint in {h.joint for h in who}:
        assert sum(h.share for h in who if h.joint == joint) <= 1.15  # each is rounded to 0.05
    curve = relative_effort_curve(p)
    assert curve.shape == p.motion.part.shape
    assert find_limiting_muscle(p).relative_effort == pytest.approx(curve.max())


def test_kit_that_does_not_load_a_movement_is_rejected_with_the_reason():
    kind = movements()["pulldown"]
    v = variants_of(kind)[0]
    assert [k.id for k in kits_of(kind, v)] == ["dumbbells", "cable", "band"]
    with pytest.raises(DomainError, match="follow the load's line") as caught:
        example(Body(1.75, 75), kind, v, "dumbbells")
    assert caught.value.field == "kit"
    with pytest.raises(DomainError, match="is shown with dumbbells, cable, band"):
        example(Body(1.75, 75), kind, v, "bar")


@pytest.mark.parametrize("body", [Body(1.80, 82), Body(1.62, 58, "female")], ids=["a man", "a woman"])
@pytest.mark.parametrize(
    ("name", "stance"),
    [
        ("row", "standing"),
        ("row", "sitting"),
        ("pulldown", "kneeling"),
        ("curl", "standing"),
        ("lateral_raise", "standing"),
        ("face_pull", "standing"),
        ("external_rotation", "standing"),
        ("hip_abduction", "standing"),
    ],
)
def test_a_usual_band_is_taut_not_too_long_and_of_a_strength_that_is_made(name, stance, body):
    kind = movements()[name]
    way = next(v for v in variants_of(kind) if v.stance == stance)
    p = example(body, kind, way, "band")
    source = p.set_up.sources[0]
    point = p.motion.point(p.motion.support.contact if source.attachment.at == "usual" else source.attachment.at)
    length = np.linalg.norm(point - source.law().anchor, axis=-1) * 100
    slack = source.band.points[0].length_cm
    assert length.min() >= slack - 0.1
    assert length.max() <= 3 * slack + 0.1
    force = np.linalg.norm(p.pushes[0].force, axis=-1)
    assert 10 < force.max() < 500
    assert 0.2 < relative_effort_curve(p).max() < 0.95
    with pytest.raises(DomainError, match="no weight"):
        example(body, kind, way, "band", 20.0)


def test_a_stronger_client_is_asked_for_less_of_what_they_can_give():
    kind = movements()["row"]
    v = variants_of(kind)[0]
    small, large = (example(Body(1.75, mass), kind, v, "dumbbells") for mass in (60, 100))
    assert large.set_up.sources[0].amount > small.set_up.sources[0].amount
    assert np.isfinite(relative_effort_curve(large)).all()


def data_of(name):
    return tomllib.loads((files("oddswap.coaching") / "data" / f"{name}.toml").read_text())


PINS = [(Body(1.80, 82), 20, 120), (Body(1.62, 58, "female"), 10, 80)]
"""Common practice, no source: pins of 20 to 120 kg for a man of 82 kg, of 10 to 80 kg for a woman of 58."""


@pytest.mark.parametrize(("body", "least", "most"), PINS)
@pytest.mark.parametrize("name", list(data_of("joint_machines")["radius_cm"]))
def test_a_machine_for_one_joint_is_loaded_as_people_load_it(name, body, least, most):
    kind = movement(name)
    ways = [v for v in variants_of(kind) if "machine" in [k.id for k in kits_of(kind, v)]]
    assert ways
    for way in ways:
        shown = example(body, kind, way, "machine")
        assert least <= shown.set_up.sources[0].amount <= most
        assert 0.3 < max(shown.relative_effort[shown.row(t)].max() for t in kind.targets) < 0.8


@pytest.mark.parametrize(("body", "least", "most"), PINS)
@pytest.mark.parametrize("name", list(data_of("machines")))
def test_a_usual_machine_is_loaded_as_people_load_it(name, body, least, most):
    kind = movement(name)
    for angle in (0.0, 85.0) if name == "press" else (0.0,):
        way = machine_ways(kind, {"angle_deg": angle}, incline=False)[0]
        way = replace(way, values=kind.complete(way.values))
        assert "machine" in [k.id for k in kits_of(kind, way)]
        shown = example(body, kind, way, "machine")
        # Hips thrust more than hands press.
        assert least <= shown.set_up.sources[0].amount <= most * (1.5 if name == "hip_thrust" else 1.0)
        busiest = max(shown.relative_effort[shown.row(t)].max() for t in kind.targets)
        assert busiest > 0.15
        # A seat of its own: nobody lies down on it.
        assert "machine" not in [k.id for k in kits_of(kind, replace(way, stance="bench", recline_deg=0.0))]
