"""A session on the floor: which set-ups, in which order, in how many minutes; and what to do where a station is taken."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.application.inputs import core_place
from oddswap.application.matching import match_line
from oddswap.application.stations import items_of, lift_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import SwapDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.session import BlockDoc, CutDoc, SessionPlanDoc, SessionWishDoc, SetDoc, StepDoc
from oddswap.equipment.base.floor import Spot, lay_out
from oddswap.equivalence.prescription import Place
from oddswap.errors import DomainError
from oddswap.mechanics.muscles import muscle_table
from oddswap.planning.scheduling import Cut, cut_to, plan_session
from oddswap.planning.session import Block, Lift, Session, session_rules, walk_m
from oddswap.quantities import shown_in

NEAR_M = 3.5
"""How far from its middle a corner reaches, m (own estimate)."""


@dataclass(frozen=True)
class Chosen:
    """A line with the swap that it is done by here."""

    line: LineDoc
    swap: SwapDoc
    accepted: bool


def lay_out_session(
    client: ClientDoc,
    name: str,
    lines: Sequence[tuple[int, LineDoc]],
    place: PlaceDoc,
    accepted: Mapping[int, SwapDoc],
    wish: SessionWishDoc,
    ranking: RankDoc,
) -> SessionPlanDoc:
    """A session over time.

    Args:
        client: Who.
        name: The session's.
        lines: Its lines with their numbers, in order.
        place: Where.
        accepted: Swaps in force there, by line.
        wish: How it is to be laid out.
        ranking: Lens and filters for lines without a swap, or whose kit is taken.

    Raises:
        DomainError: For kit that is not there.
    """
    room = core_place(place)
    spots = {s.item: s for s in lay_out(place.kit, place.room.room(), place.chosen_spots())}
    away = _left_out(room, spots, wish)
    chosen, missing = dict[int, Chosen](), list[str]()
    for number, line in lines:
        held = accepted.get(number)
        if held is not None and not away & items_of(held.set_up.set_up(), room):
            chosen[number] = Chosen(line, held, True)
            continue
        try:
            without = sorted({*ranking.without, *away})
            found = match_line(client, line, place, ranking.model_copy(update={"without": without}), curves=False).swaps
        except DomainError as error:
            found, reason = [], error.limit
        else:
            reason = "nothing here is like enough"
        if found:
            chosen[number] = Chosen(line, found[0], False)
        else:
            missing.append(f"{line.name}: {reason}.")
    crowded = {b.item for b in place.busy if _crowded(b.days, b.start, b.end, wish)}
    lifts = [
        lift_of(client, number, one.line, one.swap.set_up, room, spots, one.line.target in wish.priority, crowded)
        for number, one in chosen.items()
    ]
    cuts, session = _fitted(lifts, wish)
    alone = plan_session([x for b in session.blocks for x in b.lifts], wish.school, pairs=False)
    with shown_in(client.units):
        return _document(client, name, place, chosen, session, cuts, alone, missing, crowded)


def _fitted(lifts: Sequence[Lift], wish: SessionWishDoc) -> tuple[list[Cut], Session]:
    if wish.minutes is not None:
        return cut_to(lifts, wish.minutes * 60, wish.school, wish.pairs)
    return [], plan_session(lifts, wish.school, wish.pairs)


def _left_out(room: Place, spots: Mapping[str, Spot], wish: SessionWishDoc) -> set[str]:
    """Ids of what is taken, and of what stands too far off where one stays in a corner."""
    ids = [k.id for k in room.kit]
    for field, item in [("corner", wish.corner), *(("without", one) for one in wish.without)]:
        if item and item not in ids:
            raise DomainError(f"wish.{field}", item, "an item of this place's kit", "Pick one of its items")
    out = set(wish.without)
    if wish.corner and (middle := spots.get(wish.corner)) is not None:
        fast = [k.id for k in room.kit if not k.carried_about and k.id in spots]
        out |= {i for i in fast if np.hypot(spots[i].x - middle.x, spots[i].y - middle.y) > NEAR_M}
    return out


def _crowded(days: Sequence[str], start: str, end: str, wish: SessionWishDoc) -> bool:
    return bool(wish.start) and (not days or not wish.day or wish.day in days) and start <= wish.start < end


def _document(
    client: ClientDoc, name: str, place: PlaceDoc, chosen: Mapping[int, Chosen], session: Session, cuts: Sequence[Cut],
    alone: Session, missing: Sequence[str], crowded: set[str],
) -> SessionPlanDoc:  # fmt: skip
    names = {k.id: k.name for k in place.kit}
    blocks, held, walked = list[BlockDoc](), dict[tuple[str, str], str](), 0.0
    before: Block | None = None
    for block, begins, move in zip(session.blocks, session.begins_s, session.moves_s, strict=True):
        steps = []
        for lift, starts in zip(block.lifts, block.set_starts(), strict=True):
            one = chosen[lift.id]
            new = [
                f"{value}"
                for key, value in lift.settings.items()
                if held.get(key) != value and key[1] not in ("load", "bench_to")
            ]
            held |= lift.settings
            sets = [SetDoc(begins_s=round(begins + t, 1), lasts_s=round(lift.set_s, 1)) for t in starts]
            reps = f"{lift.sets} × {one.swap.load.reps}" + (" each side" if one.line.each_side else "")
            steps.append(
                StepDoc(
                    line=lift.id, name=one.line.name, title=one.swap.title, kit=one.swap.kit, load=one.swap.load.words,
                    reps=reps, items=list(lift.items), stations=[names[i] for i in lift.items], sets=sets, rest_s=lift.rest_s,
                    heaviness=lift.heaviness, accepted=one.accepted, match=one.swap.match, set_up=new,
                )
            )  # fmt: skip
        ring = [*block.lifts, block.lifts[0]] if len(block.lifts) > 1 else []
        walked += block.rounds * sum(walk_m(a, b) for a, b in itertools.pairwise(ring))
        walked += walk_m(before.lifts[-1], block.lifts[0]) if before else 0.0
        ends = begins + block.duration_s
        blocks.append(
            BlockDoc(
                steps=steps, move_s=round(move, 1), begins_s=round(begins, 1), ends_s=round(ends, 1), why=_why(block, chosen)
            )
        )
        before = block
    by_name = {number: one.line.name for number, one in chosen.items()}
    notes = [f"{by_name[o.then]} comes before {by_name[o.first]}: {o.why} would be better." for o in session.broken if o.why]
    notes += [f"{names[i]}: crowded at this hour." for i in sorted(crowded)]
    return SessionPlanDoc(
        session=name, client=client.name, place=place.name, minutes=round(session.duration_s / 60, 1),
        arrive_s=float(session_rules()["arrive_s"]), walked_m=round(walked, 1), blocks=blocks, proven=session.proven,
        gap_s=round(max(0.0, session.cost - session.bound), 1), alone_minutes=round(alone.duration_s / 60, 1),
        cuts=[CutDoc(line=c.lift, words=_cut_words(c)) for c in cuts], missing=list(missing), notes=notes,
    )  # fmt: skip


def _cut_words(cut: Cut) -> str:
    saved = f"saves {max(1, round(cut.saved_s / 60))} min"
    return f"{cut.name}: {f'{cut.sets} sets instead of {cut.sets + 1}' if cut.sets else 'left out'}, {saved}."


def _why(block: Block, chosen: Mapping[int, Chosen]) -> str:
    """What speaks for a block, in words."""
    if len(block.lifts) == 1:
        lift = block.lifts[0]
        name = muscle_table().groups[chosen[lift.id].line.target].name
        heavy = ", heavy: rest in full" if lift.heaviness >= session_rules()["heavy_from"] else ""
        return f"For the {name}{heavy}."
    if block.lifts[0].group:
        return f"In turns as written: group {block.lifts[0].group}."
    saved = sum(Block((lift,)).duration_s for lift in block.lifts) - block.duration_s
    return f"In turns: one rests while the other works; saves {round(saved / 60)} min."
