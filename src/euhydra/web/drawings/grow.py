"""Grow: each bed and row of pots to one scale, with its leaf cover, sizes and need."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.garden.model import Bed, Plot, Pots
from euhydra.core.library import Crop
from euhydra.core.stations.grow import peak_month
from euhydra.core.stations.place import MONTHS
from euhydra.web import svg
from euhydra.web.drawings.plan import size_m
from euhydra.web.drawings.sheet import Sheet

WIDTH, CELL_W, LEFT = 850.0, 425.0, 106.0
TEXT_ABOVE, ROOM_BELOW = 74.0, 58.0


def plots(sheet: Sheet) -> Markup:
    """Two to a row; a long border takes a row of its own."""
    widest = max(size_m(p)[0] for p in sheet.garden.plots)
    scale = min((WIDTH - LEFT - 40) / widest, 105.0)
    parts, x, y, row_tall = [], 0.0, 8.0, 0.0
    for plot in sheet.garden.plots:
        wide, tall = (side * scale for side in size_m(plot))
        needs_row = wide > CELL_W - LEFT - 24
        if x > 0 and (needs_row or x + CELL_W > WIDTH):
            x, y, row_tall = 0.0, y + row_tall, 0.0
        parts.append(_plot(sheet, plot, x + LEFT, y + TEXT_ABOVE, scale))
        row_tall = max(row_tall, TEXT_ABOVE + max(tall, 30) + ROOM_BELOW)
        x = WIDTH if needs_row else x + CELL_W
    return svg.svg(WIDTH, y + row_tall + 10, "Beds and pots to one scale, with what each drinks",
                   parts, interactive=True)


def _plot(sheet: Sheet, plot: Plot, x: float, y: float, scale: float) -> Markup:
    a, at, path = sheet.assessment, sheet.fields.at, f"plots/{plot.id}"
    crop = a.library.crops[plot.plantings[0].crop]
    wide, tall = (side * scale for side in size_m(plot))
    month = peak_month(a)
    need = sheet.show(float(a.thirsts[plot.id].net_by_month[month]), "daily")
    parts = [svg.text(x, y - 46, plot.name if len(plot.name) < 20 else plot.name[:19] + "…",
                      "d-title"),
             svg.text(x + 148, y - 46, f"{need} in {MONTHS[month]}", "d-dim"),
             svg.field(x, y - 34, at(f"{path}/plantings/{plot.plantings[0].id}/crop", plot.name),
                       width=200, label="")]
    if isinstance(plot, Bed):
        parts += [svg.rect(x, y, wide, tall, "d-bed"), *_cover(plot, crop, x, y, scale),
                  svg.upright(x - 10, y, y + tall),
                  svg.field(x - 98, y + tall / 2 - 8, at(f"{path}/width_m", plot.name),
                            width=80, label="width"),
                  svg.across(x, x + wide, y + tall + 12),
                  svg.field(x + wide / 2 - 40, y + tall + 18, at(f"{path}/length_m", plot.name),
                            width=80, label="")]
    else:
        parts += [*_pots(plot, x, y, scale),
                  svg.field(x - 98, y - 2, at(f"{path}/count", plot.name), width=80,
                            label="pots"),
                  svg.field(x, y + tall + 22, at(f"{path}/diameter_m", plot.name), width=80,
                            label="diameter"),
                  svg.field(x + 100, y + tall + 22, at(f"{path}/height_m", plot.name), width=80,
                            label="height")]
    return svg.el("g", *parts)


def _cover(bed: Bed, crop: Crop, x: float, y: float, scale: float) -> list[Markup]:
    """Plants at their spacing, at most some hundreds."""
    spacing = max(crop.spacing_m, 0.15)
    across, along = max(int(bed.width_m / spacing), 1), max(int(bed.length_m / spacing), 1)
    across, along = min(across, 12), min(along, 40)
    r = min(spacing * 0.44, bed.width_m / across * 0.46) * scale
    return [svg.el("circle", cx=x + (i + 0.5) * bed.length_m * scale / along,
                   cy=y + (j + 0.5) * bed.width_m * scale / across, r=r, class_="d-cover")
            for i in range(along) for j in range(across)]


def _pots(pots: Pots, x: float, y: float, scale: float) -> list[Markup]:
    pitch, r = size_m(pots)[0] * scale / pots.count, pots.diameter_m / 2 * scale
    parts = []
    for i in range(pots.count):
        cx = x + (i + 0.5) * pitch
        parts += [svg.el("circle", cx=cx, cy=y + r, r=r, class_="d-bed"),
                  svg.el("circle", cx=cx, cy=y + r, r=r * 0.72, class_="d-cover")]
    return parts
