"""Matches kept on disk in a file of their own: a line that was searched once opens at once, after a restart too."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from typing import Protocol

from pydantic import BaseModel, JsonValue, ValidationError

from oddswap.documents.match import MatchDoc
from oddswap.equivalence.index import PersistentCache
from oddswap.errors import DomainError
from oddswap.quantities import Units

NOTHING = "place.kit"
"""Field of the error that nothing at a place is like enough to a line."""
QUICK = 1
"""How hard matches are packed: a fifth of their size in a few milliseconds."""


class MatchCache(PersistentCache, Protocol):
    """Where matches outlast the process."""

    def clear(self) -> None:
        """Drop everything."""


_disk_cache: MatchCache | None = None
_dropped = 0


class NothingDoc(BaseModel):
    """That nothing at a place is like enough: see ``DomainError``."""

    field: str
    value: JsonValue
    limit: str
    way_out: str


class KeptMatchDoc(BaseModel):
    """A match as it is kept: what was found, or that nothing was."""

    match: MatchDoc | None = None
    nothing: NothingDoc | None = None


def keep_matches_in(disk_cache: MatchCache | None) -> None:
    """Keep matches in a cache that outlasts the process from now on, or not at all for None."""
    global _disk_cache
    _disk_cache = disk_cache


def times_dropped() -> int:
    """How often all matches were dropped: what was begun before the last time is not kept."""
    return _dropped


def read_match(name: str, units: Units) -> MatchDoc | None:
    """A match that was kept; None where none was, or where it is spoilt.

    Args:
        name: What it is computed from, see ``match_digest``.
        units: What it is worded in.

    Raises:
        DomainError: Where the search found nothing.
    """
    key = _key(name, units)
    packed = {} if _disk_cache is None else _disk_cache.get([key])
    if key not in packed:
        return None
    try:
        kept = KeptMatchDoc.model_validate_json(zlib.decompress(packed[key]))
    except (zlib.error, ValidationError):
        return None
    if kept.nothing is not None:
        raise DomainError(**kept.nothing.model_dump())
    return kept.match


def keep_match(name: str, units: Units, found: MatchDoc | DomainError, begun: int) -> None:
    """Keep a match, or that nothing was found; other errors are not kept.

    Args:
        name: What it is computed from.
        units: What it is worded in.
        found: The match.
        begun: ``times_dropped`` when the search began.
    """
    packed = None if _disk_cache is None else pack(found)
    if packed is not None:
        keep_packed(name, units, packed, begun)


def pack(found: MatchDoc | DomainError) -> bytes | None:
    """A match, or that nothing was found, as it is kept; None for an error that is not kept."""
    if isinstance(found, MatchDoc):
        kept = KeptMatchDoc(match=found)
    elif found.field == NOTHING and isinstance(found.value, list):
        why = NothingDoc(field=found.field, value=[str(v) for v in found.value], limit=found.limit, way_out=found.way_out)
        kept = KeptMatchDoc(nothing=why)
    else:
        return None
    return zlib.compress(kept.model_dump_json().encode(), QUICK)


def keep_packed(name: str, units: Units, packed: bytes, begun: int) -> None:
    """Keep what ``pack`` made of a match.

    Args:
        name: What it is computed from.
        units: What it is worded in.
        packed: The match.
        begun: ``times_dropped`` when the search began.
    """
    if _disk_cache is not None and begun == _dropped:
        _disk_cache.put({_key(name, units): packed})


def are_kept(names: Sequence[str], units: Units) -> set[str]:
    """Which of these matches are kept; all of them where none are kept anywhere, so that nobody searches for nothing."""
    if _disk_cache is None:
        return set(names)
    keys = {_key(name, units): name for name in names}
    return {keys[key] for key in _disk_cache.get(list(keys))}


def drop_kept() -> None:
    """Drop all matches that are kept: they tell of clients' names and complaints."""
    global _dropped
    _dropped += 1
    if _disk_cache is not None:
        _disk_cache.clear()


def _key(name: str, units: Units) -> str:
    return f"match {name} in {units}"
