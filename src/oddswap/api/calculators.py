"""Routes of the calculators."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from oddswap.api.routing import StoreRoute
from oddswap.coaching.calculators import CALCULATORS
from oddswap.coaching.calculators.base import Calculator
from oddswap.errors import DomainError
from oddswap.quantities import shown_in, value_shown
from oddswap.store import records

router = APIRouter(prefix="/api/calculators", route_class=StoreRoute, tags=["calculators"])


class View(BaseModel):
    """Common rules."""

    model_config = ConfigDict(use_attribute_docstrings=True, from_attributes=True)


class InputView(View):
    """What a sum asks for."""

    id: str
    name: str
    unit: str
    default: float
    low: float
    high: float
    step: float
    text: str
    """Default of a text; empty for a number."""


class CalculatorView(View):
    """A small calculator."""

    id: str
    name: str
    question: str
    inputs: list[InputView]
    formula: str
    source: str
    example: dict[str, float | str]
    worked: str
    """The example worked by hand."""


class StrokeView(View):
    """A stroke of a drawing, x to the right, y up."""

    kind: str
    start: tuple[float, float]
    end: tuple[float, float]
    label: str


class CurveView(View):
    """A curve with axis titles, and where on it the answer stands."""

    points: list[tuple[float, float]]
    x: str
    y: str
    at: tuple[float, float]


class AnswerView(View):
    """What a sum comes to."""

    rows: list[tuple[str, str]]
    says: str
    strokes: list[StrokeView]
    curve: CurveView | None
    caution: str


class SumRequest(BaseModel):
    """Values of a sum's inputs; defaults fill what is missing."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [{"values": {"load_kg": 20}}]})

    values: dict[str, float | str] = {}


@router.get("")
def read_sums() -> list[CalculatorView]:
    """All small calculators with their formulas and worked examples."""
    with shown_in(records.settings().units):
        return [_view(one) for one in CALCULATORS.values()]


def _view(one: Calculator) -> CalculatorView:
    """In the units in force."""
    example = {
        i.id: value if isinstance(value, str) else value_shown(value, i.plain_unit)
        for i in one.inputs
        if (value := one.example.get(i.id)) is not None
    }
    inputs = [InputView.model_validate(i.shown()) for i in one.inputs]
    return CalculatorView(**{**vars(one), "inputs": inputs, "example": example})


@router.post("/{name}")
def answer(name: str, request: SumRequest) -> AnswerView:
    """What a sum comes to."""
    with shown_in(records.settings().units):
        return AnswerView.model_validate(_sum(name).answer(request.values))


def _sum(name: str) -> Calculator:
    if name not in CALCULATORS:
        raise DomainError("name", name, f"the calculators are {', '.join(CALCULATORS)}", "Pick one of these")
    return CALCULATORS[name]
