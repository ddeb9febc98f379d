"""Load sources: what kit does to the hand.

Every module of this package except ``base`` defines one kind of kit and names its classes in ``SETTING`` and ``KIT``
(either may be None); adding a file adds the kind everywhere. See ``docs/adding.md``.
"""

from __future__ import annotations

from functools import cache
from importlib import import_module
from pkgutil import iter_modules

from oddswap.equipment.base.item import KitItem, Room, Scene
from oddswap.equipment.base.law import Law
from oddswap.equipment.base.setting import Placements, Setting, SettingRow
from oddswap.mechanics.limits import Limit

__all__ = [
    "KitItem",
    "Law",
    "Limit",
    "Placements",
    "Room",
    "Scene",
    "Setting",
    "SettingRow",
    "kit_classes",
    "setting_classes",
]


@cache
def _classes(which: str) -> dict[str, type]:
    modules = [
        import_module(f"{__name__}.{m.name}") for m in iter_modules(__path__) if m.name not in ("protocols", "positions")
    ]
    found = [getattr(m, which, None) for m in modules]
    return {c.kind: c for c in found if c is not None}


def setting_classes() -> dict[str, type]:
    """Setting documents by kind."""
    return _classes("SETTING")


def kit_classes() -> dict[str, type]:
    """Kit items by kind, those that load a movement and those that carry the body or a band."""
    return _classes("KIT")
