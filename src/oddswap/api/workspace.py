"""Routes for everything at once: a copy of the database to keep, and a copy put back in its place."""

from __future__ import annotations

import tempfile
from datetime import date
from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, BackgroundTasks, File, UploadFile
from fastapi.responses import FileResponse

from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.errors import DomainError
from oddswap.store import opening

router = APIRouter(prefix="/api", route_class=StoreRoute, tags=["workspace"])

COPY: dict[int | str, dict[str, Any]] = {
    200: {"description": "The database", "content": {opening.MEDIA_TYPE: {"schema": {"type": "string"}}}}
}


class RestoredView(View):
    """What a backup was put in the place of."""

    kept: str
    """File name of what was there before."""


@router.get("/backup", response_class=FileResponse, responses=COPY)
def save_backup(after: BackgroundTasks) -> FileResponse:
    """All clients, places, programs, swaps and measurements as one file, whole and consistent while the app goes on."""
    folder = tempfile.TemporaryDirectory(prefix="odd-swap-")
    copy = Path(folder.name) / "copy.db"
    opening.backup(opening.path_in_use(), copy)
    after.add_task(folder.cleanup)
    name = f"odd-swap-{date.today().isoformat()}.db"
    return FileResponse(copy, media_type=opening.MEDIA_TYPE, filename=name, background=after)


@router.post("/restore")
def restore_backup(file: Annotated[UploadFile, File(description="A backup")]) -> RestoredView:
    """Put a backup in the place of everything that is here; what was here is kept beside it."""
    with tempfile.TemporaryDirectory(prefix="odd-swap-") as folder:
        copy = Path(folder) / "copy.db"
        copy.write_bytes(file.file.read())
        try:
            return RestoredView(kept=opening.restore_running(copy).name)
        except opening.StoreError as error:
            words = str(error).split(". ")[0]
            raise DomainError("file", file.filename or "", f"a backup of this app: {words}", "Choose another file") from None
