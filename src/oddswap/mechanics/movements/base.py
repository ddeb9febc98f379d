"""What a movement is: a name, parameters, muscles it may target, and the path it leads the arm along."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

from oddswap.errors import DomainError
from oddswap.mechanics.arm import ArmPath
from oddswap.mechanics.types import Floats

Values = Mapping[str, float]


@dataclass(frozen=True)
class Parameter:
    """A free choice of a movement, in the unit its name ends in; ``choices`` names the values of a closed list.

    ``kept`` choices stay as prescribed when a swap is the same movement: they decide which muscles help, not the shape.
    """

    id: str
    name: str
    low: float
    high: float
    default: float
    choices: Mapping[float, str] = field(default_factory=dict)
    kept: bool = False


@dataclass(frozen=True)
class Variant:
    """One way a movement is done on given supports: parameter values, stance, and the support it needs.

    Args:
        values: Parameter values.
        stance: ``standing`` or ``bench``.
        recline_deg: Spine to floor; for a bench the notch it must have.
        pad: Whether the upper arm rests on an arm pad, which then carries the moment about the shoulder.
    """

    values: Values
    stance: str = "standing"
    recline_deg: float = 90.0
    pad: bool = False


@dataclass(frozen=True)
class Movement:
    """A movement definition; see the modules of this package.

    Args:
        id: Name in documents.
        name: Name for people.
        parameters: Its free choices.
        targets: Muscle groups it may be prescribed for.
        reading: What a person reads off the moving joint: coordinates (pose, 5) to degrees (pose,).
        reading_words: Words around that number, with ``{}`` for it.
        hinge: Joint of the figure that the moment arm is drawn from, ``right elbow`` or ``right shoulder``.
        path: The arm along the movement: values and parts of the way (pose,) to an ``ArmPath`` in the torso frame.
        variants: Ways to do it given bench notches (deg) and arm-pad angles (deg) at hand, for the search.
        title: Short words for one variant, without the load source.
        cues: What to look at to know it is right, for one variant.
        cautions: Usual cautions of this variant, by rule from its values.
    """

    id: str
    name: str
    parameters: tuple[Parameter, ...]
    targets: tuple[str, ...]
    hinge: str
    reading: Callable[[Floats], Floats]
    reading_words: str
    path: Callable[[Values, Floats], ArmPath]
    variants: Callable[[Iterable[float], Iterable[float]], Iterable[Variant]]
    title: Callable[[Variant], str]
    cues: Callable[[Variant], list[str]]
    cautions: Callable[[Variant], list[str]]

    def complete(self, given: Values) -> dict[str, float]:
        """All parameter values, defaults filled in.

        Raises:
            DomainError: For an unknown parameter or a value outside its range.
        """
        known = {p.id: p for p in self.parameters}
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
        return {p.id: float(given.get(p.id, p.default)) for p in self.parameters}
