"""The web application: routes, problem documents, and the built interface."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, FastAPI, Query, Request
from fastapi.exceptions import RequestValidationError
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, ConfigDict
from starlette.exceptions import HTTPException

from oddswap import __version__
from oddswap.api import calculators as calculators
from oddswap.api import kit
from oddswap.api import matching as bench
from oddswap.api.routing import StoreRoute
from oddswap.api.views import ClientView, LineView, RosterView, StoredPlace, client_view, line_view
from oddswap.application.fields import name_field
from oddswap.application.library import movement_example
from oddswap.application.matching import match_program
from oddswap.application.staleness import recheck_client, recheck_place
from oddswap.documents.client import ClientDoc
from oddswap.documents.library import ExampleDoc, MovementDoc
from oddswap.documents.match import SwapsDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import Fault, Problem, domain_fault, reading_faults
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.schemas import schema
from oddswap.documents.set_up import ClientSetUpDoc
from oddswap.documents.tables import TableError
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.profile import profile
from oddswap.errors import DomainError
from oddswap.exercises import FAMILIES, movements
from oddswap.store import records
from oddswap.store.records import MissingError

WEB = Path(__file__).resolve().parents[3] / "web" / "dist"
PROBLEMS: dict[int | str, dict[str, Any]] = {
    404: {"model": Problem, "description": "There is no such record"},
    422: {"model": Problem, "description": "A value cannot be; every fault names its field, limit and way out"},
}
# Everything the interface needs ships with the app; the policy keeps it that way.
POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none'; base-uri 'self'"

router = APIRouter(prefix="/api", route_class=StoreRoute, responses=PROBLEMS)


SWAP_EXAMPLE: Any = {name: schema(name)["examples"][0] for name in ("client", "program", "place")}


class SwapRequest(BaseModel):
    """A client, a program and a place as documents: nothing of it is stored."""

    model_config = ConfigDict(strict=True, extra="forbid", json_schema_extra={"examples": [SWAP_EXAMPLE]})

    client: ClientDoc
    program: ProgramDoc
    place: PlaceDoc
    lens: str = "same_profile"


class Health(BaseModel):
    """Whether the service answers, and which version."""

    status: str
    version: str


@router.get("/movements", tags=["library"])
def movement_list() -> list[MovementDoc]:
    """Every movement with its ways and the generic kit that loads them."""
    return [MovementDoc.of(kind) for kind in sorted(movements().values(), key=lambda m: (FAMILIES.index(m.family), m.name))]


@router.get("/movements/{name}", tags=["library"])
def movement_example_for(
    name: str,
    client: int,
    kit: Annotated[str, Query(description="Generic kit, one of the way's own; empty for the first that loads it")] = "",
    way: Annotated[int, Query(description="Place in the movement's list of ways")] = 0,
) -> ExampleDoc:
    """A movement on generic kit for one client: figure, curves, who carries the load."""
    return movement_example(records.client(client).document, name, way, kit)


@router.get("/health", tags=["service"])
def health() -> Health:
    """Whether the service answers."""
    return Health(status="ok", version=__version__)


@router.get("/clients", tags=["records"])
def roster() -> RosterView:
    """All clients with their programs and what was taken for every line."""
    return RosterView(clients=[client_view(records.client(number)) for number in records.client_ids()])


@router.get("/clients/{client}", tags=["records"])
def read_client(client: int) -> ClientView:
    """One client."""
    return client_view(records.client(client))


@router.put("/clients/{client}", tags=["records"])
def change_client(client: int, document: ClientDoc) -> ClientView:
    """Change a client's name or size."""
    document.body()
    records.save_client(client, document)
    recheck_client(client)
    return client_view(records.client(client))


@router.get("/places/{place}", tags=["records"])
def read_place(place: int) -> StoredPlace:
    """One place with its kit."""
    return StoredPlace(id=place, place=records.place(place).document)


