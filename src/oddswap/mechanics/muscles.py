"""Muscle lengths and leverage as smooth functions of the joint coordinates.

A compact table, fitted to an open musculoskeletal dataset by ``tools/build_muscle_table.py``, is evaluated with NumPy
alone; the corrections of ``data/muscles.toml`` are added on top. Leverage is a moment vector per unit of muscle force
over the five ``MOMENT_AXES`` (three about the shoulder centre in the torso frame, elbow flexion, forearm pronation), m.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.mechanics.arm import DOWN, cross, path_from_coordinates, unit
from oddswap.mechanics.body import Body, tables, within_ranges
from oddswap.mechanics.types import Floats

DATASET_STATURE = 1.70
"""Stature, m, of the body that the dataset was made for; lengths scale with stature against it."""


def shoulder_basis(plane: Floats, elevation: Floats, rotation: Floats, degree: int) -> Floats:
    """Terms rho^k {cos, sin}(m plane) rotation^n with m <= k and k + n <= degree; (..., terms).

    rho is the elevation as a part of a half turn, so that the terms are polynomials of the arm's direction on the sphere
    in polar form; all angles in radians.
    """
    rho, twist = elevation / np.pi, rotation / (np.pi / 2)
    powers_r = [np.ones_like(rho)]
    powers_t = [np.ones_like(twist)]
    for _ in range(degree):
        powers_r.append(powers_r[-1] * rho)
        powers_t.append(powers_t[-1] * twist)
    waves = [(np.cos(m * plane), np.sin(m * plane)) for m in range(degree + 1)]
    terms = []
    for k in range(degree + 1):
        for m in range(k + 1):
            for wave in waves[m][: 1 if m == 0 else 2]:
                front = powers_r[k] * wave
                terms += [front * powers_t[n] for n in range(degree - k + 1)]
    return np.stack(terms, axis=-1)


def elbow_basis(elbow: Floats, pronation: Floats, degree: int) -> Floats:
    """Chebyshev products of total degree up to ``degree`` over flexion 0 to 145 and rotation -90 to 90 deg; (..., terms)."""
    x = np.clip(elbow / np.radians(72.5) - 1, -1.0, 1.0)
    y = np.clip(pronation / np.radians(90), -1.0, 1.0)
    towers = []
    for v in (x, y):
        tower = [np.ones_like(v), v]
        for _ in range(degree - 1):
            tower.append(2 * v * tower[-1] - tower[-2])
        towers.append(tower)
    return np.stack([towers[0][i] * towers[1][j] for i in range(degree + 1) for j in range(degree + 1 - i)], axis=-1)


@dataclass(frozen=True)
class MuscleState:
    """Muscles at a batch of poses.

    Args:
        length: Muscle-tendon length, m, (..., pose, muscle).
        leverage: Moment vectors, m, (..., pose, muscle, 5 moment axes).
    """

    length: Floats
    leverage: Floats


@dataclass(frozen=True)
class Group:
    """A muscle or head as people name it, made of table entries weighted by strength."""

    id: str
    name: str
    weights: Floats
    """One weight per muscle of the table, summing to one, (muscle,)."""


class MuscleTable:
    """The shipped muscles; use ``muscle_table()`` for the one shared instance."""

    def __init__(self) -> None:
        data = files("oddswap.mechanics") / "data"
        self.settings: dict[str, Any] = tomllib.loads((data / "muscles.toml").read_text())
        with (data / "muscle_table.npz").open("rb") as file, np.load(file) as table:
            arrays = {k: table[k] for k in table.files}
        self.names: tuple[str, ...] = tuple(str(n) for n in arrays["muscles"])
        index = {n: i for i, n in enumerate(self.names)}
        self._shoulder = [index[str(n)] for n in arrays["shoulder_muscles"]]
        self._elbow = [index[str(n)] for n in arrays["elbow_muscles"]]
        # (terms, muscle * columns): one matrix product gives length change and leverage of all muscles at once.
        self._shoulder_matrix = _matrix(arrays["shoulder_coefficients"])
        self._elbow_matrix = _matrix(arrays["elbow_coefficients"])
        self.rest_length = arrays["rest_length"].astype(float)
        self._shoulder_degree, self._elbow_degree = (int(d) for d in arrays["degrees"])
        muscle, strength = self.settings["muscle"], self.settings["strength"]
        area = np.array([muscle[n]["pcsa_cm2"] for n in self.names])
        self.strongest = area * strength["specific_tension_n_cm2"] * strength["trained"]
        """Greatest force of each muscle, N, (muscle,)."""
        self.groups = {g: self._group(g) for g in self.settings["group"]}
        self._spans: Floats | None = None

    def _group(self, group: str) -> Group:
        entry = self.settings["group"][group]
        weights = np.array([f if n in entry["members"] else 0.0 for n, f in zip(self.names, self.strongest, strict=True)])
        return Group(group, entry["name"], weights / weights.sum())

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """Lengths and leverage at joint coordinates (..., pose, 5), radians; ``corrected=False`` gives the bare dataset."""
        shape = (*coords.shape[:-1], len(self.names))
        length = np.broadcast_to(self.rest_length, shape).copy()
        leverage = np.zeros((*shape, 5))
        plane, elevation, rotation, elbow, pronation = np.moveaxis(coords, -1, 0)
        at_shoulder = shoulder_basis(plane, elevation, rotation, self._shoulder_degree) @ self._shoulder_matrix
        at_shoulder = at_shoulder.reshape(*shape[:-1], len(self._shoulder), 4)
        at_elbow = elbow_basis(elbow, pronation, self._elbow_degree) @ self._elbow_matrix
        at_elbow = at_elbow.reshape(*shape[:-1], len(self._elbow), 3)
        length[..., self._shoulder] += at_shoulder[..., 0]
        length[..., self._elbow] += at_elbow[..., 0]
        leverage[..., self._shoulder, :3] = at_shoulder[..., 1:]
        leverage[..., self._elbow, 3:] = at_elbow[..., 1:]
        if corrected:
            self._correct(coords, leverage)
        return MuscleState(length, leverage)

    def _correct(self, coords: Floats, leverage: Floats) -> None:
        """Apply the visible table of corrections to ``leverage`` in place."""
        _, elevation, rotation, elbow, _ = np.moveaxis(coords, -1, 0)
        for i, name in enumerate(self.names):
            entry = self.settings["muscle"][name]
            leverage[..., i, :3] *= entry.get("shoulder_scale", 1.0)
            leverage[..., i, 3] *= entry.get("elbow_scale", 1.0)
        table = self.settings["correction"]["shoulder"]
        u = path_from_coordinates(coords).upper_arm
        raising = cross(np.broadcast_to(DOWN, u.shape), u)
        side = np.linalg.norm(raising, axis=-1)
        raising = unit(raising)
        fade = np.minimum(1.0, side / 0.5)
        weights_e = _hat_weights(np.degrees(elevation), np.array(table["elevation_nodes_deg"], dtype=float))
        weights_p = _hat_weights(u[..., 0] / np.maximum(side, 0.2), np.array(table["plane_nodes"], dtype=float))
        for key, axis in [("about_elevation_axis_mm", raising), ("about_vertical_mm", np.array([0.0, 0.0, 1.0]))]:
            for name, grid in table[key].items():
                arm = np.einsum("...p,pe,...e->...", weights_p, np.array(grid, dtype=float), weights_e)
                leverage[..., self.names.index(name), :3] += (arm * fade * 1e-3)[..., None] * axis
        for name, bump in table["hanging"].items():
            tilt = np.radians(bump["axis_turn_deg"])
            arm = bump["amplitude_mm"] * 1e-3 * np.exp(-((np.degrees(elevation) / bump["width_deg"]) ** 2))
            leverage[..., self.names.index(name), :3] += arm[..., None] * np.array([-np.cos(tilt), -np.sin(tilt), 0.0])
        for name, amplitude in table["rotation_mm"].items():
            leverage[..., self.names.index(name), :3] += (amplitude * 1e-3 * np.sin(rotation) * fade)[..., None] * raising
        elbow_table = self.settings["correction"]["elbow"]
        for name, values in elbow_table["flexion_arm_mm"].items():
            added = np.interp(np.degrees(elbow), elbow_table["angle_nodes_deg"], values)
            leverage[..., self.names.index(name), 3] += added * 1e-3

    @property
    def spans(self) -> Floats:
        """Shortest and longest length, m, that the published joint ranges allow each muscle, (muscle, 2)."""
        if self._spans is None:
            self._spans = self._measure_spans()
        return self._spans

    def _measure_spans(self) -> Floats:
        norm = tables()["range"]
        grid = np.meshgrid(
            np.radians(np.linspace(norm["plane_nodes"][0], norm["plane_nodes"][-1], 23)),
            np.radians(np.linspace(0, 175, 25)),
            np.radians(np.linspace(norm["rotation"][0], norm["rotation"][1], 9)),
            indexing="ij",
        )
        plane, elevation, rotation = (g.ravel() for g in grid)
        inside = within_ranges(plane, elevation, rotation, 0 * plane, 0 * plane)
        zero = np.zeros(int(inside.sum()))
        # Shoulder and elbow parts add up, so the extremes of the sum are the sums of the extremes.
        over_shoulder = self.evaluate(np.stack([plane[inside], elevation[inside], rotation[inside], zero, zero], axis=-1))
        elbow, pronation = (
            g.ravel()
            for g in np.meshgrid(
                *(np.radians(np.linspace(norm[k][0], norm[k][1], 19)) for k in ("elbow", "pronation")), indexing="ij"
            )
        )
        zero = np.zeros_like(elbow)
        over_elbow = self.evaluate(np.stack([zero, zero, zero, elbow, pronation], axis=-1))
        return np.stack(
            [f(over_shoulder.length, axis=0) + f(over_elbow.length, axis=0) - self.rest_length for f in (np.min, np.max)],
            axis=-1,
        )

    def normalised(self, length: Floats) -> Floats:
        """Length (..., muscle) as 0 at the longest to 1 at the shortest that the joints allow."""
        shortest, longest = self.spans.T
        return np.asarray((longest - length) / (longest - shortest))

    def capacity(self, length: Floats) -> Floats:
        """Greatest active force, N, at muscle-tendon length (..., muscle), with a stiff tendon.

        F = Fmax max(floor, exp(-(n - 1)^2 / width)) with n fibre length over optimal (Thelen 2003). Where the tabled
        fibre would be run outside its active span, it is stretched and recentred to stay inside.
        """
        law = self.settings["force_length"]
        fibre = np.array([self.settings["muscle"][n]["fibre_mm"] for n in self.names]) * 1e-3
        optimum, tendon = fibre[:, 0].copy(), fibre[:, 1].copy()
        shortest, longest = self.spans.T
        optimum = np.maximum(optimum, (longest - shortest) / 1.1)
        low, high = (shortest - tendon) / optimum, (longest - tendon) / optimum
        outside = (low < 0.45) | (high > 1.55)
        tendon = np.where(outside, (shortest + longest) / 2 - optimum, tendon)
        n = (length - tendon) / optimum
        return np.asarray(self.strongest * np.maximum(law["floor"], np.exp(-((n - 1) ** 2) / law["width"])))

    def stature_scale(self, body: Body) -> float:
        """Factor from the dataset's lengths to this client's."""
        return body.stature / DATASET_STATURE


def _matrix(coefficients: Floats) -> Floats:
    muscles, terms, columns = coefficients.shape
    return np.ascontiguousarray(coefficients.transpose(1, 0, 2).reshape(terms, muscles * columns), dtype=float)


def _hat_weights(x: Floats, nodes: Floats) -> Floats:
    """Linear interpolation weights (..., node) of ``x`` (...) on ``nodes``, held constant outside."""
    x = np.clip(x, nodes[0], nodes[-1])[..., None]
    step = np.diff(nodes)
    rising = np.concatenate([np.full((*x.shape[:-1], 1), np.inf), (x - nodes[:-1]) / step], axis=-1)
    falling = np.concatenate([(nodes[1:] - x) / step, np.full((*x.shape[:-1], 1), np.inf)], axis=-1)
    return np.asarray(np.clip(np.minimum(rising, falling), 0.0, 1.0))


@cache
def muscle_table() -> MuscleTable:
    """The shipped muscles, read once."""
    return MuscleTable()
