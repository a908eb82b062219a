"""The garden on a day as a file: SVG, PNG; a year as an animated SVG; small, for the front door."""

from __future__ import annotations

from fastapi import APIRouter, Request
from fastapi.responses import Response

from euhydra.core.garden.base import month_day
from euhydra.web import paper
from euhydra.web.alive import day_words, the_year, year_of
from euhydra.web.drawings import alive as draw
from euhydra.web.drawings import film
from euhydra.web.drawings.standalone import GROUND, standing_alone
from euhydra.web.garden_page import sheet_of
from euhydra.web.look import Look, look_of
from euhydra.web.morning import morning
from euhydra.web.press import Press
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import shelf_of
from euhydra.web.sheet import Sheet

router = APIRouter(prefix="/g/{garden_id}")
SVG = "image/svg+xml"


def drawn(request: Request, garden_id: str) -> str:
    """The picture of the day asked for, standing alone."""
    sheet, look = _asked(request, garden_id)
    year = year_of(sheet.assessment, look)
    return standing_alone(str(draw.picture(sheet, year, look.today)), GROUND)


@router.get("/garden/small.svg")
def small(request: Request, garden_id: str) -> Response:
    """The picture for where gardens stand beside each other, as it is now."""
    return Response(drawn(request, garden_id), media_type=SVG,
                    headers={"Cache-Control": "no-cache"})


@router.get("/export/day.svg")
def day_svg(request: Request, garden_id: str) -> Response:
    """The day's picture as a drawing."""
    return saved(drawn(request, garden_id), SVG, f"{garden_id}-{_at(request)}.svg")


@router.get("/export/day.png")
async def day_png(request: Request, garden_id: str) -> Response:
    """The day's picture with its words, as an image to send."""
    def page() -> paper.Written:
        sheet, look = _asked(request, garden_id)
        told, now = day_words(sheet, look), morning(sheet, look, year_of(sheet.assessment, look))
        date = f"{now.date}, today" if now else f"{told.date} of {told.of_year}"
        return paper.picture(sheet.garden, date, now.head if now else told.head,
                             drawn(request, garden_id))

    press: Press = request.app.state.press
    made = await press.pdf(page, request.is_disconnected)
    return saved(made, "image/png", f"{garden_id}-{_at(request)}.png")


@router.get("/export/year.svg")
def year_svg(request: Request, garden_id: str) -> Response:
    """A year of the garden as a drawing that plays by itself, silent."""
    sheet, look = _asked(request, garden_id)
    year = the_year(sheet.assessment, look)
    return saved(film.film(sheet, year), SVG, f"{garden_id}-year.svg")


def _at(request: Request) -> str:
    return month_day(look_of(request).today)


def _asked(request: Request, garden_id: str) -> tuple[Sheet, Look]:
    """The garden asked for, and how to look at it."""
    look = look_of(request)
    return sheet_of(request, shelf_of(request).take(garden_id), look), look
