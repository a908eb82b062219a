"""Lay: the ground plan to scale, with roofs, barrels, plots and every line."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.catch import roof_box
from euhydra.core.garden.model import (
    Basin,
    Bed,
    Garden,
    Line,
    Outlet,
    Plot,
    Point,
    Pots,
    RainGarden,
    Store,
    WetArea,
)
from euhydra.core.laying import POT_GAP_M
from euhydra.web import svg
from euhydra.web.drawings.sheet import Sheet

WIDTH, TALLEST, MARGIN = 850.0, 560.0, 46.0
ROW_CLASSES = {"soaker": "d-row d-row-soaker", "quarter-inch": "d-row d-row-quarter",
               "supply": "d-row d-row-blank", "blank": "d-row d-row-blank"}


@dataclass(frozen=True)
class Frame:
    """From metres on the site grid to the sheet: y north is up."""

    x0: float
    y1: float
    scale: float
    height: float

    def at(self, point: Point) -> tuple[float, float]:
        """A point on the sheet."""
        return self.xy(point.x_m, point.y_m)

    def xy(self, x_m: float, y_m: float) -> tuple[float, float]:
        """A place on the sheet."""
        return (x_m - self.x0) * self.scale + MARGIN, (self.y1 - y_m) * self.scale + MARGIN


def lay(sheet: Sheet) -> Markup:
    """The plan with every line, outlet and fitting as laid."""
    frame = frame_of(sheet.garden)
    parts = [ground(sheet, frame), *_lines(sheet, frame)]
    return svg.svg(WIDTH, frame.height + 28, "Ground plan with the lines as laid", [
        svg.el("g", *parts, class_="zoomable"), scale_bar(sheet, frame),
        _key(sheet, frame)])


def frame_of(garden: Garden) -> Frame:
    """The sheet's frame that takes in everything in the garden."""
    xs, ys = [0.0], [0.0]
    for roof in garden.roofs:
        west, south, east, north = roof_box(roof)
        xs += [west, east]
        ys += [south, north]
    for plot in garden.plots:
        w, h = size_m(plot)
        xs += [plot.corner.x_m, plot.corner.x_m + w]
        ys += [plot.corner.y_m, plot.corner.y_m + h]
    for store in garden.stores:
        xs += [store.at.x_m - (store.count - 1) * storage.length_m(store), store.at.x_m + 1]
        ys += [store.at.y_m - 1, store.at.y_m + 1]
    for at in (*(t.at for t in garden.taps), *(w.at for w in garden.wells),
               *(d.at for d in garden.drains), *(s.at for s in garden.site.spots)):
        xs.append(at.x_m)
        ys.append(at.y_m)
    hollows: list[Basin | RainGarden | WetArea] = [b for d in garden.drains for b in d.basins]
    for hollow in (*hollows, *garden.rain_gardens, *garden.wet_areas):
        xs += [hollow.corner.x_m, hollow.corner.x_m + hollow.length_m]
        ys += [hollow.corner.y_m, hollow.corner.y_m + hollow.width_m]
    scale = min((WIDTH - 2 * MARGIN) / (max(xs) - min(xs)),
                (TALLEST - 2 * MARGIN - 24) / (max(ys) - min(ys)), 110)
    height = (max(ys) - min(ys)) * scale + 2 * MARGIN + 34
    return Frame(min(xs), max(ys), scale, height)


def size_m(plot: Plot) -> tuple[float, float]:
    """East–west and north–south size of a plot."""
    if isinstance(plot, Bed):
        return plot.length_m, plot.breadth_m
    return plot.count * (plot.diameter_m + POT_GAP_M), plot.breadth_m


