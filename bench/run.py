"""Speed and scale, side by side with general-purpose engines in one run. Run: ``make bench``.

Prints one line a figure, ``bench: NAME = VALUE UNIT (goal >= GOAL)``, and never fails on one: figures are for reading.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
import tracemalloc
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

import mujoco
import numpy as np
from scipy.optimize import lsq_linear

from board import bench_board
from build_muscle_table import Dataset
from learning import bench_learning
from oddswap.application.matching import match_line
from oddswap.application.try_out import try_out
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.set_up import MoveDoc
from oddswap.equipment.base.lines import Cable
from oddswap.equipment.dumbbell import Weight
from oddswap.equivalence import index as table_module
from oddswap.equivalence import variants as variants
from oddswap.equivalence.coverage import reach
from oddswap.equivalence.index import ReachTable, build_reach_table
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import Place, profile_prescription
from oddswap.equivalence.ranking import rank_many
from oddswap.equivalence.search import find_swaps
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics import muscles
from oddswap.mechanics.arm import path_from_coordinates, unit
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.movement import Path as BodyPath
from oddswap.mechanics.movement import Sides
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.performing import as_motion, with_muscles
from oddswap.mechanics.push import Push
from oddswap.mechanics.sharing import rows_of, share
from oddswap.mechanics.skeleton import Built, build
from oddswap.mechanics.stance import Stance
from oddswap.store.demo import document
from oddswap.store.disk_cache import DiskCache
from service import bench_service

BODY, DUMBBELL = Body(1.75, 75), 6.0


def show(name: str, value: float, unit_: str, goal: float | None = None) -> None:
    """Print one figure."""
    prescription = f" (goal >= {goal:g})" if goal is not None else ""
    print(f"bench: {name} = {value:.4g} {unit_}{prescription}", flush=True)


def seconds(work: Callable[[], object], least: float = 0.5) -> float:
    """Seconds one run takes: the best of several within about ``least`` seconds."""
    best, spent = np.inf, 0.0
    while spent <= least:
        start = time.perf_counter()
        work()
        took = time.perf_counter() - start
        best, spent = min(best, took), spent + took
    return float(best)


def by_turns(first: Callable[[], object], second: Callable[[], object], turns: int = 6) -> tuple[float, float]:
    """Seconds one run of each takes, the best of several by turns, since a machine's pace changes within seconds."""
    took = [(seconds(first, 0.1), seconds(second, 0.1)) for _ in range(turns)]
    return min(a for a, _ in took), min(b for _, b in took)


def random_coordinates(count: int) -> np.ndarray:
    """Joint coordinates (count, 5) within the usual ranges, radians."""
    span = np.radians([[-60, 120], [5, 160], [-70, 70], [5, 135], [-80, 80]])
    return np.random.default_rng(1).uniform(*span.T, (count, 5))


def pipeline(coords: np.ndarray, sources: int = 1) -> np.ndarray:
    """The whole of it for a batch: pose, torques, muscle lengths and moment arms, load sharing; activations."""
    part = np.linspace(0, 1, len(coords))
    built = Built(movement("curl"), BodyPath(part, arm=path_from_coordinates(coords)), Stance(), {}, Sides())
    (motion,) = with_muscles([as_motion(BODY, built, build(BODY, built))])
    force = DUMBBELL * Weight().force(motion.arm.grip)[0]
    for k in range(1, sources):
        force = force + Cable(np.array([1.0, -1.0, 0.1 * k]), 1.0, 0.0, 9.0).force(motion.arm.grip[None])[0] / sources
    moment = motion.weight_moment["arm"] + motion.moment("arm", Push("hand", motion.arm.grip, force))
    upper = path_from_coordinates(coords).upper_arm
    return share(muscle_table().regions["arm"], motion.muscles["arm"], coords, -moment, upper).activation


