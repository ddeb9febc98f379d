"""Which candidates are worth an answer, in which order, and what is said where none is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

import numpy as np

from oddswap.equivalence.candidates import (
    Answerer,
    Candidate,
    GivesOutError,
    Swap,
    is_counted,
    item_of,
    most_counted,
    same_words,
    set_up_title,
    uses_of,
    with_kit,
    words_of,
)
from oddswap.equivalence.conversion import lift_of
from oddswap.equivalence.filters import SearchFilters
from oddswap.equivalence.local_search import LocalSearch
from oddswap.equivalence.other_items import ALIKE_PART, on_other_items, steps_there
from oddswap.equivalence.plain import fuss, quiet_key, quietest_first, roughness
from oddswap.equivalence.rules import rules
from oddswap.errors import DomainError
from oddswap.mechanics.body import GRAVITY

HELD_BACK, TRIED, FAILED, OWN_FAILED = 4.0, 3, 3, 8
"""Points of match that an answer falls under its candidate where its load is held back, how many alike are then tried, and how
often a set-up may turn out impossible before its likes are not looked at any more, and the prescribed movement's."""
FEW = 3
"""Answers under which more patience is had."""
SHOWN = 9
"""Candidates returned at most."""
ALIKE = 2
"""Candidates at most that share movement, kind of kit and support."""
WORTHY, LEAST = 0.2, 40.0
"""Part of the best match, and match, under which nothing is offered any more: nothing, rather than the least bad of nothing."""
WORTHY_TOO, WORTH_A_LOOK = 0.7, 0.5
"""The same part once a few others are offered: a list is not padded with what no coach would take before them. What is of the
prescribed kind is looked at from a lower part on, as its answer may come out above what the table made of it."""
OVERLOADED = 3.0
"""Times the prescribed force on the hand, or where else a lift is loaded, over which a line of pull runs past the lift rather
than against it (own estimate)."""
OTHER_MORE, OTHER_KIND = 5.0, 0.65
"""How much more it must be for what is hardly the prescribed kind of lift: a flat press is no overhead press, a row no
pullover."""
OWN_LEAST, OWN_KIND = 20.0, 0.85
"""The same match for the prescribed movement, and how much it must be the prescribed kind of lift for that: a front raise is no
lateral raise, nor an overhead press a flat one."""
TRIFLE = 0.05
"""Part of bodyweight under which what is held makes no other lift of one that the body alone loads (own estimate)."""
ROUNDING = 5.0
"""Points that an answer may come out above its candidate."""
OTHERS, CLIMBED = 2, 4.0
"""Other items at most that a set-up which can be on its own is tried on, and points that it may gain by being placed there."""
ANEW, SHORT = 2, 2.0
"""How often a load that pulls as it is placed is placed anew after its answer fell short, and by how many points one at an odd
turn falls short before one without is looked at."""


class Answered(NamedTuple):
    """An answer, or why there is none.

    Args:
        swap: The answer.
        gives_out: Whether there is none since the client's body gives out under it.
        asked: Times what lasts as long as the prescribed set that was asked; 0 where that is not known.
    """

    swap: Swap | None
    gives_out: bool = False
    asked: float = 0.0

    @property
    def points(self) -> float:
        """Its match; 0 for none."""
        return self.swap.match if self.swap is not None else 0.0


NOTHING = Answered(None)


@dataclass
class Chosen:
    """What was looked at of a list's candidates.

    Args:
        out: What is offered.
        seen: How many were, by likeness and by words.
        held: By words: how often a load was held back, and the best that it came to.
        failed: By words: how many turned out impossible.
        said: What clients are told of those offered.
    """

    out: list[Swap] = field(default_factory=list)
    seen: dict[object, int] = field(default_factory=dict)
    held: dict[object, tuple[int, Swap]] = field(default_factory=dict)
    failed: dict[object, int] = field(default_factory=dict)
    said: set[object] = field(default_factory=set)


