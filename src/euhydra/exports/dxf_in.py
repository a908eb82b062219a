"""DXF of any version: its lines, polylines and curves, those of its blocks too."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from shapely.geometry import LineString, MultiLineString
from shapely.ops import linemerge

from euhydra.core.editing.outlines import Outline
from euhydra.core.terrain.geometry import XY
from euhydra.exports.plan_read import MOST_READ, SMOOTH_M, UNITS_M, WANTED, BadPlan


def dxf(data: bytes, name: str, unit: str) -> tuple[list[Outline], str]:
    """The outlines of a drawing in m, and the unit of its numbers: ``unit``, else what it says of
    itself, else metres. Raises :class:`BadPlan`.
    """
    from ezdxf import recover  # here, since it looks for fonts when it is imported
    from ezdxf.lldxf.const import DXFError

    try:
        drawing, _ = recover.read(io.BytesIO(data))
        said = unit or {5: "cm", 4: "mm", 2: "ft", 1: "in"}.get(drawing.units, "m")
        raw = list(_entities(drawing.modelspace(), UNITS_M[said]))
    except BadPlan:
        raise
    except (DXFError, OSError, ValueError, TypeError, KeyError, IndexError, AttributeError,
            ArithmeticError, RecursionError):
        raise BadPlan(f"“{name}” cannot be read as DXF. {WANTED}") from None
    return raw, said


def _entities(space: Any, factor: float) -> Iterator[Outline]:
    """Every course, curves drawn out; lines that meet end to end on a layer as one."""
    from ezdxf.disassemble import recursive_decompose
    from ezdxf.path import make_path

    loose: dict[str, list[LineString]] = {}
    read = 0
    for entity in recursive_decompose(space):
        kind, layer = entity.dxftype(), str(entity.dxf.layer)[:60]
        if kind not in ("LINE", "LWPOLYLINE", "POLYLINE", "CIRCLE", "ARC", "ELLIPSE", "SPLINE"):
            continue
        course = [(p.x * factor, p.y * factor)
                  for p in make_path(entity).flattening(SMOOTH_M / factor)]
        read += len(course)
        if read > MOST_READ:
            raise BadPlan(f"There are more than {MOST_READ} places in it: leave out what is no "
                          "wall, path, roof or bed.")
        if len(course) < 2 or not np.isfinite(course).all():
            continue
        if kind in ("LINE", "ARC"):
            loose.setdefault(layer, []).append(LineString(course))
        else:
            yield _outline(layer, course)
    for layer, lines in loose.items():
        merged = linemerge(MultiLineString(lines))
        for line in getattr(merged, "geoms", [merged]):
            yield _outline(layer, [(x, y) for x, y, *_ in line.coords])


def _outline(name: str, course: list[XY]) -> Outline:
    closed = len(course) > 3 and math.dist(course[0], course[-1]) < SMOOTH_M
    return Outline(name, closed, tuple(course[:-1] if closed else course))
