"""Routes whose endpoints run inside a database connection of their own thread."""

from __future__ import annotations

import functools
import inspect
from collections.abc import Callable
from typing import Any

from fastapi.routing import APIRoute

from oddswap.store.opening import connected as store_connected


class StoreRoute(APIRoute):
    """Wraps the endpoint itself.

    Connections belong to a thread, and a yielding dependency may run in another thread than its endpoint.
    """

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        @functools.wraps(endpoint)
        def connected(*args: Any, **kwargs: Any) -> Any:
            with store_connected():
                return endpoint(*args, **kwargs)

        # Annotations are text here; the wrapper lives in another module, so hand over the resolved signature.
        connected.__signature__ = inspect.signature(endpoint, eval_str=True)  # type: ignore[attr-defined]
        super().__init__(path, connected, **options)
