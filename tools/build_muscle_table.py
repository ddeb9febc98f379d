"""Rebuild ``src/oddswap/mechanics/data/muscle_table.npz`` from the open dataset.

The dataset is the registry package ``myo-sim`` (Apache-2.0), a musculoskeletal body defined for MuJoCo; see NOTICE and
docs/mechanics.md. This script poses its right arm and right leg at quasi-random joint angles, reads length and moment arm
of every muscle named in ``muscles.toml``, and fits them with the smooth bases of ``oddswap.mechanics.muscles``. Corrections
are *not* applied here: the table stays a faithful copy of the dataset, and the visible table of corrections in
``muscles.toml`` is applied when the table is used. The exceptions are defects of wrapping that a smooth fit cannot hold
(``[wrapping]`` there): they are left out or replaced while sampling, each by the rule written beside it.

Run: ``make muscles`` (about two minutes). Prints the residual of every fit.
"""

from __future__ import annotations

import contextlib
import io
import tomllib
import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import mujoco
import numpy as np
from numpy.typing import NDArray
from scipy.stats import qmc

from oddswap.mechanics.body import within_ranges
from oddswap.mechanics.muscle_basis import elbow_basis, hinge_basis, hip_basis, shoulder_basis

Floats = NDArray[np.float64]

DATA = Path(__file__).resolve().parents[1] / "src" / "oddswap" / "mechanics" / "data"
FIT_SAMPLES = 12_000
CHECK_SAMPLES = 3_000
LEG_SAMPLES = 6_000
# Sampled span of the joint coordinates, radians: plane of elevation, elevation, axial rotation, elbow flexion, pronation.
SPAN = np.radians([[-90, 130], [0, 170], [-85, 85], [0, 140], [-90, 90]])
# Poses this far beyond the published joint ranges are still sampled, so that the fit is calm at the ends of the ranges.
MARGIN = np.radians(12)
# The dataset's wrapping surfaces flip for isolated poses. A residual above this many times the median, and above a size
# that matters (m), is a flip and not the muscle.
FLIP, FLIP_LENGTH, FLIP_LEVERAGE = 8.0, 1.5e-3, 5e-3


@dataclass
class Samples:
    """Dataset read-outs at N poses for M muscles; lengths m, shoulder moment vector (N, M, xyz) m, elbow/forearm arms m."""

    coords: Floats
    length: Floats
    shoulder: Floats
    elbow: Floats
    pronation: Floats


class Limb:
    """One limb of the dataset, posed with its dependent joints applied."""

    model_name: str
    joints: tuple[str, ...]

    def __init__(self) -> None:
        with warnings.catch_warnings(), contextlib.redirect_stderr(io.StringIO()):
            warnings.simplefilter("ignore")
            import myo_sim

            self.model: Any = myo_sim.load_model(self.model_name)
        self.data: Any = mujoco.MjData(self.model)
        self.joint = {self.model.joint(j).name: j for j in range(self.model.njnt)}
        self.address = self.model.jnt_qposadr
        self.dof = self.model.jnt_dofadr
        self.tendon = {self.model.actuator(i).name: self.model.actuator_trnid[i, 0] for i in range(self.model.nu)}
        self.jacobian = np.zeros((self.model.ntendon, self.model.nv))

    def pose(self, values: Floats) -> None:
        """Set the limb's own joints, radians, and what depends on them."""
        q = self.data.qpos
        for name, value in zip(self.joints, values, strict=True):
            q[self.address[self.joint[name]]] = value
        for e in range(self.model.neq):
            follower, leader = (self.address[i[e]] for i in (self.model.eq_obj1id, self.model.eq_obj2id))
            q[follower] = np.polyval(self.model.eq_data[e, 4::-1], q[leader])
        mujoco.mj_kinematics(self.model, self.data)
        mujoco.mj_comPos(self.model, self.data)
        mujoco.mj_tendon(self.model, self.data)

    def rows(self, tendons: list[int]) -> Floats:
        """Derivatives of the tendons' lengths over all joint speeds at the present pose."""
        d, m = self.data, self.model
        mujoco.mju_sparse2dense(self.jacobian, d.ten_J.ravel(), m.ten_J_rownnz, m.ten_J_rowadr, m.ten_J_colind.ravel())
        return self.jacobian[tendons]

    def vector(self, rows: Floats, axes: list[int]) -> Floats:
        """Moment per unit force about the crossing of three joint axes, (muscle, xyz): ahead, left, up."""
        world = -np.linalg.solve(self.data.xaxis[axes], rows[:, self.dof[axes]].T).T
        return np.stack([-world[:, 1], world[:, 0], world[:, 2]], axis=-1)


