"""What a calculator is: inputs, an answer, a drawing, a formula and a worked example."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from oddswap.errors import DomainError
from oddswap.quantities import OTHERS, exactly_shown, unit_shown, value_meant, value_shown

Values = Mapping[str, float | str]


@dataclass(frozen=True)
class Input:
    """What a calculator asks for; a text where ``text`` is set, a number else."""

    id: str
    name: str
    unit: str = ""
    default: float = 0.0
    low: float = 0.0
    high: float = 0.0
    step: float = 1.0
    text: str = ""

    @property
    def plain_unit(self) -> str:
        """``kg`` or ``cm`` where it is one of these, also of every one of many; else empty."""
        return self.unit.split()[-1] if self.unit.split()[-1:] and self.unit.split()[-1] in OTHERS else ""

    def shown(self) -> Input:
        """In the units in force."""
        unit = self.plain_unit
        if not unit or unit_shown(unit) == unit:
            return self
        low, high, default = (value_shown(v, unit) for v in (self.low, self.high, self.default))
        return replace(self, unit=self.unit.replace(unit, unit_shown(unit)), low=low, high=high, default=default)


@dataclass(frozen=True)
class Stroke:
    """A stroke of a drawing, any unit: ``limb``, ``kit``, ``pull`` (an arrow), ``lever`` (dashed), ``plate``, or a ``mark``."""

    kind: str
    start: tuple[float, float]
    end: tuple[float, float]
    label: str = ""


@dataclass(frozen=True)
class Curve:
    """A curve beside a drawing: points (x, y), axis titles with units, and where on it the answer stands."""

    points: Sequence[tuple[float, float]]
    x: str
    y: str
    at: tuple[float, float]

    def shown(self) -> Curve:
        """In the units in force, which the titles name after a comma."""
        units = [next((u for u in OTHERS if f", {u}" in title), "") for title in (self.x, self.y)]
        x, y = (t.replace(f", {u}", f", {unit_shown(u)}") if u else t for t, u in zip((self.x, self.y), units, strict=True))
        by = [exactly_shown(1.0, u) for u in units]
        return Curve([(a * by[0], b * by[1]) for a, b in self.points], x, y, (self.at[0] * by[0], self.at[1] * by[1]))


@dataclass(frozen=True)
class Answer:
    """What a calculator comes to.

    Args:
        rows: What, and its value with unit.
        says: The same in one sentence.
        strokes: The drawing, x to the right, y up.
        curve: A curve, if there is one.
        caution: What to mind; empty for nothing.
    """

    rows: Sequence[tuple[str, str]]
    says: str
    strokes: Sequence[Stroke] = ()
    curve: Curve | None = None
    caution: str = ""

    def shown(self) -> Answer:
        """With the curve's axes in the units in force."""
        return self if self.curve is None else replace(self, curve=self.curve.shown())


@dataclass(frozen=True)
class Calculator:
    """One small calculator.

    Args:
        id: Name in addresses.
        name: Name for people.
        question: What it answers.
        inputs: What it asks for.
        formula: The formula in words and signs.
        source: Where it comes from.
        example: Values of a worked example.
        worked: The example worked by hand.
        work: Values to answer.
    """

    id: str
    name: str
    question: str
    inputs: Sequence[Input]
    formula: str
    source: str
    example: dict[str, float | str]
    worked: str
    work: Callable[[Values], Answer]

    def answer(self, given: Values) -> Answer:
        """The answer for some values, both in the units in force; defaults fill what is missing.

        Raises:
            DomainError: With the input that cannot be.
        """
        known = {i.id: i for i in self.inputs}
        for name in given:
            if name not in known:
                raise DomainError(f"values.{name}", given[name], f"the inputs are {', '.join(known)}", "Use one of these names")
        values: dict[str, float | str] = {}
        for name, one in known.items():
            value = given.get(name, one.text or one.shown().default)
            if one.text:
                values[name] = str(value)
                continue
            shown = one.shown()
            if not isinstance(value, int | float) or not np.isfinite(value) or not shown.low <= value <= shown.high:
                limit = f"{one.name} is a number from {shown.low:g} to {shown.high:g} {shown.unit}".strip()
                raise DomainError(f"values.{name}", value, limit, "Pick a value in this range")
            values[name] = value_meant(float(value), one.plain_unit)
        try:
            return self.work(values).shown()
        except DomainError as error:
            raise error.at("values") from None


def number(values: Values, name: str) -> float:
    """Value of a numeric input, in the unit of that input."""
    return float(values[name])


def numbers(text: str, name: str) -> list[float]:
    """Masses in kg, in the order typed. Raises DomainError, naming the input, for text that is no such list."""
    parts = [p for p in re.split(r"[\s;]+|,\s+", text.strip()) if p]
    try:
        out = [value_meant(float(p.replace(",", ".")), "kg") for p in parts]
    except ValueError:
        raise DomainError(name, text, "masses in kg with spaces between, as in 10 12.5 15", "Mend the list") from None
    if not out or min(out) <= 0 or len(out) > 200:
        raise DomainError(name, text, "one to 200 masses over 0 kg", "Mend the list")
    return out


def counted(text: str) -> list[tuple[float, int]]:
    """(mass in kg, count) of plates typed as 4x20 2x10. Raises DomainError for anything else."""
    out = []
    for part in text.split():
        found = re.fullmatch(r"(\d+)[x×](\d+(?:[.,]\d+)?)", part)
        if not found:
            raise DomainError("plates", part, "counts and masses as in 4x20 2x10 2x2.5", "Mend this entry")
        out.append((value_meant(float(found[2].replace(",", ".")), "kg"), min(int(found[1]), 40)))
    return out
