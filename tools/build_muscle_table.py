"""Rebuild ``src/oddswap/mechanics/data/muscle_table.npz`` from the open dataset.

The dataset is the registry package ``myo-sim`` (Apache-2.0), a musculoskeletal body defined for MuJoCo; see NOTICE and
docs/mechanics.md. This script poses its right arm at quasi-random joint angles, reads length and leverage of every
muscle named in ``muscles.toml``, and fits them with the smooth basis of ``oddswap.mechanics.muscles``. Corrections are
*not* applied here: the table stays a faithful copy of the dataset, and the visible table of corrections in
``muscles.toml`` is applied when the table is used.

Run: ``.venv/bin/python tools/build_muscle_table.py`` (about a minute). Prints the residual of every fit.
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
from oddswap.mechanics.muscles import elbow_basis, shoulder_basis

Floats = NDArray[np.float64]

DATA = Path(__file__).resolve().parents[1] / "src" / "oddswap" / "mechanics" / "data"
FIT_SAMPLES = 12_000
CHECK_SAMPLES = 3_000
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


class Dataset:
    """The dataset's right arm, posed with its girdle rhythm applied and read with the girdle held."""

    def __init__(self) -> None:
        with warnings.catch_warnings(), contextlib.redirect_stderr(io.StringIO()):
            warnings.simplefilter("ignore")
            import myo_sim

            self.model: Any = myo_sim.load_model("myoarm_r")
        self.data: Any = mujoco.MjData(self.model)
        self.joint = {self.model.joint(j).name: j for j in range(self.model.njnt)}
        self.tendon = {self.model.actuator(i).name: self.model.actuator_trnid[i, 0] for i in range(self.model.nu)}

    def pose(self, coords: Floats) -> None:
        """Set (plane, elevation, rotation, elbow, pronation), radians, and what depends on them."""
        q = self.data.qpos
        names = ["elv_angle_r", "shoulder_elv_r", "shoulder_rot_r", "elbow_flexion_r", "pro_sup_r"]
        for name, value in zip(names, coords, strict=True):
            q[self.joint[name]] = value
        for e in range(self.model.neq):
            follower, leader = self.model.eq_obj1id[e], self.model.eq_obj2id[e]
            q[follower] = np.polyval(self.model.eq_data[e, 4::-1], q[leader])
        mujoco.mj_kinematics(self.model, self.data)
        mujoco.mj_comPos(self.model, self.data)
        mujoco.mj_tendon(self.model, self.data)

    def sample(self, coords: Floats, muscles: list[str]) -> Samples:
        """Lengths and leverage of ``muscles`` at ``coords`` (N, 5)."""
        count, kinds = len(coords), len(muscles)
        out = Samples(coords, *(np.zeros(s) for s in [(count, kinds), (count, kinds, 3), (count, kinds), (count, kinds)]))
        tendons = [self.tendon[m] for m in muscles]
        # Three independent axes through the shoulder centre that leave the girdle alone, so the vector is never singular.
        axes = [self.joint[f"unrothum_r{i}_r"] for i in (1, 2, 3)]
        jacobian = np.zeros((self.model.ntendon, self.model.nv))
        for i, c in enumerate(coords):
            self.pose(c)
            d = self.data
            mujoco.mju_sparse2dense(
                jacobian, d.ten_J.ravel(), self.model.ten_J_rownnz, self.model.ten_J_rowadr, self.model.ten_J_colind.ravel()
            )
            rows = jacobian[tendons]
            world = -np.linalg.solve(d.xaxis[axes], rows[:, axes].T).T
            out.shoulder[i] = np.stack([-world[:, 1], world[:, 0], world[:, 2]], axis=-1)
            out.elbow[i] = -rows[:, self.joint["elbow_flexion_r"]]
            out.pronation[i] = -rows[:, self.joint["pro_sup_r"]]
            out.length[i] = d.ten_length[tendons]
        return out


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


def main() -> None:
    """Sample, fit, report, write."""
    settings = tomllib.loads((DATA / "muscles.toml").read_text())
    muscles = list(settings["muscle"])
    crosses = {m: settings["muscle"][m]["crosses"] for m in muscles}
    degree = settings["table"]
    dataset = Dataset()

    parts: dict[str, Floats] = {}
    shoulder = [m for m in muscles if "shoulder" in crosses[m]]
    elbow = [m for m in muscles if "elbow" in crosses[m]]
    for part, names, dims, basis_of in [
        ("shoulder", shoulder, [0, 1, 2], lambda c: shoulder_basis(c[:, 0], c[:, 1], c[:, 2], degree["shoulder_degree"])),
        ("elbow", elbow, [3, 4], lambda c: elbow_basis(c[:, 3], c[:, 4], degree["elbow_degree"])),
    ]:
        got = [dataset.sample(sobol(n, dims, seed), names) for n, seed in [(FIT_SAMPLES, 1), (CHECK_SAMPLES, 2)]]
        rest = dataset.sample(np.zeros((1, len(SPAN))), names)
        bases = [basis_of(s.coords) for s in got]
        coefficients = []
        for k, name in enumerate(names):
            # Length is stored as the change from the hanging arm, so that shoulder and elbow parts of one muscle add up.
            def columns(s: Samples, k: int = k, part: str = part, rest: Samples = rest) -> Floats:
                change = (s.length[:, k] - rest.length[0, k])[:, None]
                leverage = s.shoulder[:, k] if part == "shoulder" else np.stack([s.elbow[:, k], s.pronation[:, k]], axis=-1)
                return np.hstack([change, leverage])

            lengths, keep_l = fit(bases[0], columns(got[0])[:, :1], FLIP_LENGTH)
            arms, keep_a = fit(bases[0], columns(got[0])[:, 1:], FLIP_LEVERAGE)
            table = np.hstack([lengths, arms])
            coefficients.append(table)
            error = bases[1] @ table - columns(got[1])
            rms = np.sqrt(np.median(error[:, 0] ** 2)), np.sqrt(np.mean(error[:, 0] ** 2))
            arm = np.linalg.norm(error[:, 1:], axis=1)
            size = np.sqrt(np.mean(np.sum(columns(got[1])[:, 1:] ** 2, axis=1)))
            print(
                f"{part:8} {name:9} length rms {rms[1] * 1e3:6.2f} mm (median {rms[0] * 1e3:5.2f})  "
                f"leverage rms {np.sqrt(np.mean(arm**2)) * 1e3:5.2f} of {size * 1e3:5.1f} mm "
                f"(median {np.median(arm) * 1e3:5.2f})  flips {1 - keep_l.mean():6.2%} {1 - keep_a.mean():6.2%}"
            )
        parts[f"{part}_coefficients"] = np.stack(coefficients).astype(np.float32)
        parts[f"{part}_muscles"] = np.array(names)
    everything = dataset.sample(np.zeros((1, len(SPAN))), muscles)
    parts["rest_length"] = everything.length[0].astype(np.float32)
    parts["muscles"] = np.array(muscles)
    parts["degrees"] = np.array([degree["shoulder_degree"], degree["elbow_degree"]])
    np.savez_compressed(DATA / "muscle_table.npz", **parts)  # type: ignore[arg-type]
    print(f"wrote muscle_table.npz, {(DATA / 'muscle_table.npz').stat().st_size / 1e3:.0f} kB")


if __name__ == "__main__":
    main()
