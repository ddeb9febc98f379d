"""From computed shares to what may be said of them: bands with a confidence, and what limits the set."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from oddswap.equivalence.profile import Profile
from oddswap.equivalence.set_effort import grip_effort
from oddswap.mechanics.muscle_regions import AXES, JOINTS
from oddswap.mechanics.muscles import Group, muscle_table
from oddswap.mechanics.sharing import bounded_quadratic, rows_of
from oddswap.mechanics.types import Floats

Band = Literal["main", "strong", "some", "little"]
Confidence = Literal["high", "medium", "low"]
BANDS: tuple[tuple[float, Band], ...] = ((0.35, "main"), (0.20, "strong"), (0.08, "some"), (0.0, "little"))
TELLING = 0.15
"""A joint whose demand stays under this part of the largest joint's is not worth a word."""
CLOSE = 0.6
"""Part of the busiest target's torque from which on a movement's first target is still what it is for."""
WORKING = 0.10
"""Part of a joint's load from which on a group counts as working there."""
DRAWS = 24
"""Random changes of strength and moment arm that a main mover has to survive."""


@dataclass(frozen=True)
class Helper:
    """How much of a joint's load a muscle group carries.

    Args:
        group: Muscle group.
        joint: Joint it is compared at.
        share: Mean part of what is given there, rounded to 0.05.
        band: That in a word.
        confidence: Whether the joint's main mover stays the same when strengths and moment arms are changed at random.
    """

    group: Group
    joint: str
    share: float
    band: Band
    confidence: Confidence


def helpers(p: Profile, draws: int = DRAWS) -> list[Helper]:
    """Who carries the load, joint by joint, the limbs and the most loaded joint first; groups under 5 % are left out."""
    meant = {muscle_table().groups[t].region for t in p.motion.movement.targets} | {"trunk", "scapula"}
    demand = {(r, j): size for (r, j), size in joint_demand(p).items() if r in meant}
    limb = [size for (region, _), size in demand.items() if region in ("arm", "leg")]
    most = max(limb or demand.values())
    out = []
    limbs = ("arm", "leg")
    for (region, joint), size in sorted(demand.items(), key=lambda item: (item[0][0] not in limbs, -item[1])):
        if size < TELLING * most:
            continue
        groups = [g for g in p.groups if g.region == region and not _part_of_another(g)]
        shares = {g.id: p.carried_mean(g.id, joint) for g in groups}
        sure = _confidence(p, region, joint, groups, draws)
        for g in sorted(groups, key=lambda g: -shares[g.id]):
            if shares[g.id] >= 0.05:
                band = next(word for least, word in BANDS if shares[g.id] >= least)
                out.append(Helper(g, joint, round(shares[g.id] * 20) / 20, band, sure))
    return out


def joint_demand(p: Profile) -> dict[tuple[str, str], float]:
    """Mean torque that muscles must give by region and joint, N·m."""
    out = {}
    for region in p.motion.regions:
        for joint in JOINTS[region]:
            axes = [a.startswith(joint) for a in AXES[region]]
            out[region, joint] = float(np.linalg.norm(p.shown[region].demand[:, axes], axis=1).mean())
    return out


def target_of(p: Profile) -> str:
    """Of the groups that a movement is for the one that carries most torque; the first named where that is close.

    Besides the first named only those at its own joint count: a hinge is for what extends the hip, however hard the spine works
    to stay as it is.
    """
    demand = joint_demand(p)

    def balances_load(target: str) -> float:
        region = muscle_table().groups[target].region
        return max(p.carried_mean(target, joint) * demand[region, joint] for joint in JOINTS[region])

    targets = [t for t in p.motion.movement.targets if muscle_table().groups[t].region in p.motion.regions]
    own = _own_joint(p)
    targets = [t for n, t in enumerate(targets) if n == 0 or own in JOINTS[muscle_table().groups[t].region]]
    torque = {t: balances_load(t) for t in targets}
    best = max(torque, key=lambda t: torque[t])
    return targets[0] if torque[targets[0]] >= CLOSE * torque[best] else best


def _own_joint(p: Profile) -> str:
    """The joint that the movement turns about."""
    hinge = p.motion.movement.hinge
    return {"lumbosacral": "trunk"}.get(hinge, hinge.split()[-1])


def target_share(p: Profile) -> float:
    """Part of the load at the movement's own joint that the busiest of its targets carries, 0 to 1."""
    groups = [muscle_table().groups[t] for t in p.motion.movement.targets]
    groups = [g for g in groups if g.region in p.motion.regions]
    named = _own_joint(p)
    here = [g for g in groups if named in JOINTS[g.region]]
    shares = [p.carried_mean(g.id, named) for g in here] or [p.carried_mean(g.id, g.region) for g in groups]
    return max(shares)


