"""The application: guard, routes, errors."""

from __future__ import annotations

import sqlite3
import time
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.responses import Response

from euhydra.core.editing.fields import NoSuchValue
from euhydra.core.editing.file import BadFile
from euhydra.core.editing.trees import EditRefused
from euhydra.store import trouble
from euhydra.store.access import Access
from euhydra.store.gardens import Gardens
from euhydra.store.kept import NoSuchGarden, Overtaken, Unreadable
from euhydra.store.trouble import CannotWrite
from euhydra.web import pages
from euhydra.web.api import api
from euhydra.web.benches import Benches
from euhydra.web.door import Door, Patience
from euhydra.web.guard import Guard
from euhydra.web.longwork import LongWork
from euhydra.web.press import NoPrinter, Press
from euhydra.web.routes import (
    alive,
    alive_files,
    build,
    devices,
    door,
    files,
    first_pour,
    help,
    helps,
    home,
    keep,
    live,
    neighbour,
    outdoors,
    outlines,
    paper,
    plan,
    push,
    safe,
    sketch,
    stations,
    today,
    tokens,
    weather,
    work,
)
from euhydra.web.shelf import Shelf

STATIC = Path(__file__).parent / "static"


def create_app(gardens: Gardens, at: str = "http://localhost:8017", *,
               stands_open: bool = False, authority: Path | None = None) -> FastAPI:
    """The app over the gardens in one database.

    ``at`` is where it is reached, by a phone too: scheme, name and port, no slash at its end.
    One that ``stands_open`` to a network lets in who knows the passphrase, or was given a code.
    ``authority`` is the certificate that phones may trust, where this machine made one.
    """
    app = FastAPI(title="Euhydra", docs_url=None, redoc_url=None, openapi_url=None)
    app.state.shelf = Shelf(gardens)
    app.state.benches = Benches()
    app.state.press = Press()
    app.state.long_work = LongWork()
    app.state.at = at
    access = Access(gardens.database)
    app.state.access = access if stands_open else None
    app.state.authority = authority
    app.state.patience = Patience(time.monotonic)
    app.mount("/api", api(app.state.shelf), name="api")
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    # Files comes after Keep and Build: its table route would answer for their tables too.
    for room in (home, help, door, tokens, safe, first_pour, weather, live, plan, push, devices,
                 build, keep, outdoors, paper, alive_files, files, work, outlines, sketch, today,
                 neighbour, alive, helps, stations):
        app.include_router(room.router)
    app.add_middleware(Door, access=access, stands_open=stands_open)
    app.add_middleware(Guard, at=at)
    app.add_exception_handler(NoSuchGarden, _no_garden)
    app.add_exception_handler(Unreadable, _unreadable)
    app.add_exception_handler(NoSuchValue, _refused)
    app.add_exception_handler(EditRefused, _refused)
    app.add_exception_handler(BadFile, _refused)
    app.add_exception_handler(NoPrinter, _no_printer)
    app.add_exception_handler(Overtaken, _overtaken)
    app.add_exception_handler(CannotWrite, _cannot_write)
    app.add_exception_handler(sqlite3.Error, _no_file)
    app.add_exception_handler(RequestValidationError, _unread)
    app.add_exception_handler(HTTPException, _http)
    return app


def _no_garden(request: Request, error: Exception) -> HTMLResponse:
    return pages.problem(request, 404, "There is no such garden",
                         f"Nothing is kept under “{str(error)[:60]}”. It may have been opened "
                         "under another name.")


def _unreadable(request: Request, error: Exception) -> HTMLResponse:
    garden = error.garden_id if isinstance(error, Unreadable) else ""
    return pages.problem(request, 422, "This garden cannot be read here",
                         f"{error} What is stored was not touched.",
                         (f"/g/{garden}/export/garden.json", "Save its stored text"))


def _refused(request: Request, error: Exception) -> HTMLResponse:
    return pages.problem(request, 422, "That cannot be done", str(error))


def _cannot_write(request: Request, error: Exception) -> HTMLResponse:
    return pages.problem(request, 503, "Nothing can be changed now", str(error),
                         ("/safe", "Safekeeping"))


def _no_file(request: Request, error: Exception) -> HTMLResponse:
    told = trouble.of(error)
    kept = ("Nothing was changed." if request.method == "POST"
            else "What can be read can still be saved.")
    return pages.problem(request, 503, told.what, f"{kept} {told.do}", ("/safe", "Safekeeping"))


def _no_printer(request: Request, error: Exception) -> HTMLResponse:
    return pages.problem(request, 501, "No PDF can be made here", str(error))


def _unread(request: Request, error: Exception) -> HTMLResponse:
    first = error.errors()[0] if isinstance(error, RequestValidationError) else {}
    where = str((first.get("loc") or ["form"])[-1])[:40]
    return pages.problem(request, 422, "That could not be read",
                         f"“{where}” is missing, too long, or not what is asked for here: "
                         f"{str(first.get('msg', ''))[:120]}.")


def _overtaken(request: Request, error: Exception) -> HTMLResponse:
    return pages.problem(request, 409, "The garden changed meanwhile",
                         "It was changed in another window. Look at it again, then make your "
                         "change; nothing else was lost.")


def _http(request: Request, error: Exception) -> Response:
    status = error.status_code if isinstance(error, HTTPException) else 400
    title = {404: "There is no such page", 405: "That cannot be done here"}.get(
        status, "That could not be read")
    return pages.problem(request, status, title, "Go back to your gardens and start from there.")
