"""Selectorised machines and sleds: a stack through a cam about an axis, a linkage along the lift's path, or a rail."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Day, Name, Real
from oddswap.equipment.base.item import Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment, Law
from oddswap.equipment.base.setting import Placements, Setting, SettingRow
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.arm import cross, unit
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.movement import ON_FEET, Variant
from oddswap.mechanics.pchip import interpolate
from oddswap.mechanics.types import Floats
from oddswap.quantities import kg

CamShape = Literal["flat", "rising", "falling", "peaked", "measured"]
CAMS: dict[str, tuple[float, float, float]] = {
    "flat": (1.0, 1.0, 1.0),
    "rising": (0.7, 1.0, 1.25),
    "falling": (1.25, 1.0, 0.7),
    "peaked": (0.75, 1.15, 0.75),
}
"""Radius at the start, middle and end of the travel, parts of the nominal: our own estimates of usual cams."""
SEATED_DEG = 85.0
"""Back rest of a machine that one sits upright on, degrees to the floor."""


@dataclass(frozen=True)
class Guided(Law):
    """Force of a machine on the contact, per kg of stack.

    About an axis: torque = stack x g x cam radius, so force = torque over the contact's distance from the axis, against the
    way the contact goes. Along a path: force = stack x g x ratio against the path. On a rail: along the rail, m g sin(angle).

    Args:
        guide: ``axis``, ``path`` or ``rail``.
        centre: A point of the axis, m, (pose, xyz), for ``axis``.
        axis: Its direction, (xyz,), or the rail's upward direction for ``rail``.
        cam: Radius m (axis) or ratio (path), at even parts of the travel, (node,).
        sides: How many limbs share the machine.
        mass: Moving mass per kg of stack.
        line: Where a path's handles run straight, keeping their distance, unit, (xyz,); None where they follow the contact.
    """

    guide: str
    centre: Floats
    axis: Floats
    cam: Floats
    sides: int = 2
    mass: float = 1.0
    line: Floats | None = None

    def _way(self, grip: Floats) -> Floats:
        """The way the contact goes, unit, (pose, xyz)."""
        step = np.gradient(grip, axis=-2)
        if self.guide == "axis":
            arm = grip - self.centre
            round_about = unit(cross(np.broadcast_to(self.axis, arm.shape), arm))
            along = (step * round_about).sum(axis=(-1, -2))
            return np.asarray(round_about * (1.0 if along >= 0 else -1.0))
        return unit(step) if self.line is None else np.broadcast_to(self.line, grip.shape)

    def _radius(self, grip: Floats) -> Floats:
        arm = grip - self.centre
        return np.asarray(np.linalg.norm(arm - (arm @ self.axis)[..., None] * self.axis, axis=-1))

    def transmission(self, grip: Floats) -> Floats:
        """Force on the contact over stack weight, all limbs together, (pose,)."""
        travelled = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(grip, axis=-2), axis=-1))])
        part = travelled / max(float(travelled[-1]), 1e-9)
        cam = interpolate(np.linspace(0, 1, len(self.cam)), self.cam, part)
        return np.asarray(cam / self._radius(grip) if self.guide == "axis" else cam)

    def force(self, grip: Floats) -> Floats:
        """N per kg on each limb, (1, pose, xyz)."""
        if self.guide == "rail":
            # The seat is set so that the contact goes along the rail.
            return np.asarray(-GRAVITY * self.axis[2] / self.sides * self._way(grip)[None])
        return np.asarray(-GRAVITY / self.sides * (self.transmission(grip)[..., None] * self._way(grip))[None])

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Force, N per kg, that speeding up the stack adds, (1, pose, xyz)."""
        if self.guide == "rail":
            return np.asarray(-(acceleration @ self.axis)[..., None] * self.axis / self.sides)[None]
        way, ratio = self._way(grip), self.transmission(grip)[..., None]
        along = (acceleration * way).sum(axis=-1, keepdims=True)
        return np.asarray(-self.mass * ratio**2 * along * way / self.sides)[None]


