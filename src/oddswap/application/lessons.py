"""What a client's log teaches, kept until something new is logged; and advice from it."""

from __future__ import annotations

import datetime as dt
import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np
from cachetools import LRUCache

from oddswap.documents.client import ClientDoc, ComplaintDoc, LearnedDoc, LearnedKitDoc
from oddswap.documents.log import BasisDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.store import log
from oddswap.store.models import now
from oddswap.training_log.learning import Belief, Lesson, learn, pooled
from oddswap.training_log.progression import Advice, Case, Kind, chosen_by, next_time
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet, written_strength

T = TypeVar("T")
ORIGIN = dt.datetime(2020, 1, 1)
"""What days are counted from."""
BOOKS, NOTES, MORE_DAYS = 6, 1000, 30
"""Logs kept in memory, of which each takes megabytes, results kept that follow from one, and days that are read beyond those
that strengths are learned from; own choice."""
LEAST_SETS = 3
"""Sets from which on what was learned bears on conversions; own choice."""


def day_of(time: dt.datetime) -> float:
    """Days since ``ORIGIN``."""
    return (time - ORIGIN).total_seconds() / 86400


@dataclass(frozen=True, eq=False)
class Book:
    """A client's log as it holds today: entries in force, sets, and what they teach."""

    client: int
    entries: Sequence[log.Entry]
    sets: Sequence[LoggedSet]
    lesson: Lesson
    today: float
    conflicts: int = 0
    """How many of its entries disagree."""

    def of_lift(self, line: int, basis: BasisDoc) -> list[LoggedSet]:
        """Sets of a line in one set-up, in order."""
        mine = [s for s in self.sets if s.line == str(line) and s.family == basis.family and list(s.items) == list(basis.items)]
        return sorted(mine, key=lambda s: (s.day, s.order))

    def strength(self, line: int, basis: BasisDoc, day: float | None = None) -> Belief:
        """Strength in a line as it shows in a set-up, today or on a day."""
        if str(line) not in self.lesson.targets:
            # Nothing of this line was logged: what kit and kind of lift are off is known all the same.
            off = self.lesson.correction(basis.family, basis.items) if not basis.own else Belief(0.0, 0.0)
            base = float(np.log(written_strength(basis.written(), basis.law)))
            return Belief(base + off.mean, float(np.hypot(rules("prior")["strength"], off.spread)), 0)
        return self.lesson.strength(str(line), basis.family, basis.items, basis.own, self.today if day is None else day)


State = tuple[object, ...]
"""What a client's log was read from: the client, how far it goes, the day."""
_books: LRUCache[int, tuple[State, Book]] = LRUCache(BOOKS)
"""The newest book of a client, with what it was read from: every set makes another."""
_notes: LRUCache[tuple[int, object], tuple[State, Any]] = LRUCache(NOTES)
"""By client and name, what was read from the newest book: it outlasts the book."""
_lock = threading.Lock()
_learning: dict[int, threading.Lock] = {}
_learned: LRUCache[int, State] = LRUCache(NOTES)
"""By client, what the evidence that is kept was read from."""
_read: SharedCache[State, Book] = SharedCache(4)


def open_book(client: int, moment: dt.datetime | None = None) -> Book:
    """A client's log and what it teaches."""
    time = moment or now()
    return _open(client, _state(client, time, moment is None), time)


def noted(client: int, name: object, make: Callable[[Book], T]) -> T:
    """What follows from a client's log alone, by a name of its own: made once until something is logged, or the day ends."""
    time = now()
    state = _state(client, time, True)
    with _lock:
        held = _notes.get((client, name))
    if held is None or held[0] != state:
        held = state, make(_open(client, state, time))
        with _lock:
            _notes[client, name] = held
    made: T = held[1]
    return made


def _state(client: int, time: dt.datetime, to_the_end: bool) -> State:
    return client, *log.state(client), int(day_of(time)), to_the_end


def _open(client: int, state: State, time: dt.datetime) -> Book:
    to_the_end = bool(state[-1])
    with _lock:
        held = _books.get(client)
    if held is not None and held[0] == state:
        return held[1]
    made = _read.get(state, lambda: _read_book(client, time, to_the_end))
    if to_the_end:
        with _lock:
            _books[client] = state, made
    return made


def _read_book(client: int, time: dt.datetime, to_the_end: bool) -> Book:
    since = time - dt.timedelta(days=rules("window")["days"] + MORE_DAYS)
    every = log.entries(client, since)
    entries = [e for e in log.in_force(every) if to_the_end or e.done_at <= time]
    today = day_of(time)
    sets = logged_sets(entries)
    lesson = learn(sets, today, pooled(log.evidence(client)))
    return Book(client, entries, sets, lesson, today, len(log.in_conflict(every)))


def logged_sets(entries: Sequence[log.Entry]) -> list[LoggedSet]:
    """The sets among entries in force, each with its place among its lift's sets of the day."""
    out, seen = [], dict[tuple[int | None, int], int]()
    for one in entries:
        if one.document.kind != "set" or one.context is None or one.document.set is None:
            continue
        key = one.document.line, one.done_at.toordinal()
        order = seen.get(key, 0)
        seen[key] = order + 1
        out.append(one.context.basis.logged(one.document, day_of(one.done_at), order))
    return out