def ground(sheet: Sheet, frame: Frame) -> Markup:
    """Roofs, stores, plots and taps as they stand."""
    garden, parts = sheet.garden, []
    for roof in garden.roofs:
        west, south, east, north = roof_box(roof)
        x, y = frame.xy(west, north)
        shape = (svg.el("polygon", class_="d-wall", points=" ".join(
            f"{px:.1f},{py:.1f}" for px, py in map(frame.at, roof.outline))) if roof.outline else
            svg.rect(x, y, (east - west) * frame.scale, (north - south) * frame.scale, "d-wall"))
        parts += [shape, svg.text(x + 8, y + 19, roof.name, "d-lab d-halo")]
    for plot in garden.plots:
        parts.append(_plot(frame, plot))
        x, y = frame.xy(plot.corner.x_m, plot.corner.y_m + size_m(plot)[1])
        parts.append(svg.el(
            "text", svg.el("tspan", _clipped(plot.name), class_="d-name d-halo"),
            svg.el("tspan", f"  at {sheet.show(plot.ground_m, 'length')}",
                   class_="d-mute d-halo"),
            x=x + 8, y=y - 5))
    parts += [mark for i, store in enumerate(garden.stores)
              for mark in _store(frame, store, i % 3)]
    parts += _hollows(sheet, frame)
    for letter, name, at, class_ in (
            *(("T", t.name, t.at, "d-tap") for t in garden.taps),
            *(("W", w.name, w.at, "d-well") for w in garden.wells),
            *(("G", d.name, d.at, "d-grey") for d in garden.drains)):
        x, y = frame.at(at)
        parts += [svg.el("rect", x=x - 5, y=y - 5, width=10, height=10, class_=class_),
                  svg.text(x + 9, y + 5, f"{letter} {_clipped(name).lower()}",
                           "d-lab d-halo")]
    return svg.el("g", *parts)


def _store(frame: Frame, store: Store, row: int) -> list[Markup]:
    """A store's vessels in a row to the west of its place; names in three rows, to part them."""
    wide, deep = storage.length_m(store) * frame.scale, storage.width_m(store) * frame.scale
    x, y = frame.xy(store.at.x_m, store.at.y_m - 0.35)
    parts = []
    for i in range(min(store.count, 8)):
        cx = x - i * wide * 1.05
        parts.append(
            svg.el("circle", cx=cx, cy=y, r=max(wide / 2, 3), class_="d-barrel")
            if store.shape == "upright" else
            svg.rect(cx - max(wide, 6) / 2, y - max(deep, 6) / 2, max(wide, 6), max(deep, 6),
                     "d-barrel", rx=3 if store.shape == "box" else 8))
    return [*parts, svg.text(x, y + max(deep, 6) / 2 + 15 + 15 * row,
                             f"R {_clipped(store.name).lower()}", "d-lab d-halo", "middle")]


def _hollows(sheet: Sheet, frame: Frame) -> list[Markup]:
    """Mulch basins, rain gardens and wet ground, each dashed, with its name."""
    garden = sheet.garden
    parts = []
    hollows: list[tuple[Basin | RainGarden | WetArea, str]] = [
        (b, "d-mulch") for d in garden.drains for b in d.basins]
    hollows += [(g, "d-cover") for g in garden.rain_gardens]
    hollows += [(w, "d-pale") for w in garden.wet_areas]
    for thing, class_ in hollows:
        x, y = frame.xy(thing.corner.x_m, thing.corner.y_m + thing.width_m)
        parts += [svg.rect(x, y, thing.length_m * frame.scale, thing.width_m * frame.scale, class_,
                           rx=8), svg.text(x + 4, y - 4, _clipped(thing.name), "d-mute d-halo")]
    return parts


def _clipped(name: str) -> str:
    return name if len(name) <= 24 else name[:23] + "…"


def _plot(frame: Frame, plot: Plot) -> Markup:
    w, h = size_m(plot)
    x, y = frame.xy(plot.corner.x_m, plot.corner.y_m + h)
    if isinstance(plot, Bed):
        return svg.rect(x, y, w * frame.scale, h * frame.scale, "d-bed")
    return svg.el("g", *_pots(frame, plot))


