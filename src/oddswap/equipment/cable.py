"""The cable column: tension = stack x ratio, along the line from the hand to a swivelling pulley at one of its holes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Day, Name, Real, Whole
from oddswap.equipment.base.item import Bearing, KitItem, Scene, check_stack, hands_serve_bar, hands_serve_rope
from oddswap.equipment.base.law import USUAL, Attachment
from oddswap.equipment.base.lines import Cable
from oddswap.equipment.base.positions import (
    ELBOW_ROOM,
    HEAVY_ENOUGH,
    LIGHT_ENOUGH,
    NEAREST,
    SAME_HEIGHT_CM,
    all_round,
    bearing_words,
    change_position,
    distance_words,
    hole_heights,
    position_parameters,
    serves_line,
    step_position,
)
from oddswap.equipment.base.setting import AdjustableParameter, Placements, Setting, SettingRow
from oddswap.equipment.handle import AttachmentsThere, count_fitting, count_handles
from oddswap.errors import DomainError
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.movement import Contact
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm, kg

Use = Literal["one", "pair", "crossed", "bar", "rope", "belt"]
AHEAD, HOLES = 0.25, 8
"""Grid of the first pass: distances straight ahead or behind, m, and holes at most."""
PAIRED = ("pair", "crossed")
"""Uses of a pair of columns."""
HELD_BY = {"bar": "straight bar", "rope": "rope, a strand in each hand", "belt": "belt around the hips, line between the legs"}
"""Uses of one cable square before the body or behind it, and what it is held by."""
FARTHEST = 2.4
"""How far from a column people stand, m (own estimate)."""


@dataclass(frozen=True)
class CableColumn(KitItem):
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
    overhang_cm: Annotated[Real, Ge(0), Le(150)] = field(
        default=0.0, metadata={"description": "How far the pulley stands out before its column, as at a lat station, cm"}
    )
    swivels: bool = field(default=True, metadata={"description": "Whether the pulley turns toward a pull from the side"})
    measured_on: Day = field(default="", metadata={"description": "Day it was measured; empty where figures are printed"})
    spread_pct: Annotated[Real, Ge(0), Le(100)] = field(default=0.0, metadata={"description": "Scatter of that measurement, %"})
    kind: Literal["cable_column"] = "cable_column"
    line: ClassVar[bool] = True
    __pydantic_config__ = EDGE
    carried_about: ClassVar[bool] = False

    @property
    def floor_m(self) -> tuple[float, float]:
        """See ``KitItem``."""
        return max(1.0, self.spacing_cm / 100 + 0.6) if self.columns > 1 else 0.9, 0.7

    @property
    def source_kind(self) -> str:
        """A cable."""
        return "cable"

    def serves(self, bearing: Bearing) -> bool:
        """A hand or, by a cuff, a leg; on the feet only lifts made for a line, by hand or belt."""
        return serves_line(bearing) or (bearing.contact == "hips" and bearing.line_on_feet)

    @property
    def versatility(self) -> tuple[float, ...]:
        """Pairs first, then more holes, then more pull."""
        return -self.columns, -self.holes, -float(self.amounts()[-1]) * self.ratio

    def covers(self, other: CableColumn) -> bool:
        """One that goes as light and nearly as heavy, over the same heights in as many holes, and can do as much."""
        (low, high), (wanted_low, wanted_high) = (c.amounts()[[0, -1]] * c.ratio for c in (self, other))
        enough = bool(low <= LIGHT_ENOUGH * wanted_low and high >= HEAVY_ENOUGH * wanted_high)
        heights = self.lowest_cm <= other.lowest_cm + SAME_HEIGHT_CM and self.highest_cm >= other.highest_cm - SAME_HEIGHT_CM
        # A pulley that stands out before its column takes a client who sits under it.
        under = self.overhang_cm >= other.overhang_cm - SAME_HEIGHT_CM
        more = under and self.holes >= other.holes and self.columns >= other.columns and (self.swivels or not other.swivels)
        return enough and heights and more

    def verify(self) -> None:
        """Ends must not be crossed."""
        if self.highest_cm < self.lowest_cm:
            raise DomainError("highest_cm", self.highest_cm, f"at least lowest_cm, {cm(self.lowest_cm)}", "Swap the two")
        if self.most_kg < self.least_kg:
            raise DomainError("most_kg", self.most_kg, f"at least least_kg, {kg(self.least_kg)}", "Swap the two")
        check_stack(self.least_kg, self.most_kg, self.step_kg, self.addons_kg)

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
        return hole_heights(self.lowest_cm, self.highest_cm, self.holes)

    def amounts(self) -> Floats:
        """The pins with all combinations of add-ons, kg."""
        pins, added = np.arange(self.least_kg, self.most_kg + 1e-9, self.step_kg), np.zeros(1)
        for small in self.addons_kg:
            added = np.concatenate([added, added + small])
        return np.unique(np.round(pins[:, None] + added, 3))

    def cable(self, pulley: Floats, ends: str = "hand") -> Cable:
        """The law with this column's figures."""
        parked, out, mass = self.parked_cm / 100, self.overhang_cm / 100, float(self.drive == "stack")
        return Cable(pulley, self.ratio, parked, self.travel_cm / 100, ends, friction=self.friction, mass=mass, overhang=out)

    def needs_of(self, kit: Sequence[Any]) -> AttachmentsThere:
        """The attachments."""
        return AttachmentsThere.of(kit)

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
        held = scene.others.fitting(scene.contact)
        if held >= 1 and scene.contact != "hips":
            yield self.batch("one", hole, distance * np.cos(turned), -distance * np.sin(turned))
        if held >= 2 and self.columns == 2 and self.spacing_cm / 100 + 0.3 <= max(scene.room.width, scene.room.length):
            ahead = np.arange(-1.2, 1.2 + 1e-9, AHEAD)
            hole, forward = (a.ravel() for a in np.meshgrid(holes, ahead[np.abs(ahead) <= room], indexing="ij"))
            half = np.full(hole.shape, self.spacing_cm / 200)
            yield self.batch("pair", hole, forward, half)
            yield self.batch("crossed", hole, forward, -half)
        yield from self.square(scene, holes, room)

    def square(self, scene: Scene, holes: Floats, room: float) -> Iterator[Placements]:
        """One cable square before or behind the body: both hands on a bar or a rope, or a belt around the hips."""
        there, both_hands = scene.others, scene.both and scene.contact == "hand"
        serves: dict[Use, Any] = {
            "bar": both_hands and there.bar and hands_serve_bar(scene.grip),
            "rope": both_hands and there.rope and hands_serve_rope(scene.grip, scene.pulled),
            "belt": scene.contact == "hips" and there.hips,
        }
        uses = [use for use, well in serves.items() if well]
        # Hands at the column keep the balance under a belt.
        ahead = np.arange(AHEAD if scene.contact == "hips" else -FARTHEST, FARTHEST + 1e-9, AHEAD) if uses else np.zeros(0)
        hole, forward = (a.ravel() for a in np.meshgrid(holes, ahead[np.abs(ahead) <= room], indexing="ij"))
        for use in uses:
            yield self.batch(use, hole, forward, np.zeros(hole.shape))

    def batch(self, use: Use, hole: Floats, forward: Floats, right: Floats, attachment: Attachment = USUAL) -> Placements:
        """Placements at holes, ahead (m) and to the right (m) of the hips, all (placement,)."""
        pulley = np.stack([forward, -right, self.heights()[hole.astype(int) - 1]], axis=-1)

        def setting(i: int, amount: float) -> CablePull:
            return CablePull(
                self, int(hole[i]), round(float(forward[i]) * 100, 1), round(float(right[i]) * 100, 1), amount, use, attachment
            )

        return Placements(self.cable(pulley, use if use in ("bar", "rope") else "hand"), len(hole), setting)