class Dataset(Limb):
    """The dataset's right arm, with its scapula rhythm applied and read with the shoulder blades held."""

    model_name = "myoarm_r"
    joints = ("elv_angle_r", "shoulder_elv_r", "shoulder_rot_r", "elbow_flexion_r", "pro_sup_r")

    def straight(self, first: str, second: str) -> tuple[float, Floats]:
        """Length of the straight line between two points of a muscle, and its moment about the shoulder centre."""
        near, far = (self.data.site(n).xpos for n in (first, second))
        centre = self.data.xanchor[self.joint["unrothum_r1_r"]]
        world = np.cross(far - centre, (near - far) / np.linalg.norm(near - far))
        return float(np.linalg.norm(near - far)), np.array([-world[1], world[0], world[2]])

    def sample(self, coords: Floats, muscles: list[str]) -> Samples:
        """Lengths and moment arms of ``muscles`` at ``coords`` (N, 5)."""
        count, kinds = len(coords), len(muscles)
        out = Samples(coords, *(np.zeros(s) for s in [(count, kinds), (count, kinds, 3), (count, kinds), (count, kinds)]))
        tendons = [self.tendon[m] for m in muscles]
        # Three independent axes through the shoulder centre that leave the shoulder blades alone: never singular.
        axes = [self.joint[f"unrothum_r{i}_r"] for i in (1, 2, 3)]
        for i, c in enumerate(coords):
            self.pose(c)
            rows = self.rows(tendons)
            out.shoulder[i] = self.vector(rows, axes)
            out.elbow[i] = -rows[:, self.joint["elbow_flexion_r"]]
            out.pronation[i] = -rows[:, self.joint["pro_sup_r"]]
            out.length[i] = self.data.ten_length[tendons]
        return out

    def straightened(self, coords: Floats, first: str, second: str) -> tuple[Floats, Floats]:
        """``straight`` at every pose of ``coords``."""
        got = []
        for c in coords:
            self.pose(c)
            got.append(self.straight(first, second))
        return np.array([g[0] for g in got]), np.array([g[1] for g in got])


class Leg(Limb):
    """The dataset's right leg on a still pelvis."""

    model_name = "myolegs"
    joints = ("hip_flexion_r", "hip_adduction_r", "hip_rotation_r", "knee_angle_r", "ankle_angle_r")

    def sample(self, coords: Floats, muscles: list[str]) -> tuple[Floats, Floats]:
        """Lengths (N, M) and moment vectors about the hip (N, M, xyz) at ``coords`` (N, 5)."""
        tendons = [self.tendon[f"{m}_r"] for m in muscles]
        axes = [self.joint[j] for j in self.joints[:3]]
        length, hip = np.zeros((len(coords), len(muscles))), np.zeros((len(coords), len(muscles), 3))
        for i, c in enumerate(coords):
            self.pose(c)
            length[i], hip[i] = self.data.ten_length[tendons], self.vector(self.rows(tendons), axes)
        return length, hip

    def strength(self, muscle: str) -> tuple[float, list[float]]:
        """Stored greatest force, N, and optimal fibre and tendon slack length, m."""
        i = next(i for i in range(self.model.nu) if self.model.actuator(i).name == f"{muscle}_r")
        g = self.model.actuator_gainprm[i]
        low, high = self.model.actuator_lengthrange[i]
        optimum = (high - low) / (g[1] - g[0])
        return float(g[2]), [float(optimum), float(low - g[0] * optimum)]


def fit(basis: Floats, values: Floats, matters: float) -> tuple[Floats, Floats]:
    """Least squares with wrapping flips trimmed; ``values`` (N, K). Returns coefficients (terms, K) and kept mask (N,)."""
    keep = np.ones(len(values), dtype=bool)
    coefficients = np.zeros((basis.shape[1], values.shape[1]))
    for _ in range(4):
        coefficients = np.linalg.lstsq(basis[keep], values[keep], rcond=None)[0]
        error = np.linalg.norm(basis @ coefficients - values, axis=1)
        keep = error <= max(FLIP * float(np.median(error)), matters)
    return coefficients, keep


