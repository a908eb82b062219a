"""Lay: one laying of a bed from above, with the ground it wets."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.advise.layings import Laying
from euhydra.core.editing import placement
from euhydra.web import svg
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import MARGIN, Frame


def laying(laid: Laying, bed_id: str) -> Markup:
    """One laying of a bed from above, with the ground it wets."""
    bed = next(p for p in laid.after.garden.plots if p.id == bed_id)
    flat = next(t for t in placement.placed(laid.after.garden) if t.path == f"plots/{bed_id}")
    west, south, east, north = flat.bounds
    wide, tall, edge = 262.0, 190.0, 22.0
    scale = min((wide - 2 * edge) / (east - west), (tall - 2 * edge) / (north - south), 120)
    frame = Frame(west - (edge - MARGIN) / scale, north + (edge - MARGIN) / scale, scale, 0)
    wet = laid.after.wetted[bed_id]
    lines = [x for x in laid.after.garden.lines if x.plot == bed_id]
    parts = [*things.plot(frame, bed, laid.after.library),
             svg.path(frame.outline(wet.ground), "d-wet"),
             svg.path(frame.outline(wet.twice), "d-wet-twice"),
             *(svg.line([frame.at(p) for p in x.course],
                        pieces.ROLES.get(x.role, "d-row")) for x in lines),
             *pieces.dots(laid.after, frame, {x.id for x in lines})]
    name = laid.after.library.methods[laid.method].name
    return svg.svg(wide, (north - south) * scale + 2 * edge, f"{bed.name} laid with {name}", parts)
