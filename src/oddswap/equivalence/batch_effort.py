"""What placements ask of all that may end a set before the target does, and how much load that leaves them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.prescription import PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_effort import effort_of_loads, joint_of, moving_joints
from oddswap.equivalence.set_up import bears_on_one_point, contact_of, follows_load, pushes
from oddswap.equivalence.variants import VariantMechanics, moment_per_newton
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.push import Push
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class BatchEffort:
    """What one use of a source asks of every joint and the grip on a variant, wherever it is placed.

    Args:
        prescription: What it is held against.
        motion: The variant.
        contact: Where the source bears.
        point: Where that is felt, m, (pose, xyz).
        mirrored: Whether the left side bears its mirror image.
        rest: Pushes of further sources.
        grips: What hands hold of the source and of these.
        factor: What the client moves of the source's amount over what is computed.
    """

    prescription: PrescriptionProfile
    motion: Motion
    contact: Contact
    point: Floats
    mirrored: bool
    rest: Sequence[Push]
    grips: Sequence[str]
    factor: float

    @staticmethod
    def of(
        prescription: PrescriptionProfile,
        mechanics: VariantMechanics,
        source: Setting,
        rest: Sequence[Setting],
        factor: float,
    ) -> BatchEffort | None:
        """Of a source on a variant; None where the body leans under a load, which no placement alone tells.

        Args:
            prescription: What it is held against.
            mechanics: The variant.
            source: The source, anywhere.
            rest: Further sources, as they are placed.
            factor: See the class.
        """
        set_up = mechanics.set_up(source, *rest)
        if follows_load(set_up):
            return None
        motion = mechanics.standing(set_up.stands(), set_up.sides)
        contact, point = contact_of(source, motion)
        if source.attachment.at in ("usual", "hand") and contact == "hand":
            point = motion.felt(contact)
        mirrored = source.both_sides and not bears_on_one_point(contact, motion)
        others = pushes(mechanics.set_up(*rest), motion) if rest else []
        grips = [s.grip for s in (source, *rest)]
        return BatchEffort(prescription, motion, contact, point, mirrored, others, grips, factor)

    @cached_property
    def moments(self) -> dict[str, Floats]:
        """Moment on each region per newton of the source, m, (pose, axis, xyz)."""
        m = self.motion
        return {r: moment_per_newton(m, r, self.contact, self.point, self.mirrored) for r in m.regions}

    @cached_property
    def steady(self) -> dict[str, Floats]:
        """Moment on each region of the body's weight and further sources, N·m, (pose, axis)."""
        out = dict(self.motion.weight_moment)
        for push in self.rest:
            for region, added in self.motion.response(push).items():
                out[region] = out[region] + added
        return out

    @cached_property
    def own_joint(self) -> str:
        """The joint at which the target works."""
        return joint_of(self.motion, self.prescription.group)

    @cached_property
    def moves(self) -> set[str]:
        """The joints that it moves."""
        return moving_joints(self.motion)

    def asked(self, force: Floats) -> tuple[Floats, Floats]:
        """How far forces of the source, N, (placement, pose, xyz), go beyond what the prescription asks anywhere, over 1 where
        they do, and effort over the prescription's at which the target's own joint ends the set, 0 where another does;
        (placement,) each."""
        moment = {r: self.steady[r] + (per @ force[..., None])[..., 0] for r, per in self.moments.items()}
        loads = [Push(self.contact, self.point, force, mirrored=self.mirrored), *self.rest]
        effort = effort_of_loads(self.motion, self.moves, moment, loads, self.grips)
        p, most = self.prescription, rules("loading")["effort"]["rounding"] * self.factor
        count = len(force)
        over = [np.broadcast_to(o, count) for o in effort.over(p.effort, p.working, most).values()]
        ended = np.broadcast_to(effort.ended_by(self.own_joint) / (p.lasting * self.factor), count)
        return np.max(over, axis=0) if over else np.zeros(count), ended
