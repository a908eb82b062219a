"""Outlines of a plan drawn elsewhere: read, looked at, and picked one by one."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Request, UploadFile
from fastapi.responses import RedirectResponse, Response
from markupsafe import Markup
from pydantic import Field, TypeAdapter, ValidationError

from euhydra.core.editing import placement
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.outlines import MOST_CORNERS, WALL_M, Outline, TakeOutlines
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Garden, Path
from euhydra.core.units import show
from euhydra.exports.outlines_in import MOST_OUTLINES, outlines_in
from euhydra.exports.plan_read import BadPlan
from euhydra.web import pages
from euhydra.web.drawings.brought import brought
from euhydra.web.fields import Rejected
from euhydra.web.look import look_of
from euhydra.web.marks import mark_of
from euhydra.web.routes.plan import new_paths
from euhydra.web.routes.stations import refused, shelf_of

router = APIRouter(prefix="/g/{garden_id}/outlines")
ASIDE_M = 1.0
KIND_WORDS = {"": "leave it out", "building": "a building", "roof": "a roof", "bed": "a bed",
              "wall": "a wall", "path": "a path"}
UNIT_WORDS = {"m": "metres", "cm": "centimetres", "mm": "millimetres", "ft": "feet", "in": "inches",
              "degrees": "longitude and latitude"}
Corner = Annotated[float, Field(ge=-4000, le=4000)]
SENT: TypeAdapter[list[tuple[str, bool, list[tuple[Corner, Corner]]]]] = TypeAdapter(
    Annotated[list[tuple[Annotated[str, Field(max_length=80)], bool, Annotated[
        list[tuple[Corner, Corner]], Field(min_length=2, max_length=MOST_CORNERS)]]],
        Field(max_length=MOST_OUTLINES)])


@dataclass(frozen=True)
class Row:
    """One outline on the page: its number, name, size, and what it may be."""

    number: int
    name: str
    size: str
    kinds: tuple[tuple[str, str], ...]
    taken_as: str = ""


@dataclass(frozen=True)
class Brought:
    """What the page of outlines shows."""

    garden: Garden
    rows: tuple[Row, ...]
    drawing: Markup
    sent: str
    said: str
    why: str
    wall: str
    path: str


@router.post("")
def read(request: Request, garden_id: str, file: UploadFile,
         unit: Annotated[Literal["", "m", "cm", "mm", "ft", "in"], Form()] = "") -> Response:
    """Show what a file holds, to be picked from. Nothing is kept yet."""
    garden = shelf_of(request).gardens.load(garden_id).garden
    name = (file.filename or "The file")[:60]
    try:
        found = outlines_in(file.file.read(), name, unit)
    except BadPlan as error:
        return refused(request, garden_id, "lay", Rejected("outlines", "", str(error)))
    east, north = (0.0, 0.0) if found.stays else _aside(garden)
    outlines = found.moved(east, north)
    wide, tall = (_length(garden, metres) for metres in found.size_m)
    said = (f"“{name}”: {len(outlines)} outline{'s' * (len(outlines) != 1)}, {wide} by {tall} in "
            f"all, its numbers read as {UNIT_WORDS[found.unit]}.")
    if found.left_out:
        said += f" {found.left_out} too small, crossing themselves or too many: left out."
    said += (" They keep the places that the file gives them." if found.stays else
             " They stand east of all that is there, and come picked: drag them together.")
    return _page(request, garden, outlines, said)


async def _fields(request: Request) -> dict[str, str]:
    """What a form with a field for each outline holds."""
    form = await request.form(max_fields=MOST_OUTLINES + 10)
    return {key: value for key, value in form.items() if isinstance(value, str)}


@router.post("/take")
def take(request: Request, garden_id: str,
         form: Annotated[dict[str, str], Depends(_fields)]) -> Response:
    """Put those that were picked into the garden, as one change."""
    shelf = shelf_of(request)
    sent, said = form.get("outlines", ""), form.get("said", "")[:600]
    garden = shelf.gardens.load(garden_id).garden
    try:
        outlines = tuple(Outline(name, closed, tuple(corners))
                         for name, closed, corners in SENT.validate_json(sent))
    except ValidationError:
        raise EditRefused("The outlines that were sent are not whole. Read the file "
                          "again.") from None
    picks = {i: kind for i in range(len(outlines)) if (kind := form.get(f"as-{i}", ""))}
    taken = tuple((outlines[i], kind) for i, kind in picks.items())
    why = "Pick what at least one of them is." if not taken else ""
    if not why:
        title = f"{len(taken)} outline{'s' * (len(taken) != 1)} taken in"
        try:
            after = shelf.edit(garden_id, lambda _: (TakeOutlines(taken), title),
                               by=mark_of(request))
        except (EditRefused, CannotAdd) as error:
            why = str(error)
    if why:
        return _page(request, garden, outlines, said, picks, why)
    look = replace(look_of(request), view="plan", picked=new_paths(garden, after.garden))
    return RedirectResponse(f"/g/{garden_id}/lay{look.query()}", status_code=303)


def _aside(garden: Garden) -> tuple[float, float]:
    """Where outlines without a place of their own begin: east of all that stands."""
    _, south, east, _ = placement.extent(garden)
    return round(east + ASIDE_M, 3), round(south, 3)


def _page(request: Request, garden: Garden, outlines: tuple[Outline, ...], said: str,
          picks: dict[int, str] | None = None, why: str = "") -> Response:
    rows = tuple(Row(i, outline.name, _size(garden, outline),
                     tuple((key, KIND_WORDS[key]) for key in ("", *outline.may_be)),
                     (picks or {}).get(i, "")) for i, outline in enumerate(outlines))
    sent = SENT.dump_json([(o.name, o.closed, list(o.corners)) for o in outlines]).decode()
    shown = Brought(garden, rows, brought(garden, outlines), sent, said, why,
                    _length(garden, WALL_M), _length(garden, Path.model_fields["width_m"].default))
    return pages.templates.TemplateResponse(request, "outlines.html", dict(vars(shown)),
                                            status_code=422 if why else 200)


def _length(garden: Garden, metres: float) -> str:
    return show(metres, "length", garden.units)


def _size(garden: Garden, outline: Outline) -> str:
    west, south, east, north = outline.shape.bounds
    across = f"{_length(garden, east - west)} by {_length(garden, north - south)}"
    return across if outline.closed else f"{_length(garden, outline.shape.length)} long"
