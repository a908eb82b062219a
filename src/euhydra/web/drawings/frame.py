"""The frame of a ground plan: from metres on the site's grid to the sheet, north up."""

from __future__ import annotations

import math
from dataclasses import dataclass

from markupsafe import Markup
from shapely.geometry import MultiPolygon, Polygon

from euhydra.core.editing import placement
from euhydra.core.garden.model import Garden, Point
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY
from euhydra.web import svg
from euhydra.web.sheet import Sheet

WIDTH, TALLEST, MARGIN = 850.0, 560.0, 16.0
EDGE_M = 0.2


@dataclass(frozen=True)
class Frame:
    """From metres on the site grid to the sheet: y north is up."""

    x0: float
    y1: float
    scale: float
    height: float

    def at(self, point: Point) -> XY:
        """A point on the sheet."""
        return self.xy(point.x_m, point.y_m)

    def xy(self, x_m: float, y_m: float) -> XY:
        """A place on the sheet."""
        return (x_m - self.x0) * self.scale + MARGIN, (self.y1 - y_m) * self.scale + MARGIN

    def places(self, places: list[XY]) -> list[XY]:
        """Places on the sheet."""
        return [self.xy(x, y) for x, y in places]

    def outline(self, shape: Polygon | MultiPolygon) -> str:
        """A shape as the commands of a path, its holes too."""
        return "".join("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in self.places(ring)) + "Z"
                       for ring in geometry.rings(shape))


def frame_of(garden: Garden) -> Frame:
    """The frame that takes in everything in the garden, and the datum's place.

    It ends at whole metres, so that it seldom changes while a thing is moved.
    """
    west, south, east, north = placement.extent(garden)
    west, south = math.floor(min(west, 0.0) - EDGE_M), math.floor(min(south, 0.0) - EDGE_M)
    east, north = math.ceil(max(east, 0.0) + EDGE_M), math.ceil(max(north, 0.0) + EDGE_M)
    wide, tall = max(east - west, 1.0), max(north - south, 1.0)
    scale = min((WIDTH - 2 * MARGIN) / wide, (TALLEST - 2 * MARGIN - 24) / tall, 110)
    return Frame(west, north, scale, tall * scale + 2 * MARGIN + 34)


def scale_bar(sheet: Sheet, frame: Frame) -> Markup:
    """A round length in the units shown."""
    metres = next((m for m in ((1, 2, 5, 10, 20) if sheet.system == "metric"
                               else (1.524, 3.048, 6.096, 15.24)) if m * frame.scale > 60), 20)
    y, length = frame.height - 16, metres * frame.scale
    return svg.el("g", svg.across(MARGIN, MARGIN + length, y),
                  svg.text(MARGIN + length + 8, y + 4, sheet.show(metres, "length", 0), "d-dim"),
                  svg.text(WIDTH - MARGIN, y + 4, "north is up", "d-mute", "end"))
