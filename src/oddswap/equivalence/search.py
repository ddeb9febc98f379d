"""From a prescribed line and a place to ranked equivalent set-ups.

Candidates are never read from a list of pairs: every movement that may target the muscle stands in the place's reach table,
in every way its supports allow, with every load source. A line is compared with all rows of the table at once; the likeliest
are then placed finely and judged in full, under the hard limits.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from oddswap.equipment.protocols import Setting
from oddswap.equipment.station import NEEDED
from oddswap.equivalence.candidates import Elsewhere, Swap, carried_amount, item_of, judged, set_up_title, uses_of
from oddswap.equivalence.combined import blends
from oddswap.equivalence.conversion import PLAIN, Conversion
from oddswap.equivalence.evaluate import Aim, body_score, exact_ways, extra_of, listed, score
from oddswap.equivalence.index import Source, Table, table_of
from oddswap.equivalence.kit import is_from, kit_of, sort_of, transferred
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.local_search import Found, Placing
from oddswap.equivalence.prescription import Line, Place
from oddswap.equivalence.ranking import Ranking, rank
from oddswap.equivalence.variants import Job, Way, job_for, supported
from oddswap.errors import DomainError
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.types import Floats

SHOWN = 12
"""Candidates returned at most."""
ALIKE = 2
"""Candidates at most that share movement, kit item and support."""
LOOKED_AT, STARTS, FEW = 36, 16, 3
"""Ways and uses that are judged in full, and how many rows of the table for each of those placed finely and of the others."""
REFINED, OWN, CLIMBERS = 8, 2, 44
"""How many are placed finely, how many of the prescription's own movement in any case, and from how many rows in all."""
MENDED = 1
"""How many of a pick's first rows are mended where they break a limit."""
APART = 0.3
"""How far apart two starts lie, m: nearer ones lead to the same place."""


@dataclass(frozen=True)
class Wishes:
    """What coach and client want of a search, beyond the line.

    Args:
        strains: What a motion does to what must be spared, in words; empty where it spares all of it.
        banned: Movements that this client is not given.
        pinned: Movements that stand first where they can be done at all.
        without: Ids of kit items that are in use by others.
        known: Movements that the client knows; None where any will do.
        one_side: Whether only one-sided lifts are wanted.
        equivalence: By what loads are converted: ``hardest``, ``mean`` or ``long``.
        law: By which repetitions are restated: ``epley`` or ``brzycki``.
    """

    strains: Callable[[Motion], str] = lambda motion: ""
    banned: frozenset[str] = frozenset()
    pinned: frozenset[str] = frozenset()
    without: frozenset[str] = frozenset()
    known: frozenset[str] | None = None
    one_side: bool = False
    how: Conversion = PLAIN

    def refuses(self, way: Way) -> str:
        """Why a way is left out, in words; empty where it is not."""
        if way.kind.id in self.banned:
            return f"{way.kind.name}: not for this client"
        if self.known is not None and way.kind.id not in self.known:
            return f"{way.kind.name}: not known to this client"
        return self.strains(way.motion)


def find_swaps(
    aim: Aim,
    place: Place,
    by: Lens,
    progress: Callable[[float], None] = lambda part: None,
    wishes: Wishes = Wishes(),
    spared: dict[str, int] | None = None,
) -> list[Swap]:
    """The best equivalents for a line at a place, best first.

    Args:
        aim: What is prescribed, for this client.
        place: Where it shall be done.
        by: The lens to rank under.
        progress: Told the part done, 0 to 1.
        wishes: What to leave out or put first.
        spared: Filled with what was left out: why, and how many ways.

    Raises:
        DomainError: If the place cannot be, or nothing there can load the target.
    """
    place.verify()
    return Search(aim, place, by, wishes, progress, {} if spared is None else spared).run()


@dataclass(frozen=True)
class Pick:
    """A way with a use of an item that is worth a full look.

    Args:
        match: By the table; more where it is looked at in any case.
        way: The table's way.
        source: The use of the item.
        at: Placements to start from, the best first.
    """

    match: float
    way: Way
    source: Source
    at: list[int]


