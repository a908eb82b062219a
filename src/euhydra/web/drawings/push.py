"""Push: the long section. Every height is true; standing and running water along the pipe."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core import storage, units
from euhydra.core.garden.model import Bed, Standpipe, Store, Tree, Wicking, Zone
from euhydra.core.hydraulics.profile import Section, Stands, long_section
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.layout.zoning import outlet_z_m
from euhydra.web import svg
from euhydra.web.drawings.pieces import pipe_class
from euhydra.web.drawings.push_sheet import (
    BOTTOM,
    HEAD_STEP,
    LEFT,
    RIGHT,
    SOURCE_X,
    TOP,
    WAY_X,
    WIDTH,
)
from euhydra.web.drawings.push_source import (
    MOST_OVER_M,
    SectionView,
    draw_barrels,
    draw_roof,
    draw_tap,
    roofs_of,
)
from euhydra.web.sheet import Sheet

WAY_END = RIGHT - 70
SHORT_WORDS = {"inlet": "spigot", "splitter": "splitter", "filter": "filter", "check": "check",
               "backflow": "backflow", "regulator": "regulator", "valve": "valve",
               "hose-valve": "valve"}


def draw(sheet: Sheet, *, still: bool = False) -> Markup:
    """The way of the water from a source to a plot; ``still`` has no fields and no handle."""
    zone, flow, way = sheet.chosen_way
    source = sheet.garden.tap_of(zone.source) or sheet.garden.store_of(zone.source)
    parts_passed = [s.part for s in way.stations if s.part]
    view = _view(sheet, source, flow, way, len(parts_passed))
    parts = [*_heights(sheet, view), *_ground(view, way), *draw_roof(sheet, view, source)]
    parts += (draw_tap(view, source) if isinstance(source, Standpipe) else
              draw_barrels(sheet, view, source, flow, still=still))
    parts += [_plot(sheet, view, stands) for stands in sorted(way.plots,
                                                              key=lambda p: p.on_the_way)]
    if sheet.before:
        parts += _ghost(sheet, view, zone, way)
    parts += [*_pipe(view, way, pipe_class(sheet.garden, zone.source)),
              *_lines(sheet, view, source, flow, way), *_components(sheet, view, way),
              *_worst(sheet, view, flow, way)]
    return svg.svg(WIDTH, 492, f"Section along the pipe: {zone.name}", parts,
                   interactive=not still)


def _view(sheet: Sheet, source: Store | Standpipe, flow: ZoneFlow, way: Section, parts: int
          ) -> SectionView:
    tops = [source.ground_m + source.height_m + (
        source.stand_m if isinstance(source, Store) else 0.0)]
    levels = [z for _, z in way.ground]
    for stands in way.plots:
        plot = sheet.garden.plot(stands.plot)
        levels.append(plot.ground_m)
        tops.append(outlet_z_m(plot) + 0.35)
    tops += [source.ground_m + roof.eave_m + 0.35 for roof in roofs_of(sheet, source)]
    low, over = min(levels) - 0.35, max(tops)
    high = min(max(over, flow.water_z_m, *(s.head_m for s in way.stations)), over + MOST_OVER_M)
    if sheet.before and isinstance(source, Store):
        old = next((s for s in sheet.before.garden.stores if s.id == source.id), source)
        high = max(high, storage.full_z_m(old))
    head_px = HEAD_STEP * (parts + 1)
    return SectionView((WAY_END - WAY_X - head_px) / max(way.length_m, 1.0), low,
                 (BOTTOM - TOP) / max(high - low, 1.0), head_px)


def _heights(sheet: Sheet, view: SectionView) -> list[Markup]:
    """The scale of heights at the left edge, in the units shown."""
    high = view.z0 + (BOTTOM - TOP) / view.z_scale
    tall = units.convert(high - view.z0, "length", sheet.system)
    step = next((s for s in (0.5, 1, 2, 5, 10, 20) if tall / s <= 9), 50)
    parts = [svg.path(f"M{LEFT} {TOP - 20}V{BOTTOM}", "d-rule")]
    for i in range(math.ceil(units.convert(view.z0, "length", sheet.system) / step),
                   int(units.convert(high, "length", sheet.system) / step) + 1):
        y = view.y(i * step / units.convert(1, "length", sheet.system))
        parts += [svg.path(f"M{LEFT - 6} {y:.1f}h6", "d-thin"),
                  svg.text(LEFT - 10, y + 4, f"{i * step:g}", "d-mute", "end")]
    parts.append(svg.text(LEFT - 10, TOP - 26, units.unit_label("length", sheet.system), "d-mute",
                          "end"))
    return parts


def _ground(view: SectionView, way: Section) -> list[Markup]:
    edge = f"M{LEFT} {view.y(way.ground[0][1]):.1f}" + "".join(
        f"L{view.x(x) if x > 0 else WAY_X:.1f} {view.y(z):.1f}" for x, z in way.ground)
    edge += f"H{RIGHT}"
    return [svg.path(f"{edge}V{BOTTOM + 30}H{LEFT}Z", "", fill="url(#earth)"),
            svg.path(edge, "d-ground")]


def _plot(sheet: Sheet, view: SectionView, stands: Stands) -> Markup:
    plot = sheet.garden.plot(stands.plot)
    x0, x1 = view.x(stands.start_m), min(view.x(stands.end_m), RIGHT)
    ground, rim = view.y(plot.ground_m), view.y(outlet_z_m(plot))
    parts = [svg.path(f"M{x0 - 6:.1f} {ground:.1f}H{x1 + 6:.1f}", "d-ground")]
    if isinstance(plot, Bed):
        parts.append(svg.rect(x0, min(rim, ground - 5), x1 - x0, max(ground - rim, 5), "d-bed"))
    elif isinstance(plot, Tree):
        rim = ground
    else:
        rim = view.y(plot.ground_m + plot.height_m)
        count = min(plot.count, 12)
        pitch = (x1 - x0) / count
        taper = 0.0 if isinstance(plot, Wicking) else pitch * 0.15
        parts += [svg.path(f"M{x0 + i * pitch + 1:.1f} {rim:.1f}h{pitch - 3:.1f}l{-taper:.1f} "
                           f"{ground - rim:.1f}h{2 * taper - pitch + 3:.1f}Z", "d-bed")
                  for i in range(count)]
    leaves = max(1, min(int((x1 - x0) / 34), 6))
    parts += [svg.leaf(x0 + (i + 0.5) * (x1 - x0) / leaves, rim, 20) for i in range(leaves)]
    if stands.on_the_way:
        parts.append(svg.text((x0 + x1) / 2, ground + 17, svg.clipped(plot.name, 30),
                              "d-lab d-halo-earth", "middle"))
    return svg.el("g", *parts, opacity=None if stands.on_the_way else 0.4)


def _pipe(view: SectionView, way: Section, class_: str) -> list[Markup]:
    start = view.y(way.pipe[0][1])
    points = [(SOURCE_X, start), (view.x(1e-9), start),
              *((view.x(max(x, 1e-9)), view.y(z) - 3) for x, z in way.pipe[1:])]
    return [svg.line(points, class_)]


def _running(view: SectionView, way: Section) -> list[tuple[float, float]]:
    """The running water's line: down a step at each component, sloping along the pipe."""
    points: list[tuple[float, float]] = []
    x = WAY_X
    for station in way.stations:
        y = view.y(station.head_m)
        if station.part:
            points.append((x, points[-1][1]))
            x += HEAD_STEP
            points.append((x - HEAD_STEP / 2, points[-1][1]))
            points.append((x - HEAD_STEP / 2, y))
        elif station.along_m > 0:
            x = view.x(station.along_m)
        points.append((x, y))
    return points


