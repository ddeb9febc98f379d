"""Laws of what pulls along a line: cables and bands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from oddswap.equipment.base.law import Law
from oddswap.mechanics.arm import greatest, norm, unit
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.limits import Limit
from oddswap.mechanics.pchip import interpolate
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm

ROPE_SPREAD = 0.9
"""Part of a strand's length that a hand may be off the middle: there it is pulled by more than the whole cable's tension."""


@dataclass(frozen=True)
class Cable(Law):
    """Cable tension along the line to the pulley; amount in kg on the stack.

    Args:
        pulley: Where the cable leaves the column, m, (placement..., xyz).
        ratio: Tension over stack weight.
        parked: Length from pulley to hand when the stack rests, m.
        travel: How far the hand can draw the cable out, m.
        ends: One hand on the cable's end; or both hands on a ``bar``, or on the two strands of a ``rope``.
        strand: Length of a rope's strand, m.
        friction: Part of the tension that the pulleys add on the way up.
        mass: Moving mass per kg of stack: 1, or 0 where air or a motor makes the force.
        overhang: How far the pulley stands out before its column, m.
    """

    placed_by: ClassVar[str] = "pulley"
    pulley: Floats
    ratio: float
    parked: float
    travel: float
    ends: str = "hand"
    strand: float = 0.30
    friction: float = 0.0
    mass: float = 1.0
    overhang: float = 0.0

    def force(self, grip: Floats) -> Floats:
        """Tension times direction, N per kg of stack, (placement..., pose, xyz).

        Two hands share the tension: on a bar each holds half, along the cable; on a rope each strand runs from hand to
        junction and holds T / (2 cos(spread / 2)).
        """
        tension = GRAVITY * self.ratio * (1 + self.friction)
        far = self.pulley[..., None, :]
        if self.ends == "hand":
            return np.asarray(tension * unit(far - grip))
        middle = grip * np.array([1.0, 0.0, 1.0])
        line = unit(far - middle)
        if self.ends == "bar":
            return np.asarray(tension / 2 * line)
        # The junction hangs on the line from between the hands to the pulley, a strand's length from each hand.
        apart = np.minimum(np.abs(grip[..., 1]), 0.97 * self.strand)
        ahead = np.sqrt(self.strand**2 - apart**2)[..., None]
        return np.asarray(tension / 2 * (middle + ahead * line - grip) / ahead)

    def leading(self, forearm: float) -> Cable:
        """See ``Law``: a strand leads the forearm into its line, and pulls at the elbow like one that is longer by it."""
        return replace(self, strand=self.strand + forearm) if self.ends == "rope" else self

    def inertia(self, grip: Floats, velocity: Floats, acceleration: Floats) -> Floats:
        """Force, N per kg of stack, that speeding up the stack adds, (placement..., pose, xyz).

        The cable's length L grows by L'' = -a . d + |v across d|^2 / L with d from hand to pulley; the stack moves ratio
        times as far, and its inertia reaches the hand by the ratio again.
        """
        line = unit(self.pulley[..., None, :] - grip)
        across = (velocity * velocity).sum(axis=-1) - (velocity * line).sum(axis=-1) ** 2
        growing = across / self.length(grip) - (line * acceleration).sum(axis=-1)
        return np.asarray(self.mass * self.ratio**2 * growing[..., None] * line)

    def length(self, grip: Floats) -> Floats:
        """Hand to pulley, m, (placement..., pose)."""
        return norm(self.pulley[..., None, :] - grip)

    def limits(self, grip: Floats) -> list[Limit]:
        """The cable must be taut throughout, most of all at the lengthened end, and the stack must not meet its stop."""
        out = self.length(grip)
        return [
            Limit(
                "forward_cm",
                -greatest(-out) - self.parked,
                f"the cable stays taut only while the hand is at least {cm(self.parked * 100)} from the pulley",
                "Stand farther off, or use a lower or higher hole",
            ),
            Limit(
                "forward_cm",
                self.parked + self.travel - greatest(out),
                f"the cable runs out {cm((self.parked + self.travel) * 100)} from the pulley",
                "Stand closer",
            ),
            *self._rope_limits(grip),
        ]

    def _rope_limits(self, grip: Floats) -> list[Limit]:
        """A strand reaches no farther than it is long, and pulls without end as it comes to lie across."""
        if self.ends != "rope":
            return []
        room = ROPE_SPREAD * self.strand - np.abs(grip[..., 1]).max(axis=-1)
        words = f"a rope's hands stay within {cm(2 * ROPE_SPREAD * self.strand * 100)} of each other"
        return [Limit("use", np.asarray(room), words, "Take handles or a bar, or keep the hands together")]

    @property
    def far_end(self) -> Floats:
        """The pulley."""
        return self.pulley


RUBBER_MODULUS = 0.40e6
"""Shear modulus of natural rubber in bands, Pa: about 0.3 to 0.5 MPa (Treloar 1975, from memory)."""


@dataclass(frozen=True)
class Elastic(Law):
    """Band force along the line to the anchor; amount in bands side by side.

    Args:
        anchor: Where the band is held, m, (placement..., xyz).
        lengths: Measured lengths, m, ascending from the slack length, (point,).
        forces: Measured forces, N, not falling, from zero, (point,).
        most: Longest allowed length, m.
        overhang: Infinite where the client's own foot holds it, which stands in nobody's way.
    """

    placed_by: ClassVar[str] = "anchor"
    anchor: Floats
    lengths: Floats
    forces: Floats
    most: float
    overhang: float = 0.0

    def tension(self, length: Floats) -> Floats:
        """Force of one band, N, at lengths (...), m: monotone cubic through the points (PCHIP), zero when slack."""
        return interpolate(self.lengths, self.forces, length)

    def force(self, grip: Floats) -> Floats:
        """Tension times direction, N per band, (placement..., pose, xyz)."""
        line = self.anchor[..., None, :] - grip
        length = norm(line)
        return np.asarray((self.tension(length) / np.maximum(length, 1e-9))[..., None] * line)

    def limits(self, grip: Floats) -> list[Limit]:
        """Taut at every pose, never over its limit."""
        length = norm(self.anchor[..., None, :] - grip)
        slack = self.lengths[0]
        return [
            Limit(
                "forward_cm",
                -greatest(-length) - slack,
                f"the band is slack under {cm(slack * 100)}",
                "Anchor it farther off, or take a shorter band",
            ),
            Limit(
                "forward_cm",
                self.most - greatest(length),
                f"this band may be stretched to {cm(self.most * 100)} at most",
                "Anchor it closer, or take a longer band",
            ),
        ]

    @property
    def far_end(self) -> Floats:
        """The anchor."""
        return self.anchor


def rubber_force(length: Floats, rest: float, area: float, modulus: float = RUBBER_MODULUS) -> Floats:
    """Pull of a rubber strand that was never measured, N.

    F = G A (x - 1 / x^2) with x = length / rest length: the neo-Hookean law of rubber elasticity in simple extension
    (Treloar 1975), zero when slack.

    Args:
        length: Lengths, m, (...).
        rest: Rest length, m.
        area: Cross-section of all strands at rest, m^2.
        modulus: Shear modulus G, Pa.
    """
    x = np.maximum(np.asarray(length, float) / rest, 1.0)
    return np.asarray(modulus * area * (x - x**-2))
