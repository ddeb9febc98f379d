"""Which candidates are worth an answer, in which order, and what is said where none is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.candidates import (
    Answerer,
    Candidate,
    Elsewhere,
    Swap,
    item_of,
    set_up_title,
    uses_of,
)
from oddswap.equivalence.conversion import lift_of
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.local_search import FEW_STEPS, LocalSearch
from oddswap.equivalence.plain import fuss
from oddswap.equivalence.rules import rules
from oddswap.errors import DomainError

HELD_BACK, TRIED, FAILED = 10.0, 3, 2
"""Points of match that an answer falls under its candidate where its load is held back, how many alike are then tried, and how
often a set-up may turn out impossible before its likes are not looked at any more."""
SHOWN = 9
"""Candidates returned at most."""
ALIKE = 2
"""Candidates at most that share movement, kind of kit and support."""
WORTHY, LEAST = 0.2, 40.0
"""Part of the best match, and match, under which nothing is offered any more: nothing, rather than the least bad of nothing."""
OWN_LEAST, OWN_KIND = 20.0, 0.85
"""The same match for the prescribed movement, and how much it must be the prescribed kind of lift for that: a front raise is no
lateral raise, nor an overhead press a flat one."""
ROUNDING = 5.0
"""Points that an answer may come out above its candidate, once its load is rounded."""
NAMED = 3
"""Other items named at most for when a set-up's own is in use."""
AS_GOOD = 0.5
"""Points of match under a set-up's own within which the same on another item stands as well as it can."""
ALIKE_PART = 0.6
"""Part of a set-up's match that the same on another item must reach to be named for when its own is in use."""


