"""Where things are, and what the words mean."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from euhydra.web import pages, search
from euhydra.web.routes.stations import shelf_of

router = APIRouter()


@router.get("/g/{garden_id}/places.json")
def places(request: Request, garden_id: str) -> list[dict[str, str | float]]:
    """All that the go-to box finds in a garden, in the order of its rank."""
    return [asdict(x) for x in search.places(shelf_of(request).take(garden_id).assessment)]


@router.get("/help", response_class=HTMLResponse)
def help_page(request: Request) -> HTMLResponse:
    """What each station is for, the keys, and the words of the trade."""
    return pages.templates.TemplateResponse(request, "help.html", {
        "stations": search.table("stations.csv"), "keys": search.table("keys.csv"),
        "terms": [(term, means, search.anchor(term))
                  for term, means in search.table("glossary.csv")]})
