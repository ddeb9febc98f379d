"""The work that web service and command line share: documents in, matches out, remembered while nothing changes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from typing import Any, TypeVar

import numpy as np

from oddswap.devices.runs import fit_band, fit_cam, fit_column, fit_range
from oddswap.errors import DomainError
from oddswap.formats.documents import ClientDoc, LineDoc, MeasurementDoc, PlaceDoc, ProgramDoc, check_program
from oddswap.formats.reports import FitDoc, PurchaseDoc, ReachDoc, fit_doc
from oddswap.formats.results import ExampleDoc, MatchDoc, SwapDoc, SwapsDoc, match_doc
from oddswap.mechanics.movements import movement
from oddswap.mechanics.sources.band import PullPoint
from oddswap.swaps.library import example, variants_of
from oddswap.swaps.match import lens
from oddswap.swaps.reach import Cell, purchases, reach, settings
from oddswap.swaps.search import aim_at, find_swaps, reassessed

T = TypeVar("T")


def match_line(client: ClientDoc, line: LineDoc, place: PlaceDoc, lens_id: str, curves: bool = True) -> MatchDoc:
    """Rank the equivalents of a line for a client at a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place`` or ``lens``.
    """
    return _match(client.model_dump_json(), line.model_dump_json(), place.model_dump_json(), lens_id, curves)


@lru_cache(maxsize=128)
def _match(client: str, line: str, place: str, lens_id: str, curves: bool) -> MatchDoc:
    # Keyed by content, so an edited client, line or place is computed anew and an undone edit is remembered.
    by = lens(lens_id)
    client_doc, line_doc = ClientDoc.model_validate_json(client), LineDoc.model_validate_json(line)
    place_doc = PlaceDoc.model_validate_json(place)
    body = under("client", client_doc.body)
    room = under("place", place_doc.place)
    prescribed = line_doc.line()
    aim = under("line", lambda: aim_at(prescribed, body))
    swaps = under("place", lambda: find_swaps(prescribed, room, body, by))
    return match_doc(line_doc.name, place_doc.name, aim, swaps, by, curves)


def reach_map(client: ClientDoc, place: PlaceDoc) -> ReachDoc:
    """How well a place can load a client.

    Raises:
        DomainError: Where client or place cannot be.
    """
    return ReachDoc.of(client.name, place.name, _cells(_size(client), _kit(place)), settings()["fair"])


def purchase_list(client: ClientDoc, place: PlaceDoc) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first."""
    return list(_purchases(_size(client), _kit(place)))


def _size(client: ClientDoc) -> str:
    """What of a client decides the map."""
    return client.model_dump_json(include={"name", "stature_cm", "mass_kg", "sex", "measured_cm", "ranges_deg"})


def _kit(place: PlaceDoc) -> str:
    return place.model_dump_json(exclude={"busy"})


@lru_cache(maxsize=64)
def _cells(client: str, place: str) -> list[Cell]:
    body = under("client", ClientDoc.model_validate_json(client).body)
    room = under("place", PlaceDoc.model_validate_json(place).place)
    return reach(body, room)


@lru_cache(maxsize=64)
def _purchases(client: str, place: str) -> tuple[PurchaseDoc, ...]:
    body, room = ClientDoc.model_validate_json(client).body(), PlaceDoc.model_validate_json(place).place()
    return tuple(PurchaseDoc.of(p) for p in purchases(body, room, _cells(client, place)))


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
            most_cm=round(float(band.lengths[-1]) * 100, 1), section=None, measured_on=day, spread_pct=round(100 * band.spread, 2),
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


STALE = 5.0
"""Points of match that new figures may move a taken swap before it is called stale."""


def stale(client: ClientDoc, line: LineDoc, place: PlaceDoc, swap: SwapDoc, lens_id: str = "same_shape") -> float | None:
    """The match of a taken swap with the place's figures of today, where it moved by more than ``STALE`` points."""
    try:
        now = reassessed(line.line(), place.place(), client.body(), lens(lens_id), swap.set_up.set_up())
    except DomainError:
        now = 0.0
    return round(now, 1) if abs(now - swap.match) > STALE else None


def movement_example(client: ClientDoc, name: str, way: int, kit: str) -> ExampleDoc:
    """A movement of the library on generic kit for a client.

    Raises:
        DomainError: With the field, where there is no such movement, way or kit, or this client cannot do it.
    """
    return _example(client.model_dump_json(), name, way, kit)


@lru_cache(maxsize=256)
def _example(client: str, name: str, way: int, kit: str) -> ExampleDoc:
    doc = ClientDoc.model_validate_json(client)
    kind = movement(name)
    variants = variants_of(kind)
    if not 0 <= way < len(variants):
        raise DomainError("way", way, f"{kind.name} has the ways 0 to {len(variants) - 1}", "Pick one of these")
    body = under("client", doc.body)
    return ExampleDoc.of(doc.name, variants[way], example(body, kind, variants[way], kit))


def match_program(client: ClientDoc, program: ProgramDoc, place: PlaceDoc, lens_id: str) -> SwapsDoc:
    """Map every line of a program to a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``program``, ``place`` or ``lens``.
    """
    under("program", lambda: check_program(program))
    matches = []
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                matches.append(match_line(client, line, place, lens_id, curves=False))
            except DomainError as error:
                inside = error.field.removeprefix("line.")
                if inside == error.field:
                    raise
                raise DomainError(f"program.sessions.{s}.lines.{i}.{inside}", error.value, error.limit, error.way_out) from None
    return SwapsDoc(client=client.name, program=program.name, place=place.name, lines=matches)


def under(prefix: str, work: Callable[[], T]) -> T:
    """Run ``work``; a domain error is seen from under ``prefix``."""
    try:
        return work()
    except DomainError as error:
        raise error.at(prefix) from None
