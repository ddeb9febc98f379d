"""What coaches value: the parts of a match and the lenses that weigh them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache

from oddswap.equivalence.rules import rules
from oddswap.errors import DomainError


@dataclass(frozen=True)
class Lens:
    """What a coach values: weights of the parts, how much the kind of lift counts (0 to 1), and the argument either way."""

    id: str
    name: str
    argument_for: str
    argument_against: str
    weights: dict[str, float]
    kind_counts: float = 0.0

    def weighed(self, weights: Mapping[str, float]) -> Lens:
        """With a coach's own weights, scaled to sum to one.

        Raises:
            DomainError: Where a part does not exist, a weight is negative, or all are zero.
        """
        for name, weight in weights.items():
            if name not in PARTS:
                raise DomainError(f"weights.{name}", weight, f"the parts are {', '.join(PARTS)}", "Use one of these names")
            if not 0 <= weight <= 1:
                raise DomainError(f"weights.{name}", weight, "a weight lies between 0 and 1", "Pick a value in this range")
        total = sum(weights.values())
        if total <= 0:
            raise DomainError("weights", total, "at least one part counts", "Give a part some weight")
        return replace(self, weights={name: weight / total for name, weight in weights.items() if weight > 0})


@cache
def lenses() -> dict[str, Lens]:
    """All lenses by id."""
    data = rules("lenses")
    return {
        key: Lens(key, entry["name"], entry["for"], entry["against"], entry["weights"], entry["kind_counts"])
        for key, entry in data.items()
        if "weights" in entry
    }


def lens_by_id(name: str) -> Lens:
    """The lens with this id.

    Raises:
        DomainError: If there is none.
    """
    if name not in lenses():
        raise DomainError("lens", name, f"the lenses are {', '.join(lenses())}", "Pick one of these")
    return lenses()[name]


PARTS = {
    "kind": "same kind of lift",
    "profile": "likeness of the resistance profile",
    "range": "range covered",
    "load": "load in reach",
    "stability": "as steady as prescribed",
    "even": "even pull, little empty",
    "lengthened": "load in the stretch",
    "support": "steady in itself",
    "reserve": "room to go heavier",
    "steps": "fine steps",
    "setup": "quick to set up",
}
"""Parts of a match that a lens may weigh, and what they are called."""
FACTORS = {"target": "the target carries as much of it"}
"""What multiplies the weighed parts, and what it is called."""
