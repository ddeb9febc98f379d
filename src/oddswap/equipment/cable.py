"""The cable column: tension = stack x ratio, along the line from the hand to a swivelling pulley at one of its holes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.positions import NEAREST, all_round, bearing_words, displaced, placed, stepped
from oddswap.equipment.protocols import (
    BAR_GIVES,
    BAR_HANDS,
    EDGE,
    USUAL,
    Attachment,
    Check,
    Day,
    Freedom,
    InKilograms,
    Name,
    Placements,
    Real,
    Scene,
    SettingRow,
    Whole,
)
from oddswap.errors import DomainError
from oddswap.mechanics.arm import norm, unit
from oddswap.mechanics.body import GRAVITY
from oddswap.mechanics.types import Floats

Use = Literal["one", "pair", "crossed", "bar", "rope"]
AHEAD, HOLES = 0.25, 8
"""Grid of the first pass: distances straight ahead or behind, m, and holes at most."""
FARTHEST = 2.4
"""How far from a column people stand, m (own estimate)."""
ELBOW_ROOM = 0.6
"""Floor a client needs beyond where they stand, m (own estimate)."""


@dataclass(frozen=True)
class Cable:
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
    """

    pulley: Floats
    ratio: float
    parked: float
    travel: float
    ends: str = "hand"
    strand: float = 0.30
    friction: float = 0.0
    mass: float = 1.0

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

    def checks(self, grip: Floats) -> list[Check]:
        """The cable must be taut throughout, most of all at the long end, and the stack must not meet its stop."""
        out = self.length(grip)
        return [
            Check(
                "forward_cm",
                out.min(axis=-1) - self.parked,
                f"the cable stays taut only while the hand is at least {self.parked * 100:.0f} cm from the pulley",
                "Stand farther off, or use a lower or higher hole",
            ),
            Check(
                "forward_cm",
                self.parked + self.travel - out.max(axis=-1),
                f"the cable runs out {(self.parked + self.travel) * 100:.0f} cm from the pulley",
                "Stand closer",
            ),
        ]

    @property
    def far_end(self) -> Floats:
        """The pulley."""
        return self.pulley


