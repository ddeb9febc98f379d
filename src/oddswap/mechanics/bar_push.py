"""What two hands press along a rigid bar, or a floor, that both of them hold."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from oddswap.mechanics.arm import dot
from oddswap.mechanics.body import tables
from oddswap.mechanics.types import Floats

if TYPE_CHECKING:
    from oddswap.mechanics.motion import Motion

ELBOW = 3
"""Which of an arm's axes is the elbow's hinge."""


def press_along_bar(motion: Motion, force: Floats) -> Floats:
    """Forces on a hand of a motion, N, (..., pose, xyz), with what it presses along a rigid bar that both hands hold.

    The two hands' pushes along the bar balance each other, so that they are free: people push so that the arm has least
    to do, which is where the sum of the squared torques at shoulder and elbow, each over what the arm can give, is
    least, within what a grip holds, and not so far that the wrong side of the elbow would have to work.
    """
    if motion.eased or "arm" not in motion.muscles:
        return force
    moments, positive, negative = motion.hand_moments
    asked = (moments @ force[..., None])[..., 0]
    can = np.where(asked > 0, positive, negative)
    along, asked = moments[..., 1] / can, asked / can
    free = -(along * asked).sum(axis=-1) / np.maximum((along * along).sum(axis=-1), 1e-12)
    if motion.movement.led in ("press", "pull"):
        # A press is for the triceps and a pull for the flexors, so far as either has to work.
        way = 1.0 if motion.movement.led == "press" else -1.0
        bare, more = way * asked[..., ELBOW], way * along[..., ELBOW]
        least = np.minimum(bare, 0.0)
        with np.errstate(divide="ignore", invalid="ignore"):
            free = np.where(bare + more * free < least, (least - bare) / more, free)
    most = tables()["leading"]["most_along_bar"] * np.sqrt(dot(force, force))
    out = force.copy()
    out[..., 1] += np.clip(free, -most, most)
    return out
