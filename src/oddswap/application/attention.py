"""What asks for a coach, over all clients: each opens where it is dealt with."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator

from oddswap.application.lessons import ORIGIN, Book, advise, noted
from oddswap.application.rotation import due_lifts, still_due
from oddswap.documents.attention import AttentionDoc, AttentionItemDoc
from oddswap.documents.log_view import DueDoc
from oddswap.store import cards, records, swaps
from oddswap.store.models import now
from oddswap.training_log.learning import shifts
from oddswap.training_log.progression import side_difference
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet

ORDER = ("pain", "conflict", "shift", "stale", "falling", "plateau", "unopened", "sides", "rotation", "clock")
"""What is most pressing first; own choice."""
PAIN_DAYS, UNOPENED_DAYS = 21, 2
"""Days that a pain stays on the list, and that a card may lie unopened; own choice."""


def attention() -> AttentionDoc:
    """All that asks for a coach now."""
    items = [one for number in records.client_ids() for one in _of_client(number)]
    return AttentionDoc(items=sorted(items, key=lambda x: (ORDER.index(x.what), x.client)))


def _of_client(number: int) -> Iterator[AttentionItemDoc]:
    name = records.client_name(number)
    due: dict[str, list[DueDoc]] = {}
    for line, one in still_due(noted(number, "due", _due)):
        due.setdefault(f"/clients/{number}/log#{line}", []).append(one)
    for item in noted(number, ("attention", name), lambda book: list(_of_log(number, name, book))):
        # A lift without progress that a change is due for is told once.
        if not (item.what == "plateau" and item.path in due):
            yield item
    for path, lifts in due.items():
        places = " and ".join(dict.fromkeys(d.place_name for d in lifts))
        yield _item("rotation", number, name, f"{lifts[0].title}, {places}: {lifts[0].words}", None, path)
    for card in cards.cards_of(number):
        waited = (now() - card.made_at).days
        if card.holds and card.opened_at is None and waited >= UNOPENED_DAYS:
            words = f"{card.session_name} at {card.place_name}: not opened for {waited} days"
            yield _item("unopened", number, name, words, card.made_at.date(), f"/clients/{number}/log")
    for stale in swaps.stale_swaps(number):
        words = f"{stale.name}: what was accepted is now {stale.swap.match_now:.0f} of 100"
        yield _item("stale", number, name, words, None, f"/lines/{stale.swap.line}/at/{stale.swap.place}")


def _of_log(number: int, name: str, book: Book) -> Iterator[AttentionItemDoc]:
    path = f"/clients/{number}/log"
    for e in book.entries:
        if e.document.pain is not None and (now() - e.done_at).days <= PAIN_DAYS:
            p = e.document.pain
            lift = e.context.title if e.context else "a lift"
            words = f"{p.where}, {p.when} of {lift}"
            yield _item("pain", number, name, words, e.done_at.date(), f"{path}#{e.document.line}")
    if book.conflicts:
        yield _item("conflict", number, name, f"{book.conflicts} entries disagree", None, path)
    for s in shifts(book.lesson):
        place, _, item = s.item.partition("/")
        words = f"{item} pulls {abs(s.by):.0%} {'lighter' if s.by > 0 else 'heavier'} since then: measure it again"
        yield _item("shift", number, name, words, (ORIGIN + dt.timedelta(days=s.day)).date(), f"/measuring/{place}/{item}")
    yield from _of_lifts(number, name, book, path)


def _due(book: Book) -> list[tuple[int, DueDoc]]:
    by_key = {e.key: e for e in book.entries}
    lines: dict[str, list[LoggedSet]] = {}
    for s in book.sets:
        lines.setdefault(s.line, []).append(s)
    return [(int(line), d) for line, mine in sorted(lines.items()) for d in due_lifts(book, int(line), mine, by_key)]


def _of_lifts(number: int, name: str, book: Book, path: str) -> Iterator[AttentionItemDoc]:
    by_key = {e.key: e for e in book.entries}
    for line in sorted({s.line for s in book.sets}):
        mine = sorted((s for s in book.sets if s.line == line), key=lambda s: (s.day, s.order))
        context = by_key[mine[-1].id].context
        if context is None or book.today - mine[-1].day > rules("next")["rotate_days"]:
            continue
        _, advice = advise(book, int(line), context.basis, context.basis.amounts)
        if advice.kind == "deload" or (advice.kind == "swap" and "hurt" not in advice.reason):
            what = "falling" if advice.kind == "deload" else "plateau"
            yield _item(what, number, name, f"{context.title}: {advice.reason}", None, f"{path}#{line}")
        off = side_difference(mine[-12:])
        if off is not None and abs(off) >= rules("next")["sides"]:
            ahead = "left" if off > 0 else "right"
            words = f"{context.title}: {ahead} {abs(off):.1f} repetitions ahead"
            yield _item("sides", number, name, words, None, f"{path}#{line}")


def _item(what: str, client: int, name: str, words: str, since: dt.date | None, path: str) -> AttentionItemDoc:
    return AttentionItemDoc(what=what, client=client, client_name=name, words=words, since=since, path=path)
