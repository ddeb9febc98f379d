"""What a movement is: a name, parameters, muscles it may target, and the path it leads the arm along."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from oddswap.errors import DomainError
from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.body import Body
from oddswap.mechanics.leading import Led
from oddswap.mechanics.stance import KNEELING, STANDING
from oddswap.mechanics.types import Floats

Values = Mapping[str, float]
Hold = Literal["rest", "hang", "between", "close", "back", "chest", "ahead", "hips", "head"]
"""Where arms are that only hold."""
Root = Literal["hips", "feet", "toes", "heels", "knees", "hands"]
"""What stays in its place while the movement goes on."""
Base = Literal[
    "seat",
    "feet",
    "two feet",
    "feet at a hold",
    "hands",
    "hands and feet",
    "hands and knees",
    "back and feet",
    "pad and feet",
    "thighs and ankles",
    "knees and ankles",
    "lower back",
    "pelvis",
]
"""What gives the reaction that whole-body equilibrium needs; a seat takes what comes."""
ON_FEET: tuple[Base, ...] = ("feet", "two feet", "feet at a hold")
"""Of these, what one stands on."""
Contact = Literal["hand", "forearm", "upper_arm", "back", "hips", "thigh", "shank", "foot"]
"""Where a load bears on the body."""


@dataclass(frozen=True)
class Path:
    """How a movement leads the body, one row a pose; what is None is left to the stance.

    Args:
        part: Parts of the way from lengthened end to shortened end, (pose,).
        arm: The right arm, read in the torso frame.
        leg: The right leg's coordinates, radians, (pose, 5).
        other_leg: The left leg's where it does not mirror the right, mirrored, (pose, 5).
        lean: How far the torso pitches forward of the stance, radians, (pose,) or one value.
        lumbar: How far the torso is bent forward on the pelvis, radians.
        side: How far it is bent to the left on it, radians, (pose,); None for not at all.
        scapula: Shift of the shoulder centre, torso frame, parts of stature, (pose, xyz).
        hold: Where arms are that only hold.
    """

    part: Floats
    arm: ArmPath | None = None
    leg: Floats | None = None
    other_leg: Floats | None = None
    lean: Floats | float = 0.0
    lumbar: Floats | float = 0.0
    side: Floats | None = None
    scapula: Floats | None = None
    hold: Hold = "rest"


@dataclass(frozen=True)
class Parameter:
    """A free choice of a movement, in the unit its name ends in; ``choices`` names the values of a closed list.

    ``kept`` choices stay as prescribed when a swap is the same movement: they decide which muscles help, not the shape. On a
    machine ``free`` ones are the client's all the same, as handles and pads allow; its ``aim`` is what the machine's own angle
    sets; all others stand as it is built.
    """

    id: str
    name: str
    low: float
    high: float
    default: float
    choices: Mapping[float, str] = field(default_factory=dict)
    kept: bool = False
    on_machine: Literal["", "free", "aim"] = ""


RANGE_ENDS = (
    Parameter("range_from_pct", "starts so far along the whole way, %: later for a dead stop above the bottom", 0, 90, 0),
    Parameter("range_to_pct", "ends so far along the whole way, %: earlier to stop short of the lockout", 10, 100, 100),
)
"""Where a repetition begins and ends: every movement has these."""


@dataclass(frozen=True)
class Variant:
    """One way a movement is done on given supports: parameter values, stance, and the support it needs.

    Args:
        values: Parameter values.
        stance: How the body is carried, see ``Stance``.
        recline_deg: Spine to floor; for a bench the notch it must have.
        pad: Whether the upper arm rests on an arm pad, which then carries the moment about the shoulder.
    """

    values: Values
    stance: str = "standing"
    recline_deg: float = 90.0
    pad: bool = False


@dataclass(frozen=True)
class Sides:
    """Which limbs work on both sides; a load in one hand may well be lifted by two legs."""

    arms: bool = True
    legs: bool = True


BOTH_SIDES = Sides()


@dataclass(frozen=True)
class Balance:
    """A movement whose free angle is solved at every pose.

    Args:
        held: ``weight``: the load on the support's middle; ``hands``: the hands at their height.
        low: Least value of the free angle, radians.
        high: Its greatest value.
    """

    held: Literal["weight", "hands"]
    low: float
    high: float


@dataclass(frozen=True)
class BodySupport:
    """How the body rests and is loaded.

    Args:
        contact: Where it is loaded as a rule.
        root: What stays in place.
        base: Where the reaction acts.
        balance: What is solved at every pose, if anything.
        rest_cm: Height of what stays in place, cm.
        hand_cm: Height that the hands are held at, cm.
        thigh: ``held`` where seat or pad carries the moment about the hip; ``rests`` where a seat carries only its weight.
        one_side: Whether one side works at a time: one leg while the other stands, or one side of the waist.
        one_foot: Whether the body stands on one leg, whatever the hands hold.
        across_cm: How far off the hand's middle it is loaded as a rule, thumb side positive, cm.
        knee_locked: Whether the straight knee's own stop, or a pad next to it, carries the moment about the knee.
        forearm_rests: Whether thighs or a bench carry the forearm, so that nothing is asked of shoulder and elbow.
    """

    contact: Contact = "hand"
    root: Root = "hips"
    base: Base = "seat"
    balance: Balance | None = None
    rest_cm: float = 0.0
    hand_cm: float = 0.0
    thigh: Literal["free", "rests", "held"] = "free"
    one_side: bool = False
    one_foot: bool = False
    across_cm: float = 0.0
    knee_locked: bool = False
    forearm_rests: bool = False

    @property
    def body_alone(self) -> bool:
        """Whether the body is all that is lifted: it rests on what it would have to hold a load with, or holds none."""
        holds = self.base in ("seat", *ON_FEET, "back and feet", "pad and feet", "thighs and ankles")
        return not holds and not (self.base == "pelvis" and self.contact == "hand")


def always(support: BodySupport) -> Callable[[Values], BodySupport]:
    """The same support whatever the values."""
    return lambda values: support


BY_HAND = always(BodySupport())
"""Loaded in the hand, the seat or the feet taking what comes."""


NOTCHES, PADS = (0.0, 30.0, 45.0, 60.0, 85.0), (45.0,)
"""Bench notches and arm pads, degrees, that a movement is asked for its variants with where no place is given."""


ON_OWN_LEGS = ("standing", "kneeling", "sitting")
"""Stances that others may take the place of, with the trunk as upright."""
STOOD_OTHERWISE = (*KNEELING[1:], *STANDING[1:])
"""Such others, which are chosen by hand and not sought."""


@dataclass(frozen=True)
class Movement:
    """A movement definition; see the modules of this package.

    Args:
        id: Name in documents.
        name: Name for people.
        parameters: Its free choices.
        targets: Muscle groups it may be prescribed for.
        reading: What a person reads off the moving joint: coordinates by region to degrees (pose,).
        reading_words: Words around that number, with ``{}`` for it, or what makes words of it.
        hinge: Joint of the figure that the moment arm is drawn from, for example ``right elbow``.
        path: The body along the movement: values, parts of the way (pose,) and the free angle (pose,), which is zero
            where nothing is solved, and the client, to a ``Path``.
        variants: Ways to do it given bench notches (deg) and arm-pad angles (deg) at hand, for the search.
        title: Short words for one variant, without the load source.
        cues: What to look at to know it is right, for one variant.
        cautions: Usual cautions of this variant, by rule from its values.
        family: Chapter of the movement library.
        stances: How the body may be carried, the usual way first.
        support: How the body rests and is loaded, by the values.
        led: How the forearm follows the load.
        loaded: Whether it is nothing without a load, so that a body alone does not do it.
        machine_only: Whether it is done on a machine that is built for it, and on nothing else.
        needs: Uses of stations, ``bench`` among them, by the values: of each group one must be there; empty where the floor
            will do.
    """

    id: str
    name: str
    parameters: tuple[Parameter, ...]
    targets: tuple[str, ...]
    hinge: str
    reading: Callable[[Mapping[str, Floats]], Floats]
    reading_words: str | Callable[[float], str]
    path: Callable[[Values, Floats, Floats, Body], Path]
    variants: Callable[[Iterable[float], Iterable[float]], Iterable[Variant]]
    title: Callable[[Variant], str]
    cues: Callable[[Variant], list[str]]
    cautions: Callable[[Variant], list[str]]
    family: str = "arms"
    stances: tuple[str, ...] = ("standing",)
    support: Callable[[Values], BodySupport] = BY_HAND
    led: Led = ""
    loaded: bool = False
    machine_only: bool = False
    needs: Callable[[Values], tuple[tuple[str, ...], ...]] = field(default=lambda values: ())

    @cached_property
    def varied(self) -> frozenset[str]:
        """Names of the parameters that its variants set; the others, how deep, how far and how wide, are a line's own."""
        return frozenset(name for v in self.variants(NOTCHES, PADS) for name in v.values)

    def every_way(self, notches: Iterable[float], pads: Iterable[float]) -> list[Variant]:
        """Its variants, and those on one's own legs in every other stance too that it may be done in."""
        listed = list(self.variants(notches, pads))
        known, own = {v.stance for v in listed}, next((v.stance for v in listed if v.stance in ON_OWN_LEGS), "")
        others = [s for s in self.stances if s not in known and s in (*ON_OWN_LEGS, *STOOD_OTHERWISE)]
        return [*listed, *(replace(v, stance=s) for s in others for v in listed if v.stance == own)]

    @property
    def shares_dumbbell(self) -> bool:
        """Whether one dumbbell in both hands is a way to load it, where these stay near: not where the load leads the forearm,
        or the wrist works."""
        return not self.led and not self.hinge.endswith("wrist")

    def describe_reading(self, degrees: float) -> str:
        """The moving joint's angle, degrees, in words."""
        words = self.reading_words
        return words.format(f"{degrees:.0f}") if isinstance(words, str) else words(degrees)

    def complete(self, given: Values) -> dict[str, float]:
        """All parameter values in the units of their descriptions, defaults filled in.

        Raises:
            DomainError: For an unknown parameter or a value outside its range.
        """
        every = (*self.parameters, *RANGE_ENDS)
        known = {p.id: p for p in every}
        for name, value in given.items():
            if name not in known:
                raise DomainError(
                    f"parameters.{name}", value, f"{self.name} has the parameters {', '.join(known)}", "Use one of these names"
                )
            p = known[name]
            if p.choices and value not in p.choices:
                offered = ", ".join(f"{k:g} ({v})" for k, v in p.choices.items())
                raise DomainError(f"parameters.{name}", value, f"{p.name} is one of {offered}", "Pick one of these")
            if not p.low <= value <= p.high:
                raise DomainError(
                    f"parameters.{name}", value, f"{p.name} runs from {p.low:g} to {p.high:g}", "Pick a value in this range"
                )
        return {p.id: float(given.get(p.id, p.default)) for p in every}
