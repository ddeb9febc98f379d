"""From a prescribed line and a place to ranked equivalent set-ups.

Candidates are never read from a list of pairs: every movement that may target the muscle stands in the place's reach table,
in every way its supports allow, with every load source. A line is compared with all rows of the table at once; the likeliest
are then placed finely and judged in full, under the hard limits.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from oddswap.errors import DomainError
from oddswap.mechanics.body import Body
from oddswap.mechanics.movements import Variant, movement
from oddswap.mechanics.profile import Profile, SetUp, profile
from oddswap.mechanics.sources import Setting
from oddswap.mechanics.sources.station import NEEDED
from oddswap.mechanics.types import Floats
from oddswap.swaps.combined import blends
from oddswap.swaps.kit import holder, kit_of, use_of
from oddswap.swaps.loading import Load, convert
from oddswap.swaps.match import Lens, load_part, off_by, under
from oddswap.swaps.placing import Found, Placing
from oddswap.swaps.prescription import Line, Place
from oddswap.swaps.ranking import Ranking, rank
from oddswap.swaps.sore import Sore, strains
from oddswap.swaps.table import Source, Table, table_of
from oddswap.swaps.trial import (
    Aim,
    aim_at,
    body_score,
    computed,
    efforts,
    exact_ways,
    extra_of,
    fits_load,
    level_weights,
    listed,
    score,
)
from oddswap.swaps.ways import Job, Way, job_for, supported

SHOWN = 12
"""Candidates returned at most."""
ALIKE = 2
"""Candidates at most that share movement, kit item and support."""
LOOKED_AT, STARTS, FEW = 36, 16, 4
"""Ways and uses that are judged in full, and how many rows of the table for each of those placed finely and of the others."""
REFINED, OWN, CLIMBERS = 10, 2, 40
"""How many are placed finely, how many of the prescription's own movement in any case, and from how many rows in all."""
MENDED = 1
"""How many of a pick's first rows are mended where they break a limit."""
APART = 0.3
"""How far apart two starts lie, m: nearer ones lead to the same place."""


@dataclass(frozen=True)
class Wishes:
    """What coach and client want of a search, beyond the line.

    Args:
        sore: Joints that hurt; ways that strain one are left out.
        banned: Movements that this client is not given.
        pinned: Movements that stand first where they can be done at all.
        without: Ids of kit items that are in use by others.
        known: Movements that the client knows; None where any will do.
        one_side: Whether only one-sided lifts are wanted.
        equivalence: By what loads are converted: ``hardest``, ``mean`` or ``long``.
        law: By which repetitions are restated: ``epley`` or ``brzycki``.
    """

    sore: Sequence[Sore] = ()
    banned: frozenset[str] = frozenset()
    pinned: frozenset[str] = frozenset()
    without: frozenset[str] = frozenset()
    known: frozenset[str] | None = None
    one_side: bool = False
    equivalence: str = "hardest"
    law: str = "epley"

    def refuses(self, way: Way) -> str:
        """Why a way is left out, in words; empty where it is not."""
        if way.kind.id in self.banned:
            return f"{way.kind.name}: not for this client"
        if self.known is not None and way.kind.id not in self.known:
            return f"{way.kind.name}: not known to this client"
        return strains(way.motion, self.sore)


@dataclass(frozen=True)
class Elsewhere:
    """The same set-up on another item of the place.

    Args:
        name: The item's name.
        id: Its id.
        match: 0 to 100.
        set_up: What to do there, with its load.
    """

    name: str
    id: str
    match: float
    set_up: SetUp