class OneAtATime:
    """The same work with a general-purpose engine: MuJoCo for pose, torques and moment arms, SciPy for the sharing."""

    def __init__(self) -> None:
        self.dataset, self.region = Dataset(), muscle_table().regions["arm"]
        self.tendons = [self.dataset.tendon[n] for n in self.region.names]
        self.axes = [self.dataset.joint[f"unrothum_r{i}_r"] for i in (1, 2, 3)]
        self.hand = self.dataset.model.body("lunate_r").id
        weights = self.region.strongest / self.region.strongest.mean() * self.region.cost
        self.root = np.diag(np.sqrt(weights))

    def torques(self, coords: np.ndarray) -> np.ndarray:
        """Torques and moment arms at one pose, without the sharing."""
        data = self.dataset
        data.pose(coords)
        mujoco.mj_inverse(data.model, data.data)
        return data.vector(data.rows(self.tendons), self.axes)

    def pose(self, coords: np.ndarray) -> np.ndarray:
        """Activations at one pose with a dumbbell in the hand."""
        data = self.dataset
        data.pose(coords)
        mujoco.mj_inverse(data.model, data.data)
        torque = data.data.qfrc_inverse.copy()
        out = np.zeros(data.model.nv)
        down = np.array([0.0, 0.0, -DUMBBELL * GRAVITY])
        mujoco.mj_applyFT(data.model, data.data, down, np.zeros(3), data.data.xpos[self.hand], self.hand, out)
        torque -= out
        rows = data.rows(self.tendons)
        moment_arm = np.zeros((len(self.tendons), 5))
        moment_arm[:, :3] = data.vector(rows, self.axes)
        moment_arm[:, 3] = -rows[:, data.joint["elbow_flexion_r"]]
        moment_arm[:, 4] = -rows[:, data.joint["pro_sup_r"]]
        world = np.linalg.solve(data.data.xaxis[self.axes], torque[data.dof[self.axes]])
        demand = np.array([-world[1], world[0], world[2], *torque[[data.joint[j] for j in ("elbow_flexion_r", "pro_sup_r")]]])
        capacity = self.region.capacity(data.data.ten_length[self.tendons])
        upper = unit(np.array([[0.3, -0.2, -1.0]]))
        turned, reserve = rows_of(self.region, demand[None], upper, 0)
        a = (turned[0] @ (moment_arm * capacity[:, None]).T) / reserve[0][:, None]
        b = turned[0] @ demand / reserve[0]
        full = np.vstack([a, self.root]), np.concatenate([b, np.zeros(len(self.tendons))])
        return lsq_linear(*full, (0, 1), method="bvls").x


def batches() -> None:
    """The whole pipeline in batches against one pose at a time."""
    one = OneAtATime()
    single = random_coordinates(60)
    for count in (1, 100, 10_000, 100_000):
        coords = random_coordinates(count)
        apart, together = by_turns(lambda: [one.pose(c) for c in single], lambda c=coords: pipeline(c))
        one_by_one, each = apart / len(single), together / count
        if count == 1:
            show("one pose at a time, MuJoCo and SciPy", 1 / one_by_one, "poses/s")
        tracemalloc.start()
        pipeline(coords)
        peak = tracemalloc.get_traced_memory()[1] / 1e6
        tracemalloc.stop()
        show(f"batch of {count}", 1 / each, "poses/s")
        goal = 100 if count == 10_000 else None
        show(f"batch of {count} over one at a time", one_by_one / each, "times", goal)
        show(f"batch of {count}, peak memory", peak, "MB")
    small, large = (seconds(lambda c=c: pipeline(c)) for c in (random_coordinates(10_000), random_coordinates(40_000)))
    show("growth of cost, four times the poses", large / small, "times")
    coords = random_coordinates(5_000)
    few, many = (seconds(lambda k=k: pipeline(coords, k)) for k in (1, 8))
    show("growth of cost, eight sources for one", many / few, "times")
    arm, leg = muscle_table().regions["arm"], muscle_table().regions["leg"]
    legs = np.radians(np.random.default_rng(2).uniform([-10, -30, -30, 5, -30], [110, 20, 30, 120, 20], (5_000, 5)))
    took = [seconds(lambda r=r, c=c: r.evaluate(c)) for r, c in ((arm, random_coordinates(5_000)), (leg, legs))]
    show("growth of cost, 40 leg muscles for 27 of the arm", took[1] / took[0], "times")


def sizes() -> None:
    """The shipped table and what it costs to start."""
    table = Path(muscles.__file__).parent / "data" / "muscle_table.npz"
    show("muscle table", table.stat().st_size / 1e6, "MB (goal <= 3)")
    show("muscle table, loading", seconds(muscles.MuscleTable) * 1e3, "ms (goal <= 50)")
    for name, first in (("importing the mechanics, NumPy with it", "time"), ("importing the mechanics after NumPy", "numpy")):
        timed = "t = time.perf_counter(); import oddswap.mechanics.performing; print(time.perf_counter() - t)"
        code = f"import time, {first}; {timed}"
        runs = [subprocess.run([sys.executable, "-c", code], capture_output=True, text=True).stdout for _ in range(5)]
        show(name, min(float(r) for r in runs) * 1e3, "ms (goal <= 300)")


