"""A garden's file out and in again, and its plan and tables in open formats."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.file import BadFile, from_json
from euhydra.exports.ics import calendar_ics
from euhydra.exports.log_csv import BadTable
from euhydra.exports.plan_dxf import plan_dxf
from euhydra.exports.tables import TABLES, as_csv
from euhydra.store.kept import Unreadable
from euhydra.store.riding import as_file
from euhydra.web import bundle, pages
from euhydra.web.drawings.standalone import plan_svg
from euhydra.web.guard import LARGEST_BODY
from euhydra.web.pictures import BadPicture, photo_of, riding_in
from euhydra.web.shelf import Shelf

router = APIRouter()
FromDoor = Annotated[str, Form(max_length=1)]  # whether one returns to the front door


@router.get("/g/{garden_id}/export/garden.json")
def export(request: Request, garden_id: str) -> Response:
    """The whole garden as its open JSON; its stored text where that cannot be read."""
    shelf: Shelf = request.app.state.shelf
    try:
        standing = shelf.take(garden_id)
    except Unreadable:
        standing = None
    if standing is None or standing.kept.held_back:
        return saved(shelf.gardens.text(garden_id), "application/json", f"{garden_id}.json")
    return saved(as_file(shelf.gardens.database, standing.garden), "application/json",
                 f"{garden_id}.json")


@router.get("/g/{garden_id}/export/plan.svg")
def plan_as_svg(request: Request, garden_id: str) -> Response:
    """The ground plan as a drawing of its own."""
    a = _assessment(request, garden_id)
    return saved(plan_svg(a), "image/svg+xml", f"{garden_id}-plan.svg")


@router.get("/g/{garden_id}/export/plan.dxf")
def plan_as_dxf(request: Request, garden_id: str) -> Response:
    """The ground plan for drawing programs."""
    a = _assessment(request, garden_id)
    return saved(plan_dxf(a.garden), "image/vnd.dxf", f"{garden_id}-plan.dxf")


@router.get("/g/{garden_id}/export/calendar.ics")
def calendar(request: Request, garden_id: str) -> Response:
    """What falls due through the year, for calendar programs."""
    a = _assessment(request, garden_id)
    return saved(calendar_ics(a, dt.date.today()), "text/calendar; charset=utf-8",
                 f"{garden_id}.ics")


@router.get("/g/{garden_id}/export/{table}.csv")
def table_as_csv(request: Request, garden_id: str, table: str) -> Response:
    """One of the garden's tables."""
    a = _assessment(request, garden_id)
    if table not in TABLES:
        raise HTTPException(404)
    return saved(as_csv(a, table), "text/csv; charset=utf-8", f"{garden_id}-{table}.csv")


def _assessment(request: Request, garden_id: str) -> Assessment:
    shelf: Shelf = request.app.state.shelf
    return shelf.take(garden_id).assessment


def saved(text: str | bytes, kind: str, name: str) -> Response:
    """Text as a file to keep. A garden's id holds nothing that a header minds."""
    return Response(text, media_type=kind, headers={
        "Content-Disposition": f'attachment; filename="{name}"'})


@router.post("/g/{garden_id}/copy")
def variant(request: Request, garden_id: str, door: FromDoor = "") -> RedirectResponse:
    """A copy of the garden to change, beside the garden it came from; or on the front door."""
    shelf: Shelf = request.app.state.shelf
    a = shelf.take(garden_id).assessment
    made = shelf.copy(a, f"{a.garden.name[:60]}, another way", f"Copied from {a.garden.name}")
    return RedirectResponse("/" if door else
                            f"/g/{made.id}/prove?view=variants&other={garden_id}",
                            status_code=303)


@router.post("/import")
def bring_in(request: Request, file: UploadFile) -> Response:
    """Keep the garden in an uploaded file and open it. A file that is none is refused whole."""
    shelf: Shelf = request.app.state.shelf
    data, name = file.file.read(), (file.filename or "The file")[:60]
    if data[:2] == b"PK":
        return RedirectResponse(f"/g/{_with_all(shelf, data, name)}/garden", status_code=303)
    if len(data) > LARGEST_BODY:
        return pages.problem(request, 413, "That is too large", f"“{name}” is larger than "
                             f"{LARGEST_BODY // 2**20} MB, the most that a garden's file can be. "
                             "Nothing was kept.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(f"“{name}” is not text. A garden's file is JSON, saved here with "
                      "Export.") from None
    if not text.strip():
        raise BadFile(f"“{name}” is empty. Pick a garden's file, saved here with Export.")
    garden = shelf.add(from_json(text, shelf.library), riding_in(text), "Opened from a file")
    return RedirectResponse(f"/g/{garden.id}/garden", status_code=303)


@router.get("/g/{garden_id}/export/everything.zip")
def everything(request: Request, garden_id: str) -> Response:
    """All that is kept of a garden in one ZIP, which opens elsewhere."""
    shelf: Shelf = request.app.state.shelf
    return saved(bundle.packed(shelf.rooms, garden_id), "application/zip", f"{garden_id}.zip")


def _with_all(shelf: Shelf, data: bytes, name: str) -> str:
    """Keep the garden of a ZIP with all that came with it; its id."""
    try:
        return bundle.brought_in(shelf.rooms, data, dt.date.today(), lambda body, entry: photo_of(
            body, f"{entry}.jpg", entry)[0])
    except UnicodeDecodeError:
        raise BadFile(f"“{name}”: a part of it is not text.") from None
    except (BadFile, BadTable, BadPicture) as error:
        raise BadFile(f"“{name}”: {error}") from None
