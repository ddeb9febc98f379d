"""Movements: paths of the body from the target's lengthened end to its shortened end.

Every module of this package defines one ``MOVEMENT``; adding a file adds the movement everywhere. See
``docs/adding.md``.
"""

from __future__ import annotations

from functools import cache
from importlib import import_module
from pkgutil import iter_modules

from oddswap.errors import DomainError
from oddswap.mechanics.movement import Movement, Parameter, Variant

__all__ = ["FAMILIES", "Movement", "Parameter", "Variant", "movement", "movements"]


FAMILIES = ("chest", "back", "shoulders", "arms", "legs", "trunk")
"""Chapters of the library, in order."""


@cache
def movements() -> dict[str, Movement]:
    """All movements by id."""
    modules = [m.name for m in iter_modules(__path__) if m.name != "authoring"]
    found: list[Movement] = [import_module(f"{__name__}.{name}").MOVEMENT for name in modules]
    return {m.id: m for m in found}


def movement(name: str) -> Movement:
    """The movement with this id.

    Raises:
        DomainError: If there is none.
    """
    if name not in movements():
        known = ", ".join(movements())
        raise DomainError("movement", name, f"the known movements are {known}", "Pick one of these")
    return movements()[name]
