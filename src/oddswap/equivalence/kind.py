"""Whether two lifts are of one kind, as a part of the match: a press for a press."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import VariantMechanics
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.types import Bools, Floats


@dataclass(frozen=True)
class Kinds:
    """What variants have of their kinds of lift, whatever they are held against.

    Args:
        lifts: (variant, ...) each.
        movements: Ids, (variant,).
        one_foot: Whether one foot alone is stood on, (variant,).
    """

    lifts: LiftKind
    movements: np.ndarray[Any, Any]
    one_foot: Bools

    @staticmethod
    def of(variants: Sequence[VariantMechanics]) -> Kinds:
        """Of variants."""
        each = [v.lift_kind for v in variants]
        lifts = LiftKind(np.stack([k.actions for k in each]), np.stack([k.shortening for k in each]))
        one_foot = np.array([v.motion.support.one_foot for v in variants])
        return Kinds(lifts, np.array([v.kind.id for v in variants]), one_foot)


def kind_part(prescription: PrescriptionProfile, variants: Sequence[VariantMechanics], kinds: Kinds | None = None) -> Floats:
    """How much variants are the prescribed kind of lift, 0 to 1, (variant,).

    Another movement is another lift, however alike; a grip that the coach chose is given up at a price, and so is standing on
    both feet, or on one.

    Args:
        prescription: What they are held against.
        variants: The variants.
        kinds: Their kinds, where they are known.
    """
    rule, line = rules("lenses")["kind"], prescription.line.set_up
    own = line.variant().values
    kept = {p.id: p.high - p.low for p in movement(line.movement).parameters if p.kept}
    kinds = Kinds.of(variants) if kinds is None else kinds

    prices = np.full(len(variants), float(rule["other"]))
    for i in np.flatnonzero(kinds.movements == line.movement).tolist():
        values = variants[i].variant.values
        changed = sum(abs(values[name] - own[name]) / span for name, span in kept.items())
        prices[i] = 1.0 - rule["grip"] * min(changed, 1.0)
    prices[kinds.one_foot != prescription.profile.motion.support.one_foot] *= rule["one_foot"]
    return prices * prescription.lift_kind.likeness(kinds.lifts)
