"""What a load source is: a law that gives the force on the hand, a setting that fixes it, and the kit it comes from.

Three small protocols; every module of this package defines one of each, so that a kind of kit lives in one file:

* *law*: NumPy in, NumPy out, SI units, any number of placements at once;
* *setting*: one placement and amount as a document (units stand in the names), which makes the law;
* *kit item*: what a place has, which proposes placements and lists the amounts that exist.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, Literal, Protocol

import numpy as np
from annotated_types import Ge, Le, MaxLen, MinLen, Predicate

from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.types import Bools, Floats

BAR_GIVES, BAR_HANDS = 0.30, 0.56
"""How far hands that go free may come together where a bar would hold them apart, and how far from the middle they may be for
one, m (own estimates): presses and pulldowns serve for a bar, flies and raises do not."""
EDGE: dict[str, Any] = {"extra": "forbid", "allow_inf_nan": False}
"""How documents of these classes are read at the edge; a plain mapping, so that the core needs no validation library."""


class Strictly:
    """Marks a number that must come as a number: no booleans, no text."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], Any]) -> Any:
        """Called by the validation library at the edge, if there is one."""
        return handler(source) | {"strict": True}


Real = Annotated[float, Strictly()]
Whole = Annotated[int, Strictly()]

Day = Annotated[str, MaxLen(10)]
"""A date as year-month-day, or empty."""
Name = Annotated[str, MinLen(1), MaxLen(80), Predicate(str.strip)]


@dataclass(frozen=True)
class Attachment:
    """Where on the body a load bears, when it is not the movement's usual place, and how far off the middle."""

    at: Contact | Literal["usual"] = field(
        default="usual", metadata={"description": "Part of the body; usual: where the movement is loaded as a rule"}
    )
    along: Annotated[Real, Ge(0), Le(1)] = field(
        default=1.0, metadata={"description": "Part of the way down the segment from its upper joint, for straps and cuffs"}
    )
    across_cm: Annotated[Real, Ge(-25), Le(25)] = field(
        default=0.0, metadata={"description": "Off the hand's middle, thumb side positive, cm"}
    )
    __pydantic_config__ = EDGE

    def words(self) -> str:
        """Where it bears, for people; empty for the usual place."""
        where = {
            "forearm": f"strap on the forearm, {self.along:.0%} of the way from elbow to wrist",
            "upper_arm": "strap above the elbow",
            "shank": "cuff above the ankle",
            "thigh": "above the knee",
            "foot": "on the foot",
            "back": "across the back",
            "hips": "at the hips",
            "hand": "in the hand",
        }.get(self.at, "")
        if self.across_cm:
            side = "thumb" if self.across_cm > 0 else "little-finger"
            where = f"{where}, " if where else ""
            where += f"{abs(self.across_cm):.0f} cm off the middle, {side} side"
        return where


USUAL = Attachment()


@dataclass(frozen=True)
class Check:
    """A hard limit at each placement: not kept where ``margin`` (placement...) is negative.

    Args:
        field: The setting's field it hangs on.
        margin: What is to spare, m, (placement...).
        limit: What is allowed, in words with units.
        way_out: What to do about it.
    """

    field: str
    margin: Floats
    limit: str
    way_out: str

    @property
    def kept(self) -> Bools:
        """Where the limit holds; a micrometre of rounding is forgiven."""
        return np.asarray(self.margin >= -1e-6)


class Law(Protocol):
    """Force on the contact, mostly a hand, for a unit of the source's amount.

    A law whose force has a part that does not grow with the amount adds a method ``constant(grip)`` for it. One that moves
    mass adds ``inertia(grip, velocity, acceleration)``: force per unit amount, N, that moving it adds, (pose, xyz).
    """

    def force(self, grip: Floats) -> Floats:
        """Force, N per unit amount, (placement..., pose, xyz), on a contact at ``grip`` (pose, xyz), m."""

    def checks(self, grip: Floats) -> list[Check]:
        """The hard limits at this path of the hand."""

    @property
    def far_end(self) -> Floats | None:
        """Where the line of pull leads, m, (placement..., xyz); None for weight."""


class NoLine:
    """Part of a law without a line of pull: weight and machines, which bring no limits of their own."""

    def checks(self, grip: Floats) -> list[Check]:
        """None beyond the kit's own."""
        return []

    @property
    def far_end(self) -> None:
        """No line of pull but the plumb line."""
        return


class InKilograms:
    """Part of a setting whose amount is a mass."""

    @property
    def amount_unit(self) -> str:
        """Kilograms."""
        return "kg"


@dataclass(frozen=True)
class SettingRow:
    """One line of set-up words: what, its value, and the setting's field that it comes from."""

    what: str
    value: str
    field: str


