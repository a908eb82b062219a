"""The garden on a day as a page: the first stop on the Run."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import Request
from starlette.responses import HTMLResponse

from euhydra.store.kept import Made
from euhydra.web import pages
from euhydra.web.alive import Alive, alive
from euhydra.web.fields import Fields, Rejected
from euhydra.web.look import Look
from euhydra.web.marks import marked
from euhydra.web.sheet import Sheet
from euhydra.web.sheets import gardens_beside
from euhydra.web.shelf import Standing

NAME = "The garden"


@dataclass(frozen=True)
class GardenPage(pages.Top):
    """The top of every page, and the garden as it is on a day."""

    now: Alive


def garden_page(request: Request, standing: Standing, look: Look, *,
                asks_undo: Made | bool = False, rejected: Rejected | None = None,
                status: int = 200) -> HTMLResponse:
    """The whole page, or its inside alone when the page's own script asks."""
    shown = GardenPage(
        **pages.top_of(standing, standing.assessment, "garden", NAME, look, asks_undo=asks_undo,
                       rejected=rejected),
        now=alive(sheet_of(request, standing, look), look, standing.kept.change))
    name = "_garden.html" if request.headers.get("x-fragment") else "garden.html"
    answer = pages.templates.TemplateResponse(request, name, dict(vars(shown)),
                                              status_code=status)
    marked(request, answer)
    return answer


def sheet_of(request: Request, standing: Standing, look: Look) -> Sheet:
    """What the drawings of the garden are given."""
    a = standing.assessment
    system = request.query_params.get("units")
    return Sheet(a, Fields(a.garden, a.library),
                 units="us" if system == "us" else "metric" if system == "metric" else None,
                 **gardens_beside(request.app.state, standing, look))
