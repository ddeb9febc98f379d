"""Whether clients stay where they are under the loads offered, told by MuJoCo's contact solver (registry package ``mujoco``).

The client is one rigid body in the pose held, on the floor or a bench, with friction; what loads it pulls for half a second.
"""

from __future__ import annotations

from itertools import islice

import mujoco
import numpy as np
import pytest

from oddswap.equivalence.candidates import Swap
from oddswap.mechanics.body import tables
from oddswap.mechanics.limits import lean_of
from oddswap.mechanics.motion import Motion
from offered import offered

pytestmark = pytest.mark.reference
SEED, HELD_S, STEP_S = 5, 0.5, 0.002
SAMPLES = [6, pytest.param(50, marks=pytest.mark.judge)]
"""How many are looked at in every run, and by ``make judge``."""
GONE, TIPPED = 0.05, 5.0
"""m and degrees that somebody who stays moves and turns by less."""
HALF_BENCH = 0.14
"""Half a bench's breadth, m (common practice)."""


def box(name: str, centre: np.ndarray, halves: tuple[float, float, float], axes: np.ndarray | None = None) -> str:
    """A box as XML; axes as columns."""
    turn = np.eye(3) if axes is None else axes
    place, size = (" ".join(f"{x:.6f}" for x in v) for v in (centre, halves))
    ways = " ".join(f"{x:.6f}" for x in (*turn[:, 0], *turn[:, 1]))
    return f'<geom name="{name}" type="box" pos="{place}" size="{size}" xyaxes="{ways}" mass="0"/>'


def rests(motion: Motion, pose: int, centre: np.ndarray) -> tuple[str, str]:
    """What of the body rests, and what stands in the room for it, as XML."""
    body, joints = motion.body, {name: at[pose] for name, at in motion.joints.items()}
    if motion.stance.kind != "bench":
        # Staggered feet and a trunk that leans against the pull reach as far as the product takes them to.
        half = tables()["balance"]["half_base"] * body.stature
        return box("feet", np.array([centre[0], 0.0, 0.02]), (half, half, 0.02)), ""
    torso, hips, shoulders = motion.skeleton.torso[pose], joints["hips"], joints["shoulders"]
    deep, long = body.own("trunk_radius"), float(np.linalg.norm(shoulders - hips)) / 2
    middle, behind = (hips + shoulders) / 2, torso[:, 0]
    feet = "".join(
        box(f"{s} foot", (joints[f"{s} heel"] + joints[f"{s} toe"]) / 2 * [1, 1, 0] + [0, 0, 0.02], (0.12, 0.04, 0.02))
        for s in ("right", "left")
    )
    up, ahead, under = torso[:, 2], np.array([1.0, 0.0, 0.0]), np.array([0.0, 0.0, deep])
    lain = box("trunk", middle, (deep, HALF_BENCH, long), torso) + box("thighs", hips + 0.15 * ahead, (0.15, HALF_BENCH, deep))
    rest = box("rest", middle - (deep + 0.03) * behind + 0.05 * up, (0.03, HALF_BENCH, long + 0.05), torso)
    seat = box("seat", hips + 0.15 * ahead - under - [0, 0, 0.03], (0.2, HALF_BENCH, 0.03))
    if motion.stance.recline >= np.radians(tables()["holding"]["steep_deg"]):
        # Who sits astride a seat is turned on it no farther than the thighs let go.
        for side in (-1, 1):
            beside = hips + 0.15 * ahead - under + np.array([0.0, side * (HALF_BENCH + 0.02), 0.03])
            seat += box(f"astride {side}", beside, (0.15, 0.015, 0.03))
    return lain + feet, rest + seat


def moved(swap: Swap, times: float, pose: int) -> tuple[float, float]:
    """How far somebody is moved, m, and turned, degrees, by so many times the load in half a second."""
    motion, pushes = swap.profile.motion, swap.profile.pushes
    masses, places = motion.skeleton.masses, motion.skeleton.centres[pose]
    centre = masses @ places / masses.sum()
    off = places - centre
    inertia = (masses[:, None, None] * ((off**2).sum(-1)[:, None, None] * np.eye(3) - off[:, :, None] * off[:, None, :])).sum(0)
    inertia += 0.2 * np.eye(3)
    full = " ".join(f"{inertia[i, j]:.6f}" for i, j in ((0, 0), (1, 1), (2, 2), (0, 1), (0, 2), (1, 2)))
    lain, room = rests(motion, pose, centre)
    at = " ".join(f"{x:.6f}" for x in centre)
    model = mujoco.MjModel.from_xml_string(
        f'<mujoco><option timestep="{STEP_S}" cone="elliptic" impratio="10"/>'
        f'<default><geom friction="{tables()["holding"]["friction"]} 0.01 0.001"/></default>'
        f'<worldbody><geom name="floor" type="plane" size="9 9 1"/>{room}'
        f'<body name="client"><freejoint/>'
        f'<inertial pos="{at}" mass="{masses.sum():.4f}" fullinertia="{full}"/>{lain}</body></worldbody></mujoco>'
    )
    data = mujoco.MjData(model)
    mujoco.mj_forward(model, data)
    totals = [push.total() for push in pushes]
    force = times * sum(f[pose] for f, _ in totals)
    about = times * sum(a[pose] for _, a in totals)
    body, start = model.body("client").id, data.xipos[1].copy()
    data.xfrc_applied[body] = np.concatenate([force, about - np.cross(centre, force)])
    for _ in range(round(HELD_S / STEP_S)):
        mujoco.mj_step(model, data)
    turned = np.degrees(2 * np.arccos(min(1.0, abs(float(data.xquat[body][0])))))
    return float(np.linalg.norm(data.xipos[body] - start)), float(turned)


def stays(swap: Swap, times: float = 1.0) -> bool:
    """Whether somebody stays in all of three poses."""
    last = len(swap.profile.motion.part) - 1
    by = [moved(swap, times, pose) for pose in (0, last // 2, last)]
    return all(way < GONE and turn < TIPPED for way, turn in by)


def sample(count: int) -> list[Swap]:
    """Offered swaps of clients who stand on both feet or sit or lie on a bench, and do not lean into the load on purpose; who
    stands on one leg holds on to something."""
    found = (swap for _, _, swap in offered(SEED))
    there = (
        s
        for s in found
        if s.profile.pushes
        and s.profile.motion.support.base == "seat"
        and s.profile.motion.stance.kind in ("standing", "bench")
        and (s.profile.motion.stance.kind == "bench" or s.profile.motion.support.contact == "hand")
        and lean_of(s.profile.motion, s.profile.pushes) <= 1.0
    )
    return list(islice(there, count))


@pytest.mark.parametrize("count", SAMPLES)
def test_who_stands_or_lies_stays_put_under_what_is_offered_and_not_under_many_times_as_much(count):
    looked_at = sample(count)
    gone = [(s.set_up.movement, s.set_up.stance, s.load.amount) for s in looked_at if not stays(s)]
    assert not gone
    assert sum(not stays(s, 6.0) for s in looked_at) > count / 4
