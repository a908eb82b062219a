"""Safekeeping: copies of the file, everything of a garden, what is deleted and put back."""

from __future__ import annotations

import datetime as dt
import sqlite3
from dataclasses import dataclass
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse
from starlette.exceptions import HTTPException

from euhydra.store import backup, going, trouble
from euhydra.store.access import Access, Session
from euhydra.store.database import Database
from euhydra.store.kept import Listed
from euhydra.store.tokens import Tokens
from euhydra.store.trouble import CannotWrite
from euhydra.web import pages
from euhydra.web.routes.files import FromDoor
from euhydra.web.shelf import Shelf

router = APIRouter()


@dataclass(frozen=True)
class CopyShown:
    """A line of the list of copies."""

    name: str
    made: str
    size: str


def _day(when: dt.date) -> str:
    return f"{when.day} {when:%B %Y}"


def _megabytes(path: Path) -> str:
    return f"{max(path.stat().st_size / 2**20, 0.1):.1f} MB"


def _shown(path: Path) -> CopyShown:
    made = dt.datetime.fromtimestamp(path.stat().st_mtime)
    return CopyShown(path.name, f"{_day(made)}, {made:%H:%M}", _megabytes(path))


def _until(gone: Listed) -> str:
    """The day on which a deleted garden goes for good."""
    when = dt.datetime.fromisoformat(gone.gone_at) + dt.timedelta(days=going.BACK_DAYS)
    return _day(when.date())


@router.get("/safe", response_class=HTMLResponse)
def safe(request: Request, done: str = "") -> HTMLResponse:
    """What is kept, where, in which copies; what can be saved, deleted and put back."""
    shelf: Shelf = request.app.state.shelf
    database = shelf.gardens.database
    found = database.trouble
    try:
        gardens, gone = shelf.gardens.listed(), shelf.gardens.gone()
    except sqlite3.Error as error:
        gardens, gone, found = [], [], found or trouble.of(error)
    return pages.templates.TemplateResponse(request, "safe.html", {
        "trouble": found, "path": database.path, "folder": database.backups,
        "size": _megabytes(database.path) if database.path.is_file() else "",
        "copies": [_shown(path) for path in backup.there(database)], "rule": backup.RULE,
        "tokens": [] if found else Tokens(database).all(),
        "devices": _devices(request), "at": request.app.state.at,
        "authority": request.app.state.authority,
        "gardens": gardens, "gone": [(one, _until(one)) for one in gone], "done": done[:60],
        "back_days": going.BACK_DAYS})


def _devices(request: Request) -> list[tuple[Session, str]] | None:
    """The devices that are let in and the day they were last seen; None where none can be."""
    access: Access | None = request.app.state.access
    if access is None:
        return None
    return [(one, _day(dt.datetime.fromisoformat(one.seen_at).date()))
            for one in access.sessions()]


@router.post("/safe/copy")
def copy(request: Request) -> RedirectResponse:
    """Make a checked copy now."""
    shelf: Shelf = request.app.state.shelf
    if shelf.gardens.database.trouble:
        raise CannotWrite(shelf.gardens.database.trouble)
    try:
        made = backup.by_hand(shelf.gardens.database, shelf.library)
    except (OSError, trouble.BadCopy) as error:
        raise sqlite3.OperationalError(str(error)) from None
    return RedirectResponse(f"/safe?done=copied:{made.gardens}", status_code=303)


@router.get("/safe/file")
def file(request: Request) -> FileResponse:
    """The file as it lies on the disk, for where it cannot be opened here."""
    shelf: Shelf = request.app.state.shelf
    database = shelf.gardens.database
    if database.trouble is None or not database.path.is_file():
        raise HTTPException(404)
    return FileResponse(database.path, media_type="application/octet-stream",
                        filename=database.path.name)


@router.post("/g/{garden_id}/delete")
def delete(request: Request, garden_id: str, door: FromDoor = "") -> RedirectResponse:
    """Delete a garden; it can be put back for a month."""
    going.delete(_database(request), garden_id, dt.datetime.now(dt.UTC))
    return RedirectResponse(f"/?gone={garden_id}" if door else "/safe?done=deleted#gone",
                            status_code=303)


@router.post("/g/{garden_id}/back")
def put_back(request: Request, garden_id: str, door: FromDoor = "") -> RedirectResponse:
    """Put a deleted garden back."""
    going.delete(_database(request), garden_id, dt.datetime.now(dt.UTC), back=True)
    return RedirectResponse("/" if door else "/safe?done=back", status_code=303)


@router.post("/g/{garden_id}/prune")
def prune(request: Request, garden_id: str) -> RedirectResponse:
    """Forget a garden's changes older than a year."""
    count = going.prune(_database(request), garden_id, dt.datetime.now(dt.UTC))
    return RedirectResponse(f"/safe?done=pruned:{count}", status_code=303)


def _database(request: Request) -> Database:
    shelf: Shelf = request.app.state.shelf
    return shelf.gardens.database
