"""Variants that kit may be placed at together, and what a use of kit does to all of them at once."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.equipment.base.item import KitItem, Scene, hands_serve_bar, hands_serve_dumbbell, hands_serve_rope
from oddswap.equipment.base.setting import Placements
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import hinge_axis, straight_line
from oddswap.equivalence.variants import VariantMechanics, Work
from oddswap.mechanics.arm import unit
from oddswap.mechanics.leading import MIDDLE
from oddswap.mechanics.limits import Posture
from oddswap.mechanics.movement import ON_FEET
from oddswap.mechanics.types import Bools, Floats, Ints

APART = 4
"""Every which pose of the index limits are looked at."""


TOGETHER = ("head", "between")
"""How hands hold what both of them hold at one place."""


@dataclass(frozen=True)
class VariantBatch:
    """Variants that are loaded and carried alike, with a row for every pair of a variant and a muscle that it is for.

    Args:
        variants: The variants.
        point: Their contacts, m, (variant, pose, xyz).
        groups: Where each muscle group's pairs stand.
        variant: The variant of every pair, (pair,).
        own: Relative effort of the body's own weight, (pair, pose).
        per_newton: Relative effort per newton of a load on one side and on both, (pair, pose, xyz) each.
        capacity: N·m, (pair, pose).
        length: Normalised length of the muscle, (pair, pose).
    """

    variants: Sequence[VariantMechanics]
    point: Floats
    groups: dict[str, slice]
    variant: Ints
    own: Floats
    per_newton: tuple[Floats, Floats]
    capacity: Floats
    length: Floats

    @staticmethod
    def of(variants: Sequence[VariantMechanics]) -> VariantBatch:
        """From variants that are loaded and carried alike."""
        pairs = sorted((g, i) for i, v in enumerate(variants) for g in v.demands)
        names = [g for g, _ in pairs]
        groups = {g: slice(names.index(g), names.index(g) + names.count(g)) for g in dict.fromkeys(names)}
        demands = [variants[i].demands[g] for g, i in pairs]
        one, both = (np.stack([variants[i].effort_per_newton(g, sides) for g, i in pairs]) for sides in (False, True))
        where = np.array([i for _, i in pairs])
        point, own = np.stack([v.point for v in variants]), np.stack([d.own for d in demands])
        capacity, length = np.stack([d.capacity for d in demands]), np.stack([d.length for d in demands])
        return VariantBatch(variants, point, groups, where, own, (one, both), capacity, length)

    @cached_property
    def hinge(self) -> tuple[Floats, Floats, Floats]:
        """Place and axis that a machine's lever would turn about, and the line that straight handles would run, for the first
        variant: m, (pose, xyz), and (xyz,) each."""
        motion = self.variants[0].motion
        return motion.joints[motion.movement.hinge], hinge_axis(motion), straight_line(motion)

    @cached_property
    def postures(self) -> Posture:
        """What limits hang on, one a variant."""
        return Posture.stack([Posture.of(v.motion, apart=APART) for v in self.variants])

    @cached_property
    def postures_in_middle(self) -> Posture:
        """The same for one rope in both hands."""
        return self.postures.in_middle(rope=True)

    @cached_property
    def on_bench(self) -> Bools:
        """Which variants need a bench that comes along, (variant,)."""
        return np.array([v.variant.stance in ("bench", "chest_supported") for v in self.variants])

    @cached_property
    def on_pad(self) -> Bools:
        """Which variants need an arm pad that comes along, (variant,)."""
        return np.array([v.variant.pad for v in self.variants])

    @cached_property
    def no_bar(self) -> Bools:
        """In which variants the body is in a straight bar's way, (variant,)."""
        return np.array([v.motion.support.contact == "hand" and not v.fits_bar for v in self.variants])

    @cached_property
    def hands_together(self) -> Bools:
        """Whether hands that only hold are beside the head or between the legs, where one handle or rope serves and a column to
        each side does not, (variant,)."""
        return np.array([v.motion.hold in TOGETHER for v in self.variants])

    @cached_property
    def no_dumbbells(self) -> tuple[Bools, Bools]:
        """In which variants something is in the way of a dumbbell in one hand, and of one in each, (variant,)."""
        hands = [v.motion.support.contact == "hand" for v in self.variants]
        one, two = (
            np.array([held and not v.fits_dumbbells[k] for v, held in zip(self.variants, hands, strict=True)]) for k in (0, 1)
        )
        return one, two

    @cached_property
    def at_chest(self) -> Bools:
        """Whether hands that only hold do so before the chest, where one dumbbell lies between them, (variant,)."""
        return np.array([v.motion.hold == "chest" for v in self.variants])

    @cached_property
    def shares_dumbbell(self) -> Bools:
        """In which variants both hands may hold one dumbbell, (variant,)."""
        return np.array(
            [v.kind.shares_dumbbell and hands_serve_dumbbell(p) for v, p in zip(self.variants, self.point, strict=True)]
        )

    @cached_property
    def palms_facing(self) -> Bools:
        """In which variants the palms face each other, which a straight bar does not let them do, (variant,)."""
        return np.array([v.bearing.neutral for v in self.variants])

    @cached_property
    def pull_starts(self) -> tuple[Floats, Ints, Bools]:
        """Of pulls: the line that the arm hangs in, unit, (variant, xyz), zero for others; equal numbers for variants that
        differ in it alone, (variant,); and which of these has the movement's own, (variant,)."""
        lines, kin = np.zeros((len(self.variants), 3)), np.arange(len(self.variants))
        numbers: dict[object, int] = {}
        for i, v in enumerate(self.variants):
            if v.pull_start is not None:
                kin[i] = numbers.setdefault(v.pull_start[0], i)
                lines[i] = v.pull_start[1]
        return lines, kin, kin == np.arange(len(kin))

    def nearest_start(self, force: Floats, led: bool, shared: bool = False) -> Bools:
        """At which variants an arm hangs as nearly in a load's line as the movement's variants allow, (placement, variant).

        Args:
            force: On the contact, N, (placement, variant, pose, xyz).
            led: Whether the load leads the arm; a guide of its own does not.
            shared: Whether both hands hold one bar or rope, which leads them as seen from the side.
        """
        lines, kin, own = self.pull_starts
        pulls = (lines != 0).any(axis=1)
        if not pulls.any():
            return np.ones(force.shape[:2], bool)
        if not led:
            return np.broadcast_to(own | ~pulls, force.shape[:2])
        pull = force[:, :, 0]
        along = (unit(pull * MIDDLE) * unit(lines * MIDDLE) if shared else unit(pull) * lines).sum(axis=-1)
        best = np.stack([along[:, kin == k].max(axis=1) for k in kin], axis=1)
        most = float(rules("reach")["pull_off_deg"])
        return np.asarray(~pulls | ((along >= best - 1e-12) & (along >= np.cos(np.radians(most)))))

    @cached_property
    def work(self) -> dict[str, tuple[Ints, Work]]:
        """By region, the place of every variant in what follows, (variant,), and the work of all that use it, they first."""
        out = {}
        for region in dict.fromkeys(r for v in self.variants for r in v.work):
            here = [i for i, v in enumerate(self.variants) if region in v.work]
            works = [self.variants[i].work[region] for i in here]
            place = np.zeros(len(self.variants), int)
            place[here] = np.arange(len(here))
            one, both = (np.stack([k.moments[sides] for k in works]) for sides in (0, 1))
            moment_arm, strongest = np.stack([k.moment_arm for k in works]), np.stack([k.strongest for k in works])
            out[region] = place, Work(np.stack([k.weight for k in works]), (one, both), moment_arm, strongest)
        return out


