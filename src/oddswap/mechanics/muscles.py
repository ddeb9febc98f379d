"""Muscle lengths and leverage as smooth functions of the joint coordinates.

A compact table, fitted to an open musculoskeletal dataset by ``tools/build_muscle_table.py``, is evaluated with NumPy
alone; the corrections of ``data/muscles.toml`` are added on top. Muscles come in regions that share no joint: *arm* (three
moment axes about the shoulder centre in the torso frame, elbow flexion, forearm pronation), *leg* (three about the hip
centre in the pelvis frame, knee flexion, ankle dorsiflexion), *trunk* (forward flexion) and *girdle* (up and forward about
the collarbone's inner end). Leverage is a moment vector per unit of muscle force over the region's axes, m.
"""

from __future__ import annotations

import tomllib
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.mechanics.body import Body, tables, within_ranges
from oddswap.mechanics.types import Floats

DATASET_STATURE = 1.70
"""Stature, m, of the body that the dataset was made for; lengths scale with stature against it."""
AXES = {
    "arm": ("shoulder x", "shoulder y", "shoulder z", "elbow flexion", "forearm pronation"),
    "leg": ("hip x", "hip y", "hip z", "knee flexion", "ankle dorsiflexion"),
    "trunk": ("trunk flexion",),
    "girdle": ("girdle up", "girdle forward"),
}
"""What the components of every moment and leverage vector are about, by region and in this order."""
HINGE_NODES = 561
LARGE = 2500
"""Poses from which on a batch is split."""


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


def _chebyshev(x: Floats, degree: int) -> list[Floats]:
    """Chebyshev polynomials 0 to ``degree`` of ``x`` (...), each (...)."""
    tower = [np.ones_like(x), x]
    for _ in range(degree - 1):
        tower.append(2 * x * tower[-1] - tower[-2])
    return tower[: degree + 1]


def hip_basis(flexion: Floats, adduction: Floats, rotation: Floats, degree: int) -> Floats:
    """Chebyshev products of total degree up to ``degree`` over the hip's three coordinates, radians; (..., terms)."""
    spans = [(-30, 125), (-45, 30), (-40, 40)]
    towers = []
    for angle, (low, high) in zip((flexion, adduction, rotation), spans, strict=True):
        middle, half = np.radians((low + high) / 2), np.radians((high - low) / 2)
        towers.append(_chebyshev(np.clip((angle - middle) / half, -1.0, 1.0), degree))
    triples = [(i, j, k) for i in range(degree + 1) for j in range(degree + 1 - i) for k in range(degree + 1 - i - j)]
    return np.stack([towers[0][i] * towers[1][j] * towers[2][k] for i, j, k in triples], axis=-1)


def hinge_basis(angle: Floats, span_deg: list[float], degree: int) -> tuple[Floats, Floats]:
    """Chebyshev polynomials of a hinge's angle, radians, over ``span_deg``, and their slopes per radian; (..., terms) each."""
    middle, half = np.radians(sum(span_deg) / 2), np.radians((span_deg[1] - span_deg[0]) / 2)
    x = np.clip((angle - middle) / half, -1.0, 1.0)
    values = _chebyshev(x, degree)
    # T'_k = k U_(k - 1), and the U follow the same recurrence from U_0 = 1, U_1 = 2 x.
    second = [np.ones_like(x), 2 * x]
    for _ in range(degree):
        second.append(2 * x * second[-1] - second[-2])
    slopes = [np.zeros_like(x)] + [k * second[k - 1] / half for k in range(1, degree + 1)]
    return np.stack(values, axis=-1), np.stack(slopes, axis=-1)


@dataclass(frozen=True)
class MuscleState:
    """One region's muscles at a batch of poses.

    Args:
        length: Muscle-tendon length, m, (..., pose, muscle).
        leverage: Moment vectors, m, (..., pose, muscle, axis).
    """

    length: Floats
    leverage: Floats


@dataclass(frozen=True)
class Group:
    """A muscle or head as people name it: entries of one region weighted by strength."""

    id: str
    name: str
    region: str
    weights: Floats


