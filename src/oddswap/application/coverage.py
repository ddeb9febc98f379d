"""How well a place can load a client, and what a purchase would add."""

from __future__ import annotations

from oddswap.application.fields import name_field
from oddswap.application.inputs import core_place
from oddswap.application.jobs import LONG_WORK
from oddswap.application.versions import map_digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.reports import PurchaseDoc, ReachDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.coverage import Cell, coverage_rules, reach
from oddswap.equivalence.purchases import purchases
from oddswap.quantities import Units, shown_in

_cells: SharedCache[str, list[Cell]] = SharedCache(64)
_purchases: SharedCache[tuple[str, Units], list[PurchaseDoc]] = SharedCache(64)


def reach_map(client: ClientDoc, place: PlaceDoc) -> ReachDoc:
    """How well a place can load a client.

    Raises:
        DomainError: Where client or place cannot be.
    """
    with LONG_WORK.wanted(map_digest(client, place)):
        return watched_map(client, place)


def watched_map(client: ClientDoc, place: PlaceDoc) -> ReachDoc:
    """The same for a caller who says for how long the map is wanted, by its digest.

    Raises:
        DomainError: Where client or place cannot be.
        AbandonedError: Once nobody wants it.
    """
    cells = _reach(client, place)
    with shown_in(client.units):
        return ReachDoc.of(client.name, place.name, cells, coverage_rules()["fair"])


def purchase_list(client: ClientDoc, place: PlaceDoc) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first.

    Raises:
        DomainError: Where client or place cannot be.
    """

    with LONG_WORK.wanted(map_digest(client, place)):
        return watched_purchases(client, place)


def watched_purchases(client: ClientDoc, place: PlaceDoc) -> list[PurchaseDoc]:
    """The same for a caller who says for how long the list is wanted, by the map's digest.

    Raises:
        DomainError: Where client or place cannot be.
        AbandonedError: Once nobody wants it.
    """
    name = map_digest(client, place)

    def work() -> list[PurchaseDoc]:
        reached = _reach(client, place)
        with LONG_WORK.taken(name):
            found = purchases(client.body(), core_place(place), reached, lambda part: LONG_WORK.tell(name, part))
        with shown_in(client.units):
            return [PurchaseDoc.of(p) for p in found]

    return _purchases.get((name, client.units), work)


def _reach(client: ClientDoc, place: PlaceDoc) -> list[Cell]:
    name = map_digest(client, place)

    def work() -> list[Cell]:
        with LONG_WORK.taken(name):
            body, room = name_field("client", client.body), core_place(place)
            return reach(body, room, progress=lambda part: LONG_WORK.tell(name, part))

    return _cells.get(name, work)
