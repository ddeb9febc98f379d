"""Who carries the load: joint torques shared among muscles by static optimisation, batched over poses.

Minimise ``1/2 sum w a^2 + 1/2 sum (left / reserve)^2`` over activations 0 <= a <= 1, where ``left`` is the part of each row
of the moment balance that muscles leave to cuff, capsule and pads, and ``reserve`` how cheap that is. The dual has one
multiplier a row (at most five), so Newton's method on it solves thousands of poses at once with plain array arithmetic;
poses stand last in every array here, so that one operation runs over all of them.

Settings and their origin: ``[sharing]`` and ``[stops]`` in ``data/muscles.toml``.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import NamedTuple

import numpy as np

from oddswap.mechanics.arm import dot, norm, unit
from oddswap.mechanics.muscle_regions import MuscleState, Region
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.parts import in_parts
from oddswap.mechanics.types import Bools, Floats

ITERATIONS = 200
TOLERANCE = 1e-10
PATIENCE = 12
"""Newton steps before the rest goes through the inside of the bounds."""


class Solution(NamedTuple):
    """Activations, (muscle, pose), the balance's multipliers, (row, pose), and whether a pose was solved to ``TOLERANCE``."""

    activation: Floats
    multiplier: Floats
    settled: Bools


def bounded_quadratic(rows: Floats, right: Floats, weights: Floats, near: Floats | None = None) -> Solution:
    """Activations that minimise ``1/2 sum w a^2 + 1/2 |right - rows a|^2`` with 0 <= a <= 1.

    Args:
        rows: Moment of each muscle at full activation over the reserve's scale, (row, muscle, pose).
        right: Moment that must be given over the reserve's scale, (row, pose).
        weights: Cost of each muscle, above zero, (muscle, pose) or (muscle, 1).
        near: Multipliers to begin at, (row, pose), as those of costs a little different: fewer steps to the same end.

    Returns:
        Activations with their multipliers, and the poses at which they are the optimum; at others the last iterate stands.
    """
    weights = np.broadcast_to(weights, rows.shape[1:])

    def part(where: slice) -> Solution:
        return _solve(rows[..., where], right[:, where], weights[:, where], near if near is None else near[:, where])

    parts = in_parts(part, right.shape[1])
    if len(parts) == 1:
        return parts[0]
    return Solution(*(np.concatenate(column, axis=-1) for column in zip(*parts, strict=True)))


def _solve(rows: Floats, right: Floats, weights: Floats, multiplier: Floats | None) -> Solution:
    # With a' = sqrt(w) a the cost has no weights: the bounds become 0 and sqrt(w).
    most = np.sqrt(weights)
    rows = rows / most
    out, ends, settled = np.zeros(rows.shape[1:]), np.zeros(right.shape), np.ones(rows.shape[2], bool)
    left = np.arange(rows.shape[2])
    scale = 1 + np.abs(right).max(axis=0)
    if multiplier is None:
        # Muscles that pull the wanted way carry at first.
        multiplier = _cholesky_solve(_hessian(rows, _transposed(rows, right) > 0), right)
    wanted = _transposed(rows, multiplier)
    share, gradient = _gradient(rows, right, most, multiplier, wanted)
    careful = np.zeros(len(left), bool)
    for iteration in range(ITERATIONS):
        if iteration == PATIENCE:
            # What has not settled by now is overloaded: many muscles at their bounds, where Newton's steps grow short.
            multiplier = _inside(rows * most, right, most**2)
            wanted = _transposed(rows, multiplier)
            share, gradient = _gradient(rows, right, most, multiplier, wanted)
        size = np.abs(gradient).max(axis=0)
        done = size < TOLERANCE * scale
        # Copying the rest costs as much as a step, so settled poses are dropped when they are many.
        if done.mean() > 0.3:
            out[:, left[done]], ends[:, left[done]] = share[:, done] / most[:, done], multiplier[:, done]
            if done.all():
                return Solution(out, ends, settled)
            keep = ~done
            left, scale, size, careful = left[keep], scale[keep], size[keep], careful[keep]
            rows, right, most, multiplier, wanted, share, gradient = (
                v[..., keep] for v in (rows, right, most, multiplier, wanted, share, gradient)
            )
        step = _cholesky_solve(_hessian(rows, share == wanted), -gradient)
        change = _transposed(rows, step)
        before = multiplier, wanted, gradient
        multiplier, wanted = multiplier + step, wanted + change
        share, gradient = _gradient(rows, right, most, multiplier, wanted)
        # Where a full step once left the gradient as large, the dual must fall from then on.
        careful |= np.abs(gradient).max(axis=0) > 0.5 * size
        poor = np.flatnonzero(careful)
        if len(poor):
            start, at, slope = (v[:, poor] for v in before)
            length = _line_search(right[:, poor], most[:, poor], start, at, step[:, poor], change[:, poor], slope)
            multiplier[:, poor] = start + length * step[:, poor]
            wanted[:, poor] = at + length * change[:, poor]
            again = _gradient(rows[..., poor], right[:, poor], most[:, poor], multiplier[:, poor], wanted[:, poor])
            share[:, poor], gradient[:, poor] = again
    out[:, left], ends[:, left] = share / most, multiplier
    settled[left] = np.abs(gradient).max(axis=0) < TOLERANCE * scale
    return Solution(out, ends, settled)


