"""A session as a card: set-ups in steps with tolerances, loads from what the log knows, and what to do instead."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from oddswap.application.inputs import core_place, core_prescription
from oddswap.application.lessons import Book, advise
from oddswap.application.matching import match_line
from oddswap.application.stations import items_of, lift_of
from oddswap.application.versions import digest, match_digest
from oddswap.coaching.advice import after_failure, to_see
from oddswap.coaching.explanation import cautions, load_words
from oddswap.documents.card import CardAmountDoc, CardDoc, CardLiftDoc, CardSetDoc, CardStepDoc, CardWayDoc, slim, steps_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.detail import adjustable_parameter_doc
from oddswap.documents.log import MASS_SPAN_KG, WHOLE, BasisDoc
from oddswap.documents.match import SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.words import kit_words, reps_words, set_up_rows
from oddswap.equipment.base.floor import lay_out
from oddswap.equivalence.candidates import Swap, evaluate_set_up, movement_name
from oddswap.equivalence.conversion import lift_of as lift_name
from oddswap.equivalence.effort_scale import amounts_about, effort_ratios, written_amounts
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.tolerance import choices
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.muscle_regions import AXES
from oddswap.planning.sets import AS_WRITTEN, BlockWeek, PlannedSet, scheme_words
from oddswap.quantities import SIZES, shown_in

SPARES = 0.75
"""Part of a joint's torque up to which another lift is offered to who hurts there; own choice."""
INSTEAD = 3
"""Ways that a card has ready besides the chosen one."""
MATCHING = 55.0
"""Match under which nothing is put on a card for a kit that is taken; own choice."""
STEP_OF = {"hole": "Pulley", "height": "Anchor", "distance": "Place", "ahead": "Place", "pivot": "Lever", "forward": "Anchor"}
"""The step of the set-up that each choice belongs to."""
SAFETY = [
    "Sharp or spreading pain, numbness, dizziness: stop. What it is, a physician or physiotherapist decides.",
    "The first set of a new lift is a test set: stop well before it gets hard.",
    "The gym's rules and the limits on the kit come first.",
]
"""What every card says; common practice."""


@dataclass(frozen=True)
class Chosen:
    """A line with the swap that was accepted for it here; None where there is none yet."""

    number: int
    line: LineDoc
    swap: SwapDoc | None


def make_card(
    client: ClientDoc,
    names: Mapping[str, str],
    chosen: Sequence[Chosen],
    place: PlaceDoc,
    place_number: int,
    ranking: RankDoc,
    book: Book,
    made_at: dt.datetime,
    before: CardDoc | None = None,
    week: BlockWeek = AS_WRITTEN,
) -> CardDoc:
    """A session as it is handed over.

    Args:
        client: Who, with what the log taught.
        names: ``coach``, ``program``, ``session`` and ``week``.
        chosen: The session's lines in order.
        place: Where.
        place_number: Its number.
        ranking: By what things to do instead are ranked.
        book: The client's log.
        made_at: When, UTC.
        before: The revision before: what did not change is taken from it.
        week: What the week of the block changes.

    Raises:
        DomainError: Where nothing was chosen yet, or what was chosen cannot be done any more.
    """
    if not any(one.swap for one in chosen):
        raise DomainError("session", names["session"], "a card needs a swap for at least one line", "Accept a swap first")
    old = {lift.line: lift for lift in before.lifts} if before else {}
    lifts, missing = list[CardLiftDoc](), list[str]()
    with shown_in(client.units):
        for one in chosen:
            if one.swap is None:
                missing.append(one.line.name)
                continue
            made_of = _made_of(client, one.line, one.swap, place, ranking)
            held = old.get(one.number)
            kept = held.ways if held and held.made_of == made_of else None
            ways = kept or _ways(client, one.line, one.swap, place, place_number, ranking)
            lifts.append(_lift(client, one, ways, place, book, made_of, week))
    return CardDoc(
        client=client.name,
        **names,
        place=place.name,
        made_at=made_at.replace(tzinfo=dt.UTC),
        changed=_changes(before, lifts) if before else [],
        mass_unit=client.mass_unit,
        mass_unit_kg=SIZES[client.mass_unit],
        mass_span_kg=list(MASS_SPAN_KG),
        drop_part=rules("loading")["drop"]["part"],
        spare_part=SPARES,
        lifts=lifts,
        missing=missing,
        safety=SAFETY,
    )


