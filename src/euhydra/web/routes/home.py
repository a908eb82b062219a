"""The front door: the gardens as they are today, what is done with them, the way in."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response

from euhydra import __version__
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.fields import measure_at, parse_for
from euhydra.core.editing.file import schema
from euhydra.core.editing.taking_back import PutBack
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.parsing import BadEntry
from euhydra.store import trouble
from euhydra.store.database import version
from euhydra.store.gardens import DEMO_TITLE
from euhydra.store.kept import Listed, Unreadable
from euhydra.web import pages
from euhydra.web.alive import alive
from euhydra.web.fields import Rejected
from euhydra.web.garden_page import sheet_of
from euhydra.web.look import look_of
from euhydra.web.marks import mark_of
from euhydra.web.routes.stations import Text, shelf_of
from euhydra.web.shelf import Shelf, Standing

router = APIRouter()


@dataclass(frozen=True)
class Door:
    """A garden on the front door; ``demo`` where it came with the app, ``changed`` since.

    One that does not ``open`` has no picture.
    """

    id: str
    name: str
    demo: bool
    changed: bool
    opens: bool


@router.get("/", response_class=HTMLResponse)
def home(request: Request, gone: str = "") -> HTMLResponse:
    """The gardens as they are today, the last changed first, beside the way in.

    ``gone`` is one that was just deleted, which can be put back at once.
    """
    return _home(request, gone)


def _home(request: Request, gone: str = "", rejected: Rejected | None = None, status: int = 200
          ) -> HTMLResponse:
    shelf: Shelf = request.app.state.shelf
    found = shelf.gardens.database.trouble
    try:
        gardens, deleted = shelf.gardens.listed(), shelf.gardens.gone()
    except sqlite3.Error as error:
        gardens, deleted, found = [], [], found or trouble.of(error)
    context: dict[str, Any] = {
        "gardens": [_at_the_door(shelf, g) for g in gardens], "first": None, "trouble": found,
        "gone": next((g for g in deleted if g.id == gone), None), "rejected": rejected}
    standing = _first_that_opens(shelf, [g.id for g in gardens])
    if standing:
        look = look_of(request)
        context |= {"first": standing.garden,
                    "now": alive(sheet_of(request, standing, look), look, standing.kept.change)}
    return pages.templates.TemplateResponse(request, "home.html", context, status_code=status)


def _at_the_door(shelf: Shelf, listed: Listed) -> Door:
    first = shelf.gardens.as_it_came(listed.id, DEMO_TITLE)
    try:
        stands = shelf.gardens.load(listed.id).garden
    except Unreadable:
        stands = None
    return Door(listed.id, listed.name, first is not None, first is not None and stands != first,
                stands is not None)


@router.post("/g/{garden_id}/rename")
def rename(request: Request, garden_id: str, typed: Text = "") -> Response:
    """Call a garden something else."""
    def make(standing: Standing) -> tuple[Edit, str]:
        name = parse_for(measure_at(standing.garden, "name"), typed, standing.garden.units)
        return SetValue("name", name), f"Called {name}"[:120]

    try:
        shelf_of(request).edit(garden_id, make, by=mark_of(request))
    except (BadEntry, EditRefused) as error:
        why = error.why if isinstance(error, BadEntry) else str(error)
        return _home(request, rejected=Rejected(garden_id, typed, why), status=422)
    return RedirectResponse("/", status_code=303)


@router.post("/g/{garden_id}/as-it-came")
def as_it_came(request: Request, garden_id: str) -> RedirectResponse:
    """Put a demo garden back as it was, as one change that can be undone."""
    def make(standing: Standing) -> tuple[Edit, str]:
        first = shelf_of(request).gardens.as_it_came(garden_id, DEMO_TITLE)
        if first is None:
            raise EditRefused("How this garden first was is not kept here any more.")
        return PutBack(first), "Put back as it came"

    shelf_of(request).edit(garden_id, make, by=mark_of(request))
    return RedirectResponse("/", status_code=303)


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
