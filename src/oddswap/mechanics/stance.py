"""How the client is carried: standing, seated, bent over, chest-supported, kneeling, hanging, or on hands and feet."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

StanceKind = Literal[
    "standing", "bench", "bent_over", "chest_supported", "kneeling", "hanging", "floor", "hip_pad", "sitting", "lying"
]

UPRIGHT = np.radians(89.0)
"""Who sits this upright on a bench sits on its end, clear of the back rest, radians."""


@dataclass(frozen=True)
class Stance:
    """What carries the body.

    Args:
        kind: ``standing``; ``bench`` seated or lying with a back rest; ``bent_over`` standing bent over;
            ``chest_supported`` lying on the front on a bench; ``kneeling``; ``hanging`` from the hands; ``floor`` on hands
            and feet; ``hip_pad`` hips on a pad, ankles held, face to the floor; ``sitting`` on the floor, feet braced ahead;
            ``lying`` on the back on the floor.
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
    def pitch(self) -> float:
        """How far the torso is turned forward from upright, radians; backward is negative."""
        off = float(np.pi / 2 - self.recline)
        return {"bench": -off, "bent_over": off, "chest_supported": off, "hip_pad": off, "lying": -np.pi / 2}.get(
            self.kind, 0.0
        )
