"""What a variant's mechanics follow from, and the lines that a pull's arm may hang in."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from oddswap.equipment.base.law import Attachment
from oddswap.equipment.base.setting import Setting
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import AVERAGE, SetUp, guide_lead
from oddswap.exercises import movement
from oddswap.mechanics.arm import cross, unit
from oddswap.mechanics.body import tables
from oddswap.mechanics.leading import Lead, far_along
from oddswap.mechanics.movement import Variant
from oddswap.mechanics.types import Floats

FOLLOWING = ("pull", "press")
"""How a forearm may follow its load."""


@dataclass(frozen=True)
class VariantKey:
    """What a variant's mechanics follow from, besides the client.

    Args:
        movement: Movement id.
        values: Its parameter values, by name, sorted.
        stance: How the body is carried.
        recline_deg: Spine to floor, degrees.
        pad: Whether an arm pad carries the upper arm.
        seat_cm: Height of the seat, cm.
        load_kg: Mass at the contact that the body's balance is found with, at each hand where hands hold it; 0 without one.
        lead: What a load makes of the forearm's direction; None where it goes the movement's own way.
        eased: Whether the forearm follows whatever line of pull comes: near enough while a load's place is sought.
    """

    movement: str
    values: tuple[tuple[str, float], ...]
    stance: str
    recline_deg: float
    pad: bool
    seat_cm: float
    load_kg: float = 0.0
    lead: Lead | None = None
    eased: bool = False

    @cached_property
    def _hash(self) -> int:
        return hash(
            (self.movement, self.values, self.stance, self.recline_deg, self.pad, self.seat_cm, self.load_kg, self.lead)
        )

    def __hash__(self) -> int:
        """Computed once: keys are looked up by the million."""
        return self._hash

    @staticmethod
    def of(kind: str, variant: Variant, seat_cm: float, load_kg: float = 0.0) -> VariantKey:
        """The key of a movement's variant, its forearm following whatever load comes if it follows any."""
        values, eased = tuple(sorted(variant.values.items())), movement(kind).led in FOLLOWING
        stance, recline = variant.stance, variant.recline_deg
        return VariantKey(kind, values, stance, recline, variant.pad, seat_cm, float(load_kg), eased=eased)

    def led_by(self, source: Setting | None) -> VariantKey:
        """The key of the variant that a kind of source is placed on: eased, unless a guide of its own leads the hand."""
        if source is not None and source.guides_hand and movement(self.movement).led in FOLLOWING:
            return replace(self, lead=guide_lead(self.set_up()), eased=False)
        eased = source is not None and source.lead is not None and movement(self.movement).led in FOLLOWING
        return self if eased else replace(self, lead=None, eased=False)

    @property
    def variant(self) -> Variant:
        """The movement's variant."""
        return Variant(dict(self.values), self.stance, self.recline_deg, self.pad)

    def set_up(self) -> SetUp:
        """The variant as a set-up, under the load that its balance is found with."""
        contact = movement(self.movement).support(dict(self.values)).contact
        held = (DumbbellHold(self.load_kg, "both", held=Attachment(contact)),) if self.load_kg else ()
        return SetUp(self.movement, held, dict(self.values), self.stance, self.recline_deg, self.seat_cm, self.pad)


def spread_leads(key: VariantKey, around: bool = True) -> list[VariantKey]:
    """A pull's variant with its arm hanging in the movement's own line, plumb, and in lines ``around`` its own; others as they
    are."""
    kind = movement(key.movement)
    if kind.led != "pull":
        return [key]
    start, axes = _start_of(key)
    out = [start]
    for turned in np.radians(rules("reach")["pull_ring_deg"]) * np.array([1.0, -1.0] if around else []):
        out += [np.cos(turned) * start + np.sin(turned) * axis for axis in axes]
    leads = [far_along(way) for way in out]
    if -start[2] > np.cos(np.radians(tables()["leading"]["most_swing_deg"])):
        leads.append(Lead())
    return [replace(key, lead=lead) for lead in leads]


@lru_cache(maxsize=4000)
def _start_of(key: VariantKey) -> tuple[Floats, Floats]:
    """Where a movement's own path begins: the upper arm's direction in the world, (xyz,), and two square to it, (2, xyz)."""
    bare = replace(key, lead=None).set_up().perform(AVERAGE, 2, muscles=False)
    start = unit(bare.arm.elbow - bare.arm.shoulder)[0]
    side = unit(cross(start, np.array([0.0, 1.0, 0.0])))
    return start, np.stack([side, cross(side, start)])
