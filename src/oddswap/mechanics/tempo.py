"""What moving quickly adds: the inertia of weights, stacks and limbs when a repetition has a tempo.

A phase of T seconds from one end to the other starts and ends at rest, s(t) = (1 - cos(pi t / T)) / 2, so that along the path
p(s) a point has the acceleration

    a = p''(s) s_dot^2 + p'(s) s_dotdot,   s_dot^2 = (pi / T)^2 s (1 - s),   s_dotdot = (pi / T)^2 (1 - 2 s) / 2.

It is largest at the turns: a dumbbell thrown out of the bottom weighs more there, and less at the top, where it flies by
itself. Air, motors and bands have no weight to throw.
"""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.types import Floats


def along_path(path: Floats, part: Floats, seconds: float) -> tuple[Floats, Floats]:
    """Velocity, m/s, and acceleration, m/s^2, of points that follow a path in one phase, (pose, ..., xyz) each.

    Args:
        path: Positions, m, (pose, ..., xyz), at even parts of the way.
        part: Parts of the way, (pose,).
        seconds: Duration of the phase, s.
    """
    first = np.gradient(path, part, axis=0, edge_order=2)
    second = np.gradient(first, part, axis=0, edge_order=2)
    rate = (np.pi / seconds) ** 2
    shape = (len(part), *(1,) * (path.ndim - 1))
    speed2, gain = (v.reshape(shape) for v in (rate * part * (1 - part), rate * (1 - 2 * part) / 2))
    return first * np.sqrt(speed2), np.asarray(second * speed2 + first * gain)