def _part_of_another(group: Group) -> bool:
    """Whether a group only names some of another one's muscles."""
    mine = set(np.flatnonzero(group.weights))
    others = (g for g in muscle_table().groups.values() if g.region == group.region and g.id != group.id)
    return any(mine < set(np.flatnonzero(g.weights)) for g in others)


def _confidence(p: Profile, region: str, joint: str, groups: list[Group], draws: int) -> Confidence:
    """High where the main mover is the same in 95 % of random changes of 20 % to strength and 10 % to moment arms."""
    muscles, state, shares = muscle_table().regions[region], p.motion.muscles[region], p.shown[region]
    if region == "scapula":
        return "low"  # straight lines and estimated places: a layer of lower confidence whatever the draws say
    some = slice(None, None, 3)
    demand, moment_arm = shares.demand[some], state.moment_arm[some]
    turned, reserve = rows_of(muscles, demand, p.upper_arm[some] if region == "arm" else None, p.motion.held(region))
    capacity = muscles.capacity(state.length)[some] * p.motion.body.strength
    rng = np.random.default_rng(5)
    count, poses = len(muscles.names), len(demand)
    strength = np.exp(rng.normal(0, 0.2, (draws, 1, count)))
    arms = moment_arm * np.exp(rng.normal(0, 0.1, (draws, 1, count, 1)))
    moments = arms * (capacity * strength)[..., None]
    rows = np.einsum("pka,dpma->kmdp", turned, moments) / reserve.T[:, None, None, :]
    right = np.broadcast_to((np.einsum("pka,pa->kp", turned, demand) / reserve.T)[:, None, :], (rows.shape[0], draws, poses))
    weights = (muscles.strongest / muscles.strongest.mean() * muscles.cost)[:, None]
    flat = rows.reshape(rows.shape[0], count, draws * poses)
    solved = bounded_quadratic(flat, right.reshape(rows.shape[0], -1), weights)
    activation, settled = solved.activation.reshape(count, draws, poses), solved.settled.reshape(draws, poses).all(axis=1)
    axes = np.array([a.startswith(joint) for a in AXES[region]])
    direction = demand * axes / np.maximum(np.linalg.norm(demand * axes, axis=1, keepdims=True), 1e-9)
    given = np.maximum(np.einsum("mdp,dpma,pa->mdp", activation, moments, direction), 0.0)
    size = np.linalg.norm(demand * axes, axis=1)
    by_group = np.stack([(given[g.weights > 0].sum(axis=0) * size).sum(axis=1) for g in groups])
    main = by_group.argmax(axis=0)
    same = float(((main == np.bincount(main).argmax()) & settled).mean())
    return "high" if same >= 0.95 else "medium" if same >= 0.75 else "low"


@dataclass(frozen=True)
class LimitingMuscle:
    """What ends the set.

    Args:
        name: Muscle group or ``grip``.
        relative_effort: Its peak demand over what it can give, 0 to 1 and over.
    """

    name: str
    relative_effort: float


def grip_relative_effort(p: Profile) -> Floats:
    """Force on the hand over what a hand of this size holds for a set, (pose,); zero where nothing hangs on the hand."""
    return grip_effort(p.motion, p.pushes, [s.grip for s in p.set_up.sources])


def relative_efforts(p: Profile) -> dict[str, Floats]:
    """What every working group, and the grip, is asked for over what it can give, by name, (pose,) each.

    A muscle that only steadies a joint against another one does not end the set and is left out.
    """
    found = {"grip": grip_relative_effort(p)}
    for g in p.groups:
        balances_load = max(p.carried_mean(g.id, joint) for joint in JOINTS[g.region]) >= WORKING
        if balances_load and not _part_of_another(g) and g.id != "cuff":
            found[g.name] = p.activation(g.id)
    return found


def relative_effort_curve(p: Profile) -> Floats:
    """What the most loaded working muscle, or the grip, is asked for over what it can give, (pose,)."""
    return np.asarray(np.max(np.stack(list(relative_efforts(p).values())), axis=0))


def find_limiting_muscle(p: Profile) -> LimitingMuscle:
    """The muscle group or the grip with the largest peak effort."""
    return max(
        (LimitingMuscle(name, float(e.max())) for name, e in relative_efforts(p).items()), key=lambda f: f.relative_effort
    )
