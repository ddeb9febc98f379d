"""What a load source is: a law that gives the force on the hand, a setting that fixes it, and the kit it comes from.

Three small base classes with the answers that most kinds give; every module of this package defines one of each, so that a
kind of kit lives in one file:

* *law*: NumPy in, NumPy out, SI units, any number of placements at once;
* *setting*: one placement and amount as a document (units stand in the names), which makes the law;
* *kit item*: what a place has, which proposes placements and lists the amounts that exist.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, ClassVar

import numpy as np

from oddswap.equipment.base.setting import Placements
from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import ON_FEET, Base, Contact, Variant
from oddswap.mechanics.stance import Stance
from oddswap.mechanics.types import Floats

BAR_GIVES, BAR_HANDS = 0.38, 0.60
"""How far hands that go free may come together where a bar would hold them apart, and how far from the middle they may be for
one, m (own estimates): presses and pulldowns serve for a bar, flies and raises do not."""


ROPE_HANDS, ROPE_DRAWS = 0.28, 0.43
"""Hands' distance from the middle up to which a rope serves them, m, and the part of its own distance that a pull's hand keeps
on a strand, which leads it in to the middle (own estimates)."""


MOST_AMOUNTS = 5000
"""Amounts that an item may have: what is looked through for every set-up (own estimate)."""
MOST_PINS = 500
"""Pins of a stack (own estimate: no stack has half as many)."""


def check_stack(least: float, most: float, step: float, addons: Sequence[float]) -> None:
    """Raise ``DomainError`` where a stack's pins, kg, with its add-ons, kg, make more amounts than are looked at."""
    pins = (most - least) / step + 1
    if pins > MOST_PINS:
        raise DomainError("step_kg", step, f"at most {MOST_PINS} pins; these would be {pins:.0f}", "Take the real step")
    if pins * 2 ** len(addons) > MOST_AMOUNTS:
        limit = f"pins and add-ons make at most {MOST_AMOUNTS} amounts"
        raise DomainError("addons_kg", len(addons), limit, "List fewer add-ons")


def hands_serve_bar(grip: Floats) -> bool:
    """Whether hands that go free, m, (pose, xyz) of the right one, keep near enough the distance that a bar holds them at."""
    apart = np.abs(grip[:, 1])
    return bool(np.ptp(apart) < BAR_GIVES and apart.max() < BAR_HANDS)


def hands_serve_rope(grip: Floats, pulled: bool) -> bool:
    """Whether hands that go free, m, (pose, xyz) of the right one, keep near enough the middle for a rope; in a pull they are
    drawn in."""
    return bool(np.abs(grip[:, 1]).max() * (ROPE_DRAWS if pulled else 1.0) < ROPE_HANDS)


DUMBBELL_HANDS, DUMBBELL_MEET = 0.26, 0.20
"""Hands' distance from the middle up to which one dumbbell serves both, m, and what it comes to somewhere (own estimates)."""


def hands_serve_dumbbell(grip: Floats) -> bool:
    """Whether hands that go free, m, (pose, xyz) of the right one, keep near enough the middle for one dumbbell in both."""
    aside = np.abs(grip[:, 1])
    return bool(aside.max() < DUMBBELL_HANDS and aside.min() < DUMBBELL_MEET)


@dataclass(frozen=True)
class Bearing:
    """What kit needs to know of a variant to tell whether it can load it.

    Args:
        movement: Movement id.
        stance: How the body is carried.
        contact: Where it is loaded as a rule.
        base: What gives the reaction; see ``BodySupport``.
        neutral: Whether the palms face each other.
        off_middle: Whether the load bears off the hand's middle.
        line_on_feet: Whether the lift is done on the feet against a line of pull.
        bar_hangs: Whether the lift is done on the feet with a bar in the hands, hanging or before the chest.
        led: Whether the hand goes where the load leads it, as in pulls and presses.
        variant: How the movement is done.
    """

    movement: str
    stance: str
    contact: Contact
    base: Base
    neutral: bool = False
    off_middle: bool = False
    line_on_feet: bool = False
    bar_hangs: bool = False
    led: bool = False
    variant: Variant = field(default_factory=lambda: Variant({}))

    @property
    def guided(self) -> bool:
        """Whether a handle that swings on an arc of its own serves: a pull or press, or a lift on the feet that is done with a
        bar in the hands."""
        on_feet = self.base in ("feet", "two feet") and self.bar_hangs
        return self.carried and self.contact == "hand" and (self.led or on_feet)

    @property
    def carried(self) -> bool:
        """Whether seat, feet or a pad carry the body, which then can hold a load besides."""
        return self.base in ("seat", *ON_FEET, "thighs and ankles", "pelvis")


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
    others: Any = ()
    """What the item ``needs_of`` the place's kit."""
    both: bool = True
    movement: str = ""
    contact: Contact = "hand"
    hinge: Floats = field(default_factory=lambda: np.zeros(3))
    hinge_axis: Floats = field(default_factory=lambda: np.array([0.0, 1.0, 0.0]))
    line: Floats = field(default_factory=lambda: np.array([1.0, 0.0, 0.0]))
    coarse: bool = False
    """Whether a few placements spread wide will do."""
    pulled: bool = False
    """Whether the load leads the arms as in a pull."""
    planted: bool = False
    """Whether the lift drives from the feet, which then stay where it needs them."""


