"""The web application: routes, problem documents, and the built interface."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from functools import cache
from pathlib import Path
from typing import Any

import anyio.to_thread
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from oddswap import __version__
from oddswap.api import (
    calculators,
    cards,
    coverage,
    documents,
    files,
    finding,
    floor,
    history,
    kit,
    library,
    log,
    matching,
    measuring,
    programs,
    records,
    service,
    sign_in,
    typing_lines,
    watching,
    workspace,
    writing,
)
from oddswap.api.guard import HOSTS, Guard
from oddswap.api.problems import PROBLEMS, TOLD, answer_error, problem
from oddswap.documents.problems import reading_faults

WEB = Path(__file__).resolve().parents[3] / "web" / "dist"
ROUTERS = (
    service, library, records, programs, kit, files, matching, coverage, measuring, documents, calculators, writing, history,
    finding, watching, workspace, typing_lines, floor, cards, log, sign_in,
)  # fmt: skip
"""Modules with a router each, in the order of the document."""


THREADS = 24
"""Requests answered side by side: the 18 that may search or wait for it, and some that are answered at once. Each holds what it
makes in memory, and on a few cores more of them are no faster."""


@asynccontextmanager
async def running(app: FastAPI) -> AsyncIterator[None]:
    """While the app runs: room for many that wait."""
    anyio.to_thread.current_default_thread_limiter().total_tokens = THREADS
    yield


@cache
def create_app(web: Path = WEB, hosts: tuple[str, ...] = HOSTS, signing_in: bool = False) -> FastAPI:
    """The application, asked for by ``hosts``, any where coaches sign in; call ``open_store`` before serving it.

    Made once a process: its routes, which take a second to work out, hold no records.
    """
    app = FastAPI(
        title="Odd Swap",
        version=__version__,
        description="Equivalent set-ups for prescribed exercises on the kit a client has.",
        docs_url=None,  # both pages would load scripts from elsewhere
        redoc_url=None,
        openapi_url="/api/openapi.json",
        lifespan=running,
        generate_unique_id_function=lambda route: route.name,
    )
    for module in ROUTERS:
        app.include_router(module.router, responses=PROBLEMS)
    add_handlers(app)
    describe(app)
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    app.state.sign_in = signing_in
    if signing_in:
        app.add_middleware(sign_in.SignedIn)
    app.add_middleware(Guard, hosts=() if signing_in else hosts)

    if web.is_dir():
        app.frontend("/", directory=web, fallback="index.html")
    return app


def describe(app: FastAPI) -> None:
    """OpenAPI that says of errors what they are: problem documents."""
    plain = app.openapi

    def openapi() -> dict[str, Any]:
        made = plain()
        for operations in made["paths"].values():
            for operation in operations.values():
                for status, answer in operation["responses"].items():
                    content = answer.get("content", {})
                    for kind in ("application/json", "text/event-stream") if int(status) >= 400 else ():
                        if kind in content:
                            content["application/problem+json"] = content.pop(kind)
        return made

    app.openapi = openapi  # type: ignore[method-assign]


def add_handlers(app: FastAPI) -> None:
    """Problem documents for every error."""

    def told(request: Request, error: Exception) -> JSONResponse:
        answer = answer_error(error)
        assert answer is not None  # TOLD lists what it knows
        return answer

    for kind in TOLD:
        app.add_exception_handler(kind, told)

    @app.exception_handler(RequestValidationError)
    def cannot_be_read(request: Request, error: RequestValidationError) -> JSONResponse:
        rows = [e | {"loc": e["loc"][1:] if e["type"] != "json_invalid" else ()} for e in error.errors()]
        faults = reading_faults(rows)
        return problem(422, "The document cannot be read", f"{len(faults)} faults, each at its field", faults)

    @app.exception_handler(HTTPException)
    def rejected(request: Request, error: HTTPException) -> JSONResponse:
        answer = problem(error.status_code, str(error.detail), f"{request.method} {request.url.path}")
        answer.headers.update(error.headers or {})
        return answer
