"""Outlines from a plan that was drawn elsewhere, each put into the garden as what it is."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from pydantic import ValidationError
from shapely.geometry import LineString, Polygon

from euhydra.core.editing.additions import made
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, checked, plain_error
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.terrain.geometry import XY

MOST_CORNERS, WALL_M, RECTANGULAR = 40, 0.2, 0.99
Values = dict[str, Any]


@dataclass(frozen=True)
class Outline:
    """A course or, when ``closed``, a ground; its corners on the site's grid, m."""

    name: str
    closed: bool
    corners: tuple[XY, ...]

    @property
    def shape(self) -> Polygon | LineString:
        """As a shape."""
        return Polygon(self.corners) if self.closed else LineString(self.corners)

    @property
    def may_be(self) -> tuple[str, ...]:
        """What it can be taken as."""
        return ("building", "roof", "bed", "wall", "path") if self.closed else ("wall", "path")


@dataclass(frozen=True)
class TakeOutlines:
    """Put outlines into the garden, each as one of what it may be."""

    taken: tuple[tuple[Outline, str], ...]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them. Raises :class:`EditRefused` where one cannot be that."""
        whole = garden
        for outline, kind in self.taken:
            if kind not in outline.may_be:
                raise EditRefused(f"“{outline.name}” cannot be taken as “{kind[:20]}”: as "
                                  f"{', '.join(outline.may_be)}.")
            for values in AS[kind](outline):
                whole = _with(whole, outline, kind, values)
        return relaid(checked(whole.model_dump()), library, garden)


def _with(garden: Garden, outline: Outline, kind: str, values: Values) -> Garden:
    """The garden with one thing more, its lines as they lie."""
    try:
        table, thing = made(garden, kind)
        named = {"name": outline.name[:80]} if outline.name else {}
        thing = type(thing).model_validate(thing.model_dump() | named | values)
    except CannotAdd as error:
        raise EditRefused(str(error)) from None
    except ValidationError as error:
        raise EditRefused(f"“{outline.name}” cannot be taken as a {kind}. "
                          f"{plain_error(error)}.") from None
    return garden.model_copy(update={table: (*getattr(garden, table), thing)})


def _boxed(shape: Polygon) -> Values:
    """The rectangle about a ground, turned as it lies, as a building's or a bed's."""
    box: Any = shape.minimum_rotated_rectangle
    around = list(box.exterior.coords)[:4]
    sides = [(math.dist(a, b), a, b) for a, b in zip(around, around[1:] + around[:1], strict=True)]
    (long, a, b), (wide, *_) = sorted(sides[:2], key=lambda side: -side[0])
    turn = (math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])) + 90) % 180 - 90
    return _about(box.centroid.x, box.centroid.y, long, wide, turn)


def _about(x_m: float, y_m: float, long: float, wide: float, turn_deg: float) -> Values:
    return {"corner": _at(x_m - long / 2, y_m - wide / 2), "length_m": round(long, 3),
            "width_m": round(wide, 3), "turn_deg": round(turn_deg, 2)}


def _at(x_m: float, y_m: float) -> Values:
    return {"x_m": round(x_m, 3), "y_m": round(y_m, 3)}


def _building(outline: Outline) -> Iterator[Values]:
    yield _boxed(Polygon(outline.corners))


def _walls(outline: Outline) -> Iterator[Values]:
    """A wall along each of its sides."""
    ends = outline.corners + (outline.corners[:1] if outline.closed else ())
    for (ax, ay), (bx, by) in pairwise(ends):
        turn = (math.degrees(math.atan2(by - ay, bx - ax)) + 90) % 180 - 90
        yield _about((ax + bx) / 2, (ay + by) / 2, math.dist((ax, ay), (bx, by)), WALL_M, turn)


def _path(outline: Outline) -> Iterator[Values]:
    ends = outline.corners + (outline.corners[:1] if outline.closed else ())
    yield {"course": tuple(_at(x, y) for x, y in ends)}


def _roof(outline: Outline) -> Iterator[Values]:
    west, south, east, north = outline.shape.bounds
    yield {"corner": _at(west, south), "width_m": round(east - west, 3),
           "depth_m": round(north - south, 3), "outline": tuple(_at(*p) for p in outline.corners)}


def _bed(outline: Outline) -> Iterator[Values]:
    """A rectangle where it is one, turned as it lies; else by its corners."""
    shape = Polygon(outline.corners)
    if shape.area >= RECTANGULAR * shape.minimum_rotated_rectangle.area:
        yield _boxed(shape)
        return
    west, south, east, north = shape.bounds
    yield {"corner": _at(west, south), "length_m": round(east - west, 3),
           "width_m": round(north - south, 3), "turn_deg": 0.0,
           "outline": tuple(_at(*p) for p in outline.corners)}


AS: dict[str, Callable[[Outline], Iterator[Values]]] = {
    "building": _building, "roof": _roof, "bed": _bed, "wall": _walls, "path": _path}
