"""Noting what was done: from a phone by its card, or at the desk; and what the log says."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence

import numpy as np

from oddswap.application.lessons import ORIGIN, Book, advise, learn_anew, logged_sets, open_book
from oddswap.application.rotation import due_lifts, still_due
from oddswap.documents.card import CardDoc
from oddswap.documents.log import ChoiceDoc, EntryDoc, LoggedSetDoc, OutboxDoc
from oddswap.documents.log_context import ContextDoc
from oddswap.documents.log_view import (
    AdviceDoc,
    ConflictDoc,
    LiftLogDoc,
    LogDoc,
    LoggedPointDoc,
    OtherDoc,
    PainSeenDoc,
    SessionPointDoc,
    ShiftDoc,
    SideDoc,
    TaughtDoc,
    TrendDoc,
    WeighedDoc,
)
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.conversion import FOUR_OF_FIVE
from oddswap.errors import DomainError
from oddswap.quantities import units_shown
from oddswap.store import log
from oddswap.store.models import now
from oddswap.training_log.learning import Shift, shifts
from oddswap.training_log.progression import Advice, other_choices, side_difference
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet, written_load, written_strength

CLOCK_S = 120
"""Seconds that a clock may be off without being set right; own choice."""


LOGS = 2
"""Logs kept as they are shown; own choice: a long one takes some megabytes."""
_logs: SharedCache[object, LogDoc] = SharedCache(LOGS)


def receive(client: int, outbox: OutboxDoc, cards: Mapping[int, CardDoc], place: int) -> list[str]:
    """Keep what a phone sends; returns the ids that are kept now, all or none.

    Args:
        client: Whose card it is.
        outbox: What is sent, and the phone's clock.
        cards: By revision, what the card said; 0 for the newest.
        place: Where.

    Raises:
        DomainError: For a line or way that the card has not.
    """
    off = outbox.sent_at - dt.datetime.now(dt.UTC)
    off_s = round(off.total_seconds()) if abs(off.total_seconds()) > CLOCK_S else 0
    made = []
    for i, entry in enumerate(outbox.entries):
        done_at = (entry.at - dt.timedelta(seconds=off_s)).astimezone(dt.UTC).replace(tzinfo=None)
        context = (
            _context(entry, cards.get(entry.revision, cards[0]), f"entries.{i}")
            if entry.line is not None and entry.kind in ("set", "pain")
            else None
        )
        made.append(log.NewEntry(entry, min(done_at, now()), off_s, context, place))
    kept = log.append(client, made)
    learn_anew(client)
    return kept


def choose(client: int, key: str, like: str, choice: ChoiceDoc) -> None:
    """Note what a coach chose for next time in the set-up of a logged set; it counts until that is done again.

    Args:
        client: Whose.
        key: Id of the choice.
        like: Id of a set in the set-up.
        choice: What was chosen.

    Raises:
        DomainError: Where there is no such set.
    """
    held = _logged(client, like, "like")
    document = held.document.model_copy(
        update={"id": key, "kind": "choice", "set": None, "choice": choice, "replaces": None, "note": "", "at": _now()}
    )
    log.append(client, [log.NewEntry(document, now(), 0, held.context, held.place)])


def fix(client: int, key: str, replaces: str, change: Mapping[str, object]) -> None:
    """Note a set anew in place of one that was wrong; that one stays readable.

    Args:
        client: Whose.
        key: Id of the new entry.
        replaces: Id of the wrong one.
        change: Fields of the set that were wrong.

    Raises:
        DomainError: Where there is no such set.
    """
    held = _logged(client, replaces, "replaces")
    assert held.document.set is not None  # a set's entry
    made = LoggedSetDoc.model_validate(held.document.set.model_dump() | dict(change))
    document = held.document.model_copy(update={"id": key, "set": made, "replaces": replaces, "device": "desk"})
    log.append(client, [log.NewEntry(document, held.done_at, held.off_s, held.context, held.place)])
    learn_anew(client)


def take_back(client: int, key: str, replaces: str) -> None:
    """Take an entry back; it stays readable, and taking this one back brings it again.

    Raises:
        DomainError: Where there is none.
    """
    if not any(e.key == replaces for e in log.entries(client)):
        raise DomainError("replaces", replaces, "an entry of this client's log", "Read the log again")
    document = EntryDoc(id=key, kind="withdrawn", at=_now(), device="desk", replaces=replaces)
    log.append(client, [log.NewEntry(document, now())])
    learn_anew(client)


def _logged(client: int, key: str, field: str) -> log.Entry:
    held = next((e for e in log.entries(client) if e.key == key and e.document.set is not None), None)
    if held is None:
        raise DomainError(field, key, "a set of this client's log", "Read the log again")
    return held


def _now() -> dt.datetime:
    return dt.datetime.now(dt.UTC)


def _context(entry: EntryDoc, card: CardDoc, field: str) -> ContextDoc:
    lift = next((x for x in card.lifts if x.line == entry.line), None)
    if lift is None:
        raise DomainError(f"{field}.line", entry.line, "a line of this card", "Open the card anew")
    if entry.way >= len(lift.ways):
        raise DomainError(f"{field}.way", entry.way, f"one of the {len(lift.ways)} ways of the card", "Open the card anew")
    way = lift.ways[entry.way]
    return ContextDoc(
        line_name=lift.name, session=card.session, title=way.title, kit=way.kit, place_name=card.place,
        revision=card.revision, basis=way.basis,
    )  # fmt: skip


def read_log(client: int, name: str) -> LogDoc:
    """All that the log says of a client today; made once until something is logged."""
    book = open_book(client)
    made = _logs.get((book, name, units_shown()), lambda: _read_log(client, name, book))
    # What was accepted since is no matter of the log.
    due = still_due([(lift.line, d) for lift in made.lifts for d in lift.due])
    lifts = [lift.model_copy(update={"due": [d for line, d in due if line == lift.line]}) for lift in made.lifts]
    return made.model_copy(update={"lifts": lifts})


def _read_log(client: int, name: str, book: Book) -> LogDoc:
    every = log.entries(client)
    holding = log.in_force(every)
    sets = logged_sets(holding)
    by_key = {e.key: e for e in every}
    lifts = []
    for line in sorted({s.line for s in sets}, key=lambda x: -max(s.day for s in sets if s.line == x)):
        mine = sorted((s for s in sets if s.line == line), key=lambda s: (s.day, s.order))
        lifts.append(_lift(book, int(line), mine, by_key))
    pains = [e for e in holding if e.document.kind == "pain"]
    return LogDoc(
        client=name,
        sets=len(sets),
        lifts=lifts,
        taught=_taught(book, by_key),
        shifts=[_shift(s, by_key) for s in shifts(book.lesson)],
        pains=[_pain(e) for e in reversed(pains)],
        conflicts=[
            ConflictDoc(key=e.key, at=e.done_at.replace(tzinfo=dt.UTC), words=_words(e), device=e.document.device)
            for e in log.in_conflict(every)
        ],
        weights=[
            WeighedDoc(at=e.done_at.replace(tzinfo=dt.UTC), mass_kg=e.document.mass_kg)
            for e in holding
            if e.document.mass_kg is not None
        ],
        clock_off_h=round(max((abs(e.off_s) for e in every), default=0) / 3600, 1),
    )


def _lift(book: Book, line: int, mine: Sequence[LoggedSet], by_key: Mapping[str, log.Entry]) -> LiftLogDoc:
    context = by_key[mine[-1].id].context
    assert context is not None  # sets have one
    points = [_point(s, by_key[s.id], 0.0 if s.own else book.lesson.correction(s.family, s.items).mean) for s in mine]
    next_up = []
    for key in dict.fromkeys(_way(s, by_key) for s in reversed(mine)):
        entry = by_key[next(s for s in reversed(mine) if _way(s, by_key) == key).id]
        assert entry.context is not None  # as above
        basis = entry.context.basis
        case, advice = advise(book, line, basis, basis.amounts)
        next_up.append(_advice(entry, advice, other_choices(case, advice), basis.unit))
    base = context.basis
    return LiftLogDoc(
        line=line,
        name=context.line_name,
        target=base.target,
        unit=base.written_unit,
        written=_written_words(base.written_amounts),
        points=points,
        trend=_trend(book, mine),
        sessions=_sessions(mine),
        next=next_up[:5],
        due=due_lifts(book, line, mine, by_key),
        sides=_sides(mine),
    )


def _way(s: LoggedSet, by_key: Mapping[str, log.Entry]) -> object:
    """What tells set-ups apart: the lift, its items, and the place, since other amounts are there."""
    return s.family, tuple(s.items), by_key[s.id].place


def _written_words(amounts: Sequence[float]) -> float:
    """The written amount: the middle of the marks about it."""
    return round(amounts[len(amounts) // 2], 2)


def _point(s: LoggedSet, entry: log.Entry, off: float) -> LoggedPointDoc:
    assert entry.context is not None  # a set's entry
    assert entry.document.set is not None  # as above
    d = entry.document.set
    return LoggedPointDoc(
        id=entry.key, at=entry.done_at.replace(tzinfo=dt.UTC), value=round(written_load(s, off), 3), amount=d.amount,
        unit=entry.context.basis.unit, reps=d.reps, left=d.left, right=d.right, rir=d.rir, partials=d.partials,
        drops=list(d.drops), felt=list(d.felt), note=entry.document.note, title=entry.context.title,
        kit=entry.context.kit, place=entry.context.place_name, order=s.order, fixed=entry.document.replaces is not None,
    )  # fmt: skip


def _trend(book: Book, mine: Sequence[LoggedSet]) -> list[TrendDoc]:
    """The written load that would have been right, by what is known today, over the days of the window."""
    line, out = mine[-1].line, []
    window = [s for s in mine if s.day >= book.today - rules("window")["days"]]
    if not window or line not in book.lesson.targets:
        return []
    days = np.unique([int(s.day) for s in window])
    for day in days:
        belief = book.lesson.strength(line, "", (), True, float(day))
        base = float(np.log(written_strength(mine[-1].written, mine[-1].law)))
        at = [
            mine[-1].scale.written_at(float(np.exp(belief.mean + k * belief.spread - base)))
            for k in (0.0, -FOUR_OF_FIVE, FOUR_OF_FIVE)
        ]
        out.append(TrendDoc(at=_date(float(day)), value=round(at[0], 3), low=round(at[1], 3), high=round(at[2], 3)))
    return out


def _sessions(mine: Sequence[LoggedSet]) -> list[SessionPointDoc]:
    out = []
    for day in sorted({int(s.day) for s in mine}):
        of_day = [s for s in mine if int(s.day) == day]
        out.append(SessionPointDoc(at=_date(float(day)), best=round(max(written_load(s) for s in of_day), 3), sets=len(of_day)))
    return out


def _sides(mine: Sequence[LoggedSet]) -> SideDoc | None:
    off = side_difference(mine[-12:])
    if off is None:
        return None
    before = side_difference(mine[-24:-12])
    return SideDoc(left_ahead=round(off, 1), before=round(before, 1) if before is not None else None)


def _advice(entry: log.Entry, advice: Advice, others: Sequence[Advice], unit: str) -> AdviceDoc:
    assert entry.context is not None  # a set's entry
    return AdviceDoc(
        title=entry.context.title, kit=entry.context.kit, place=entry.context.place_name, kind=advice.kind,
        amount=advice.amount, unit=unit, like=entry.key, rir=entry.context.basis.rir, reps=advice.reps, reason=advice.reason,
        expected=[round(x, 1) for x in advice.expected],
        others=[OtherDoc(kind=o.kind, amount=o.amount, reps=o.reps, why=o.reason) for o in others],
    )  # fmt: skip


def _taught(book: Book, by_key: Mapping[str, log.Entry]) -> list[TaughtDoc]:
    """What was learned of kinds of lift on kit, the surest first."""
    out = []
    for family, items in dict.fromkeys((s.family, tuple(s.items)) for s in book.sets if not s.own):
        mine = [s for s in book.sets if s.family == family and tuple(s.items) == items]
        context = by_key[mine[-1].id].context
        assert context is not None  # sets have one
        belief = book.lesson.correction(family, items)
        low, high = belief.between()
        names = context.basis.item_names
        out.append(
            TaughtDoc(
                title=context.title,
                kit=" + ".join(names) or context.kit,
                place=context.place_name,
                factor=round(belief.factor, 3),
                low=round(low, 3),
                high=round(high, 3),
                sets=len(mine),
                sure=bool(low > 1.0 or high < 1.0),
            )
        )
    return sorted(out, key=lambda t: (not t.sure, t.high - t.low))


def _shift(one: Shift, by_key: Mapping[str, log.Entry]) -> ShiftDoc:
    place, _, item = one.item.partition("/")
    by = round(float(np.expm1(one.by)), 3)
    return ShiftDoc(item=item, place=int(place), name=_item_name(one.item, by_key), since=_date(one.day), by=by)


def _item_name(item: str, by_key: Mapping[str, log.Entry]) -> str:
    for entry in by_key.values():
        if entry.context is not None and item in entry.context.basis.items:
            return f"{entry.context.basis.item_names[entry.context.basis.items.index(item)]}, {entry.context.place_name}"
    return item


def _pain(e: log.Entry) -> PainSeenDoc:
    assert e.document.pain is not None  # a pain's entry
    p = e.document.pain
    lift = e.context.title if e.context else ""
    return PainSeenDoc(
        key=e.key, at=e.done_at.replace(tzinfo=dt.UTC), line=e.document.line, lift=lift, where=p.where, when=p.when,
        note=e.document.note,
    )  # fmt: skip


def _words(e: log.Entry) -> str:
    s = e.document.set
    lift = e.context.line_name if e.context else ""
    return f"{lift}: {s.amount:g} {e.context.basis.unit if e.context else ''} × {s.reps}" if s else f"{lift}: {e.document.kind}"


def _date(day: float) -> dt.date:
    return (ORIGIN + dt.timedelta(days=day)).date()