@router.put("/places/{place}", tags=["records"])
def change_place(place: int, document: PlaceDoc) -> StoredPlace:
    """Change a place or its kit."""
    document.place()
    records.save_place(place, document)
    recheck_place(place)
    return StoredPlace(id=place, place=document)


@router.delete("/lines/{line}/accepted", tags=["swaps"])
def undo(line: int, place: Annotated[int, Query(description="Number of the place")]) -> LineView:
    """Undo the newest accepted swap of a line at a place; the one before is in force again."""
    if not records.undo_swap(line, place):
        raise DomainError("place", place, "a swap must have been taken here to be undone", "Take one first")
    return line_view(records.line(line), records.accepted([line]))


@router.post("/swaps", tags=["documents"])
def swaps(request: SwapRequest) -> SwapsDoc:
    """Map a whole program to a place, from documents."""
    lens_by_id(request.lens)
    return match_program(request.client, request.program, request.place, RankDoc(lens=request.lens))


@router.post("/profile", tags=["documents"])
def read_profile(document: ClientSetUpDoc) -> ProfileDoc:
    """The computed curves of one set-up for one client, from a document."""
    body = name_field("client", document.client.body)
    set_up = document.set_up.set_up()
    return ProfileDoc.of(set_up, name_field("set_up", lambda: profile(body, set_up)))


@router.get("/schemas/{name}", tags=["documents"])
def read_schema(name: str) -> dict[str, Any]:
    """JSON Schema of a document: client, program, place, set-up, profile, match, swaps."""
    return schema(name)


def problem(status: int, title: str, detail: str, faults: list[Fault] | None = None) -> JSONResponse:
    """A problem document (RFC 9457)."""
    body = Problem(title=title, status=status, detail=detail, faults=faults or [])
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")


def create_app(web: Path = WEB) -> FastAPI:
    """The application; call ``open_store`` before serving it."""
    app = FastAPI(
        title="Odd Swap",
        version=__version__,
        description="Equivalent set-ups for prescribed exercises on the kit a client has.",
        docs_url=None,  # both pages would load scripts from elsewhere
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.include_router(router)
    app.include_router(kit.router, responses=PROBLEMS)
    app.include_router(bench.router, responses=PROBLEMS)
    app.include_router(calculators.router, responses=PROBLEMS)

    @app.exception_handler(DomainError)
    def cannot_be(request: Request, error: DomainError) -> JSONResponse:
        fault = domain_fault(error)
        return problem(422, "A value cannot be", f"{fault.field}: {fault.limit}", [fault])

    @app.exception_handler(TableError)
    def no_table(request: Request, error: TableError) -> JSONResponse:
        detail, faults = kit.faults_problem(error)
        return problem(422, "The file cannot be taken over", detail, faults)

    @app.exception_handler(RequestValidationError)
    def cannot_be_read(request: Request, error: RequestValidationError) -> JSONResponse:
        rows = [e | {"loc": e["loc"][1:] if e["type"] != "json_invalid" else ()} for e in error.errors()]
        faults = reading_faults(rows)
        return problem(422, "The document cannot be read", f"{len(faults)} faults, each at its field", faults)

    @app.exception_handler(MissingError)
    def missing(request: Request, error: MissingError) -> JSONResponse:
        fault = Fault(field=error.what, value=str(error.number), limit="a record that exists", way_out="Go back to the roster")
        return problem(404, "There is no such record", str(error), [fault])

    @app.exception_handler(HTTPException)
    def rejected(request: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail), f"{request.method} {request.url.path}")

    @app.middleware("http")
    async def headers(request: Request, call_next: Any) -> Response:
        response: Response = await call_next(request)
        response.headers["Content-Security-Policy"] = POLICY
        hashed = request.url.path.startswith("/assets/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if hashed else "no-cache"
        return response

    app.add_middleware(GZipMiddleware, minimum_size=1000)
    if web.is_dir():
        app.frontend("/", directory=web, fallback="index.html")
    return app
