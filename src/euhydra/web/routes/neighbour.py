"""The page for a neighbour while one is away, and the same as one file to hand over."""

from __future__ import annotations

import datetime as dt

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from euhydra.core.season.absence import MOST_DAYS
from euhydra.web import pages
from euhydra.web.garden_page import sheet_of
from euhydra.web.look import Look, look_of
from euhydra.web.neighbour import Neighbour, neighbour
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import shelf_of
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}")


@router.get("/neighbour", response_class=HTMLResponse)
def page(request: Request, garden_id: str) -> HTMLResponse:
    """What to do on which day, with a button for each thing that is done."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    return pages.templates.TemplateResponse(request, "neighbour.html", {
        "garden": standing.garden, "kept": standing.kept, "most": MOST_DAYS,
        "lets": request.app.state.access is not None and request.scope.get("role") == "owner",
        "p": _asked(request, standing, look)})


@router.get("/export/neighbour.html")
def file(request: Request, garden_id: str) -> Response:
    """The same as one page that needs no network; it keeps its own ticks where it is opened."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    told = _asked(request, standing, look)
    page = pages.templates.get_template("neighbour_file.html").render(
        garden=standing.garden, p=told)
    return saved(page, "text/html; charset=utf-8",
                 f"{garden_id}-away-{told.first.isoformat()}.html")


def _asked(request: Request, standing: Standing, look: Look) -> Neighbour:
    today = standing.assessment.today or dt.date.today()
    return neighbour(sheet_of(request, standing, look),
                     _date(request.query_params.get("from", "")) or today, look.away, today)


def _date(typed: str) -> dt.date | None:
    """A date from an address; None where it is none, or too far away to reckon dates from."""
    try:
        found = dt.date.fromisoformat(typed)
    except ValueError:
        return None
    return found if 1990 <= found.year <= 9000 else None
