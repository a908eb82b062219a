"""Each thing of a garden drawn as itself, seen from above, in a frame's scale."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.demand.plants import holders, stands_in
from euhydra.core.editing import placement
from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Building,
    Drain,
    Garden,
    Path,
    Pots,
    Roof,
    Store,
    Tower,
    Tree,
    Wicking,
)
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY
from euhydra.web import svg
from euhydra.web.drawings.frame import Frame

MOST_LEAVES = 260
LEAST_DRUM_PX = 14.0
GREY = ("G", "d-grey")
PATHS = {"paving": "d-paving", "gravel": "d-gravel", "grass": "d-lawn", "earth": "d-mulch"}


def path(frame: Frame, way: Path) -> list[Markup]:
    """A path, its surface told by its hatching."""
    return [svg.path(frame.outline(geometry.path_shape(way)), PATHS[way.surface])]


def roof(frame: Frame, over: Roof) -> list[Markup]:
    """A roof with the fall of its ribs."""
    shape = geometry.roof_shape(over)
    parts = [svg.path(frame.outline(shape), "d-wall")]
    west, south, east, north = shape.bounds
    if not over.outline:
        n = max(2, min(int((east - west) / 0.6), 24))
        ribs = "".join(f"M{x:.1f} {y0:.1f}V{y1:.1f}" for i in range(1, n)
                       for (x, y0), (_, y1) in [(frame.xy(west + (east - west) * i / n, south),
                                                 frame.xy(west, north))])
        parts.append(svg.path(ribs, "d-ribs"))
    return parts


def building(frame: Frame, solid: Building) -> list[Markup]:
    """A building hatched, a wall solid."""
    shape = frame.outline(geometry.building_shape(solid))
    return [svg.path(shape, "d-solid" if solid.kind == "wall" else "d-wall d-built")]


def store(frame: Frame, held: Store) -> list[Markup]:
    """A store's vessels in a row to the west of its place."""
    wide, deep = storage.length_m(held) * frame.scale, storage.width_m(held) * frame.scale
    x, y = frame.xy(held.at.x_m, held.at.y_m - 0.35)
    parts = []
    for i in range(min(held.count, 8)):
        cx = x - i * wide * 1.05
        parts.append(
            svg.el("g", svg.el("circle", cx=cx, cy=y, r=max(wide / 2, 3), class_="d-barrel"),
                   svg.el("circle", cx=cx, cy=y, r=max(wide / 2 - 3, 1.5), class_="d-rim"))
            if storage.SHAPES[held.shape].seen == "disc" else
            svg.rect(cx - max(wide, 6) / 2, y - max(deep, 6) / 2, max(wide, 6), max(deep, 6),
                     "d-barrel", rx=min(storage.SHAPES[held.shape].corner_px + 2, 8)))
    return parts


def mark(frame: Frame, thing: placement.Placed) -> list[Markup]:
    """A tap, a well, a drain, a pump or a spot height: a small sign with its letter."""
    x, y = frame.xy(*thing.shape.centroid.coords[0])
    if thing.kind == "spot":
        return [svg.path(f"M{x - 5:.1f} {y:.1f}h10M{x:.1f} {y - 5:.1f}v10", "d-thin")]
    if drain := drum_of(thing):
        return drum(frame, drain)
    return _sign(x, y, *{"tap": ("T", "d-tap"), "well": ("W", "d-well"), "drain": GREY,
                         "lift": ("P", "d-pump")}[thing.kind])


def drum_of(thing: placement.Placed) -> Drain | None:
    """The drain that a thing is, where it runs into a drum."""
    drain = thing.thing
    return drain if isinstance(drain, Drain) and drain.school == "drum" else None


