"""Start on a database file: open it, and keep reach tables and matches beside it."""

from __future__ import annotations

from pathlib import Path

from oddswap.application.kept_matches import keep_matches_in
from oddswap.application.versions import rules_digest, words_digest
from oddswap.equivalence.index import use_disk_cache
from oddswap.store.demo import load_demo
from oddswap.store.disk_cache import DiskCache
from oddswap.store.opening import open_store

MATCHES_BYTES = 200_000_000
"""Size of all matches that are kept together, some 4,000."""


def tables_of(path: Path) -> Path:
    """The file beside a database in which its reach tables are kept."""
    return path.with_suffix(".reach")


def start(path: Path, demo: bool = False) -> None:
    """Make ``path`` the database of this process; with ``demo`` an empty one is filled with demo data.

    Raises:
        StoreError: If the file is no database or cannot be migrated.
    """
    open_store(path)
    use_disk_cache(DiskCache(tables_of(path), rules_digest()))
    keep_matches_in(DiskCache(path.with_suffix(".matches"), words_digest(), MATCHES_BYTES))
    if demo:
        load_demo()
