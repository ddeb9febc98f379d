"""Routes for clients, places, kit, files and the measuring bench."""

from __future__ import annotations

import re
from typing import Any, Literal, get_args, get_origin, get_type_hints

from fastapi import APIRouter

from oddswap.api.requests import Asked, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.documents import codecs
from oddswap.documents.floor import FloorDoc
from oddswap.documents.kit import AnyItem
from oddswap.documents.place import PlaceDoc
from oddswap.documents.place_sheet import item_of_cells
from oddswap.equipment import kit_classes
from oddswap.quantities import shown_in, unit_shown
from oddswap.store import records

router = APIRouter(prefix="/api", route_class=StoreRoute)


class FieldView(View):
    """A field of a kind of kit, as a cell."""

    name: str
    label: str
    needed: bool
    usual: str
    """What stands for an empty cell."""
    choices: list[str]
    """Words to pick from; empty for free cells."""
    list: bool
    """Whether several values stand in it, with spaces between."""


class KindView(View):
    """A kind of kit and its fields."""

    kind: str
    name: str
    about: str
    fields: list[FieldView]


class ItemCells(Asked):
    """A kit item as cells."""

    model_config = shown({"cells": {"kind": "dumbbells", "id": "dumbbells", "name": "dumbbells", "masses_kg": "4 6 8 10"}})

    cells: dict[str, str]


class ItemView(View):
    """A kit item and its cells."""

    item: AnyItem
    cells: dict[str, str]


@router.get("/kit-kinds", tags=["library"])
def kit_kinds() -> list[KindView]:
    """Every kind of kit with its fields."""
    with shown_in(records.settings().units):
        return [_kind_view(kind, made) for kind, made in kit_classes().items()]


def _kind_view(kind: str, made: Any) -> KindView:
    fields = []
    hints = get_type_hints(made)
    for f in codecs.named_fields(made):
        hint = hints[f.name]
        words = [str(c) for c in get_args(hint)] if get_origin(hint) is Literal else []
        if hint is bool:
            words = ["yes", "no"]
        usual = "" if f.needed else codecs.columns_of(made)[f.name].write(f.usual) if f.usual not in (None, []) else ""
        listed = get_origin(hint) is list
        label = re.sub(r"\b(kg|cm)\b", lambda m: unit_shown(m[1]), f.label)
        fields.append(FieldView(name=f.name, label=label, needed=f.needed, usual=usual, choices=words, list=listed))
    about = (made.__doc__ or "").strip().split("\n")[0]
    return KindView(kind=kind, name=kind.replace("_", " "), about=about, fields=fields)


@router.post("/kit-items", tags=["documents"])
def kit_item(document: ItemCells) -> ItemView:
    """A kit item from its cells; every cell that cannot be is named."""
    with shown_in(records.settings().units):
        made = item_of_cells(document.cells)
        return ItemView(item=made, cells=codecs.cells_of(made) | {"kind": made.kind})


@router.post("/floor-plan", tags=["documents"])
def floor_plan(document: PlaceDoc) -> FloorDoc:
    """What stands where in a place: as it was put, or along the walls."""
    document.place()
    return FloorDoc.of(document)


@router.post("/kit-cells", tags=["documents"])
def kit_cells(document: PlaceDoc) -> list[dict[str, str]]:
    """The cells of every kit item of a place, in order."""
    with shown_in(records.settings().units):
        return [codecs.cells_of(item) | {"kind": item.kind} for item in document.kit]
