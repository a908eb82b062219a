"""GeoJSON (RFC 7946): longitude and latitude on WGS 84, or metres of a grid of its own."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from euhydra.core.editing.outlines import Outline
from euhydra.core.terrain.geometry import XY
from euhydra.exports.plan_read import MOST_M, MOST_READ, UNITS_M, WANTED, BadPlan

# WGS 84: equatorial radius, m, and first eccentricity squared
EQUATOR_M, ECCENTRICITY_2 = 6378137.0, 6.69437999014e-3


def geojson(data: bytes, unit: str) -> tuple[list[Outline], str]:
    """The outlines of a file in m, and the unit its numbers were read in: ``degrees`` unless one
    is given or they are no place's. Raises :class:`BadPlan`.
    """
    try:
        tree = json.loads(data.decode("utf-8-sig"))
        raw = list(_features(tree, "", 0))
    except (UnicodeDecodeError, ValueError, TypeError, KeyError, AttributeError, IndexError,
            RecursionError):
        raise BadPlan("This is not whole GeoJSON: features with geometry and coordinates are "
                      f"looked for. {WANTED}") from None
    corners = [corner for _, _, course in raw for corner in course]
    if not corners or len(corners) > MOST_READ or not np.isfinite(corners).all():
        raise BadPlan(f"There are {len(corners)} places in it; 1 to {MOST_READ}, all of them "
                      "numbers, can be taken.")
    if not unit and _on_earth(corners):
        middle = np.mean(corners, axis=0)
        return [Outline(n, c, tuple(_east_north(p, middle) for p in course))
                for n, c, course in raw], "degrees"
    factor = UNITS_M[unit or "m"]
    return [Outline(n, c, tuple((x * factor, y * factor) for x, y in course))
            for n, c, course in raw], unit or "m"


def _features(tree: Any, name: str, deep: int) -> Iterator[tuple[str, bool, list[XY]]]:
    """Name, whether it is a ground, and course of each line and ring."""
    if deep > 20:
        raise ValueError("nested too deep")
    kind = tree.get("type")
    if kind == "Feature" and tree.get("geometry"):
        yield from _features(tree["geometry"], _named(tree), deep + 1)
    elif kind in ("FeatureCollection", "GeometryCollection"):
        for part in tree["features" if kind == "FeatureCollection" else "geometries"]:
            yield from _features(part, name, deep + 1)
    else:
        yield from ((name, closed, course) for closed, course in _courses(tree))


def _named(feature: Any) -> str:
    about = feature.get("properties") or {}
    return next((str(about[key]) for key in ("name", "title", "building") if about.get(key)),
                str(feature.get("id") or ""))[:60]


def _courses(geometry: Any) -> Iterator[tuple[bool, list[XY]]]:
    """A ground's outer ring, a line; holes and points are left out."""
    kind, inside = geometry.get("type"), geometry.get("coordinates")
    if kind in ("Polygon", "MultiPolygon"):
        for polygon in [inside] if kind == "Polygon" else inside:
            yield True, _course(polygon[0])[:-1]
    elif kind in ("LineString", "MultiLineString"):
        for line in [inside] if kind == "LineString" else inside:
            yield False, _course(line)


def _course(places: Any) -> list[XY]:
    return [(float(place[0]), float(place[1])) for place in places]


def _on_earth(corners: list[XY]) -> bool:
    """Whether numbers are degrees of a garden's size, rather than metres."""
    (west, south), (east, north) = np.min(corners, axis=0), np.max(corners, axis=0)
    if max(abs(west), abs(east)) > 180 or max(abs(south), abs(north)) > 90:
        return False
    a, b = (_east_north(p, ((west + east) / 2, (south + north) / 2))
            for p in ((west, south), (east, north)))
    return math.dist(a, b) <= 2 * MOST_M


def _east_north(place: XY, origin: Any) -> XY:
    """Metres east and north of an origin, both longitude and latitude, on the plane that touches
    the ellipsoid there. Within a centimetre over a kilometre. Source: radii of curvature of the
    ellipsoid of WGS 84, recalled.
    """
    lat = math.radians(origin[1])
    bent = 1 - ECCENTRICITY_2 * math.sin(lat) ** 2
    across, along = EQUATOR_M / math.sqrt(bent), EQUATOR_M * (1 - ECCENTRICITY_2) / bent ** 1.5
    return (math.radians(place[0] - origin[0]) * across * math.cos(lat),
            math.radians(place[1] - origin[1]) * along)
