"""A client as a document."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from pydantic import Field

from oddswap.coaching.restrictions import Restriction
from oddswap.documents.base import Document, Versioned, example
from oddswap.equipment import setting_classes
from oddswap.equipment.base.fields import Name, Note
from oddswap.errors import DomainError
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.mechanics.muscles import muscle_table
from oddswap.quantities import LengthUnit, MassUnit, Units

CLIENT: dict[str, Any] = {"name": "Ilka Marsh", "stature_cm": 168, "mass_kg": 64, "sex": "female"}

MOST_SETS = 60
"""Sets a week for one muscle beyond which nobody wants them (own estimate)."""
Joint = Literal["neck", "shoulder", "elbow", "wrist", "lower back", "hip", "knee", "ankle"]
Action = Literal["any", "overhead", "behind the body", "wide", "bent deep", "straightened", "turned", "gripping", "under load"]


class SpanDoc(Document):
    """From here to there."""

    low: float
    high: float


class RestrictionDoc(Document):
    """Something that hurts, or that a physician or physiotherapist has ruled out. Odd Swap avoids it and judges nothing."""

    joint: Joint
    side: Literal["left", "right", "both"] = "both"
    action: Action = "any"
    """What of it hurts."""
    note: str = Field(default="", max_length=200)
    """In the client's words."""


class WeightDoc(Document):
    """One weighing."""

    day: dt.date = Field(strict=False)
    mass_kg: float = Field(ge=30, le=250)


class LearnedDoc(Document):
    """What a client's log says of the loads computed for a lift."""

    model_config = example({"movement": "curl", "kit": "cable", "factor": 1.08, "sets": 4})

    movement: str
    """Movement id."""
    kit: str = Field(min_length=1, max_length=80)
    """Kinds of its load sources, such as cable, dumbbell, or dumbbell+band; body for the body alone."""
    factor: float = Field(ge=0.3, le=3.0)
    """What the client moves at the same effort, over what is computed."""
    sets: int = Field(ge=1, le=10_000)
    """From how many logged sets; few move the load little."""
    spread: float | None = Field(default=None, ge=0, le=1)
    """How sure the app is where it read this from the log, a standard deviation of the factor's logarithm; none where a coach
    wrote it."""


class LearnedKitDoc(Document):
    """What the logs of all clients say of a kit item of the place in question."""

    item: str
    factor: float = Field(ge=0.3, le=3.0)
    """What clients move on it at the same effort, over what is computed."""
    spread: float = Field(ge=0, le=1)
    """Standard deviation of the factor's logarithm."""


class ComplaintDoc(Document):
    """That a lift hurt, or felt wrong, as the client noted it."""

    lift: str
    """Movement and kinds of load, such as curl:cable."""
    hurt: bool
    words: str = Field(max_length=300)
    """What and when."""


class ClientDoc(Versioned):
    """A client's size."""

    model_config = example(CLIENT)

    format: Literal["odd-swap/client/2"] = "odd-swap/client/2"
    name: Name
    """What the client is called."""
    stature_cm: float
    """Standing height, cm; 120 to 230."""
    mass_kg: float
    """Body mass, kg; 30 to 250."""
    sex: Literal["female", "male"]
    """Which published segment table fits."""
    measured_cm: dict[str, float] = {}
    """The client's own segment lengths, cm, joint centre to joint centre; they override the table."""
    ranges_deg: dict[str, SpanDoc] = {}
    """The client's own ends of joint ranges, degrees; they narrow the norms."""
    restrictions: list[RestrictionDoc] = Field(default=[], max_length=20)
    """What hurts, and in what position."""
    weaker_side: Literal["left", "right", "even"] = "even"
    """Which side sets the load and goes first."""
    experience: Literal["new", "trained", "advanced"] = "trained"
    knows: list[str] = Field(default=[], max_length=100)
    """Movements the client can already do, by id."""
    banned: list[str] = Field(default=[], max_length=100)
    """Movements that this client is not given, by id."""
    pinned: list[str] = Field(default=[], max_length=20)
    """Movements that stand first wherever they can be done, by id."""
    learned: list[LearnedDoc] = Field(default=[], max_length=500)
    """What the log says of loads computed for this client, a row a lift."""
    learned_kit: list[LearnedKitDoc] = Field(default=[], max_length=500)
    """What the logs say of kit where the client is to train; filled in by the app."""
    complaints: list[ComplaintDoc] = Field(default=[], max_length=100)
    """What the client told of lifts lately, by which they are ranked down; filled in by the app from the log."""
    weekly_sets: dict[str, SpanDoc] = Field(default={}, max_length=40)
    """Sets a week that the coach wants for a muscle group, from fewest to most, by the group's id."""
    weights: list[WeightDoc] = Field(default=[], max_length=2000)
    """Weighings, in any order."""
    mass_unit: MassUnit = "kg"
    """Unit that masses are shown in."""
    length_unit: LengthUnit = "cm"
    """Unit that lengths are shown in."""
    note: Note = ""
    """What the coach wants to remember of the client."""

    @property
    def units(self) -> Units:
        """What the client reads masses and lengths in."""
        return Units(self.mass_unit, self.length_unit)

    def core_restrictions(self) -> list[Restriction]:
        """What hurts, in the core's terms."""
        return [Restriction(s.joint, s.action, s.side) for s in self.restrictions]

    def body(self) -> Body:
        """The client in the core's terms.

        Raises:
            DomainError: For a size outside the body tables.
        """
        for name in ("knows", "banned", "pinned"):
            for i, known in enumerate(getattr(self, name)):
                if known not in movements():
                    raise DomainError(f"{name}.{i}", known, "a movement of the library", "Pick one of its movements")
        for i, one in enumerate(self.learned):
            if one.movement not in movements():
                raise DomainError(
                    f"learned.{i}.movement", one.movement, "a movement of the library", "Pick one of its movements"
                )
            kinds = sorted(["body", *setting_classes()])
            if not set(one.kit.split("+")) <= set(kinds):
                raise DomainError(f"learned.{i}.kit", one.kit, f"kinds of load: {', '.join(kinds)}", "Join them with +")
            if any((one.movement, one.kit) == (other.movement, other.kit) for other in self.learned[:i]):
                limit = "each movement with each kit stands once"
                raise DomainError(f"learned.{i}", f"{one.movement}, {one.kit}", limit, "Remove the second row")
        groups = muscle_table().groups
        for group, wish in self.weekly_sets.items():
            if group not in groups:
                limit = f"the muscle groups are {', '.join(groups)}"
                raise DomainError(f"weekly_sets.{group}", group, limit, "Pick one of these")
            if not 0 <= wish.low <= wish.high <= MOST_SETS:
                limit = f"fewest and most sets a week, 0 to {MOST_SETS}, the fewer first"
                raise DomainError(f"weekly_sets.{group}", f"{wish.low:g} to {wish.high:g}", limit, "Correct the two")
        both = next((m for m in self.pinned if m in self.banned), None)
        if both is not None:
            raise DomainError("pinned", both, "a movement is pinned or banned, not both", "Take it off one of the lists")
        measured = {k: v / 100 for k, v in self.measured_cm.items()}
        ranges = {k: (r.low, r.high) for k, r in self.ranges_deg.items()}
        return Body(self.stature_cm / 100, self.mass_kg, self.sex, measured, ranges, self.first_mass_kg)

    @property
    def first_mass_kg(self) -> float | None:
        """Mass at the first weighing, which strength is reckoned from, kg; None before there is one."""
        return min(self.weights, key=lambda w: w.day).mass_kg if self.weights else None
