"""Kit items and settings as documents: the core's own dataclasses, read here under strict rules."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field

from oddswap.equipment import kit_classes, setting_classes
from oddswap.equipment.base.item import KitItem
from oddswap.equipment.base.setting import Setting

if TYPE_CHECKING:
    AnySetting = Setting
    AnyItem = KitItem
else:
    # Built from what the core offers, so that a new kind of kit appears in every document at once.
    AnySetting = Annotated[Union[tuple(setting_classes().values())], Field(discriminator="kind")]  # noqa: UP007
    AnyItem = Annotated[Union[tuple(kit_classes().values())], Field(discriminator="kind")]  # noqa: UP007
