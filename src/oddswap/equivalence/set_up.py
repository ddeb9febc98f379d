"""A movement done with given kit: what is set, the forces it puts on the body, and its hard limits."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import cast

import numpy as np

from oddswap.equipment.protocols import Setting
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.limits import bench_clearance, line_clearance
from oddswap.mechanics.motion import POSES, Motion, Push, perform
from oddswap.mechanics.movement import Contact, Variant
from oddswap.mechanics.stance import Stance, StanceKind
from oddswap.mechanics.tempo import along_path
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class SetUp:
    """A movement done with given kit, without the client.

    Args:
        movement: Movement id.
        parameters: Its parameter values; defaults fill what is missing.
        sources: Load sources; they add up. None where the body is its own load.
        stance: How the body is carried, see ``Stance``.
        recline_deg: Spine to floor, degrees; 90 upright, 0 level.
        seat_cm: Height of the bench's seat, cm.
        pad: Whether an arm pad carries the upper arm.
        lift_s: Duration of the lifting phase, s, where moving weights shall count; None for slow lifting.
    """

    movement: str
    sources: Sequence[Setting]
    parameters: Mapping[str, float] = field(default_factory=dict)
    stance: str = "standing"
    recline_deg: float = 90.0
    seat_cm: float = 45.0
    pad: bool = False
    lift_s: float | None = None

    def variant(self) -> Variant:
        """The movement's variant that this set-up does, defaults filled in.

        Raises:
            DomainError: For a movement or parameter that does not exist.
        """
        values = movement(self.movement).complete(self.parameters)
        return Variant(values, self.stance, self.recline_deg, self.pad)

    @property
    def both_arms(self) -> bool:
        """Whether both sides work at once."""
        kind = movement(self.movement)
        return all(s.both_arms for s in self.sources) and not kind.way(kind.complete(self.parameters)).one_side

    def stands(self) -> Stance:
        """The stance; standing feet are staggered when a line pulls from ahead or behind."""
        pulled = any(getattr(s, "forward_cm", 0) for s in self.sources)
        recline = (
            np.pi / 2 if self.stance in ("standing", "kneeling", "hanging", "floor") else float(np.radians(self.recline_deg))
        )
        return Stance(cast(StanceKind, self.stance), recline, self.seat_cm / 100, staggered=pulled)

    def perform(self, body: Body, poses: int = POSES, muscles: bool = True) -> Motion:
        """The movement of ``body`` in this set-up, with its ``muscles`` unless they are followed later.

        Raises:
            DomainError: If a parameter is out of range, a pose out of reach, or there is no balance.
        """
        variant, kind = self.variant(), movement(self.movement)
        if self.stance not in kind.stances:
            raise DomainError("stance", self.stance, f"{kind.name} is done {' or '.join(kind.stances)}", "Pick one of these")
        loads = (lambda m: borne(self, m)) if kind.way(variant.values).balance is not None else None
        return perform(body, kind, dict(variant.values), self.stands(), self.pad, poses, self.both_arms, loads, muscles)


def contact_of(source: Setting, motion: Motion) -> tuple[Contact, Floats]:
    """Where a source bears on the body, and the point at every pose, m, (pose, xyz)."""
    at = source.attachment
    contact: Contact = motion.way.contact if at.at == "usual" else at.at
    return contact, motion.point(contact, at.along, at.across_cm / 100)


def hinge_axis(motion: Motion) -> Floats:
    """Axis of a machine in line with the movement's hinge, (xyz,): the moving limb's mean axis of turning."""
    contact = motion.way.contact
    arm = motion.point(contact) - motion.joints[motion.movement.hinge]
    turn = np.cross(arm[:-1], arm[1:]).sum(axis=0)
    size = float(np.linalg.norm(turn))
    return turn / size if size > 1e-9 else np.array([0.0, 1.0, 0.0])


def pushes(set_up: SetUp, motion: Motion) -> list[tuple[Push, float]]:
    """Every source's push on the body, and its amount."""
    out = []
    for source in set_up.sources:
        contact, point = contact_of(source, motion)
        made = getattr(source, "law_at", None)
        law = made(motion.joints[motion.movement.hinge], hinge_axis(motion)) if made else source.law()
        force = np.broadcast_to(law.force(point), (1, *point.shape))[0] * source.amount
        moves = getattr(law, "inertia", None)
        if set_up.lift_s is not None and moves is not None:
            velocity, acceleration = along_path(point, motion.part, set_up.lift_s)
            force = force + np.broadcast_to(moves(point, velocity, acceleration), (1, *point.shape))[0] * source.amount
        steady = getattr(law, "constant", None)
        if steady is not None:
            force = force + np.broadcast_to(steady(point), (1, *point.shape))[0]
        single = contact in ("back", "hips") or motion.way.one_side
        out.append((Push(contact, point, force, mirrored=source.both_arms and not single), source.amount))
    return out


def borne(set_up: SetUp, motion: Motion) -> list[Push]:
    """What a body finds its balance under: the sources' pushes, a machine's as that of the weight it stands for.

    A guide does not say where a body stands under it; people stand as under a bar.
    """
    out = []
    for source, (push, amount) in zip(set_up.sources, pushes(set_up, motion), strict=True):
        weighs = source.kind == "machine" and push.contact in ("back", "hand")
        down = np.broadcast_to([0.0, 0.0, -GRAVITY * amount], push.force.shape)
        out.append(replace(push, force=down) if weighs else push)
    return out


def check_set_up(set_up: SetUp, motion: Motion) -> None:
    """Hold a set-up against its hard limits.

    Raises:
        DomainError: With the field of the source that breaks one.
    """
    if not set_up.sources and motion.way.support == "seat":
        raise DomainError("sources", [], "a set-up has at least one load source", "Add a bell, a cable or a band")
    if "arm" in motion.coords and motion.way.root == "hips" and motion.arm.grip[:, 2].min() < 0:
        raise DomainError(
            "seat_cm", set_up.seat_cm, "the hand must stay above the floor", "Raise the seat or shorten the range"
        )
    for i, source in enumerate(set_up.sources):
        if source.kind == "barbell" and set_up.movement == "press" and contact_of(source, motion)[0] == "hand":
            arm = motion.arm
            ahead = ((arm.grip - arm.shoulder) * arm.torso[..., :, 0]).sum(axis=-1).min()
            if ahead < motion.body.own("trunk_radius"):
                depth = set_up.variant().values["depth_deg"]
                limit = "a bar stops at the chest; separate handles may pass it"
                raise DomainError("parameters.depth_deg", depth, limit, "Go less deep, or take bells or cables")
        try:
            source.verify()
        except DomainError as error:
            raise error.at(f"sources.{i}") from None
        if hasattr(source, "law_at"):
            continue
        law = source.law()
        contact, point = contact_of(source, motion)
        for check in law.checks(point):
            if not check.kept.all():
                value = getattr(source, check.field, None)
                short = -float(np.min(check.margin)) * 100
                limit = f"{check.limit}; here it is {short:.0f} cm off"
                raise DomainError(f"sources.{i}.{check.field}", value, limit, check.way_out)
        if law.far_end is None or contact != "hand":
            continue
        if float(bench_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the bench must clear the column or wall",
                "Move the bench farther off, or turn it",
            )
        if float(line_clearance(motion, law.far_end)) < 0:
            raise DomainError(
                f"sources.{i}.forward_cm",
                getattr(source, "forward_cm", None),
                "the line of pull must not cut through the body",
                "Turn, or bring the hand across on the other side",
            )