@dataclass(frozen=True)
class CableColumn:
    """A column with a pulley that pins into holes, or two such columns facing the same way."""

    id: Name
    name: Name
    holes: Annotated[Whole, Ge(1), Le(80)] = field(metadata={"description": "Number of holes, 1 is the lowest"})
    lowest_cm: Annotated[Real, Ge(0), Le(300)] = field(metadata={"description": "Pulley height at hole 1, cm"})
    highest_cm: Annotated[Real, Ge(0), Le(350)] = field(metadata={"description": "Pulley height at the last hole, cm"})
    least_kg: Annotated[Real, Gt(0), Le(200)] = field(metadata={"description": "Lightest pin, kg on the stack"})
    most_kg: Annotated[Real, Gt(0), Le(400)] = field(metadata={"description": "Heaviest pin, kg on the stack"})
    step_kg: Annotated[Real, Gt(0), Le(50)] = field(metadata={"description": "Step between pins, kg"})
    ratio: Annotated[Real, Gt(0), Le(2)] = field(
        default=1.0, metadata={"description": "Tension at the hand over stack weight: 1, or 0.5 for two-to-one"}
    )
    parked_cm: Annotated[Real, Ge(0), Le(150)] = field(
        default=35.0, metadata={"description": "Pulley to hand when the stack rests, cm"}
    )
    travel_cm: Annotated[Real, Gt(0), Le(600)] = field(
        default=220.0, metadata={"description": "How far the handle can be drawn out, cm"}
    )
    columns: Literal[1, 2] = field(default=1, metadata={"description": "One column or a pair"})
    spacing_cm: Annotated[Real, Gt(0), Le(600)] = field(
        default=250.0, metadata={"description": "Between the pulleys of a pair, cm"}
    )
    drive: Literal["stack", "air", "motor"] = field(
        default="stack", metadata={"description": "What makes the force; air and motor have no moving weight"}
    )
    friction: Annotated[Real, Ge(0), Le(0.5)] = field(
        default=0.0, metadata={"description": "Part of the tension that friction adds on the way up"}
    )
    addons_kg: Annotated[list[Annotated[Real, Gt(0), Le(20)]], Len(0, 6)] = field(
        default_factory=list, metadata={"description": "Small weights that can be put on the stack besides, kg each"}
    )
    swivels: bool = field(default=True, metadata={"description": "Whether the pulley turns toward a pull from the side"})
    measured_on: Day = field(default="", metadata={"description": "Day it was measured; empty where figures are printed"})
    spread_pct: Annotated[Real, Ge(0), Le(100)] = field(default=0.0, metadata={"description": "Scatter of that measurement, %"})
    kind: Literal["cable_column"] = "cable_column"
    __pydantic_config__ = EDGE

    def verify(self) -> None:
        """Ends must not be crossed."""
        if self.highest_cm < self.lowest_cm:
            raise DomainError("highest_cm", self.highest_cm, f"at least lowest_cm, {self.lowest_cm:g} cm", "Swap the two")
        if self.most_kg < self.least_kg:
            raise DomainError("most_kg", self.most_kg, f"at least least_kg, {self.least_kg:g} kg", "Swap the two")

    def height(self, hole: int) -> float:
        """Pulley height at a hole, m.

        Raises:
            DomainError: If there is no such hole.
        """
        if not 1 <= hole <= self.holes:
            raise DomainError("hole", hole, f"{self.name} has holes 1 to {self.holes}", "Pick one of these holes")
        return float(self.heights()[hole - 1])

    def heights(self) -> Floats:
        """Pulley heights of all holes, m, (hole,)."""
        return np.linspace(self.lowest_cm, self.highest_cm, self.holes) / 100

    def amounts(self) -> Floats:
        """The pins with all sums of add-ons, kg."""
        pins, added = np.arange(self.least_kg, self.most_kg + 1e-9, self.step_kg), np.zeros(1)
        for small in self.addons_kg:
            added = np.concatenate([added, added + small])
        return np.unique(np.round(pins[:, None] + added, 3))

    def cable(self, pulley: Floats, ends: str = "hand") -> Cable:
        """The law with this column's figures."""
        mass = 1.0 if self.drive == "stack" else 0.0
        return Cable(pulley, self.ratio, self.parked_cm / 100, self.travel_cm / 100, ends, friction=self.friction, mass=mass)

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """One arm at a column from all sides; with a pair, both arms, each to its own or to the other column."""
        room = max(scene.room.length, scene.room.width) - ELBOW_ROOM
        holes = np.unique(np.round(np.linspace(1, self.holes, min(self.holes, 4 if scene.coarse else HOLES))).astype(int))
        if self.swivels:
            distance, turned = all_round(min(room, FARTHEST), scene.coarse)
        else:
            # A fixed pulley takes the cable from straight before it: the client faces it or turns away.
            reach = np.arange(NEAREST, min(room, FARTHEST) + 1e-9, 2 * AHEAD if scene.coarse else AHEAD)
            distance, turned = np.repeat(reach, 2), np.tile([0.0, np.pi], len(reach))
        hole, i = (a.ravel() for a in np.meshgrid(holes, np.arange(len(distance)), indexing="ij"))
        distance, turned = distance[i], turned[i]
        yield self.batch("one", hole, distance * np.cos(turned), -distance * np.sin(turned))
        if self.columns == 2 and self.spacing_cm / 100 + 0.3 <= max(scene.room.width, scene.room.length):
            ahead = np.arange(-1.2, 1.2 + 1e-9, AHEAD)
            hole, forward = (a.ravel() for a in np.meshgrid(holes, ahead[np.abs(ahead) <= room], indexing="ij"))
            half = np.full(hole.shape, self.spacing_cm / 200)
            yield self.batch("pair", hole, forward, half)
            yield self.batch("crossed", hole, forward, -half)
        yield from self.two_handed(scene, holes, room)

    def two_handed(self, scene: Scene, holes: Floats, room: float) -> Iterator[Placements]:
        """Both hands on one cable, square before or behind it, with a bar or a rope."""
        apart = np.abs(scene.grip[:, 1])
        bar = np.ptp(apart) < BAR_GIVES and apart.max() < BAR_HANDS
        rope = apart.max() < 0.28
        if not scene.both or scene.contact != "hand" or not (bar or rope):
            return
        ahead = np.arange(-FARTHEST, FARTHEST + 1e-9, AHEAD)
        hole, forward = (a.ravel() for a in np.meshgrid(holes, ahead[np.abs(ahead) <= room], indexing="ij"))
        if bar:
            yield self.batch("bar", hole, forward, np.zeros(hole.shape))
        if rope:
            yield self.batch("rope", hole, forward, np.zeros(hole.shape))

    def batch(self, use: Use, hole: Floats, forward: Floats, right: Floats, attachment: Attachment = USUAL) -> Placements:
        """Placements at holes, ahead (m) and to the right (m) of the hips, all (placement,)."""
        pulley = np.stack([forward, -right, self.heights()[hole.astype(int) - 1]], axis=-1)

        def setting(i: int, amount: float) -> CablePull:
            return CablePull(
                self, int(hole[i]), round(float(forward[i]) * 100, 1), round(float(right[i]) * 100, 1), amount, use, attachment
            )

        return Placements(self.cable(pulley, use if use in ("bar", "rope") else "hand"), len(hole), setting)


