"""First pour: what one has and waters, and the few questions that raises, on one screen."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import GROUPS
from euhydra.core.editing.quick_start import pour
from euhydra.core.garden.model import Garden
from euhydra.store.kept import slug
from euhydra.web import pages, pour_words
from euhydra.web.drawings import choices
from euhydra.web.drawings.place import small_climate
from euhydra.web.forms import Pour, month_texts, read
from euhydra.web.pour_fields import BED_ROWS, MORE_ROWS, OWN
from euhydra.web.shelf import Shelf

router = APIRouter(prefix="/first-pour")


@router.get("", response_class=HTMLResponse)
def ask(request: Request) -> HTMLResponse:
    """What one has and what one waters; nothing of it touched yet but what the address names."""
    shelf: Shelf = request.app.state.shelf
    return _page(request, read(request.query_params, shelf.library), shelf)


@router.post("/preview")
async def preview(request: Request) -> JSONResponse:
    """What the drawings answer to the form as it stands; nothing is kept."""
    shelf: Shelf = request.app.state.shelf
    said = read(await _form(request), shelf.library)
    stands = await run_in_threadpool(stood, said, shelf)
    months = month_texts(said.answers.climate, said.units)
    return JSONResponse({
        "previews": {key: {"drawing": str(a.drawing), "say": a.say}
                     for key, a in stands.answers.items()},
        "panel": pages.templates.get_template("_pour_panel.html").render(stands=stands),
        "errors": said.errors, "latitude": f"{said.answers.latitude_deg:g}",
        "months": months if said.typed["archetype"] != OWN else {}})


@router.post("")
async def make(request: Request) -> Response:
    """Make the garden; where a field is bad, the form again with all that was typed."""
    shelf: Shelf = request.app.state.shelf
    said = read(await _form(request), shelf.library)
    if said.errors:
        return await run_in_threadpool(_page, request, said, shelf, 422)
    garden = await run_in_threadpool(_add, said, shelf)
    day = await run_in_threadpool(_thirstiest, shelf, garden.id)
    return RedirectResponse(f"/g/{garden.id}/garden?day={day}", status_code=303)


def _thirstiest(shelf: Shelf, garden_id: str) -> str:
    """The middle of the month in which a garden drinks most, which shows it best."""
    return f"{shelf.take(garden_id).assessment.demand.peak_month + 1:02d}-15"


async def _form(request: Request) -> dict[str, str]:
    form = await request.form(max_files=0, max_fields=400)
    return {key: value for key, value in form.items() if isinstance(value, str)}


def _add(said: Pour, shelf: Shelf) -> Garden:
    garden = pour(said.answers, shelf.library, slug(said.answers.name))
    return shelf.gardens.add(garden, "First pour")


def stood(said: Pour, shelf: Shelf) -> pour_words.Stands:
    """How it stands as answered: each question's drawing, and all of it in a few sentences."""
    reckoned = assess(pour(said.answers, shelf.library, "preview"), shelf.library)
    return pour_words.stands(reckoned, said.answers, said.lacks)


def _page(request: Request, said: Pour, shelf: Shelf, status: int = 200) -> HTMLResponse:
    typed = {**month_texts(said.answers.climate, said.units), **said.typed}
    typed.setdefault("latitude_deg", f"{said.answers.latitude_deg:g}")
    stands = stood(said, shelf)
    context: dict[str, Any] = {
        "said": said, "typed": typed, "errors": said.errors if status == 422 else {},
        "beds": range(1, BED_ROWS + 1), "more": range(2, 2 + MORE_ROWS), "groups": GROUPS,
        "own": OWN, "library": shelf.library, "system": said.units, "stands": stands,
        "answers": stands.answers, "climates": [
            (row, small_climate(row)) for row in shelf.library.climates.values()],
        "waters": choices.WATERS, "watered": choices.WATERED}
    return pages.templates.TemplateResponse(request, "first_pour.html", context,
                                            status_code=status)