def sobol(count: int, dims: list[int], seed: int) -> Floats:
    """``count`` quasi-random poses near the joint ranges that vary the named coordinates and leave the others at zero."""
    coords = np.zeros((2 * count, len(SPAN)))
    low, high = SPAN[dims].T
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        coords[:, dims] = qmc.scale(qmc.Sobol(len(dims), seed=seed).random(2 * count), low, high)
    nearest = coords.copy()
    nearest[:, 1] = np.maximum(0, coords[:, 1] - MARGIN)
    return coords[within_ranges(*nearest.T)][:count]


def arm_parts(settings: dict[str, Any], muscles: list[str]) -> dict[str, Floats]:
    """Coefficients of the arm's muscles over shoulder and elbow coordinates."""
    crosses = {m: settings["muscle"][m]["crosses"] for m in muscles}
    degree, wrapping = settings["table"], settings["wrapping"]
    dataset = Dataset()
    parts: dict[str, Floats] = {}
    for part, names, dims, basis_of in [
        (
            "shoulder",
            [m for m in muscles if "shoulder" in crosses[m]],
            [0, 1, 2],
            lambda c: shoulder_basis(c[:, 0], c[:, 1], c[:, 2], degree["shoulder_degree"]),
        ),
        (
            "elbow",
            [m for m in muscles if "elbow" in crosses[m]],
            [3, 4],
            lambda c: elbow_basis(c[:, 3], c[:, 4], degree["elbow_degree"]),
        ),
    ]:
        got = [dataset.sample(sobol(n, dims, seed), names) for n, seed in [(FIT_SAMPLES, 1), (CHECK_SAMPLES, 2)]]
        rest = dataset.sample(np.zeros((1, len(SPAN))), names)
        if part == "shoulder":
            for name, points in wrapping["straight"].items():
                for s in (*got, rest):
                    s.length[:, names.index(name)], s.shoulder[:, names.index(name)] = dataset.straightened(s.coords, *points)
        bases = [basis_of(s.coords) for s in got]
        coefficients = []
        for k, name in enumerate(names):
            # Length is stored as the change from the hanging arm, so that shoulder and elbow parts of one muscle add up.
            def columns(s: Samples, k: int = k, part: str = part, rest: Samples = rest) -> Floats:
                change = (s.length[:, k] - rest.length[0, k])[:, None]
                moment_arm = s.shoulder[:, k] if part == "shoulder" else np.stack([s.elbow[:, k], s.pronation[:, k]], axis=-1)
                return np.hstack([change, moment_arm])

            most = wrapping["good_below_pronation_deg"].get(name) if part == "elbow" else None
            good = [np.degrees(s.coords[:, 4]) <= (most if most is not None else 360) for s in got]
            lengths, keep_l = fit(bases[0][good[0]], columns(got[0])[good[0], :1], FLIP_LENGTH)
            arms, keep_a = fit(bases[0][good[0]], columns(got[0])[good[0], 1:], FLIP_LEVERAGE)
            table = np.hstack([lengths, arms])
            coefficients.append(table)
            report(part, name, (bases[1] @ table - columns(got[1]))[good[1]], columns(got[1])[good[1]], keep_l, keep_a)
        parts[f"{part}_coefficients"] = np.stack(coefficients).astype(np.float32)
        parts[f"{part}_muscles"] = np.array(names)
    parts["arm_muscles"] = np.array(muscles)
    parts["arm_rest_length"] = dataset.sample(np.zeros((1, len(SPAN))), muscles).length[0].astype(np.float32)
    return parts


def report(part: str, name: str, error: Floats, truth: Floats, keep_l: Floats, keep_a: Floats) -> None:
    """Print how well one muscle is held at fresh poses."""
    arm = np.linalg.norm(error[:, 1:], axis=1)
    size = np.sqrt(np.mean(np.sum(truth[:, 1:] ** 2, axis=1)))
    print(
        f"{part:8} {name:10} length rms {np.sqrt(np.mean(error[:, 0] ** 2)) * 1e3:6.2f} mm "
        f"(median {np.median(np.abs(error[:, 0])) * 1e3:5.2f})  "
        f"moment arm rms {np.sqrt(np.mean(arm**2)) * 1e3:5.2f} of {size * 1e3:5.1f} mm "
        f"(median {np.median(arm) * 1e3:5.2f})  flips {1 - keep_l.mean():6.2%} {1 - keep_a.mean():6.2%}"
    )


