"""Two-ended attachments: how the pull of one cable divides over two hands."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.arm import unit
from oddswap.mechanics.types import Floats


def strand_tensions(junction: Floats, hands: Floats, pull: Floats) -> Floats:
    """Tension of each strand of a rope or split handle, N, (..., hand).

    Force balance at the junction, ``sum of t_i d_i + pull = 0`` with d_i the direction to hand i, by least squares; for
    two hands placed evenly about the line of pull this is W / (2 cos(spread / 2)) each.

    Args:
        junction: Where the strands meet the cable, m, (..., xyz).
        hands: Where the hands hold them, m, (..., hand, xyz).
        pull: Force of the cable on the junction, N, (..., xyz).

    Raises:
        ValueError: If the strands cannot hold the pull because hands and pull do not lie in balance.
    """
    directions = unit(hands - junction[..., None, :])
    gram = np.einsum("...ix,...jx->...ij", directions, directions)
    right = -np.einsum("...ix,...x->...i", directions, pull)
    tensions = np.linalg.solve(gram, right[..., None])[..., 0]
    left_over = np.einsum("...i,...ix->...x", tensions, directions) + pull
    if np.any(np.linalg.norm(left_over, axis=-1) > 1e-6 * np.linalg.norm(pull, axis=-1)) or np.any(tensions < 0):
        raise ValueError("the junction is not in balance: it must lie between the hands, in one plane with the line of pull")
    return np.asarray(tensions)