class Region:
    """The muscles of one region.

    Args:
        name: ``arm``, ``leg`` or ``trunk``.
        arrays: The shipped table.
        settings: The parsed ``muscles.toml``.
    """

    def __init__(self, name: str, arrays: Any, settings: dict[str, Any]) -> None:
        self.name, self.axes, self.settings = name, AXES[name], settings
        self.entries: dict[str, dict[str, Any]] = {k: v for k, v in settings["muscle"].items() if v["region"] == name}
        self.names: tuple[str, ...] = tuple(self.entries)
        self.strongest: Floats = np.zeros(len(self.names))
        """Greatest force of each muscle, N, (muscle,)."""
        self.cost = np.array([e.get("cost", 1.0) for e in self.entries.values()])
        """How dear each is to recruit, (muscle,)."""
        self.rest_length: Floats = np.zeros(len(self.names))
        self.prepare(arrays)

    def index(self, names: Any) -> list[int]:
        """Places of muscles in the region."""
        return [self.names.index(str(n)) for n in names]

    def by_area(self) -> Floats:
        """Greatest force from area, specific tension and training, N, (muscle,)."""
        strength = self.settings["strength"]
        area = np.array([e["pcsa_cm2"] for e in self.entries.values()])
        return area * float(strength["specific_tension_n_cm2"] * strength["trained"])

    def fibres(self) -> Floats:
        """Optimal fibre and tendon slack length, m, (muscle, 2)."""
        return np.array([e["fibre_mm"] for e in self.entries.values()]) * 1e-3

    def prepare(self, arrays: Any) -> None:
        """Read the region's part of the table."""
        raise NotImplementedError

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """Lengths and leverage at joint coordinates (..., pose, coordinate), radians; uncorrected is the bare dataset."""
        raise NotImplementedError

    def evaluate_many(self, coords: Floats) -> MuscleState:
        """``evaluate`` of a batch (pose, coordinate); large ones in two halves at a time, as arrays let go of the lock."""
        if len(coords) < LARGE:
            return self.evaluate(coords)
        with ThreadPoolExecutor(2) as pool:
            parts = list(pool.map(self.evaluate, np.array_split(coords, -(-len(coords) // LARGE))))
        return MuscleState(np.concatenate([p.length for p in parts]), np.concatenate([p.leverage for p in parts]))

    def reach(self) -> list[Floats]:
        """Joint coordinates that cover each joint's published range while the others rest; one batch a joint."""
        raise NotImplementedError

    @cached_property
    def spans(self) -> Floats:
        """Shortest and longest length, m, that the published joint ranges allow each muscle, (muscle, 2)."""
        # Parts over different joints add up, so the extremes of the sum are the sums of the extremes.
        ends = [(lengths.min(axis=0), lengths.max(axis=0)) for lengths in (self.evaluate(c).length for c in self.reach())]
        return np.stack([sum(e[k] - self.rest_length for e in ends) + self.rest_length for k in (0, 1)], axis=-1)

    def normalised(self, length: Floats) -> Floats:
        """Length (..., muscle) as 0 at the longest to 1 at the shortest that the joints allow."""
        shortest, longest = self.spans.T
        return np.asarray((longest - length) / (longest - shortest))

    @cached_property
    def _fibre_law(self) -> tuple[Floats, Floats]:
        """Optimal fibre and tendon slack length kept inside the active span, m, (muscle,) each."""
        fibre = self.fibres()
        optimum, tendon = fibre[:, 0].copy(), fibre[:, 1].copy()
        shortest, longest = self.spans.T
        optimum = np.maximum(optimum, (longest - shortest) / 1.1)
        low, high = (shortest - tendon) / optimum, (longest - tendon) / optimum
        outside = (low < 0.45) | (high > 1.55)
        return optimum, np.where(outside, (shortest + longest) / 2 - optimum, tendon)

    def fibre_length(self, length: Floats) -> Floats:
        """Fibre length over its optimum at muscle-tendon length (..., muscle), with a stiff tendon."""
        optimum, tendon = self._fibre_law
        return np.asarray((length - tendon) / optimum)

    def capacity(self, length: Floats) -> Floats:
        """Greatest force, N, at muscle-tendon length (..., muscle), with a stiff tendon.

        F = Fmax max(floor, exp(-(n - 1)^2 / width)) with n fibre length over optimal (Thelen 2003); in the leg passive
        force is added, up to a cap. Where the tabled fibre would be run outside its active span, it is stretched and
        recentred to stay inside.
        """
        law = self.settings["force_length"]
        n = self.fibre_length(length)
        active = np.maximum(law["floor"], np.exp(-((n - 1) ** 2) / law["width"]))
        if self.name == "leg":
            passive = np.expm1(4 / 0.6 * np.maximum(n - 1, 0)) / np.expm1(4)
            active = np.minimum(np.maximum(law["passive_most"], active), active + passive)
        return np.asarray(self.strongest * active)


class ArmMuscles(Region):
    """Muscles over shoulder, elbow and forearm."""

    def prepare(self, arrays: Any) -> None:
        """Coefficients as matrices, corrections as grids, so that one product serves all muscles."""
        table = self.settings["table"]
        self._degrees = int(table["shoulder_degree"]), int(table["elbow_degree"])
        self._shoulder = self.index(arrays["shoulder_muscles"])
        self._elbow = self.index(arrays["elbow_muscles"])
        self._shoulder_matrix = _matrix(arrays["shoulder_coefficients"])
        self._elbow_matrix = _matrix(arrays["elbow_coefficients"])
        order = self.index(arrays["arm_muscles"])
        self.rest_length = np.empty(len(self.names))
        self.rest_length[order] = arrays["arm_rest_length"]
        self.strongest = self.by_area()
        scales = [[e.get(k, 1.0) for k in ("shoulder_scale", "elbow_scale")] for e in self.entries.values()]
        self._scale = np.array([[s, s, s, e, 1.0] for s, e in scales])
        correction = self.settings["correction"]
        shoulder = correction["shoulder"]
        self._nodes = np.array(shoulder["plane_nodes"], float), np.array(shoulder["elevation_nodes_deg"], float)
        self._grids = []
        for key in ("about_elevation_axis_mm", "about_vertical_mm"):
            rows = shoulder[key]
            grid = np.array(list(rows.values()), float).reshape(len(rows), -1).T * 1e-3
            self._grids.append((self.index(rows), grid))
        elbow, extension = correction["elbow"], correction["elbow_extension"]
        self._elbow_nodes = np.linspace(0, np.radians(150), 151)
        degrees = np.degrees(self._elbow_nodes)
        self._elbow_added = np.zeros((151, len(self.names)))
        for rows, nodes, sign in [
            (elbow["flexion_arm_mm"], elbow["angle_nodes_deg"], 1e-3),
            (extension["extension_arm_mm"], extension["angle_nodes_deg"], -1e-3),
        ]:
            for name, values in rows.items():
                self._elbow_added[:, self.names.index(name)] = sign * np.interp(degrees, nodes, values)

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; coordinates are plane, elevation, rotation, elbow, pronation."""
        shape = (*coords.shape[:-1], len(self.names))
        length = np.broadcast_to(self.rest_length, shape).copy()
        leverage = np.zeros((*shape, 5))
        plane, elevation, rotation, elbow, pronation = np.moveaxis(coords, -1, 0)
        at_shoulder = shoulder_basis(plane, elevation, rotation, self._degrees[0]) @ self._shoulder_matrix
        at_shoulder = at_shoulder.reshape(*shape[:-1], len(self._shoulder), 4)
        at_elbow = elbow_basis(elbow, pronation, self._degrees[1]) @ self._elbow_matrix
        at_elbow = at_elbow.reshape(*shape[:-1], len(self._elbow), 3)
        length[..., self._shoulder] += at_shoulder[..., 0]
        length[..., self._elbow] += at_elbow[..., 0]
        leverage[..., self._shoulder, :3] = at_shoulder[..., 1:]
        leverage[..., self._elbow, 3:] = at_elbow[..., 1:]
        if corrected:
            self._correct(coords, length, leverage)
        return MuscleState(length, leverage)

    def _correct(self, coords: Floats, length: Floats, leverage: Floats) -> None:
        """Apply the visible table of corrections in place."""
        plane, elevation, rotation, elbow, _ = np.moveaxis(coords, -1, 0)
        leverage *= self._scale
        shoulder = self.settings["correction"]["shoulder"]
        side, forward = np.sin(elevation), np.sin(elevation) * np.sin(plane)
        zero = np.zeros_like(plane)
        raising = np.stack([-np.cos(plane), -np.sin(plane), zero], axis=-1)
        fade = np.minimum(1.0, side / 0.5)
        weights_p = _hat_weights(forward / np.maximum(side, 0.2), self._nodes[0])
        weights_e = _hat_weights(np.degrees(elevation), self._nodes[1])
        both = (weights_p[..., :, None] * weights_e[..., None, :] * fade[..., None, None]).reshape(*plane.shape, -1)
        (about_elevation, grid_e), (about_vertical, grid_v) = self._grids
        leverage[..., about_elevation, :3] += (both @ grid_e)[..., None] * raising[..., None, :]
        leverage[..., about_vertical, 2] += both @ grid_v
        for name, bump in shoulder["hanging"].items():
            i, tilt, width = self.names.index(name), np.radians(bump["axis_turn_deg"]), np.radians(bump["width_deg"])
            amplitude = bump["amplitude_mm"] * 1e-3
            arm = amplitude * np.exp(-((elevation / width) ** 2))
            leverage[..., i, :3] += arm[..., None] * np.array([-np.cos(tilt), -np.sin(tilt), 0.0])
            # The length that this leverage takes up while the arm is raised, so that the two stay one muscle.
            nodes = np.linspace(0, np.pi, 361)
            rise = np.exp(-((nodes / width) ** 2))
            taken = np.concatenate([[0.0], np.cumsum((rise[1:] + rise[:-1]) / 2 * np.diff(nodes))])
            length[..., i] -= amplitude * np.cos(plane - tilt) * np.interp(elevation, nodes, taken)
        for name, amplitude in shoulder["rotation_mm"].items():
            turned = amplitude * 1e-3 * np.sin(rotation) * fade
            leverage[..., self.names.index(name), :3] += turned[..., None] * raising
        leverage[..., 3] += _interpolate_rows(elbow, self._elbow_nodes, self._elbow_added)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
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
        shoulder = np.stack([plane[inside], elevation[inside], rotation[inside], zero, zero], axis=-1)
        spans = (np.radians(np.linspace(norm[k][0], norm[k][1], 19)) for k in ("elbow", "pronation"))
        elbow, pronation = (g.ravel() for g in np.meshgrid(*spans, indexing="ij"))
        zero = np.zeros_like(elbow)
        return [shoulder, np.stack([zero, zero, zero, elbow, pronation], axis=-1)]


class LegMuscles(Region):
    """Muscles over hip, knee and ankle."""

    def prepare(self, arrays: Any) -> None:
        """The hip's coefficients as one matrix; knee and ankle, each one angle, as fine tables of length and arm."""
        table, self._hip = self.settings["table"], self.index(arrays["hip_muscles"])
        self._degree = int(table["hip_degree"])
        self._hip_matrix = _matrix(arrays["hip_coefficients"])
        order = self.index(arrays["leg_muscles"])
        count = len(self.names)
        self.rest_length, stored, self._stored_fibre = np.empty(count), np.empty(count), np.empty((count, 2))
        self.rest_length[order], stored[order] = arrays["leg_rest_length"], arrays["leg_force"]
        self._stored_fibre[order] = arrays["leg_fibre"]
        common = self.settings["strength"]["leg"]
        self.strongest = stored * np.array([e.get("strength", common) for e in self.entries.values()])
        self._hinges = {}
        for joint in ("knee", "ankle"):
            span = table["leg_span_deg"][joint]
            nodes = np.linspace(np.radians(span[0]), np.radians(span[1]), HINGE_NODES)
            values, slopes = hinge_basis(nodes, span, int(table[f"{joint}_degree"]))
            length, arm = np.zeros((HINGE_NODES, count)), np.zeros((HINGE_NODES, count))
            where = self.index(arrays[f"{joint}_muscles"])
            length[:, where] = values @ arrays[f"{joint}_coefficients"].T
            arm[:, where] = -slopes @ arrays[f"{joint}_coefficients"].T
            self._hinges[joint] = nodes, length, arm, self._corrected_arm(joint, np.degrees(nodes), arm)
        hip = self.settings["correction"]["hip"]
        self._hip_nodes = np.radians(np.linspace(-40, 140, 181))
        self._hip_added = np.zeros((181, count))
        for name, values in hip["extension_arm_mm"].items():
            added = np.interp(np.degrees(self._hip_nodes), hip["angle_nodes_deg"], values)
            self._hip_added[:, self.names.index(name)] = 1e-3 * added

    def _corrected_arm(self, joint: str, degrees: Floats, arm: Floats) -> Floats:
        out = arm.copy()
        if joint == "knee":
            correction = self.settings["correction"]["knee"]
            hold = self.settings["wrapping"]["hold_knee_beyond_deg"]
            for name, values in correction["extension_arm_mm"].items():
                i = self.names.index(name)
                out[degrees > hold, i] = np.interp(hold, degrees, arm[:, i])
                out[:, i] -= 1e-3 * np.interp(degrees, correction["angle_nodes_deg"], values)
        return out

    def fibres(self) -> Floats:
        """Published where there is one, else as stored in the dataset, m, (muscle, 2)."""
        given = [e.get("fibre_mm") for e in self.entries.values()]
        rows = [np.array(g) * 1e-3 if g else s for g, s in zip(given, self._stored_fibre, strict=True)]
        return np.stack(rows)

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; coordinates are hip flexion, adduction, rotation, knee, ankle."""
        shape = (*coords.shape[:-1], len(self.names))
        leverage = np.zeros((*shape, 5))
        flexion, adduction, rotation, knee, ankle = np.moveaxis(coords, -1, 0)
        at_hip = hip_basis(flexion, adduction, rotation, self._degree) @ self._hip_matrix
        at_hip = at_hip.reshape(*shape[:-1], len(self._hip), 4)
        length = np.broadcast_to(self.rest_length, shape).copy()
        length[..., self._hip] += at_hip[..., 0]
        leverage[..., self._hip, :3] = at_hip[..., 1:]
        for joint, angle, axis in (("knee", knee, 3), ("ankle", ankle, 4)):
            nodes, lengths, bare, mended = self._hinges[joint]
            length += _interpolate_rows(angle, nodes, lengths)
            leverage[..., axis] = _interpolate_rows(angle, nodes, mended if corrected else bare)
        if corrected:
            # Extending swings the thigh back: about the axis to the left, which is hip y.
            leverage[..., 1] += _interpolate_rows(flexion, self._hip_nodes, self._hip_added)
        return MuscleState(length, leverage)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
        norm = tables()["range"]
        spans = [
            np.radians(np.linspace(norm[k][0], norm[k][1], n))
            for k, n in (("hip_flexion", 15), ("hip_adduction", 9), ("hip_rotation", 7))
        ]
        hip = np.stack([g.ravel() for g in np.meshgrid(*spans, indexing="ij")], axis=-1)
        out = [np.concatenate([hip, np.zeros((len(hip), 2))], axis=-1)]
        for joint, column in (("knee", 3), ("ankle", 4)):
            coords = np.zeros((41, 5))
            coords[:, column] = np.radians(np.linspace(norm[joint][0], norm[joint][1], 41))
            out.append(coords)
        return out


class TrunkMuscles(Region):
    """Abs, obliques and erectors about the middle of the loins, both sides together; a steady arm each."""

    def prepare(self, arrays: Any) -> None:
        """Figures straight from the settings."""
        self._arm = np.array([e["arm_mm"] for e in self.entries.values()]) * 1e-3
        self.rest_length = np.array([e["rest_mm"] for e in self.entries.values()]) * 1e-3
        self.strongest = self.by_area()

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; the one coordinate is forward flexion."""
        flexion = coords[..., 0]
        leverage = np.broadcast_to(self._arm[:, None], (*flexion.shape, len(self.names), 1)).copy()
        return MuscleState(self.rest_length - flexion[..., None] * self._arm, leverage)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
        low, high = tables()["range"]["trunk"]
        return [np.radians(np.linspace(low, high, 9))[:, None]]


class GirdleMuscles(Region):
    """Straight lines from trunk to shoulder blade and collarbone about the collarbone's inner end; lower confidence."""

    def prepare(self, arrays: Any) -> None:
        """Origins and insertions from that point, torso frame, m."""
        self._origin = np.array([e["origin_m"] for e in self.entries.values()])
        self._insertion = np.array([e["insertion_m"] for e in self.entries.values()])
        self.strongest = self.by_area()
        self.rest_length = np.linalg.norm(self._insertion - self._origin, axis=-1)

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; coordinates are the girdle's turn forward and up, radians."""
        forward, up = coords[..., 0, None], coords[..., 1, None]
        # Small turns: forward about z, up about minus x.
        x, y, z = np.moveaxis(self._insertion, -1, 0)
        at = np.stack([x - forward * y, y + forward * x + up * z, z - up * y], axis=-1)
        line = self._origin - at
        length = np.linalg.norm(line, axis=-1)
        moment = np.cross(at, line / length[..., None])
        return MuscleState(length, np.stack([-moment[..., 0], moment[..., 2]], axis=-1))

    def fibres(self) -> Floats:
        """Fibres nearly as long as the muscle."""
        return np.stack([0.8 * self.rest_length, 0.2 * self.rest_length], axis=-1)

    def reach(self) -> list[Floats]:
        """See ``Region``."""
        norm = tables()["range"]
        spans = (np.radians(np.linspace(norm[k][0], norm[k][1], 9)) for k in ("girdle_forward", "girdle_up"))
        return [np.stack([g.ravel() for g in np.meshgrid(*spans)], axis=-1)]


REGIONS: dict[str, type[Region]] = {"arm": ArmMuscles, "leg": LegMuscles, "trunk": TrunkMuscles, "girdle": GirdleMuscles}


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


def _matrix(coefficients: Floats) -> Floats:
    """(muscle, term, column) as (term, muscle x column)."""
    muscles, terms, columns = coefficients.shape
    return np.ascontiguousarray(coefficients.transpose(1, 0, 2).reshape(terms, muscles * columns), dtype=float)


def _hat_weights(x: Floats, nodes: Floats) -> Floats:
    """Linear interpolation weights (..., node) of ``x`` (...) on ``nodes``, held constant outside."""
    x = np.clip(x, nodes[0], nodes[-1])[..., None]
    step = np.diff(nodes)
    rising = np.concatenate([np.full((*x.shape[:-1], 1), np.inf), (x - nodes[:-1]) / step], axis=-1)
    falling = np.concatenate([(nodes[1:] - x) / step, np.full((*x.shape[:-1], 1), np.inf)], axis=-1)
    return np.asarray(np.clip(np.minimum(rising, falling), 0.0, 1.0))


def _interpolate_rows(x: Floats, nodes: Floats, rows: Floats) -> Floats:
    """Rows (node, column) at ``x`` (...) between evenly spaced nodes, linear, held constant outside; (..., column)."""
    at = np.clip((x - nodes[0]) / (nodes[1] - nodes[0]), 0.0, len(nodes) - 1.0)
    low = np.minimum(at.astype(int), len(nodes) - 2)
    part = (at - low)[..., None]
    return np.asarray(rows[low] * (1 - part) + rows[low + 1] * part)


@cache
def muscle_table() -> MuscleTable:
    """The shipped muscles, read once."""
    return MuscleTable()
