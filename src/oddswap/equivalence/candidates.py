"""One set-up as an answer: its load converted, its posture and limits under that load, its curves, its match.

What an answer says is what ``evaluate`` says of the set-up in it, at the load in it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.carried import carried_amount, line_about_load, target_mechanics
from oddswap.equivalence.conversion import KEPT, PLAIN, Conversion, Learned, Load, convert, slower_by
from oddswap.equivalence.evaluate import Evaluation, Question, evaluate
from oddswap.equivalence.filters import Complaint
from oddswap.equivalence.lenses import PARTS, Lens
from oddswap.equivalence.loads import place_below
from oddswap.equivalence.plain import sort_of
from oddswap.equivalence.prescription import Place, PrescribedLine, PrescriptionProfile, level_weights
from oddswap.equivalence.profile import Profile, profile, profile_motion
from oddswap.equivalence.response import response
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_effort import SetEffort, effort_under, joint_of
from oddswap.equivalence.set_up import SetUp, check_set_up, follows_load
from oddswap.equivalence.setting_batch import batch_settings
from oddswap.equivalence.variants import VariantMechanics
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.motion import Motion
from oddswap.mechanics.movement import Variant
from oddswap.mechanics.types import Floats


class GivesOutError(DomainError):
    """What is asked for ends on the client's own body, whichever item of kit the load comes from.

    Args:
        where: What it asks too much of.
        asked: Times what lasts as long as the prescribed set that it asks there.
    """

    def __init__(self, movement: str, where: str, asked: float) -> None:
        super().__init__("sources.0", movement, f"it asks more of the {where} than the prescribed set", "Take another")
        self.asked = asked


@dataclass(frozen=True, eq=False)
class Candidate:
    """A placement with its match, before its load is converted.

    Args:
        match: 0 to 100.
        set_up: What to do, with its load.
        mechanics: The variant that it does, every pose.
        existing: Amounts there are of its first source, ascending, (amount,).
    """

    match: float
    set_up: SetUp
    mechanics: VariantMechanics
    existing: Floats

    @staticmethod
    def of(found: Evaluation, i: int, set_up: SetUp, mechanics: VariantMechanics, existing: Floats) -> Candidate:
        """Placement ``i`` of an evaluated batch; ``existing`` are the amounts there are, in the source's unit, (amount,)."""
        return Candidate(float(found.match[i]), set_up, mechanics, existing)


@dataclass(frozen=True)
class Swap:
    """One equivalent set-up, loaded and evaluated.

    Args:
        set_up: What to do, with the rounded load in it.
        match: 0 to 100 under the lens.
        parts: The parts of the match, 0 to 1, ``target`` among them.
        load: The converted load.
        profile: Its curves at that load.
        variant: The movement's variant.
        pinned: Whether the coach wants it first.
        existing: Amounts there are of its first source, ascending, (amount,).
        limited_by: What held its load back; empty for nothing.
        complaint: What the client told of this lift; None for nothing.
        asked: Times what lasts as long as the prescribed set that it asked for before its load was held back.
    """

    set_up: SetUp
    match: float
    parts: dict[str, float]
    load: Load
    profile: Profile
    variant: Variant
    pinned: bool = False
    existing: Floats = field(default_factory=lambda: np.zeros(1))
    limited_by: str = ""
    complaint: Complaint | None = None
    asked: float = 1.0