class Search:
    """One line's search at one place."""

    def __init__(
        self,
        aim: Aim,
        place: Place,
        by: Lens,
        wishes: Wishes,
        progress: Callable[[float], None],
        spared: dict[str, int],
    ) -> None:
        self.aim, self.by, self.wishes, self.progress, self.spared = aim, by, wishes, progress, spared
        self.place = replace(place, kit=[k for k in place.kit if k.id not in wishes.without])
        self.refused: dict[str, int] = {}
        self.placing = Placing(aim, by, self.refused)

    def run(self) -> list[Swap]:
        """The swaps, best first."""
        tables = [t for t in self.tables() if self.aim.line.target in t.rows]
        rankings = [self.ranked(table) for table in tables]
        picked = [p for ranking in rankings for p in self.picked(ranking)]
        picked = sorted(picked, key=lambda p: -p.match)[:LOOKED_AT]
        jobs = list(dict.fromkeys(p.way.job for p in picked))
        exact = dict(zip(jobs, exact_ways(self.aim.body, jobs), strict=True))
        judged_picks = [
            self.judged_rows(led_way, replace(p, at=p.at[: STARTS if i < REFINED else FEW]))
            for i, p in enumerate(picked)
            if (led_way := exact[p.way.job]) is not None
        ]
        starts = sorted((s for s in judged_picks if s), key=lambda s: -s[0].match)
        found = self.placed(starts, lambda part: self.progress(0.6 + 0.3 * part))
        found += self.own()
        found += self.blended(found, rankings[0]) if rankings else []
        swaps = self.shortlist(found)
        if not swaps:
            raise DomainError("kit", [k.id for k in self.place.kit], self.nothing(), "Add kit, or choose another place")
        self.progress(1.0)
        return swaps

    def tables(self) -> list[Table]:
        """The place's reach table, and one of the prescription's own way where the place's supports allow it."""
        jobs = supported(self.place)
        out = [table_of(self.aim.body, self.place, jobs, lambda part: self.progress(0.6 * part))]
        own = own_job(self.aim.line, self.place)
        if own is not None and own not in jobs:
            out.append(table_of(self.aim.body, self.place, [own]))
        return out

    def ranked(self, table: Table) -> Ranking:
        """The table's rows compared with the line, what is not wanted left out."""
        why = [self.wishes.refuses(w) for w in table.ways]
        target = self.aim.line.target
        for w, words in zip(table.ways, why, strict=True):
            if words and target in w.demands:
                self.spared[words] = self.spared.get(words, 0) + 1
        kept = np.array([not words and self.as_prescribed(w) for w, words in zip(table.ways, why, strict=True)], bool)
        if self.spared and not any(k and target in w.demands for k, w in zip(kept, table.ways, strict=True)):
            limit = f"some way here must spare the {'; '.join(self.spared)}"
            ids = [item.id for item in self.place.kit]
            raise DomainError("kit", ids, limit, "Prescribe another muscle, or another place")
        return rank(table, self.aim, self.by, kept, self.wishes.one_side)

    def as_prescribed(self, way: Way) -> bool:
        """Whether a way of the prescription's own movement keeps the choices that decide which muscles help."""
        line = self.aim.line.set_up
        if way.kind.id != line.movement:
            return True
        own = line.variant().values
        return all(way.variant.values[p.id] == own[p.id] for p in way.kind.parameters if p.kept)

    def picked(self, ranking: Ranking) -> list[Pick]:
        """Ways and uses of kit worth a full look: the best of every likeness, so that the choice stays varied."""
        likes: dict[object, int] = {}
        picks: dict[object, Pick] = {}
        rows, table = ranking.rows, ranking.table
        for i in ranking.best():
            way, source = table.ways[rows.way[i]], table.sources[rows.source[i]]
            kind = sort_of(source.item)
            like = (way.kind.id, kind, way.variant.stance, way.variant.pad)
            pick = picks.get((way.job, kind, source.use))
            if pick is not None:
                if pick.source is source and len(pick.at) < STARTS and apart(source, pick.at, int(rows.at[i])):
                    pick.at.append(int(rows.at[i]))
                continue
            # What is wanted first, and the prescription's own movement, are looked at in any case.
            first = way.kind.id in self.wishes.pinned or way.kind.id == self.aim.line.set_up.movement
            if likes.get(like, 0) < ALIKE + first:
                likes[like] = likes.get(like, 0) + 1
                picks[way.job, kind, source.use] = Pick(float(ranking.match[i]) + 100.0 * first, way, source, [int(rows.at[i])])
        return list(picks.values())

    def judged_rows(self, way: Way, pick: Pick) -> list[Found]:
        """A pick's rows of the table judged in full, the best first; none where it cannot be after all."""
        source = pick.source
        if source.batch is None:
            scored = body_score(way, self.aim, self.by)
            return [] if scored is None else [Found.of(scored, 0, way.set_up(), way, np.zeros(1))]
        least = float(source.amounts[0])
        settings = [source.batch.setting(i, least) for i in pick.at]
        found = self.placing.tried(way, settings, source.amounts)
        # The table knows limits by fewer poses: what breaks one by a little is mended by steps aside.
        there = [f.set_up.sources[0].loaded(least) for f in found]
        for blocked in [s for s in settings[:MENDED] if s not in there]:
            found += self.placing.aside(way, blocked, source.amounts)
        return sorted(found, key=lambda f: -f.match)

    def placed(self, starts: Sequence[Sequence[Found]], progress: Callable[[float], None] = lambda part: None) -> list[Found]:
        """Every pick's best, the likeliest picks and the prescription's own movement placed finely."""
        own = [s for s in starts if s[0].set_up.movement == self.aim.line.set_up.movement][:OWN]
        chosen = [s for i, s in enumerate(starts) if i < REFINED or s in own]
        single = [s[:1] for s in chosen]
        # The best start of each climbs in any case; of the others as many as there is time for.
        others = sorted((f for s in chosen for f in s[1:]), key=lambda f: -f.match)[: CLIMBERS - len(single)]
        groups = [[*one, *(f for f in s[1:] if f in others)] for one, s in zip(single, chosen, strict=True)]
        found = self.placing.climbed(groups, progress)
        found = [g for f in found if (g := self.balanced(f, f.existing, f.set_up.sources[1:]) if f.way.load else f) is not None]
        return found + [s[0] for s in starts if s not in chosen]

    def balanced(self, found: Found, amounts: Floats, extras: Sequence[Setting]) -> Found | None:
        """A lift on the feet with its load solved for as the body leans under it, and judged so."""
        first = found.set_up.sources[0]
        amount = carried_amount(self.aim, found.set_up, amounts)
        set_up = replace(found.set_up, sources=(first.loaded(amount), *extras))
        way = exact_ways(self.aim.body, [job_for(set_up)])[0]
        if way is None:
            return None
        extra = extra_of(way, self.aim.group, extras)
        batch = listed(way, [set_up.sources[0]])
        scored = score(batch, way, amounts, self.aim, self.by, self.refused, extra=extra, fixed=amount)
        return None if scored is None else Found.of(scored, 0, set_up, way, amounts)

    def own(self) -> list[Found]:
        """The prescription itself, where its kit is here too."""
        line = self.aim.line
        own = own_job(line, self.place)
        way = exact_ways(self.aim.body, [own])[0] if own is not None else None
        if way is None or not line.set_up.sources or self.wishes.refuses(way):
            return []
        first, *rest = line.set_up.sources
        if self.wishes.one_side and line.set_up.both_arms:
            return []
        item = next((k for k in self.place.kit if is_from(first, k)), None)
        if item is None or not all(any(is_from(s, k) for k in self.place.kit) for s in rest):
            return []
        return self.placing.tried(way, [first], item.amounts(), rest)

    def blended(self, found: Sequence[Found], ranking: Ranking) -> list[Found]:
        """Two sources at once, where that beats one."""
        single: dict[object, float] = {}
        for f in found:
            single[f.way.job] = max(single.get(f.way.job, 0.0), f.match)
        best = sorted({f.way.job: f for f in found}.values(), key=lambda f: -f.match)[:6]
        third = sorted((f.match for f in found), reverse=True)[:3][-1:]
        out = []
        for f in best:
            for first, second, amounts in blends(ranking, f.way.job, self.aim, self.by):
                tried = self.placing.tried(f.way, [first], amounts, [second])
                made = self.placed([tried]) if tried else []
                out += [m for m in made if m.match > max(single[f.way.job] + BETTER, *third)]
        return sorted(out, key=lambda f: -f.match)[:3]

    def shortlist(self, found: Sequence[Found]) -> list[Swap]:
        """Best first, at most a few of the same movement on the same kit and support, so that the choice stays varied.

        Between equals the one nearer the prescribed stance comes first.
        """
        out: list[Swap] = []
        seen: dict[object, int] = {}
        stance = self.aim.line.set_up.stance

        def order(f: Found) -> tuple[bool, float, bool, float]:
            return f.set_up.movement not in self.wishes.pinned, -round(f.match, 1), f.set_up.stance != stance, -f.match

        least = WORTHY * max((f.match for f in found), default=0.0)
        for one in sorted(found, key=order):
            kinds = "+".join(sorted(sort_of(kit_of(s)) if kit_of(s) else s.kind for s in one.set_up.sources))
            like = one.set_up.movement, kinds, one.set_up.stance, one.set_up.pad
            same = set_up_title(one.set_up, one.way.variant), kinds, uses_of(one.set_up)  # a client could not tell them apart
            if one.match <= least or seen.get(like, 0) >= ALIKE or seen.get(same, 0):
                continue
            alike = self.elsewhere(one)
            swap = next((s for f in alike if (s := self.judged(f)) is not None), None)
            if swap is not None:
                seen[like], seen[same] = seen.get(like, 0) + 1, 1
                others = [Elsewhere.of(f) for f in alike if item_of(f.set_up) != item_of(swap.set_up)]
                out.append(replace(swap, elsewhere=others[:NAMED]))
            if len(out) == SHOWN:
                break
        return sorted(out, key=lambda s: (not s.pinned, -round(s.match, 1)))

    def elsewhere(self, found: Found) -> list[Found]:
        """A set-up and the same on other items of the place, best first: the table knows only what differs much."""
        out = [found]
        if len(found.set_up.sources) == 1 and kit_of(found.set_up.sources[0]) is not None:
            first = found.set_up.sources[0]
            for item in self.place.kit:
                if not hasattr(item, "placements") or is_from(first, item) or item.kind != kit_of(first).kind:
                    continue
                moved = transferred(first, item)
                tried = [] if moved is None else self.placing.tried(found.way, [moved], item.amounts())
                out += [f for f in (self.placed([tried]) if tried else []) if f.match > ALIKE_PART * found.match]
        return sorted(out, key=lambda f: -f.match)

    def judged(self, found: Found) -> Swap | None:
        """The full curves and load conversion of a search result, or None when whole centimetres pushed it over a limit."""
        try:
            swap = judged(found, self.aim, self.by, self.wishes.how)
        except DomainError:
            return None
        return replace(swap, pinned=found.set_up.movement in self.wishes.pinned)

    def nothing(self) -> str:
        """Why a place offers nothing."""
        most = max(self.refused, key=lambda k: self.refused[k], default="")
        return f"something here must load the {self.aim.group.name}" + (f"; most often: {most}" if most else "")