def _lines(sheet: Sheet, view: SectionView, source: Store | Standpipe, flow: ZoneFlow, way: Section
           ) -> list[Markup]:
    """Standing and running water; a line that leaves the sheet says how high it is."""
    still = view.y(flow.water_z_m)
    off = still <= TOP - 23
    words = ("its pressure would lift water" if isinstance(source, Standpipe) else
             "water standing still")
    if off:
        words += f", {sheet.show(flow.water_z_m - way.ground[0][1], 'length', 1)} up"
    run = [p for p in _running(view, way) if p[1] < BOTTOM + 20]
    return [svg.path(f"M{SOURCE_X:.1f} {still:.1f}H{RIGHT}", "d-still"),
            svg.text(RIGHT, still - 7, words, "d-mute", "end"), svg.line(run, "d-run"),
            svg.path(f"M{RIGHT - 112:.1f} {still + 14:.1f}h22", "d-run"),
            svg.text(RIGHT, still + 18, "water running", "d-mute", "end")]


def _components(sheet: Sheet, view: SectionView, way: Section) -> list[Markup]:
    """The head assembly's parts on the pipe, numbered; their names stand below."""
    kinds = {f.id: f.kind for f in sheet.garden.fittings}
    fittings, pumps = sheet.assessment.library.fittings, {x.id for x in sheet.garden.lifts}
    y, parts, names = view.y(way.pipe[0][1]), [], []
    passed = [s.part for s in way.stations if s.part]
    for i, part in enumerate(passed):
        x = WAY_X + (i + 0.5) * HEAD_STEP
        kind = kinds.get(part, "")
        name = ("pump" if part in pumps else "timer valve" if kind == "timer" else "tap"
                if part == "tap" else SHORT_WORDS.get(fittings[kind].role, fittings[kind].name)
                if kind in fittings else "")
        names.append(name)
        parts.append(svg.el("circle", cx=x, cy=y, r=7, class_="d-white") if part in pumps else
                     svg.rect(x - 5, y - 8, 10, 16, "d-white"))
    return [*parts, svg.text(WAY_X + 2, y + 22, svg.clipped(", ".join(names), 60),
                             "d-mute d-halo")]


