"""The garden on a day: its page, a day in words, a year in numbers."""

from __future__ import annotations

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse
from starlette.exceptions import HTTPException

from euhydra.web import pages
from euhydra.web.alive import THIS, day_words, the_year
from euhydra.web.garden_page import garden_page, sheet_of
from euhydra.web.look import look_of
from euhydra.web.own_year import own_year
from euhydra.web.routes.stations import shelf_of
from euhydra.web.year_numbers import numbers

router = APIRouter(prefix="/g/{garden_id}/garden")
KEPT_S = 600  # its address names the change that it is of


@router.get("", response_class=HTMLResponse)
def page(request: Request, garden_id: str) -> HTMLResponse:
    """The garden on the day asked for, else today."""
    return garden_page(request, shelf_of(request).take(garden_id), look_of(request))


@router.get("/day", response_class=HTMLResponse)
def day(request: Request, garden_id: str) -> HTMLResponse:
    """What there is to say of a day."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    return pages.templates.TemplateResponse(request, "_day.html", {
        "told": day_words(sheet_of(request, standing, look), look)})


@router.get("/year")
def year(request: Request, garden_id: str) -> JSONResponse:
    """A year in numbers, for the script; the same until the garden is changed."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    a = standing.assessment
    told = numbers(sheet_of(request, standing, look), the_year(a, look))
    held = "no-cache" if look.year == THIS else f"private, max-age={KEPT_S}"  # the log goes on
    return JSONResponse(told, headers={"Cache-Control": held})


@router.get("/own", response_class=HTMLResponse)
def own(request: Request, garden_id: str, of: str = "") -> HTMLResponse:
    """One thing's own year, to stand under the same playhead."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    found = own_year(sheet_of(request, standing, look), look, of[:200])
    if found is None:
        raise HTTPException(404)
    return pages.templates.TemplateResponse(request, "_own_year.html", {"own": found})
