"""First pour: six questions on one screen, answered by drawings as one types."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.quick_start import GROUPS, pour
from euhydra.core.garden.model import Garden
from euhydra.store.kept import slug
from euhydra.web import pages
from euhydra.web.drawings import first_pour as drawings
from euhydra.web.forms import BEDS, OWN, Pour, month_texts, read
from euhydra.web.shelf import Shelf

router = APIRouter(prefix="/first-pour")


@router.get("", response_class=HTMLResponse)
def ask(request: Request, units: str = "metric") -> HTMLResponse:
    """The six questions, filled in with a small garden to change."""
    shelf: Shelf = request.app.state.shelf
    return _page(request, read({"units": units}, shelf.library), shelf)


@router.post("/preview")
async def preview(request: Request) -> JSONResponse:
    """What the drawings answer to the form as it stands; nothing is kept."""
    shelf: Shelf = request.app.state.shelf
    said = read(await _form(request), shelf.library)
    answers = await run_in_threadpool(_answers, said, shelf)
    months = month_texts(said.answers.climate, said.units)
    return JSONResponse({
        "previews": {key: {"drawing": str(a.drawing), "say": a.say} for key, a in answers.items()},
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
    return RedirectResponse(f"/g/{garden.id}/push", status_code=303)


async def _form(request: Request) -> dict[str, str]:
    form = await request.form(max_files=0, max_fields=400)
    return {key: value for key, value in form.items() if isinstance(value, str)}


def _add(said: Pour, shelf: Shelf) -> Garden:
    garden = pour(said.answers, shelf.library, slug(said.answers.name))
    return shelf.gardens.add(garden, "First pour")


def _answers(said: Pour, shelf: Shelf) -> dict[str, drawings.Answer]:
    reckoned = assess(pour(said.answers, shelf.library, "preview"), shelf.library)
    return drawings.answers(reckoned, said.answers)


def _page(request: Request, said: Pour, shelf: Shelf, status: int = 200) -> HTMLResponse:
    typed = {**month_texts(said.answers.climate, said.units), **said.typed}
    typed.setdefault("latitude_deg", f"{said.answers.latitude_deg:g}")
    context: dict[str, Any] = {
        "said": said, "typed": typed, "errors": said.errors, "beds": range(1, BEDS + 1),
        "groups": GROUPS, "own": OWN, "library": shelf.library, "system": said.units,
        "answers": _answers(said, shelf)}
    return pages.templates.TemplateResponse(request, "first_pour.html", context,
                                            status_code=status)
