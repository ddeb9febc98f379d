"""Functions of joint angles that muscle lengths and moment arms are fitted with."""

from __future__ import annotations

import numpy as np

from oddswap.mechanics.types import Floats


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
    return np.moveaxis(np.stack(terms), 0, -1)


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
    terms = [towers[0][i] * towers[1][j] for i in range(degree + 1) for j in range(degree + 1 - i)]
    return np.moveaxis(np.stack(terms), 0, -1)


def chebyshev(x: Floats, degree: int) -> list[Floats]:
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
        towers.append(chebyshev(np.clip((angle - middle) / half, -1.0, 1.0), degree))
    triples = [(i, j, k) for i in range(degree + 1) for j in range(degree + 1 - i) for k in range(degree + 1 - i - j)]
    return np.moveaxis(np.stack([towers[0][i] * towers[1][j] * towers[2][k] for i, j, k in triples]), 0, -1)


def hinge_basis(angle: Floats, span_deg: list[float], degree: int) -> tuple[Floats, Floats]:
    """Chebyshev polynomials of a hinge's angle, radians, over ``span_deg``, and their slopes per radian; (..., terms) each."""
    middle, half = np.radians(sum(span_deg) / 2), np.radians((span_deg[1] - span_deg[0]) / 2)
    x = np.clip((angle - middle) / half, -1.0, 1.0)
    values = chebyshev(x, degree)
    # T'_k = k U_(k - 1), and the U follow the same recurrence from U_0 = 1, U_1 = 2 x.
    second = [np.ones_like(x), 2 * x]
    for _ in range(degree):
        second.append(2 * x * second[-1] - second[-2])
    slopes = [np.zeros_like(x)] + [k * second[k - 1] / half for k in range(1, degree + 1)]
    return np.stack(values, axis=-1), np.stack(slopes, axis=-1)


def as_matrix(coefficients: Floats, scale: Floats) -> Floats:
    """Coefficients (muscle, term, column), scaled by (column, muscle), as (column x muscle, term)."""
    by_column = coefficients.transpose(2, 0, 1).astype(float) * scale[..., None]
    return np.ascontiguousarray(by_column.reshape(-1, coefficients.shape[1]))


def hat_weights(x: Floats, nodes: Floats) -> Floats:
    """Linear interpolation weights (node, pose) of ``x`` (pose,) on ``nodes``, held constant outside."""
    x, step = np.clip(x, nodes[0], nodes[-1]), np.diff(nodes)[:, None]
    out = np.ones((len(nodes), len(x)))
    out[1:] = (x - nodes[:-1, None]) / step
    out[:-1] = np.minimum(out[:-1], (nodes[1:, None] - x) / step)
    return np.clip(out, 0.0, 1.0, out=out)


class AngleTables:
    """Curves of muscles over one angle between evenly spaced nodes, linear, held constant outside.

    Args:
        nodes: Angles, radians, (node,).
        values: One row a muscle, (muscle, node); rows of zeros are left out.
    """

    def __init__(self, nodes: Floats, values: Floats) -> None:
        self.nodes, self.rows = nodes, np.flatnonzero(np.abs(values).max(axis=1) > 0)
        self.values = np.ascontiguousarray(values[self.rows])
        self.rise = np.diff(self.values, axis=1, append=self.values[:, -1:])

    def add(self, x: Floats, to: Floats) -> None:
        """Add the curves at ``x`` (pose,) to ``to`` (muscle, pose) in place."""
        at = np.clip((x - self.nodes[0]) / (self.nodes[1] - self.nodes[0]), 0.0, len(self.nodes) - 1.0)
        low = at.astype(int)
        part = at - low
        for row, values, rise in zip(self.rows, self.values, self.rise, strict=True):
            to[row] += values[low] + part * rise[low]
