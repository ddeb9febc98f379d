"""The angle that balances a body: of every pose, with what loads it."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.arm import cross
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import BodySupport
from oddswap.mechanics.push import Push
from oddswap.mechanics.skeleton import Built
from oddswap.mechanics.types import Floats

LOOKED, STEPS, SETTLED = 9, 60, 1e-10
"""Angles looked at first, most steps to a balance, and what counts as reached, radians, m or N·m."""

Loads = Callable[[Motion], Sequence[Push]]
"""The loads on a body at given poses; what is solved for balance depends on them."""


def solve_balance(body: Body, built: Built, part: Floats, loads: Loads | None) -> Generator[Built, Motion, Floats]:
    """The free angle of every pose, radians, (pose,): by secants within the bracket where what must vanish changes sign.

    Bodies that must be placed are yielded and come back as motions, so that many balances are solved in step.

    Args:
        body: The client.
        built: What is done and how; its path is not looked at.
        part: Where along the way, 0 to 1, (pose,).
        loads: What loads the body besides its own weight.

    Raises:
        DomainError: Where no angle within the bracket balances the body.
    """
    movement, values = built.movement, built.values
    support = movement.support(values)
    law = support.balance
    assert law is not None

    def at(part: Floats, angle: Floats) -> Built:
        return Built(movement, movement.path(values, part, angle, body), built.stance, values, built.sides)

    given = {k: round(v, 1) for k, v in values.items()}
    # A look at a few angles at once narrows the bracket before it is closed step by step.
    angles, rows = np.linspace(law.low, law.high, LOOKED), np.arange(len(part))
    every = _left_over(support, loads, (yield at(np.tile(part, LOOKED), np.repeat(angles, len(part))))).reshape(LOOKED, -1)
    turns = every[:-1] * every[1:] <= 0
    if not turns.any(axis=0).all():
        where = part[np.argmin(turns.any(axis=0))]
        raise DomainError(
            "parameters",
            given,
            f"the body must find its balance; {where:.0%} of the way it cannot",
            "Take less load, stand nearer, or change depth or stance",
        )
    turn = turns.argmax(axis=0)
    low, high, rises = angles[turn], angles[turn + 1], every[turn, rows] < 0
    # A cubic through the four angles about the change of sign comes within a thousandth of a radian; secants from there,
    # kept within the bracket, need some three steps where false position from its ends takes six.
    first = np.clip(turn - 1, 0, LOOKED - 4)
    angle, slope = cubic_root(angles[first], angles[1] - angles[0], every[first + np.arange(4)[:, None], rows], low, high)
    before = np.full((2, len(part)), np.nan)
    for _ in range(STEPS):
        value = _left_over(support, loads, (yield at(part, angle)))
        low, high = np.where((value < 0) == rises, angle, low), np.where((value < 0) == rises, high, angle)
        turned = angle - before[0]
        if np.abs(value).max() < SETTLED or np.abs(turned).max() < SETTLED or (high - low).max() < SETTLED:
            return np.asarray(angle)
        with np.errstate(invalid="ignore", divide="ignore"):
            slope = np.where(np.abs(turned) > SETTLED, (value - before[1]) / turned, slope)
            wanted = angle - value / slope
        before = np.stack([angle, value])
        angle = np.where((wanted >= low) & (wanted <= high), wanted, (low + high) / 2)
    raise DomainError(
        "parameters", given, f"the body's balance must settle within {STEPS} steps", "Take less load, or another depth"
    )


def _left_over(support: BodySupport, loads: Loads | None, motion: Motion) -> Floats:
    """What must vanish where the body balances, (pose,): height of the hands over what they hold, m, or moment about the middle
    of what it stands on or hangs from, N·m."""
    if support.balance is not None and support.balance.held == "hands":
        return np.asarray(motion.arm.grip[:, 2] - support.hand_cm / 100)
    skeleton = motion.skeleton
    pull = np.zeros_like(skeleton.centres)
    pull[..., 2] = -GRAVITY * skeleton.masses
    middle = (motion.arm.grip if support.base == "hands" else motion.foot) * np.array([1.0, 0.0, 1.0])
    about = cross(skeleton.centres - middle[:, None], pull).sum(axis=1)[:, 1]
    for push in loads(motion) if loads else ():
        force, turning = push.total()
        about = about + (turning - cross(middle, force))[..., 1]
    return np.asarray(about)


def cubic_root(start: Floats, apart: float, values: Floats, low: Floats, high: Floats) -> tuple[Floats, Floats]:
    """Where cubics through four equally spaced values vanish within a bracket, and their slopes there, (pose,) each.

    Args:
        start: Where the first value is, radians, (pose,).
        apart: Distance of the values, radians.
        values: (4, pose).
        low: Ends of the bracket, radians, (pose,).
        high: The same.
    """
    d1, d2, d3 = values[1] - values[0], values[2] - 2 * values[1] + values[0], np.diff(values, 3, axis=0)[0]
    c1, c2, c3 = d1 - d2 / 2 + d3 / 3, d2 / 2 - d3 / 2, d3 / 6  # Newton's form, expanded
    least, most = (low - start) / apart, (high - start) / apart
    x = (least + most) / 2
    for _ in range(4):
        slope = c1 + x * (2 * c2 + 3 * c3 * x)
        value = values[0] + x * (c1 + x * (c2 + x * c3))
        x = np.clip(x - value / np.where(slope == 0, 1.0, slope), least, most)
    return start + x * apart, (c1 + x * (2 * c2 + 3 * c3 * x)) / apart