@dataclass(frozen=True)
class Machine(KitItem):
    """A machine for one movement."""

    id: Name
    name: Name
    movement: Name = field(metadata={"description": "Movement id that it is built for"})
    masses_kg: Annotated[list[Annotated[Real, Gt(0), Le(500)]], Len(1, 200)] = field(
        metadata={"description": "Pins, or plates, kg"}
    )
    guide: Literal["axis", "path", "rail"] = field(
        default="axis",
        metadata={
            "description": "Turns about an axis in line with the joint; a linkage that follows the lift; a sled on rails"
        },
    )
    cam: CamShape = field(default="flat", metadata={"description": "How the resistance runs along the travel"})
    measured: Annotated[list[Annotated[Real, Gt(0), Le(5)]], Len(0, 50)] = field(
        default_factory=list, metadata={"description": "Measured cam at even parts of the travel, parts of its mean"}
    )
    radius_cm: Annotated[Real, Gt(0), Le(60)] = field(default=12.0, metadata={"description": "Cam radius about an axis, cm"})
    ratio: Annotated[Real, Gt(0), Le(3)] = field(default=1.0, metadata={"description": "Force over stack weight along a path"})
    rail_deg: Annotated[Real, Ge(0), Le(90)] = field(default=45.0, metadata={"description": "Rails to the floor, degrees"})
    tare_kg: Annotated[Real, Ge(0), Le(150)] = field(default=0.0, metadata={"description": "Sled without plates, kg"})
    recline_deg: Annotated[Real, Ge(0), Le(90)] = field(
        default=90.0, metadata={"description": "Back rest to the floor, degrees"}
    )
    converges: bool = field(
        default=False, metadata={"description": "Whether a press's handles come together on the way, instead of keeping apart"}
    )
    one_side: bool = field(default=False, metadata={"description": "Whether each side works alone"})
    angle_deg: Annotated[Real, Ge(-20), Le(90)] = field(
        default=0.0,
        metadata={"description": "Where a press goes, from straight ahead of the trunk (0) to overhead, degrees"},
    )
    stance: Literal["any", "standing", "bench", "chest_supported", "kneeling", "sitting", "arm_pad"] = field(
        default="any",
        metadata={
            "description": "How the body rests on it: bench where a back rest carries it, chest_supported lying on the front, "
            "arm_pad with the upper arms on a pad as steep as the rest"
        },
    )
    measured_on: Day = field(default="", metadata={"description": "Day it was measured; empty where figures are printed"})
    spread_pct: Annotated[Real, Ge(0), Le(100)] = field(default=0.0, metadata={"description": "Scatter of that measurement, %"})
    kind: Literal["machine"] = "machine"
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 1.5, 1.2

    def verify(self) -> None:
        """A measured cam needs its points; what carries the body along turns about none of its joints."""
        if self.guide == "axis" and movement(self.movement).machine_only:
            limit = "a sled on rails, or a linkage that follows the lift"
            raise DomainError("guide", self.guide, limit, "Pick one of these")
        if self.cam == "measured" and len(self.measured) < 3:
            raise DomainError(
                "measured", self.measured, "a measured cam has at least three points", "Measure it, or pick a shape"
            )

    @property
    def built_for(self) -> str:
        """The movement it is built for."""
        return self.movement

    @property
    def ways(self) -> tuple[Variant, ...]:
        """See ``KitItem``: its seat, back rest and pads are its own, the grips are the client's."""
        return ways_on(self.movement, self.stance, float(self.recline_deg), float(self.angle_deg))

    def serves(self, bearing: Bearing) -> bool:
        """Its own movement, resting on it as it is built."""
        return bearing.movement == self.movement and any(is_way(way, bearing.variant) for way in self.ways)

    def amounts(self) -> Floats:
        """Stack, or plates with the sled, kg."""
        return np.unique(np.array(self.masses_kg)) + self.tare_kg

    def law(self, centre: Floats, axis: Floats, line: Floats, both: bool = True) -> Guided:
        """The law about a joint's axis, (pose, xyz) and (xyz,), or along the line that a movement goes, (xyz,)."""
        shape = np.array(self.measured if self.cam == "measured" else CAMS[self.cam])
        nominal = self.radius_cm / 100 if self.guide == "axis" else self.ratio
        if self.guide == "rail":
            a = np.radians(self.rail_deg)
            axis = np.array([np.cos(a), 0.0, np.sin(a)])
        return Guided(self.guide, centre, axis, shape * nominal, 2 if both else 1, line=line if self.straight else None)

    @property
    def straight(self) -> bool:
        """Whether its handles run straight and keep their distance: on a path that one presses, pulls, stands under or hangs a
        belt along."""
        if self.guide != "path" or self.converges:
            return False
        kind = movement(self.movement)
        return kind.led in ("pull", "press") or kind.support(kind.complete({})).base in ON_FEET

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """One, for the movement it is built for."""
        if scene.movement == self.movement:
            law = self.law(scene.hinge, scene.hinge_axis, scene.line, scene.both and scene.contact not in ("back", "hips"))
            yield Placements(
                law, 1, lambda i, amount: MachineHold(self, amount - self.tare_kg, "both" if scene.both else "one")
            )


