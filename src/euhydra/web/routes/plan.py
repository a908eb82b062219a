"""The ground plan: what is done on it is read as one edit, kept, or shown while it is dragged."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import JSONResponse, RedirectResponse, Response
from markupsafe import Markup
from shapely import Point as Spot

from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing import placement
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.hand_laying import (
    AddDripper,
    AddRow,
    LayAnew,
    LeadThrough,
    Pin,
    PutFitting,
)
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.pasted_beds import AddBeds, beds_pasted
from euhydra.core.editing.plan_edits import (
    Align,
    Distribute,
    DrawAt,
    Duplicate,
    MoveBy,
    RemoveAll,
    SizeTo,
    TurnBy,
)
from euhydra.core.editing.sketch_edits import MoveSketch
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Garden
from euhydra.core.terrain import geometry
from euhydra.web import pages
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import Frame, frame_of
from euhydra.web.fields import Fields
from euhydra.web.look import look_of
from euhydra.web.marks import mark_of
from euhydra.web.panes.lay import plan_figures
from euhydra.web.routes.stations import kept_or_said, shelf_of
from euhydra.web.sheet import Sheet
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}")
FARTHEST_M = 2000.0


@dataclass(frozen=True)
class Deed:
    """What was done on the plan: its name and what follows a colon, on what, where, how large."""

    do: str
    arg: str
    of: tuple[str, ...]
    east_m: float
    north_m: float
    length_m: float
    width_m: float

    @property
    def only(self) -> str:
        """The one path it is done to. Raises :class:`EditRefused`."""
        if len(self.of) != 1:
            raise EditRefused(f"{len(self.of)} things are picked; this is done to one at a time.")
        return self.of[0]

    @property
    def plot(self) -> str:
        """The plot that the one path names or belongs to."""
        parts = self.only.split("/")
        if parts[0] != "plots" or len(parts) < 2:
            raise EditRefused("Pick a bed first: this belongs to a bed.")
        return parts[1]


def read_deed(do: str, of: str, east: float, north: float, length: float, width: float) -> Deed:
    """What was done, within bounds. Raises :class:`EditRefused` for places that are none."""
    name, _, arg = do.partition(":")
    for value in (east, north, length, width):
        if not -FARTHEST_M <= value <= FARTHEST_M:
            raise EditRefused(f"{value:g} m is off the plan: it reaches {FARTHEST_M:g} m each way.")
    paths = tuple(dict.fromkeys(p for p in of.split(",") if p))
    return Deed(name, arg, paths, east, north, length, width)


def edit_of(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    """The edit that a deed asks for, and its title. Raises :class:`EditRefused`."""
    make = DEEDS.get(deed.do)
    if make is None:
        raise EditRefused(f"“{deed.do[:40]}” is nothing that can be done on the plan.")
    return make(deed, garden)


def _move(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    line = next((p[5:] for p in deed.of if p.startswith("line:")), None)
    if line is None:
        return MoveBy(deed.of, deed.east_m, deed.north_m), f"Move {_names(deed, garden)}"
    laid = next((x for x in garden.lines if x.id == line), None)
    if laid is None or laid.role not in ("supply", "blank"):
        raise EditRefused("This piece goes with its bed. Move the bed, or one of its rows.")
    middle = geometry.along(geometry.points_xy(laid.course), [
        geometry.course_m(geometry.points_xy(laid.course)) / 2])[0]
    return (LeadThrough(laid.zone, middle[0] + deed.east_m, middle[1] + deed.north_m),
            "Lead the pipe another way")


def _dripper(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    here = Spot(deed.east_m, deed.north_m)
    plot = next((p for p in reversed(garden.plots) if geometry.outline(p).covers(here)), None)
    if plot is None:
        raise EditRefused("A dripper stands in a plot. Click inside a bed, under a tree or on a "
                          "pot.")
    along, across = geometry.to_plot(plot, (deed.east_m, deed.north_m))
    return AddDripper(plot.id, along, across), f"Put a dripper in {plot.name}"


def _turn(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    try:
        by = float(deed.arg)
    except ValueError:
        by = float("nan")
    if not -360 <= by <= 360:
        raise EditRefused(f"“{deed.arg[:40]}” is no turn: give degrees from -360 to 360.")
    return TurnBy(deed.of, by), f"Turn {_names(deed, garden)}"


def _anew(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    if deed.arg == "all":
        return LayAnew(), "Lay the whole garden"
    return LayAnew(deed.plot), f"Lay {garden.plot(deed.plot).name}"


def _fitting(deed: Deed, garden: Garden) -> tuple[Edit, str]:
    return (PutFitting(deed.only.removeprefix("line:"), deed.arg),
            f"Put on {deed.arg.replace('-', ' ')}")


DEEDS: dict[str, Callable[[Deed, Garden], tuple[Edit, str]]] = {
    "move": _move, "turn": _turn, "dripper": _dripper, "anew": _anew, "fitting": _fitting,
    "size": lambda d, g: (SizeTo(d.only, d.east_m, d.north_m, d.length_m, d.width_m),
                          f"Size {_names(d, g)}"),
    "draw": lambda d, g: (DrawAt(d.arg, d.east_m, d.north_m, d.length_m, d.width_m),
                          f"Draw a {d.arg}"),
    "copy": lambda d, g: (Duplicate(d.of), f"Copy {_names(d, g)}"),
    "align": lambda d, g: (Align(d.of, d.arg), f"Line up {_names(d, g)}"),  # type: ignore[arg-type]
    "spread": lambda d, g: (Distribute(d.of, "east" if d.arg == "east" else "north"),
                            f"Spread {_names(d, g)}"),
    "remove": lambda d, g: (RemoveAll(d.of), f"Remove {_names(d, g)}"),
    "pin": lambda d, g: (Pin(d.of, True), f"Pin {_names(d, g)}"),
    "unpin": lambda d, g: (Pin(d.of, False), f"Unpin {_names(d, g)}"),
    "picture": lambda d, g: (MoveSketch(d.east_m, d.north_m), "Move the picture"),
    "row": lambda d, g: (AddRow(d.plot), f"Add a row to {g.plot(d.plot).name}"),
}


def _names(deed: Deed, garden: Garden) -> str:
    names = {t.path: t.name for t in placement.placed(garden)}
    words = [names.get(p, p.split("/")[-1]) for p in deed.of]
    return ", ".join(words[:3]) + (f" and {len(words) - 3} more" if len(words) > 3 else "")


Number = Annotated[float, Form(allow_inf_nan=False)]


@router.post("/plan")
def do_on_plan(request: Request, garden_id: str, do: Annotated[str, Form(max_length=60)],
               of: Annotated[str, Form(max_length=12000)] = "", east: Number = 0,
               north: Number = 0, length: Number = 0, width: Number = 0) -> Response:
    """Keep what was done on the plan as one change; what is new comes back picked."""
    shelf = shelf_of(request)
    deed = read_deed(do, of, east, north, length, width)

    def make(standing: Standing) -> tuple[Edit, str]:
        try:
            edit, title = edit_of(deed, standing.garden)
            standing.assessment.after(edit)
        except CannotAdd as error:
            raise EditRefused(str(error)) from None
        return edit, title[:120]

    before = shelf.take(garden_id)
    after = shelf.edit(garden_id, make, by=mark_of(request))
    new = new_paths(before.garden, after.garden)
    look = look_of(request)
    look = replace(look, picked=new or look.picked, view="plan")
    if request.headers.get("x-fragment"):
        return pages.station_page(request, after, "lay", look, before=before.assessment)
    return RedirectResponse(f"/g/{garden_id}/lay{look.query(before.kept.change)}", status_code=303)


def new_paths(before: Garden, after: Garden) -> tuple[str, ...]:
    """What stands in the plan now and did not before: things, drippers, led places, fittings."""
    old = set(_all_paths(before))
    return tuple(path for path in _all_paths(after) if path not in old)


def _all_paths(garden: Garden) -> Iterable[str]:
    yield from (thing.path for thing in placement.placed(garden))
    for plot in garden.plots:
        yield from (f"plots/{plot.id}/drippers/{d.id}" for d in plot.drippers)
    for zone in garden.zones:
        yield from (f"zones/{zone.id}/vias/{v.id}" for v in zone.vias)
    yield from (f"fittings/{f.id}" for f in garden.fittings if f.hand)


@router.get("/plan/live")
def follow(request: Request, garden_id: str, do: str = Query(max_length=60),
           of: str = Query("", max_length=12000), east: float = Query(0, allow_inf_nan=False),
           north: float = Query(0, allow_inf_nan=False),
           length: float = Query(0, allow_inf_nan=False),
           width: float = Query(0, allow_inf_nan=False)) -> Response:
    """The lines and figures as they would be, while a thing is dragged; nothing is kept."""
    now = shelf_of(request).take(garden_id).assessment
    try:
        edit, _ = edit_of(read_deed(do, of, east, north, length, width), now.garden)
        then = now.revised(edit.apply(now.garden, now.tables), now.record)
    except (EditRefused, CannotAdd) as error:
        return JSONResponse({"refused": str(error)})
    sheet, frame = Sheet(then, Fields(then.garden, then.library)), frame_of(now.garden)
    return JSONResponse({
        "figures": dict(plan_figures(sheet)), "lines": str(pieces.layer(then, frame)),
        "things": {} if do == "move" else _redrawn(then, frame, of.split(","))})


def _redrawn(then: Assessment, frame: Frame, paths: Iterable[str]) -> dict[str, str]:
    """The things named, drawn anew, by path."""
    placed = {thing.path: thing for thing in placement.placed(then.garden)}
    return {path: str(Markup("").join(things.drawn(frame, then.library, placed[path])))
            for path in paths if path in placed}


@router.post("/beds")
def paste_beds(request: Request, garden_id: str,
               pasted: Annotated[str, Form(max_length=8000)] = "") -> Response:
    """Put a pasted list of beds into the garden, or say beside it what is allowed."""
    def make(standing: Standing) -> tuple[Edit, str]:
        beds = beds_pasted(pasted, standing.garden.units, standing.assessment.library)
        return AddBeds(beds), f"{len(beds)} beds pasted"

    return kept_or_said(request, garden_id, "grow", make, "beds", pasted)
