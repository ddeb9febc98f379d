"""Accept a swap, ranked or set by hand: it is computed here, so that nothing else can be stored."""

from __future__ import annotations

from oddswap.application.matching import match_line
from oddswap.application.try_out import try_out
from oddswap.application.versions import match_digest
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.errors import DomainError


def accept(
    client: ClientDoc,
    line: LineDoc,
    place: PlaceDoc,
    ranking: RankDoc,
    key: str = "",
    set_up: SetUpDoc | None = None,
    author: str = "",
    note: str = "",
) -> AcceptedDoc:
    """The snapshot of what is accepted.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where.
        ranking: Lens and filters.
        key: Names a swap of the list ranked so.
        set_up: What was set by hand, in place of a key.
        author: Who accepts it.
        note: Why, in their words.

    Raises:
        DomainError: Where the key is none of the list, or the set-up cannot be.
    """
    if set_up is not None:
        chosen = try_out(client, line, place, ranking, set_up)
    else:
        found = next((s for s in match_line(client, line, place, ranking).swaps if s.key == key), None)
        if found is None:
            raise DomainError("key", key, "one of the swaps ranked for this line and place", "Rank them again")
        chosen = found
    versions = match_digest(client, line, place, ranking)
    return AcceptedDoc(
        swap=chosen.model_copy(update={"profile": None}), ranking=ranking, versions=versions, by=author, note=note
    )