def group_variants(variants: Sequence[VariantMechanics], by_hands: bool) -> list[VariantBatch]:
    """Variants by what kit proposes the same placements for: contact, support, sides, and what may be held under a foot.

    Args:
        variants: All of them.
        by_hands: Whether to tell apart what two hands on one bar or rope can follow.
    """
    out: dict[tuple[object, ...], list[VariantMechanics]] = {}
    for v in variants:
        support = v.motion.support
        rope = hands_serve_rope(v.point, v.kind.led == "pull")
        on_bar = (hands_serve_bar(v.point), rope, rope and v.kind.led == "pull") if by_hands else ()
        kind = v.motion.stance.kind
        held = kind if kind in ("standing", "sitting") else "", support.base == "seat"
        like = (support.contact, held, support.one_side, on_bar, support.across_cm != 0)
        if v.demands:
            out.setdefault(like, []).append(v)
    return [VariantBatch.of(alike) for alike in out.values()]


def single_variant_batches(variants: Sequence[VariantMechanics], movement: str) -> list[VariantBatch]:
    """Batches of one variant each, of the movement that a machine is built for: its path hangs on the movement.

    A guide of its own leads a pull's arm, so that the movement's own line is enough.
    """
    seen: dict[object, VariantMechanics] = {}
    for v in variants:
        if v.kind.id == movement and v.demands:
            seen.setdefault(v.key if v.pull_start is None else v.pull_start[0], v)
    return [VariantBatch.of([v]) for v in seen.values()]