def drum(frame: Frame, drain: Drain) -> list[Markup]:
    """A drain's drum, its sign at the rim: what draws from it stands in it."""
    (x, y), r = frame.at(drain.at), drum_px(frame, drain)
    return [svg.el("circle", cx=x, cy=y, r=r, class_="d-barrel"),
            svg.el("circle", cx=x, cy=y, r=r - 3, class_="d-rim"),
            *_sign(x - r * 0.7 - 6, y - r * 0.7 - 6, *GREY)]


def drum_px(frame: Frame, drain: Drain) -> float:
    """How far a drum's rim is from its middle on the sheet; never less than a pump needs."""
    return max(storage.length_m(drain.drum) * frame.scale / 2, LEAST_DRUM_PX)


def _sign(x: float, y: float, letter: str, class_: str) -> list[Markup]:
    return [svg.rect(x - 8, y - 8, 16, 16, class_),
            svg.text(x, y + 4.5, letter, "d-on", "middle")]


def plot(frame: Frame, grown: AnyPlot, library: Library) -> list[Markup]:
    """A plot with its plants."""
    return DRAWN[type(grown)](frame, grown, library)


def _bed(frame: Frame, bed: Bed, library: Library) -> list[Markup]:
    shape = geometry.outline(bed)
    class_ = {"lawn": "d-lawn", "border": "d-bed d-border"}.get(
        bed.kind, "d-bed d-raised" if bed.rim_m > 0 else "d-bed")
    parts = [svg.path(frame.outline(shape), class_)]
    if bed.rim_m > 0 and bed.kind != "lawn":
        parts.append(svg.path(frame.outline(shape.buffer(-0.05)), "d-rim"))
    return parts + ([] if bed.kind == "lawn" else leaves(frame, bed, library))