@dataclass(frozen=True)
class CablePull(InKilograms):
    """A handle on a cable column; places are seen from the client, who stands, sits or lies at the origin facing forward."""

    column: CableColumn
    hole: Annotated[Whole, Ge(1)] = field(metadata={"description": "Hole of the pulley, 1 is the lowest"})
    forward_cm: Annotated[Real, Ge(-600), Le(600)] = field(
        metadata={"description": "Pulley ahead of the hips (negative: behind), cm"}
    )
    right_cm: Annotated[Real, Ge(-600), Le(600)] = field(
        metadata={"description": "Pulley of the right arm to the right of the hips (negative: left), cm"}
    )
    stack_kg: Annotated[Real, Gt(0), Le(400)] = field(metadata={"description": "Pin, kg on the stack (each stack of a pair)"})
    use: Use = field(
        default="one",
        metadata={
            "description": "One arm at a time; both arms each to its own column, or each to the other's; or both hands on one "
            "cable with a bar or a rope"
        },
    )
    attachment: Attachment = USUAL
    kind: Literal["cable"] = "cable"
    __pydantic_config__ = EDGE

    def verify(self) -> None:
        """The hole and the pin must exist."""
        try:
            self.column.verify()
        except DomainError as error:
            raise error.at("column") from None
        self.column.height(self.hole)
        most = self.column.most_kg + sum(self.column.addons_kg)
        if not self.column.least_kg <= self.stack_kg <= most:
            limit = f"{self.column.name} goes from {self.column.least_kg:g} to {most:g} kg"
            raise DomainError("stack_kg", self.stack_kg, limit, "Pick a pin in this range")
        if self.use in ("pair", "crossed") and self.column.columns < 2:
            raise DomainError("use", self.use, f"{self.column.name} is a single column", 'Use "one"')

    def law(self) -> Cable:
        """Tension along the line to this pulley."""
        where = np.array([self.forward_cm, -self.right_cm, self.column.height(self.hole) * 100]) / 100
        return self.column.cable(where, self.use if self.use in ("bar", "rope") else "hand")

    @property
    def amount(self) -> float:
        """Stack, kg."""
        return self.stack_kg

    @property
    def both_arms(self) -> bool:
        """Whether both arms work at once."""
        return self.use != "one"

    def loaded(self, amount: float) -> CablePull:
        """With another amount, in the unit of ``amount``."""
        return replace(self, stack_kg=amount)

    def amount_words(self, amount: float) -> str:
        """For example ``15 kg pin``."""
        return f"{amount:g} kg pin" + (" on each stack" if self.use in ("pair", "crossed") else "")

    def rows(self) -> list[SettingRow]:
        """Hole, distance, facing."""
        height = f"{self.column.name}, hole {self.hole} ({self.column.height(self.hole) * 100:.0f} cm)"
        out = [SettingRow("Pulley", height, "hole")]
        if self.use == "one":
            distance = float(np.hypot(self.forward_cm, self.right_cm))
            facing = bearing_words(self.forward_cm, self.right_cm)
            out.append(SettingRow("Place", f"{distance:.0f} cm off, {facing}", "forward_cm"))
            handle = self.attachment.words() or "strap handle"
            out.append(SettingRow("Handle", f"{handle}, one side at a time", "use"))
        elif self.use in ("bar", "rope"):
            facing = bearing_words(self.forward_cm, 0.0)
            out.append(SettingRow("Place", f"{abs(self.forward_cm):.0f} cm off, {facing}", "forward_cm"))
            out.append(SettingRow("Handle", "straight bar" if self.use == "bar" else "rope, a strand in each hand", "use"))
        else:
            ahead = "behind" if self.forward_cm > 0 else "in front of"
            level = abs(self.forward_cm) < 2.5
            where = "in line with the pulleys" if level else f"{abs(self.forward_cm):.0f} cm {ahead} the pulleys"
            out.append(SettingRow("Place", f"midway, {where}", "forward_cm"))
            own = "strap handles, each hand to its own side"
            crossed = "strap handles crossed, each hand to the other side"
            out.append(SettingRow("Handles", own if self.use == "pair" else crossed, "use"))
        return out

    def short(self) -> str:
        """Column and facing."""
        how = {
            "one": bearing_words(self.forward_cm, self.right_cm, brief=True),
            "pair": "both arms",
            "crossed": "both arms, crossed",
            "bar": "bar",
            "rope": "rope",
        }
        return f"{self.column.name}, {how[self.use]}"

    def cautions(self) -> list[str]:
        """Heavy stacks."""
        if self.both_arms and self.stack_kg * self.column.ratio >= 15:
            return ["Fetch one handle, then the other, close to the body; let them back one at a time."]
        return ["Release the slack before stepping in; stand so that the stack never lands during the set."]

    def offered_by(self, item: object) -> Placements | None:
        """Where this very column stands."""
        if item != self.column:
            return None
        one = np.ones(1)
        return self.column.batch(
            self.use, self.hole * one, self.forward_cm / 100 * one, self.right_cm / 100 * one, self.attachment
        )

    def freedoms(self, kit: Sequence[Any]) -> list[Freedom]:
        """Hole; distance and facing with one hand, how far ahead with two."""
        out = [Freedom("hole", "hole", "", self.hole, 1, self.column.holes, 1, 1)]
        if self.use == "one":
            return out + placed(self.forward_cm, self.right_cm)
        return [*out, Freedom("ahead", "pulleys ahead", "cm", self.forward_cm, -250, 250, 5, 15)]

    def moved(self, name: str, value: float) -> CablePull:
        """With another hole or place."""
        if name == "hole":
            return replace(self, hole=round(value))
        if name == "ahead":
            return replace(self, forward_cm=value)
        forward, right = displaced(self.forward_cm, self.right_cm, name, value)
        return replace(self, forward_cm=forward, right_cm=right)

    def carried_to(self, point: Floats, kit: Sequence[Any]) -> CablePull:
        """With the pulley near a point."""
        hole = int(np.abs(self.column.heights() - point[2]).argmin()) + 1
        right = round(float(-point[1]) * 100, 1) if self.use == "one" else self.right_cm
        return replace(self, hole=hole, forward_cm=round(float(point[0]) * 100, 1), right_cm=right)

    def nearby(self, part: float) -> Placements | None:
        """A hole, distance and facing either way; with two hands a hole and how far ahead."""
        column = self.column
        apart = max(1, round(part * column.holes / HOLES))
        holes = np.clip([self.hole - apart, self.hole + apart], 1, column.holes)
        ahead, right = self.forward_cm / 100, self.right_cm / 100
        if self.use == "one":
            x, y = stepped(ahead, right, part, column.swivels)
        else:
            x = ahead + np.array([-1.0, 1.0]) * part * AHEAD
            y = np.full(2, right)
        hole = np.concatenate([holes, np.full(len(x), self.hole)])
        x, y = np.concatenate([[ahead] * 2, x]), np.concatenate([[right] * 2, y])
        return column.batch(self.use, hole, x, y, self.attachment)

    def prop(self) -> dict[str, Any]:
        """The column with its holes."""
        return {"kind": "column", "holes": self.column.heights().tolist(), "hole": self.hole, "use": self.use}


SETTING, KIT = CablePull, CableColumn
