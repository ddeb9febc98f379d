"""The measuring bench: readings from the stand-ins that ship with the app, and what guided runs make of readings."""

from __future__ import annotations

import datetime as dt
import hashlib
from dataclasses import replace
from typing import Any, Literal

import numpy as np

from oddswap.devices.base import Instrument, Reading, steady
from oddswap.devices.runs import fit_band, fit_cam, fit_column, fit_range
from oddswap.devices.simulated import Simulated
from oddswap.documents.documents import MeasurementDoc
from oddswap.documents.reports import FitDoc, SteadyDoc, fit_doc
from oddswap.equipment.band import PullPoint
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.pchip import interpolate

HOLD = 6.0
"""Seconds that a stand-in is read for at each point."""
Direction = Literal["up", "down"]


def hidden(item: Any) -> np.random.Generator:
    """Random numbers of an item's own: the stand-in's truth differs from the stored figures, and stays the same."""
    return np.random.default_rng(int(hashlib.sha256(item.id.encode()).hexdigest()[:8], 16))


def truth(what: str, item: Any, at: float, direction: Direction, stack_kg: float, arm_cm: float) -> float:
    """What a perfect scale would show at a point, N: the stored figures off by what real kit is off by.

    Raises:
        DomainError: Where the point cannot be measured on this item.
    """
    own = hidden(item)
    factor = own.uniform(0.88, 1.12)
    if what == "band":
        lengths, forces = np.array([[p.length_cm, p.force_n] for p in item.curve()]).T
        if not 0 < at <= item.most_cm:
            raise DomainError("at", at, f"up to the allowed {item.most_cm:g} cm", "Pull less far")
        # Older bands are a little longer than sold, and softer.
        return float(factor * interpolate(lengths * own.uniform(0.98, 1.03), forces, np.array(at)))
    if what == "column":
        if not item.least_kg <= at <= item.most_kg:
            raise DomainError("at", at, f"a pin from {item.least_kg:g} to {item.most_kg:g} kg", "Pick a pin of this column")
        friction = max(item.friction, own.uniform(0.02, 0.08))
        return float(GRAVITY * item.ratio * factor * at * (1 + friction if direction == "up" else 1 - friction) + 3.0)
    if what == "cam":
        if not 0 <= at <= 180:
            raise DomainError("at", at, "an angle of the arm from 0 to 180 degrees", "Read the angle finder again")
        shape = 1 + own.uniform(-0.3, 0.3) * np.cos(np.radians(at) * 1.5)
        return float(item.radius_cm * factor * shape * stack_kg * GRAVITY / arm_cm)
    raise DomainError("what", what, "band, column or cam", "Pick what is measured")


def simulated_reading(
    what: str, item: Any, at: float, direction: Direction, stack_kg: float, arm_cm: float, seed: int
) -> SteadyDoc:
    """A steady reading of the scale's stand-in at a point, with its zero taken just before.

    Raises:
        DomainError: Where the point cannot be measured on this item.
    """
    force = truth(what, item, at, direction, stack_kg, arm_cm)
    load = [0.0]
    scale = Simulated(lambda t: load[0], seed=seed)
    unloaded = list(scale.readings(HOLD))
    load[0] = force
    return steady_doc(unloaded, scale)


PASSES = {"band": 3, "column": 2, "cam": 2}
"""How often a run goes over its points: what scatters shows only between passes."""


def planned(what: str, item: Any) -> list[float]:
    """Where a guided run reads an item, in order: lengths in cm, pins in kg, or angles of the arm in degrees.

    Points are spread over what the item allows, short of its ends: a slack band and a bottomed stack tell nothing.

    Raises:
        DomainError: For an item that is not of the run's kind.
    """
    kinds = {"band": "band", "column": "cable_column", "cam": "machine"}
    if kinds.get(what) != item.kind:
        raise DomainError(
            "item", item.id, f"a {kinds.get(what, 'band, column or machine')}", "Pick another item or another run"
        )
    if what == "band":
        slack = item.curve()[0].length_cm
        points = np.round(np.linspace(1.12 * slack, 0.97 * item.most_cm, 7))
    elif what == "column":
        pins = np.arange(item.least_kg, item.most_kg + 1e-9, item.step_kg)
        wanted = np.linspace(min(item.least_kg + 2 * item.step_kg, item.most_kg), 0.8 * item.most_kg, 5)
        points = np.unique(pins[np.abs(pins - wanted[:, None]).argmin(axis=1)])
    else:
        points = np.round(np.linspace(10, 110, 8))
    return [round(float(p), 3) for p in points] * PASSES[what]


