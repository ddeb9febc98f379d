"""The muscles of one region each: lengths and moment arms at joint coordinates, and what they can give."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from oddswap.mechanics.body import tables, within_ranges
from oddswap.mechanics.muscle_basis import (
    AngleTables,
    as_matrix,
    elbow_basis,
    hat_weights,
    hinge_basis,
    hip_basis,
    shoulder_basis,
)
from oddswap.mechanics.parts import in_parts
from oddswap.mechanics.types import Floats

DATASET_STATURE = 1.70
"""Stature, m, of the body that the dataset was made for; lengths scale with stature against it."""

AXES = {
    "arm": ("shoulder x", "shoulder y", "shoulder z", "elbow flexion", "forearm pronation"),
    "leg": ("hip x", "hip y", "hip z", "knee flexion", "ankle dorsiflexion"),
    "wrist": ("wrist flexion",),
    "trunk": ("trunk flexion",),
    "waist": ("waist bend",),
    "scapula": ("scapula up", "scapula forward"),
}
"""What the components of every moment and moment-arm vector are about, by region and in this order."""

JOINTS = {
    "arm": ("shoulder", "elbow"),
    "leg": ("hip", "knee", "ankle"),
    "trunk": ("trunk",),
    "scapula": ("scapula",),
    "wrist": ("wrist",),
    "waist": ("waist",),
}
"""Joints by region, as the names of their axes begin."""

HINGE_NODES = 561


@dataclass(frozen=True)
class MuscleState:
    """One region's muscles at a batch of poses.

    Args:
        length: Muscle-tendon length, m, (..., pose, muscle).
        moment_arm: Moment vectors, m, (..., pose, muscle, axis).
    """

    length: Floats
    moment_arm: Floats

    @staticmethod
    def of(length: Floats, moment_arm: Floats, shape: tuple[int, ...]) -> MuscleState:
        """From arrays with poses last, (muscle, pose) and (axis, muscle, pose), for poses of this shape."""
        lengths, arms = length.T, moment_arm.transpose(2, 1, 0)
        return MuscleState(lengths.reshape(*shape, len(length)), arms.reshape(*shape, *arms.shape[1:]))


class Region:
    """The muscles of one region.

    Args:
        name: ``arm``, ``leg``, ``trunk``, ``waist``, ``scapula`` or ``wrist``.
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
        """Lengths and moment arms at joint coordinates (..., pose, coordinate), radians; uncorrected is the bare dataset."""
        raise NotImplementedError

    def evaluate_many(self, coords: Floats) -> MuscleState:
        """``evaluate`` of a batch (pose, coordinate), large ones in parts side by side."""
        parts = in_parts(lambda where: self.evaluate(coords[where]), len(coords))
        if len(parts) == 1:
            return parts[0]
        length = np.concatenate([p.length.T for p in parts], axis=-1)
        return MuscleState.of(length, np.concatenate([p.moment_arm.T for p in parts], axis=-1), (len(coords),))

    def reach(self) -> list[Floats]:
        """Joint coordinates that cover each joint's published range while the others rest; one batch a joint."""
        raise NotImplementedError

    @cached_property
    def spans(self) -> Floats:
        """Shortest and longest length, m, that the published joint ranges allow each muscle, (muscle, 2)."""
        # Parts over different joints add up, so the extremes of the sum are the extremes added up.
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
        """Ratio of fibre length to its optimum at muscle-tendon length, m, (..., muscle), with a stiff tendon."""
        optimum, tendon = self._fibre_law
        return np.asarray((length - tendon) / optimum)

    def capacity(self, length: Floats) -> Floats:
        """Greatest force, N, at muscle-tendon length, m, (..., muscle), with a stiff tendon.

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
        order = self.index(arrays["arm_muscles"])
        self.rest_length = np.empty(len(self.names))
        self.rest_length[order] = arrays["arm_rest_length"]
        self.strongest = self.by_area()
        # The bare dataset's coefficients, and those with the moment arms scaled: length, then the moment's components.
        self._matrices = {}
        shoulder_scale, elbow_scale = (
            np.array([e.get(k, 1.0) for e in self.entries.values()]) for k in ("shoulder_scale", "elbow_scale")
        )
        for corrected in (False, True):
            at_shoulder, at_elbow = np.ones((4, len(self._shoulder))), np.ones((3, len(self._elbow)))
            if corrected:
                at_shoulder[1:], at_elbow[1] = shoulder_scale[self._shoulder], elbow_scale[self._elbow]
            self._matrices[corrected] = (
                as_matrix(arrays["shoulder_coefficients"], at_shoulder),
                as_matrix(arrays["elbow_coefficients"], at_elbow),
            )
        correction = self.settings["correction"]
        shoulder = correction["shoulder"]
        self._nodes = np.array(shoulder["plane_nodes"], float), np.array(shoulder["elevation_nodes_deg"], float)
        self._grids = []
        for key in ("about_elevation_axis_mm", "about_vertical_mm"):
            rows = shoulder[key]
            self._grids.append((self.index(rows), np.array(list(rows.values()), float).reshape(len(rows), -1) * 1e-3))
        # The lengths that the hanging moment arm takes up while the arm is raised, so that the two stay one muscle.
        self._rise = np.linspace(0, np.pi, 361)
        self._taken = {}
        for name, bump in shoulder["hanging"].items():
            arm = np.exp(-((self._rise / np.radians(bump["width_deg"])) ** 2))
            self._taken[name] = np.concatenate([[0.0], np.cumsum((arm[1:] + arm[:-1]) / 2 * np.diff(self._rise))])
        elbow, extension, forearm = (correction[k] for k in ("elbow", "elbow_extension", "forearm"))
        self._elbow_added = self._added(
            np.arange(151.0),
            (elbow["flexion_arm_mm"], elbow["angle_nodes_deg"], 1e-3),
            (extension["extension_arm_mm"], extension["angle_nodes_deg"], -1e-3),
        )
        pronation = forearm["pronation_arm_mm"], forearm["angle_nodes_deg"], 1e-3
        self._forearm_added = self._added(np.arange(-90.0, 91.0), pronation)

    def _added(self, degrees: Floats, *tables: tuple[dict[str, list[float]], list[float], float]) -> AngleTables:
        """Arms added over an angle, degrees, (angle,), from tables by muscle, each with its nodes, degrees, and the factor that
        makes metres along the axis of it."""
        added = np.zeros((len(self.names), len(degrees)))
        for rows, nodes, factor in tables:
            for name, values in rows.items():
                added[self.names.index(name)] = factor * np.interp(degrees, nodes, values)
        return AngleTables(np.radians(degrees), added)

    def evaluate(self, coords: Floats, corrected: bool = True) -> MuscleState:
        """See ``Region``; coordinates are plane, elevation, rotation, elbow, pronation."""
        plane, elevation, rotation, elbow, pronation = coords.reshape(-1, 5).T.copy()
        count, poses = len(self.names), len(plane)
        length = np.repeat(self.rest_length[:, None], poses, axis=1)
        moment_arm = np.zeros((5, count, poses))
        shoulder, elbows = self._matrices[corrected]
        at_shoulder = (shoulder @ shoulder_basis(plane, elevation, rotation, self._degrees[0]).T).reshape(4, -1, poses)
        at_elbow = (elbows @ elbow_basis(elbow, pronation, self._degrees[1]).T).reshape(3, -1, poses)
        length[self._shoulder] += at_shoulder[0]
        length[self._elbow] += at_elbow[0]
        for axis in range(3):
            moment_arm[axis, self._shoulder] = at_shoulder[1 + axis]
        for axis in range(2):
            moment_arm[3 + axis, self._elbow] = at_elbow[1 + axis]
        if corrected:
            self._correct(plane, elevation, rotation, length, moment_arm)
            self._elbow_added.add(elbow, moment_arm[3])
            self._forearm_added.add(pronation, moment_arm[4])
        return MuscleState.of(length, moment_arm, coords.shape[:-1])

    def _correct(self, plane: Floats, elevation: Floats, rotation: Floats, length: Floats, moment_arm: Floats) -> None:
        """Apply the visible table of the shoulder's corrections in place; angles (pose,), the rest with poses last."""
        shoulder = self.settings["correction"]["shoulder"]
        side = np.sin(elevation)
        raising = -np.cos(plane), -np.sin(plane)
        fade = np.minimum(1.0, side / 0.5)
        weights_p = hat_weights(side * np.sin(plane) / np.maximum(side, 0.2), self._nodes[0])
        weights_e = hat_weights(np.degrees(elevation), self._nodes[1]) * fade
        both = (weights_p[:, None] * weights_e).reshape(-1, len(plane))
        (about_elevation, grid_e), (about_vertical, grid_v) = self._grids
        further = grid_e @ both
        for axis in range(2):
            moment_arm[axis, about_elevation] += further * raising[axis]
        moment_arm[2, about_vertical] += grid_v @ both
        for name, bump in shoulder["hanging"].items():
            i, tilt, width = self.names.index(name), np.radians(bump["axis_turn_deg"]), np.radians(bump["width_deg"])
            amplitude = bump["amplitude_mm"] * 1e-3
            arm = amplitude * np.exp(-((elevation / width) ** 2))
            moment_arm[0, i] -= arm * np.cos(tilt)
            moment_arm[1, i] -= arm * np.sin(tilt)
            length[i] -= amplitude * np.cos(plane - tilt) * np.interp(elevation, self._rise, self._taken[name])
        for name, amplitude in shoulder["rotation_mm"].items():
            turned = amplitude * 1e-3 * np.sin(rotation) * fade
            for axis in range(2):
                moment_arm[axis, self.names.index(name)] += turned * raising[axis]

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
        self._hip_matrix = as_matrix(arrays["hip_coefficients"], np.ones((4, len(self._hip))))
        order = self.index(arrays["leg_muscles"])
        count = len(self.names)
        self.rest_length, stored, self._stored_fibre = np.empty(count), np.empty(count), np.empty((count, 2))
        self.rest_length[order], stored[order] = arrays["leg_rest_length"], arrays["leg_force"]
        self._stored_fibre[order] = arrays["leg_fibre"]
        common = self.settings["strength"]["leg"]
        self.strongest = stored * np.array([e.get("strength", common) for e in self.entries.values()])
        self._hinges: dict[str, tuple[AngleTables, dict[bool, AngleTables]]] = {}
        for joint in ("knee", "ankle"):
            span = table["leg_span_deg"][joint]
            nodes = np.linspace(np.radians(span[0]), np.radians(span[1]), HINGE_NODES)
            values, slopes = hinge_basis(nodes, span, int(table[f"{joint}_degree"]))
            length, arm = np.zeros((HINGE_NODES, count)), np.zeros((HINGE_NODES, count))
            where = self.index(arrays[f"{joint}_muscles"])
            length[:, where] = values @ arrays[f"{joint}_coefficients"].T
            arm[:, where] = -slopes @ arrays[f"{joint}_coefficients"].T
            mended = self._corrected_arm(joint, np.degrees(nodes), arm)
            self._hinges[joint] = (
                AngleTables(nodes, length.T),
                {False: AngleTables(nodes, arm.T), True: AngleTables(nodes, mended.T)},
            )
        hip = self.settings["correction"]["hip"]
        degrees = np.linspace(-40, 140, 181)
        added = np.zeros((count, 181))
        for name, values in hip["extension_arm_mm"].items():
            added[self.names.index(name)] = 1e-3 * np.interp(degrees, hip["angle_nodes_deg"], values)
        self._hip_added = AngleTables(np.radians(degrees), added)

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
        flexion, adduction, rotation, knee, ankle = coords.reshape(-1, 5).T.copy()
        count, poses = len(self.names), len(flexion)
        at_hip = (self._hip_matrix @ hip_basis(flexion, adduction, rotation, self._degree).T).reshape(4, -1, poses)
        length = np.repeat(self.rest_length[:, None], poses, axis=1)
        moment_arm = np.zeros((5, count, poses))
        length[self._hip] += at_hip[0]
        for axis in range(3):
            moment_arm[axis, self._hip] = at_hip[1 + axis]
        for joint, angle, axis in (("knee", knee, 3), ("ankle", ankle, 4)):
            lengths, arms = self._hinges[joint]
            lengths.add(angle, length)
            arms[corrected].add(angle, moment_arm[axis])
        if corrected:
            # Extending swings the thigh back: about the axis to the left, which is hip y.
            self._hip_added.add(flexion, moment_arm[1])
        return MuscleState.of(length, moment_arm, coords.shape[:-1])

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