@dataclass(frozen=True)
class Swap:
    """One equivalent set-up, loaded and judged.

    Args:
        set_up: What to do, with the rounded load in it.
        match: 0 to 100 under the lens.
        parts: The parts of the match, 0 to 1, ``target`` among them.
        load: The converted load.
        profile: Its curves at that load.
        variant: The movement's variant.
        pinned: Whether the coach wants it first.
        existing: Amounts there are of its first source, ascending.
        elsewhere: The same on other items, in order of likeness.
    """

    set_up: SetUp
    match: float
    parts: dict[str, float]
    load: Load
    profile: Profile
    variant: Variant
    pinned: bool = False
    existing: Floats = field(default_factory=lambda: np.zeros(1))
    elsewhere: Sequence[Elsewhere] = ()


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

        for one in sorted(found, key=order):
            kinds = "+".join(sorted(sort_of(kit_of(s)) if kit_of(s) else s.kind for s in one.set_up.sources))
            like, way = (
                (one.set_up.movement, kinds, one.set_up.stance, one.set_up.pad),
                (one.way.job, kinds, uses_of(one.set_up)),
            )
            if one.match <= 0 or seen.get(like, 0) >= ALIKE or seen.get(way, 0):
                continue
            swap = self.judged(one)
            if swap is not None:
                seen[like], seen[way] = seen.get(like, 0) + 1, 1
                out.append(replace(swap, elsewhere=self.elsewhere(one)))
            if len(out) == SHOWN:
                break
        return sorted(out, key=lambda s: (not s.pinned, -round(s.match, 1)))

    def elsewhere(self, found: Found) -> list[Elsewhere]:
        """The same set-up on other items of the place, in order of likeness: for when its own is taken."""
        if len(found.set_up.sources) != 1 or found.set_up.sources[0].kind == "dumbbell":
            return []
        first = found.set_up.sources[0]
        out = []
        for item in self.place.kit:
            if not hasattr(item, "placements") or is_from(first, item) or item.kind != kit_of(first).kind:
                continue
            moved = transferred(first, item)
            tried = [] if moved is None else self.placing.tried(found.way, [moved], item.amounts())
            out += [
                Elsewhere(item.name, item.id, other.match, other.set_up)
                for other in (self.placed([tried]) if tried else [])
                if other.match > ALIKE_PART * found.match
            ]
        return sorted(out, key=lambda e: -e.match)[:4]

    def judged(self, found: Found) -> Swap | None:
        """The full curves and load conversion of a search result, or None when whole centimetres pushed it over a limit."""
        try:
            swap = judged(found, self.aim, self.by, self.wishes.equivalence, self.wishes.law)
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


SECANTS = 6
"""Steps to the load that a leaning body carries."""
ALIKE_PART = 0.6
"""Part of a set-up's match that the same on another item must reach to be named for when its own is taken."""
BETTER = 2.0
"""Points of match by which two sources at once must beat one, as they cost more setting up."""


def judged(found: Found, aim: Aim, by: Lens, equivalence: str = "hardest", law: str = "epley") -> Swap:
    """The full curves and load conversion of a set-up.

    Raises:
        DomainError: Where it breaks a limit.
    """
    line, set_up = aim.line, found.set_up
    reps = (line.reps_low, line.reps_high, line.rir)
    match, parts = found.match, found.parts
    own, per_unit = efforts(found.way, aim, set_up)
    amount = set_up.sources[0].amount if set_up.sources else 0.0
    if set_up.sources and fits_load(found.way.motion):
        own, per_unit = about_load(aim, set_up)
    weights = weights_of(found.way, aim)
    load = convert(own, per_unit, aim.levels, weights, amount, found.existing, reps, equivalence, law)
    if set_up.sources and load.amount != amount:
        set_up = replace(set_up, sources=(set_up.sources[0].loaded(load.amount), *set_up.sources[1:]))
        parts = parts | {"load": float(load_part(np.array(load.effort_ratio)))}
        match = under(parts, by)
    return Swap(set_up, match, parts, load, computed(found.way, set_up), found.way.variant, existing=found.existing)


