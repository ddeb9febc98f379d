"""Single settings of one kind as one batch of placements."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from oddswap.equipment.base.law import Law
from oddswap.equipment.base.setting import Placements, Setting
from oddswap.equivalence.set_up import law_on
from oddswap.equivalence.variants import VariantMechanics
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.types import Floats


def fixed_force(law: Law, point: Floats) -> Floats:
    """Force on the contact that does not grow with the amount, N, (pose, xyz)."""
    force = law.constant(point)
    return np.zeros(point.shape) if force is None else np.asarray(np.broadcast_to(force, (1, *point.shape))[0])


@dataclass(frozen=True)
class SettingBatch(Law):
    """The laws of single settings of one kind as one law with a placement axis."""

    laws: Sequence[Law]

    def force(self, grip: Floats) -> Floats:
        """See ``Law``."""
        return np.stack([np.broadcast_to(law.force(grip), (1, *grip.shape))[0] for law in self.laws])

    def constant(self, grip: Floats) -> Floats | None:
        """See ``Law``."""
        if all(law.constant(grip) is None for law in self.laws):
            return None
        return np.stack([fixed_force(law, grip) for law in self.laws])

    def leading(self, forearm: float) -> SettingBatch:
        """See ``Law``."""
        return SettingBatch([law.leading(forearm) for law in self.laws])

    def limits(self, grip: Floats) -> list[Limit]:
        """See ``Law``; settings of one kind have the same limits."""
        each = [law.limits(grip) for law in self.laws]
        return [
            Limit(same[0].field, np.array([float(np.min(c.margin)) for c in same]), same[0].words, same[0].way_out)
            for same in zip(*each, strict=True)
        ]

    @property
    def overhang(self) -> float:  # type: ignore[override]
        """See ``Law``; settings of one batch hang on one item."""
        return self.laws[0].overhang

    @property
    def far_end(self) -> Floats | None:
        """See ``Law``."""
        ends = [law.far_end for law in self.laws]
        return None if ends[0] is None else np.stack([e for e in ends if e is not None])


def batch_settings(mechanics: VariantMechanics, settings: Sequence[Setting]) -> Placements:
    """Settings of one kind as a batch of placements."""
    law: Any = SettingBatch([law_on(s, mechanics.motion) for s in settings])
    return Placements(law, len(settings), lambda i, amount: settings[i].with_amount(amount))
