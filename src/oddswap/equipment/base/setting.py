"""A setting: one placement and amount of a load source as a document, and batches of them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal

import numpy as np

from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class SettingRow:
    """One line of set-up words: what, its value, and the setting's field that it comes from."""

    what: str
    value: str
    field: str


@dataclass(frozen=True)
class AdjustableParameter:
    """A choice of a setting that can be made otherwise.

    Args:
        id: Name, for ``moved``.
        name: Name for people.
        unit: Unit of the value, empty for a count.
        value: What it is now.
        low: Least value.
        high: Greatest value.
        step: Step worth taking.
        slip: How far off people set it without noticing; own estimate.
        choices: The values that exist, where not all do.
    """

    id: str
    name: str
    unit: str
    value: float
    low: float
    high: float
    step: float
    slip: float
    choices: tuple[float, ...] = ()

    def values(self) -> Floats:
        """All values worth looking at, ascending, with the present one among them."""
        steps = np.array(self.choices) if self.choices else np.arange(self.low, self.high + self.step / 2, self.step)
        return np.unique(np.round(np.append(steps, self.value), 3))


class Setting:
    """One source of a set-up as a document; what most kinds answer alike stands here.

    A setting is a frozen dataclass whose fields are the document's, with ``kind`` its class's name in documents.
    """

    kind: str
    item_field: ClassVar[str] = ""
    """Field that holds the kit item; empty where any item of the kind will do."""
    line: ClassVar[bool] = False
    """Whether it pulls along a line."""
    moves_with_pose: ClassVar[bool] = False
    """Whether its law hangs on the joint that the movement turns about: then ``law_on`` is asked, and not ``law``."""

    @property
    def source_kind(self) -> str:
        """Kind of load source."""
        return self.kind

    def law(self) -> Law:
        """The mechanics of this setting, one placement (no leading axes)."""
        raise NotImplementedError

    def law_on(self, hinge: Floats, axis: Floats, line: Floats, shared: bool = True) -> Law:
        """The law on a movement about a joint.

        Args:
            hinge: The joint, m, (pose, xyz).
            axis: Its axis, (xyz,).
            line: Where handles that run straight would go, unit, (xyz,).
            shared: Whether two limbs bear a load on both sides; hips or back bear it whole.
        """
        return self.law()

    @property
    def amount(self) -> float:
        """How much of it, in the unit of ``amount_words``."""
        raise NotImplementedError

    def with_amount(self, amount: float) -> Any:
        """The setting with another amount."""
        raise NotImplementedError

    @property
    def both_sides(self) -> bool:
        """Whether both sides of the body are loaded at once."""
        raise NotImplementedError

    @property
    def attachment(self) -> Attachment:
        """Where on the body it bears."""
        return USUAL

    @property
    def lead(self) -> Lead | None:
        """What it makes of the forearm's direction in a pull or press; None where a guide of its own leads the hand."""
        return None

    @property
    def guides_hand(self) -> bool:
        """Whether its handles run straight, the way the movement goes, so that the forearm lies in that line."""
        return False

    @property
    def amount_unit(self) -> str:
        """Unit of the amount where it is a quantity, empty where it is a choice."""
        return "kg"

    def amount_words(self, amount: float) -> str:
        """The amount with its unit, for people."""
        raise NotImplementedError

    def rows(self) -> list[SettingRow]:
        """How to set it up, in words."""
        raise NotImplementedError

    def short(self) -> str:
        """Which kit and how, in a few words."""
        raise NotImplementedError

    def cautions(self) -> list[str]:
        """Usual cautions of this kit."""
        return []

    def prop(self) -> dict[str, Any]:
        """What to draw: ``kind`` and the figures the drawing needs, metres."""
        raise NotImplementedError

    def verify(self) -> None:
        """Raise ``DomainError`` where fields contradict each other or the kit."""

    @property
    def item(self) -> Any:
        """The kit item that it holds; None where any of its kind will do."""
        return getattr(self, self.item_field) if self.item_field else None

    def with_item(self, item: Any) -> Any:
        """The setting with another item in place of its own, as nearly alike as that allows; None where it cannot be."""
        made: Any = replace(self, **{self.item_field: item}) if self.item_field else None  # type: ignore[type-var]
        return made

    def is_from(self, item: Any) -> bool:
        """Whether its load comes from an item of kit."""
        return bool(self.item_field and self.item == item)

    def can_be_held(self, kit: Sequence[Any], contact: Contact) -> bool:
        """Whether a place has the attachment that a hand holds it by, or that fixes it to a leg."""
        return True

    def can_be_hung(self, kit: Sequence[Any]) -> bool:
        """Whether a place has what it hangs from, as high as that is."""
        return True

    @property
    def use_label(self) -> str:
        """How its item is used, where one has several ways; empty where not."""
        return ""

    @property
    def grip(self) -> Literal["handle", "bar", "rope"]:
        """What the hands hold: a handle or dumbbell each, or one bar or rope together."""
        return "handle"

    @property
    def on_an_arc(self) -> bool:
        """Whether hands hold the end of what turns about a pivot, which must stand where their own way meets that arc."""
        return False

    @property
    def carries_across(self) -> bool:
        """Whether what hands press across its way is carried: by the other hand on one bar, or by a machine's handles."""
        return self.grip == "bar"

    @property
    def known(self) -> bool:
        """Whether what it pulls with at a pin follows from figures that hold, printed or measured."""
        return True

    @property
    def fills_hand(self) -> bool:
        """Whether each hand holds something as bulky as a dumbbell."""
        return False

    @property
    def between_hands(self) -> bool:
        """Whether both hands hold one thing close together, which turns with neither."""
        return False

    @property
    def steadies(self) -> bool:
        """Whether it bears the body from below wherever balance needs it, as a platform does that shanks rest on."""
        return False

    @property
    def shares_bar(self) -> bool:
        """Whether two hands share one free bar, so that each bears half of the amount."""
        return False

    @property
    def mirrors_line(self) -> bool:
        """Whether the left side has a line of pull of its own, the mirror image of the right one's."""
        return False

    def on_one_side(self) -> Any:
        """The setting on one side alone, where it can be split."""
        return self

    @property
    def splits(self) -> bool:
        """Whether it loads both sides but can load one alone."""
        return False

    @property
    def pulls_level(self) -> bool:
        """Whether it pulls from ahead or behind, so that standing feet are staggered."""
        return False

    @property
    def place_field(self) -> str:
        """Field that says how far off its line leads, and its value's place in faults; empty where there is no line."""
        return ""

    def adjustable_parameters(self, kit: Sequence[Any]) -> list[AdjustableParameter]:
        """What can be chosen otherwise with the kit of a place; nothing as a rule."""
        return []

    def with_parameter(self, name: str, value: float) -> Any:
        """The setting with one of its adjustable parameters chosen otherwise."""
        return self

    def with_far_end_near(self, point: Floats, kit: Sequence[Any]) -> Any:
        """The setting with the far end of its line as near to a point, m, (xyz,), as the kit of a place allows."""
        return self

    def nearby(self, part: float) -> Placements | None:
        """A step either way of each of the setting's choices, one at a time; None where there is nothing to place.

        Args:
            part: Size of the steps, parts of those of the first pass's grid.
        """
        return None


@dataclass(frozen=True)
class Placements:
    """A batch of placements of one kit item.

    Args:
        law: The law with leading placement axis.
        count: Number of placements.
        setting: Makes the document of placement i at an amount.
    """

    law: Law
    count: int
    setting: Callable[[int, float], Setting]

    @staticmethod
    def concatenate(batches: Sequence[Placements]) -> Placements:
        """One after the other; of one item in one use, so that their laws differ in nothing but where it is placed."""
        if len(batches) == 1:
            return batches[0]
        ends = np.cumsum([b.count for b in batches])

        def setting(i: int, amount: float) -> Setting:
            k = int(np.searchsorted(ends, i, side="right"))
            return batches[k].setting(i - int(ends[k]) + batches[k].count, amount)

        return Placements(Law.concatenate([b.law for b in batches]), int(ends[-1]), setting)