def learn_anew(client: int) -> None:
    """After something was logged: keep what this log says of kit for the others.

    Whoever comes while another learns waits, and has nothing to do where that one has heard what it brought.
    """
    with _lock:
        own = _learning.setdefault(client, threading.Lock())
    with own:
        state = _state(client, now(), True)
        with _lock:
            known = _learned.get(client)
        if known != state:
            log.keep_evidence(client, open_book(client).lesson.messages())
            with _lock:
                _learned[client] = state


def advise(book: Book, line: int, basis: BasisDoc, existing: Sequence[float], day: float | None = None) -> tuple[Case, Advice]:
    """What to do next time in a line's set-up, and what that follows from."""
    # Amounts that are not here are another place's.
    there = np.array(sorted(existing))
    every = book.of_lift(line, basis)
    amounts = np.array([s.amount for s in every])
    here = np.isclose(amounts[:, None], there[None, :], atol=1e-6).any(axis=1)
    sets = [s for s, is_here in zip(every, here, strict=True) if is_here and s.counts]
    at = book.today if day is None else day
    hurts = [e for e in book.entries if e.document.kind == "pain" and e.document.line == line]
    last = max((s.day for s in sets), default=-np.inf)
    hurting = any(day_of(e.done_at) >= last - 0.5 for e in hurts)
    case = Case(
        basis.written(), sets, basis.scale(), there, book.strength(line, basis, at), at,
        (basis.first_amount, basis.first_rir), hurting, gained(book, last, at), basis.law,
    )  # fmt: skip
    chosen = choice_of(book, line, basis, existing, last)
    return case, chosen_by(case, *chosen) if chosen else next_time(case)


def choice_of(
    book: Book, line: int, basis: BasisDoc, existing: Sequence[float], since: float
) -> tuple[Kind, float, int] | None:
    """Kind, amount and repetitions that a coach chose for a line's set-up since it was last done; None for none."""
    for e in reversed(book.entries):
        c = e.document.choice
        if c is None or e.document.line != line or e.context is None or day_of(e.done_at) < since:
            continue
        if (e.context.basis.family, e.context.basis.items) == (basis.family, basis.items) and c.amount in existing:
            return c.kind, c.amount, c.reps
    return None


def gained(book: Book, since: float, until: float) -> float:
    """Weight gained between two days by what was weighed, kg; 0 where that is not known."""
    weighed = [(day_of(e.done_at), e.document.mass_kg) for e in book.entries if e.document.mass_kg is not None]
    before = [m for d, m in weighed if d <= since + 0.5]
    after = [m for d, m in weighed if since + 0.5 < d <= until + 1]
    return float(after[-1] - before[-1]) if before and after else 0.0


def with_lessons(client: int, document: ClientDoc, place: int) -> ClientDoc:
    """A client with what the log taught of lifts and of kit at a place."""
    book = open_book(client)
    typed = {(x.movement, x.kit) for x in document.learned}
    out = list(document.learned)
    for family in sorted({s.family for s in book.sets if not s.own}):
        movement, kit = family.split(":", 1)
        sets = [s for s in book.sets if s.family == family and not s.own]
        if (movement, kit) in typed or len(sets) < LEAST_SETS:
            continue
        belief = book.lesson.correction(family, ())
        out.append(
            LearnedDoc(movement=movement, kit=kit, factor=_bounded(belief), sets=len(sets), spread=round(belief.spread, 2))
        )
    of_kit = list[LearnedKitDoc]()
    heard = pooled([*log.evidence(client), book.lesson.messages()])
    for item, (mean, precision) in sorted(heard.items()):
        where, _, name = item.partition("/")
        if where == str(place):
            spread = (precision + 1 / rules("prior")["item"] ** 2) ** -0.5
            told = Belief(mean * precision * spread**2, spread)
            of_kit.append(LearnedKitDoc(item=name, factor=_bounded(told), spread=round(spread, 2)))
    return document.model_copy(update={"learned": out[:500], "learned_kit": of_kit[:500], "complaints": complaints(book)})


def complaints(book: Book) -> list[ComplaintDoc]:
    """What the client told of lifts lately: pains, and lifts that felt wrong the last time."""
    out = dict[str, ComplaintDoc]()
    for e in book.entries:
        if e.context is None or book.today - day_of(e.done_at) > rules("next")["complaint_days"]:
            continue
        lift, told = e.context.basis.family, e.document.pain
        on = f"{e.done_at.day} {e.done_at:%b}"
        if told is not None:
            words = f"The {told.where} hurt in it on {on}: ranked down until that report is taken back in the log."
            out[lift] = ComplaintDoc(lift=lift, hurt=True, words=words)
        elif e.document.set is not None and not (lift in out and out[lift].hurt):
            out.pop(lift, None)
            if e.document.set.feel == "bad":
                words = f"It felt wrong on {on}: ranked down until a set of it feels right."
                out[lift] = ComplaintDoc(lift=lift, hurt=False, words=words)
    return list(out.values())


def _bounded(belief: Belief) -> float:
    return round(float(np.clip(belief.factor, 0.5, 2.0)), 2)