def steady_doc(unloaded: list[Reading], scale: Instrument) -> SteadyDoc:
    """What a scale shows now, against what it showed unloaded."""
    zero, zero_error, _ = steady(unloaded)
    held = list(scale.readings(HOLD))
    value, error, used = steady(held)
    return SteadyDoc(
        value=round(value, 2), error=round(error, 3), zero=round(zero, 2), zero_error=round(zero_error, 3), used=used,
        shown=[round(r.value, 2) if np.isfinite(r.value) else None for r in held],
    )  # fmt: skip


def simulated_joint(low: float, high: float, seed: int, seconds: float = 24.0) -> list[tuple[float, float]]:
    """Angles, degrees, of an angle finder's stand-in on a joint moved through its range, with times, s; drop-outs left out.

    Args:
        low: Low end that is stored, degrees; the hidden truth lies a few degrees inside it.
        high: High end that is stored, degrees.
        seed: Of its random numbers.
        seconds: How long it is recorded.
    """
    own = np.random.default_rng(int(abs(low * 31 + high) * 10))
    a, b = low + own.uniform(3, 9), high - own.uniform(4, 12)
    angle = Simulated(lambda t: (a + b) / 2 - (b - a) / 2 * float(np.cos(2 * np.pi * t / 4)), "deg", 1.0, 0.0, 0.0, seed=seed)
    return [(r.time, round(r.value, 1)) for r in angle.readings(seconds) if np.isfinite(r.value)]


def fitted(measurement: MeasurementDoc, item: Any, stack_kg: float, arm_cm: float) -> FitDoc:
    """The result of a guided run, and the kit item with it.

    Args:
        measurement: The readings.
        item: The kit item that was measured, or None.
        stack_kg: Pin during a cam run, kg.
        arm_cm: Handle to axis during a cam run, cm.

    Raises:
        DomainError: For too few readings, or an item that is not of the kind.
    """
    rows = measurement.readings
    at, value = [r.at for r in rows], [r.value for r in rows]
    zero = np.array([r.zero for r in rows])
    kinds = {"band": "band", "column": "cable_column", "cam": "machine"}
    if item is not None and item.kind != kinds.get(measurement.what):
        raise DomainError("item", item.id, f"a {kinds.get(measurement.what, 'joint')}", "Pick another item or another run")
    day = (measurement.day or dt.date.today()).isoformat()
    if measurement.what == "band":
        band = fit_band(np.array(at) / 100, value, zero)
        made = item and replace(
            item,
            points=[PullPoint(round(x * 100, 1), round(float(y), 1)) for x, y in zip(band.lengths, band.forces, strict=True)],
            most_cm=round(float(band.lengths[-1]) * 100, 1), section=None,
            measured_on=day, spread_pct=round(100 * band.spread, 2),
        )  # fmt: skip
        changed = [f"slack at {band.slack * 100:.0f} cm", f"{band.forces[-1]:.0f} N at {band.lengths[-1] * 100:.0f} cm"]
        return fit_doc(band, at, made, changed)
    if measurement.what == "column":
        if any(r.down is None for r in rows):
            missing = next(i for i, r in enumerate(rows) if r.down is None)
            raise DomainError(f"readings.{missing}.down", None, "a force while the stack sinks too", "Read it on the way down")
        column = fit_column(at, value, np.array([r.down for r in rows]), zero)
        figures = {"ratio": round(column.ratio, 4), "friction": round(column.friction, 3)}
        made = item and replace(item, **figures, measured_on=day, spread_pct=round(100 * column.spread, 2))
        was = f" (was {item.ratio:g})" if item is not None else ""
        return fit_doc(column, at, made, [f"ratio {column.ratio:.3f}{was}", f"friction {column.friction:.1%}"])
    if measurement.what == "cam":
        cam = fit_cam(at, np.array(value) - zero, stack_kg, arm_cm / 100)
        shape = [round(float(s), 3) for s in cam.shape]
        made = item and replace(
            item, cam="measured", measured=shape, radius_cm=round(cam.radius * 100, 1), measured_on=day,
            spread_pct=round(100 * cam.spread, 2),
        )  # fmt: skip
        return fit_doc(
            cam, at, made, [f"mean radius {cam.radius * 100:.1f} cm", f"from {shape[0]:.2f} to {shape[-1]:.2f} of it"]
        )
    joint = fit_range(at, value)
    return fit_doc(joint, at, None, [f"from {joint.low:.0f}° to {joint.high:.0f}° over {joint.repetitions} repetitions"])
