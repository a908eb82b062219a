"""Place: a climate at a glance, and the site's levels in plan."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.garden.model import Point
from euhydra.core.library import Climate
from euhydra.core.terrain.elevation import level_m
from euhydra.web import svg
from euhydra.web.drawings import things
from euhydra.web.drawings.frame import MARGIN, WIDTH, Frame, frame_of, scale_bar
from euhydra.web.sheet import Sheet

CELLS = 26


def small_climate(row: Climate) -> Markup:
    """Twelve rain bars, and the band between the lows and the highs, on one scale for all."""
    bars = [svg.rect(6 + 13 * m, 76 - min(rain, 350) * 0.2, 9, min(rain, 350) * 0.2, "d-rain")
            for m, rain in enumerate(row.rain_mm)]
    up = [(10.5 + 13 * m, 66 - 1.35 * t) for m, t in enumerate(row.tmax_c)]
    down = [(10.5 + 13 * m, 66 - 1.35 * t) for m, t in enumerate(row.tmin_c)]
    frost = svg.path("M4 66H162", "d-rule", stroke_dasharray="2 3")
    return svg.svg(168, 80, f"Rain and warmth by month: {row.name}", [
        *bars, frost, svg.line(up, "d-warm"), svg.line(down, "d-cool"),
        svg.path("M4 76H162", "d-thin")])


def levels(sheet: Sheet) -> Markup:
    """The plan, shaded by the ground's level, with every spot height."""
    garden, frame = sheet.garden, frame_of(sheet.garden)
    parts = _shades(sheet, frame) if garden.site.spots else []
    parts.append(things.ground(garden, sheet.assessment.library, frame))
    for spot in garden.site.spots:
        x, y = frame.at(spot.at)
        end = x > WIDTH - 110
        at, anchor = (x - 9, "end") if end else (x + 9, None)
        parts += [svg.path(f"M{x - 6:.1f} {y:.1f}h12M{x:.1f} {y - 6:.1f}v12", "d-ink",
                           stroke_width=2),
                  svg.text(at, y - 5, sheet.show(spot.level_m, "length"), "d-dim d-halo", anchor),
                  svg.text(at, y + 13, spot.name, "d-mute d-halo", anchor)]
    if not garden.site.spots:
        parts.append(svg.text(WIDTH / 2, 20, "No spot heights yet: every level is typed by "
                              "hand. Add one where you know the level.", "d-name", "middle"))
    return svg.svg(WIDTH, frame.height + 28, "The site's levels in plan",
                   [*parts, scale_bar(sheet, frame)])


def _shades(sheet: Sheet, frame: Frame) -> list[Markup]:
    """The ground in cells, darker where it lies lower."""
    site = sheet.garden.site
    heights = [spot.level_m for spot in site.spots]
    low, high = min(heights), max(heights)
    wide, tall = (WIDTH - 2 * MARGIN) / CELLS, (frame.height - 80) / CELLS
    cells = []
    for i in range(CELLS):
        for j in range(CELLS):
            x, y = MARGIN + i * wide, MARGIN + j * tall
            here = Point(x_m=min(max(frame.x0 + (x + wide / 2 - MARGIN) / frame.scale, -1000),
                                 1000),
                         y_m=min(max(frame.y1 - (y + tall / 2 - MARGIN) / frame.scale, -1000),
                                 1000))
            level = level_m(site, here)
            share = 0.0 if level is None or high == low else (high - level) / (high - low)
            cells.append(svg.rect(x, y, wide + 0.5, tall + 0.5, "d-soil",
                                  shape_rendering="crispEdges", opacity=round(
                                      0.06 + 0.4 * min(max(share, 0), 1), 2)))
    return cells