def carried_amount(aim: Aim, set_up: SetUp, amounts: Floats) -> float:
    """The amount there is whose peak effort is nearest the prescription's, where the body's posture follows its load.

    By secants through the efforts of loads that were tried: each try balances the body anew.
    """
    first, *rest = set_up.sources
    target, tried = aim.line.target, dict[float, float]()

    def effort(amount: float) -> float:
        if amount not in tried:
            try:
                p = profile(aim.body, replace(set_up, sources=(first.loaded(amount), *rest)), check=False)
                tried[amount] = float(p.effort[p.row(target)].max())
            except DomainError:
                tried[amount] = np.inf  # no balance under so much
        return tried[amount]

    near = float(np.clip(first.amount, amounts[0], amounts[-1]))
    far = float(np.clip(0.7 * near, amounts[0], amounts[-1]))
    for _ in range(SECANTS):
        rise = (effort(near) - effort(far)) / (near - far) if near != far else 0.0
        if not np.isfinite(rise) or rise <= 1e-6:
            near, far = float(np.clip(0.5 * (near + amounts[0]), amounts[0], amounts[-1])), near
            continue
        aimed = near + (aim.effort - effort(near)) / rise
        near, far = float(np.clip(aimed, amounts[0], amounts[-1])), near
        if abs(near - far) < 0.01 * near:
            break
    above = int(np.clip(np.searchsorted(amounts, near - 1e-9), 0, len(amounts) - 1))
    pair = sorted({float(amounts[max(above - 1, 0)]), float(amounts[above])})
    off = off_by(np.log(np.maximum([effort(amount) for amount in pair], 1e-9) / aim.effort))
    return pair[int(np.argmin(off))]


def about_load(aim: Aim, set_up: SetUp) -> tuple[Floats, Floats]:
    """Effort without and per unit of a load that the body's posture follows: a line through two loads near the aim."""
    first, *rest = set_up.sources
    target = aim.line.target

    def at(amount: float) -> Floats:
        p = profile(aim.body, replace(set_up, sources=(first.loaded(amount), *rest)), check=False)
        return np.asarray(p.effort[p.row(target)])

    low, high = 0.8 * first.amount, first.amount
    light, heavy = at(low), at(high)
    slope = (heavy - light) / (high - low)
    return heavy - slope * high, slope


def weights_of(way: Way, aim: Aim) -> dict[str, Floats]:
    """See ``level_weights``."""
    return level_weights(way.bins[aim.group.id])


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


def is_from(source: Setting, item: Any) -> bool:
    """Whether a setting's load comes from an item of kit."""
    if source.kind == "dumbbell":
        return bool(item.kind == "dumbbells" and (item.pairs or not source.both_arms))
    return bool(kit_of(source) == item)


def sort_of(item: Any) -> str:
    """What items have in common that can do the same: their kind, and whether rails guide a bar."""
    if item is None:
        return "body"
    return "rail" if getattr(item, "rail_deg", None) is not None else str(item.kind)


def transferred(setting: Any, item: Any) -> Any:
    """A setting with another item in place of its own, as nearly alike as that allows; None where it cannot be."""
    name = holder(setting)
    if name is None:
        return None
    if name == "column":
        if setting.use in ("pair", "crossed") and item.columns < 2:
            return None
        height = setting.column.height(setting.hole)
        return replace(setting, column=item, hole=int(np.abs(item.heights() - height).argmin()) + 1)
    return replace(setting, **{name: item})


def item_of(set_up: SetUp) -> str:
    """Ids of the kit items a set-up is loaded by, or the kinds of load where any will do."""
    return "+".join(str(getattr(kit_of(s), "id", s.kind)) for s in set_up.sources) or "body"


def uses_of(set_up: SetUp) -> str:
    """How its items are used, where one has several ways."""
    return "+".join(use_of(s) for s in set_up.sources)


def key_of(set_up: SetUp) -> str:
    """Names a way of doing a movement with an item, whatever its placement and load."""
    values = "-".join(f"{v:g}" for v in set_up.variant().values.values())
    return f"{set_up.movement}:{values}:{set_up.stance}-{set_up.recline_deg:g}:{item_of(set_up)}:{uses_of(set_up)}"


