"""What a calculator is: inputs, an answer, a drawing, a formula and a worked example."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.errors import DomainError

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
        """The answer for some values; defaults fill what is missing.

        Raises:
            DomainError: With the input that cannot be.
        """
        known = {i.id: i for i in self.inputs}
        for name in given:
            if name not in known:
                raise DomainError(f"values.{name}", given[name], f"the inputs are {', '.join(known)}", "Use one of these names")
        values: dict[str, float | str] = {}
        for name, one in known.items():
            value = given.get(name, one.text or one.default)
            if one.text:
                values[name] = str(value)
                continue
            if not isinstance(value, int | float) or not np.isfinite(value) or not one.low <= value <= one.high:
                limit = f"{one.name} is a number from {one.low:g} to {one.high:g} {one.unit}".strip()
                raise DomainError(f"values.{name}", value, limit, "Pick a value in this range")
            values[name] = float(value)
        try:
            return self.work(values)
        except DomainError as error:
            raise error.at("values") from None


def number(values: Values, name: str) -> float:
    """Value of a numeric input, in the unit of that input."""
    return float(values[name])


def numbers(text: str, name: str) -> list[float]:
    """Masses in kg, in the order typed. Raises DomainError, naming the input, for text that is no such list."""
    parts = [p for p in re.split(r"[\s;]+|,\s+", text.strip()) if p]
    try:
        out = [float(p.replace(",", ".")) for p in parts]
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
        out.append((float(found[2].replace(",", ".")), min(int(found[1]), 40)))
    return out
