"""How the client is carried: standing, seated, bent over, against a pad, kneeling, hanging, or on hands and feet."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

StanceKind = Literal[
    "standing", "bench", "bent_over", "chest_supported", "kneeling", "half_kneeling", "hanging", "floor", "hip_pad", "sitting",
    "lying", "holding_on", "back_rested", "chest_rested",
]  # fmt: skip

STANDING, KNEELING = ("standing", "holding_on", "back_rested", "chest_rested"), ("kneeling", "half_kneeling")
"""Stances on both feet with an upright trunk, and on one knee or both; the usual one first."""
ONE_HANDED = ("holding_on",)
"""Stances in which a hand is needed to hold on, so that the other works alone."""
UPRIGHT = np.radians(89.0)
"""Who sits this upright on a bench sits on its end, clear of the back rest, radians."""


@dataclass(frozen=True)
class Stance:
    """What carries the body.

    Args:
        kind: ``standing``; ``bench`` seated or lying with a back rest; ``bent_over`` standing bent over;
            ``chest_supported`` lying on the front on a bench; ``kneeling``; ``half_kneeling`` on the working side's knee, the
            other foot ahead; ``hanging`` from the hands; ``floor`` on hands and feet; ``hip_pad`` hips on a pad, ankles
            held, face to the floor; ``sitting`` on the floor, feet braced ahead; ``lying`` on the back on the floor; standing,
            ``holding_on`` with the free hand to an upright beside; ``back_rested`` and ``chest_rested`` standing against a
            wall or a pad that stands upright.
        recline: Angle of the spine to the floor, radians; a right angle is upright, 0 lies flat. Bent over and
            chest-supported it is counted forward, on a bench backward.
        seat: Height of the bench's seat, m.
        staggered: Whether the feet stand one before the other, for stability against a pull.
    """

    kind: StanceKind = "standing"
    recline: float = np.pi / 2
    seat: float = 0.45
    staggered: bool = False

    @property
    def rested(self) -> float:
        """Where somebody who stands leans on something that bears no pull away from it: 1 behind, -1 ahead, 0 nowhere."""
        return {"back_rested": 1.0, "chest_rested": -1.0}.get(self.kind, 0.0)

    @property
    def pitch(self) -> float:
        """How far the torso is turned forward from upright, radians; backward is negative."""
        off = float(np.pi / 2 - self.recline)
        return {"bench": -off, "bent_over": off, "chest_supported": off, "hip_pad": off, "lying": -np.pi / 2}.get(
            self.kind, 0.0
        )
