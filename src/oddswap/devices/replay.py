"""Replay of a recording, and numbers typed by hand."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oddswap.devices.base import Reading, Unit


@dataclass
class Recorded:
    """Plays back readings in their order; each call goes on where the last one stopped."""

    rows: Sequence[Reading]
    unit: Unit = "N"
    at: int = 0

    def readings(self, seconds: float) -> Iterator[Reading]:
        """See ``Instrument``."""
        if self.at >= len(self.rows):
            return
        end = self.rows[self.at].time + seconds
        while self.at < len(self.rows) and self.rows[self.at].time < end:
            self.at += 1
            yield self.rows[self.at - 1]


@dataclass
class Typed:
    """One value read off a dial and typed: shown as steady readings."""

    value: float
    unit: Unit = "N"

    def readings(self, seconds: float) -> Iterator[Reading]:
        """See ``Instrument``."""
        for i in range(max(5, round(seconds * 4))):
            yield Reading(i * 0.25, self.value)
