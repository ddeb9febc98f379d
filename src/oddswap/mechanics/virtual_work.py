"""Virtual work: what a muscle group feels of a force, from how the point where it bears moves."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.arm import cross
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.muscles import Group
from oddswap.mechanics.push import LOADS
from oddswap.mechanics.types import Floats


def virtual_path(motion: Motion, group: Group, contact: Contact = "hand") -> Floats:
    """How a contact on the limb moves per unit of a group's direction, m, world, (pose, xyz).

    The effective torque of a force F there is ``-F . G``; G is made once a movement, so that a placement costs one inner
    product. It holds where no support gives anything back.
    """
    d, point = motion.direction(group), motion.point(contact)
    mask = LOADS[contact].get(group.region)
    out = np.zeros_like(point)
    if mask is None:
        return out
    d, first = d * mask, 0
    for joint, axes in motion.hinges(group.region):
        last = first + axes.shape[-1]
        turning = np.einsum("pij,pj->pi", axes, d[:, first:last])
        out = out + cross(turning, point - joint)
        first = last
    return out
