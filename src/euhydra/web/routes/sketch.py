"""The picture under the ground plan: laid there, scaled by a length, taken away."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Request, UploadFile
from fastapi.responses import Response
from starlette.exceptions import HTTPException

from euhydra.core.editing.edits import Edit
from euhydra.core.editing.sketch_edits import LaySketch, ScaleSketch, TakeSketch
from euhydra.core.parsing import BadEntry, parse
from euhydra.web.fields import Rejected
from euhydra.web.pictures import BadPicture, sketch_of
from euhydra.web.routes.plan import FARTHEST_M
from euhydra.web.routes.stations import kept, kept_or_said, refused, shelf_of
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}/sketch")
Place = Annotated[str, Form(max_length=40)]


@router.post("")
def lay(request: Request, garden_id: str, file: UploadFile) -> Response:
    """Lay a picture under the plan. What is none is refused in words."""
    shelf = shelf_of(request)
    shelf.gardens.load(garden_id)
    try:
        picture = sketch_of(file.file.read(), file.filename or "The picture")
    except BadPicture as error:
        why = str(error)
        return refused(request, garden_id, "lay", Rejected("sketch", "", why))
    shelf.sketches.add(picture)
    return kept(request, garden_id, "lay", lambda _: (
        LaySketch(picture.id, picture.width, picture.height), "A picture under the plan"))


@router.post("/scale")
def scale(request: Request, garden_id: str, a: Place = "", b: Place = "",
          true: Annotated[str, Form(max_length=40)] = "") -> Response:
    """Scale it so that the two places measured on it are as far apart as was typed."""
    def make(standing: Standing) -> tuple[Edit, str]:
        system = standing.garden.units
        length = parse(true, "length", system)
        if not 0 < length <= FARTHEST_M:
            raise BadEntry(true, f"“{true[:30]}” is no length to scale by: more than 0, up to "
                                 f"{FARTHEST_M:g} m.")
        return (ScaleSketch(_place(a), _place(b), length),
                f"The picture scaled by {true[:30]}")

    return kept_or_said(request, garden_id, "lay", make, "sketch", true)


@router.post("/away")
def take_away(request: Request, garden_id: str) -> Response:
    """Take it away."""
    return kept(request, garden_id, "lay", lambda _: (TakeSketch(), "No picture under the plan"))


@router.get("/{picture}.jpg")
def picture(request: Request, garden_id: str, picture: str) -> Response:
    """The picture itself: it never changes under its name."""
    found = shelf_of(request).sketches.load(picture)
    if found is None:
        raise HTTPException(404)
    return Response(found.jpeg, media_type="image/jpeg",
                    headers={"Cache-Control": "private, max-age=31536000, immutable"})


def _place(typed: str) -> tuple[float, float]:
    """A place as the plan's Measure tool sends it, m; one place for nothing measured."""
    try:
        x, y = (float(part) for part in typed.split(","))
    except ValueError:
        return 0.0, 0.0
    return (x, y) if abs(x) <= FARTHEST_M and abs(y) <= FARTHEST_M else (0.0, 0.0)
