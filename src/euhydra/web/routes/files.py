"""A garden's file: out and in again."""

from __future__ import annotations

from fastapi import APIRouter, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from euhydra.core.garden.file import BadFile, from_json, to_json, weather_in
from euhydra.web.shelf import Shelf

router = APIRouter()


@router.get("/g/{garden_id}/export/garden.json")
def export(request: Request, garden_id: str) -> Response:
    """The whole garden as its open JSON."""
    shelf: Shelf = request.app.state.shelf
    standing = shelf.take(garden_id)
    garden = standing.garden
    text = to_json(garden, standing.assessment.record)
    return Response(text, media_type="application/json", headers={
        "Content-Disposition": f'attachment; filename="{garden.id}.json"'})


@router.post("/import")
def bring_in(request: Request, file: UploadFile) -> RedirectResponse:
    """Keep the garden in an uploaded file and open it. A file that is none is refused whole."""
    shelf: Shelf = request.app.state.shelf
    try:
        text = file.file.read().decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(f"“{(file.filename or 'The file')[:60]}” is not text. A garden's file is "
                      "JSON, saved here with Export.") from None
    if not text.strip():
        raise BadFile(f"“{(file.filename or 'The file')[:60]}” is empty. Pick a garden's file, "
                      "saved here with Export.")
    garden = shelf.add(from_json(text, shelf.library), weather_in(text), "Opened from a file")
    return RedirectResponse(f"/g/{garden.id}/push", status_code=303)