@dataclass
class Shortlist:
    """What turns candidates into a list that a coach can send.

    Args:
        answerer: What answers them.
        local_search: What places them.
        filters: What is wanted first.
        refine: Places starts of each of some groups finely, in so many steps at most.
        missed: Answers that nobody would send, with why.
    """

    answerer: Answerer
    local_search: LocalSearch
    filters: SearchFilters
    refine: Callable[[Sequence[Sequence[Candidate]], int], list[Candidate]]
    missed: list[tuple[Swap, str]] = field(default_factory=list)

    def choose(self, found: Sequence[Candidate]) -> list[Swap]:
        """Best first, at most a few of the same movement on the same kit and support; of equals what asks for less."""
        out: list[Swap] = []
        seen: dict[object, int] = {}
        held: dict[object, tuple[int, Swap]] = {}
        failed: dict[object, int] = {}
        line = self.answerer.prescription.line.set_up
        said: set[object] = set()

        def order(c: Candidate) -> tuple[bool, float, bool, float]:
            return c.set_up.movement not in self.filters.pinned, -round(c.match, 1), c.set_up.stance != line.stance, -c.match

        def worth(swap: Swap) -> float:
            return swap.match - fuss(swap.set_up, line)

        best = max((c.match for c in found), default=0.0)
        for one in sorted(found, key=order):
            kinds = "+".join(sorted(sort_of(s) for s in one.set_up.sources))
            like = one.set_up.movement, kinds, one.set_up.stance, one.set_up.pad
            # A client could not tell these apart.
            same = set_up_title(one.set_up, one.mechanics.variant), kinds, uses_of(one.set_up)
            # What cannot come out like enough is not looked at, unless nothing else is there to say why; the prescribed lift
            # on another station always is.
            least = WORTHY * best if self.filters.unlike or (not out and len(self.missed) < TRIED) else LEAST - ROUNDING
            enough = one.match > max(least, WORTHY * best) or one.set_up.movement == line.movement
            if not enough or seen.get(like, 0) >= ALIKE or seen.get(same, 0) or failed.get(same, 0) >= FAILED:
                continue
            plain = self.local_search.plainest(one)
            swap = self.answer(plain)
            if swap is not None and swap.match < one.match - HELD_BACK and held.get(same, (0, swap))[0] < TRIED:
                tries, kept = held.get(same, (0, swap))  # the next best may bear its load
                held[same] = tries + 1, max(kept, swap, key=lambda s: s.match)
                continue
            if swap is not None and not self.alike_enough(swap):
                continue
            # Where it cannot be as it stands one more item is tried, or where the load ran out.
            most = NAMED if swap is not None else 1
            elsewhere = sorted(self.find_elsewhere(plain, most), key=lambda c: fuss(c.set_up, line) - c.match)
            alike = [s for s in (swap, *map(self.answer, elsewhere)) if s is not None]
            if not alike:
                failed[same] = failed.get(same, 0) + 1
                continue
            swap = max(alike, key=worth)
            swap = max(swap, held.pop(same, (0, swap))[1], key=lambda s: s.match)
            seen[like], seen[same] = seen.get(like, 0) + 1, 1
            if (words := words_of(swap)) in said or not self.alike_enough(swap):
                continue
            said.add(words)
            others = sorted((s for s in alike if item_of(s.set_up) != item_of(swap.set_up)), key=lambda s: -s.match)
            out.append(replace(swap, elsewhere=[Elsewhere.of(s) for s in others]))
            if len(out) == SHOWN:
                break
        for _, swap in held.values():
            if len(out) < SHOWN and words_of(swap) not in said and self.alike_enough(swap):
                out.append(swap)
        return sorted(out, key=lambda s: (not s.pinned, (s.complaint.points if s.complaint else 0.0) - worth(s)))

    def alike_enough(self, swap: Swap) -> bool:
        """Whether an answer is like enough to be offered unasked; the prescribed lift on another station is, with much less."""
        own = swap.set_up.movement == self.answerer.prescription.line.set_up.movement and swap.parts["kind"] >= OWN_KIND
        if self.filters.unlike or swap.match >= (OWN_LEAST if own else LEAST) or swap.pinned:
            return True
        self.missed.append((swap, f"it would match {swap.match:.0f} of 100"))
        return False

    def find_elsewhere(self, candidate: Candidate, most: int) -> list[Candidate]:
        """A set-up on at most so many other items of the place: the table knows only what differs much."""
        out: list[Candidate] = []
        if len(candidate.set_up.sources) != 1 or candidate.set_up.sources[0].item is None:
            return out
        first, made = candidate.set_up.sources[0], list[Candidate]()
        for item in self.answerer.place.kit:
            if not item.searched or first.is_from(item) or item.kind != first.item.kind:
                continue
            changed = first.with_item(item)
            if changed is not None:
                made += self.local_search.evaluate_settings(candidate.mechanics, [changed], item.amounts())
        # As it stands there; the likeliest few are then placed finely, where they lost something on the way.
        likely = sorted(made, key=lambda c: -c.match)[:most]
        steps = [FEW_STEPS if one.match < candidate.match - AS_GOOD else 0 for one in likely]
        placed = [c for one, few in zip(likely, steps, strict=True) for c in self.refine([[one]], few)[:1]]
        return [c for c in placed if c.match > ALIKE_PART * candidate.match]

    def answer(self, candidate: Candidate) -> Swap | None:
        """A candidate as an answer; None where whole centimetres or its final load pushed it over a limit, or where it would be
        for so few or so many repetitions that nobody counts them."""
        try:
            swap = self.answerer.answer(candidate.set_up)
        except DomainError:
            return None
        law, line = rules("loading")["repetitions"], self.answerer.prescription.line
        if swap.load.reps_low < min(law["least"], line.reps_low) or swap.load.reps_low > max(law["most"], line.reps_high):
            low, high = swap.load.reps_low, swap.load.reps_high
            self.missed.append((swap, f"it would be for {low} to {high} repetitions"))
            return None
        told = self.filters.complaints.get(lift_of(candidate.set_up))
        return replace(swap, pinned=candidate.set_up.movement in self.filters.pinned, complaint=told)

    def explain_nothing(self, excluded: dict[str, int]) -> tuple[str, str]:
        """Why a place offers nothing, and the cheapest way out.

        Args:
            excluded: What was left out, and how many variants.
        """
        muscle = self.answerer.prescription.group.name
        left_out = f"; left out: {', '.join(excluded)}" if excluded else ""
        if self.missed:
            swap, why = max(self.missed, key=lambda m: m[0].match)
            title = set_up_title(swap.set_up, swap.variant).lower()
            with_what = " + ".join(s.short() for s in swap.set_up.sources) or "bodyweight"
            nearest = f"the nearest to this lift for the {muscle} is the {title} ({with_what}), but {why}"
            lighter = swap.load.effort_ratio < 1
            more = "heavier" if lighter else "lighter"
            kit = swap.set_up.sources[0].source_kind.replace("_", " ") if swap.set_up.sources else "load"
            if "repetitions" in why:
                return f"{nearest}{left_out}", f"Get a {more} {kit}, prescribe another lift, or choose another place"
            return f"{nearest}{left_out}", "Show what is nearest, prescribe another lift, or choose another place"
        rejected = self.local_search.rejected
        most = max(rejected, key=lambda k: rejected[k], default="")
        why = f"; most often: {most}" if most else ""
        return (
            f"something here must load the {muscle}{why}{left_out}",
            "Add kit, prescribe another lift, or choose another place",
        )


def words_of(swap: Swap) -> object:
    """What a client is told of a set-up: two that say the same are one."""
    return set_up_title(swap.set_up, swap.variant), *(s.short() for s in swap.set_up.sources)


def sort_of(source: Setting) -> str:
    """What items have in common that can do the same as a source's."""
    return source.item.sort if source.item is not None else source.kind