def _made_of(client: ClientDoc, line: LineDoc, swap: SwapDoc, place: PlaceDoc, ranking: RankDoc) -> str:
    """Names what a lift's ways follow from."""
    return digest(match_digest(client, line, place, ranking), swap.set_up.model_dump_json(), str(client.units))


def _lift(
    client: ClientDoc, one: Chosen, ways: Sequence[CardWayDoc], place: PlaceDoc, book: Book, made_of: str, week: BlockWeek
) -> CardLiftDoc:
    line = one.line
    prescription, room = core_prescription(client, line), core_place(place)
    assert one.swap is not None  # those without are told apart before
    spots = {s.item: s for s in lay_out(place.kit, place.room.room(), place.chosen_spots())}
    rest = lift_of(client, one.number, line, one.swap.set_up, room, spots).rest_s
    planned = line.planned(week, ways[0].basis.law)
    advised = [_planned(_advised(book, one.number, way), line, planned) for way in ways]
    if line.hold_s:
        advised = [way.model_copy(update={"reps": f"{line.hold_s} s"}) for way in advised]
    rir = planned[0].rir
    case, _ = advise(book, one.number, ways[0].basis, [a.amount for a in ways[0].amounts])
    last = case.sessions[-1] if case.sets else []
    words = {a.amount: a.words for a in ways[0].amounts}
    done = f"{words.get(last[0].amount, f'{last[0].amount:g}')}: {', '.join(str(s.reps) for s in last)}" if last else ""
    return CardLiftDoc(
        line=one.number,
        name=line.name,
        label=line.label,
        target=line.target,
        target_name=prescription.group.name,
        sets=len(planned),
        rir=rir,
        rest_s=round(rest / 15) * 15,
        each_side=line.each_side or not _two_sided(one.swap.set_up.set_up()),
        tempo=_tempo(line),
        methods=line.methods,
        stop=f"Stop with {rir} in reserve" if rir else "Stop when the next repetition would not come clean",
        last=done,
        ways=advised,
        made_of=made_of,
    )


def _two_sided(set_up: SetUp) -> bool:
    return bool(set_up.sides.arms if set_up.support.contact == "hand" else set_up.sides.legs)


def _tempo(line: LineDoc) -> str:
    names = ("lower", "hold", "lift", "hold")
    return ", ".join(f"{name} {s} s" for name, s in zip(names, line.tempo, strict=False) if s)


def _advised(book: Book, line: int, way: CardWayDoc) -> CardWayDoc:
    """A way with the load and repetitions for next time."""
    case, advice = advise(book, line, way.basis, [a.amount for a in way.amounts])
    words = {a.amount: a.words for a in way.amounts}
    target = case.restated(advice.amount)
    wanted = (
        reps_words(min(target.low, advice.reps), max(target.high, advice.reps)) if advice.kind == "first" else f"{advice.reps}"
    )
    low, high = (max(0.0, x) for x in advice.expected[1:])
    expected = f"{low:.0f} to {high:.0f} expected, {advice.expected[0]:.0f} most likely" if case.sets else ""
    return way.model_copy(
        update={
            "amount": advice.amount,
            "load": words.get(advice.amount, way.load),
            "aim": advice.reps,
            "reps": wanted,
            "why": advice.reason,
            "expected": expected,
        }
    )


