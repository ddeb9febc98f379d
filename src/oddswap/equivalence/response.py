"""What sources make of a target on a variant: where they bear, and what the rest does besides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.equipment.base.law import USUAL
from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.set_up import bears_on_one_point, contact_of, law_on, press_across
from oddswap.equivalence.setting_batch import fixed_force
from oddswap.equivalence.variants import VariantMechanics, moment_per_newton
from oddswap.mechanics.arm import dot
from oddswap.mechanics.muscles import Group
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class Reaction:
    """Where a source bears on a variant, and what the target makes of a force there.

    Args:
        point: m, (pose, xyz).
        per_newton: Relative effort per newton, (pose, xyz).
        moments: Moment on the target's region per newton, m, (pose, axis, xyz).
    """

    point: Floats
    per_newton: Floats
    moments: Floats


def reaction(mechanics: VariantMechanics, group: Group, source: Setting) -> Reaction:
    """What a force where a source bears does to a group, on one side or on both."""
    motion, attachment, both_sides = mechanics.motion, source.attachment, source.both_sides
    usual = attachment.at in ("usual", motion.support.contact) and not attachment.across_cm and attachment.along == 1.0
    if attachment == USUAL or usual:
        per_newton = mechanics.effort_per_newton(group.id, both_sides)
        moments = mechanics.work[group.region].moments[int(both_sides and not mechanics.single)]
        return Reaction(mechanics.point, per_newton, moments)
    contact, point = contact_of(source, motion)
    mirrored = both_sides and not bears_on_one_point(contact, motion)
    moments = moment_per_newton(motion, group.region, contact, point, mirrored)
    per_newton = -np.einsum("pai,pa->pi", moments, motion.direction(group)) / mechanics.demands[group.id].capacity[:, None]
    return Reaction(point, per_newton, moments)


@dataclass(frozen=True)
class Rest:
    """What loads the target besides the source that is solved for: the body, and further sources of fixed amounts.

    Args:
        effort: Relative effort of the target, (pose,).
        moment: Moment on its region, N·m, (pose, axis).
    """

    effort: Floats
    moment: Floats


def rest_of(mechanics: VariantMechanics, group: Group, sources: Sequence[Setting]) -> Rest:
    """What the body and further sources do."""
    effort, moment = mechanics.demands[group.id].own, mechanics.work[group.region].weight
    for source in sources:
        at = reaction(mechanics, group, source)
        force = (
            fixed_force(law_on(source, mechanics.motion), at.point) + unit_force(source, mechanics, at.point) * source.amount
        )
        effort = effort + dot(force, at.per_newton)
        moment = moment + np.einsum("pai,pi->pa", at.moments, force)
    return Rest(effort, moment)


def unit_force(source: Setting, mechanics: VariantMechanics, point: Floats) -> Floats:
    """Force on the contact per unit of amount, N, (pose, xyz)."""
    force = np.asarray(np.broadcast_to(law_on(source, mechanics.motion).force(point), (1, *point.shape))[0])
    return press_across(source, mechanics.motion, mechanics.motion.support.contact, force)


def response(mechanics: VariantMechanics, group: Group, source: Setting, rest: Sequence[Setting] = ()) -> tuple[Floats, Floats]:
    """What a setting asks of a group: relative effort of all that is fixed and per unit of its amount, (pose,) each."""
    at = reaction(mechanics, group, source)
    law = law_on(source, mechanics.motion)
    own = rest_of(mechanics, group, rest).effort + dot(fixed_force(law, at.point), at.per_newton)
    return own, dot(unit_force(source, mechanics, at.point), at.per_newton)