def searches() -> None:
    """The reach table of the demo's large gym, lines against it, and a slider moved by hand."""
    place_doc, client = PlaceDoc.model_validate_json(document("place-pier-club")), demo_client("tobi")
    gym, body = place_doc.place(), client.body()
    docs = [line for who in ("tobi", "ilka") for s in demo_program(who).sessions for line in s.lines]

    def cold(place: Place) -> ReachTable:
        table_module.clear_reach_tables()
        variants._cached.clear()
        return build_reach_table(body, place)

    times = []
    for _ in range(3):
        start = time.perf_counter()
        table = cold(gym)
        times.append(time.perf_counter() - start)
    show(f"reach table of {len(gym.kit)} items, cold", min(times), "s (goal <= 4)")
    show("set-ups in it", table.tried, "placements of ways")
    one, coords = OneAtATime(), random_coordinates(60)
    each = seconds(lambda: [one.torques(c) for c in coords]) / len(coords) * variants.POSES
    show("one set-up at a time, MuJoCo without sharing", 1 / each, "set-ups/s")
    show("reach table over one at a time", table.tried * each / min(times), "times", 100)
    half = replace(gym, kit=[k for i, k in enumerate(gym.kit) if i % 2 or not k.loads])
    took = seconds(lambda: cold(half), 0.0)
    show("growth of the table's cost, twice the items", min(times) / took, "times")
    with tempfile.TemporaryDirectory() as folder:
        table_module.use_disk_cache(DiskCache(Path(folder) / "bench.reach", "bench"))
        cold(gym)
        show("reach table from its file over cold", seconds(lambda: cold(gym), 0.0) / min(times), "times")
        table_module.use_disk_cache(None)
    table = cold(gym)

    prescriptions = [profile_prescription(docs[i % len(docs)].line(), body) for i in range(100)]
    rank_many(table, prescriptions, lens_by_id("same_profile"))
    hundred = seconds(lambda: rank_many(table, prescriptions, lens_by_id("same_profile")))
    show("100 lines matched against it", hundred * 1e3, "ms (goal <= 100)")
    more = seconds(lambda: rank_many(table, prescriptions * 4, lens_by_id("same_profile")))
    show("growth of that, four times the lines", more / hundred, "times")
    took = seconds(
        lambda: [find_swaps(prescription, gym, lens_by_id("same_profile")) for prescription in prescriptions[: len(docs)]], 0.0
    ) / len(docs)
    show("a line searched, placed and evaluated in full", took * 1e3, "ms")

    how = RankDoc()
    best = next(s for s in match_line(client, docs[0], place_doc, how).swaps if s.set_up.sources[0].kind == "cable")
    answers = []
    for i in range(200):
        move = MoveDoc(id=("hole", "distance")[i % 2], value=float((3 + i % 12, 60 + i % 60)[i % 2]))
        start = time.perf_counter()
        with suppress(DomainError):
            try_out(client, docs[0], place_doc, how, best.set_up, moves=[move]).model_dump_json()
        answers.append(time.perf_counter() - start)
    show("a moved slider answered, 95th percentile", float(np.percentile(answers, 95)) * 1e3, "ms (goal <= 40)")


def demo_client(who: str) -> ClientDoc:
    """A client of the demo."""
    return ClientDoc.model_validate_json(document(f"client-{who}"))


def demo_program(who: str) -> ProgramDoc:
    """A client's program."""
    return ProgramDoc.model_validate_json(document(f"program-{who}"))


def maps() -> None:
    """Reach maps of three of the demo's places: cold, and once the client's movements are computed."""
    body = ClientDoc.model_validate_json(document("client-ilka")).body()
    for name in ("pier-club", "tallow-garage", "quay-hotel"):
        place = PlaceDoc.model_validate_json(document(f"place-{name}")).place()
        variants._cached.clear()
        start = time.perf_counter()
        reach(body, place)
        show(f"reach map of {len(place.kit)} items, cold", time.perf_counter() - start, "s (goal <= 1)")
        show(f"reach map of {len(place.kit)} items, movements computed", seconds(lambda p=place: reach(body, p), 0.0), "s")


def main() -> None:
    """All figures."""
    sizes()
    batches()
    searches()
    maps()
    bench_board(show)
    bench_learning(show)
    with tempfile.TemporaryDirectory() as folder:
        bench_service(show, Path(folder))


if __name__ == "__main__":
    main()