@dataclass
class Shortlist:
    """What turns candidates into a list that a coach can send.

    Args:
        answerer: What answers them.
        local_search: What places them.
        filters: What is wanted first.
        refine: Places starts of each of some groups finely, in so many steps at most; None where nothing is placed anew.
        most: How many are returned at most.
        missed: Answers that nobody would send, with why.
        gave_out: Candidates under which the client's body gives out, with where.
    """

    answerer: Answerer
    local_search: LocalSearch
    filters: SearchFilters
    refine: Callable[[Sequence[Sequence[Candidate]], int], list[Candidate]] | None
    most: int = SHOWN
    missed: list[tuple[Swap, str]] = field(default_factory=list)
    gave_out: list[tuple[Candidate, str]] = field(default_factory=list)

    def choose(self, found: Sequence[Candidate]) -> list[Swap]:
        """Best first, at most a few of the same movement on the same kit and support; of equals what asks for less."""
        made, best = Chosen(), max((c.match for c in found), default=0.0)
        skipped = [c for c in self.in_order(found) if not self.look_at(c, made, best, FAILED)]
        # Where hardly anything else can be, what was skipped for its likes' sake is looked at after all.
        for one in skipped if len(made.out) < FEW else ():
            self.look_at(one, made, best, len(found) + FAILED)
        if not made.out and found:
            # Whoever is told that there is nothing wants to hear of the likest lift, were its load never so far off.
            self.answer(max(found, key=lambda c: (self.kind_of(c) >= OWN_KIND, c.match)))
        # An answer that fell short of its candidate may still be worth more than what came after it.
        made.out += [s for _, s in made.held.values() if words_of(s) not in made.said and self.alike_enough(s)]
        made.out = self.without_padding(made.out)
        pinned, others = [s for s in made.out if s.pinned], [s for s in made.out if not s.pinned]
        return [s for some in (pinned, others) for s in quietest_first(some, self.points, self.quiet)]

    def in_order(self, found: Sequence[Candidate]) -> list[Candidate]:
        """Candidates as they are looked at: what is wanted first; then by match, of variants that come near each other the one
        that differs least from the prescribed first, since only a few of a kind are offered."""
        ways: dict[object, list[Candidate]] = {}
        for c in sorted(found, key=lambda c: -c.match):
            ways.setdefault(same_words(c), []).append(c)
        line = self.answerer.prescription.line.set_up
        quiet = {
            words: quiet_key(c.set_up, c.mechanics.variant, self.kind_of(c), line, str(words))
            for words, (c, *_) in ways.items()
        }
        wanted = [
            [w for w, (c, *_) in ways.items() if (c.set_up.movement in self.filters.pinned) == pin] for pin in (True, False)
        ]
        ordered = [w for some in wanted for w in quietest_first(some, lambda w: ways[w][0].match, quiet.__getitem__)]
        return [c for words in ordered for c in ways[words]]

    def without_padding(self, offered: Sequence[Swap]) -> list[Swap]:
        """The best few, and of the others what is worth as much as they are but for a part; all that is wanted first, and the
        prescribed lift wherever it is done. What is held weighs something, where the body alone does the same; and what is for
        more repetitions than are counted is there where little else is."""
        line, few = self.answerer.prescription.line.set_up, [s for s in offered if not self.is_beyond_count(s)]
        order = sorted(few if len(few) >= FEW else offered, key=lambda s: -s.match)
        kept, own = list[Swap](), set[object]()
        for n, s in enumerate(order):
            is_own, there = s.set_up.movement == line.movement, item_of(s.set_up)
            stands = is_own and there not in own
            # On the item that it is offered on already, the prescribed lift is worth what any other is.
            padding = not stands and (s.match < LEAST or (n >= FEW and s.match < WORTHY_TOO * order[0].match))
            if self.filters.unlike or s.pinned or not (padding or self.is_trifle(s, order)):
                kept.append(s)
            if is_own:
                own.add(there)
        shown = sorted(kept, key=lambda s: not s.pinned)[: self.most]
        return [s for s in offered if any(s is k for k in shown)]

    def is_trifle(self, swap: Swap, offered: Sequence[Swap]) -> bool:
        """Whether it is another's lift with hardly a load, where that one has none."""
        load = sum(float(np.linalg.norm(p.force, axis=-1).mean()) * (1 + p.mirrored) for p in swap.profile.pushes)
        if not swap.set_up.sources or load > TRIFLE * self.answerer.prescription.body.mass * GRAVITY:
            return False
        bare = [s.set_up for s in offered if not s.set_up.sources and s.set_up.movement == swap.set_up.movement]
        return any(replace(swap.set_up, sources=(), parameters=b.parameters) == replace(b, sources=()) for b in bare)

    def points(self, swap: Swap) -> float:
        """What it is worth in a list, for a client who complained of it, points."""
        told, rule = swap.complaint.points if swap.complaint else 0.0, rules("lenses")["plain"]
        asked = fuss(swap.set_up, self.answerer.prescription.line.set_up, rule["in_order"])
        asked += rule["beyond_count"] if self.is_beyond_count(swap) else 0.0
        return swap.match - asked - told

    def is_beyond_count(self, swap: Swap) -> bool:
        """Whether it is for more repetitions than are counted but for what makes up for them."""
        return swap.load.reps_low > most_counted(self.answerer.prescription.line)

    def miscounts(self, swap: Swap) -> int:
        """How far its repetitions are from the prescribed ones: 0 where not many times more, or fewer; then step by step."""
        written, far = self.answerer.prescription.line, rules("lenses")["plain"]["repetitions"]
        times = max(written.reps_low / max(swap.load.reps_high, 1), swap.load.reps_low / written.reps_high, 1.0)
        steps = round(float(np.log(times) / np.log(far)), 6)
        return int(steps) if steps > 1.0 else 0

    def quiet(self, swap: Swap) -> tuple[object, ...]:
        """See ``quiet_key``; before all else repetitions not far from the prescribed ones, of equals what is worth more."""
        written = self.answerer.prescription.line
        title = f"{set_up_title(swap.set_up, swap.variant)} {uses_of(swap.set_up)}"
        key = quiet_key(swap.set_up, swap.variant, swap.parts["kind"], written.set_up, title)
        return self.miscounts(swap), *key, -swap.match

    def look_at(self, one: Candidate, made: Chosen, best: float, patience: int) -> bool:
        """Answer a candidate, and offer it where it may be sent; False where that many of its likes turned out impossible.

        Args:
            one: The candidate.
            made: What was looked at before it.
            best: Match of the best candidate.
            patience: How many of its likes may have turned out impossible.
        """
        line = self.answerer.prescription.line.set_up
        same = same_words(one)
        like = one.set_up.movement, same[1], one.set_up.stance, one.set_up.pad
        # What cannot come out like enough is not looked at, unless nothing else is there to say why; the prescribed lift on
        # another station always is.
        least = WORTHY * best if self.filters.unlike or (not made.out and len(self.missed) < TRIED) else LEAST - ROUNDING
        part = WORTHY if self.filters.unlike or len(made.out) < FEW else WORTHY_TOO
        if WORTHY_TOO * best >= one.match > WORTH_A_LOOK * best and self.kind_of(one) >= OWN_KIND:
            part = min(part, WORTH_A_LOOK)
        enough = one.match > max(least, part * best) or one.set_up.movement == line.movement
        if len(made.out) == self.most or not enough or made.seen.get(like, 0) >= ALIKE or made.seen.get(same, 0):
            return True
        if made.failed.get(same, 0) >= (max(patience, OWN_FAILED) if one.set_up.movement == line.movement else patience):
            return False
        plain, (swap, gives_out, _) = self.placed_and_answered(one)
        if swap is not None and self.hold(swap, one, made, same):
            return True
        if swap is not None and not self.alike_enough(swap):
            return True
        alike = [s for s in (swap, *self.answer_on_other_items(plain, swap, gives_out)) if s is not None]
        if not alike:
            made.failed[same] = made.failed.get(same, 0) + 1
            return True
        swap = max(alike, key=self.worth)
        if self.hold(swap, one, made, same):
            return True
        swap = max(swap, made.held.pop(same, (0, swap))[1], key=lambda s: s.match)
        made.seen[like], made.seen[same] = made.seen.get(like, 0) + 1, 1
        if (words := words_of(swap)) not in made.said and self.alike_enough(swap):
            made.said.add(words)
            made.out.append(swap)
        return True

    def hold(self, swap: Swap, one: Candidate, made: Chosen, same: object) -> bool:
        """Keep an answer that falls far short of its candidate until the next best of its likes were looked at; False where it
        does not, or enough of them were."""
        tries, kept = made.held.get(same, (0, swap))
        if swap.match >= one.match - HELD_BACK or tries >= TRIED:
            return False
        made.held[same] = tries + 1, max(kept, swap, key=lambda s: s.match)
        return True

    def answer_on_other_items(self, one: Candidate, answered: Swap | None, gives_out: bool) -> list[Swap]:
        """A candidate answered on the other items that it is best on, where it may be worth more there than on its own.

        The table knows only items that differ much, and of those alike one is placed. Where it cannot be on its own item the
        best other one is tried in any case, unless the body gives out and that one is no better.
        """
        if self.refine is None:
            return []
        others = on_other_items(self.local_search, self.answerer.place, one)
        if answered is None:
            likely = [c for c in sorted(others, key=lambda c: -c.match)[:1] if not gives_out or c.match > one.match]
        else:
            near = (c for c in others if self.worth(c) + CLIMBED >= self.worth(one))
            likely = sorted(near, key=lambda c: -self.worth(c))[:OTHERS]
        placed = [p for c in likely for p in self.refine([[c]], steps_there(c, one))[:1]]
        return [s for c in placed if c.match > ALIKE_PART * one.match and (s := self.answer(c)) is not None]

    def worth(self, swap: Swap | Candidate) -> float:
        """Its match less what it is worth to have nothing of its fuss, points."""
        return swap.match - fuss(swap.set_up, self.answerer.prescription.line.set_up)

    def kind_of(self, candidate: Candidate) -> float:
        """How much a candidate is the prescribed kind of lift, 0 to 1."""
        return float(self.local_search.ask(candidate.mechanics, candidate.existing).kind[0])

    def alike_enough(self, swap: Swap) -> bool:
        """Whether an answer is like enough to be offered unasked; the prescribed lift on another station is, with much less."""
        kind = swap.parts["kind"]
        own = swap.set_up.movement == self.answerer.prescription.line.set_up.movement and kind >= OWN_KIND
        own = own and not self.is_beyond_count(swap)
        least = OWN_LEAST if own else LEAST + OTHER_MORE * (kind < OTHER_KIND)
        if self.filters.unlike or swap.match >= least or swap.pinned:
            return True
        self.missed.append((swap, f"it would match {swap.match:.0f} of 100"))
        return False

    def answer(self, candidate: Candidate) -> Swap | None:
        """A candidate as an answer; None where whole centimetres or its final load pushed it over a limit, or where it would be
        for so few or so many repetitions that nobody counts them."""
        return self.answer_or_why(candidate).swap

    def placed_and_answered(self, one: Candidate) -> tuple[Candidate, Answered]:
        """A candidate placed plainly, and its answer.

        How hard a band pulls lies in where it is placed, and arms that follow it exactly go another way than the one it was
        placed by: where the answer falls short it is placed anew, against as much as it asked too much, and without a turn.
        """
        placed, line = self.local_search.plainly_placed(one) or [one], self.answerer.prescription.line.set_up
        plain = placed[0]
        found, asked = self.answer_or_why(plain), 1.0
        straight = next((c for c in placed if not any(roughness(s, line) for s in c.set_up.sources[:1])), plain)
        if found.points < plain.match - SHORT and straight.match > found.points:
            again = self.answer_or_why(straight)
            plain, found = (straight, again) if again.points > found.points else (plain, found)
        for _ in range(ANEW if any(s.item is not None and s.item.stretches for s in plain.set_up.sources) else 0):
            if found.asked in (0.0, 1.0) or (found.swap is not None and found.swap.match >= one.match - HELD_BACK):
                break
            asked = found.asked if found.asked > 1.0 else asked * found.asked
            anew = self.local_search.placed_anew(plain, asked)
            # Somewhere or other any band asks little enough, but then of little that was prescribed.
            if anew is None or anew.match < LEAST or (again := self.answer_or_why(anew)).points < found.points:
                break
            plain, found = anew, again
        return plain, found

    def answer_or_why(self, candidate: Candidate) -> Answered:
        """The same, and where there is none why."""
        try:
            swap = self.answerer.answer(candidate.set_up)
        except GivesOutError as error:
            self.gave_out.append((candidate, error.limit))
            return Answered(None, True, error.asked)
        except DomainError:
            return NOTHING
        if not is_counted(swap, self.answerer.prescription.line):
            low, high = swap.load.reps_low, swap.load.reps_high
            how_many = f"{low} to {high}" if low < high else f"{low} or more"  # counted no further
            self.missed.append((swap, f"it would be for {how_many} repetitions"))
            return Answered(None, bool(swap.limited_by), swap.asked)
        if not self.filters.unlike and (times := self.bears(swap)) > OVERLOADED:
            where = swap.profile.pushes[0].contact.replace("_", " ")
            self.missed.append((swap, f"it would bear {times:.1f} times as much on the {where}"))
            return NOTHING
        told = self.filters.complaints.get(lift_of(candidate.set_up))
        swap = replace(swap, pinned=candidate.set_up.movement in self.filters.pinned, complaint=told)
        return Answered(swap, False, swap.asked)

    def bears(self, swap: Swap) -> float:
        """Times the prescribed force where it is loaded, on the mean; 1 where that cannot be compared: on another movement or
        another place of the body, and on what was never measured."""
        prescribed = self.answerer.prescription
        sources = [*swap.set_up.sources, *prescribed.line.set_up.sources]
        if swap.set_up.movement != prescribed.line.set_up.movement or not all(s.known for s in sources):
            return 1.0
        here, there = (x.pushes for x in (swap.profile, prescribed.profile))
        if not here or not there or {p.contact for p in here} != {p.contact for p in there}:
            return 1.0
        force, own = (float(np.linalg.norm(sum(p.force for p in each), axis=-1).mean()) for each in (here, there))
        return force / max(own, 1e-9)

    def explain_nothing(self, excluded: dict[str, int]) -> tuple[str, str]:
        """Why a place offers nothing, and the cheapest way out.

        Args:
            excluded: What was left out, and how many variants.
        """
        muscle = self.answerer.prescription.group.name
        left_out = f"; left out: {', '.join(excluded)}" if excluded else ""
        if self.missed:
            swap, why = max(self.missed, key=lambda m: (m[0].parts["kind"] >= OWN_KIND, m[0].match))
            nearest = f"the nearest to this lift for the {muscle} is the {with_kit(swap.set_up, swap.variant)}, but {why}"
            lighter = swap.load.effort_ratio < 1
            more = "heavier" if lighter else "lighter"
            kit = swap.set_up.sources[0].source_kind.replace("_", " ") if swap.set_up.sources else "load"
            if "repetitions" in why:
                return f"{nearest}{left_out}", f"Get a {more} {kit}, prescribe another lift, or choose another place"
            return f"{nearest}{left_out}", "Show what is nearest, prescribe another lift, or choose another place"
        if self.gave_out:
            one, why = max(self.gave_out, key=lambda m: (self.kind_of(m[0]) >= OWN_KIND, m[0].match))
            words = with_kit(one.set_up, one.mechanics.variant)
            nearest = f"the nearest to this lift for the {muscle} is the {words}, but {why}"
            return f"{nearest}{left_out}", "Prescribe another lift, or choose another place"
        rejected = self.local_search.rejected
        most = max(rejected, key=lambda k: rejected[k], default="")
        why = f"; most often: {most}" if most else ""
        return (
            f"something here must load the {muscle}{why}{left_out}",
            "Add kit, prescribe another lift, or choose another place",
        )