@dataclass(frozen=True)
class KitUse:
    """One way to use an item at the variants of a batch.

    Args:
        number: Which of the item's batches it is.
        batch: Its placements.
        both_sides: Whether both sides are loaded at once.
        kept: Which placements keep the kit's limits at which variant, (placement, variant).
        force: On the contact per unit of amount, N, (placement, variant, pose, xyz).
        shared_grip: Whether both hands hold one bar or rope.
    """

    number: int
    batch: Placements
    both_sides: bool
    kept: Bools
    force: Floats
    shared_grip: bool


def batches_of(item: KitItem, variants: VariantBatch, place: Place, coarse: bool = False) -> list[Placements]:
    """Every way to use an item at a batch, as its kit proposes it.

    Args:
        item: The kit.
        variants: What it shall load.
        place: Where.
        coarse: Whether a few placements spread wide will do; lines are then held in one hand each.
    """
    first = variants.variants[0]
    both = first.both and not (coarse and item.line)
    motion = first.motion
    scene = Scene(
        motion.body, motion.stance, variants.point[0], place.room, item.needs_of(place.kit), both, motion.movement.id,
        motion.support.contact, *variants.hinge, coarse, motion.movement.led == "pull", motion.support.base in ON_FEET,
    )  # fmt: skip
    return list(item.placements(scene))


def kit_uses(item: KitItem, variants: VariantBatch, place: Place, least: float, coarse: bool) -> Iterator[KitUse]:
    """Every way to use an item at a batch, with what keeps the kit's limits there.

    Args:
        item: The kit.
        variants: What it shall load; one variant alone where the item's path hangs on the movement.
        place: Where.
        least: The item's least amount.
        coarse: Whether a few placements spread wide will do.
    """
    first = variants.variants[0]
    own = [not v.kind.machine_only or item.built_for == v.kind.id for v in variants.variants]
    possible = np.array([not v.needs_load and item.serves(v.bearing) for v in variants.variants]) & own
    # A machine's own seat and pads serve the machine.
    # Dumbbells come to any bench; a bench or a pad comes to a line only where it can be moved.
    rests = place.movable_rests if item.line else place.rests
    if item.line or not item.built_for:
        possible &= ~(variants.on_bench & (not rests.bench)) & ~(variants.on_pad & (not rests.pad))
    if not possible.any():
        return
    for number, batch in enumerate(batches_of(item, variants, place, coarse)):
        example = batch.setting(0, least)
        both, straight = example.both_sides, example.grip == "bar"
        if both and not first.both and first.bearing.base == "seat":
            continue
        if item.line and example.grip != "handle" and first.bearing.off_middle:
            continue
        allowed = possible & ~variants.palms_facing & ~variants.no_bar if straight else possible
        allowed = allowed & ~variants.no_dumbbells[int(both)] if example.fills_hand else allowed
        allowed = allowed & variants.shares_dumbbell if example.between_hands else allowed
        allowed = allowed & ~variants.at_chest if both and example.fills_hand else allowed
        allowed = allowed & ~variants.hands_together if both and item.line and example.grip == "handle" else allowed
        if not allowed.any():
            continue
        law: Any = first.law_of(batch).with_variant_axis()
        kept = np.ones((batch.count, len(variants.variants)), bool) & allowed
        for limit in law.limits(variants.point):
            kept &= limit.kept
        force = law.force(variants.point)
        force = np.broadcast_to(force, (len(force), *variants.point.shape))
        shared = example.grip != "handle"
        kept = np.broadcast_to(kept, (len(force), len(variants.variants)))
        kept = kept & variants.nearest_start(force, example.lead is not None, shared)
        yield KitUse(number, batch, both, kept, force, shared)


def effort_per_unit(use: KitUse, variants: VariantBatch) -> Floats:
    """Relative effort per unit of amount of every pair at every placement, (pair, placement, pose)."""
    force = use.force[:, variants.variant].transpose(1, 0, 2, 3)
    per_newton = variants.per_newton[use.both_sides][:, None]
    out = force[..., 0] * per_newton[..., 0]
    out += force[..., 1] * per_newton[..., 1]
    out += force[..., 2] * per_newton[..., 2]
    return np.asarray(out)