def _worst(sheet: Sheet, view: SectionView, flow: ZoneFlow, way: Section) -> list[Markup]:
    end = way.stations[-1]
    outlet = next(o for o in flow.outlets if o.emitter == way.outlet)
    x, top, bottom, still = (view.x(end.along_m), view.y(end.head_m), view.y(end.z_m),
                             view.y(flow.water_z_m))
    box_x = min(x + 10, RIGHT - 178)
    box_y = min(max((top + bottom) / 2 - 24, TOP), BOTTOM - 60) if bottom - top > 60 else top - 70
    if still - 60 < box_y < still + 24:
        box_y = still + 28
    short = outlet.head_m < outlet.least_head_m
    line_two = (f"needs {sheet.show(outlet.least_head_m, 'head')}" if short else
                f"weakest outlet gives {sheet.show(outlet.flow_l_h / outlet.each, 'flow', 2)}")
    arrows = svg.path(
        f"M{x:.1f} {top + 3:.1f}V{bottom - 3:.1f}M{x - 4:.1f} {top + 9:.1f}l4 -7l4 7"
        f"M{x - 4:.1f} {bottom - 9:.1f}l4 7l4 -7", "d-thin") if abs(bottom - top) > 14 else ""
    return [svg.el("g", arrows, svg.rect(box_x, box_y, 176, 44, "d-panel"),
                   svg.text(box_x + 9, box_y + 18, units.head_and_pressure(
                       outlet.head_m, sheet.system), "d-dim"),
                   svg.text(box_x + 9, box_y + 36, line_two, "d-mute"))]


def _ghost(sheet: Sheet, view: SectionView, zone: Zone, way: Section) -> list[Markup]:
    """The running water's line as it was before a remedy was tried."""
    before = sheet.before
    if before is None:
        return []
    old = next((z for z in before.garden.zones if set(z.plots) & set(zone.plots)), None)
    if old is None:
        return []
    plot = next((p.plot for p in way.plots if p.on_the_way), "")
    then = long_section(before.garden, old, before.flows.with_share(old, sheet.water_share), plot)
    points = [p for p in _running(view, then) if TOP - 30 < p[1] < BOTTOM + 20]
    if not points:
        return []
    return [svg.el("g", svg.line(points, "d-ghost"),
                   svg.text(points[-1][0] - 4, points[-1][1] + 14, "before", "ghost-text", "end"))]
