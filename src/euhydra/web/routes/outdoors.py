"""What keeps the steps' page on a phone where there is no network."""

from __future__ import annotations

from pathlib import Path

from fastapi import APIRouter
from fastapi.responses import FileResponse, JSONResponse

router = APIRouter()
STATIC = Path(__file__).parents[1] / "static"
WORKER = STATIC / "outdoors.js"


@router.get("/outdoors.js")
def worker() -> FileResponse:
    """The service worker. It stands at the root, since it may only keep what is below it."""
    return FileResponse(WORKER, media_type="text/javascript")


@router.get("/outdoors.json")
def made_of() -> JSONResponse:
    """Everything that a page is made of, by address."""
    return JSONResponse([f"/static/{path.relative_to(STATIC).as_posix()}"
                         for path in sorted(STATIC.rglob("*")) if path.is_file()])
