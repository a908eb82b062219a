"""On paper: the whole garden, and its labels, as PDFs made here."""

from __future__ import annotations

import datetime as dt

from fastapi import APIRouter, Request
from fastapi.responses import Response

from euhydra.web import paper
from euhydra.web.labels import printed
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import shelf_of

router = APIRouter(prefix="/g/{garden_id}/export")


@router.get("/garden.pdf")
def whole(request: Request, garden_id: str) -> Response:
    """The whole garden: plan, section, zones, cards, parts, steps, cautions, neighbour's note."""
    assessment = shelf_of(request).take(garden_id).assessment
    return saved(paper.whole_garden(assessment, dt.date.today()), "application/pdf",
                 f"{garden_id}.pdf")


@router.get("/labels.pdf")
def labels(request: Request, garden_id: str) -> Response:
    """The labels, with codes that lead to where this app is reached."""
    garden = shelf_of(request).take(garden_id).garden
    return saved(paper.pdf("labels.html", garden=garden,
                           paper_size=paper.size_of(garden.units),
                           labels=printed(garden, request.app.state.at)),
                 "application/pdf", f"{garden_id}-labels.pdf")
