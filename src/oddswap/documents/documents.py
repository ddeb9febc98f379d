"""The documents that go in and out: client, program, place, set-up; their models, conversions and schemas.

Units stand in the field names. Kit items and settings are the core's own dataclasses, read here under strict rules.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union, cast

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from oddswap.coaching.restrictions import Sore, strains
from oddswap.equipment import kit_classes, setting_classes
from oddswap.equipment.protocols import KitItem, Room, Setting
from oddswap.equivalence.conversion import Conversion, Learned, lift_named
from oddswap.equivalence.lenses import Lens, lens
from oddswap.equivalence.prescription import Line, Place
from oddswap.equivalence.search import Wishes
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.mechanics.stance import StanceKind

if TYPE_CHECKING:
    AnySetting = Setting
    AnyItem = KitItem
else:
    # Built from what the core offers, so that a new kind of kit appears in every document at once.
    AnySetting = Annotated[Union[tuple(setting_classes().values())], Field(discriminator="kind")]  # noqa: UP007
    AnyItem = Annotated[Union[tuple(kit_classes().values())], Field(discriminator="kind")]  # noqa: UP007


class Document(BaseModel):
    """Common rules: exact field names, no booleans for numbers, no infinities."""

    model_config = ConfigDict(strict=True, extra="forbid", allow_inf_nan=False, use_attribute_docstrings=True)


def example(value: dict[str, Any]) -> ConfigDict:
    """Model rules with an example for the schema."""
    return ConfigDict(json_schema_extra={"examples": [value]})


BELL_CURL: dict[str, Any] = {
    "movement": "curl",
    "parameters": {"arm_angle_deg": -40, "forearm_deg": -80},
    "stance": "bench",
    "recline_deg": 50,
    "sources": [{"kind": "dumbbell", "mass_kg": 12}],
}
CLIENT: dict[str, Any] = {"name": "Ilka Marsh", "stature_cm": 168, "mass_kg": 64, "sex": "female"}
LINE: dict[str, Any] = {
    "name": "Incline curl",
    "target": "biceps",
    "set_up": BELL_CURL,
    "sets": 3,
    "reps_low": 10,
    "reps_high": 12,
    "rir": 1,
}


Joint = Literal["neck", "shoulder", "elbow", "wrist", "lower back", "hip", "knee", "ankle"]
Action = Literal["any", "overhead", "behind the body", "wide", "bent deep", "straightened", "turned", "gripping", "under load"]


class SpanDoc(Document):
    """From here to there."""

    low: float
    high: float


class SoreDoc(Document):
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


class ClientDoc(Document):
    """A client's size."""

    model_config = example(CLIENT)

    format: Literal["odd-swap/client/1"] = "odd-swap/client/1"
    name: str = Field(min_length=1, max_length=80)
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
    sore: list[SoreDoc] = Field(default=[], max_length=20)
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
    weights: list[WeightDoc] = Field(default=[], max_length=2000)
    """Weighings, in any order."""
    mass_unit: Literal["kg", "lb"] = "kg"
    """Unit that masses are shown in."""
    length_unit: Literal["cm", "in"] = "cm"
    """Unit that lengths are shown in."""

    def sores(self) -> list[Sore]:
        """What hurts, in the core's terms."""
        return [Sore(s.joint, s.action, s.side) for s in self.sore]

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
        both = next((m for m in self.pinned if m in self.banned), None)
        if both is not None:
            raise DomainError("pinned", both, "a movement is pinned or banned, not both", "Take it off one of the lists")
        measured = {k: v / 100 for k, v in self.measured_cm.items()}
        return Body(
            self.stature_cm / 100, self.mass_kg, self.sex, measured, {k: (r.low, r.high) for k, r in self.ranges_deg.items()}
        )


class SetUpDoc(Document):
    """A movement done with given kit."""

    model_config = example(BELL_CURL)

    movement: str
    """Movement id."""
    parameters: dict[str, float] = {}
    """Parameter values; what is missing takes the movement's default."""
    stance: StanceKind = "standing"
    """What carries the body."""
    recline_deg: float = Field(default=90.0, ge=0, le=90)
    """Spine to floor, degrees: 90 upright, 0 lying; on a bench the notch."""
    seat_cm: float = Field(default=45.0, ge=20, le=80)
    """Height of the bench's seat, cm."""
    pad: bool = False
    """Whether an arm pad carries the upper arm."""
    lift_s: float | None = Field(default=None, ge=0.3, le=10)
    """Seconds of the lifting phase, where moving weights shall count; none for slow lifting."""
    sources: list[AnySetting] = Field(max_length=4)
    """Load sources; they add up. None where the body is its own load."""

    def set_up(self) -> SetUp:
        """The set-up in the core's terms."""
        return SetUp(
            self.movement, self.sources, self.parameters, self.stance, self.recline_deg, self.seat_cm, self.pad, self.lift_s
        )

    @staticmethod
    def of(set_up: SetUp) -> SetUpDoc:
        """The document of a set-up."""
        return SetUpDoc.model_construct(
            movement=set_up.movement,
            parameters={k: float(v) for k, v in set_up.parameters.items()},
            stance=cast(Any, set_up.stance),
            recline_deg=set_up.recline_deg,
            seat_cm=set_up.seat_cm,
            pad=set_up.pad,
            lift_s=set_up.lift_s,
            sources=list(set_up.sources),
        )