def _planned(way: CardWayDoc, line: LineDoc, planned: Sequence[PlannedSet]) -> CardWayDoc:
    """A way with its sets one by one, where they differ or are lighter: loads as near as there are, repetitions as they are
    restated for it."""
    parts = [s.load_part for s in planned]
    if not line.sets_as and max(abs(p - 1) for p in parts) < WHOLE:
        return way
    there = np.array([a.amount for a in way.amounts])
    restated = way.aim / line.reps_low
    out, sets = list[CardSetDoc](), list[PlannedSet]()
    for s in planned:
        held = way.amounts[int(np.abs(there - s.load_part * way.amount).argmin())] if len(there) else None
        low, high = (max(1, round(n * restated)) for n in (s.low, s.high))
        sets.append(replace(s, low=low, high=high))
        load, amount = (held.words, held.amount) if held else (way.load, way.amount)
        reps = f"{low} or more" if s.amrap else reps_words(low, high)
        out.append(CardSetDoc(reps=reps, aim=low, amount=amount, load=load, rir=s.rir))
    basis, first = way.basis.model_copy(update={"parts": parts}), out[0]
    if all(s == first for s in out):
        eased = f"{round(100 * parts[0])} % of {way.load} this week" + (f"; then {way.why}" if way.why else "")
        return way.model_copy(
            update={
                "amount": first.amount,
                "load": first.load,
                "aim": first.aim,
                "reps": first.reps,
                "why": eased,
                "basis": basis,
            }
        )
    scheme = scheme_words(sets, [s.load for s in out])
    return way.model_copy(update={"plan": out, "scheme": scheme, "basis": basis})


def _ways(
    client: ClientDoc, line: LineDoc, swap: SwapDoc, place: PlaceDoc, place_number: int, ranking: RankDoc
) -> list[CardWayDoc]:
    """The chosen way, then the best on other kit."""
    room, prescription, lens = core_place(place), core_prescription(client, line), ranking.resolve_lens()
    own = swap.set_up.set_up()
    kept = ranking.conversion(client).keeping()
    out = [_way(prescription, room, ranking, evaluate_set_up(prescription, room, lens, own, kept), place_number, line)]
    taken, seen = items_of(own, room), {(swap.title, swap.kit)}
    try:
        found = match_line(client, line, place, ranking, curves=False).swaps
    except DomainError:
        found = []
    # What stands on other kit first: it is asked for when the kit is taken.
    for other in sorted(found, key=lambda s: bool(items_of(s.set_up.set_up(), room) & taken)):
        if len(out) > INSTEAD:
            break
        if other.match < MATCHING or (other.title, other.kit) in seen or other.key == swap.key:
            continue
        seen.add((other.title, other.kit))
        again = evaluate_set_up(prescription, room, lens, other.set_up.set_up(), kept)
        out.append(_way(prescription, room, ranking, again, place_number, line))
    return out


def _way(prescription: PrescriptionProfile, room: Place, ranking: RankDoc, swap: Swap, place: int, line: LineDoc) -> CardWayDoc:
    set_up, lens = swap.set_up, ranking.resolve_lens()
    first = set_up.sources[0] if set_up.sources else None
    tolerances = dict[str, str]()
    for c in choices(prescription, room, lens, set_up, swap.match):
        step = STEP_OF.get(c.parameter.id)
        if step and step not in tolerances:
            tolerances[step] = adjustable_parameter_doc(c).words
    amounts = [CardAmountDoc(amount=float(a), words=_words(set_up, float(a))) for a in amounts_about(set_up, room)]
    failed = after_failure(swap)
    steps: list[CardStepDoc] = steps_of(set_up_rows(set_up, swap.variant), tolerances)
    return CardWayDoc(
        title=movement_name(swap),
        kit=kit_words(set_up),
        steps=steps,
        feel=[*movement(set_up.movement).cues(swap.variant), *to_see(prescription, swap), *([failed] if failed else [])],
        watch=cautions(swap),
        amount=first.amount if first else 0.0,
        load=load_words(set_up),
        amounts=amounts,
        reps=reps_words(swap.load.reps_low, swap.load.reps_high),
        aim=swap.load.reps_low,
        why="",
        expected="",
        figure=slim(ProfileDoc.of(set_up, swap.profile, prescription.line.target)),
        joints=_joint_torques(swap),
        basis=_basis(prescription, room, swap, place, line, ranking.law),
    )


