"""The front door: the demo garden beside "Start a garden", and the gardens kept."""

from __future__ import annotations

import sqlite3
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse

from euhydra import __version__
from euhydra.core.editing.file import schema
from euhydra.store import trouble
from euhydra.store.database import version
from euhydra.store.kept import Unreadable
from euhydra.web import pages
from euhydra.web.drawings import push
from euhydra.web.fields import Fields
from euhydra.web.sheet import Sheet
from euhydra.web.shelf import Shelf, Standing

router = APIRouter()


@router.get("/", response_class=HTMLResponse)
def home(request: Request) -> HTMLResponse:
    """The last changed garden with its Run and section, beside the way in."""
    shelf: Shelf = request.app.state.shelf
    found = shelf.gardens.database.trouble
    try:
        gardens = shelf.gardens.listed()
    except sqlite3.Error as error:
        gardens, found = [], found or trouble.of(error)
    context: dict[str, Any] = {"gardens": gardens, "first": None, "trouble": found}
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
    """Whether the app can read and change its file, and what is the matter where it cannot."""
    shelf: Shelf = request.app.state.shelf
    database = shelf.gardens.database
    found, at, gardens = database.trouble, None, None
    try:
        with database.read() as db:
            at = version(db)
            gardens = db.execute("SELECT count(*) FROM garden").fetchone()[0]
    except sqlite3.Error as error:
        found = found or trouble.of(error)
    told = {"status": found.kind if found else "ok", "version": __version__,
            "file_version": at, "gardens": gardens}
    return JSONResponse(told | ({"what": str(found)} if found else {}),
                        status_code=503 if found else 200)


@router.get("/schema/garden.json")
def garden_schema() -> JSONResponse:
    """JSON Schema of a garden's file."""
    return JSONResponse(schema())
