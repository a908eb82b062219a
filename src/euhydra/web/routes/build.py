"""Build: what is there already, what a part costs here, and the list for the shop."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response
from pydantic import BaseModel, Field

from euhydra.core.construction.extension import MOST, MorePots
from euhydra.core.construction.parts import SOLD_BY
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.fields import field_measure, parse_for
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.stock import UNPRICED, Holding, SetHolding
from euhydra.store.ticks import Tick
from euhydra.web.pages import templates
from euhydra.web.panes.build import shopping
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import kept, kept_or_said, shelf_of
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
        if what == "have" and line.sold_by in SOLD_BY:
            measure = replace(measure, kind=SOLD_BY[line.sold_by][0])
        value = parse_for(measure, typed, standing.garden.units)
        return SetHolding(part, **{what: value}), f"{line.name}: {what} {typed}"[:120]

    return kept_or_said(request, garden_id, "build", make, f"parts/{part}/{what}", typed)


@router.post("/more")
def more(request: Request, garden_id: str, count: Annotated[int, Form(ge=1, le=MOST)],
         beside: Text = "") -> Response:
    """Put more pots into the garden."""
    def make(standing: Standing) -> tuple[Edit, str]:
        pots = "one more pot" if count == 1 else f"{count} more pots"
        return MorePots(beside, count), pots.capitalize()

    return kept(request, garden_id, "build", make)


class SaidOfOne(BaseModel):
    """A step, and when it was ticked or unticked (milliseconds since 1970)."""

    step: str = Field(min_length=1, max_length=160)
    done: bool
    said_ms: int = Field(ge=0, le=10**14)


class Said(BaseModel):
    """What a phone has to say of the steps, now or long after it was ticked.

    ``sent_ms`` is its clock as it says so: what is between is how long ago each was said.
    """

    ticks: list[SaidOfOne] = Field(max_length=1000)
    sent_ms: int | None = Field(None, ge=0, le=10**14)


@router.post("/ticks.json")
def ticks(request: Request, garden_id: str, said: Said) -> dict[str, list[str]]:
    """Keep ticks, the latest said of each step; answers with all that stand."""
    store = shelf_of(request).ticks
    store.say(garden_id, (
        Tick(t.step, t.done, 0 if said.sent_ms is None else said.sent_ms - t.said_ms, t.said_ms)
        for t in said.ticks))
    return {"done": sorted(store.of(garden_id))}


@router.post("/ticks")
def tick(request: Request, garden_id: str, step: Text, done: str = Form("")) -> RedirectResponse:
    """Tick one step, or untick it, without a script."""
    shelf_of(request).ticks.say(garden_id, [Tick(step[:160] or "?", done == "yes")])
    return RedirectResponse(f"/g/{garden_id}/build?view=steps#step-{step[:160]}", status_code=303)


@router.get("/export/shopping.html")
def for_the_shop(request: Request, garden_id: str) -> Response:
    """The list as one page that needs no network; it keeps its own ticks where it is opened."""
    a = shelf_of(request).take(garden_id).assessment
    page = templates.get_template("shopping.html").render(
        garden=a.garden, shopping=shopping(a, a.garden.units))
    return saved(page, "text/html; charset=utf-8", f"{garden_id}-shopping.html")