class KitItem:
    """An item of a place's kit; what most kinds answer alike stands here.

    An item is a frozen dataclass whose fields are the document's: ``id``, ``name``, what matters of it, and ``kind``. Those
    that load nothing and only carry the body or a band answer ``loads`` with False.
    """

    id: Any
    name: Any
    kind: str
    loads: ClassVar[bool] = True
    """Whether it can load a movement."""
    searched: ClassVar[bool] = True
    """Whether the search proposes it by itself."""
    carried_about: ClassVar[bool] = True
    """Whether it is taken to where it is used; else it is used where it stands."""
    line: ClassVar[bool] = False
    """Whether it pulls along a line, which a cuff fixes to a leg and a moved bench is brought to."""
    stretches: ClassVar[bool] = False
    """Whether it pulls only while it is stretched; it has no grip for two hands, which then hold it together."""

    def needs_of(self, kit: Sequence[Any]) -> Any:
        """What of a place's kit decides how it is placed there, hashable; nothing else does, so that what comes or goes beside
        it and leaves this as it is costs the item no computing again."""
        return ()

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """Batches of placements worth looking at in this scene; each batch is one way to use the item."""
        yield from ()

    def amounts(self) -> Floats:
        """Amounts that exist, ascending, (amount,)."""
        return np.zeros(0)

    def verify(self) -> None:
        """Raise ``DomainError`` where fields contradict each other."""

    def serves(self, bearing: Bearing) -> bool:
        """Whether it can load a variant at all."""
        return self.loads and bearing.carried and bearing.contact == "hand"

    @property
    def floor_m(self) -> tuple[float, float] | None:
        """What of the floor it takes, along a wall and out from it, m (own estimates); None for what lies on a shelf."""
        return None

    @property
    def source_kind(self) -> str:
        """Kind of load source that it makes."""
        return self.kind

    @property
    def sort(self) -> str:
        """What items have in common that can do the same."""
        return self.kind

    @property
    def likeness(self) -> object:
        """Equal for items that count as one; those that differ in name only as a rule."""
        return repr(replace(self, id="-", name="-"))  # type: ignore[type-var]

    @property
    def versatility(self) -> tuple[float, ...]:
        """Sorts items of a kind from the one that can do most, which has the least."""
        return ()

    def covers(self, other: Any) -> bool:
        """Whether a map can do without another item of its kind."""
        return False

    @property
    def built_for(self) -> str:
        """Movement id that it is built for; empty for any."""
        return ""

    @property
    def ways(self) -> tuple[Variant, ...]:
        """How its own seat and pads let one do the movement that it is built for; empty where it is built for none."""
        return ()

    @property
    def notches(self) -> tuple[float, ...]:
        """Angles of a bench's back rest to the floor, degrees; empty for what is no bench."""
        return ()

    @property
    def pad_angles(self) -> tuple[float, ...]:
        """Angles of an arm pad, degrees; empty for what is none."""
        return ()

    @property
    def angles_over_rest(self) -> tuple[float, ...]:
        """How far forward of the trunk an upper arm lies over its back rest from behind, degrees; empty for what has none."""
        return tuple(90.0 - notch for notch in self.notches)

    @property
    def anchor_heights_cm(self) -> tuple[float, ...]:
        """Heights at which a band can be anchored to it, cm."""
        return ()

    @property
    def station_use(self) -> str:
        """What can be hung, stood or pressed from; empty for what is no station."""
        return ""

    @property
    def comes_along(self) -> bool:
        """Whether it can be moved to a column or an anchor."""
        return False
