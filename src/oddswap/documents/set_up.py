"""A set-up as a document, alone or with the client who does it, and a move of it by hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, Literal, cast

import numpy as np
from pydantic import Field

from oddswap.documents.base import Document, Versioned, example
from oddswap.documents.client import CLIENT, ClientDoc
from oddswap.documents.kit import AnySetting
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.mechanics.stance import StanceKind

DUMBBELL_CURL: dict[str, Any] = {
    "movement": "curl",
    "parameters": {"arm_angle_deg": -40, "forearm_deg": -80},
    "stance": "bench",
    "recline_deg": 50,
    "sources": [{"kind": "dumbbell", "mass_kg": 12}],
}


class SetUpDoc(Document):
    """A movement done with given kit."""

    model_config = example(DUMBBELL_CURL)

    movement: str
    """Movement id."""
    parameters: dict[str, float] = {}
    """Parameter values; what is missing takes the movement's default."""
    stance: StanceKind = "standing"
    """What carries the body."""
    recline_deg: float = Field(default=90.0, ge=0, le=90)
    """Spine to floor, degrees: 90 upright, 0 lying; on a bench the notch."""
    seat_cm: float = Field(default=45.0, ge=20, le=80)
    """Height of the bench's seat, cm."""
    pad: bool = False
    """Whether an arm pad carries the upper arm."""
    lift_s: float | None = Field(default=None, ge=0.3, le=10)
    """Seconds of the lifting phase, where moving weights shall count; none for slow lifting."""
    sources: list[AnySetting] = Field(max_length=4)
    """Load sources; they add up. None where the body is its own load."""

    def set_up(self) -> SetUp:
        """The set-up in the core's terms."""
        return SetUp(
            self.movement, self.sources, self.parameters, self.stance, self.recline_deg, self.seat_cm, self.pad, self.lift_s
        )

    @staticmethod
    def of(set_up: SetUp) -> SetUpDoc:
        """The document of a set-up."""
        return SetUpDoc.model_construct(
            movement=set_up.movement,
            parameters={k: float(v) for k, v in set_up.parameters.items()},
            stance=cast(Any, set_up.stance),
            recline_deg=set_up.recline_deg,
            seat_cm=set_up.seat_cm,
            pad=set_up.pad,
            lift_s=set_up.lift_s,
            sources=list(set_up.sources),
        )


class ClientSetUpDoc(Versioned):
    """A set-up and who does it: all that a profile needs."""

    model_config = example({"client": CLIENT, "set_up": DUMBBELL_CURL})

    format: Literal["odd-swap/set-up/2"] = "odd-swap/set-up/2"
    client: ClientDoc
    set_up: SetUpDoc


class MoveDoc(Document):
    """A choice of a set-up made otherwise by hand: a slider's value, the point a pulley was dragged to, or the load."""

    model_config = example({"source": 0, "id": "hole", "value": 7})

    source: int = Field(default=0, ge=0, le=3)
    """Which of the set-up's sources."""
    id: str = "point"
    """The choice, as named in the detail; ``amount`` for the load, ``point`` for a dragged end."""
    value: float = 0.0
    """Its new value."""
    point_m: tuple[float, float, float] | None = Field(default=None, strict=False)
    """Where the end was dragged to, m: ahead, to the left, up."""

    def applied(self, set_up: SetUp, kit: Sequence[Any]) -> SetUp:
        """The set-up after the move.

        Raises:
            DomainError: For a source or choice that it does not have.
        """
        if self.source >= len(set_up.sources):
            raise DomainError("source", self.source, f"the set-up has {len(set_up.sources)} sources", "Pick one of these")
        sources = list(set_up.sources)
        one = sources[self.source]
        known = ["amount", "point", *(f.id for f in one.adjustable_parameters(kit))]
        if self.id not in known:
            raise DomainError("id", self.id, f"the choices are {', '.join(known)}", "Pick one of these")
        if self.id == "amount":
            sources[self.source] = one.with_amount(self.value)
        elif self.point_m is not None:
            sources[self.source] = one.with_far_end_near(np.array(self.point_m), kit)
        else:
            sources[self.source] = one.with_parameter(self.id, self.value)
        return replace(set_up, sources=tuple(sources))