@dataclass(frozen=True)
class Answerer:
    """What turns candidates into answers.

    Args:
        prescription: What they are held against.
        place: Where, for room and ceiling.
        lens: How parts are weighed.
        conversion: How loads are converted; without an equivalence the amount is kept.
        strains: What a motion does to a restricted joint, in words; empty where it does nothing to it.
    """

    prescription: PrescriptionProfile
    place: Place
    lens: Lens
    conversion: Conversion = PLAIN
    strains: Callable[[Motion], str] = lambda motion: ""

    def answer(self, set_up: SetUp) -> Swap:
        """A set-up, its first source of any amount, with its load converted, and all that follows from that load.

        Raises:
            DomainError: Where it cannot be, breaks a limit, or under its final load strains a restricted joint.
        """
        learned = self.conversion.learned_of(self.prescription.line.set_up, set_up)
        handled = self.prescription.handling_of(set_up)
        counted = self.prescription.counted_for(set_up)
        used = learned.factor * (handled * self.prescription.felt_of(set_up) if set_up.sources else counted)
        existing = amounts_of(set_up.sources[0], self.place) if set_up.sources else np.zeros(1)
        if set_up.sources and follows_load(set_up) and self.conversion.equivalence is not None:
            set_up = set_up.with_amount(carried_amount(self.prescription, set_up, existing))
        mechanics = self._mechanics(set_up)
        load = self._convert(set_up, mechanics, existing, learned, handled)
        if set_up.sources and load.amount != set_up.sources[0].amount:
            set_up = set_up.with_amount(load.amount)
            mechanics = self._mechanics(set_up) if follows_load(set_up) else mechanics
        # The profile comes first, since it names the field of a limit that is broken.
        curves, effort, limited_by, asked = self._hold_back(set_up, mechanics, existing, used)
        if curves.set_up is not set_up:
            set_up = curves.set_up
            mechanics = self._mechanics(set_up) if follows_load(set_up) else mechanics
            load = self._convert(set_up, mechanics, existing, learned, handled, kept=True)
        lasts = self.prescription.lasting * used
        ended = float(effort.ended_by(joint_of(curves.motion, self.prescription.group))) / lasts
        found = self._evaluate(set_up, mechanics, existing, learned.factor, ended)
        strained = self.strains(curves.motion)
        if strained:
            raise DomainError("set_up", set_up.movement, f"at this load it {strained}", "Take less, or another lift")
        ratio = float(found.ratio[0]) / counted
        # Whatever gives out first ends the set, the target or another.
        ends = max(ratio, effort.limiting / lasts)
        low, high = self.conversion.reps_at(self.prescription.line.reps, ends)
        load = replace(load, effort_ratio=ratio, reps_low=low, reps_high=high)
        parts = {k: float(v[0]) for k, v in found.parts.items()}
        match, variant = float(found.match[0]), mechanics.variant
        asked = asked or ends
        return Swap(set_up, match, parts, load, curves, variant, existing=existing, limited_by=limited_by, asked=asked)

    def _hold_back(
        self, set_up: SetUp, mechanics: VariantMechanics, existing: Floats, factor: float
    ) -> tuple[Profile, SetEffort, str, float]:
        """A set-up's curves with no more load than lets every muscle and the grip last as long as the prescription's set.

        Also what it asks at that load, and what held the load back, if anything did, and how many times too much it was asked.
        An amount that is to be kept is kept.

        Raises:
            GivesOutError: Where no load is as light, or the body is too heavy.
        """
        limited_by, asked, rule = "", 0.0, rules("loading")["effort"]
        while True:
            curves = self._profile(set_up, mechanics)
            effort = effort_under(set_up, curves.motion, curves.moment, curves.pushes)
            most = rule["rounding"] if set_up.sources else rule["body"]
            over, where = effort.beyond(self.prescription.effort, self.prescription.working, most * factor)
            if over <= 1.0 or self.conversion.equivalence is None:
                return curves, effort, limited_by, asked
            amount = set_up.sources[0].amount if set_up.sources else 0.0
            lighter = int(place_below(existing, amount / over)) if set_up.sources else -1
            asked = asked or over
            if lighter < 0:
                raise GivesOutError(set_up.movement, where, asked)
            limited_by, set_up = where, set_up.with_amount(float(existing[lighter]))
            mechanics = self._mechanics(set_up) if follows_load(set_up) else mechanics

    def _mechanics(self, set_up: SetUp) -> VariantMechanics:
        return target_mechanics(self.prescription, set_up)

    def _question(self, set_up: SetUp, mechanics: VariantMechanics, existing: Floats, factor: float, ended: float) -> Question:
        amount = set_up.sources[0].amount if set_up.sources else 0.0
        rest, far = set_up.sources[1:], self.place.farthest
        return Question(mechanics, self.prescription, self.lens, existing, rest, amount, factor, far, PARTS, ended)

    def _knows(self, set_up: SetUp) -> bool:
        """Whether what every source pulls with is known, or is the prescription's own, whose error cancels."""
        own = [s.item for s in self.prescription.line.set_up.sources]
        return all(s.known or (s.item is not None and s.item in own) for s in set_up.sources)

    def _convert(
        self,
        set_up: SetUp,
        mechanics: VariantMechanics,
        existing: Floats,
        learned: Learned,
        handled: float,
        kept: bool = False,
    ) -> Load:
        own = mechanics.demands[self.prescription.group.id].own
        per_unit = np.zeros_like(own)
        amount: float | None = set_up.sources[0].amount if set_up.sources else 0.0
        if set_up.sources:
            first = set_up.sources[0]
            found_by_balance = follows_load(set_up) and learned.factor * handled == 1.0
            amount = amount if self.conversion.equivalence is None or found_by_balance else None
            if follows_load(set_up):
                own, per_unit = line_about_load(self.prescription, set_up)
            else:
                own, per_unit = response(mechanics, self.prescription.group, first, set_up.sources[1:])
        weights = level_weights(mechanics.bins[self.prescription.group.id])
        if kept:
            amount = set_up.sources[0].amount
        reps, conversion = self.prescription.line.reps, self.conversion.keeping() if kept else self.conversion
        levels, known = self.prescription.levels, self._knows(set_up)
        return convert(own, per_unit / handled, levels, weights, amount, existing, reps, conversion, learned, known)

    def _evaluate(
        self, set_up: SetUp, mechanics: VariantMechanics, existing: Floats, factor: float, ended: float
    ) -> Evaluation:
        question = self._question(set_up, mechanics, existing, factor, ended)
        rejected: dict[str, int] = {}
        batch = batch_settings(mechanics, [set_up.sources[0]]) if set_up.sources else None
        found = evaluate(question, batch, rejected)
        if found is None or found.match[0] < 0:
            limit = next((words for words, n in rejected.items() if n), f"it must load the {self.prescription.group.name}")
            kind = set_up.sources[0].kind if set_up.sources else set_up.movement
            raise DomainError("sources.0", kind, limit, "Move it elsewhere")
        return found

    def _profile(self, set_up: SetUp, mechanics: VariantMechanics) -> Profile:
        if set_up.lift_s is not None:
            return profile(self.prescription.body, set_up)
        motion = mechanics.standing(set_up.stands(), set_up.sides)
        check_set_up(set_up, motion, self.place.room.ceiling, self.place.farthest)
        felt = self.prescription.felt_of(set_up)
        if felt == 1.0:
            return profile_motion(set_up, motion, check=False)
        # A machine that was never measured is shown as it is felt.
        return replace(profile_motion(set_up.with_amount(felt * set_up.sources[0].amount), motion, check=False), set_up=set_up)


