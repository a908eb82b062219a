"""The ground that the lines wet at root depth, and the plants that stand outside it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import cast

import shapely
from shapely import contains_xy
from shapely.geometry import LineString, MultiPoint, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from euhydra.core.demand.plants import stands_in
from euhydra.core.garden.model import AnyPlot, Bed, Garden, Line, Outlet, Tree
from euhydra.core.layout.rows import tube_of
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

FULL_SPREAD_M = 0.3  # roots shallower than this meet a narrower strip, from memory
TOUCH_M = 0.05  # a stem this close to wet ground drinks from it, from memory
ROUND = 8


@dataclass(frozen=True)
class Wetted:
    """One plot's wetted ground on the site's grid.

    ``twice`` is the part of it wetted from two lines or more, ``dry_share`` the share of the plot
    that stays dry; ``thirsty`` are the places of plants outside.
    """

    plot: str
    ground: Polygon | MultiPolygon
    twice: Polygon | MultiPolygon
    dry_share: float
    twice_share: float
    thirsty: tuple[XY, ...]
    plants: int


Watered = tuple[Bed | Tree, tuple[tuple[Line, tuple[Outlet, ...]], ...]]


def spread_m(plot: AnyPlot, library: Library, tube: str = "") -> float:
    """How wide a line or a dripper wets the ground at root depth.

    A bed's rows as its way of watering has it, all else by the soil. Shallow roots meet less of it.
    """
    soil = library.soils[plot.soil].row_spacing_m
    method = library.methods[plot.method] if isinstance(plot, Bed) else None
    rows = isinstance(plot, Bed) and tube_of(plot, library).key == tube
    wide = method.apart_m(soil) if method and rows else soil
    root = max(library.crops[p.crop].root_m for p in plot.plantings)
    return wide * min(1.0, root / FULL_SPREAD_M)


def watered(garden: Garden) -> dict[str, Watered]:
    """Beds and trees by plot id, each with all that wets its ground: lines and their outlets.

    None that is left to cans or a hose.
    """
    lines = {line.id: line for line in garden.lines}
    runs: dict[str, dict[str, list[Outlet]]] = {}
    for run in garden.outlets:
        runs.setdefault(run.plot, {}).setdefault(run.line, []).append(run)
    return {plot.id: (plot, tuple((lines[key], tuple(mine))
                                  for key, mine in runs.get(plot.id, {}).items()))
            for plot in garden.plots
            if isinstance(plot, (Bed, Tree)) and plot.watered == "lines"}


def wetted(by: Watered, library: Library) -> Wetted:
    """The wetted ground of a bed or of trees."""
    plot, lines = by
    strips = [_strip(plot, line, runs, library) for line, runs in lines]
    shape = geometry.outline(plot)
    ground, twice = (cast(Polygon, part.intersection(shape)) for part in _once_and_twice(strips))
    dry = tuple(_dry_plants(plot, ground, library))
    return Wetted(plot.id, ground, twice, max(0.0, 1 - ground.area / shape.area),
                  twice.area / shape.area, dry,
                  sum(len(stand.places) for stand in stands_in(plot, library)))


def _once_and_twice(strips: list[Polygon]) -> tuple[BaseGeometry, BaseGeometry]:
    """What any strip wets, and what more than one of them does."""
    once: BaseGeometry = Polygon()
    twice: BaseGeometry = Polygon()
    for strip in strips:
        twice = twice.union(once.intersection(strip))
        once = once.union(strip)
    return once, twice


def _strip(plot: AnyPlot, line: Line, runs: Iterable[Outlet], library: Library) -> Polygon:
    """The ground wetted along one line: a strip where its outlets are built in, else discs."""
    half = spread_m(plot, library, line.tube) / 2
    course = geometry.points_xy(line.course)
    if library.tubes[line.tube].outlet and geometry.course_m(course) > 0.01:
        return LineString(course).buffer(half, quad_segs=ROUND)
    return MultiPoint([p for run in runs for p in places(line, run)]).buffer(
        half * max(run.each for run in runs) ** 0.5, quad_segs=ROUND)


def _dry_plants(plot: AnyPlot, ground: Polygon | MultiPolygon, library: Library) -> list[XY]:
    near = ground.buffer(TOUCH_M)
    shapely.prepare(near)
    places = [p for stand in stands_in(plot, library) for p in geometry.to_site(
        plot, stand.places)]
    if not places:
        return []
    inside = contains_xy(near, [x for x, _ in places], [y for _, y in places])
    return [p for p, wet in zip(places, inside, strict=True) if not wet]


def places(line: Line, run: Outlet) -> list[XY]:
    """Where a run's outlets stand in plan. A line longer than its course rises first."""
    course = geometry.points_xy(line.course)
    rise = line.length_m - geometry.course_m(course)
    return geometry.along(course, [run.first_m - rise + i * run.spacing_m
                                   for i in range(run.points)])
