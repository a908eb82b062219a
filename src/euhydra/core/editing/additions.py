"""New things for a garden, each beside what stands already, and what hangs on one taken away."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from euhydra.core.editing.makers import MAKERS, CannotAdd, basin_at, free_number
from euhydra.core.garden.model import (
    Downspout,
    Drain,
    Garden,
    Path,
    Planting,
    PlotBase,
    Point,
    Roof,
    Thing,
)

LEAST_DRAWN_M = 0.05


def made(garden: Garden, what: str) -> tuple[str, Thing]:
    """Where a new thing stands, and that thing beside its like, on the site's levels if it has any.

    Raises :class:`CannotAdd`, and KeyError for a name that is none of ``MAKERS``.
    """
    _, table, make = MAKERS[what]
    try:
        thing = make(garden)
    except ValidationError:
        raise CannotAdd("There is no room beside what stands already: the plan ends 1000 m from "
                        "its datum.") from None
    if garden.site.spots and "level_from" in type(thing).model_fields:
        thing = thing.model_copy(update={"level_from": "site"})
    return table, thing


def drawn(garden: Garden, what: str, west_m: float, south_m: float, length_m: float,
          width_m: float) -> tuple[str, Thing]:
    """Where a new thing stands, and that thing over a rectangle drawn on the plan.

    A bed or building takes the rectangle's size, a path its longer side as its course, trees and
    pots as many as fit; what is a point on the plan stands in the middle. Over a mere spot it
    keeps its usual size.
    """
    table, thing = made(garden, what)
    if max(length_m, width_m) < LEAST_DRAWN_M:
        return table, _put_down(thing, west_m, south_m)
    corner = _place(west_m, south_m)
    middle = _place(west_m + length_m / 2, south_m + width_m / 2)
    change: dict[str, Any] = {}
    if isinstance(thing, Path):
        flat = length_m >= width_m
        ends = ((west_m, middle.y_m), (west_m + length_m, middle.y_m)) if flat else (
            (middle.x_m, south_m), (middle.x_m, south_m + width_m))
        change = {"course": tuple(_place(x, y) for x, y in ends),
                  "width_m": round(min(length_m, width_m), 3)}
    elif "at" in type(thing).model_fields:
        change = {"at": middle}
    elif "corner" in type(thing).model_fields:
        change = {"corner": corner, "turn_deg": 0.0, **_sized(thing, length_m, width_m)}
        if isinstance(thing, Roof):
            del change["turn_deg"]
    tree = thing.model_dump() | {k: v.model_dump() if isinstance(v, Point) else v
                                 for k, v in change.items()}
    if isinstance(thing, Path):
        tree["course"] = tuple(p.model_dump() for p in change["course"])
    try:
        return table, type(thing).model_validate(tree)
    except ValidationError as error:
        first = error.errors()[0]
        raise CannotAdd(f"A rectangle of {length_m:.2f} by {width_m:.2f} m does not suit: "
                        f"{'/'.join(map(str, first['loc']))}, {first['msg'].lower()}.") from None


def _place(x_m: float, y_m: float) -> Point:
    """A place on the plan, to a millimetre. Raises :class:`CannotAdd`."""
    try:
        return Point(x_m=round(x_m, 3), y_m=round(y_m, 3))
    except ValidationError:
        raise CannotAdd(f"{x_m:.0f} m east and {y_m:.0f} m north is off the plan: it ends 1000 m "
                        "from its datum.") from None


def _put_down(thing: Thing, west_m: float, south_m: float) -> Thing:
    """A thing of its usual size with its south-west corner, or its place, at a spot."""
    at = _place(west_m, south_m)
    if isinstance(thing, Path):
        length = thing.course[-1].x_m - thing.course[0].x_m
        return thing.model_copy(update={"course": (at, _place(at.x_m + length, at.y_m))})
    key = "corner" if "corner" in type(thing).model_fields else "at"
    return thing.model_copy(update={key: at})


def _sized(thing: Thing, length_m: float, width_m: float) -> dict[str, Any]:
    """The measures with which a thing fills a rectangle."""
    long, wide = round(length_m, 3), round(width_m, 3)
    if isinstance(thing, Roof):
        return {"width_m": long, "depth_m": wide}
    if isinstance(thing, PlotBase):
        return thing.filling(long, wide)
    return {"length_m": long, "width_m": wide}


def child_of(garden: Garden, path: str) -> tuple[str, Thing | Planting]:
    """Where a new part of a thing stands, and that part, by the thing's path and the part's name.

    ``roofs/shed/downspouts`` gives a downspout, ``drains/laundry/basins`` a mulch basin,
    ``plots/bed-1/plantings`` another crop in the bed.
    """
    parts = path.split("/")
    for things, kind in (("roofs", "downspouts"), ("drains", "basins"), ("plots", "plantings")):
        if len(parts) == 3 and parts[0] == things and parts[2] == kind:
            owner = next((t for t in getattr(garden, things) if t.id == parts[1]), None)
            if isinstance(owner, Roof):
                number = free_number(owner.downspouts)
                left = max(0.0, 1 - sum(d.share for d in owner.downspouts))
                return path, Downspout(id=f"d-{number}", name=f"Downspout {number}",
                                       share=round(left, 6))
            if isinstance(owner, PlotBase):
                taken = {p.id for p in owner.plantings}
                number = next(n for n in range(1, 99) if f"p{n}" not in taken)
                return path, Planting(id=f"p{number}", crop="lettuce",
                                      share=max(0.01, round(1 / (len(owner.plantings) + 1), 6)))
            if isinstance(owner, Drain):
                number = free_number(owner.basins)
                x = max((b.corner.x_m + b.length_m for b in owner.basins), default=-0.5) + 0.5
                return path, basin_at(round(x, 3), number)
    raise CannotAdd(f"“{path[:60]}” is nothing that can be added to a garden.")