@dataclass(frozen=True)
class Freedom:
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


class Fixed:
    """Part of a setting that leaves nothing to choose but its amount."""

    def freedoms(self, kit: Sequence[Any]) -> list[Freedom]:
        """None."""
        return []

    def moved(self, name: str, value: float) -> Any:
        """Itself: there is nothing to move."""
        return self

    def carried_to(self, point: Floats, kit: Sequence[Any]) -> Any:
        """Itself: there is nothing to carry."""
        return self

    def nearby(self, part: float) -> Placements | None:
        """None: there is nothing to place otherwise."""
        return None


class Setting(Protocol):
    """One source of a set-up as a document."""

    @property
    def kind(self) -> str:
        """Name of its class in documents."""

    def law(self) -> Law:
        """The mechanics of this setting, one placement (no leading axes)."""

    @property
    def amount(self) -> float:
        """How much of it, in the unit of ``amount_words``."""

    def loaded(self, amount: float) -> Any:
        """The setting with another amount."""

    @property
    def both_arms(self) -> bool:
        """Whether both arms work at once."""

    @property
    def attachment(self) -> Attachment:
        """Where on the body it bears."""

    @property
    def amount_unit(self) -> str:
        """Unit of the amount where it is a quantity, empty where it is a choice."""

    def amount_words(self, amount: float) -> str:
        """The amount with its unit, for people."""

    def rows(self) -> list[SettingRow]:
        """How to set it up, in words."""

    def short(self) -> str:
        """Which kit and how, in a few words."""

    def cautions(self) -> list[str]:
        """Usual cautions of this kit."""

    def offered_by(self, item: Any) -> Placements | None:
        """The batch that holds just this setting where ``item`` is the kit it comes from, else None."""

    def prop(self) -> dict[str, Any]:
        """What to draw: ``kind`` and the figures the drawing needs, metres."""

    def verify(self) -> None:
        """Raise ``DomainError`` where fields contradict each other or the kit."""

    def freedoms(self, kit: Sequence[Any]) -> list[Freedom]:
        """What can be chosen otherwise with the kit of a place."""

    def moved(self, name: str, value: float) -> Any:
        """The setting with one of its freedoms chosen otherwise."""

    def carried_to(self, point: Floats, kit: Sequence[Any]) -> Any:
        """The setting with the far end of its line as near to a point, m, (xyz,), as the kit of a place allows."""

    def nearby(self, part: float) -> Placements | None:
        """A step either way of each of the setting's choices, one at a time; None where there is nothing to place.

        Args:
            part: Size of the steps, parts of those of the first pass's grid.
        """


@dataclass(frozen=True)
class Room:
    """Floor and ceiling of a place, m."""

    length: float
    width: float
    ceiling: float


@dataclass(frozen=True)
class Scene:
    """What a kit item needs to know to propose placements."""

    body: Body
    stance: Stance
    grip: Floats
    room: Room
    kit: Sequence[Any]
    both: bool = True
    movement: str = ""
    contact: Contact = "hand"
    hinge: Floats = field(default_factory=lambda: np.zeros(3))
    hinge_axis: Floats = field(default_factory=lambda: np.array([0.0, 1.0, 0.0]))
    coarse: bool = False
    """Whether a few placements spread wide will do."""


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
    def joined(batches: Sequence[Placements]) -> Placements:
        """One after the other; of one item in one use, so that their laws differ in nothing but where it is placed."""
        if len(batches) == 1:
            return batches[0]
        law: Any = batches[0].law
        name = place_of(law)
        ends = np.cumsum([b.count for b in batches])

        def setting(i: int, amount: float) -> Setting:
            k = int(np.searchsorted(ends, i, side="right"))
            return batches[k].setting(i - int(ends[k]) + batches[k].count, amount)

        where = {} if name is None else {name: np.concatenate([getattr(b.law, name) for b in batches])}
        return Placements(replace(law, **where), int(ends[-1]), setting)


def place_of(law: Any) -> str | None:
    """Which field of a law says where its source is placed, (placement, xyz); None where it is placed nowhere."""
    return next((name for name in ("pulley", "anchor", "pivot") if hasattr(law, name)), None)


class KitItem(Protocol):
    """An item of a place's kit that can load a movement."""

    @property
    def id(self) -> str:
        """Name in documents, one of a kind at its place."""

    @property
    def name(self) -> str:
        """Name for people."""

    @property
    def kind(self) -> str:
        """Name of its class in documents."""

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """Batches of placements worth looking at in this scene; each batch is one way to use the item."""

    def amounts(self) -> Floats:
        """Amounts that exist, ascending, (amount,)."""

    def verify(self) -> None:
        """Raise ``DomainError`` where fields contradict each other."""
