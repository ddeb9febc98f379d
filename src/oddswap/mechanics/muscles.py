"""Muscle lengths and moment arms as smooth functions of the joint coordinates.

A compact table, fitted to an open musculoskeletal dataset by ``tools/build_muscle_table.py``, is evaluated with NumPy
alone; the corrections of ``data/muscles.toml`` are added on top. Muscles come in regions that share no joint: *arm* (three
moment axes about the shoulder centre in the torso frame, elbow flexion, forearm pronation), *leg* (three about the hip
centre in the pelvis frame, knee flexion, ankle dorsiflexion), *trunk* (forward flexion), *waist* (bending to one side),
*scapula* (up and forward about the collarbone's inner end) and *wrist* (flexion). A moment arm is a moment vector per unit of
muscle force over the region's axes, m. Inside, poses stand last in memory, so that one operation runs over all of them; outside
they come first, as views.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.mechanics.body import Body
from oddswap.mechanics.muscle_regions import DATASET_STATURE, ArmMuscles, LegMuscles, Region
from oddswap.mechanics.tabled_muscles import HingeMuscles, ScapulaMuscles
from oddswap.mechanics.types import Floats


@dataclass(frozen=True)
class Group:
    """A muscle or head as people name it: entries of one region weighted by strength."""

    id: str
    name: str
    region: str
    weights: Floats


REGIONS: dict[str, type[Region]] = {
    "arm": ArmMuscles,
    "leg": LegMuscles,
    "trunk": HingeMuscles,
    "scapula": ScapulaMuscles,
    "wrist": HingeMuscles,
    "waist": HingeMuscles,
}
"""Regions that share no joint, by name."""


class MuscleTable:
    """The shipped muscles by region, and the groups shown to people."""

    def __init__(self) -> None:
        package = files("oddswap.mechanics") / "data"
        self.settings: dict[str, Any] = tomllib.loads((package / "muscles.toml").read_text())
        with (package / "muscle_table.npz").open("rb") as file, np.load(file) as data:
            arrays = {k: data[k] for k in data.files}
        self.regions = {name: kind(name, arrays, self.settings) for name, kind in REGIONS.items()}
        self.groups = {g: self._group(g) for g in self.settings["group"]}

    def _group(self, group: str) -> Group:
        entry = self.settings["group"][group]
        region = self.regions[self.settings["muscle"][entry["members"][0]]["region"]]
        member = np.isin(region.names, entry["members"])
        weights = np.where(member, region.strongest, 0.0)
        return Group(group, entry["name"], region.name, weights / weights.sum())

    def stature_scale(self, body: Body) -> float:
        """Factor from the dataset's lengths to this client's."""
        return body.stature / DATASET_STATURE


@cache
def muscle_table() -> MuscleTable:
    """The shipped muscles, read once."""
    return MuscleTable()
