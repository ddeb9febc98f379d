"""How like a set-up is to the prescription: parts between 0 and 1, weighed by a lens."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.profile import SetUp
from oddswap.mechanics.types import Floats


@cache
def rules(name: str) -> dict[str, Any]:
    """A data file of this package, read once."""
    return tomllib.loads((files("oddswap.swaps") / "data" / f"{name}.toml").read_text())


@dataclass(frozen=True)
class Lens:
    """What a coach values: weights of the parts, and the argument either way."""

    id: str
    name: str
    argument_for: str
    argument_against: str
    weights: dict[str, float]


@cache
def lenses() -> dict[str, Lens]:
    """All lenses by id."""
    data = rules("lenses")
    return {
        key: Lens(key, entry["name"], entry["for"], entry["against"], entry["weights"])
        for key, entry in data.items()
        if "weights" in entry
    }


def lens(name: str) -> Lens:
    """The lens with this id.

    Raises:
        DomainError: If there is none.
    """
    if name not in lenses():
        raise DomainError("lens", name, f"the lenses are {', '.join(lenses())}", "Pick one of these")
    return lenses()[name]


def own_peak(shape: Floats) -> Floats:
    """Shapes (..., bin) scaled to their own peak; an empty shape stays zero."""
    peak = shape.max(axis=-1, keepdims=True)
    return np.asarray(shape / np.where(peak > 0, peak, 1.0))


def overlap(one: Floats, other: Floats) -> Floats:
    """Area in common over area in all of two load shapes, each to its own peak, (..., bin) to (...)."""
    a, b = own_peak(one), own_peak(other)
    return np.asarray(np.minimum(a, b).sum(axis=-1) / np.maximum(np.maximum(a, b).sum(axis=-1), 1e-12))


def covered(prescribed: Floats, swap: Floats) -> Floats:
    """Part of the prescription's loaded range that the swap loads too, (..., bin) to (...); loaded is not empty."""
    least = rules("lenses")["parts"]["empty"]
    wanted = own_peak(prescribed) >= least
    return np.asarray((wanted & (own_peak(swap) >= least)).sum(axis=-1) / max(int(wanted.sum()), 1))


def load_part(effort_ratio: Floats) -> Floats:
    """1 where the peak effort equals the prescription's, falling to 0 when it is off by a doubling, (...)."""
    octaves = np.abs(np.log2(np.maximum(effort_ratio, 1e-9)))
    return np.asarray(np.maximum(0.0, 1.0 - octaves / rules("lenses")["parts"]["load_octaves"]))


def steadiness(set_up: SetUp) -> float:
    """How steady the body is held, 0 to 1."""
    table = rules("lenses")["steadiness"]
    value = table["pad"] if set_up.pad else table[set_up.stance]
    if not set_up.both_arms:
        value += table["one_arm"]
    if any(s.kind == "band" for s in set_up.sources):
        value += table["band"]
    return float(np.clip(value, 0.0, 1.0))


def weigh(parts: dict[str, Floats], target: Floats, by: Lens) -> Floats:
    """The match, 0 to 100: 100 x target x reach x sum of weight x part, (...).

    Reach is 1 while the load can be brought near the prescribed effort and falls to a tenth with the load part's lower
    half: a set-up that cannot be loaded is no equivalent, however like its shape.
    """
    reach = np.clip(2 * parts["load"], rules("lenses")["parts"]["least_reach"], 1.0)
    return np.asarray(100 * target * reach * sum(weight * parts[name] for name, weight in by.weights.items()))
