"""Outlines out of plans drawn elsewhere: DXF and GeoJSON, in metres on a grid of the garden's."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from shapely.errors import GEOSException
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from euhydra.core.editing.outlines import MOST_CORNERS, Outline
from euhydra.core.terrain.geometry import XY
from euhydra.exports.dxf_in import dxf
from euhydra.exports.geojson_in import geojson
from euhydra.exports.plan_read import MOST_M, SMOOTH_M, WANTED, BadPlan

MOST_OUTLINES = 60
LEAST_M = 0.1  # what is smaller is left out
HERE_M = 300.0  # coordinates as near to the datum as this stay as they are

@dataclass(frozen=True)
class Read:
    """What was read: the outlines, the unit of the file's numbers, and what was left out.

    ``stays`` says that the file's own coordinates are kept; else its south-west corner is 0, 0.
    """

    outlines: tuple[Outline, ...]
    unit: str
    stays: bool
    left_out: int

    @property
    def size_m(self) -> XY:
        """From west to east and from south to north."""
        west, south, east, north = bounds(self.outlines)
        return east - west, north - south

    def moved(self, east_m: float, north_m: float) -> tuple[Outline, ...]:
        """The outlines so far from where the file has them."""
        return tuple(Outline(o.name, o.closed, tuple((round(x + east_m, 3), round(y + north_m, 3))
                                                     for x, y in o.corners)) for o in self.outlines)


def outlines_in(data: bytes, name: str, unit: str = "") -> Read:
    """The outlines of a file, with ``unit`` in place of what the file says of its numbers.

    Raises :class:`BadPlan`.
    """
    head = data[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    raw, said = (geojson(data, unit) if head.startswith((b"{", b"["))
                 else dxf(data, name, unit))
    found: list[Outline] = []
    left_out = 0
    for outline in raw:
        if (simple := _simple(outline)) is None or len(found) == MOST_OUTLINES:
            left_out += 1
        else:
            found.append(simple)
    if not found:
        raise BadPlan(f"“{name}” holds no lines or outlines that can be taken. {WANTED}")
    west, south, east, north = bounds(found)
    if max(east - west, north - south) > MOST_M:
        raise BadPlan(f"As {said} this plan is {east - west:.0f} by {north - south:.0f} m; up to "
                      f"{MOST_M:g} m can be taken. Choose the unit of its numbers: m, cm, mm, ft, "
                      "in.")
    stays = max(abs(v) for v in (west, south, east, north)) <= HERE_M and said != "degrees"
    read = Read(tuple(found), said, stays, left_out)
    return read if stays else Read(read.moved(-west, -south), said, stays, left_out)


def bounds(outlines: Iterable[Outline]) -> tuple[float, float, float, float]:
    """West, south, east and north of them all."""
    corners = np.array([corner for o in outlines for corner in o.corners])
    (west, south), (east, north) = corners.min(axis=0), corners.max(axis=0)
    return float(west), float(south), float(east), float(north)


def _simple(outline: Outline) -> Outline | None:
    """With as few corners as hold its shape; None for what is too small, or no ground at all."""
    try:
        shape = outline.shape
        if max(shape.bounds[2] - shape.bounds[0], shape.bounds[3] - shape.bounds[1]) < LEAST_M:
            return None
        within, corners = SMOOTH_M, _corners(shape)
        while len(corners) > MOST_CORNERS:
            corners, within = _corners(shape.simplify(within)), within * 2
        if outline.closed and (len(corners) < 3 or not Polygon(corners).is_valid):
            return None
    except (GEOSException, ValueError):
        return None
    return Outline(outline.name, outline.closed, tuple(corners)) if len(corners) > 1 else None


def _corners(shape: BaseGeometry) -> list[XY]:
    ring = shape.exterior.coords[:-1] if isinstance(shape, Polygon) else shape.coords
    return [(round(float(x), 3), round(float(y), 3)) for x, y, *_ in ring]
