"""From a prescribed line and a place to ranked equivalent set-ups.

Candidates are never read from a list of pairs: every movement that may target the muscle stands in the place's reach table,
in every variant its supports allow, with every load source. A line is compared with all rows of the table at once; the
likeliest are then placed finely and evaluated in full, under the hard limits.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import ClassVar

import numpy as np

from oddswap.equivalence.candidates import Answerer, Candidate, Swap, amounts_of
from oddswap.equivalence.carried import carried_amount
from oddswap.equivalence.combined import pair_sources
from oddswap.equivalence.evaluate import Question, evaluate
from oddswap.equivalence.filters import NO_FILTERS, SearchFilters
from oddswap.equivalence.index import ReachTable, build_reach_table
from oddswap.equivalence.lenses import Lens
from oddswap.equivalence.local_search import FEW_STEPS, MOST_STEPS, LocalSearch
from oddswap.equivalence.own_variant import inherited_values, line_variant_keys, own_set_up
from oddswap.equivalence.picks import Pick, lies_apart
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.ranking import VARIED, Ranking, rank
from oddswap.equivalence.set_up import SetUp, follows_load
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.shortlist import ALIKE, TRIED, Shortlist
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import VariantMechanics, exact_variants, mechanics_of, placed_mechanics
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.types import Floats

LOOKED_AT = 28
"""Variants and uses of kit that are evaluated in full."""
SAME = 2
"""Variants of the same words that are, of one use of kit."""
FALLS_SHORT, OTHERS = 10.0, 30
"""Points by which the likeliest placements of one fall short of what the table makes of them, from which on so many others are
looked at."""
STARTS = 8
"""Rows of the table from which each of the likeliest of these starts."""
FEW = 3
"""The same for each of the others."""
REFINED = 6
"""How many are placed finely."""
OWN = 2
"""How many of the prescription's own movement are placed finely in any case."""
MOVED = 2
"""Other items that the prescription itself is placed finely on."""
NEAR = 5
"""Amounts of what bears part of the body that are tried, the nearest to the prescribed one."""
CLIMBERS = 24
"""Rows of the table from which climbs start in all."""
MENDED = 1
"""How many of a pick's first rows are mended where they break a limit."""
BETTER = 5.0
"""Points of match by which two sources at once must beat one, as they cost more setting up."""
PAIRED_VARIANTS = 6
"""Variants, the best first, that are tried with two sources at once."""
PAIRS_OFFERED = 3
"""Set-ups with two sources at once that are offered at most."""


def find_swaps(
    prescription: PrescriptionProfile,
    place: Place,
    lens: Lens,
    progress: Callable[[float], None] = lambda part: None,
    filters: SearchFilters = NO_FILTERS,
    excluded: dict[str, int] | None = None,
) -> list[Swap]:
    """The best equivalents for a line at a place, best first.

    Args:
        prescription: What is prescribed, for this client.
        place: Where it shall be done.
        lens: The lens to rank under.
        progress: Told the part done, 0 to 1.
        filters: What to leave out or put first.
        excluded: Filled with what was left out: why, and how many variants.

    Raises:
        DomainError: If the place cannot be, or nothing there can load the target.
    """
    place.verify()
    return Search(prescription, place, lens, filters, progress, {} if excluded is None else excluded).run()