def apart(source: Source, chosen: Sequence[int], at: int) -> bool:
    """Whether a placement lies far enough from those chosen to lead elsewhere."""
    ends = None if source.batch is None else source.batch.law.far_end
    return ends is None or bool(np.linalg.norm(ends[list(chosen)] - ends[at], axis=-1).min() >= APART)


WORTHY = 0.2
"""Part of the best match under which nothing is offered any more."""
NAMED = 4
"""Other items named at most for when a set-up's own is taken."""
ALIKE_PART = 0.6
"""Part of a set-up's match that the same on another item must reach to be named for when its own is taken."""
BETTER = 2.0
"""Points of match by which two sources at once must beat one, as they cost more setting up."""


def own_job(line: Line, place: Place) -> Job | None:
    """What the prescription's own way is led from, where the place's supports allow it."""
    s = line.set_up
    stations = {k.use for k in place.kit if k.kind == "station"}
    if s.movement in NEEDED and not stations & set(NEEDED[s.movement]):
        return None
    benches = [k for k in place.kit if k.kind == "bench"]
    pads = [k for k in place.kit if k.kind == "arm_pad"]
    machines = {k.movement for k in place.kit if k.kind == "machine"}
    on_machine = s.movement in machines
    if s.stance == "bench" and not on_machine and s.recline_deg not in {n for b in benches for n in b.notches_deg}:
        return None
    if s.stance == "chest_pad" and not benches and not on_machine:
        return None
    values = s.variant().values
    if s.pad and values.get("arm_angle_deg") not in {k.angle_deg for k in pads}:
        return None
    return job_for(s, benches[0].seat_cm if benches else s.seat_cm)
