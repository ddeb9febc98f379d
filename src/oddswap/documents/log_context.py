"""What an entry was done by: kept beside it, so that later changes rewrite nothing."""

from __future__ import annotations

from oddswap.documents.base import Document
from oddswap.documents.log import BasisDoc


class ContextDoc(Document):
    """Names and figures as they were when a set was done."""

    line_name: str
    session: str = ""
    title: str
    kit: str
    place_name: str
    revision: int = 0
    """Of the card; 0 where it was noted without one."""
    basis: BasisDoc
