"""Zones on the plan: each plot with its zone's number, those that open together in one outline."""

from __future__ import annotations

from itertools import pairwise

from markupsafe import Markup
from shapely.geometry import LineString, MultiPolygon, Polygon
from shapely.ops import unary_union

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.terrain import geometry
from euhydra.web import svg
from euhydra.web.drawings import things
from euhydra.web.drawings.frame import WIDTH, Frame, frame_of, scale_bar
from euhydra.web.sheet import Sheet

ROUND_M, DASHES = 0.28, ("", "9 4", "2 3", "12 3 2 3", "5 5", "1 4")


def plan(sheet: Sheet) -> Markup:
    """The plan with the zones; a plot may be dragged to another to open with it."""
    garden, frame = sheet.garden, frame_of(sheet.garden)
    number = {plot: i + 1 for i, zone in enumerate(garden.zones) for plot in zone.plots}
    parts = [things.ground(garden, sheet.assessment.library, frame),
             *(_outline(garden, frame, zone, i) for i, zone in enumerate(garden.zones))]
    for plot in garden.plots:
        shape = geometry.outline(plot)
        x, y = frame.xy(*shape.centroid.coords[0])
        if plot.id not in number:
            parts.append(svg.el("g", svg.path(frame.outline(shape), "d-zone-plot"),
                                svg.text(x, y + 5, "by hand", "d-lab", "middle")))
            continue
        zone = garden.zones[number[plot.id] - 1]
        parts.append(svg.el(
            "g", svg.path(frame.outline(shape), "d-zone-plot"),
            svg.el("circle", cx=x, cy=y, r=13, class_="d-white"),
            svg.text(x, y + 5, str(number[plot.id]), "d-name", "middle"),
            data_zone_plot=plot.id, tabindex="0", role="button",
            aria_label=f"{plot.name}, zone {number[plot.id]}: {zone.name}. Drag it to a plot to "
            "be watered together, or to free ground to be watered with plots like it."))
    return svg.svg(WIDTH, frame.height + 10, "Zones on the plan", interactive=True,
                   children=[*parts, scale_bar(sheet, frame)])


def _outline(garden: Garden, frame: Frame, zone: Zone, i: int) -> Markup:
    shapes = [geometry.outline(garden.plot(p)).buffer(ROUND_M) for p in zone.plots]
    joined = unary_union([*shapes, *_bridges(shapes)])
    if not isinstance(joined, (Polygon, MultiPolygon)):
        return Markup("")
    return svg.path(frame.outline(joined), "d-zone", stroke_dasharray=DASHES[i % len(DASHES)])


def _bridges(shapes: list[Polygon]) -> list[Polygon]:
    """Narrow bands from each shape to the next, so that a zone reads as one."""
    return [LineString([a.centroid, b.centroid]).buffer(ROUND_M / 4)
            for a, b in pairwise(shapes)]
