"""What learning is worth: two hundred simulated clients on a swap, ten a gym; the log must find their strength and the kit."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from oddswap.devices.simulated_client import Effort, SimulatedClient
from oddswap.equivalence.conversion import repetitions_at
from oddswap.training_log.learning import Belief, expected_repetitions, learn, pooled
from oddswap.training_log.progression import Case, next_time
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import EffortScale, LoggedSet, Target, written_strength

SEED, CLIENTS, GYMS, SESSIONS = 20, 200, 20, 8
Show = Callable[..., None]


def bench_learning(show: Show) -> None:
    """Print how far predicted repetitions are off, session by session, with and without learning, and what intervals hold."""
    random = np.random.default_rng(SEED)
    kit = random.normal(0.0, 0.06, GYMS)
    off: dict[int, list[float]] = {k: [] for k in range(SESSIONS)}
    off_that_day: dict[int, list[float]] = {k: [] for k in range(SESSIONS)}
    plain: dict[int, list[float]] = {k: [] for k in range(SESSIONS)}
    held, advised, unsafe = list[bool](), 0, 0
    heard: dict[str, list[dict[str, tuple[float, float]]]] = {}
    for number in range(CLIENTS):
        item = f"{number % GYMS}/column"
        person = SimulatedClient(seed=1000 + number, kit={item: float(kit[number % GYMS])})
        low = int(random.choice([6, 8, 10, 12]))
        target = Target(low, low + int(random.choice([2, 4])), int(random.integers(0, 3)))
        step = float(random.choice([1.0, 2.5, 5.0]))
        existing = np.arange(step, 80.0, step)
        scale = EffortScale(existing, existing / 20.0, np.geomspace(8, 50, 9), np.geomspace(8, 50, 9) / 20.0)
        sets = list[LoggedSet]()
        others = pooled(heard.get(item, []))
        start = float(existing[np.abs(existing - 18.0).argmin()])
        for session in range(SESSIONS):
            day = 3.5 * session
            lesson = learn(sets, day, others)
            # Before the first set: what the prescription says, and what others found of the kit.
            kit_heard = others.get(item, (0.0, 0.0))
            precision = kit_heard[1] + 1 / rules("prior")["item"] ** 2
            spread = float(np.sqrt(rules("prior")["strength"] ** 2 + rules("prior")["family"] ** 2 + 1 / precision))
            mean = float(np.log(written_strength(target))) + kit_heard[0] * kit_heard[1] / precision
            first = Belief(mean, spread)
            strength = lesson.strength("1", "curl:cable", (item,), False, day) if sets else first
            case = Case(target, sets, scale, existing, strength, day, (start, target.rir + 2))
            advice = next_time(case)
            last = sets[-1].amount if sets else start
            advised += 1
            heavier = existing[existing > last + 1e-9]
            allowed = max(last * (1 + rules("next")["most_step"]), float(heavier[0]) if len(heavier) else last)
            unsafe += bool(sets and advice.amount > allowed + 1e-9)
            ratio = scale.ratio_at(advice.amount)
            effort = Effort(
                "1", "curl:cable", (item,), False, ratio, written_strength(target), target.low, target.high, target.rir
            )
            told = expected_repetitions(strength, ratio, 0.0)
            true, today = (person.to_failure(day, effort, daily) for daily in (False, True))
            off[session].append(abs(told.expected - true))
            off_that_day[session].append(abs(told.expected - today))
            plain[session].append(abs(repetitions_at(ratio, written_strength(target)) - true))
            held.append(told.low <= today <= told.high)
            for order in range(3):
                came = person.does(day, replace(effort, order=order))
                sets.append(
                    LoggedSet(
                        day, "1", "curl:cable", (item,), False, scale, advice.amount, came.reps, target, came.reserve, order
                    )
                )
        heard.setdefault(item, []).append(learn(sets, 3.5 * SESSIONS, others).messages())
    for session in (0, 1, 2, 4, 7):
        found, none = np.array(off[session]), np.array(plain[session])
        after = f"after {session} sessions on a swap, 200 simulated clients, seed {SEED}"
        show(
            f"{after}: repetitions predicted within 1.5", 100 * float((found <= 1.5).mean()), "%", 90 if session >= 4 else None
        )
        show(f"{after}: within 2.5", 100 * float((found <= 2.5).mean()), "%", 99 if session >= 4 else None)
        show(f"{after}: within 1.5 without learning", 100 * float((none <= 1.5).mean()), "%")
        within = 100 * float((np.array(off_that_day[session]) <= 1.5).mean())
        show(f"{after}: within 1.5 of that very day, its ups and downs included", within, "%")
    show("intervals that say 80 % hold (goal 75 to 85)", 100 * float(np.mean(held)), "%")
    show(f"advice over the safety margin, of {advised} (goal 0)", unsafe, "times")
