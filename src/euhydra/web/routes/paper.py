"""On paper: the whole garden, and its labels, as PDFs made here."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable

from fastapi import APIRouter, Request
from fastapi.responses import Response

from euhydra.web import paper
from euhydra.web.paper import Written
from euhydra.web.press import Press
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import shelf_of

router = APIRouter(prefix="/g/{garden_id}/export")


@router.get("/garden.pdf")
async def whole(request: Request, garden_id: str) -> Response:
    """The whole garden: plan, section, zones, cards, parts, steps, cautions, neighbour's note."""
    def page() -> Written:
        shelf = shelf_of(request)
        assessment = shelf.take(garden_id).assessment
        sketch = assessment.garden.sketch
        under = shelf.sketches.of(assessment.garden) if sketch and sketch.on_paper else None
        return paper.whole_garden(assessment, dt.date.today(), under.jpeg if under else b"")

    return await _printed(request, page, f"{garden_id}.pdf")


@router.get("/drilling.pdf")
async def drilling(request: Request, garden_id: str) -> Response:
    """Every hole as a circle of its true size."""
    def page() -> Written:
        return paper.drilling(shelf_of(request).take(garden_id).assessment)

    return await _printed(request, page, f"{garden_id}-drilling.pdf")


@router.get("/labels.pdf")
async def labels(request: Request, garden_id: str) -> Response:
    """The labels, with codes that lead to where this app is reached."""
    def page() -> Written:
        return paper.labels(shelf_of(request).take(garden_id).assessment, request.app.state.at)

    return await _printed(request, page, f"{garden_id}-labels.pdf")


async def _printed(request: Request, page: Callable[[], Written], name: str) -> Response:
    press: Press = request.app.state.press
    made = await press.pdf(page, request.is_disconnected)
    return saved(made, "application/pdf", name)