class ClientSetUpDoc(Document):
    """A set-up and who does it: all that a profile needs."""

    model_config = example({"client": CLIENT, "set_up": BELL_CURL})

    format: Literal["odd-swap/set-up/1"] = "odd-swap/set-up/1"
    client: ClientDoc
    set_up: SetUpDoc


class LineDoc(Document):
    """One prescribed exercise."""

    model_config = example(LINE)

    name: str = Field(min_length=1, max_length=80)
    """What the coach calls it."""
    target: str
    """Muscle group it is for."""
    set_up: SetUpDoc
    sets: int = Field(ge=1, le=12)
    reps_low: int = Field(ge=1, le=60)
    """Fewest repetitions of a set."""
    reps_high: int = Field(ge=1, le=60)
    """Most repetitions of a set."""
    rir: int = Field(default=1, ge=0, le=6)
    """Repetitions in reserve."""

    def line(self) -> Line:
        """The line in the core's terms."""
        return Line(self.target, self.set_up.set_up(), self.sets, self.reps_low, self.reps_high, self.rir)


class SessionDoc(Document):
    """One session of a program."""

    name: str = Field(min_length=1, max_length=80)
    lines: list[LineDoc] = Field(min_length=1, max_length=40)


class ProgramDoc(Document):
    """Sessions of prescribed lines."""

    model_config = example({"name": "Arms and chest", "sessions": [{"name": "Upper A", "lines": [LINE]}]})

    format: Literal["odd-swap/program/1"] = "odd-swap/program/1"
    name: str = Field(min_length=1, max_length=80)
    sessions: list[SessionDoc] = Field(min_length=1, max_length=14)


class RoomDoc(Document):
    """Free floor and ceiling."""

    length_cm: float = Field(gt=50, le=10_000)
    width_cm: float = Field(gt=50, le=10_000)
    ceiling_cm: float = Field(gt=100, le=2_000)

    def room(self) -> Room:
        """In metres."""
        return Room(self.length_cm / 100, self.width_cm / 100, self.ceiling_cm / 100)


class BusyDoc(Document):
    """When an item is mostly taken by others."""

    item: str
    """Id of the kit item."""
    days: list[Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]] = Field(default=[], max_length=7)
    """Weekdays; every day when empty."""
    start: str = Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")
    """From this time of day, 24 hours."""
    end: str = Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")
    """Until this time of day."""


class PlaceDoc(Document):
    """Somewhere a client trains, with its kit."""

    model_config = example(
        {
            "name": "Spare room",
            "room": {"length_cm": 350, "width_cm": 280, "ceiling_cm": 245},
            "kit": [{"kind": "dumbbells", "id": "bells", "name": "bells", "masses_kg": [4, 6, 8, 10]}],
        }
    )

    format: Literal["odd-swap/place/1"] = "odd-swap/place/1"
    name: str = Field(min_length=1, max_length=80)
    room: RoomDoc
    kit: list[AnyItem] = Field(max_length=400)
    """What is there."""
    busy: list[BusyDoc] = Field(default=[], max_length=200)
    """What is crowded, and when."""

    def place(self) -> Place:
        """The place in the core's terms, checked.

        Raises:
            DomainError: Where items contradict themselves or each other.
        """
        place = Place(self.name, self.room.room(), self.kit)
        place.verify()
        ids = [item.id for item in self.kit]
        for i, busy in enumerate(self.busy):
            if busy.item not in ids:
                raise DomainError(f"busy.{i}.item", busy.item, "an item of this place's kit", "Pick one of its items")
            if busy.end <= busy.start:
                raise DomainError(f"busy.{i}.end", busy.end, f"later than the start, {busy.start}", "Split it at midnight")
        return place


class ReadingDoc(Document):
    """One steady reading."""

    at: float
    """Where: length in cm, pin in kg, angle in degrees, or time in s."""
    value: float
    """What the instrument showed: N, or degrees."""
    zero: float = 0.0
    """What it showed unloaded just before."""
    down: float | None = None
    """On a column, what it showed while the stack sank, N; ``value`` while it rose."""


class MeasurementDoc(Document):
    """Readings of one guided run."""

    model_config = example({"what": "band", "item": "sand", "readings": [{"at": 60, "value": 21.5}]})

    format: Literal["odd-swap/measurement/1"] = "odd-swap/measurement/1"
    what: Literal["band", "column", "cam", "joint"]
    """What was measured."""
    item: str = ""
    """Id of the kit item, or name of the joint range."""
    day: dt.date | None = Field(default=None, strict=False)
    readings: list[ReadingDoc] = Field(min_length=1, max_length=20_000)


