"""What coach and client want of a search, beyond the line."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from oddswap.equivalence.conversion import PLAIN, Conversion
from oddswap.equivalence.rules import rules
from oddswap.equivalence.variants import VariantMechanics
from oddswap.mechanics.motion import Motion


@dataclass(frozen=True)
class Complaint:
    """What a client told of a lift.

    Args:
        hurt: Whether it hurt; else it felt wrong.
        words: What and when, for people.
    """

    hurt: bool
    words: str

    @property
    def points(self) -> float:
        """Points of match that a lift must be better by than one without a complaint."""
        rule = rules("lenses")["plain"]
        return float(rule["hurt"] if self.hurt else rule["felt_bad"])


@dataclass(frozen=True)
class SearchFilters:
    """What to leave out of a search, what to put first, and how loads are converted.

    Args:
        strains: What a motion does to a restricted joint, in words; empty where it does nothing to it.
        banned: Movements that this client is not given.
        pinned: Movements that stand first where they can be done at all.
        without: Ids of kit items that are in use by others.
        known: Movements that the client knows; None where any will do.
        one_side: Whether only one-sided lifts are wanted.
        complaints: By ``lift_of``, that a lift hurt this client or felt wrong; it is ranked down, not left out.
        conversion: How loads are converted.
        unlike: Whether to offer what is nearest, however unlike.
    """

    strains: Callable[[Motion], str] = lambda motion: ""
    banned: frozenset[str] = frozenset()
    pinned: frozenset[str] = frozenset()
    without: frozenset[str] = frozenset()
    known: frozenset[str] | None = None
    one_side: bool = False
    complaints: Mapping[str, Complaint] = field(default_factory=dict)
    conversion: Conversion = PLAIN
    unlike: bool = False

    def rejects(self, mechanics: VariantMechanics) -> str:
        """Why a variant is left out, in words; empty where it is not."""
        kind = mechanics.kind
        if kind.id in self.banned:
            return f"{kind.name}: not for this client"
        if self.known is not None and kind.id not in self.known:
            return f"{kind.name}: not known to this client"
        return self.strains(mechanics.motion)


NO_FILTERS = SearchFilters()
