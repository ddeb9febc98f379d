"""Masses and lengths in words, in the units of who reads them. Everything is computed and stored in kilograms and centimetres.

The units in force are a context variable, as a language would be: whoever answers a person sets them once, and what is
worded inside follows, whichever package words it.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Literal

MassUnit = Literal["kg", "lb"]
LengthUnit = Literal["cm", "in"]
SIZES = {"kg": 1.0, "lb": 0.45359237, "cm": 1.0, "in": 2.54}
"""Every unit in kg or cm (international yard and pound agreement, 1959, exact)."""
OTHERS: dict[str, tuple[str, ...]] = {"kg": ("kg", "lb"), "cm": ("cm", "in")}
"""What may stand for each of the two that is reckoned in."""
STEPS = {"kg": 0.0, "lb": 0.1, "cm": 0.0, "in": 0.1}
"""What is rounded to when shown; 0 for as it is given."""


@dataclass(frozen=True)
class Units:
    """Units that somebody reads in."""

    mass: MassUnit = "kg"
    length: LengthUnit = "cm"


METRIC = Units()
_shown: ContextVar[Units] = ContextVar("shown", default=METRIC)


@contextmanager
def shown_in(units: Units) -> Iterator[None]:
    """Word quantities in these units inside."""
    token = _shown.set(units)
    try:
        yield
    finally:
        _shown.reset(token)


def units_shown() -> Units:
    """The units in force."""
    return _shown.get()


def unit_shown(unit: str) -> str:
    """The unit in force for ``kg`` or ``cm``; any other stays."""
    now = units_shown()
    return {"kg": now.mass, "cm": now.length}.get(unit, unit)


def value_shown(value: float, unit: str) -> float:
    """A value of ``kg`` or ``cm`` in the unit in force, rounded as that is read; of any other unit as it is."""
    there = unit_shown(unit)
    return value if there == unit else converted(value, unit, there)


def exactly_shown(value: float, unit: str) -> float:
    """A value of ``kg`` or ``cm`` in the unit in force, not rounded, for what is worked on; of any other unit as it is."""
    there = unit_shown(unit)
    return value if there == unit else value * SIZES[unit] / SIZES[there]


def converted(value: float, unit: str, there: str) -> float:
    """A value in another unit of its kind, rounded as that is read."""
    step, out = STEPS[there], value * SIZES[unit] / SIZES[there]
    return round(round(out / step) * step, 6) if step else out


def value_meant(value: float, unit: str) -> float:
    """What was typed in the unit in force, in ``kg`` or ``cm``; of any other unit as it is."""
    there = unit_shown(unit)
    return value if there == unit else round(value * SIZES[there] / SIZES[unit], 6)


def pounds(mass_lb: float) -> float:
    """A mass in kg."""
    return mass_lb * SIZES["lb"]


def kg(mass_kg: float, digits: int = 6) -> str:
    """A mass with its unit, for people."""
    unit = units_shown().mass
    return f"{mass_kg:.{digits}g} kg" if unit == "kg" else f"{converted(mass_kg, 'kg', unit):g} {unit}"


def plain(mass_kg: float) -> str:
    """A mass without its unit, where that stands beside."""
    return kg(mass_kg).split()[0]


def cm(length_cm: float, decimals: int = 0) -> str:
    """A length with its unit, for people: whole centimetres as a rule, tenths of inches."""
    unit = units_shown().length
    return f"{length_cm:.{decimals}f} cm" if unit == "cm" else f"{converted(length_cm, 'cm', unit):g} {unit}"