@lru_cache(maxsize=512)
def ways_on(built_for: str, stance: str, recline_deg: float, angle_deg: float) -> tuple[Variant, ...]:
    """How a movement is done on a machine that is built for it.

    The way that the movement itself has of resting so where it has one, as usual as can be, else its usual way with the body
    carried so; in every grip that the movement knows.

    Args:
        built_for: Movement id.
        stance: How the body rests on it.
        recline_deg: Its back rest, or its arm pad, to the floor.
        angle_deg: Where it presses to, from straight ahead of the trunk.
    """
    kind = movement(built_for)
    pad, rests = stance == "arm_pad", stance if stance not in ("any", "arm_pad") else kind.stances[0]
    free = [p.id for p in kind.parameters if p.on_machine == "free"]
    aim = {p.id: angle_deg for p in kind.parameters if p.on_machine == "aim"}
    own = [v for v in kind.variants((), (recline_deg,) if pad else ()) if v.pad == pad and (pad or v.stance == rests)]
    back = min(recline_deg, SEATED_DEG) if rests in ("bench", "chest_supported") else 90.0

    def fixed(v: Variant) -> dict[str, float]:
        return {name: value for name, value in kind.complete(v.values).items() if name in kind.varied and name not in free}

    plain = fixed(Variant({}))
    # Of its own ways the one nearest the movement's defaults: with the arm beside the body rather than behind it.
    built = min(map(fixed, own), key=lambda f: sum(f[name] != value for name, value in plain.items()), default=plain) | aim
    out: dict[object, Variant] = {}
    for v in own or [*kind.variants((back,), ())] or [Variant({})]:
        held = {name: kind.complete(v.values)[name] for name in free}
        way = replace(v, values=built | held) if own else Variant(built | held, rests, back)
        out.setdefault((tuple(way.values.items()), way.recline_deg), way)
    return tuple(out.values())


def is_way(way: Variant, variant: Variant) -> bool:
    """Whether a variant is done a machine's way, whatever range or width a line asks of it besides."""
    rests = way.stance == variant.stance and way.pad == variant.pad
    lies = way.stance not in ("bench", "chest_supported") or abs(way.recline_deg - variant.recline_deg) < 1.0
    return rests and lies and all(variant.values.get(name, value) == value for name, value in way.values.items())


@dataclass(frozen=True)
class MachineHold(Setting):
    """A machine, its seat set so that its axis meets the joint."""

    machine: Machine
    stack_kg: Annotated[Real, Gt(0), Le(500)] = field(metadata={"description": "Pin or plates, kg"})
    sides: Literal["both", "one"] = "both"
    attachment: Attachment = USUAL
    kind: Literal["machine"] = "machine"
    item_field: ClassVar[str] = "machine"
    moves_with_pose: ClassVar[bool] = True
    __pydantic_config__ = EDGE

    @property
    def carries_across(self) -> bool:
        """A path's handles are guided."""
        return self.machine.guide == "path"

    @property
    def guides_hand(self) -> bool:
        """Where it presses or pulls along a path."""
        return self.machine.straight

    @property
    def known(self) -> bool:
        """A cam's radius or a path's ratio only once it was measured; a rail's slope is seen."""
        return bool(self.machine.measured_on) or self.machine.guide == "rail"

    def with_item(self, item: Machine) -> MachineHold | None:
        """On another machine for the same movement, done in the same way."""
        alike = (item.movement, item.stance) == (self.machine.movement, self.machine.stance)
        return replace(self, machine=item) if alike else None

    def verify(self) -> None:
        """The pin must exist."""
        try:
            self.machine.verify()
        except DomainError as error:
            raise error.at("machine") from None
        if not np.isclose(self.machine.masses_kg, self.stack_kg).any():
            pins = f"{kg(min(self.machine.masses_kg))} to {kg(max(self.machine.masses_kg))}"
            raise DomainError("stack_kg", self.stack_kg, f"{self.machine.name} has pins from {pins}", "Pick one of these")

    def law_on(self, hinge: Floats, axis: Floats, line: Floats, shared: bool = True) -> Guided:
        """See ``Setting``."""
        return self.machine.law(hinge, axis, line, self.sides == "both" and shared)

    @property
    def amount(self) -> float:
        """Stack, kg."""
        return self.stack_kg + self.machine.tare_kg

    @property
    def both_sides(self) -> bool:
        """Whether both sides work."""
        return self.sides == "both"

    def on_one_side(self) -> MachineHold:
        """One limb on it."""
        return replace(self, sides="one")

    def with_amount(self, amount: float) -> MachineHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, stack_kg=amount - self.machine.tare_kg)

    def amount_words(self, amount: float) -> str:
        """For example ``45 kg pin``."""
        return f"{kg(amount - self.machine.tare_kg)} {'on the sled' if self.machine.guide == 'rail' else 'pin'}"

    def rows(self) -> list[SettingRow]:
        """The machine and its seat."""
        axis = "; seat so that its axis meets the joint" if self.machine.guide == "axis" else ""
        return [SettingRow("Machine", f"{self.machine.name}{axis}", "machine")]

    def short(self) -> str:
        """The machine."""
        return self.machine.name

    def cautions(self) -> list[str]:
        """Maker's limits."""
        return ["Set seat and stops before loading, and keep to the maker's limits."]

    def prop(self) -> dict[str, Any]:
        """A pad at the contact."""
        return {"kind": "machine", "guide": self.machine.guide}


SETTING, KIT = MachineHold, Machine
