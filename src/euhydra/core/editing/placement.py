"""Everything that stands in a garden's plan, by its path: its shape, and how it is moved."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from shapely import affinity
from shapely.geometry import Polygon, box

from euhydra.core import storage
from euhydra.core.garden.model import Basin, Drain, Garden, RainGarden, Store, Thing, WetArea
from euhydra.core.terrain import geometry

MARK_M = 0.15  # a tap, a well, a pump or a spot height takes so much room on the plan


@dataclass(frozen=True)
class Placed:
    """One thing of the plan: where it is named, what it is, itself, and the ground it takes."""

    path: str
    kind: str
    thing: Thing
    shape: Polygon

    @property
    def name(self) -> str:
        """What its owner calls it."""
        return self.thing.name

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """West, south, east and north, m."""
        west, south, east, north = self.shape.bounds
        return float(west), float(south), float(east), float(north)


def placed(garden: Garden) -> tuple[Placed, ...]:
    """Every thing of the plan, the ground's first and what stands on it after."""
    things = [Placed(f"paths/{t.id}", "path", t, geometry.path_shape(t)) for t in garden.paths]
    hollows: list[tuple[str, str, WetArea | RainGarden | Basin]] = [
        *((f"wet_areas/{t.id}", "wet-area", t) for t in garden.wet_areas),
        *((f"rain_gardens/{t.id}", "rain-garden", t) for t in garden.rain_gardens),
        *((f"drains/{d.id}/basins/{b.id}", "basin", b) for d in garden.drains for b in d.basins)]
    things += [Placed(path, kind, t, box(
        t.corner.x_m, t.corner.y_m, t.corner.x_m + t.length_m, t.corner.y_m + t.width_m))
        for path, kind, t in hollows]
    things += [Placed(f"roofs/{t.id}", "roof", t, geometry.roof_shape(t)) for t in garden.roofs]
    things += [Placed(f"buildings/{t.id}", t.kind, t, geometry.building_shape(t))
               for t in garden.buildings]
    things += [Placed(f"plots/{t.id}", t.kind, t, geometry.outline(t)) for t in garden.plots]
    things += [Placed(f"stores/{t.id}", "store", t, store_shape(t)) for t in garden.stores]
    things += [Placed(f"drains/{t.id}", "drain", t, drain_shape(t)) for t in garden.drains]
    for table in ("taps", "wells", "lifts"):
        things += [Placed(f"{table}/{t.id}", table[:-1], t, _mark(t.at.x_m, t.at.y_m))
                   for t in getattr(garden, table)]
    things += [Placed(f"site/spots/{t.id}", "spot", t, _mark(t.at.x_m, t.at.y_m))
               for t in garden.site.spots]
    return tuple(things)


def _mark(x_m: float, y_m: float) -> Polygon:
    return box(x_m - MARK_M, y_m - MARK_M, x_m + MARK_M, y_m + MARK_M)


def drain_shape(drain: Drain) -> Polygon:
    """The ground under a drain's drum, which its pump stands in; else a sign."""
    if drain.school != "drum":
        return _mark(drain.at.x_m, drain.at.y_m)
    half = storage.length_m(drain.drum) / 2
    return box(drain.at.x_m - half, drain.at.y_m - half, drain.at.x_m + half, drain.at.y_m + half)


def store_shape(store: Store) -> Polygon:
    """The ground under a store's vessels, which stand in a row to the west of its place."""
    wide, deep = storage.length_m(store), storage.width_m(store)
    west = store.at.x_m - (store.count - 1) * wide * 1.05 - wide / 2
    return box(west, store.at.y_m - 0.35 - deep / 2, store.at.x_m + wide / 2,
               store.at.y_m - 0.35 + deep / 2)


def extent(garden: Garden) -> tuple[float, float, float, float]:
    """West, south, east and north of all that stands in the garden, m."""
    bounds = [thing.bounds for thing in placed(garden)]
    return (min(b[0] for b in bounds), min(b[1] for b in bounds),
            max(b[2] for b in bounds), max(b[3] for b in bounds))


def shifted(tree: dict[str, Any], east_m: float, north_m: float) -> dict[str, Any]:
    """A thing's tree moved over the plan. Raises KeyError for one that has no place."""
    def moved(at: dict[str, float]) -> dict[str, float]:
        return {"x_m": round(at["x_m"] + east_m, 4), "y_m": round(at["y_m"] + north_m, 4)}

    out, found = dict(tree), False
    for key in ("corner", "at"):
        if key in tree:
            out[key], found = moved(tree[key]), True
    if "course" in tree:
        out["course"], found = tuple(moved(p) for p in tree["course"]), True
    if "material" in tree and tree["outline"]:
        out["outline"] = tuple(moved(p) for p in tree["outline"])
    if not found:
        raise KeyError("no place")
    return out


def turned(shape: Polygon, by_deg: float) -> Polygon:
    """A shape turned about its middle."""
    return affinity.rotate(shape, by_deg, origin="center")