def assessed(aim: Aim, place: Place, by: Lens, set_up: SetUp, equivalence: str | None = None, law: str = "epley") -> Swap:
    """A set-up as it stands, with its own load: what hands on the controls are answered with.

    Args:
        aim: The line's demand.
        place: Where, for the amounts there are.
        by: The lens.
        set_up: The set-up; its first source's item is looked up by id.
        equivalence: By what its load shall be converted anew; None to keep it.
        law: By which repetitions are restated.

    Raises:
        DomainError: Where it cannot be.
    """
    job = job_for(set_up)
    way = exact_ways(aim.body, [job])[0]
    if way is None or aim.line.target not in way.demands:
        limit = f"a way of a movement for the {aim.group.name} within this client's reach"
        raise DomainError("movement", set_up.movement, limit, "Choose another way")
    if not set_up.sources:
        scored = body_score(way, aim, by)
        if scored is None:
            raise DomainError("movement", set_up.movement, f"it must load the {aim.group.name}", "Choose another way")
        return judged(Found.of(scored, 0, way.set_up(), way, np.zeros(1)), aim, by, law=law)
    first, *rest = set_up.sources
    amounts = amounts_of(first, place)
    computed(way, set_up)  # names the field of a limit that is broken
    refused: dict[str, int] = {}
    if equivalence is not None and way.load:
        carried = first.loaded(carried_amount(aim, set_up, amounts))
        return assessed(aim, place, by, replace(set_up, sources=(carried, *rest)), law=law)
    fixed = first.amount if equivalence is None else None
    extra = extra_of(way, aim.group, rest)
    scored = score(listed(way, [first]), way, amounts, aim, by, refused, extra=extra, fixed=fixed)
    if scored is None:
        limit = next((words for words, n in refused.items() if n), f"the load must reach the {aim.group.name}")
        raise DomainError("sources.0", first.kind, limit, "Move it elsewhere")
    found = Found.of(scored, 0, replace(set_up, sources=(first.loaded(float(scored.amount[0])), *rest)), way, amounts)
    return judged(found, aim, by, equivalence, law) if equivalence else as_loaded(found, aim, by, law)


def as_loaded(found: Found, aim: Aim, by: Lens, law: str = "epley") -> Swap:
    """``judged`` without a change of the load."""
    line = aim.line
    own, per_unit = efforts(found.way, aim, found.set_up)
    if found.set_up.sources and fits_load(found.way.motion):
        own, per_unit = about_load(aim, found.set_up)
    reps = (line.reps_low, line.reps_high, line.rir)
    amount = found.set_up.sources[0].amount
    load = convert(own, per_unit, aim.levels, weights_of(found.way, aim), amount, found.existing, reps, None, law)
    curves = computed(found.way, found.set_up)
    return Swap(found.set_up, found.match, found.parts, load, curves, found.way.variant, existing=found.existing)


def amounts_of(source: Setting, place: Place) -> Floats:
    """Amounts that a place has for a source; its own where the place has none."""
    lists = [k.amounts() for k in place.kit if hasattr(k, "placements") and k.kind != "assist" and is_from(source, k)]
    return np.unique(np.concatenate(lists)) if lists else np.array([source.amount])


def reassessed(line: Line, place: Place, body: Body, by: Lens, set_up: SetUp) -> float:
    """Match of a set-up that was found before, with its kit as it is now; 0 where it cannot be any more.

    Args:
        line: What is prescribed.
        place: Where, with its kit of today.
        body: Who does it.
        by: The lens.
        set_up: What was found; its load sources are looked up by their items' ids.
    """
    sources = []
    for source in set_up.sources:
        name = holder(source)
        if name is None:
            if not any(is_from(source, k) for k in place.kit):
                return 0.0
            sources.append(source)
            continue
        item = next((k for k in place.kit if k.id == getattr(source, name).id), None)
        if item is None or item.kind != getattr(source, name).kind:
            return 0.0
        sources.append(replace(source, **{name: item}))  # type: ignore[type-var]
    try:
        return assessed(aim_at(line, body), place, by, replace(set_up, sources=tuple(sources)), "hardest").match
    except DomainError:
        return 0.0


def movement_name(swap: Swap) -> str:
    """Title of a swap, for example ``Incline curl, rest 45°``."""
    return titled(swap.set_up, swap.variant)


def titled(set_up: SetUp, variant: Variant) -> str:
    """Title of a set-up; where the body is the load it says nothing of where a load would be held."""
    kind = movement(set_up.movement)
    title = kind.title(variant)
    held = next((p.choices for p in kind.parameters if p.id == "hold"), {})
    for words in held.values() if not set_up.sources else ():
        title = title.replace(f", {words}", "")
    return title
