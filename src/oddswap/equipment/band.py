"""The elastic band: tension from a measured curve of force against length, along the line to its anchor."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import pairwise
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from annotated_types import Ge, Gt, Le, Len

from oddswap.equipment.base.fields import EDGE, Day, Name, Real, Whole
from oddswap.equipment.base.item import Bearing, KitItem, Scene
from oddswap.equipment.base.law import USUAL, Attachment
from oddswap.equipment.base.lines import Elastic, rubber_force
from oddswap.equipment.base.positions import (
    ELBOW_ROOM,
    all_round,
    anchor_heights,
    bearing_words,
    change_position,
    distance_words,
    foot_words,
    position_parameters,
    serves_line,
    step_position,
)
from oddswap.equipment.base.setting import AdjustableParameter, Placements, Setting, SettingRow
from oddswap.errors import DomainError
from oddswap.mechanics.arm import norm
from oddswap.mechanics.leading import Lead
from oddswap.mechanics.quiet_limbs import sole_ahead
from oddswap.mechanics.types import Floats
from oddswap.quantities import cm

BandAnchor = Literal["foot", "feet", "point"]
FOOT_HEIGHT = 0.03
FARTHEST = 3.0
"""How far from an anchor people stand, m (own estimate)."""

LONG_CM = 70.0
"""Slack length from which a band under a foot is worth folding in two, cm (own estimate)."""


@dataclass(frozen=True)
class RubberSection:
    """What is known of a band that nobody has measured: enough for a first estimate."""

    rest_cm: Annotated[Real, Gt(0), Le(300)] = field(metadata={"description": "Length from hand to anchor when slack, cm"})
    area_mm2: Annotated[Real, Gt(0), Le(2000)] = field(
        metadata={"description": "Cross-section, both strands of a loop together, mm²"}
    )
    __pydantic_config__ = EDGE

    def points(self) -> list[PullPoint]:
        """The estimated curve up to three times the rest length."""
        lengths = np.linspace(1.0, 3.0, 17) * self.rest_cm
        forces = rubber_force(lengths / 100, self.rest_cm / 100, self.area_mm2 * 1e-6)
        return [PullPoint(round(float(a), 2), round(float(b), 2)) for a, b in zip(lengths, forces, strict=True)]


@dataclass(frozen=True)
class PullPoint:
    """One measured point of a band."""

    __pydantic_config__ = EDGE

    length_cm: Annotated[Real, Gt(0), Le(600)] = field(metadata={"description": "Length, cm"})
    force_n: Annotated[Real, Ge(0), Le(3000)] = field(metadata={"description": "Pull at this length, N"})


@dataclass(frozen=True)
class Band(KitItem):
    """A band as it hangs from anchor to hand, with its measured pull."""

    id: Name
    name: Name
    points: Annotated[list[PullPoint], Len(0, 200)] = field(
        metadata={"description": "Measured pull against length, from slack (0 N) upward; empty where a section stands instead"}
    )
    most_cm: Annotated[Real, Gt(0), Le(600)] = field(
        metadata={"description": "Longest allowed length, cm; usual practice 2.5 to 3 times the slack length"}
    )
    section: RubberSection | None = field(
        default=None, metadata={"description": "Of an unmeasured band: its pull is then estimated from rubber elasticity"}
    )
    count: Annotated[Whole, Ge(1), Le(10)] = field(default=1, metadata={"description": "How many of this band there are"})
    measured_on: Day = field(default="", metadata={"description": "Day it was measured; empty where figures are printed"})
    spread_pct: Annotated[Real, Ge(0), Le(100)] = field(default=0.0, metadata={"description": "Scatter of that measurement, %"})
    kind: Literal["band"] = "band"
    line: ClassVar[bool] = True
    stretches: ClassVar[bool] = True
    __pydantic_config__ = EDGE

    def serves(self, bearing: Bearing) -> bool:
        """A hand or, by a cuff, a leg; on the feet only lifts made for a line."""
        return serves_line(bearing)

    def verify(self) -> None:
        """Points must rise, start slack, and reach the limit."""
        points = self.curve()
        if len(points) < 3:
            raise DomainError("points", len(points), "at least three measured points, or a section", "Measure the band")
        for i, (a, b) in enumerate(pairwise(points), start=1):
            if b.length_cm <= a.length_cm:
                raise DomainError(f"points.{i}.length_cm", b.length_cm, "lengths rise from point to point", "Sort the points")
            if b.force_n < a.force_n:
                raise DomainError(
                    f"points.{i}.force_n", b.force_n, "a longer band never pulls less", "Measure this point again"
                )
        if points[0].force_n != 0:
            raise DomainError("points.0.force_n", points[0].force_n, "the first point is the slack length, 0 N", "Add it")
        if not points[0].length_cm < self.most_cm <= points[-1].length_cm + 1e-6:
            slack, last = points[0].length_cm, points[-1].length_cm
            limit = f"over the slack length, {cm(slack)}, and up to the last measured, {cm(last)}"
            raise DomainError("most_cm", self.most_cm, limit, "Measure farther, or lower the limit")

    def curve(self) -> list[PullPoint]:
        """Measured points, or the estimate from the section."""
        return self._curve

    @cached_property
    def _curve(self) -> list[PullPoint]:
        return self.points if self.points or self.section is None else self.section.points()

    @cached_property
    def _stretch(self) -> tuple[Floats, Floats]:
        """Lengths, m, and pulls, N, of the curve, (point,) each."""
        lengths, forces = np.array([[p.length_cm / 100, p.force_n] for p in self._curve]).T
        return lengths, forces

    def elastic(self, anchor: Floats, doubled: bool = False, choke: float = 0.0, held: bool = False) -> Elastic:
        """The law with this band's figures.

        Doubled over it is half as long and pulls with both halves; choked around an anchor it is a shorter band of the same
        section, so that the same pull comes at the same stretch of what is left. ``held`` by the client's own feet, no column
        or wall stands behind it.
        """
        fold = 2.0 if doubled else 1.0
        lengths, forces = self._stretch
        left = (1 - choke / lengths[0]) / fold
        return Elastic(anchor, lengths * left, forces * fold, self.most_cm / 100 * left, np.inf if held else 0.0)

    def amounts(self) -> Floats:
        """Bands side by side."""
        return np.arange(1.0, self.count + 1)

    def needs_of(self, kit: Sequence[Any]) -> tuple[float, ...]:
        """Heights of all anchors, cm, ascending."""
        return anchor_heights(kit)

    def placements(self, scene: Scene) -> Iterator[Placements]:
        """Under the feet or around them, and from every anchor height of the place at all sides; long ones folded too."""
        folds = (False, True) if self.curve()[0].length_cm > LONG_CM else (False,)
        if scene.stance.kind == "sitting":
            around = sole_ahead(scene.body)
            right = np.array([-0.1, 0.0, 0.1])
            ahead, height = around[0] + 0 * right, around[2] + 0 * right
            for doubled in folds:
                yield self.batch("feet", ahead, right, height, doubled)
                if wrapped := self.wrap(float(norm(around - scene.grip).min()), doubled):
                    yield self.batch("feet", ahead, right, height, doubled, wrapped)
        if scene.stance.kind == "standing":
            # Who drives from the feet keeps them where they are; others set one where the band pulls best, m (own estimate).
            ahead, aside = ((0.0, 0.11), (-0.2, 0.21)) if scene.planted else ((-0.3, 0.31), (-0.3, 0.31))
            forward, right = (a.ravel() for a in np.meshgrid(np.arange(*ahead, 0.1), np.arange(*aside, 0.1)))
            for doubled in folds:
                yield self.batch("foot", forward, right, np.full(forward.shape, FOOT_HEIGHT), doubled)
        for doubled in folds[:1] if scene.coarse else folds:
            # A folded band reaches half as far, so that a coarse grid is as dense.
            yield from self.at_points(scene, doubled, scene.coarse or doubled)

    def at_points(self, scene: Scene, doubled: bool, coarse: bool) -> Iterator[Placements]:
        """From the anchor heights of the place at all sides; where a few placements will do, from three of them."""
        heights = scene.others
        if coarse and len(heights) > 3:
            heights = [heights[0], heights[len(heights) // 2], heights[-1]]
        if heights:
            room = max(scene.room.length, scene.room.width) - ELBOW_ROOM
            distance, bearing = all_round(min(room, FARTHEST / (2 if doubled else 1)), coarse)
            height = np.repeat(np.array(heights) / 100, len(distance))
            distance, bearing = np.tile(distance, len(heights)), np.tile(bearing, len(heights))
            yield self.batch("point", distance * np.cos(bearing), -distance * np.sin(bearing), height, doubled)

    def wrap(self, nearest: float, doubled: bool) -> float:
        """How much of the slack band to wrap around the feet so that it just pulls with the hand ``nearest``, m, cm; 0 where it
        need not be, or cannot."""
        slack, step = self.curve()[0].length_cm, 5.0
        over = float(np.ceil((slack - (2 if doubled else 1) * 100 * nearest) / step) * step)
        return over if 0 < over <= slack / 2 else 0.0

    def batch(
        self, anchor: BandAnchor, forward: Floats, right: Floats, height: Floats, doubled: bool = False, choke: float = 0.0
    ) -> Placements:
        """Placements of the anchor ahead and to the right of the hips and above the floor, m, all (placement,); ``choke`` is
        what goes around it of the slack band, cm."""
        where, choke = np.stack([forward, -right, height], axis=-1), round(choke)

        def setting(i: int, amount: float) -> BandPull:
            x, y, z = (round(float(v) * 100, 1) for v in where[i])
            return BandPull(self, z, x, 0.0 - y, round(amount), anchor, doubled, float(choke))

        return Placements(self.elastic(where, doubled, choke / 100, anchor != "point"), len(where), setting)


@dataclass(frozen=True)
class BandPull(Setting):
    """A band from an anchor to the working hand; places are seen from the client."""

    band: Band
    height_cm: Annotated[Real, Ge(0), Le(350)] = field(metadata={"description": "Height of the anchor, cm"})
    forward_cm: Annotated[Real, Ge(-600), Le(600)] = field(
        metadata={"description": "Anchor ahead of the hips (negative: behind), cm"}
    )
    right_cm: Annotated[Real, Ge(-600), Le(600)] = field(
        metadata={"description": "Anchor to the right of the hips (negative: left), cm"}
    )
    strands: Annotated[Whole, Ge(1), Le(10)] = field(default=1, metadata={"description": "Bands side by side"})
    anchor: BandAnchor = field(
        default="point",
        metadata={"description": "Held under a foot, around the feet of who sits on the floor, or fixed to an anchor"},
    )
    doubled: bool = field(default=False, metadata={"description": "Folded in two: half as long, twice the pull"})
    choke_cm: Annotated[Real, Ge(0), Le(100)] = field(
        default=0.0,
        metadata={"description": "Length that a choke around the anchor takes of the slack band, cm; 0 when hooked"},
    )
    hands: Literal["one", "both"] = field(
        default="one", metadata={"description": "One side at a time, or a band to each side, such as on both ends of a bar"}
    )
    attachment: Attachment = USUAL
    kind: Literal["band"] = "band"
    item_field: ClassVar[str] = "band"
    line: ClassVar[bool] = True
    __pydantic_config__ = EDGE

    @property
    def held(self) -> bool:
        """Whether the client's own feet hold it."""
        return self.anchor != "point"

    def can_be_hung(self, kit: Sequence[Any]) -> bool:
        """Held by the feet, or at an anchor's height."""
        return self.held or self.height_cm in anchor_heights(kit)

    @property
    def use_label(self) -> str:
        """Under a foot or around the feet, or at an anchor; folded or not, wrapped or not."""
        return f"{self.anchor}{', folded' if self.doubled else ''}{', wrapped' if self.choke_cm else ''}"

    @property
    def mirrors_line(self) -> bool:
        """A band to each side."""
        return self.hands == "both"

    @property
    def pulls_level(self) -> bool:
        """From ahead or behind."""
        return self.forward_cm != 0

    @property
    def place_field(self) -> str:
        """How far ahead the anchor is."""
        return "forward_cm"

    def verify(self) -> None:
        """As many strands as there are bands."""
        try:
            self.band.verify()
        except DomainError as error:
            raise error.at("band") from None
        if self.strands > self.band.count:
            raise DomainError("strands", self.strands, f"there are {self.band.count} of {self.band.name}", "Use fewer")
        if self.hands == "both" and 2 * self.strands > self.band.count:
            limit = f"a band to each side takes {2 * self.strands}; there are {self.band.count} of {self.band.name}"
            raise DomainError("hands", self.hands, limit, 'Use "one"')
        slack = self.band.curve()[0].length_cm
        if self.choke_cm > slack / 2:
            raise DomainError("choke_cm", self.choke_cm, f"at most half the slack length, {cm(slack)}", "Measure the choke")

    def law(self) -> Elastic:
        """Tension along the line to this anchor."""
        where = np.array([self.forward_cm, -self.right_cm, self.height_cm]) / 100
        return self.band.elastic(where, self.doubled, self.choke_cm / 100, self.held)

    @property
    def amount(self) -> float:
        """Bands side by side."""
        return float(self.strands)

    @property
    def lead(self) -> Lead:
        """Toward the anchor."""
        x, y, z = (round(float(v), 3) for v in self.law().anchor)
        return Lead((x, y, z))

    @property
    def both_sides(self) -> bool:
        """Whether both sides work at once."""
        return self.hands == "both"

    @property
    def amount_unit(self) -> str:
        """A choice of bands."""
        return ""

    def with_amount(self, amount: float) -> BandPull:
        """With another amount, in the unit of ``amount``."""
        return replace(self, strands=round(amount))

    def amount_words(self, amount: float) -> str:
        """For example ``two bands``."""
        return self.band.name if round(amount) == 1 else f"{round(amount)} x {self.band.name}"

    def rows(self) -> list[SettingRow]:
        """Anchor, distance, facing."""
        if self.anchor == "feet":
            side = (
                f", {cm(abs(self.right_cm))} to the {'working' if self.right_cm > 0 else 'other'} side" if self.right_cm else ""
            )
            return [SettingRow("Anchor", f"around the feet{side}", "right_cm"), SettingRow("Hold", self._hold(), "hands")]
        if self.anchor == "foot":
            return [
                SettingRow("Anchor", f"under a foot, {foot_words(self.forward_cm, self.right_cm)}", "forward_cm"),
                SettingRow("Hold", self._hold(), "hands"),
            ]
        distance = float(np.hypot(self.forward_cm, self.right_cm))
        facing = bearing_words(self.forward_cm, self.right_cm, "anchor")
        return [
            SettingRow("Anchor", f"{cm(self.height_cm)} high", "height_cm"),
            SettingRow("Place", f"{distance_words(distance, 'anchor')}, {facing}", "forward_cm"),
            SettingRow("Hold", self._hold(), "hands"),
        ]

    def _hold(self) -> str:
        how = ["one side at a time" if self.hands == "one" else "one to each side"]
        how += ["folded in two"] if self.doubled else []
        around = "wrapped around the feet" if self.anchor == "feet" else "choked around the anchor"
        how += [f"{around}, which takes {cm(self.choke_cm)}"] if self.choke_cm else []
        return ", ".join(how)

    def short(self) -> str:
        """Band and anchor."""
        if self.held:
            folded = "folded " if self.doubled else ""
            return f"{self.band.name}, {folded}{'under a foot' if self.anchor == 'foot' else 'around the feet'}"
        return f"{self.band.name}, {bearing_words(self.forward_cm, self.right_cm, brief=True)}"

    def cautions(self) -> list[str]:
        """Cracks, anchor, recoil."""
        slips = (
            "hook it over the shoe so that it cannot slip off" if self.anchor == "feet" else "tug the anchor before loading it"
        )
        return [f"Look the band over for cracks, {slips}, and never aim the recoil at the face."]

    def adjustable_parameters(self, kit: Sequence[Any]) -> list[AdjustableParameter]:
        """Where the foot stands; or anchor height, distance and facing."""
        if self.anchor == "feet":
            return [AdjustableParameter("right", "to the working side", "cm", self.right_cm, -20, 20, 5, 10)]
        if self.anchor == "foot":
            return [
                AdjustableParameter("forward", "foot ahead", "cm", self.forward_cm, -40, 40, 5, 10),
                AdjustableParameter("right", "foot to the working side", "cm", self.right_cm, -40, 40, 5, 10),
            ]
        heights = anchor_heights(kit, self.height_cm)
        height = AdjustableParameter("height", "anchor height", "cm", self.height_cm, heights[0], heights[-1], 5, 10, heights)
        return [*([height] if len(heights) > 1 else []), *position_parameters(self.forward_cm, self.right_cm)]

    def with_parameter(self, name: str, value: float) -> BandPull:
        """With the anchor or the foot elsewhere."""
        if name in ("height", "forward", "right"):
            return replace(self, **{f"{name}_cm": value})  # type: ignore[arg-type]
        forward, right = change_position(self.forward_cm, self.right_cm, name, value)
        return replace(self, forward_cm=forward, right_cm=right)

    def with_far_end_near(self, point: Floats, kit: Sequence[Any]) -> BandPull:
        """With the anchor near a point."""
        near = min(anchor_heights(kit, self.height_cm), key=lambda h: abs(h - float(point[2]) * 100))
        height = self.height_cm if self.held else near
        x, y = (round(float(v) * 100, 1) for v in point[:2])
        return replace(self, forward_cm=x, right_cm=-y, height_cm=height)

    def nearby(self, part: float) -> Placements | None:
        """A distance and facing either way; a foot's places are few enough as they are."""
        if self.held:
            return None
        ahead, right = step_position(self.forward_cm / 100, self.right_cm / 100, part)
        height = np.full(len(ahead), self.height_cm / 100)
        return self.band.batch(self.anchor, ahead, right, height, self.doubled, self.choke_cm)

    def prop(self) -> dict[str, Any]:
        """The anchor."""
        return {"kind": "anchor", "foot": self.held}


SETTING, KIT = BandPull, Band
