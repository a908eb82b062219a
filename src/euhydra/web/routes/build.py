"""Build: what is there already, what a part costs here, and the list for the shop."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import Response

from euhydra.core.garden.buying import UNPRICED, Holding, SetHolding
from euhydra.core.garden.edits import Edit, EditRefused
from euhydra.core.garden.measures import field_measure, parse_for
from euhydra.web.pages import templates
from euhydra.web.panes.build import shopping
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import kept_or_said, shelf_of
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=400)]


@router.post("/parts")
def note(request: Request, garden_id: str, part: Text,
         what: Annotated[Literal["have", "price"], Form()], typed: Text = "") -> Response:
    """Note how much of a part is there already (nothing typed: none), or what it costs here.

    No price typed goes back to the price book.
    """
    def make(standing: Standing) -> tuple[Edit, str]:
        line = next((p for p in standing.assessment.parts if p.id == part), None)
        if line is None:
            raise EditRefused("That part is no longer on the list: the garden has changed.")
        if not typed.strip():
            return SetHolding(part, **{what: 0.0 if what == "have" else UNPRICED}), line.name[:120]
        measure = replace(field_measure(Holding, what), low=0.0)
        if what == "have" and line.sold_by == "metre":
            measure = replace(measure, kind="length")
        value = parse_for(measure, typed, standing.garden.units)
        return SetHolding(part, **{what: value}), f"{line.name}: {what} {typed}"[:120]

    return kept_or_said(request, garden_id, "build", make, f"parts/{part}/{what}", typed)


@router.get("/export/shopping.html")
def for_the_shop(request: Request, garden_id: str) -> Response:
    """The list as one page that needs no network; it keeps its own ticks where it is opened."""
    a = shelf_of(request).take(garden_id).assessment
    page = templates.get_template("shopping.html").render(
        garden=a.garden, **shopping(a, a.garden.units))
    return saved(page, "text/html; charset=utf-8", f"{garden_id}-shopping.html")
