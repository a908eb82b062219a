"""Where things lie in plan: a plot's own frame, its outline, and back to the site's grid.

A plot's own frame has its origin at the south-west corner of its unturned box, x along the box's
length and y across it; the box is turned about its middle.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import pairwise

import numpy as np
from shapely.geometry import LineString, MultiPolygon, Polygon, box

from euhydra.core.garden.model import AnyPlot, Bed, Building, Garden, Path, Point, Roof, Tree

XY = tuple[float, float]


def middle(plot: AnyPlot | Building) -> XY:
    """The middle of a plot's box on the site's grid, m."""
    return plot.corner.x_m + plot.length_m / 2, plot.corner.y_m + plot.breadth_m / 2


def to_site(plot: AnyPlot | Building, places: Iterable[XY]) -> list[XY]:
    """Places in a plot's own frame as places on the site's grid."""
    (cx, cy), turn = middle(plot), math.radians(plot.turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    out = []
    for x, y in places:
        dx, dy = x + plot.corner.x_m - cx, y + plot.corner.y_m - cy
        out.append((cx + dx * cos - dy * sin, cy + dx * sin + dy * cos))
    return out


def to_plot(plot: AnyPlot | Building, place: XY) -> XY:
    """A place on the site's grid in a plot's own frame."""
    (cx, cy), turn = middle(plot), math.radians(-plot.turn_deg)
    dx, dy = place[0] - cx, place[1] - cy
    return (cx + dx * math.cos(turn) - dy * math.sin(turn) - plot.corner.x_m,
            cy + dx * math.sin(turn) + dy * math.cos(turn) - plot.corner.y_m)


def own_outline(plot: AnyPlot) -> Polygon:
    """A plot's outline in its own frame: its shape drawn out to fill the box, or the box."""
    if isinstance(plot, Bed) and plot.outline:
        xs, ys = [p.x_m for p in plot.outline], [p.y_m for p in plot.outline]
        wide, deep = max(xs) - min(xs), max(ys) - min(ys)
        if wide > 1e-6 and deep > 1e-6:
            return Polygon([((x - min(xs)) * plot.length_m / wide,
                             (y - min(ys)) * plot.width_m / deep)
                            for x, y in zip(xs, ys, strict=True)])
    return box(0, 0, plot.length_m, plot.breadth_m)


def unturned_corners(bed: Bed) -> list[XY]:
    """The corners of a bed's outline on the site's grid, before it is turned."""
    return [(x + bed.corner.x_m, y + bed.corner.y_m)
            for x, y, *_ in list(own_outline(bed).exterior.coords)[:-1]]


def corners(thing: AnyPlot | Building) -> list[XY]:
    """The corners of a thing's box on the site's grid, anticlockwise from its own south-west."""
    long, wide = thing.length_m, thing.breadth_m
    return to_site(thing, [(0, 0), (long, 0), (long, wide), (0, wide)])


def outline(plot: AnyPlot) -> Polygon:
    """A plot's outline on the site's grid."""
    return Polygon(to_site(plot, [(x, y) for x, y, *_ in own_outline(plot).exterior.coords]))


def area_m2(bed: Bed) -> float:
    """Ground that a bed covers."""
    return float(own_outline(bed).area) if bed.outline else bed.length_m * bed.width_m


def roof_shape(roof: Roof) -> Polygon:
    """A roof's outline in plan."""
    if roof.outline:
        return Polygon([(p.x_m, p.y_m) for p in roof.outline])
    at = roof.corner
    return box(at.x_m, at.y_m, at.x_m + roof.width_m, at.y_m + roof.depth_m)


def building_shape(building: Building) -> Polygon:
    """A building's outline in plan."""
    return Polygon(corners(building))


def path_shape(path: Path) -> Polygon:
    """The ground that a path takes."""
    return LineString(points_xy(path.course)).buffer(path.width_m / 2, cap_style="flat",
                                                     join_style="mitre")


def solid_shapes(garden: Garden) -> list[Polygon]:
    """What no pipe goes through: buildings, walls, and roofs that stand over a building."""
    return [*(roof_shape(r) for r in garden.roofs if r.over == "building"),
            *(building_shape(b) for b in garden.buildings)]


def points_xy(points: Iterable[Point]) -> list[XY]:
    """Points as pairs."""
    return [(p.x_m, p.y_m) for p in points]


def point(place: XY) -> Point:
    """A pair as a point, to a tenth of a millimetre."""
    return Point(x_m=round(place[0], 4), y_m=round(place[1], 4))


def course_m(course: Sequence[XY]) -> float:
    """Length of a course in plan."""
    return sum(math.dist(a, b) for a, b in pairwise(course))


def along(course: Sequence[XY], at_m: Iterable[float]) -> list[XY]:
    """The places so many metres along a course; beyond its ends, the end itself."""
    xy = np.asarray(course, dtype=float)
    steps = np.hypot(*np.diff(xy, axis=0).T)
    reach = np.concatenate([[0.0], np.cumsum(steps)])
    where = np.asarray(list(at_m), dtype=float)
    return list(zip(np.interp(where, reach, xy[:, 0]).tolist(),
                    np.interp(where, reach, xy[:, 1]).tolist(), strict=True))


def chords(shape: Polygon, y: float) -> list[tuple[float, float]]:
    """Where a level line at ``y`` lies inside a shape, as (from, to), west first."""
    west, _, east, _ = shape.bounds
    cut = shape.intersection(LineString([(west - 1, y), (east + 1, y)]))
    parts = getattr(cut, "geoms", [cut])
    spans = [(p.bounds[0], p.bounds[2]) for p in parts if p.length > 1e-6]
    return sorted(spans)


def trunks(tree: Tree) -> list[XY]:
    """Where a row's trunks stand, in its own frame."""
    return [(tree.canopy_m / 2 + i * tree.apart_m, tree.breadth_m / 2) for i in range(tree.count)]


def whole(shape: Polygon | MultiPolygon) -> list[Polygon]:
    """The polygons that a shape is made of."""
    return [p for p in getattr(shape, "geoms", [shape]) if p.area > 0]


def rings(shape: Polygon | MultiPolygon) -> list[list[XY]]:
    """Outer and inner rings of a shape, each without its last corner, which is its first."""
    return [[(x, y) for x, y, *_ in ring.coords[:-1]] for part in whole(shape)
            for ring in (part.exterior, *part.interiors)]
