"""The ground plan as DXF (R2010): metres, a layer for each kind of thing and of line."""

from __future__ import annotations

import io
from collections.abc import Iterable
from typing import Any

from euhydra.core.editing import placement
from euhydra.core.garden.model import Garden
from euhydra.core.layout import wetted
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

TEXT_M = 0.16
OUTLET_RADIUS_M = 0.02
# AutoCAD colour numbers: earth and leaf for things, blue for pipe
COLOURS = {"plots": 32, "roofs": 8, "buildings": 8, "paths": 9, "stores": 5, "taps": 30,
           "wells": 140, "drains": 200, "lifts": 140, "rain_gardens": 84,
           "wet_areas": 150, "site": 9}
PIPE, OUTLET, NAMES = 5, 4, 7


def plan_dxf(garden: Garden) -> str:
    """The plan's outlines, lines, outlets and names, as DXF text."""
    from ezdxf.filemanagement import new  # here, since it looks for fonts when it is imported
    from ezdxf.units import M

    drawing = new("R2010", units=M)
    space = drawing.modelspace()

    def layer(name: str, colour: int) -> dict[str, Any]:
        if name not in drawing.layers:
            drawing.layers.add(name, color=colour)
        return {"layer": name}

    for thing in placement.placed(garden):
        table = thing.path.split("/")[0]
        look = layer(f"{table}-{thing.kind}".upper(), COLOURS[table])
        for ring in geometry.rings(thing.shape):
            space.add_lwpolyline(ring, close=True, dxfattribs=look)
        west, _, _, north = thing.bounds
        space.add_text(thing.name, height=TEXT_M, dxfattribs=layer("NAMES", NAMES)).set_placement(
            (west, north + TEXT_M / 2))
    for line in garden.lines:
        space.add_lwpolyline(geometry.points_xy(line.course),
                             dxfattribs=layer(f"LINE-{line.role}".upper(), PIPE))
    for place in _outlet_places(garden):
        space.add_circle(place, OUTLET_RADIUS_M, dxfattribs=layer("OUTLETS", OUTLET))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def _outlet_places(garden: Garden) -> Iterable[XY]:
    lines = {line.id: line for line in garden.lines}
    for run in garden.outlets:
        yield from wetted.places(lines[run.line], run)
