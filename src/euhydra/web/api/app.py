"""The API as an application of its own: its addresses, tokens and refusals."""

from __future__ import annotations

import datetime as dt
import sqlite3
from collections.abc import Callable
from typing import Annotated, Any

from fastapi import Depends, FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from fastapi.security import HTTPAuthorizationCredentials, HTTPBearer
from starlette.exceptions import HTTPException

from euhydra import __version__
from euhydra.core.log.entries import BadEntryOf
from euhydra.store import trouble
from euhydra.store.kept import NoSuchGarden, Unreadable
from euhydra.store.tokens import Scope, Tokens
from euhydra.store.trouble import CannotWrite
from euhydra.web.api import answers
from euhydra.web.api.readings import Forecast, Readings, entry_of
from euhydra.web.shelf import Shelf

ABOUT = ("Readings in, today's plan and the state of the garden out. Each token is made under "
         "Safekeeping for one garden and one thing: “readings” to tell, “today” to ask.")
bearer = HTTPBearer(auto_error=False, description="a token of the garden, made under Safekeeping")
Held = Annotated[HTTPAuthorizationCredentials | None, Depends(bearer)]
Responses = dict[int | str, dict[str, Any]]
REFUSALS: Responses = {status: {"model": answers.Refused} for status in (400, 401, 422)}
FAILS: Responses = {404: {"model": answers.Refused}, 503: {"model": answers.Refused}}


class NotLetIn(Exception):
    """The request has no token for what it asks."""


def api(shelf: Shelf) -> FastAPI:
    """The API over the gardens of a shelf, to be mounted at ``/api``."""
    app = FastAPI(title="Euhydra", version=__version__, description=ABOUT, docs_url=None,
                  redoc_url=None, responses=FAILS)

    def lets(held: HTTPAuthorizationCredentials | None, garden: str, scope: Scope) -> None:
        if held is None or not Tokens(shelf.gardens.database).lets(
                held.credentials[:200], garden, scope, dt.datetime.now(dt.UTC)):
            raise NotLetIn(f"This asks for a token for “{scope}” of this garden: "
                           "Authorization: Bearer …")

    @app.get("/gardens/{garden}/today", responses=REFUSALS)
    def today(garden: str, held: Held) -> answers.Plan:
        """What runs today and when, what can wait, what a hand waters, what there is to do."""
        lets(held, garden, "today")
        return answers.plan(shelf.take(garden).assessment, dt.date.today())

    @app.get("/gardens/{garden}/state", responses=REFUSALS)
    def state(garden: str, held: Held) -> answers.State:
        """How stores and plots stand this morning, and how long the water lasts."""
        lets(held, garden, "today")
        return answers.state(shelf.take(garden).assessment, dt.date.today())

    @app.post("/gardens/{garden}/readings", responses=REFUSALS)
    def readings(garden: str, said: Readings, held: Held) -> answers.Kept:
        """Put readings into the log, all or none; one that is sent twice stands once."""
        lets(held, garden, "readings")
        a, day = shelf.take(garden).assessment, dt.date.today()
        entries = []
        for n, one in enumerate(said.readings):
            try:
                entries.append(entry_of(a, one, day))
            except BadEntryOf as error:
                raise BadEntryOf(f"Reading {n + 1}: {error}") from None
        with shelf.gardens.database.write():
            fresh = {e.id: e for e in entries if not shelf.log.knows(garden, e.id)}
            shelf.log.put(garden, fresh.values())
        return answers.Kept(kept=len(fresh), known=len(entries) - len(fresh))

    @app.post("/gardens/{garden}/forecast", responses=REFUSALS)
    def forecast(garden: str, said: Forecast, held: Held) -> answers.Kept:
        """Take a forecast of rain in place of the one before; days that are past are left out."""
        lets(held, garden, "readings")
        day = dt.date.today()
        told = {one.day: one.rain_mm for one in said.days if one.day >= day}
        shelf.forecasts.put(garden, told, day)
        return answers.Kept(kept=len(told), known=0)

    _refuse(app)
    return app


def _refuse(app: FastAPI) -> None:
    """Have every failure told as what was refused and why."""
    for error, status in ((NotLetIn, 401), (BadEntryOf, 422), (NoSuchGarden, 404),
                          (Unreadable, 422), (CannotWrite, 503), (sqlite3.Error, 503),
                          (RequestValidationError, 422), (HTTPException, 404)):
        app.add_exception_handler(error, _says(status))


def _says(status: int) -> Callable[[Request, Exception], JSONResponse]:
    def said(request: Request, error: Exception) -> JSONResponse:
        code = error.status_code if isinstance(error, HTTPException) else status
        extra = {"WWW-Authenticate": "Bearer"} if code == 401 else {}
        held = dict(getattr(error, "headers", None) or {}) | extra
        return JSONResponse({"refused": _words(error)}, status_code=code, headers=held)
    return said


def _words(error: Exception) -> str:
    if isinstance(error, RequestValidationError):
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])[:120]
        return f"{where}: {first['msg']}"[:300]
    if isinstance(error, NoSuchGarden):
        return f"Nothing is kept under “{str(error)[:60]}”."
    if isinstance(error, HTTPException):
        return str(error.detail)[:300]
    return str(trouble.of(error)) if isinstance(error, sqlite3.Error) else str(error)