@dataclass
class Search:
    """One line's search at one place; see ``find_swaps``."""

    looked_at: ClassVar[int] = LOOKED_AT
    varied: ClassVar[int] = VARIED
    digs: ClassVar[bool] = True
    """Whether more of the table is looked at where its likeliest rows fall short."""
    prescription: PrescriptionProfile
    place: Place
    lens: Lens
    filters: SearchFilters = NO_FILTERS
    progress: Callable[[float], None] = lambda part: None
    excluded: dict[str, int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.place = replace(self.place, kit=[k for k in self.place.kit if k.id not in self.filters.without])
        self.local_search = LocalSearch(self.prescription, self.lens, self.place.farthest)
        conversion, strains = self.filters.conversion, self.filters.strains
        answerer = Answerer(self.prescription, self.place, self.lens, conversion, strains)
        self.shortlist = Shortlist(answerer, self.local_search, self.filters, lambda made, few: self.refine(made, steps=few))

    def run(self) -> list[Swap]:
        """The swaps, best first.

        Raises:
            DomainError: If nothing can load the target.
        """
        tables = [t for t in self.tables() if self.prescription.line.target in t.rows]
        rankings = self.rank_tables(tables)
        every = (p for ranking in rankings for p in self.pick(ranking))
        picks = sorted(every, key=lambda p: (not p.first, -p.match))[: self.looked_at]
        swaps = self.answer(picks, rankings)
        if not swaps:
            ids = [k.id for k in self.place.kit]
            raise DomainError("kit", ids, *self.shortlist.explain_nothing(self.excluded))
        self.progress(1.0)
        return swaps

    def answer(self, picks: Sequence[Pick], rankings: Sequence[Ranking]) -> list[Swap]:
        """What the picks come to, best first."""
        return self.shortlist.choose(self.find(self.look_at(picks), rankings))

    def look_at(self, picks: Sequence[Pick]) -> list[list[Candidate]]:
        """The rows of each pick evaluated in full, the best pick first, without those that cannot be."""
        placed = [p.mechanics.key.led_by(p.example) for p in picks]
        keys = list(dict.fromkeys(placed))
        exact = dict(zip(keys, exact_variants(self.prescription.body, keys), strict=True))
        looked = [
            self.evaluate_pick(mechanics, replace(p, placements=p.placements[: self.starts(i)]))
            for i, (p, key) in enumerate(zip(picks, placed, strict=True))
            if (mechanics := exact[key]) is not None
        ]
        return sorted((s for s in looked if s), key=lambda s: -s[0].match)

    def starts(self, place: int) -> int:
        """How many rows of the table the pick at a place of their order starts from."""
        return STARTS if place < REFINED else FEW

    def find(self, starts: Sequence[Sequence[Candidate]], rankings: Sequence[Ranking]) -> list[Candidate]:
        """All that is worth an answer: what the starts of each pick lead to, the prescription as it is and on other items, and
        two sources at once."""
        found = self.refine(starts, lambda part: self.progress(0.6 + 0.3 * part))
        found += self.find_prescribed() + self.find_on_other_items()
        return found + (self.pair(found, rankings[0]) if rankings else [])

    def tables(self) -> list[ReachTable]:
        """The place's reach table, and one of the prescription's own variant where the place's supports allow it."""
        body, bare = self.prescription.body, self.place.without_machines()
        out = [build_reach_table(body, self.place, progress=lambda part: self.progress(0.6 * part))]
        there, free = set(list_variant_keys(self.place)), set(list_variant_keys(bare))
        own = line_variant_keys(self.prescription.line, self.place)
        # What the table has on a machine alone may be done off it too, where the line does it so.
        for keys, at in (([k for k in own if k not in there], self.place), ([k for k in own if k in there - free], bare)):
            if keys:
                out.append(build_reach_table(body, at, keys))
        return out

    def rank_tables(self, tables: Sequence[ReachTable]) -> list[Ranking]:
        """The tables of which something is left; one of the prescription's own ways alone may have none.

        Raises:
            DomainError: Where none has, though something loads the target.
        """
        out, refused = list[Ranking](), list[DomainError]()
        for table in tables:
            try:
                out.append(self.rank_rows(table))
            except DomainError as error:
                refused.append(error)
        if refused and not out:
            raise refused[0]
        return out

    def rank_rows(self, table: ReachTable) -> Ranking:
        """The table's rows compared with the line, what is not wanted left out.

        Raises:
            DomainError: Where all that loads the target is left out.
        """
        why = [self.filters.rejects(v) for v in table.variants]
        target = self.prescription.line.target
        for v, words in zip(table.variants, why, strict=True):
            if words and target in v.demands:
                self.excluded[words] = self.excluded.get(words, 0) + 1
        kept = [not words and self.as_prescribed(v) for v, words in zip(table.variants, why, strict=True)]
        if self.excluded and not any(k and target in v.demands for k, v in zip(kept, table.variants, strict=True)):
            limit = f"some lift here must spare the {'; '.join(self.excluded)}"
            ids = [item.id for item in self.place.kit]
            raise DomainError("kit", ids, limit, "Prescribe another muscle, or another place")
        return rank(table, self.prescription, self.lens, np.array(kept, bool), self.filters.one_side)

    def as_prescribed(self, mechanics: VariantMechanics) -> bool:
        """Whether a variant of the prescription's own movement goes as deep, as far and as wide as the line."""
        line = self.prescription.line.set_up
        if mechanics.kind.id != line.movement:
            return True
        own = line.variant().values
        return all(mechanics.variant.values[name] == own[name] for name in self.inherited if name not in self.grips)

    @cached_property
    def grips(self) -> set[str]:
        """Choices that the line keeps at a price, but may give up."""
        return {p.id for p in movement(self.prescription.line.set_up.movement).parameters if p.kept}

    @cached_property
    def inherited(self) -> dict[str, float]:
        """How deep, how far and how wide the line goes, which all ways to do its movement keep."""
        return inherited_values(self.prescription.line.set_up)

    def pick(self, ranking: Ranking) -> list[Pick]:
        """Variants and uses of kit worth a full look: the best of every likeness, so that the choice stays varied."""
        likes: dict[object, dict[str, int]] = {}
        picks: dict[object, Pick] = {}
        rows, table = ranking.rows, ranking.table
        for i in ranking.best(self.varied):
            mechanics, source = table.variants[rows.variant[i]], table.sources[rows.source[i]]
            # What both hands hold on one cable is tried beside a handle in each.
            held = source.use if source.shared_grip else ""
            like = (mechanics.kind.id, source.sort, mechanics.variant.stance, mechanics.variant.pad, held)
            pick = picks.get((mechanics.key, source.sort, source.use))
            placement = int(rows.placement[i])
            if pick is not None:
                if pick.source is source and len(pick.placements) < STARTS and lies_apart(source, pick.placements, placement):
                    pick.placements.append(placement)
                continue
            # What is wanted first, and the prescription's own movement, are looked at in any case.
            first = mechanics.kind.id in self.filters.pinned or mechanics.kind.id == self.prescription.line.set_up.movement
            # What has the same words is the same to whoever does it, and takes no other's place.
            named = likes.setdefault(like, {})
            count = named.get(mechanics.title, 0)
            if count < SAME and (count or len(named) < ALIKE + first):
                named[mechanics.title] = count + 1
                pick = Pick(float(ranking.match[i]), mechanics, source, [placement], ranking, int(i), first)
                picks[mechanics.key, source.sort, source.use] = pick
        return list(picks.values())

    def evaluate_pick(self, mechanics: VariantMechanics, pick: Pick) -> list[Candidate]:
        """A pick's rows of the table evaluated in full, or another item's of its sort where they fall far short of what the
        table makes of them; the best first, none where it cannot be after all."""
        found = self.evaluate_rows(mechanics, pick)
        short = max((c.match for c in found), default=0.0) < pick.match - FALLS_SHORT
        other = pick.elsewhere(FEW) if short and self.digs and pick.source.batch is not None else None
        there = [] if other is None else self.evaluate_rows(mechanics, other)
        return max(found, there, key=lambda some: max((c.match for c in some), default=0.0))

    def evaluate_rows(self, mechanics: VariantMechanics, pick: Pick) -> list[Candidate]:
        """A pick's rows of the table evaluated in full, the best first; none where it cannot be after all."""
        source = pick.source
        if source.batch is None:
            return self.local_search.evaluate_body(mechanics)
        least = float(source.amounts[0])
        settings = [source.batch.setting(i, least) for i in pick.placements]
        found = self.local_search.evaluate_settings(mechanics, settings, source.amounts)
        # The table knows limits by fewer poses, and nothing of what else a placement asks: where its likeliest ones fall short,
        # others may not.
        if max((c.match for c in found), default=0.0) < pick.match - FALLS_SHORT and self.digs:
            found += self.local_search.evaluate_settings(
                mechanics, [source.batch.setting(i, least) for i in pick.others[:OTHERS]], source.amounts
            )
        # What breaks a limit by a little is mended by steps aside.
        there = [c.set_up.sources[0].with_amount(least) for c in found]
        for blocked in [s for s in settings[:MENDED] if s not in there]:
            found += self.local_search.step_aside(mechanics, blocked, source.amounts)
        return sorted(found, key=lambda c: -c.match)[:STARTS]

    def refine(
        self,
        starts: Sequence[Sequence[Candidate]],
        progress: Callable[[float], None] = lambda part: None,
        steps: int = MOST_STEPS,
    ) -> list[Candidate]:
        """Every pick's best, the likeliest picks and the prescription's own movement placed finely."""
        own = [s for s in starts if s[0].set_up.movement == self.prescription.line.set_up.movement][:OWN]
        chosen = [s for i, s in enumerate(starts) if i < REFINED or s in own]
        single = [s[:1] for s in chosen]
        # The best start of each climbs in any case; of the others as many as there is time for.
        others = sorted((c for s in chosen for c in s[1:]), key=lambda c: -c.match)[: CLIMBERS - len(single)]
        groups = [[*one, *(c for c in s[1:] if c in others)] for one, s in zip(single, chosen, strict=True)]
        found = [s for c in self.local_search.climb(groups, progress, steps) if (s := self.settle(c)) is not None]
        # Where a start is answered only if what it led to cannot be after all.
        return found + [c for s in starts for c in s[:TRIED]]

    def settle(self, candidate: Candidate) -> Candidate | None:
        """A lift on the feet with its load solved for as the body leans under it; others as they are."""
        set_up = candidate.set_up
        return self.carry(set_up, candidate.existing) if set_up.sources and follows_load(set_up) else candidate

    def carry(self, set_up: SetUp, amounts: Floats) -> Candidate | None:
        """A lift on the feet with its load, of amounts (amount,) of its first source, solved for as the body leans under it;
        None where there is no balance."""
        return self.at_amount(set_up.with_amount(carried_amount(self.prescription, set_up, amounts)), amounts)

    def at_amount(self, set_up: SetUp, amounts: Floats) -> Candidate | None:
        """A set-up as it is, of amounts (amount,) of its first source; None where it cannot be."""
        try:
            mechanics = mechanics_of(self.prescription.body, set_up)
        except DomainError:
            return None
        rest, far = set_up.sources[1:], self.place.farthest
        fixed = set_up.sources[0].amount
        question = Question(mechanics, self.prescription, self.lens, amounts, rest, fixed, farthest=far)
        batch = batch_settings(mechanics, [set_up.sources[0]])
        found = evaluate(question, batch, self.local_search.rejected)
        return None if found is None else Candidate.of(found, 0, set_up, mechanics, amounts)

    def find_prescribed(self) -> list[Candidate]:
        """The prescription itself, where its kit is here too."""
        own = own_set_up(self.prescription.line, self.place)
        if own is None or not own.sources:
            return []
        mechanics = mechanics_of(self.prescription.body, own)
        if self.filters.rejects(mechanics) or (self.filters.one_side and own.both_sides):
            return []
        first, *rest = own.sources
        if not any(k.searched and first.is_from(k) for k in self.place.kit):
            return []
        amounts = amounts_of(first, self.place)  # of every rack that has some
        if not all(any(s.is_from(k) for k in self.place.kit) for s in rest):
            return []
        if not all(s.can_be_held(self.place.kit, own.support.contact) for s in own.sources):
            return []
        if follows_load(own):
            carried = self.carry(own, amounts)
            return [] if carried is None else [carried]
        return self.local_search.evaluate_settings(mechanics, [first], amounts, rest)

    def find_on_other_items(self) -> list[Candidate]:
        """A prescription on the place's other items where the table lacks it: with a bar, rope or pivot that leads hands, with
        what bears part of the body, or with a load that the body leans under."""
        set_up, body = own_set_up(self.prescription.line, self.place), self.prescription.body
        if set_up is None or len(set_up.sources) != 1 or self.filters.one_side:
            return []
        leans = follows_load(set_up)
        (first,) = set_up.sources
        own = mechanics_of(body, set_up)
        led = first.grip != "handle" or first.on_an_arc
        if first.item is None or not (leans or first.steadies or led) or self.filters.rejects(own):
            return []
        out, starts = list[Candidate | None](), list[list[Candidate]]()
        for item in self.place.kit:
            moved = None if item.kind != first.item.kind or first.is_from(item) else first.with_item(item)
            if moved is None or not moved.can_be_held(self.place.kit, set_up.support.contact):
                continue
            amounts = item.amounts()
            if moved.steadies:
                near = amounts[np.argsort(np.abs(amounts - moved.amount))[:NEAR]]
                out += [self.at_amount(set_up.with_source(0, moved.with_amount(float(a))), amounts) for a in near]
            elif item.searched and item.serves(own.bearing):
                there = set_up.with_source(0, moved.with_amount(float(amounts[0])))
                if leans:
                    out.append(self.carry(there, amounts))
                else:
                    starts.append(self.placed(there, amounts))
        starts = sorted((s for s in starts if s), key=lambda s: -s[0].match)
        return [c for c in out if c is not None] + (self.refine(starts[:MOVED], steps=FEW_STEPS) if starts else [])

    def placed(self, set_up: SetUp, amounts: Floats) -> list[Candidate]:
        """A set-up on the way that its load leads, or a step or two from where it breaks a limit; empty where it cannot be."""
        try:
            mechanics = placed_mechanics(self.prescription.body, set_up)
        except DomainError:
            return []
        source = set_up.sources[0]
        found = self.local_search.evaluate_settings(mechanics, [source], amounts)
        return found or self.local_search.step_aside(mechanics, source, amounts)

    def pair(self, found: Sequence[Candidate], ranking: Ranking) -> list[Candidate]:
        """Two sources at once, where that beats one."""
        single: dict[object, float] = {}
        for c in found:
            single[c.mechanics.key] = max(single.get(c.mechanics.key, 0.0), c.match)
        best = sorted({c.mechanics.key: c for c in found}.values(), key=lambda c: -c.match)[:PAIRED_VARIANTS]
        out = []
        for c in best:
            for first, second, amounts in pair_sources(ranking, c.mechanics.key, self.prescription, self.place):
                made = self.local_search.evaluate_settings(c.mechanics, [first], amounts, [second])
                refined = self.refine([made], steps=FEW_STEPS) if made else []
                out += [m for m in refined if m.match > max(single[c.mechanics.key] + BETTER, *single.values())]
        return sorted(out, key=lambda c: -c.match)[:PAIRS_OFFERED]
