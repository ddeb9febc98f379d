"""What of a ranking is worth a full look."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.index_entry import Source
from oddswap.equivalence.ranking import UNSEEN, Ranking
from oddswap.equivalence.variants import VariantMechanics

APART = 0.3
"""How far apart two starts lie, m: nearer ones end at the same place."""


@dataclass(frozen=True)
class Pick:
    """A variant with a use of an item that is worth a full look.

    Args:
        match: By the table.
        mechanics: The table's variant.
        source: The use of the item.
        placements: To start from, the best first.
        ranking: Where it stands.
        row: In which row the first placement does.
        first: Whether it is looked at in any case.
    """

    match: float
    mechanics: VariantMechanics
    source: Source
    placements: list[int]
    ranking: Ranking
    row: int
    first: bool

    def elsewhere(self, most: int) -> Pick | None:
        """The same on the likeliest other item of its sort, from so many placements at ``most``; None where there is none."""
        rows, match, sources = self.ranking.rows, self.ranking.match, self.ranking.table.sources
        own = self.source.sort, self.source.use
        alike = [n for n, s in enumerate(sources) if (s.sort, s.use) == own and s is not self.source and s.batch is not None]
        variant, source = (column[: len(match)] for column in (rows.variant, rows.source))
        same = np.flatnonzero((variant == variant[self.row]) & np.isin(source, alike) & (match > -UNSEEN))
        if not len(same):
            return None
        best = int(same[match[same].argmax()])
        there = same[source[same] == source[best]]
        placements = rows.placement[there[np.argsort(-match[there], kind="stable")][:most]].tolist()
        return replace(self, match=float(match[best]), source=sources[source[best]], placements=placements, row=best)

    @property
    def others(self) -> list[int]:
        """Placements of the same use on the same variant that the table knows besides, the best first."""
        rows, match = self.ranking.rows, self.ranking.match
        variant, source = (column[: len(match)] for column in (rows.variant, rows.source))
        same = np.flatnonzero((variant == variant[self.row]) & (source == source[self.row]) & (match > -UNSEEN))
        ordered = same[np.argsort(-match[same], kind="stable")]
        return [p for p in rows.placement[ordered].tolist() if p not in self.placements]

    @property
    def example(self) -> Setting | None:
        """The first placement; None where the body is the load."""
        source = self.source
        return None if source.batch is None else source.batch.setting(self.placements[0], float(source.amounts[0]))


def lies_apart(source: Source, chosen: Sequence[int], placement: int) -> bool:
    """Whether a placement lies far enough from those chosen to end elsewhere."""
    ends = None if source.batch is None else source.batch.law.far_end
    return ends is None or bool(np.linalg.norm(ends[list(chosen)] - ends[placement], axis=-1).min() >= APART)
