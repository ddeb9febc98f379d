"""What lifts hold up and need set at a place: kit, bench, settings and time, as what plans sessions sees them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import replace

import numpy as np

from oddswap.application.week import profile_of, work_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.documents.words import bench_words
from oddswap.equipment.base.floor import Spot
from oddswap.equipment.base.item import KitItem
from oddswap.equipment.base.setting import Setting
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variant_list import is_station
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.planning.session import Lift, heaviness_of, rest_after, session_rules


def items_of(set_up: SetUp, room: Place) -> set[str]:
    """Ids of the kit that a set-up holds up."""
    out = {item for s in set_up.sources if (item := item_of(s, room))}
    return out | {rest for rest in (bench_of(set_up, room), pad_of(set_up, room)) if rest} | stations_of(set_up, room)


def kit_needed(set_up: SetUp, room: Place) -> set[str]:
    """Ids of all kit without which a set-up cannot be done: what it holds up, what it is held by, and what bands hang from."""

    contact = set_up.support.contact

    def stands(kit: Sequence[KitItem]) -> bool:
        return all(s.can_be_held(kit, contact) and s.can_be_hung(kit) for s in set_up.sources)

    others = [k for k in room.kit if k.anchor_heights_cm or not k.loads] if stands(room.kit) else []
    return items_of(set_up, room) | {k.id for k in others if not stands([x for x in room.kit if x is not k])}


def item_of(source: Setting, room: Place) -> str:
    """Id of the item that a source is from: of several sets of dumbbells the first that has the mass; empty for none."""
    there = [k for k in room.kit if source.is_from(k)]
    exact = [k.id for k in there if bool(np.isclose(k.amounts(), source.amount).any())]
    return next(iter([*exact, *(k.id for k in there)]), "")


def bench_of(set_up: SetUp, room: Place) -> str:
    """Id of the bench that a set-up needs; empty for none, or for a machine's own seat."""
    if set_up.stance not in ("bench", "chest_supported") or set_up.on_machine:
        return ""
    return next((k.id for k in room.kit if set_up.recline_deg in k.notches or (set_up.recline_deg >= 85 and k.notches)), "")


def pad_of(set_up: SetUp, room: Place) -> str:
    """Id of the pad, or of the bench, that carries the upper arm; empty for none, or for a machine's own."""
    if not set_up.pad or set_up.on_machine:
        return ""
    angle = set_up.variant().values["arm_angle_deg"]
    pads = [k.id for k in room.kit if angle in k.pad_angles] or [k.id for k in room.kit if k.pad_angles]
    return next(iter(pads or [k.id for k in room.kit if angle in k.angles_over_rest]), "")


def stations_of(set_up: SetUp, room: Place) -> set[str]:
    """Ids of what a set-up hangs from, steps on or leans against, the first of each sort that it needs."""
    kind = movement(set_up.movement)
    needed = () if set_up.on_machine else kind.needs(kind.complete(set_up.parameters))
    return {k.id for k in (next((k for k in room.kit if is_station(k, group)), None) for group in needed) if k is not None}


def settings_of(set_up: SetUp, room: Place) -> dict[tuple[str, str], str]:
    """What must stand how, by item and name."""
    out: dict[tuple[str, str], str] = {}
    for source in set_up.sources:
        item = item_of(source, room) or source.kind
        out |= {(item, row.what): row.value for row in source.rows()}
        out[item, "load"] = source.amount_words(source.amount)
    if bench := bench_of(set_up, room):
        lines = [item_of(s, room) for s in set_up.sources if s.line]
        out[bench, "bench"], out[bench, "bench_to"] = bench_words(set_up.recline_deg), lines[0] if lines else ""
    return out


def lift_of(
    client: ClientDoc, number: int, line: LineDoc, chosen: SetUpDoc, room: Place, spots: Mapping[str, Spot],
    priority: bool = False, crowded: AbstractSet[str] = frozenset(),
) -> Lift:  # fmt: skip
    """A line as it is done at a place, for what plans sessions.

    Args:
        client: Who.
        number: The line's.
        line: What is prescribed.
        chosen: The set-up there.
        room: The place.
        spots: Where its items stand, by id.
        priority: Whether the line is for a muscle that matters most.
        crowded: Ids of what is crowded at that hour.
    """
    set_up, rule = chosen.set_up(), session_rules()
    works = {g: float(v.sum()) / line.sets for g, v in work_of(client, line, chosen).items()}
    per_rep = float(sum(line.tempo)) if len(line.tempo) >= 3 else rule["rep_s"]
    planned = line.planned()
    once = sum(s.low + s.high for s in planned) / (2 * len(planned)) * per_rep
    sides = 1 if set_up.both_sides and not line.each_side else 2
    items = items_of(set_up, room)
    standing = [i for i in sorted(items) if i in spots and not next(k for k in room.kit if k.id == i).carried_about]
    at = standing or [i for i in sorted(items) if i in spots]
    spot = (spots[at[0]].x, spots[at[0]].y) if at else None
    held = sorted(items, key=lambda i: (i not in standing, i))
    seconds = sides * once + (sides - 1) * rule["turn_s"]
    made = Lift(
        number, line.name, line.sets, seconds, 0.0, tuple(held),
        settings_of(set_up, room), spot, works, line.label[:1], priority, bool(items & crowded),
    )  # fmt: skip
    try:
        heaviness = heaviness_of(LiftKind.of(profile_of(client, chosen).motion))
    except DomainError:
        heaviness = made.heaviness
    rest = line.rest_s if line.rest_s is not None else rest_after(heaviness)
    return replace(made, rest_s=float(rest), heaviness=heaviness)
