"""Speed and scale, side by side with general-purpose engines in one run. Run: ``make bench``.

Prints one line a figure, ``bench: NAME = VALUE UNIT (goal >= GOAL)``, and never fails on one: figures are for reading.
"""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np

from build_muscle_table import Dataset
from oddswap.formats.documents import ClientDoc, PlaceDoc, ProgramDoc
from oddswap.mechanics.arm import path_from_coordinates, place_arm
from oddswap.mechanics.body import Body
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.muscles import muscle_table
from oddswap.mechanics.posture import Stance, take
from oddswap.mechanics.sources.dumbbell import Weight
from oddswap.store.demo import document
from oddswap.swaps.match import lens
from oddswap.swaps.search import find_swaps


def show(name: str, value: float, unit: str, goal: float | None = None) -> None:
    """Print one figure."""
    aim = f" (goal >= {goal:g})" if goal is not None else ""
    print(f"bench: {name} = {value:.4g} {unit}{aim}", flush=True)


def seconds(work: Callable[[], object], least: float = 0.3) -> float:
    """Seconds one run takes: the best of several within about ``least`` seconds."""
    best, spent = np.inf, 0.0
    while spent <= least:
        start = time.perf_counter()
        work()
        took = time.perf_counter() - start
        best, spent = min(best, took), spent + took
    return float(best)


def random_coordinates(count: int) -> np.ndarray:
    """Joint coordinates (count, 5) within the usual ranges, radians."""
    span = np.radians([[-60, 120], [5, 160], [-70, 70], [5, 135], [-80, 80]])
    return np.random.default_rng(1).uniform(*span.T, (count, 5))


def poses(body: Body, coords: np.ndarray) -> np.ndarray:
    """Torques and muscles at a batch of poses with a bell in the hand."""
    posture = take(body, Stance())
    torso = np.broadcast_to(posture.torso, (len(coords), 3, 3))
    shoulder = np.broadcast_to(posture.shoulder, (len(coords), 3))
    arm = place_arm(body, path_from_coordinates(coords), shoulder, torso)
    motion = Motion(body, posture, np.linspace(0, 1, len(coords)), coords, arm, muscle_table().evaluate(coords), False)
    return motion.weight_moment + motion.grip_moment(10 * Weight().force(arm.grip)[0])


def batches() -> None:
    """Pose, torques, muscle lengths and leverage, in batches and one at a time with MuJoCo."""
    body, dataset, names = Body(1.75, 75), Dataset(), list(muscle_table().names)
    one_by_one = seconds(lambda: dataset.sample(random_coordinates(200), names)) / 200
    show("MuJoCo, one pose at a time", 1 / one_by_one, "poses/s")
    for count in (1, 100, 10_000):
        coords = random_coordinates(count)
        each = seconds(lambda c=coords: poses(body, c)) / count
        show(f"batch of {count}", 1 / each, "poses/s")
        show(f"batch of {count} over one at a time", one_by_one / each, "times")


def searches() -> None:
    """Ranking a line at the demo's large gym."""
    hall = PlaceDoc.model_validate_json(document("place-harbour-hall")).place()
    body = ClientDoc.model_validate_json(document("client-ilka")).body()
    program = ProgramDoc.model_validate_json(document("program-ilka"))
    lines = [line.line() for session in program.sessions for line in session.lines]
    took = seconds(lambda: [find_swaps(line, hall, body, lens("same_shape")) for line in lines], 0.0)
    show("lines ranked at the large gym, cold", len(lines) / took, "lines/s")


def main() -> None:
    """All figures."""
    batches()
    searches()


if __name__ == "__main__":
    main()
