"""Cards: handed out by a link that cannot be guessed, renewed, withdrawn; what each said at a time."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from oddswap.documents.card import CardDoc
from oddswap.store import editing, programs
from oddswap.store.models import Card, CardRevision, Place, Session, database, now

LASTS = dt.timedelta(days=120)
"""How long a link holds (own choice: a training block and some weeks)."""
LINK_BYTES = 24
"""Random bytes of a link: 192 bits cannot be guessed."""


class ClosedError(LookupError):
    """A link that opens nothing."""


@dataclass(frozen=True)
class CardRecord:
    """A card and where it stands."""

    id: int
    client: int
    session: int
    session_name: str
    place: int
    place_name: str
    revision: int
    made_at: dt.datetime
    opened_at: dt.datetime | None
    seen_revision: int
    expires_at: dt.datetime
    withdrawn_at: dt.datetime | None

    @property
    def holds(self) -> bool:
        """Whether its link opens it."""
        return self.withdrawn_at is None and self.expires_at > now()


def digest_of(link: str) -> str:
    """What is kept of a link."""
    return hashlib.sha256(link.encode()).hexdigest()


def _record(row: Card) -> CardRecord:
    newest = (
        CardRevision.select(CardRevision.number).where(CardRevision.card == row).order_by(CardRevision.number.desc()).first()
    )
    return CardRecord(
        row.id, row.client_id, row.session_id, row.session.name, row.place_id, row.place.name, newest.number if newest else 0,
        row.made_at, row.opened_at, row.seen_revision, row.expires_at, row.withdrawn_at,
    )  # fmt: skip


def _cards() -> Any:
    """Cards with their session and place."""
    return Card.select(Card, Session, Place).join(Session).switch(Card).join(Place)


def card(number: int) -> CardRecord:
    """A card.

    Raises:
        MissingError: If there is none.
    """
    row = _cards().where(Card.id == number).first()
    if row is None or not editing.is_own("client", row.client):
        raise editing.MissingError("card", number)
    return _record(row)


def cards_of(client: int) -> list[CardRecord]:
    """A client's cards, newest first; those that were withdrawn stay on the list."""
    editing.revision("client", client)
    rows = _cards().where(Card.client == client)
    return [_record(row) for row in rows.order_by(Card.id.desc())]


def card_by_link(link: str) -> CardRecord | None:
    """The card that a link opens; None where it opens none, is too old, or was withdrawn."""
    row = _cards().where(Card.link_digest == digest_of(link)).first()
    found = _record(row) if row is not None else None
    return found if found is not None and found.holds else None


def hand_out(session: int, place: int) -> tuple[int, str]:
    """A new card for a session at a place, and its link, which is told only now. Earlier ones for the same are withdrawn.

    Raises:
        MissingError: If there is no such session or place.
    """
    held = programs.session(session)
    editing.revision("place", place)
    link = secrets.token_urlsafe(LINK_BYTES)
    with database.atomic():
        Card.update(withdrawn_at=now()).where(
            Card.session == session, Card.place == place, Card.withdrawn_at.is_null()
        ).execute()
        row = Card.create(
            client=held.client, session=session, place=place, link_digest=digest_of(link), expires_at=now() + LASTS
        )
    return int(row.id), link


def renew(number: int) -> str:
    """A new link for a card, told only now; the old one opens it no more."""
    link = secrets.token_urlsafe(LINK_BYTES)
    card(number)
    Card.update(link_digest=digest_of(link), expires_at=now() + LASTS, withdrawn_at=None).where(Card.id == number).execute()
    return link


def withdraw(number: int) -> None:
    """Let a card's link open nothing any more."""
    card(number)
    Card.update(withdrawn_at=now()).where(Card.id == number, Card.withdrawn_at.is_null()).execute()


def opened(number: int, revision: int) -> None:
    """Note that the client has seen a revision."""
    row = Card.get_by_id(number)
    if row.opened_at is None or row.seen_revision < revision:
        Card.update(opened_at=row.opened_at or now(), seen_revision=max(row.seen_revision, revision)).where(
            Card.id == number
        ).execute()


def newest_revision(number: int) -> tuple[int, str, CardDoc] | None:
    """Number, digest and contents of what a card says now; None before it says anything."""
    row = CardRevision.select().where(CardRevision.card == number).order_by(CardRevision.number.desc()).first()
    return None if row is None else (row.number, row.digest, _document(row.document))


@lru_cache(64)
def _document(text: str) -> CardDoc:
    """A card's contents, read once: every set that is sent is held against them."""
    return CardDoc.model_validate_json(text)


def revision(number: int, which: int) -> CardDoc | None:
    """What a card said in an earlier revision."""
    row = CardRevision.get_or_none(CardRevision.card == number, CardRevision.number == which)
    return None if row is None else _document(row.document)


def add_revision(number: int, digest: str, document: CardDoc) -> CardDoc:
    """Keep what a card says from now on; of two that were made at once, one is kept. Returns what is kept."""
    with database.atomic():
        held = newest_revision(number)
        if held is not None and held[1] == digest:
            return held[2]
        made = document.model_copy(update={"revision": (held[0] if held else 0) + 1})
        CardRevision.create(card=number, number=made.revision, digest=digest, document=made.model_dump_json())
        return made
