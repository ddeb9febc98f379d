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

_cells: SharedCache[str, list[Cell]] = SharedCache(64)
_purchases: SharedCache[str, list[PurchaseDoc]] = SharedCache(64)


def reach_map(client: ClientDoc, place: PlaceDoc) -> ReachDoc:
    """How well a place can load a client.

    Raises:
        DomainError: Where client or place cannot be.
    """
    return ReachDoc.of(client.name, place.name, _reach(client, place), coverage_rules()["fair"])


def purchase_list(client: ClientDoc, place: PlaceDoc) -> list[PurchaseDoc]:
    """What single purchases would add to a place for a client, most useful first.

    Raises:
        DomainError: Where client or place cannot be.
    """

    def work() -> list[PurchaseDoc]:
        reached = _reach(client, place)
        with LONG_WORK.taken():
            return [PurchaseDoc.of(p) for p in purchases(client.body(), core_place(place), reached)]

    return _purchases.get(map_digest(client, place), work)


def _reach(client: ClientDoc, place: PlaceDoc) -> list[Cell]:
    def work() -> list[Cell]:
        with LONG_WORK.taken():
            return reach(name_field("client", client.body), core_place(place))

    return _cells.get(map_digest(client, place), work)
