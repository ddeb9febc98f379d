"""Routes of cards: handed over, renewed, withdrawn by the coach; read, and written to, by who has the link."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any

import segno
from fastapi import APIRouter, Header, Query, Request, Response

from oddswap.api.files import attached
from oddswap.api.guesses import GUESSES, asker
from oddswap.api.kept import kept
from oddswap.api.requests import Asked, Number, RecordNumber, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.application.cards import build_card, card_today
from oddswap.application.log_book import receive
from oddswap.documents.card import CardDoc
from oddswap.documents.log import OutboxDoc
from oddswap.documents.print import Paper, card_pdf
from oddswap.documents.problems import Problem
from oddswap.store import cards

router = APIRouter(prefix="/api", route_class=StoreRoute)
CLOSED: dict[int | str, dict[str, Any]] = {
    404: {"model": Problem, "description": "The link opens nothing: it was renewed or withdrawn, is too old, or was never one"},
    429: {"model": Problem, "description": "Too many links that open nothing were tried"},
}
PDF: dict[int | str, dict[str, Any]] = {
    200: {"description": "The card", "content": {"application/pdf": {"schema": {"type": "string"}}}}
}
Link = Annotated[
    str, Header(alias="Card-Link", min_length=16, max_length=100, description="The secret part of the card's link")
]


class CardRequest(Asked):
    """Where a session's card is for."""

    model_config = shown({"place": 1})

    place: RecordNumber


class CardView(View):
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
    """The newest revision that was opened."""
    expires_at: dt.datetime
    withdrawn: bool
    holds: bool
    """Whether its link opens it."""


class HandedView(View):
    """A card and its link, which is told only now."""

    card: CardView
    path: str
    """The link on this server; what opens it stands behind the #, which no browser sends or logs."""
    qr: str
    """The same as a QR code, an SVG image as a data address."""


class KeptView(View):
    """Ids of entries that are kept now."""

    kept: list[str]


def _view(record: cards.CardRecord) -> CardView:
    rest = {k: getattr(record, k) for k in CardView.model_fields if k not in ("withdrawn", "holds")}
    times = {k: _utc(v) for k, v in rest.items() if k.endswith("_at")}
    return CardView(**(rest | times), withdrawn=record.withdrawn_at is not None, holds=record.holds)


def _utc(time: dt.datetime | None) -> dt.datetime | None:
    return time.replace(tzinfo=dt.UTC) if time is not None else None


def _handed(number: int, link: str, request: Request) -> HandedView:
    path = f"/card#{link}"
    code = segno.make(f"{request.base_url.scheme}://{request.base_url.netloc}{path}", error="m")
    return HandedView(card=_view(cards.card(number)), path=path, qr=code.svg_data_uri(scale=4, border=2))


@router.post("/sessions/{session}/cards", tags=["cards"])
def hand_over(session: Number, body: CardRequest, request: Request) -> HandedView:
    """Hand a session over: a link that cannot be guessed, told only now. An earlier one for the same is withdrawn."""
    build_card(session, body.place)  # what cannot be handed over leaves the earlier card alone
    number, link = cards.hand_out(session, body.place)
    card_today(cards.card(number))
    return _handed(number, link, request)


@router.get("/clients/{client}/cards", tags=["cards"])
def client_cards(client: Number) -> list[CardView]:
    """A client's cards, newest first: opened or not, withdrawn, too old."""
    return [_view(one) for one in cards.cards_of(client)]


@router.get("/sessions/{session}/card", tags=["cards"])
def preview_card(session: Number, place: Annotated[int, Query(ge=1, description="Number of the place")]) -> CardDoc:
    """What a card for a session at a place would say now; nothing is handed over."""
    return build_card(session, place)


@router.get("/sessions/{session}/card.pdf", tags=["files"], response_class=Response, responses=PDF)
def print_card(
    session: Number,
    place: Annotated[int, Query(ge=1, description="Number of the place")],
    paper: Annotated[Paper, Query(description="a5: a lift a page; a4: the session on a page, with boxes to write in")] = "a5",
) -> Response:
    """A session's card to print (PDF)."""
    card = build_card(session, place)
    return attached(f"{card.session}, {card.place}.pdf", "application/pdf", card_pdf(card, paper))


@router.post("/cards/{card}/renew", tags=["cards"])
def renew_card(card: Number, request: Request) -> HandedView:
    """A new link for a card, told only now; the old one opens it no more."""
    link = cards.renew(card)
    return _handed(card, link, request)


@router.post("/cards/{card}/withdraw", tags=["cards"])
def withdraw_card(card: Number) -> CardView:
    """Let a card's link open nothing any more. What was logged by it stays."""
    cards.withdraw(card)
    return _view(cards.card(card))


def opened_by(link: str, who: str) -> cards.CardRecord:
    """The card that a link opens.

    Raises:
        ClosedError: Where it opens none.
        GuessingError: Where too many links that open nothing came from there lately.
    """
    GUESSES.check(who)
    found = cards.card_by_link(link)
    if found is None:
        GUESSES.failed(who)
        raise cards.ClosedError
    return found


@router.get("/card", tags=["card link"], responses=CLOSED, response_model=CardDoc)
def read_card(link: Link, request: Request) -> Response:
    """The card that a link opens, as it is today."""
    record = opened_by(link, asker(request))

    def today() -> CardDoc:
        card = card_today(record)
        cards.opened(record.id, card.revision)
        return card

    return kept(f"card {record.id}", today)


@router.post("/card/entries", tags=["card link"], responses=CLOSED)
def send_entries(link: Link, outbox: OutboxDoc, request: Request) -> KeptView:
    """Keep what was noted on a phone, all or none. The same entry sent twice is kept once."""
    record = opened_by(link, asker(request))
    held = cards.newest_revision(record.id)
    card = held[2] if held else card_today(record)
    earlier = {n: cards.revision(record.id, n) for n in {e.revision for e in outbox.entries} - {0}}
    said = {0: card} | {n: c for n, c in earlier.items() if c is not None}
    return KeptView(kept=receive(record.client, outbox, said, record.place))