def check_program(program: ProgramDoc) -> None:
    """Hold every line of a program against the core's rules.

    Raises:
        DomainError: With the path of the first field that breaks one.
    """
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                line.line().verify()
            except DomainError as error:
                raise error.at(f"sessions.{s}.lines.{i}") from None


class CoachDoc(Document):
    """What a coach set for all clients."""

    model_config = example({"lens": "same_shape", "weights": {"long_end": {"long": 0.7, "load": 0.3}}})

    format: Literal["odd-swap/coach/1"] = "odd-swap/coach/1"
    lens: str = "same_shape"
    """Lens to start with."""
    weights: dict[str, dict[str, float]] = {}
    """Own weights of the parts, by lens."""

    def verify(self) -> None:
        """Raise ``DomainError`` where a lens, part or weight does not exist."""
        lens(self.lens)
        for name, weights in self.weights.items():
            try:
                lens(name).weighed(weights)
            except DomainError as error:
                raise error.at(f"weights.{name}" if error.field != "lens" else "weights") from None


class RankDoc(Document):
    """How the equivalents of a line are to be ranked at a place, beyond what the client's own document says."""

    model_config = example({"lens": "long_end", "without": ["twin"]})

    lens: str = "same_shape"
    """Lens to rank under."""
    weights: dict[str, float] = {}
    """Weights of the match's parts in its place, 0 to 1; scaled to sum to one. Empty for the lens's own."""
    equivalence: Literal["hardest", "mean", "long"] = "hardest"
    """By what loads are equal: effort at the hardest point, on average over the range, or in its long half."""
    law: Literal["epley", "brzycki"] = "epley"
    """Law by which repetitions are restated."""
    without: list[str] = Field(default=[], max_length=100)
    """Ids of kit items that are in use by others."""
    one_side: bool = False
    """Whether only one-sided lifts are wanted."""
    known_only: bool = False
    """Whether only movements that the client knows are wanted."""

    def by(self) -> Lens:
        """The lens in the core's terms.

        Raises:
            DomainError: For a lens, part or weight that does not exist.
        """
        found = lens(self.lens)
        return found.weighed(self.weights) if self.weights else found

    def wishes(self, client: ClientDoc) -> Wishes:
        """What is wanted of the search for a client."""
        known = frozenset(client.knows) if self.known_only else None
        lists = frozenset(client.banned), frozenset(client.pinned), frozenset(self.without)
        return Wishes(partial(strains, sore=client.sores()), *lists, known, self.one_side, self.conversion(client))

    def conversion(self, client: ClientDoc) -> Conversion:
        """How loads are converted for a client."""
        learned = {lift_named(one.movement, one.kit): Learned(one.factor, one.sets) for one in client.learned}
        return Conversion(self.equivalence, self.law, learned)


class MoveDoc(Document):
    """A choice of a set-up made otherwise by hand: a slider's value, the point a pulley was dragged to, or the load."""

    model_config = example({"source": 0, "id": "hole", "value": 7})

    source: int = Field(default=0, ge=0, le=3)
    """Which of the set-up's sources."""
    id: str = "point"
    """The choice, as named in the detail; ``amount`` for the load, ``point`` for a dragged end."""
    value: float = 0.0
    """Its new value."""
    point_m: tuple[float, float, float] | None = Field(default=None, strict=False)
    """Where the end was dragged to, m: ahead, to the left, up."""

    def applied(self, set_up: SetUp, kit: Sequence[Any]) -> SetUp:
        """The set-up after the move.

        Raises:
            DomainError: For a source or choice that it does not have.
        """
        if self.source >= len(set_up.sources):
            raise DomainError("source", self.source, f"the set-up has {len(set_up.sources)} sources", "Pick one of these")
        sources = list(set_up.sources)
        one = sources[self.source]
        known = ["amount", "point", *(f.id for f in one.freedoms(kit))]
        if self.id not in known:
            raise DomainError("id", self.id, f"the choices are {', '.join(known)}", "Pick one of these")
        if self.id == "amount":
            sources[self.source] = one.loaded(self.value)
        elif self.point_m is not None:
            sources[self.source] = one.carried_to(np.array(self.point_m), kit)
        else:
            sources[self.source] = one.moved(self.id, self.value)
        return replace(set_up, sources=tuple(sources))


DOCUMENTS: dict[str, type[BaseModel]] = {
    "client": ClientDoc,
    "program": ProgramDoc,
    "place": PlaceDoc,
    "set-up": ClientSetUpDoc,
    "measurement": MeasurementDoc,
}
"""Documents that go in, by name."""


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of a document that goes in or out.

    Raises:
        DomainError: If there is no such document.
    """
    from oddswap.documents.results import RESULTS

    models = DOCUMENTS | RESULTS
    if name not in models:
        raise DomainError("schema", name, f"the documents are {', '.join(models)}", "Pick one of these")
    mode: Literal["validation", "serialization"] = "validation" if name in DOCUMENTS else "serialization"
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | TypeAdapter(models[name]).json_schema(mode=mode)
