"""A card as it stands today: made anew where a swap, a program, a place or the log has moved since."""

from __future__ import annotations

import datetime as dt

from oddswap.application.handing_over import Chosen, make_card
from oddswap.application.lessons import open_book
from oddswap.application.versions import digest
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.card import CardDoc
from oddswap.documents.program import BlockWeekDoc
from oddswap.documents.ranking import RankDoc
from oddswap.store import cards, log, programs, records, swaps
from oddswap.store.models import now


def build_card(session: int, place: int, before: CardDoc | None = None, moment: dt.datetime | None = None) -> CardDoc:
    """What a card for a session at a place would say now.

    Raises:
        MissingError: If there is no such session or place.
        DomainError: Where nothing was accepted there.
    """
    held, where = programs.session(session), records.place(place)
    record, book = records.client(held.client), open_book(held.client, moment)
    accepted = {s.line: AcceptedDoc.model_validate_json(s.document).swap for s in _accepted(session, place)}
    chosen = [Chosen(number, line, accepted.get(number)) for number, line in held.lines]
    program, day = programs.program(held.program).document, moment or now()
    number = program.week_on(day.date())
    week = program.weeks[number] if number is not None else BlockWeekDoc()
    said = "" if number is None else f"week {number + 1} of {len(program.weeks)}{f', {week.name}' if week.name else ''}"
    names = {"coach": records.coach_name(), "program": program.name, "session": held.name, "week": said}
    ranking = RankDoc(lens=records.settings().lens)
    return make_card(record.document, names, chosen, where.document, place, ranking, book, day, before, week.week())


def _accepted(session: int, place: int) -> list[swaps.AcceptedSwapRecord]:
    held = programs.session(session)
    return [s for s in swaps.accepted([number for number, _ in held.lines]) if s.place == place]


def card_digest(session: int, place: int, moment: dt.datetime | None = None) -> str:
    """Names what a card for a session at a place says: its swaps, lines and client, and the log up to yesterday."""
    held = programs.session(session)
    time = moment or now()
    today = dt.datetime.combine(time.date(), dt.time())
    logged = log.state(held.client, today)
    parts = [f"{s.id} {s.line}" for s in _accepted(session, place)]
    lines = [f"{number} {line.model_dump_json()}" for number, line in held.lines]
    client = records.client(held.client).document.model_dump_json()
    program = programs.program(held.program).document
    block = f"{program.starts} {[w.model_dump_json() for w in program.weeks]}"
    return digest("card", held.name, block, *parts, *lines, client, str(logged), str(time.date()))


def card_today(card: cards.CardRecord) -> CardDoc:
    """What a card says today, a new revision where something has moved since the last.

    Raises:
        DomainError: Where nothing is accepted for it any more.
    """
    name = card_digest(card.session, card.place)
    held = cards.newest_revision(card.id)
    if held is not None and held[1] == name:
        return held[2]
    made = build_card(card.session, card.place, held[2] if held else None)
    if held is not None and _same(held[2], made):
        return held[2]
    return cards.add_revision(card.id, name, made)


def _same(one: CardDoc, other: CardDoc) -> bool:
    """Whether two cards say the same, whenever they were made."""
    blank = {"made_at": one.made_at, "revision": one.revision, "changed": one.changed}
    return one == other.model_copy(update=blank)
