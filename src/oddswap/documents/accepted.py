"""An accepted swap as a document: an immutable snapshot that board, card and log read without computing anything."""

from __future__ import annotations

from typing import Literal

from oddswap.documents.base import Document
from oddswap.documents.match import SwapDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equipment.base.fields import Note


class AcceptedDoc(Document):
    """What was accepted, how it was ranked and converted, and what it was computed by."""

    format: Literal["odd-swap/accepted/2"] = "odd-swap/accepted/2"
    swap: SwapDoc
    """The set-up with its load, without curves."""
    ranking: RankDoc = RankDoc()
    """Lens, weights, equivalence and filters that it was accepted under."""
    by: str = ""
    """Who accepted it."""
    note: Note = ""
    """Why, in the coach's words."""
    versions: str = ""
    """Digest of inputs, rules and code that it was computed by; empty where that was not kept."""
