"""A movement of the library for one client."""

from __future__ import annotations

from oddswap.application.fields import name_field
from oddswap.application.versions import body_text, digest
from oddswap.coaching.library import example, variants_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.library import ExampleDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.profile import Profile
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.movement import Variant
from oddswap.quantities import Units, shown_in

_examples: SharedCache[tuple[str, Units], ExampleDoc] = SharedCache(256)


def find_example(client: ClientDoc, name: str, variant: int, kit: str) -> tuple[Variant, Profile]:
    """A variant of a movement, and its curves on generic kit for a client; see ``movement_example``."""
    kind = movement(name)
    variants = variants_of(kind)
    if not 0 <= variant < len(variants):
        raise DomainError("variant", variant, f"{kind.name} has the variants 0 to {len(variants) - 1}", "Pick one of these")
    return variants[variant], example(name_field("client", client.body), kind, variants[variant], kit)


def movement_example(client: ClientDoc, name: str, variant: int, kit: str) -> ExampleDoc:
    """A movement of the library on generic kit for a client.

    Args:
        client: Who.
        name: Movement id.
        variant: Place in the movement's list of variants.
        kit: Id of generic kit; empty for the first that loads it.

    Raises:
        DomainError: With the field, where there is no such movement, variant or kit, or this client cannot do it.
    """

    def work() -> ExampleDoc:
        way, found = find_example(client, name, variant, kit)
        return ExampleDoc.of(client.name, way, found)

    with shown_in(client.units):
        return _examples.get((digest(body_text(client), name, str(variant), kit), client.units), work)
