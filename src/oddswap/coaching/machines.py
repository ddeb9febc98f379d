"""Machines as many gyms have them: what a line means that names a machine and says no more of it."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from oddswap.equipment.machine import Machine, is_way
from oddswap.mechanics.movement import Movement, Variant

LEAST_REST_DEG = 45.0
"""Back rests flatter than this are benches, not a machine's seat."""
INCLINE = (60.0, 45.0)
"""Back rest, and the way from straight ahead of the trunk to overhead, of an incline press machine, degrees."""


@cache
def _table() -> dict[str, dict[str, Any]]:
    return tomllib.loads((files("oddswap.coaching") / "data" / "machines.toml").read_text("utf-8"))


@cache
def _radii() -> dict[str, Any]:
    return tomllib.loads((files("oddswap.coaching") / "data" / "joint_machines.toml").read_text("utf-8"))


def usual_radius(movement_id: str) -> float:
    """Cam radius of a movement's machine that nobody measured, cm."""
    return float(_radii()["radius_cm"].get(movement_id, _radii()["other_cm"]))


def usual_machine(kind: Movement, variant: Variant, masses: tuple[float, ...]) -> Machine | None:
    """The machine on which a movement is done in some way; None where no such machine is usual.

    Args:
        kind: The movement.
        variant: The way.
        masses: Its pins, kg.
    """
    if kind.id not in _table():
        return None
    aims = [variant.values[p.id] for p in kind.parameters if p.on_machine == "aim"]
    if aims and variant.recline_deg < LEAST_REST_DEG:
        return None
    machine = _machine(kind, masses, *((variant.recline_deg, aims[0]) if aims else ()))
    return machine if any(is_way(way, variant) for way in machine.ways) else None


def machine_ways(kind: Movement, values: Mapping[str, float], incline: bool) -> tuple[Variant, ...]:
    """How a movement is done on the usual machine for it, the most usual way first; empty where there is none.

    Args:
        kind: The movement.
        values: Choices of the movement that a line makes.
        incline: Whether it asks for an inclined back rest.
    """
    if kind.id not in _table():
        return ()
    aims = [values.get(p.id, p.default) for p in kind.parameters if p.on_machine == "aim"]
    if not aims:
        return _machine(kind, (10.0,)).ways
    own = INCLINE if incline else (_table()[kind.id]["recline_deg"], aims[0])
    return _machine(kind, (10.0,), *own).ways


def _machine(kind: Movement, masses: tuple[float, ...], recline_deg: float | None = None, angle_deg: float = 0.0) -> Machine:
    own = dict(_table()[kind.id])
    if recline_deg is not None:
        own["recline_deg"] = recline_deg
    return Machine("machine", "machine", kind.id, list(masses), angle_deg=angle_deg, **own)