def _gradient(rows: Floats, right: Floats, most: Floats, multiplier: Floats, wanted: Floats) -> tuple[Floats, Floats]:
    """Shares within their bounds and the dual's gradient there."""
    share = np.clip(wanted, 0.0, most)
    return share, multiplier + _applied(rows, share) - right


def _inside(rows: Floats, right: Floats, weights: Floats) -> Floats:
    """Multipliers near the optimum by a primal-dual path through the inside of the bounds, whatever is saturated.

    Keeps a > 0, 1 - a > 0 with their own multipliers and shrinks the products toward zero (Wright 1997); every step is one
    system of as many unknowns as rows.
    """
    share = np.full(rows.shape[1:], 0.5)
    low, high = weights + 1.0, weights + 1.0
    for _ in range(40):
        gap = (share * low + (1 - share) * high).mean(axis=0)
        near = gap < 1e-12
        if near.all():
            break
        target = 0.1 * gap
        dual = right - _applied(rows, share)
        pull = target / share - target / (1 - share) - weights * share + _transposed(rows, dual)
        soft = 1 / (weights + low / share + high / (1 - share))
        inner = _cholesky_solve(_hessian(rows, soft), _applied(rows, soft * pull))
        step = soft * (pull - _transposed(rows, inner))
        low_step = target / share - low - low / share * step
        high_step = target / (1 - share) - high + high / (1 - share) * step
        longest = np.ones(rows.shape[2])
        for value, change in ((share, step), (1 - share, -step), (low, low_step), (high, high_step)):
            most = np.where(change < 0, -value / np.minimum(change, -1e-300), np.inf).min(axis=0)
            longest = np.minimum(longest, 0.995 * most)
        longest[near] = 0.0
        share = np.clip(share + longest * step, 1e-13, 1 - 1e-13)
        low, high = np.maximum(low + longest * low_step, 1e-15), np.maximum(high + longest * high_step, 1e-15)
    return right - _applied(rows, share)


def _transposed(rows: Floats, multiplier: Floats) -> Floats:
    out: Floats = rows[0] * multiplier[0]
    for row, m in zip(rows[1:], multiplier[1:], strict=True):
        out += row * m
    return out


def _applied(rows: Floats, share: Floats) -> Floats:
    return np.stack([np.einsum("mp,mp->p", row, share) for row in rows])


def _hessian(rows: Floats, weight: Floats | Bools) -> list[list[Floats]]:
    """Lower triangle of I + rows diag(weight) rows^T, each entry (pose,)."""
    out = []
    for i, row in enumerate(rows):
        weighed = row * weight
        out.append([np.einsum("mp,mp->p", weighed, other) for other in rows[: i + 1]])
        out[i][i] += 1.0
    return out


def _cholesky_solve(lower: list[list[Floats]], right: Floats) -> Floats:
    """Solve symmetric positive systems given by their lower triangles, all poses at once; right (row, pose)."""
    n = len(lower)
    root: list[list[Floats]] = []
    for i in range(n):
        root.append([])
        for j in range(i + 1):
            rest = lower[i][j]
            for k in range(j):
                rest = rest - root[i][k] * root[j][k]
            root[i].append(np.sqrt(rest) if i == j else rest / root[j][j])
    y: list[Floats] = []
    for i in range(n):
        rest = right[i]
        for k in range(i):
            rest = rest - root[i][k] * y[k]
        y.append(rest / root[i][i])
    x = list(y)
    for i in reversed(range(n)):
        rest = y[i]
        for k in range(i + 1, n):
            rest = rest - root[k][i] * x[k]
        x[i] = rest / root[i][i]
    return np.stack(x)


def _objective(right: Floats, most: Floats, multiplier: Floats, wanted: Floats) -> Floats:
    held = np.clip(wanted, 0.0, most)
    return np.asarray(((0.5 * multiplier - right) * multiplier).sum(axis=0) + (held * (wanted - 0.5 * held)).sum(axis=0))


def _line_search(
    right: Floats, most: Floats, start: Floats, wanted: Floats, step: Floats, change: Floats, gradient: Floats
) -> Floats:
    """Length of each pose's step, (pose,): halved until the dual falls enough."""
    base = _objective(right, most, start, wanted)
    slope = (gradient * step).sum(axis=0)
    length = np.ones(start.shape[1])
    for _ in range(30):
        value = _objective(right, most, start + length * step, wanted + length * change)
        short = value > base + 1e-4 * length * slope + 1e-12 * np.abs(base)
        if not short.any():
            break
        length = np.where(short, length / 2, length)
    return length


