"""The measuring bench: readings from the stand-ins that ship with the app, and what guided runs make of readings."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from typing import Any

import numpy as np

from oddswap.devices.base import Instrument, Reading, steady
from oddswap.devices.runs import fit_band, fit_cam, fit_column, fit_range
from oddswap.devices.simulated import Simulated
from oddswap.devices.simulated_kit import HOLD, Direction, check_item, truth
from oddswap.documents.measurement import MeasurementDoc
from oddswap.documents.reports import FitDoc, SteadyDoc, fit_doc
from oddswap.equipment.band import PullPoint
from oddswap.errors import DomainError
from oddswap.quantities import cm


def simulated_reading(
    what: str, item: Any, position: float, direction: Direction, stack_kg: float, arm_cm: float, seed: int
) -> SteadyDoc:
    """A steady reading of the scale's stand-in at a point, with its zero read just before.

    Raises:
        DomainError: Where the point cannot be measured on this item.
    """
    force = truth(what, item, position, direction, stack_kg, arm_cm)
    load = [0.0]
    scale = Simulated(lambda t: load[0], seed=seed)
    unloaded = list(scale.readings(HOLD))
    load[0] = force
    return steady_doc(unloaded, scale)


def steady_doc(unloaded: list[Reading], scale: Instrument) -> SteadyDoc:
    """What a scale shows now, against what it showed unloaded."""
    zero, zero_error, _ = steady(unloaded)
    held = list(scale.readings(HOLD))
    value, error, used = steady(held)
    return SteadyDoc(
        value=round(value, 2), error=round(error, 3), zero=round(zero, 2), zero_error=round(zero_error, 3), used=used,
        shown=[round(r.value, 2) if np.isfinite(r.value) else None for r in held],
    )  # fmt: skip


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
    if item is not None:
        check_item(measurement.what, item)
    day = (measurement.day or dt.date.today()).isoformat()
    if measurement.what == "band":
        band = fit_band(np.array(at) / 100, value, zero)
        made = item and replace(
            item,
            points=[PullPoint(round(x * 100, 1), round(float(y), 1)) for x, y in zip(band.lengths, band.forces, strict=True)],
            most_cm=round(float(band.lengths[-1]) * 100, 1), section=None,
            measured_on=day, spread_pct=round(100 * band.spread, 2),
        )  # fmt: skip
        changed = [f"slack at {cm(band.slack * 100)}", f"{band.forces[-1]:.0f} N at {cm(band.lengths[-1] * 100)}"]
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
            cam, at, made, [f"mean radius {cm(cam.radius * 100, 1)}", f"from {shape[0]:.2f} to {shape[-1]:.2f} of it"]
        )
    joint = fit_range(at, value)
    return fit_doc(joint, at, None, [f"from {joint.low:.0f}° to {joint.high:.0f}° over {joint.repetitions} repetitions"])
