"""Outlines that were brought in, each with its number, over what stands in the garden."""

from __future__ import annotations

from collections.abc import Sequence

from markupsafe import Markup

from euhydra.core.editing import placement
from euhydra.core.editing.outlines import Outline
from euhydra.core.garden.model import Garden
from euhydra.core.terrain.geometry import XY
from euhydra.web import svg
from euhydra.web.drawings.frame import MARGIN, Frame

WIDE, TALLEST = 420.0, 300.0  # small, so that its numbers can be read on a phone


def brought(garden: Garden, outlines: Sequence[Outline]) -> Markup:
    """A small plan: the garden in a hairline, the outlines in ink with their numbers."""
    west, south, east, north = placement.extent(garden)
    boxes = [(west, south, east, north), *(o.shape.bounds for o in outlines)]
    west, south = min(b[0] for b in boxes), min(b[1] for b in boxes)
    east, north = max(b[2] for b in boxes), max(b[3] for b in boxes)
    scale = min((WIDE - 2 * MARGIN) / max(east - west, 1), (TALLEST - 2 * MARGIN) / max(
        north - south, 1))
    frame = Frame(west, north, scale, (north - south) * scale + 2 * MARGIN)
    parts = [svg.path(frame.outline(t.shape), "d-paving") for t in placement.placed(garden)]
    for number, outline in enumerate(outlines, start=1):
        places = frame.places(list(outline.corners))
        parts.append(svg.line([*places, places[0]] if outline.closed else places, "d-ink"))
        x, y = frame.xy(*_middle(outline))
        parts.append(svg.text(x, y + 4, str(number), "d-lab d-halo", "middle"))
    return svg.svg(WIDE, frame.height, "The outlines in the file, each with its number", parts)


def _middle(outline: Outline) -> XY:
    """Where its number stands: inside a ground, half way along a course."""
    at = (outline.shape.representative_point() if outline.closed
          else outline.shape.interpolate(0.5, normalized=True))
    return at.x, at.y
