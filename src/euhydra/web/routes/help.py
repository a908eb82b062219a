"""Where things are, and what the words mean."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from euhydra.web import pages, search
from euhydra.web.routes.stations import shelf_of

router = APIRouter()
STATIONS_ARE_FOR = (
    ("Place", "the weather of your garden: rain, warmth, frost, the levels of the ground"),
    ("Catch", "where water comes from: roofs and gutters, laundry, taps, wells"),
    ("Store", "barrels and tanks: how many, how high, where they overflow"),
    ("Grow", "what is watered, and what it drinks through the year"),
    ("Lay", "the ground plan: pipes, drippers, zones, drawn and moved by hand"),
    ("Push", "whether the water gets there: gravity or a pump, evenness, pressure"),
    ("Time", "what to set on the timer, month by month"),
    ("Prove", "the whole season on many years of weather: short days, holidays, where water goes"),
    ("Build", "what to buy, and how it goes together, step by step"),
    ("Keep", "the log: dips, readings, soil, and what follows from them"))
KEYS = (
    ("1 to 9, 0", "the ten stations"), ("/", "go to anything, or do something"),
    ("l", "all measures of a station as a list"), ("Ctrl Z", "undo; with shift, redo"),
    ("arrows", "a step more or less in a field; a thing on the plan a step further"),
    ("Enter", "keep what was typed and go to the next field"),
    ("Esc", "put back what is being dragged"))


@router.get("/g/{garden_id}/places.json")
def places(request: Request, garden_id: str) -> list[dict[str, str | float]]:
    """All that the go-to box finds in a garden, in the order of its rank."""
    return [asdict(x) for x in search.places(shelf_of(request).take(garden_id).assessment)]


@router.get("/help", response_class=HTMLResponse)
def help_page(request: Request) -> HTMLResponse:
    """What each station is for, the keys, and the words of the trade."""
    return pages.templates.TemplateResponse(request, "help.html", {
        "stations": STATIONS_ARE_FOR, "keys": KEYS,
        "terms": [(term, means, search.anchor(term)) for term, means in search.glossary()]})