@dataclass(frozen=True)
class CablePull(Setting):
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
            "description": "One arm at a time; both arms each to its own column, or each to the other's; both hands on one "
            "cable with a bar or a rope; or a belt around the hips"
        },
    )
    attachment: Attachment = USUAL
    kind: Literal["cable"] = "cable"
    item_field: ClassVar[str] = "column"
    line: ClassVar[bool] = True
    __pydantic_config__ = EDGE

    def with_item(self, item: CableColumn) -> CablePull | None:
        """At another column, at the hole nearest in height; a pair needs a pair."""
        if self.use in PAIRED and item.columns < 2:
            return None
        hole = int(np.abs(item.heights() - self.column.height(self.hole)).argmin()) + 1
        right = float(np.copysign(item.spacing_cm / 2, self.right_cm)) if self.use in PAIRED else self.right_cm
        return replace(self, column=item, hole=hole, right_cm=right)

    def can_be_held(self, kit: Sequence[Any], contact: Contact) -> bool:
        """By a bar, a rope, or a strap in each hand or around a foot."""
        if self.use in ("bar", "rope"):
            return count_handles(kit, [self.use]) >= 1
        return count_fitting(kit, contact) >= (2 if self.use in PAIRED else 1)

    @property
    def use_label(self) -> str:
        """One arm, a pair of columns, or both hands on a bar or rope."""
        return self.use

    @property
    def grip(self) -> Literal["handle", "bar", "rope"]:
        """A bar or a rope in both hands, else a handle each."""
        return "bar" if self.use == "bar" else "rope" if self.use == "rope" else "handle"

    @property
    def mirrors_line(self) -> bool:
        """A pair of columns, each to its own or to the other side."""
        return self.use in PAIRED

    @property
    def pulls_level(self) -> bool:
        """From ahead or behind."""
        return self.forward_cm != 0

    @property
    def place_field(self) -> str:
        """How far ahead the pulley is."""
        return "forward_cm"

    def verify(self) -> None:
        """The hole and the pin must exist."""
        try:
            self.column.verify()
        except DomainError as error:
            raise error.at("column") from None
        self.column.height(self.hole)
        most = self.column.most_kg + sum(self.column.addons_kg)
        if not self.column.least_kg <= self.stack_kg <= most:
            limit = f"{self.column.name} goes from {kg(self.column.least_kg)} to {kg(most)}"
            raise DomainError("stack_kg", self.stack_kg, limit, "Pick a pin in this range")
        if self.use in PAIRED and self.column.columns < 2:
            raise DomainError("use", self.use, f"{self.column.name} is a single column", 'Use "one"')

    def law(self) -> Cable:
        """Tension along the line to this pulley."""
        where = np.array([self.forward_cm, -self.right_cm, self.column.height(self.hole) * 100]) / 100
        return self.column.cable(where, self.use if self.grip != "handle" else "hand")

    @property
    def amount(self) -> float:
        """Stack, kg."""
        return self.stack_kg

    @property
    def lead(self) -> Lead:
        """Toward the pulley."""
        law = self.law()
        x, y, z = (round(float(v), 3) for v in law.pulley)
        hands: Literal["free", "bar", "rope"] = "free" if self.grip == "handle" else self.grip
        return Lead((x, y, z), hands, law.strand)

    @property
    def both_sides(self) -> bool:
        """Whether both arms work at once."""
        return self.use != "one"

    def with_amount(self, amount: float) -> CablePull:
        """With another amount, in the unit of ``amount``."""
        return replace(self, stack_kg=amount)

    def amount_words(self, amount: float) -> str:
        """For example ``15 kg pin``."""
        return f"{kg(amount)} pin" + (" on each stack" if self.use in PAIRED else "")

    def rows(self) -> list[SettingRow]:
        """Hole, distance, facing."""
        height = f"{self.column.name}, hole {self.hole} ({cm(self.column.height(self.hole) * 100)})"
        out = [SettingRow("Pulley", height, "hole")]
        if self.use == "one":
            distance = float(np.hypot(self.forward_cm, self.right_cm))
            facing = bearing_words(self.forward_cm, self.right_cm)
            out.append(SettingRow("Place", f"{distance_words(distance, 'pulley')}, {facing}", "forward_cm"))
            handle = self.attachment.words() or "strap handle"
            out.append(SettingRow("Handle", f"{handle}, one side at a time", "use"))
        elif self.use in HELD_BY:
            facing = bearing_words(self.forward_cm, 0.0)
            out.append(SettingRow("Place", f"{distance_words(abs(self.forward_cm), 'pulley')}, {facing}", "forward_cm"))
            out.append(SettingRow("Handle", HELD_BY[self.use], "use"))
        else:
            ahead = "behind" if self.forward_cm > 0 else "in front of"
            level = abs(self.forward_cm) < 2.5
            where = "in line with the pulleys" if level else f"{cm(abs(self.forward_cm))} {ahead} the pulleys"
            out.append(SettingRow("Place", f"midway, {where}", "forward_cm"))
            held = "strap handles, each" if self.use == "pair" else "strap handles crossed, each"
            out.append(SettingRow("Handles", f"{held} hand to {'its own' if self.use == 'pair' else 'the other'} side", "use"))
        return out

    def short(self) -> str:
        """Column and facing."""
        aside = bearing_words(self.forward_cm, self.right_cm, brief=True)
        how = {"one": aside, "pair": "both arms", "crossed": "both arms, crossed"}
        return f"{self.column.name}, {how.get(self.use, self.use)}"

    def cautions(self) -> list[str]:
        """Heavy stacks."""
        if self.use in PAIRED and self.stack_kg * self.column.ratio >= 15:
            return ["Fetch one handle, then the other, close to the body; let them back one at a time."]
        return ["Release the slack before stepping in; stand so that the stack never lands during the set."]

    def adjustable_parameters(self, kit: Sequence[Any]) -> list[AdjustableParameter]:
        """Hole; distance and facing with one hand, how far ahead with two."""
        out = [AdjustableParameter("hole", "hole", "", self.hole, 1, self.column.holes, 1, 1)]
        if self.use == "one":
            return out + position_parameters(self.forward_cm, self.right_cm)
        return [*out, AdjustableParameter("ahead", "pulleys ahead", "cm", self.forward_cm, -250, 250, 5, 15)]

    def with_parameter(self, name: str, value: float) -> CablePull:
        """With another hole or place."""
        if name == "hole":
            return replace(self, hole=round(value))
        if name == "ahead":
            return replace(self, forward_cm=value)
        forward, right = change_position(self.forward_cm, self.right_cm, name, value)
        return replace(self, forward_cm=forward, right_cm=right)

    def with_far_end_near(self, point: Floats, kit: Sequence[Any]) -> CablePull:
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
            x, y = step_position(ahead, right, part, column.swivels)
        else:
            x = ahead + np.array([-1.0, 1.0]) * part * AHEAD
            y = np.full(2, right)
        hole = np.concatenate([holes, np.full(len(x), self.hole)])
        x, y = np.concatenate([[ahead] * 2, x]), np.concatenate([[right] * 2, y])
        return column.batch(self.use, hole, x, y, self.attachment)

    def prop(self) -> dict[str, Any]:
        """The column with its holes."""
        column = {"holes": self.column.heights().tolist(), "overhang_m": self.column.overhang_cm / 100}
        return {"kind": "column", **column, "hole": self.hole, "use": self.use}


SETTING, KIT = CablePull, CableColumn