def share_of_load(moment: Floats, moment_arm: Floats, strongest: Floats, member: Bools) -> Floats:
    """Part of a load that some muscles carry when every muscle pulls as far as it is strong and well placed for it.

    share = sum over the members of F_i max(0, r_i . m)^2 over the same sum of all muscles, with m the direction that must be
    given (minus the load's moment): activation in proportion to alignment.

    Args:
        moment: Moment of the load, N·m, (..., pose, axis).
        moment_arm: m, (..., pose, muscle, axis).
        strongest: Greatest force, N, (..., pose, muscle).
        member: Which muscles count, (muscle,) or one row each, (..., muscle).

    Returns:
        The share, mean over poses weighed by the size of the moment, (...).
    """
    size = norm(moment)
    needed = -moment / np.maximum(size, 1e-9)[..., None]
    aligned = np.maximum(0.0, (moment_arm @ needed[..., None])[..., 0])
    carried = strongest * aligned**2
    part = (carried @ member.astype(carried.dtype)[..., None])[..., 0] / np.maximum(carried.sum(axis=-1), 1e-12)
    return np.asarray(dot(part, size) / np.maximum(size.sum(axis=-1), 1e-9))


@dataclass(frozen=True)
class Shares:
    """How a region's muscles carry a load at every pose.

    Args:
        activation: 0 to 1, (pose, muscle).
        force: N, (pose, muscle).
        left: What the reserves carry, N·m on the region's axes, (pose, axis).
        demand: What had to be given after the passive stops took their part, N·m, (pose, axis).
        settled: Whether the optimum was found, (pose,); elsewhere the shares are not to be believed.
    """

    activation: Floats
    force: Floats
    left: Floats
    demand: Floats
    settled: Bools


def share(
    region: Region, state: MuscleState, coords: Floats, demand: Floats, upper_arm: Floats | None = None, held: int = 0,
    power: int = 2, strength: float = 1.0,
) -> Shares:  # fmt: skip
    """Share joint torques among a region's muscles.

    Args:
        region: Whose muscles.
        state: Their lengths and moment arms, (pose, muscle, ...).
        coords: Joint coordinates, radians, (pose, coordinate).
        demand: Moment that must be given, N·m, (pose, axis).
        upper_arm: Direction of the humerus in the torso frame, (pose, xyz); for the arm.
        held: How many axes of the ball joint a pad or seat carries, from the first.
        power: Of the activations in the cost: 2, or 3 as shown to people.
        strength: Of the client, against the table's.
    """

    def part(where: slice) -> Shares:
        at = MuscleState(state.length[where], state.moment_arm[where])
        upper = upper_arm if upper_arm is None else upper_arm[where]
        return _share(region, at, coords[where], demand[where], upper, held, power, strength)

    parts = in_parts(part, len(demand))
    if len(parts) == 1:
        return parts[0]
    return Shares(*(np.concatenate([vars(p)[f.name] for p in parts]) for f in fields(Shares)))


def _share(
    region: Region, state: MuscleState, coords: Floats, demand: Floats, upper_arm: Floats | None, held: int, power: int,
    strength: float,
) -> Shares:  # fmt: skip
    demand = after_stops(region, coords, demand)
    turned, reserve = rows_of(region, demand, upper_arm, held)
    capacity = (region.capacity(state.length) * strength).T
    # From here on poses stand last: (axis, muscle, pose).
    moment_arm = state.moment_arm.T
    moments = moment_arm * capacity
    mixing = turned.T / reserve.T
    rows = np.zeros((turned.shape[1], *capacity.shape))
    for k, row in enumerate(rows):
        for a, moment in enumerate(moments):
            if mixing[a, k].any():
                row += moment * mixing[a, k]
    right = np.einsum("akp,ap->kp", mixing, demand.T)
    weights = (region.strongest / region.strongest.mean() * region.cost)[:, None]
    activation, multiplier, settled = bounded_quadratic(rows, right, weights)
    if power == 3:
        # a^3 as a^2 with each muscle's cost times its own activation, repeated until it settles.
        for _ in range(8):
            weighed = weights * np.maximum(activation, 0.02)
            again, multiplier, _ = bounded_quadratic(rows, right, weighed, multiplier)
            activation = np.sqrt(np.maximum(activation, 1e-9) * np.maximum(again, 1e-9))
        activation, _, settled = bounded_quadratic(rows, right, weights * np.maximum(activation, 0.02), multiplier)
    force = activation * capacity
    given = np.stack([(force * arm).sum(axis=0) for arm in moment_arm], axis=-1)
    return Shares(activation.T, force.T, demand - given, demand, settled)