def leaves(frame: Frame, plot_: AnyPlot, library: Library) -> list[Markup]:
    """The plants as leaf discs at their places, as wide as they grow."""
    parts: list[Markup] = []
    for stand in stands_in(plot_, library):
        wide = min(library.crops[stand.crop].canopy_m, stand.spacing_m * 1.15)
        places = stand.places[::max(1, -(-len(stand.places) // MOST_LEAVES))]
        r = max(wide / 2 * frame.scale * 0.92, 1.0)
        d = "".join(f"M{x - r:.1f} {y:.1f}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0"
                    f"a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0"
                    for x, y in frame.places(geometry.to_site(plot_, places)))
        if d:
            parts.append(svg.path(d, "d-leaves"))
    return parts


def _blob(cx: float, cy: float, rx: float, ry: float, turn_deg: float) -> str:
    """A leafy outline: a circle with scallops."""
    n = 14
    cos, sin = math.cos(math.radians(-turn_deg)), math.sin(math.radians(-turn_deg))
    places = []
    for i in range(n):
        t = 2 * math.pi * i / n
        x, y = rx * 0.93 * math.cos(t), ry * 0.93 * math.sin(t)
        places.append((cx + x * cos - y * sin, cy + x * sin + y * cos))
    bump = max(2 * math.pi * min(rx, ry) / n * 0.62, 1.0)
    d = f"M{places[0][0]:.1f} {places[0][1]:.1f}"
    for x, y in (*places[1:], places[0]):
        d += f"A{bump:.1f} {bump:.1f} 0 0 1 {x:.1f} {y:.1f}"
    return d + "Z"


def _trees(frame: Frame, tree: Tree, _: Library) -> list[Markup]:
    parts = []
    rx, ry = tree.canopy_m / 2 * frame.scale, tree.breadth_m / 2 * frame.scale
    for x, y in frame.places(geometry.to_site(tree, geometry.trunks(tree))):
        parts += [svg.path(_blob(x, y, rx, ry, tree.turn_deg), "d-cover"),
                  svg.el("circle", cx=x, cy=y, r=max(0.07 * frame.scale, 2), class_="d-trunk")]
    return parts


def _pots(frame: Frame, pots: Pots, _: Library) -> list[Markup]:
    r, parts = pots.diameter_m / 2 * frame.scale, []
    for x, y in frame.places(geometry.to_site(pots, holders(pots))):
        if pots.kind == "bags":
            parts.append(svg.rect(x - r, y - r, 2 * r, 2 * r, "d-bed", rx=r * 0.45))
        else:
            parts.append(svg.el("circle", cx=x, cy=y, r=max(r, 1.5), class_="d-bed"))
        parts.append(svg.el("circle", cx=x, cy=y, r=max(r * 0.68, 1), class_="d-cover"))
    return parts


def _towers(frame: Frame, tower: Tower, _: Library) -> list[Markup]:
    r, parts = tower.diameter_m / 2 * frame.scale, []
    for x, y in frame.places(geometry.to_site(tower, holders(tower))):
        parts += [svg.path(_blob(x, y, r * 1.5, r * 1.5, 0), "d-cover"),
                  *(svg.el("circle", cx=x, cy=y, r=max(r * k, 1), class_="d-bed")
                    for k in (1.0, 0.62, 0.25))]
    return parts


def _wicking(frame: Frame, row: Wicking, _: Library) -> list[Markup]:
    """Buckets on their gutter, joined in a chain from the float box, or each on its tray."""
    r, places = row.diameter_m / 2 * frame.scale, holders(row)
    on_sheet = frame.places(geometry.to_site(row, places))
    parts = []
    if row.kind == "gutter":
        half = row.gutter_mm / 2000
        mid = row.breadth_m / 2
        trough: list[XY] = [(-0.05, mid - half), (row.length_m + 0.05, mid - half),
                            (row.length_m + 0.05, mid + half), (-0.05, mid + half)]
        parts.append(svg.el("polygon", class_="d-trough", points=" ".join(
            f"{x:.1f},{y:.1f}" for x, y in frame.places(geometry.to_site(row, trough)))))
    elif row.kind == "chain":
        parts.append(svg.line(on_sheet, "d-chain"))
    for x, y in on_sheet:
        if row.kind == "float-pots":
            parts.append(svg.rect(x - r * 1.15, y - r * 1.15, 2.3 * r, 2.3 * r, "d-trough"))
        parts += [svg.el("circle", cx=x, cy=y, r=max(r, 1.5), class_="d-bed"),
                  svg.el("circle", cx=x, cy=y, r=max(r * 0.62, 1), class_="d-cover")]
    if row.kind == "chain":
        x, y = on_sheet[0]
        parts.append(svg.rect(x - r * 0.4, y - r * 0.4, r * 0.8, r * 0.8, "d-water"))
    return parts


DRAWN: dict[type, Callable[[Frame, Any, Library], list[Markup]]] = {
    Bed: _bed, Tree: _trees, Pots: _pots, Tower: _towers, Wicking: _wicking}


def drawn(frame: Frame, library: Library, thing: placement.Placed) -> list[Markup]:
    """A thing of the plan, drawn as itself."""
    stands = thing.thing
    if isinstance(stands, Path):
        return path(frame, stands)
    if isinstance(stands, Roof):
        return roof(frame, stands)
    if isinstance(stands, Building):
        return building(frame, stands)
    if isinstance(stands, Store):
        return store(frame, stands)
    if isinstance(stands, AnyPlot):
        return plot(frame, stands, library)
    if thing.kind in ("basin", "rain-garden", "wet-area"):
        x0, y0 = frame.xy(thing.bounds[0], thing.bounds[3])
        x1, y1 = frame.xy(thing.bounds[2], thing.bounds[1])
        class_ = {"basin": "d-mulch", "rain-garden": "d-cover", "wet-area": "d-pale"}[thing.kind]
        return [svg.rect(x0, y0, x1 - x0, y1 - y0, class_, rx=8)]
    return mark(frame, thing)


def ground(garden: Garden, library: Library, frame: Frame) -> Markup:
    """Everything that stands in the garden, without names."""
    return svg.el("g", *(part for thing in placement.placed(garden) if thing.kind != "spot"
                         for part in drawn(frame, library, thing)))
