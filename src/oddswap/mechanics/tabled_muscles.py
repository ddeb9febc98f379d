"""Muscles of trunk, wrist and shoulder blades: straight from figures, with lower confidence."""

from __future__ import annotations

from typing import Any

import numpy as np

from oddswap.mechanics.body import tables
from oddswap.mechanics.muscle_regions import MuscleState, Region
from oddswap.mechanics.types import Floats


class HingeMuscles(Region):
    """Muscles about one hinge, a steady arm each: abs, obliques and erectors of both sides about the middle of the lower back;
    those that bend the hand about the wrist."""

    def prepare(self, arrays: Any) -> None:
        """Figures straight from the settings."""
        self._arm = np.array([e["arm_mm"] for e in self.entries.values()]) * 1e-3
        self.rest_length = np.array([e["rest_mm"] for e in self.entries.values()]) * 1e-3
        self.strongest = self.by_area()

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; the one coordinate is flexion."""
        flexion = coords[..., 0]
        moment_arm = np.broadcast_to(self._arm[:, None], (*flexion.shape, len(self.names), 1)).copy()
        return MuscleState(self.rest_length - flexion[..., None] * self._arm, moment_arm)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
        low, high = tables()["range"][self.name]
        return [np.radians(np.linspace(low, high, 9))[:, None]]


class ScapulaMuscles(Region):
    """Straight lines from trunk to shoulder blade and collarbone about the collarbone's inner end; lower confidence."""

    def prepare(self, arrays: Any) -> None:
        """Origins and insertions from that point, torso frame, m."""
        self._origin = np.array([e["origin_m"] for e in self.entries.values()])
        self._insertion = np.array([e["insertion_m"] for e in self.entries.values()])
        self.strongest = self.by_area()
        self.rest_length = np.linalg.norm(self._insertion - self._origin, axis=-1)

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; coordinates are the shoulder blades's turn forward and up, radians."""
        forward, up = coords[..., 0, None], coords[..., 1, None]
        # Small turns: forward about z, up about minus x.
        x, y, z = np.moveaxis(self._insertion, -1, 0)
        at = np.stack([x - forward * y, y + forward * x + up * z, z - up * y], axis=-1)
        line = self._origin - at
        length = np.linalg.norm(line, axis=-1)
        moment = np.cross(at, line / length[..., None])
        return MuscleState(length, np.stack([-moment[..., 0], moment[..., 2]], axis=-1))

    def fibres(self) -> Floats:
        """Optimum fibre and tendon, m, (muscle, 2): fibres nearly as long as the muscle."""
        return np.stack([0.8 * self.rest_length, 0.2 * self.rest_length], axis=-1)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
        norm = tables()["range"]
        spans = (np.radians(np.linspace(norm[k][0], norm[k][1], 9)) for k in ("scapula_forward", "scapula_up"))
        return [np.stack([g.ravel() for g in np.meshgrid(*spans)], axis=-1)]