def leg_parts(settings: dict[str, Any], muscles: list[str]) -> dict[str, Floats]:
    """Coefficients of the leg's muscles over hip, knee and ankle; knee and ankle arms are slopes of length."""
    crosses = {m: settings["muscle"][m]["crosses"] for m in muscles}
    degree = settings["table"]
    leg = Leg()
    rest = leg.sample(np.zeros((1, 5)), muscles)[0][0]
    span = np.radians([settings["table"]["leg_span_deg"][j] for j in ("hip_flexion", "hip_adduction", "hip_rotation")])
    hip = [m for m in muscles if "hip" in crosses[m]]
    index = [muscles.index(m) for m in hip]
    got = []
    for count, seed in [(LEG_SAMPLES, 3), (LEG_SAMPLES // 4, 4)]:
        coords = np.zeros((count, 5))
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            coords[:, :3] = qmc.scale(qmc.Sobol(3, seed=seed).random(count), *span.T)
        length, vector = leg.sample(coords, hip)
        flexion, adduction, rotation = coords[:, :3].T
        basis = hip_basis(flexion, adduction, rotation, degree["hip_degree"])
        got.append((basis, np.dstack([(length - rest[index])[..., None], vector])))
    coefficients = []
    for k, name in enumerate(hip):
        (basis, values), (fresh, truth) = got
        lengths, keep_l = fit(basis, values[:, k, :1], FLIP_LENGTH)
        arms, keep_a = fit(basis, values[:, k, 1:], FLIP_LEVERAGE)
        coefficients.append(np.hstack([lengths, arms]))
        report("hip", name, fresh @ coefficients[-1] - truth[:, k], truth[:, k], keep_l, keep_a)
    parts = {"hip_coefficients": np.stack(coefficients).astype(np.float32), "hip_muscles": np.array(hip)}
    for joint, column in [("knee", 3), ("ankle", 4)]:
        names = [m for m in muscles if joint in crosses[m]]
        angles = np.radians(np.linspace(*degree["leg_span_deg"][joint], 261))
        coords = np.zeros((len(angles), 5))
        coords[:, column] = angles
        length = leg.sample(coords, muscles)[0] - rest
        columns = [muscles.index(settings["wrapping"]["shape_of"].get(m, m)) for m in names]
        basis = hinge_basis(angles, degree["leg_span_deg"][joint], degree[f"{joint}_degree"])[0]
        table = np.linalg.lstsq(basis, length[:, columns], rcond=None)[0]
        error = np.sqrt(np.mean((basis @ table - length[:, columns]) ** 2, axis=0)) * 1e3
        print("\n".join(f"{joint:8} {m:10} length rms {e:6.2f} mm" for m, e in zip(names, error, strict=True)))
        parts |= {f"{joint}_coefficients": table.T.astype(np.float32), f"{joint}_muscles": np.array(names)}
    strength = [leg.strength(m) for m in muscles]
    parts["leg_muscles"], parts["leg_rest_length"] = np.array(muscles), rest.astype(np.float32)
    parts["leg_force"] = np.array([s[0] for s in strength], np.float32)
    parts["leg_fibre"] = np.array([s[1] for s in strength], np.float32)
    return parts


def main() -> None:
    """Sample, fit, report, write."""
    settings = tomllib.loads((DATA / "muscles.toml").read_text())
    regions: dict[str, list[str]] = {"arm": [], "leg": []}
    for name, entry in settings["muscle"].items():
        if entry["region"] in regions:
            regions[entry["region"]].append(name)
    parts = arm_parts(settings, regions["arm"]) | leg_parts(settings, regions["leg"])
    np.savez_compressed(DATA / "muscle_table.npz", **parts)
    print(f"wrote muscle_table.npz, {(DATA / 'muscle_table.npz').stat().st_size / 1e3:.0f} kB")


if __name__ == "__main__":
    main()
