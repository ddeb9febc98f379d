"""Routes to write a line in a simple form, and to begin with or without demo data."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import Field

from oddswap.api.requests import Asked, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.writing import line_words, with_load, write_line
from oddswap.documents.library import ExampleDoc
from oddswap.documents.program import LINE, LineDoc
from oddswap.quantities import METRIC, shown_in
from oddswap.store import demo, records

router = APIRouter(prefix="/api", route_class=StoreRoute)


class LineForm(Asked):
    """A line as it is written in a simple form."""

    model_config = shown({"client": 1, "movement": "curl", "kit": "dumbbells", "amount": 12})

    client: RecordNumber
    movement: str
    variant: int = 0
    """Place in the movement's list of variants."""
    kit: str = ""
    """Generic kit; empty for the first that loads it."""
    amount: float | None = Field(default=None, gt=0, le=1000)
    """Load in the kit's unit, as the client reads it; none for a usual one."""
    target: str = ""
    """Muscle group it is for; empty for the one that works most."""
    name: str = Field(default="", max_length=80)
    """What the coach calls it; empty for the movement's title."""
    sets: int = Field(default=3, ge=1, le=12)
    reps_low: int = Field(default=8, ge=1, le=60)
    reps_high: int = Field(default=10, ge=1, le=60)
    rir: int = Field(default=1, ge=0, le=6)


class LineFormView(View):
    """The line, and what it asks of the client."""

    line: LineDoc
    amount: float
    unit: str
    load: str
    example: ExampleDoc


class LineLoad(Asked):
    """A line, and the load it shall have."""

    model_config = shown({"line": LINE, "amount": 14})

    line: LineDoc
    amount: float = Field(gt=0, le=1000)
    """Of its first source, in the unit that the client reads."""
    client: RecordNumber | None = None
    """Whose line it is; none for kilograms."""


class LineWordsView(View):
    """A line in words."""

    title: str
    target: str
    load: str
    amount: float
    unit: str
    scheme: str
    """Sets and repetitions."""


class LoadedLine(View):
    """A line at its new load, in words too."""

    line: LineDoc
    words: LineWordsView


class DemoView(View):
    """Whether the demo's made-up records are here."""

    there: bool


@router.post("/line-forms", tags=["records"])
def read_line_form(form: LineForm) -> LineFormView:
    """A line from a simple form, with figure and curves; nothing is stored."""
    client = records.client(form.client).document
    reps = (form.reps_low, form.reps_high)
    made = write_line(
        client, form.movement, form.variant, form.kit, form.amount, form.target, form.name, form.sets, reps, form.rir
    )
    return LineFormView(**vars(made))


@router.post("/line-loads", tags=["records"])
def set_line_load(document: LineLoad) -> LoadedLine:
    """A line at another load; nothing is stored."""
    units = records.client(document.client).document.units if document.client else METRIC
    with shown_in(units):
        made = with_load(document.line, document.amount)
        return LoadedLine(line=made, words=LineWordsView(**vars(line_words(made))))


@router.get("/demo", tags=["records"])
def read_demo() -> DemoView:
    """Whether the demo's made-up clients and places are here."""
    return DemoView(there=bool(demo.demo_records()))


@router.post("/demo", tags=["records"])
def add_demo() -> DemoView:
    """Add the demo's made-up clients and places."""
    demo.add_demo()
    return DemoView(there=True)


@router.delete("/demo", tags=["records"])
def remove_demo() -> DemoView:
    """Delete the demo's made-up clients and places, with all that hangs on them."""
    demo.remove_demo()
    return DemoView(there=False)
