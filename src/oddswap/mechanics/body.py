"""The client's body as rigid segments: lengths, masses, landmark heights, joint ranges."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.types import Bools, Floats

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

    Raises:
        DomainError: If stature or mass is outside the tables' span.

    Source: lengths after Drillis and Contini (1966) as tabled by Winter (2009); masses and centres after de Leva (1996).
    """

    stature: float
    mass: float
    sex: Sex = "male"

    def __post_init__(self) -> None:
        for field, value, unit in [("stature_cm", self.stature * 100, "cm"), ("mass_kg", self.mass, "kg")]:
            low, high = tables()["limits"][field]
            if not low <= value <= high:
                raise DomainError(
                    field,
                    round(value, 2),
                    f"the body tables hold for {low} to {high} {unit}",
                    f"Check the figure and its unit ({unit})",
                )

    def length(self, segment: str) -> float:
        """Length of a segment, m (``upper_arm``, ``forearm``, ``hand``, ``thigh``, ``shank``, ``foot``)."""
        return float(tables()["length"][segment]) * self.stature

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

    def centre(self, segment: str) -> float:
        """Distance of a segment's mass centre from its upper joint, m."""
        part = float(tables()["mass"][self.sex][segment]["centre"])
        if segment == "hand":
            return part * float(tables()["hand"]["knuckle"]) * self.stature
        return part * self.length(segment)

    def landmarks(self) -> dict[str, float]:
        """Heights, m, that pulleys are called by: floor to overhead reach."""
        reach = self.height("shoulder") + self.length("upper_arm") + self.length("forearm") + self.own("grip")
        hang = self.height("shoulder") - self.length("upper_arm") - self.length("forearm") - self.own("grip")
        named = {k: self.height(k) for k in ("ankle", "knee", "navel", "chest", "shoulder")}
        return {"floor": 0.0, **named, "hanging hand": hang, "head": self.stature, "overhead reach": reach}


def within_ranges(plane: Floats, elevation: Floats, rotation: Floats, elbow: Floats, pronation: Floats) -> Bools:
    """Whether each pose (..., pose) lies within the published joint ranges; all angles in radians."""
    norm = tables()["range"]
    most = np.interp(np.degrees(plane), norm["plane_nodes"], norm["most_elevation"])
    # The plane means nothing while the arm hangs, and the rotation limit is the clinical one of the raised arm.
    inside: Bools = np.degrees(elevation) <= most + 1e-6
    for angle, name in [(rotation, "rotation"), (elbow, "elbow"), (pronation, "pronation")]:
        low, high = norm[name]
        inside = inside & (np.degrees(angle) >= low - 1e-6) & (np.degrees(angle) <= high + 1e-6)
    return inside
