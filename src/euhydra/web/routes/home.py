"""The front door: the demo garden beside "Start a garden", and the gardens kept."""

from __future__ import annotations

import sqlite3
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse

from euhydra import __version__
from euhydra.core.garden.file import schema
from euhydra.store.gardens import Unreadable
from euhydra.web import pages
from euhydra.web.drawings import push
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.fields import Fields
from euhydra.web.shelf import Shelf, Standing

router = APIRouter()


@router.get("/", response_class=HTMLResponse)
def home(request: Request) -> HTMLResponse:
    """The last changed garden with its Run and section, beside the way in."""
    shelf: Shelf = request.app.state.shelf
    gardens = shelf.gardens.listed()
    context: dict[str, Any] = {"gardens": gardens, "first": None}
    standing = _first_that_opens(shelf, [g.id for g in gardens])
    if standing:
        garden = standing.garden
        context |= {
            "first": garden, "run": pages.run_of(standing.assessment, garden.units),
            "verdict": standing.assessment.station("push").verdict.show(garden.units),
            "drawing": push.draw(Sheet(standing.assessment, Fields(garden, shelf.library)),
                                    still=True)}
    return pages.templates.TemplateResponse(request, "home.html", context)


def _first_that_opens(shelf: Shelf, ids: list[str]) -> Standing | None:
    """One garden that cannot be read must not bar the door to the others."""
    for garden_id in ids:
        try:
            return shelf.take(garden_id)
        except Unreadable:
            continue
    return None


@router.get("/health")
def health(request: Request) -> JSONResponse:
    """Whether the app can read its file."""
    shelf: Shelf = request.app.state.shelf
    try:
        with shelf.gardens.database.read() as db:
            version = db.execute("PRAGMA user_version").fetchone()[0]
    except sqlite3.Error:
        return JSONResponse({"status": "the file of gardens cannot be read"}, status_code=503)
    return JSONResponse({"status": "ok", "version": __version__, "file_version": version})


@router.get("/schema/garden.json")
def garden_schema() -> JSONResponse:
    """JSON Schema of a garden's file."""
    return JSONResponse(schema())
