"""Whether two lifts are of one kind, as a part of the match: a press for a press."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import VariantMechanics
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.types import Floats


def kinds_of(variants: Sequence[VariantMechanics]) -> LiftKind:
    """The kinds of lift of variants, (variant, ...) each."""
    each = [v.lift_kind for v in variants]
    return LiftKind(np.stack([k.actions for k in each]), np.stack([k.shortening for k in each]))


def kind_part(prescription: PrescriptionProfile, variants: Sequence[VariantMechanics], kinds: LiftKind | None = None) -> Floats:
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

    prices = np.full(len(variants), float(rule["other"]))
    for i, mechanics in enumerate(variants):
        if mechanics.kind.id == line.movement:
            changed = sum(abs(mechanics.variant.values[name] - own[name]) / span for name, span in kept.items())
            prices[i] = 1.0 - rule["grip"] * min(changed, 1.0)
        if mechanics.motion.support.one_foot != prescription.profile.motion.support.one_foot:
            prices[i] *= rule["one_foot"]
    return prices * prescription.lift_kind.likeness(kinds_of(variants) if kinds is None else kinds)
