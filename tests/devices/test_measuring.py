"""Guided runs recover the hidden truth of the stand-ins, through noise, lag, drift, drop-outs and knocks."""

from __future__ import annotations

import numpy as np
import pytest

from oddswap.application.measuring_plan import planned
from oddswap.devices.base import Reading, steady
from oddswap.devices.replay import Recorded, Typed
from oddswap.devices.runs import fit_band, fit_cam, fit_column, fit_range, repeat_advice
from oddswap.devices.simulated import Simulated
from oddswap.equipment.band import Band, RubberSection
from oddswap.equipment.cable import CableColumn
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.pchip import interpolate

SEEDS = range(50)


class Bench:
    """A scale with a load that can be set, as a guided run uses it."""

    def __init__(self, seed: int) -> None:
        self.load = 0.0
        self.scale = Simulated(lambda t: self.load, seed=seed)

    def shows(self, load: float) -> float:
        self.load = load
        return steady(list(self.scale.readings(5)))[0]


@pytest.mark.parametrize("seed", SEEDS)
def test_a_band_s_curve_is_recovered_within_2_percent(seed):
    """The hidden truth is Yeoh's (1993) rubber, which the fitted law is not."""
    random, bench = np.random.default_rng(1000 + seed), Bench(seed)
    slack, a = random.uniform(0.4, 0.9), random.uniform(20, 120)
    c2, c3 = random.uniform(-0.03, -0.005), random.uniform(0.0002, 0.002)

    def truth(length):
        x = np.maximum(np.asarray(length) / slack, 1)
        i = x**2 + 2 / x - 3
        return a * (1 + 2 * c2 * i + 3 * c3 * i**2) * (x - x**-2)

    lengths = np.tile(np.round(slack * np.linspace(1.15, 2.7, 8), 3), 3)
    zeros, forces = np.array([(bench.shows(0), bench.shows(float(truth(at)))) for at in lengths]).T
    fit = fit_band(lengths, forces, zeros)
    span = np.linspace(lengths.min(), lengths.max(), 80)
    assert interpolate(fit.lengths, fit.forces, span) == pytest.approx(truth(span), rel=0.02)
    assert fit.good_enough
    assert fit.slack == pytest.approx(slack, rel=0.03)
    assert (np.diff(fit.forces) >= 0).all()


@pytest.mark.parametrize("seed", SEEDS)
def test_a_column_s_ratio_is_recovered_within_1_percent(seed):
    random, bench = np.random.default_rng(seed), Bench(seed)
    ratio, friction = random.choice([1, 0.5, 0.25]) * random.uniform(0.9, 1.1), random.uniform(0, 0.12)
    pins = [10, 20, 30, 40, 60] * 2
    rows = [[bench.shows(0)] + [bench.shows(GRAVITY * ratio * m * (1 + s * friction)) for s in (1, -1)] for m in pins]
    zero, up, down = np.array(rows).T
    fit = fit_column(pins, up, down, zero)
    assert fit.ratio == pytest.approx(ratio, rel=0.01)
    assert fit.friction == pytest.approx(friction, abs=0.01)


def test_knocked_readings_are_left_out_and_named():
    lengths, slack = np.repeat(np.linspace(0.6, 1.2, 7), 3), 0.5
    forces = 60 * (lengths / slack - (lengths / slack) ** -2)
    forces[4] += 25
    fit = fit_band(lengths, forces)
    assert list(np.flatnonzero(fit.outliers)) == [4]
    assert fit.residuals[4] == pytest.approx(25, abs=1)
    assert "outliers: 5" in repeat_advice(fit, "N")
    noisy = fit_band(lengths, forces * np.random.default_rng(1).normal(1, 0.08, len(forces)))
    assert not noisy.good_enough
    assert "measure once more" in repeat_advice(noisy, "N")


@pytest.mark.parametrize("seed", range(10))
def test_a_cam_s_shape_is_recovered(seed):
    random = np.random.default_rng(seed)
    part = np.tile(np.linspace(0, 1, 9), 2)
    radius = 0.12 * (0.8 + 0.5 * np.sin(np.pi * part * 0.8))
    force = radius * 30 * GRAVITY / 0.4 * random.normal(1, 0.005, len(part))
    force[3] *= 1.3
    fit = fit_cam(20 + 90 * part, force, 30, 0.4)
    truth = 0.8 + 0.5 * np.sin(np.pi * np.linspace(0, 1, 7) * 0.8)
    assert fit.shape == pytest.approx(truth / truth.mean(), rel=0.02)
    assert fit.outliers[3]


@pytest.mark.parametrize("seed", range(10))
def test_real_range_ends_of_a_filmed_joint(seed):
    angle = Simulated(lambda t: 67.5 - 62.5 * np.cos(2 * np.pi * t / 4), "deg", 1.0, 0.0, 0.0, seed=seed)
    times, values = np.array([(r.time, r.value) for r in angle.readings(21)]).T
    assert np.isnan(values).any()
    fit = fit_range(times, values)
    assert (fit.low, fit.high) == (pytest.approx(5, abs=2.5), pytest.approx(130, abs=2.5))
    assert fit.repetitions >= 4


def test_other_sources_of_readings_and_too_little():
    rows = [Reading(i * 0.1, 40 + (i % 3 - 1) * 0.2) for i in range(80)]
    replay = Recorded(rows)
    assert steady(list(replay.readings(4)))[0] == pytest.approx(40, abs=0.1)
    assert next(iter(replay.readings(1))).time == pytest.approx(4.0)
    assert steady(list(Typed(12.5).readings(4)))[:2] == (12.5, 0.0)
    with pytest.raises(ValueError, match="hold longer"):
        steady(rows[:15])
    for call in (lambda: fit_band([0.5] * 6, [10] * 6), lambda: fit_column([10, 10], [1, 1], [1, 1]),
                 lambda: fit_cam([1, 2], [3, 4], 10, 0.3), lambda: fit_range(range(20), [40] * 20)):  # fmt: skip
        with pytest.raises(DomainError):
            call()


def test_a_run_reads_where_the_item_allows():
    band = Band("b", "band", [], 250, section=RubberSection(100, 80))
    column = CableColumn("c", "column", 20, 15, 210, 5, 62.5, 2.5)
    lengths, pins = planned("band", band), planned("column", column)
    assert len(lengths) == 21
    assert 100 < min(lengths) < max(lengths) < 250
    assert lengths[:7] == lengths[7:14] == sorted(lengths[:7])
    assert set(pins) <= set(column.amounts())
    assert max(pins) <= 62.5
    with pytest.raises(DomainError, match="cable column"):
        planned("column", band)