def _pots(frame: Frame, pots: Pots) -> list[Markup]:
    pitch = pots.diameter_m + POT_GAP_M
    r = pots.diameter_m / 2
    return [svg.el("circle", cx=cx, cy=cy, r=max(r * frame.scale, 1.5), class_="d-bed")
            for i in range(pots.count)
            for cx, cy in [frame.xy(pots.corner.x_m + r + i * pitch, pots.corner.y_m + r)]]


def _lines(sheet: Sheet, frame: Frame) -> list[Markup]:
    garden = sheet.garden
    lines = {line.id: line for line in garden.lines}
    tapped = {zone.id for zone in garden.zones if garden.tap_of(zone.source)}
    parts = [svg.line([frame.at(p) for p in line.course], ROW_CLASSES.get(line.role, "d-row")
                      + (" d-row-tap" if line.zone in tapped else "")) for line in garden.lines]
    radius = min(max(frame.scale * 0.035, 1.4), 3.2)
    parts += [svg.el("circle", cx=x, cy=y, r=radius, class_="d-drop")
              for run in garden.outlets if run.kind != "soaker"
              for x, y in _outlet_places(frame, lines[run.line], run)]
    for zone in garden.zones:
        first = next(line for line in garden.lines if line.zone == zone.id)
        x, y = frame.at(first.course[0])
        parts.append(svg.rect(x + 6, y - 4, 14, 8, "d-white"))
    return parts


def _outlet_places(frame: Frame, line: Line, run: Outlet) -> Iterable[tuple[float, float]]:
    """Where a run's outlets stand in plan. A line longer than its course rises first."""
    a, b = line.course[0], line.course[-1]
    course_m = max(math.dist((a.x_m, a.y_m), (b.x_m, b.y_m)), 1e-6)
    rise_m = line.length_m - course_m
    for i in range(run.points):
        t = min(max((run.first_m - rise_m + i * run.spacing_m) / course_m, 0.0), 1.0)
        yield frame.xy(a.x_m + t * (b.x_m - a.x_m), a.y_m + t * (b.y_m - a.y_m))


def _key(sheet: Sheet, frame: Frame) -> Markup:
    """The kinds of line that are in this garden, each drawn as on the plan."""
    roles = [line.role for line in sheet.garden.lines]
    words = [(("supply", "blank", "header"), "d-row d-row-blank", "pipe without outlets"),
             (("dripline",), "d-row", "dripline"), (("lateral",), "d-row", "pipe with drippers"),
             (("soaker",), "d-row d-row-soaker", "soaker hose"),
             (("quarter-inch",), "d-row d-row-quarter", "6 mm tube")]
    y, x, parts = frame.height + 12, MARGIN, []
    taps = " d-row-tap" if not sheet.garden.stores else ""
    for kinds, class_, label in words:
        if set(kinds) & set(roles):
            parts += [svg.path(f"M{x:.1f} {y:.1f}h26", class_ + taps),
                      svg.text(x + 32, y + 4, label)]
            if class_ == "d-row" or kinds == ("quarter-inch",):
                parts += [svg.el("circle", cx=x + i, cy=y, r=2.4, class_="d-drop")
                          for i in (7, 19)]
            x += 54 + 7.2 * len(label)
    parts += [svg.rect(x, y - 4, 14, 8, "d-white"), svg.text(x + 20, y + 4, "timer valve")]
    return svg.el("g", *parts)


def scale_bar(sheet: Sheet, frame: Frame) -> Markup:
    """A round length in the units shown."""
    metres = next((m for m in ((1, 2, 5, 10, 20) if sheet.system == "metric"
                               else (1.524, 3.048, 6.096, 15.24)) if m * frame.scale > 60), 20)
    y, length = frame.height - 16, metres * frame.scale
    return svg.el("g", svg.across(MARGIN, MARGIN + length, y),
                  svg.text(MARGIN + length + 8, y + 4, sheet.show(metres, "length", 0), "d-dim"),
                  svg.text(WIDTH - MARGIN, y + 4, "north is up", "d-mute", "end"))