def rows_of(region: Region, demand: Floats, upper_arm: Floats | None, held: int) -> tuple[Floats, Floats]:
    """Directions of the balance's rows, (pose, row, axis), and how cheap each is to leave, N·m, (pose, row)."""
    scale = muscle_table().settings["sharing"]["reserve_nm"]
    count, axes = demand.shape
    turned = np.broadcast_to(np.eye(axes), (count, axes, axes)).copy()
    reserve = np.empty((count, axes))
    if region.name == "arm":
        assert upper_arm is not None
        load = unit(demand[:, :3])
        load = np.where(np.linalg.norm(load, axis=1, keepdims=True) > 0.5, load, np.array([0.0, -1.0, 0.0]))
        axial = unit(upper_arm - (upper_arm * load).sum(axis=1, keepdims=True) * load)
        spare = np.where(np.abs(load[:, :1]) < 0.9, np.array([1.0, 0, 0]), np.array([0, 1.0, 0]))
        spare = unit(spare - (spare * load).sum(axis=1, keepdims=True) * load)
        axial = np.where(np.linalg.norm(axial, axis=1, keepdims=True) > 0.5, axial, spare)
        turned[:, 0, :3], turned[:, 1, :3], turned[:, 2, :3] = load, axial, np.cross(load, axial)
        names = ("shoulder_on_pad",) * 3 if held else ("shoulder_load", "shoulder_axial", "shoulder_perpendicular")
        reserve[:, :3] = [scale[n] for n in names]
        reserve[:, 3] = scale["elbow"]
        turning = np.abs(demand[:, 4]) > scale["forearm_loaded_over_nm"]
        reserve[:, 4] = np.where(turning, scale["forearm_rotation_loaded"], scale["forearm_rotation"])
    elif region.name == "leg":
        loaded = np.abs(demand) > scale["hip_loaded_over_nm"]
        reserve[:, 0] = np.where(loaded[:, 0], scale["hip_off_axis_loaded"], scale["hip_adduction"])
        reserve[:, 1] = scale["hip_flexion"]
        reserve[:, 2] = np.where(loaded[:, 2], scale["hip_off_axis_loaded"], scale["hip_rotation"])
        reserve[:, 3], reserve[:, 4] = scale["knee"], scale["ankle"]
        reserve[:, :held] = scale["shoulder_on_pad"]
    else:
        reserve[:] = scale[region.name]
    return turned, reserve


def after_stops(region: Region, coords: Floats, demand: Floats) -> Floats:
    """What muscles must give once ligaments at the ends of ranges have borne their part, N·m, (pose, axis).

    Stops are one-sided and passive: they only take load that pushes the joint into them.
    """
    out = demand.copy()
    if region.name == "arm":
        _take(out[:, 3], _stop("elbow_extension", coords[:, 3]), into_positive=True)
        _take(out[:, 3], _stop("elbow_flexion", coords[:, 3]), into_positive=False)
    elif region.name == "leg":
        knee, flexion = coords[:, 3], coords[:, 0]
        _take(out[:, 3], _stop("knee_extension", knee), into_positive=True)
        _take(out[:, 3], _stop("knee_flexion", knee), into_positive=False)
        # With a straight knee the hamstrings end hip flexion sooner.
        _take(out[:, 1], _stop("hip_flexion", flexion + np.maximum(0, np.radians(60) - knee) * 0.5), into_positive=True)
    return out


def _stop(name: str, angle: Floats) -> Floats:
    law = muscle_table().settings["stops"][name]
    rise = np.minimum((np.degrees(angle) - law["start_deg"]) / law["width_deg"], law["most"])
    return np.asarray(law["amplitude_nm"] * np.exp(rise))


def _take(demand: Floats, most: Floats, into_positive: bool) -> None:
    """Take up to ``most`` off the positive (or negative) part of ``demand`` in place, (pose,)."""
    if into_positive:
        demand -= np.minimum(np.maximum(demand, 0.0), most)
    else:
        demand += np.minimum(np.maximum(-demand, 0.0), most)


def doubtful(shares: Shares, coords: Floats, arm: bool, held: int = 0) -> Bools:
    """Poses at which the shares are not to be believed, (pose,): unsettled, much left to reserves, or the arm far behind.

    Where a pad or seat holds the ball joint, what is left there is the pad's and says nothing.
    """
    free = slice(held, None)
    size = np.maximum(np.linalg.norm(shares.demand[:, free], axis=1), 1.0)
    out = (np.linalg.norm(shares.left[:, free], axis=1) > 0.25 * size) | ~shares.settled
    if arm:
        out |= (np.degrees(coords[:, 0]) < -45) & (np.degrees(coords[:, 1]) > 30)
    return np.asarray(out)