def item_of(set_up: SetUp) -> str:
    """Ids of the kit items a set-up is loaded by, or the kinds of load where any will do."""
    return "+".join(s.item.id if s.item is not None else s.kind for s in set_up.sources) or "body"


def uses_of(set_up: SetUp) -> str:
    """How its items are used, where one has several ways."""
    return "+".join(s.use_label for s in set_up.sources)


def key_of(set_up: SetUp) -> str:
    """Names a variant of a movement with an item, whatever its placement and load."""
    values = "-".join(f"{v:g}" for v in set_up.variant().values.values())
    return f"{set_up.movement}:{values}:{set_up.stance}-{set_up.recline_deg:g}:{item_of(set_up)}:{uses_of(set_up)}"


def is_counted(swap: Swap, line: PrescribedLine) -> bool:
    """Whether a set-up is for as many repetitions as somebody counts, or as the line itself asks for; with the body alone for
    so many more as a slow lowering makes up for."""
    longer = 1.0 if swap.set_up.sources else slower_by()
    least, most = min(rules("loading")["repetitions"]["least"], line.reps_low), longer * most_counted(line)
    return bool(least <= swap.load.reps_low <= most)


def most_counted(line: PrescribedLine) -> int:
    """Repetitions up to which somebody counts, or as many as the line itself asks for."""
    return max(int(rules("loading")["repetitions"]["most"]), line.reps_high)


def evaluate_set_up(
    prescription: PrescriptionProfile, place: Place, lens: Lens, set_up: SetUp, conversion: Conversion = KEPT
) -> Swap:
    """A set-up as it stands, with its own load: what hands on the controls are answered with.

    Args:
        prescription: What the line asks of the client.
        place: Where, for room and the amounts there are.
        lens: How parts are weighed.
        set_up: The set-up.
        conversion: How its load shall be converted anew; without an equivalence to keep it.

    Raises:
        DomainError: Where it cannot be.
    """
    return Answerer(prescription, place, lens, conversion).answer(set_up)


def amounts_of(source: Setting, place: Place) -> Floats:
    """Amounts that a place has for a source, ascending, (amount,); its own where the place has none."""
    lists = [k.amounts() for k in place.kit if k.searched and source.is_from(k)]
    return np.unique(np.concatenate(lists)) if lists else np.array([source.amount])


def with_kit_of(set_up: SetUp, place: Place) -> SetUp | None:
    """A set-up found before, with its kit as it is now; None where an item is gone or has become another kind.

    Its load sources are looked up by their items' ids; their amounts stay.
    """
    out = set_up
    for i, source in enumerate(set_up.sources):
        if source.item is None:
            if not any(source.is_from(k) for k in place.kit):
                return None
            continue
        item = next((k for k in place.kit if k.id == source.item.id), None)
        if item is None or item.kind != source.item.kind:
            return None
        out = out.with_source(i, replace(source, **{source.item_field: item}))  # type: ignore[type-var]
    return out


def movement_name(swap: Swap) -> str:
    """Title of a swap, for example ``45° incline curl``."""
    return set_up_title(swap.set_up, swap.variant)


def set_up_title(set_up: SetUp, variant: Variant) -> str:
    """Title of a set-up; where the body is the load it says nothing of where a load would be held."""
    kind = movement(set_up.movement)
    title = kind.title(variant)
    held = next((p.choices for p in kind.parameters if p.id == "hold"), {})
    for words in held.values() if not set_up.sources else ():
        title = title.replace(f", {words}", "")
    return title


def with_kit(set_up: SetUp, variant: Variant) -> str:
    """A set-up in words, and what it is done with."""
    with_what = " + ".join(s.short() for s in set_up.sources) or "bodyweight"
    return f"{set_up_title(set_up, variant).lower()} ({with_what})"


def same_words(candidate: Candidate) -> tuple[str, str, str]:
    """Title, kinds of kit and uses: equal for candidates that a client could not tell apart but for where they are placed."""
    set_up, kinds = candidate.set_up, "+".join(sorted(sort_of(s) for s in candidate.set_up.sources))
    return set_up_title(set_up, candidate.mechanics.variant), kinds, uses_of(set_up)


def words_of(swap: Swap) -> object:
    """What a client is told of a set-up: two that say the same are one."""
    return set_up_title(swap.set_up, swap.variant), *(s.short() for s in swap.set_up.sources)
