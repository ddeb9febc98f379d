"""The client's card as a document: a session at a place, one lift a screen; a snapshot with a revision."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from oddswap.documents.base import Result
from oddswap.documents.log import BasisDoc
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.words import RowDoc


class CardStepDoc(Result):
    """One step of setting up, in order, and how wrong it may be."""

    what: str
    value: str
    tolerance: str = ""


class CardAmountDoc(Result):
    """An amount there is, as it is set."""

    amount: float
    words: str


class CardSetDoc(Result):
    """One set as it is meant, where sets differ or the week is not as written."""

    reps: str
    aim: int
    """Repetitions to aim at."""
    amount: float
    load: str
    """As it is set."""
    rir: int


class CardWayDoc(Result):
    """One way of doing a lift."""

    title: str
    kit: str
    steps: list[CardStepDoc]
    feel: list[str]
    """What to look at and to feel."""
    watch: list[str]
    """Cautions."""
    amount: float
    load: str
    """As it is set."""
    amounts: list[CardAmountDoc]
    """What there is about it, ascending."""
    reps: str
    aim: int
    """Repetitions to aim at."""
    plan: list[CardSetDoc] = []
    """Sets one by one; empty where all are alike."""
    scheme: str = ""
    """The same in words."""
    why: str
    """Why this load."""
    expected: str
    """Repetitions that are expected, and between which they lie four times of five."""
    figure: ProfileDoc | None
    """Three poses, to be drawn."""
    joints: dict[str, float]
    """By joint, the greatest torque that it takes, N·m: what hurts is spared by less."""
    basis: BasisDoc


class CardLiftDoc(Result):
    """One lift of a session."""

    line: int
    name: str
    """What the coach calls it."""
    label: str
    target: str
    target_name: str
    sets: int
    rir: int
    rest_s: int
    each_side: bool
    tempo: str
    methods: list[str]
    stop: str
    """When the set is over."""
    last: str
    """What was done last time, in words; empty without a last time."""
    ways: list[CardWayDoc]
    """As chosen first; then what to do where the kit is taken or it hurts."""
    made_of: str = ""
    """Names what it was computed from."""


class CardDoc(Result):
    """A session to take along."""

    format: Literal["odd-swap/card/1"] = "odd-swap/card/1"
    client: str
    coach: str
    program: str
    session: str
    week: str = ""
    """Which week of the block it is; empty outside of one."""
    place: str
    revision: int = 1
    made_at: dt.datetime
    changed: list[str] = []
    """What is new against the revision before, in words."""
    mass_unit: Literal["kg", "lb"]
    mass_unit_kg: float
    """The unit in kg."""
    mass_span_kg: list[float]
    """Least and greatest bodyweight that is taken, kg."""
    drop_part: float
    """Part of a load that a drop goes to, as near as there are amounts."""
    spare_part: float
    """Part of what a lift asks of a joint up to which another one spares it."""
    lifts: list[CardLiftDoc]
    missing: list[str] = []
    """Lines that nothing was chosen for yet."""
    safety: list[str]
    """What to mind in all of it."""


def slim(profile: ProfileDoc, poses: int = 3) -> ProfileDoc:
    """A profile with a few poses and without curves: enough to draw it."""
    n = len(profile.part)
    at = [round(k * (n - 1) / (poses - 1)) for k in range(poses)]
    pulls = [
        p.model_copy(update={"at_m": [p.at_m[i] for i in at], "force_n": [p.force_n[i] for i in at]}) for p in profile.pulls
    ]
    arm = profile.moment_arm
    return profile.model_copy(
        update={
            "part": [profile.part[i] for i in at],
            "reading": [profile.reading[i] for i in at],
            "joint_angles_deg": {},
            "torques_nm": {},
            "targets": {},
            "length_bins": [],
            "muscle_lengths_cm": {},
            "positions_m": {k: [[round(x, 3) for x in v[i]] for i in at] for k, v in profile.positions_m.items()},
            "pulls": pulls,
            "moment_arm": arm.model_copy(
                update={
                    "hinge_m": [arm.hinge_m[i] for i in at],
                    "foot_m": [arm.foot_m[i] for i in at],
                    "length_cm": [arm.length_cm[i] for i in at],
                }
            ),
        }
    )


def steps_of(rows: list[RowDoc], tolerances: dict[str, str]) -> list[CardStepDoc]:
    """Set-up words in order with their tolerances, by what they are of."""
    return [CardStepDoc(what=r.what, value=r.value, tolerance=tolerances.get(r.what, "")) for r in rows]
