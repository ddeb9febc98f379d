"""A pain that was told becomes a restriction of its client: avoided from now on, never judged."""

from __future__ import annotations

from typing import get_args

from oddswap.documents.client import Joint, RestrictionDoc
from oddswap.errors import DomainError
from oddswap.store import log, records


def avoid(client: int, key: str) -> None:
    """Avoid what hurt from now on; a change of the client that can be undone.

    Args:
        client: Whose log.
        key: Id of the entry that told the pain.

    Raises:
        DomainError: Where no such pain was told, it is no joint's, or it is avoided already.
    """
    document = records.client(client).document
    told = next((e for e in log.in_force(log.entries(client)) if e.key == key and e.document.pain is not None), None)
    if told is None or told.document.pain is None:
        raise DomainError("key", key, "a pain of this client's log", "Read the log again")
    where = told.document.pain.where
    if where not in get_args(Joint):
        raise DomainError("key", where, f"one of the joints {', '.join(get_args(Joint))}", "Write it under size and limits")
    if any(r.joint == where and r.action == "any" for r in document.restrictions):
        raise DomainError("key", where, "a joint that is not avoided yet", "Look under size and limits")
    lift = told.context.title if told.context else "a lift"
    note = f"{lift}, {told.done_at:%d %b %Y}{f': {told.document.note}' if told.document.note else ''}"[:200]
    one = RestrictionDoc(joint=where, note=note)  # type: ignore[arg-type]  # one of the joints
    records.save_client(client, document.model_copy(update={"restrictions": [*document.restrictions, one]}))
