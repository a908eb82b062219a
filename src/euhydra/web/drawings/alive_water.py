"""The ground and the ways of water in the garden's picture: levels, lines that run, used water."""

from __future__ import annotations

import math
from itertools import groupby, pairwise

import numpy as np
from markupsafe import Markup

from euhydra.core.daily.year import LEAST_L
from euhydra.core.editing import placement
from euhydra.core.terrain.elevation import levels_m
from euhydra.web import svg
from euhydra.web.drawings.frame import MARGIN, WIDTH, Frame
from euhydra.web.drawings.moment import Moment, box_of, plot_of
from euhydra.web.drawings.pieces import kind_of_water
from euhydra.web.sheet import Sheet

CELL_PX, MOST_LEVELS = 12.0, 5
FLOW_PX = (52.0, 15.0)  # a figure takes so much room


def levels(sheet: Sheet, frame: Frame) -> list[Markup]:
    """The lie of the ground in a few tones, each level told once."""
    site = sheet.garden.site
    if len({spot.level_m for spot in site.spots}) < 2:
        return []
    columns, rows = math.ceil(WIDTH / CELL_PX), math.ceil(frame.height / CELL_PX)
    places = [(frame.x0 + ((i + 0.5) * CELL_PX - MARGIN) / frame.scale,
               frame.y1 - ((j + 0.5) * CELL_PX - MARGIN) / frame.scale)
              for j in range(rows) for i in range(columns)]
    levels = levels_m(site, places).reshape(rows, columns)
    low, high = float(levels.min()), float(levels.max())
    steps = min(MOST_LEVELS, len(np.unique(levels.round(1))))
    tones = np.minimum(((levels - low) / max(high - low, 1e-9) * steps).astype(int), steps - 1)
    return [svg.path(_cells(tones == tone), f"a-level a-level-{'abcde'[tone]}")
            for tone in range(steps)]


def _cells(on: np.ndarray) -> str:
    """Those cells of a grid that are on, each stretch of a row as one box."""
    d = ""
    for j, row in enumerate(on):
        i = 0
        for same, cells in groupby(row):
            n = len(list(cells))
            if same:
                d += (f"M{i * CELL_PX:.0f} {j * CELL_PX:.0f}h{n * CELL_PX:.0f}v{CELL_PX:.0f}"
                      f"h{-n * CELL_PX:.0f}Z")
            i += n
    return d


def ways(now: Moment, frame: Frame) -> list[Markup]:
    """Each zone's lines: thin and grey where they are still, moving where water runs that day."""
    garden, parts = now.sheet.garden, []
    for zone in garden.zones:
        lines = [frame.places([(p.x_m, p.y_m) for p in line.course]) for line in garden.lines
                 if line.zone == zone.id]
        d = "".join("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in line) for line in lines)
        if not d:
            continue
        water = kind_of_water(garden, zone.source) or "rain"
        parts.append(svg.el(
            "g", svg.path(d, "a-still"), svg.path(
                d, f"a-runs a-runs-{water}",
                display=None if now.year.came_to(zone)[now.day] >= LEAST_L else "none"),
            svg.path(d, "a-touch", fill="none"), class_="a-way", data_zone=zone.id,
            data_own=f"zone:{zone.id}"))
    return parts


def flows(now: Moment, frame: Frame) -> list[Markup]:
    """What runs through each zone's pipe, L/h, beside its longest stretch, none over another."""
    ran = now.flowing
    parts: list[Markup] = []
    taken = [(x - 20, y + by) for store in now.sheet.garden.stores
             for x, y in [frame.at(store.at)] for by in (38, 52)]
    for plot in placement.placed(now.sheet.garden):
        if plot_of(now, plot):
            x0, y0, x1, _ = box_of(frame, plot)
            taken += [(x, y0 + 2) for x in np.arange(x0, x1, FLOW_PX[0] / 2).tolist()]
    for zone in now.sheet.garden.zones:
        lines = [frame.places([(p.x_m, p.y_m) for p in line.course])
                 for line in now.sheet.garden.lines if line.zone == zone.id and not line.plot]
        if not lines:
            continue
        x, y = _middle(max(lines, key=_length))
        while any(abs(x - a) < FLOW_PX[0] and abs(y - b) < FLOW_PX[1] for a, b in taken):
            y += FLOW_PX[1]
        taken.append((x, y))
        flow = now.sheet.show(ran[zone.id].flow_l_h, "flow", 0) if zone.id in ran else ""
        parts.append(svg.el("text", flow, x=x + 5, y=y - 6, class_="a-fig d-halo",
                            data_flow=zone.id))
    return parts


def _length(line: list[tuple[float, float]]) -> float:
    return sum(math.dist(a, b) for a, b in pairwise(line))


def _middle(line: list[tuple[float, float]]) -> tuple[float, float]:
    """The middle of the longest stretch of a line."""
    a, b = max(pairwise(line), key=lambda ab: math.dist(*ab), default=(line[0], line[0]))
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def washes(now: Moment, frame: Frame) -> list[Markup]:
    """The way of used water from each drain to the ground it is led to."""
    parts = []
    for drain in now.sheet.garden.drains:
        x0, y0 = frame.at(drain.at)
        d = "".join(
            f"M{x0:.1f} {y0:.1f}H{x:.1f}V{y:.1f}" for basin in drain.basins
            for x, y in [frame.xy(basin.corner.x_m + basin.length_m / 2,
                                  basin.corner.y_m + basin.width_m / 2)])
        if d:
            parts.append(svg.el("g", svg.path(d, "a-still"), svg.path(
                d, "a-runs a-runs-grey", data_wash="1",
                display=None if now.washes else "none")))
    return parts
