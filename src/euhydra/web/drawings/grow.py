"""Grow: each plot to one scale, with its leaf cover, sizes and need; self-watering in section."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.garden.model import AnyPlot, Bed, Point, Pots, Tower, Tree, Wicking
from euhydra.core.hydraulics.self_watering import LEAST_WATER_M, Reservoir
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.wicking import wicking_rows
from euhydra.web import svg
from euhydra.web.drawings import things
from euhydra.web.drawings.frame import MARGIN, Frame
from euhydra.web.sheet import Sheet

WIDTH, CELL_W, LEFT = 850.0, 425.0, 106.0
TEXT_ABOVE, ROOM_BELOW = 74.0, 62.0
FIELDS: dict[type, tuple[tuple[str, str], ...]] = {
    Tree: (("count", "how many"), ("canopy_m", "canopy"), ("apart_m", "apart")),
    Pots: (("count", "pots"), ("diameter_m", "diameter"), ("height_m", "height")),
    Tower: (("count", "towers"), ("plants", "plants each"), ("height_m", "height")),
    Wicking: (("count", "how many"), ("bucket_l", "each holds"), ("water_m", "water kept"))}
BY_HAND = {"lines": "", "can": ", with cans", "hose": ", with the hose"}


def plots(sheet: Sheet) -> Markup:
    """Two to a row; a long border takes a row of its own."""
    flat = [p.model_copy(update={"turn_deg": 0.0, "corner": Point(x_m=0, y_m=0)})
            for p in sheet.garden.plots]
    scale = min((WIDTH - LEFT - 40) / max(p.length_m for p in flat), 105.0)
    parts, x, y, row_tall = [], 0.0, 8.0, 0.0
    for plot in flat:
        wide, tall = plot.length_m * scale, plot.breadth_m * scale
        needs_row = wide > CELL_W - LEFT - 24
        if x > 0 and (needs_row or x + CELL_W > WIDTH):
            x, y, row_tall = 0.0, y + row_tall, 0.0
        parts.append(_plot(sheet, plot, x + LEFT, y + TEXT_ABOVE, scale))
        row_tall = max(row_tall, TEXT_ABOVE + max(tall, 30) + ROOM_BELOW)
        x = WIDTH if needs_row else x + CELL_W
    return svg.svg(WIDTH, y + row_tall + 10, "All plots to one scale, with what each drinks",
                   parts, interactive=True)


def _plot(sheet: Sheet, plot: AnyPlot, x: float, y: float, scale: float) -> Markup:
    a, at, path = sheet.assessment, sheet.fields.at, f"plots/{plot.id}"
    wide, tall = plot.length_m * scale, plot.breadth_m * scale
    month = a.demand.peak_month
    need = sheet.show(float(a.demand.thirsts[plot.id].net_by_month[month]), "daily")
    frame = Frame(-(x - MARGIN) / scale, plot.breadth_m + (y - MARGIN) / scale, scale, 0)
    others = "" if len(plot.plantings) == 1 else f" and {len(plot.plantings) - 1} more crops"
    parts = [svg.text(x, y - 46, plot.name if len(plot.name) < 20 else plot.name[:19] + "…",
                      "d-title"),
             svg.text(x + 152, y - 46, f"{need} in {MONTHS[month]}{others}", "d-dim"),
             *things.plot(frame, plot, a.library)]
    crop = at(f"{path}/plantings/{plot.main.id}/crop", plot.name)
    if plot.id != sheet.chosen("plots"):
        foot = y + max(tall, 30)
        return svg.el(
            "g", *parts, svg.text(x, y - 18, svg.clipped(crop.said + BY_HAND[plot.watered], 40),
                                  "d-lab d-halo"),
            svg.text(x, foot + 22, _size(sheet, plot), "d-dim d-halo"), svg.to_pick(
                f"/g/{sheet.garden.id}/grow?view=plots&sel={path}", f"{plot.name}: its measures",
                x - 14, y - TEXT_ABOVE + 4, max(wide, 270) + 28,
                foot - y + TEXT_ABOVE + ROOM_BELOW - 30))
    parts.append(svg.field(x, y - 34, crop, width=160, label=""))
    if not isinstance(plot, Wicking):
        parts.append(svg.field(x + 168, y - 34, at(f"{path}/watered", plot.name), width=140,
                               label=""))
    if isinstance(plot, Bed):
        parts += [svg.upright(x - 10, y, y + tall),
                  svg.field(x - 98, y + tall / 2 - 8, at(f"{path}/width_m", plot.name),
                            width=80, label="width"),
                  svg.across(x, x + wide, y + tall + 12),
                  svg.field(x + wide / 2 - 40, y + tall + 18, at(f"{path}/length_m", plot.name),
                            width=80, label="")]
    else:
        first, *rest = FIELDS[type(plot)]
        parts.append(svg.field(x - 98, y - 2, at(f"{path}/{first[0]}", plot.name), width=80,
                               label=first[1]))
        parts += [svg.field(x + 100 * i, y + max(tall, 8) + 26, at(f"{path}/{key}", plot.name),
                            width=80, label=words) for i, (key, words) in enumerate(rest)]
    return svg.el("g", *parts)


def _size(sheet: Sheet, plot: AnyPlot) -> str:
    if isinstance(plot, Bed):
        return f"{sheet.show(plot.length_m, 'length')} × {sheet.show(plot.width_m, 'length')}"
    first, second = FIELDS[type(plot)][:2]
    at = sheet.fields.at
    return ", ".join(f"{words} {at(f'plots/{plot.id}/{key}').said}" for key, words in (
        first, second))


def self_watering(sheet: Sheet) -> Markup:
    """Each self-watering row in section: water kept, wicks, float valve, where the last starves."""
    rows = wicking_rows(sheet.assessment)
    parts = [part for i, (row, state) in enumerate(rows)
             for part in _section(sheet, row, state, 30 + i * 250)]
    return svg.svg(WIDTH, 30 + 250 * max(len(rows), 1), "Self-watering rows in section", parts,
                   interactive=True)


def _section(sheet: Sheet, row: Wicking, state: Reservoir, y: float) -> list[Markup]:
    at, path = sheet.fields.at, f"plots/{row.id}"
    shown = min(row.count, 10)
    pitch, tall, base, left = min(66.0, 620 / shown), 84.0, y + 150, 160.0
    wide = pitch * 0.76
    water = max(6.0, 26 * row.water_m / 0.05)
    parts = [svg.text(20, y, row.name[:40], "d-title"),
             svg.text(20, y + 18, _words(sheet, row, state), "d-lab"),
             svg.field(20, y + 118, at(f"{path}/water_m", row.name), width=86)]
    foot = base + 30 if row.kind == "gutter" else base
    right = left + shown * pitch
    if row.kind == "gutter":
        parts += [svg.rect(left - 12, base + 2, right - left + 12, 30, "d-trough"),
                  svg.rect(left - 11, base + 32 - min(water, 28), right - left + 10,
                           min(water, 28), "d-water")]
    for i in range(shown):
        x = left + i * pitch
        fallen = state.chain.drop_m * (1 - (1 - i / max(shown - 1, 1)) ** 2) if (
            row.kind == "chain") else 0.0
        dry = row.kind == "chain" and row.water_m - fallen < LEAST_WATER_M
        parts += [svg.path(f"M{x:.1f} {base - tall}l4 {tall}h{wide - 8:.1f}l4 {-tall}Z", "d-bed"),
                  svg.leaf(x + wide / 2, base - tall, 30)]
        if row.kind == "gutter":
            parts.append(svg.rect(x + wide / 2 - 8, base, 16, 24, "d-soil"))
        else:
            level = max(2.0, water * (row.water_m - fallen) / row.water_m)
            parts.append(svg.rect(x + 5, base - level, wide - 10, level - 1,
                                  "d-lost" if dry else "d-water"))
            if row.kind == "chain" and i + 1 < shown:
                parts.append(svg.path(f"M{x + wide - 4:.1f} {base - 4}h{pitch - wide + 8:.1f}",
                                      "d-pipe"))
    parts += [svg.path(f"M{left - 70:.1f} {base - 40}H{left - 24:.1f}V{foot - 16:.1f}", "d-pipe"),
              svg.el("circle", cx=left - 24, cy=foot - 12, r=7, class_="d-white"),
              svg.text(left - 70, base - 48, "float valve", "d-mute"),
              svg.path(f"M20 {foot + 4:.1f}H{WIDTH - 20}", "d-ground")]
    if row.count > shown:
        parts.append(svg.text(right + 8, base - 30, f"and {row.count - shown} more", "d-mute"))
    return parts


def _words(sheet: Sheet, row: Wicking, state: Reservoir) -> str:
    words = (f"{sheet.show(state.each_l_day, 'drop')} a plant a day in the hottest week; "
             f"{sheet.show(state.held_l, 'drop')} of free water; cut off, it lasts "
             f"{sheet.show(state.days_cut_off, 'days', 1)}")
    if row.kind == "chain":
        words += f"; the float box carries {state.chain.carries}"
    return words
