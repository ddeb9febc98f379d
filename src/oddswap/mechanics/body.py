"""The client's body as rigid segments: lengths, masses, landmark heights, joint ranges."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any, Literal

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.types import Bools, Floats
from oddswap.quantities import cm

Sex = Literal["female", "male"]

GRAVITY = 9.80665
"""Standard gravity, m/s^2."""


@cache
def tables() -> dict[str, Any]:
    """The shipped body data (``data/body.toml``), read once."""
    return tomllib.loads((files("oddswap.mechanics") / "data" / "body.toml").read_text())


@dataclass(frozen=True)
class Body:
    """One client's size.

    Args:
        stature: Standing height, m.
        mass: Body mass, kg.
        sex: Which segment table to use.
        measured: The client's own segment lengths, m, by name (``upper_arm``, ``thigh`` ...); they override the table.
        ranges: The client's own ends of joint ranges, degrees, by name; they narrow the norms, never widen them.
        strong_at: Body mass that strength is reckoned from, kg; None for the mass of today. Who gains or loses weight from one
            weighing to the next is as strong as before.

    Raises:
        DomainError: If stature or mass is outside the tables' span, or a measure is not believable.

    Source: lengths after Drillis and Contini (1966) as tabled by Winter (2009); masses and centres after de Leva (1996).
    """

    stature: float
    mass: float
    sex: Sex = "male"
    measured: Mapping[str, float] = field(default_factory=dict, hash=False)
    ranges: Mapping[str, tuple[float, float]] = field(default_factory=dict, hash=False)
    strong_at: float | None = None

    def __post_init__(self) -> None:
        for name, value, unit in [("stature_cm", self.stature * 100, "cm"), ("mass_kg", self.mass, "kg")]:
            low, high = tables()["limits"][name]
            if not low <= value <= high:
                raise DomainError(
                    name,
                    round(value, 2),
                    f"the body tables hold for {low} to {high} {unit}",
                    f"Check the figure and its unit ({unit})",
                )

        table = tables()["length"]
        for name, value in self.measured.items():
            if name not in table or name == "source":
                known = ", ".join(k for k in table if k != "source")
                raise DomainError(f"measured.{name}", value, f"the segments are {known}", "Use one of these names")
            usual = table[name] * self.stature
            if not 0.75 * usual <= value <= 1.25 * usual:
                limit = f"within a quarter of the usual {cm(usual * 100)} at this stature"
                raise DomainError(f"measured.{name}", round(value, 3), limit, "Measure again, joint centre to joint centre")
        for name, (low, high) in self.ranges.items():
            norm = tables()["range"].get(name)
            if norm is None or len(norm) != 2 or name == "source":
                raise DomainError(f"ranges.{name}", [low, high], "no joint range has this name", "Check its spelling")
            if low > high:
                raise DomainError(f"ranges.{name}", [low, high], "the lower end comes first", "Swap the two")

    def length(self, segment: str) -> float:
        """Length of a segment, m (``upper_arm``, ``forearm``, ``hand``, ``thigh``, ``shank``, ``foot``)."""
        return float(self.measured.get(segment) or tables()["length"][segment] * self.stature)

    @property
    def to_hand(self) -> float:
        """From elbow to the middle of the grip, m."""
        return self.length("forearm") + self.own("grip")

    def range(self, name: str) -> tuple[float, float]:
        """Joint range, degrees: the published norm, narrowed by the client's own."""
        low, high = tables()["range"][name]
        own = self.ranges.get(name, (low, high))
        return max(low, own[0]), min(high, own[1])

    def own(self, name: str) -> float:
        """A length that the published tables lack, m; see ``[own]`` and ``[trunk]`` in the data."""
        data = tables()
        return float(data["own"].get(name) or data["trunk"][name]) * self.stature

    def height(self, landmark: str) -> float:
        """Height of a landmark above the floor when standing, m."""
        return float(tables()["height"][landmark]) * self.stature

    def segment_mass(self, segment: str) -> float:
        """Mass of one segment (one side), kg."""
        return float(tables()["mass"][self.sex][segment]["mass"]) * self.mass

    @property
    def strength(self) -> float:
        """Strength against the muscle table's trained man, until the log knows better; see ``[strength]`` in the data."""
        law = tables()["strength"]
        return float(((self.strong_at or self.mass) / law["mass_kg"]) ** law["exponent"] * law[self.sex])

    def centre_part(self, segment: str) -> float:
        """A segment's mass centre as part of its length from the upper joint."""
        return float(tables()["mass"][self.sex][segment]["centre"])

    def centre(self, segment: str) -> float:
        """Distance of a segment's mass centre from its upper joint, m."""
        part = float(tables()["mass"][self.sex][segment]["centre"])
        if segment == "hand":
            return part * float(tables()["hand"]["knuckle"]) * self.stature
        return part * self.length(segment)

    def landmarks(self) -> dict[str, float]:
        """Heights, m, that pulleys are called by: floor to overhead reach."""
        reach = self.height("shoulder") + self.length("upper_arm") + self.to_hand
        hang = self.height("shoulder") - self.length("upper_arm") - self.to_hand
        named = {k: self.height(k) for k in ("ankle", "knee", "navel", "chest", "shoulder")}
        return {"floor": 0.0, **named, "hanging hand": hang, "head": self.stature, "overhead reach": reach}


def within_ranges(
    plane: Floats, elevation: Floats, rotation: Floats, elbow: Floats, pronation: Floats, body: Body | None = None
) -> Bools:
    """Whether each pose (..., pose) of the arm lies within the joint ranges, published or the client's own; radians."""
    norm = tables()["range"]
    most = np.interp(np.degrees(plane), norm["plane_nodes"], norm["most_elevation"])
    # The plane means nothing while the arm hangs, and the rotation limit is the clinical one of the raised arm.
    inside: Bools = np.degrees(elevation) <= most + 1e-6
    for angle, name in [(rotation, "rotation"), (elbow, "elbow"), (pronation, "pronation")]:
        low, high = body.range(name) if body else norm[name]
        inside = inside & (np.degrees(angle) >= low - 1e-6) & (np.degrees(angle) <= high + 1e-6)
    return inside


def borne_across(joint: str, bent: Floats) -> Floats:
    """Torque across a hinge joint that its sides bear for a set, N·m; a straight joint is locked by its bones.

    Args:
        joint: ``elbow`` or ``knee``.
        bent: Its bend, degrees, (...).
    """
    rule = tables()["sideways"]
    borne = [rule[f"{joint}_straight_nm"], rule[f"{joint}_nm"]]
    return np.asarray(np.interp(bent, [0.0, rule["bent_deg"]], borne))