def _words(set_up: SetUp, amount: float) -> str:
    return load_words(set_up.with_amount(amount)) if set_up.sources else "bodyweight"


def _joint_torques(swap: Swap) -> dict[str, float]:
    """By joint, the greatest torque over the movement, N·m."""
    out = dict[str, float]()
    for region, torque in swap.profile.demand.items():
        for name in {axis.split()[0] for axis in AXES[region]}:
            rows = [i for i, axis in enumerate(AXES[region]) if axis.split()[0] == name]
            out[name] = round(float(np.linalg.norm(torque[:, rows], axis=1).max()), 1)
    return out


def _basis(prescription: PrescriptionProfile, room: Place, swap: Swap, place: int, line: LineDoc, law: str) -> BasisDoc:
    set_up, written = swap.set_up, prescription.line.set_up
    amounts, marks = amounts_about(set_up, room), written_amounts(written)
    items = [s.item for s in set_up.sources if s.item is not None]
    ratios = effort_ratios(prescription, set_up, amounts)
    on_written = effort_ratios(prescription, written, marks)
    own = set_up == written or (not items and lift_name(set_up) == lift_name(written) and not written.sources)
    return BasisDoc(
        family=lift_name(set_up),
        items=[f"{place}/{i.id}" for i in items],
        item_names=[i.name for i in items],
        own=bool(own),
        known=all(s.known for s in set_up.sources),
        unit=set_up.sources[0].amount_unit if set_up.sources else "",
        amounts=[round(float(a), 4) for a in amounts],
        ratios=[round(float(r), 5) for r in ratios],
        written_unit=written.sources[0].amount_unit if written.sources else "",
        written_amounts=[round(float(a), 4) for a in marks],
        written_ratios=[round(float(r), 5) for r in on_written],
        written_low=line.reps_low,
        written_high=line.reps_high,
        rir=line.rir,
        amrap=line.amrap,
        law=law,
        target=line.target,
        amount=set_up.sources[0].amount if set_up.sources else 0.0,
        first_amount=swap.load.first_time,
        first_rir=swap.load.first_time_rir,
    )


def written_basis(client: ClientDoc, line: LineDoc, law: str) -> BasisDoc:
    """What sets of a written lift are read by, done as it is written, wherever that was."""
    prescription = core_prescription(client, line)
    written = prescription.line.set_up
    marks = written_amounts(written)
    ratios = [round(float(r), 5) for r in effort_ratios(prescription, written, marks)]
    amounts = [round(float(a), 4) for a in marks]
    first = written.sources[0] if written.sources else None
    return BasisDoc(
        family=lift_name(written), own=True, unit=first.amount_unit if first else "", amounts=amounts, ratios=ratios,
        written_unit=first.amount_unit if first else "", written_amounts=amounts, written_ratios=ratios,
        written_low=line.reps_low, written_high=line.reps_high, rir=line.rir, amrap=line.amrap, law=law, target=line.target,
        amount=first.amount if first else 0.0, first_amount=first.amount if first else 0.0, first_rir=line.rir,
    )  # fmt: skip


def _changes(before: CardDoc, lifts: Sequence[CardLiftDoc]) -> list[str]:
    """What is new against the card before, in words."""
    old = {lift.line: lift for lift in before.lifts}
    out = []
    for lift in lifts:
        held = old.get(lift.line)
        if held is None:
            out.append(f"{lift.name}: new")
        elif held.ways[0].title != lift.ways[0].title or held.ways[0].kit != lift.ways[0].kit:
            out.append(f"{lift.name}: {lift.ways[0].title} in place of {held.ways[0].title}")
        elif held.ways[0].load != lift.ways[0].load:
            out.append(f"{lift.name}: {lift.ways[0].load} in place of {held.ways[0].load}")
    out += [f"{held.name}: left out" for line, held in old.items() if line not in {x.line for x in lifts}]
    return out
