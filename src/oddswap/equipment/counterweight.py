"""The counterweight that lifts part of the body: an assisting platform under knees or feet."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Name, Real
from oddswap.equipment.base.item import Bearing, KitItem
from oddswap.equipment.base.law import Attachment, Law
from oddswap.equipment.base.setting import Setting, SettingRow
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.types import Floats
from oddswap.quantities import kg


@dataclass(frozen=True)
class Lift(Law):
    """Half the counterweight up under each leg, N per kg."""

    def force(self, grip: Floats) -> Floats:
        """The same at every pose, (1, pose, xyz)."""
        out = np.zeros((1, *grip.shape))
        out[..., 2] = GRAVITY / 2
        return out

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Speeding up the counterweight, N per kg, (1, pose, xyz)."""
        return np.asarray(-acceleration[None] / 2)


@dataclass(frozen=True)
class AssistMachine(KitItem):
    """A machine with a platform that takes weight off pull-ups and dips."""

    id: Name
    name: Name
    masses_kg: Annotated[list[Annotated[Real, Gt(0), Le(200)]], Len(1, 100)] = field(metadata={"description": "Pins, kg"})
    kind: Literal["assist"] = "assist"
    searched: ClassVar[bool] = False  # it takes load off: chosen by the coach
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return 1.4, 1.3

    def serves(self, bearing: Bearing) -> bool:
        """Nothing: what can be put on is looked for."""
        return False

    def amounts(self) -> Floats:
        """Counterweights, kg."""
        return np.unique(np.array(self.masses_kg))


@dataclass(frozen=True)
class AssistHold(Setting):
    """Knees or feet on the platform."""

    machine: AssistMachine
    counterweight_kg: Annotated[Real, Gt(0), Le(200)] = field(metadata={"description": "Pin, kg"})
    attachment: Attachment = field(default=Attachment(at="shank"), metadata={"description": "What rests on the platform"})
    kind: Literal["assist"] = "assist"
    item_field: ClassVar[str] = "machine"
    __pydantic_config__ = EDGE

    def law(self) -> Lift:
        """Its lift."""
        return Lift()

    @property
    def amount(self) -> float:
        """Counterweight, kg."""
        return self.counterweight_kg

    @property
    def steadies(self) -> bool:
        """Knees and feet find their place on it."""
        return True

    @property
    def both_sides(self) -> bool:
        """Always both."""
        return True

    def with_amount(self, amount: float) -> AssistHold:
        """With another amount, in the unit of ``amount``."""
        return replace(self, counterweight_kg=amount)

    def amount_words(self, amount: float) -> str:
        """For example ``30 kg off``."""
        return f"{kg(amount)} off"

    def rows(self) -> list[SettingRow]:
        """The platform."""
        return [SettingRow("Assist", f"{self.machine.name}, {self.amount_words(self.amount)}", "counterweight_kg")]

    def short(self) -> str:
        """The machine."""
        return self.machine.name

    def cautions(self) -> list[str]:
        """Stepping off."""
        return ["Step off to a foothold first: the platform rises when it is let go."]

    def prop(self) -> dict[str, Any]:
        """A platform."""
        return {"kind": "platform"}


SETTING, KIT = AssistHold, AssistMachine
