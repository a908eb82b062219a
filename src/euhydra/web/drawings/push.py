"""Push: the section. Every height is true; standing and running water lines over the ground."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from markupsafe import Markup

from euhydra.core import storage, units
from euhydra.core.assess import Assessment
from euhydra.core.garden.model import Bed, Plot, Roof, Store, Tap, Zone
from euhydra.core.hydraulics.network import Loss, Pipe
from euhydra.core.push import ZoneFlow
from euhydra.core.stations.push import worst_zone
from euhydra.core.zoning import outlet_z_m
from euhydra.web import svg
from euhydra.web.drawings.plan import size_m
from euhydra.web.drawings.sheet import Sheet

WIDTH, TOP, BOTTOM, LEFT, RIGHT = 850.0, 70.0, 500.0, 56.0, 836.0
HEAD_STEP = 15.0  # px east for each component of the head assembly
FITTING_WORDS = {"barrel-outlet": "spigot", "splitter": "splitter", "timer": "timer valve",
                 "filter-screen": "filter"}


@dataclass(frozen=True)
class _View:
    """From metres east and metres up to the sheet. East and up have their own scales."""

    x0: float
    x_scale: float
    z0: float
    z_scale: float

    def x(self, east_m: float) -> float:
        return LEFT + 14 + (east_m - self.x0) * self.x_scale

    def y(self, up_m: float) -> float:
        return BOTTOM - (up_m - self.z0) * self.z_scale


def section(sheet: Sheet, *, still: bool = False) -> Markup:
    """The garden seen from the south, with the chosen zone open; ``still`` has no fields."""
    a = sheet.assessment
    zone = sheet.chosen_zone(worst_zone(a))
    flow = a.flows[zone.id][sheet.level]
    view = _view(sheet, flow)
    parts = [*_heights(sheet, view), *_ground(sheet, view), *_roof(sheet, view)]
    parts += _barrels(sheet, view, flow.water_z_m, still)
    parts += [_plot(sheet, view, plot, faint=plot.id not in zone.plots)
              for plot in sorted(sheet.garden.plots, key=lambda p: p.id in zone.plots)]
    if sheet.before:
        old = next((z for z in sheet.before.garden.zones if set(z.plots) & set(zone.plots)), None)
        if old:
            parts.append(_ghost(sheet.before, sheet.before.flows[old.id][sheet.level], view))
    parts += _water_lines(sheet, view, zone, flow)
    return svg.svg(WIDTH, 560, f"Section through the garden: {zone.name}", parts,
                   interactive=not still)


def _source(sheet: Sheet) -> Store | Tap:
    """The store or tap that the chosen zone draws from."""
    zone = sheet.chosen_zone(worst_zone(sheet.assessment))
    return sheet.garden.tap_of(zone.source) or sheet.garden.store_of(zone.source)


def _top_m(source: Store | Tap) -> float:
    """Level of a barrel's brim, or of a tap."""
    stand = source.stand_m if isinstance(source, Store) else 0.0
    return source.ground_m + stand + source.height_m


def _roofs(sheet: Sheet) -> list[Roof]:
    """The first roof that is led to that store, if any."""
    store = _source(sheet).id
    return [roof for roof in sheet.garden.roofs
            if any(spout.to == store for spout in roof.downspouts)][:1]


def _view(sheet: Sheet, flow: ZoneFlow) -> _View:
    garden, store = sheet.garden, _source(sheet)
    xs = [r.corner.x_m for r in _roofs(sheet)] + [store.at.x_m]
    xs += [x for p in garden.plots for x in (p.corner.x_m, p.corner.x_m + size_m(p)[0])]
    levels = [p.ground_m for p in garden.plots] + [store.ground_m]
    tops = [_top_m(store), flow.water_z_m,
            *(outlet_z_m(p) + 0.3 for p in garden.plots),
            *(store.ground_m + r.eave_m + 0.35 for r in _roofs(sheet))]
    if sheet.before:
        tops.append(max(storage.full_z_m(s) for s in sheet.before.garden.stores))
    low, high = min(levels) - 0.35, max(tops)
    return _View(min(xs), (RIGHT - LEFT - 120) / max(max(xs) - min(xs), 1), low,
                 (BOTTOM - TOP) / max(high - low, 1))


def _heights(sheet: Sheet, view: _View) -> list[Markup]:
    """The scale of heights at the left edge, in the units shown."""
    high = view.z0 + (BOTTOM - TOP) / view.z_scale
    tall = units.convert(high - view.z0, "length", sheet.system)
    step = next((s for s in (0.5, 1, 2, 5, 10, 20) if tall / s <= 9), 50)
    parts = [svg.path(f"M{LEFT} {TOP - 20}V{BOTTOM}", "d-rule")]
    for i in range(math.ceil(units.convert(view.z0, "length", sheet.system) / step),
                   int(units.convert(high, "length", sheet.system) / step) + 1):
        up = i * step / units.convert(1, "length", sheet.system)
        y = view.y(up)
        parts += [svg.path(f"M{LEFT - 6} {y:.1f}h6", "d-thin"),
                  svg.text(LEFT - 10, y + 4, f"{i * step:g}", "d-mute", "end")]
    parts.append(svg.text(LEFT - 10, TOP - 26, units.unit_label("length", sheet.system), "d-mute",
                          "end"))
    return parts


def _profile(sheet: Sheet) -> list[tuple[float, float]]:
    """Ground from west to east as (from x, level); a plot that overlaps another level is left."""
    store = _source(sheet)
    steps = [(-math.inf, store.ground_m)]
    reach = store.at.x_m + 0.6
    for plot in sorted(sheet.garden.plots, key=lambda p: (p.corner.x_m, -p.ground_m)):
        start, end = plot.corner.x_m, plot.corner.x_m + size_m(plot)[0]
        if abs(plot.ground_m - steps[-1][1]) > 1e-6:
            if start < reach - 1e-6:
                continue
            steps.append((max(reach, start - 0.45), plot.ground_m))
        reach = max(reach, end)
    return steps


def _ground(sheet: Sheet, view: _View) -> list[Markup]:
    edge = f"M{LEFT} {view.y(_source(sheet).ground_m):.1f}"
    for x, level in _profile(sheet)[1:]:
        edge += f"H{view.x(x):.1f}V{view.y(level):.1f}"
    edge += f"H{RIGHT}"
    return [svg.path(f"{edge}V{BOTTOM + 30}H{LEFT}Z", "", fill="url(#earth)"),
            svg.path(edge, "d-ground")]


def _roof(sheet: Sheet, view: _View) -> list[Markup]:
    store = _source(sheet)
    parts, ground = [], store.ground_m
    for roof in _roofs(sheet):
        x0, x1 = view.x(roof.corner.x_m), view.x(roof.corner.x_m + roof.width_m)
        eave, ridge = view.y(ground + roof.eave_m), view.y(ground + roof.eave_m + 0.3)
        barrel = view.x(store.at.x_m)
        lid = view.y(_top_m(store)) - 2
        parts += [svg.path(f"M{x0 + 6:.1f} {view.y(ground):.1f}V{ridge:.1f}L{x1 - 4:.1f} {eave:.1f}"
                           f"V{view.y(ground):.1f}Z", "d-wall"),
                  svg.path(f"M{x0 - 2:.1f} {ridge - 2:.1f}L{x1 + 5:.1f} {eave - 2:.1f}", "d-ink",
                           stroke_width=5),
                  svg.path(f"M{x1 + 6:.1f} {eave:.1f}v12H{barrel - 4:.1f}V{lid:.1f}", "d-pipe"),
                  svg.text(x0 + 14, (eave + view.y(ground)) / 2, roof.name, "d-mute")]
    return parts


def _barrels(sheet: Sheet, view: _View, water_z_m: float, still: bool) -> list[Markup]:
    store, at = _source(sheet), sheet.fields.at
    if isinstance(store, Tap):
        return _tap(sheet, view, store)
    base, top = view.y(storage.base_z_m(store)), view.y(storage.base_z_m(store) + store.height_m)
    ground, water = view.y(store.ground_m), view.y(water_z_m)
    wide = min(max(storage.width_m(store) * view.x_scale, 22), 60)
    right, drawn = view.x(store.at.x_m) + 4, min(store.count, 3)
    outlet = view.y(storage.outlet_z_m(store))
    parts = []
    for i in range(drawn):
        x = right - (i + 1) * (wide + 3)
        parts += [svg.rect(x, top, wide, base - top, "d-barrel", rx=4),
                  svg.rect(x + 1, water, wide - 2, base - water - 1, "d-water", rx=3),
                  svg.path(f"M{x + 1:.1f} {outlet:.1f}h{wide - 2:.1f}", "d-dead")]
    left = right - drawn * (wide + 3)
    if store.stand_m > 0:
        parts.append(svg.path(f"M{left:.1f} {ground:.1f}V{base:.1f}H{right:.1f}V{ground:.1f}",
                              "d-ink", stroke_width=3))
    parts += [svg.text((left + right) / 2, top - 9,
                       f"{store.count} × {sheet.show(store.volume_l, 'volume')}",
                       "d-lab d-halo", "middle"),
              svg.upright(left - 10, base, ground)]
    middle = (base + ground) / 2
    parts.append(
        svg.text(left - 16, middle + 4, sheet.show(store.stand_m, "length"), "d-dim", "end")
        if still else
        svg.field(left - 102, middle - 13, at(f"stores/{store.id}/stand_m", store.name)))
    return parts


def _tap(sheet: Sheet, view: _View, tap: Tap) -> list[Markup]:
    """A tap on its post, and the line as high as its regulated pressure would lift water."""
    x, ground, top = view.x(tap.at.x_m), view.y(tap.ground_m), view.y(_top_m(tap))
    return [svg.path(f"M{x:.1f} {ground:.1f}V{top:.1f}h10v6", "d-pipe d-pipe-tap"),
            svg.text(x - 8, top - 8, f"T {tap.name}", "d-lab d-halo", "end" if x > 200 else None)]


def _plot(sheet: Sheet, view: _View, plot: Plot, *, faint: bool) -> Markup:
    w, _ = size_m(plot)
    x0, x1 = view.x(plot.corner.x_m), view.x(plot.corner.x_m + w)
    ground, rim = view.y(plot.ground_m), view.y(outlet_z_m(plot))
    parts = [svg.path(f"M{x0 - 8:.1f} {ground:.1f}H{x1 + 8:.1f}", "d-ground")]
    if isinstance(plot, Bed):
        parts.append(svg.rect(x0, min(rim, ground - 5), x1 - x0, max(ground - rim, 5), "d-bed"))
    else:
        pitch = (x1 - x0) / plot.count
        taper, wide = pitch * 0.15, pitch - 3
        parts += [svg.path(f"M{x0 + i * pitch + 1:.1f} {rim:.1f}h{wide:.1f}l{-taper:.1f} "
                           f"{ground - rim:.1f}h{2 * taper - wide:.1f}Z", "d-bed")
                  for i in range(plot.count)]
    count = max(1, min(int((x1 - x0) / 34), 6))
    parts += [svg.leaf(x0 + (i + 0.5) * (x1 - x0) / count, rim, 20) for i in range(count)]
    return svg.el("g", *parts, opacity=0.45 if faint else None)


def _water_lines(sheet: Sheet, view: _View, zone: Zone, flow: ZoneFlow) -> list[Markup]:
    """Standing line, running line with its drops, the pipe, and the head at the worst outlet."""
    places = _way(sheet.assessment, flow, view)
    still = view.y(flow.water_z_m)
    source = places[0][0]
    parts = [svg.path(f"M{source:.1f} {still:.1f}H{RIGHT}", "d-still"),
             svg.text(RIGHT, still - 7, "as high as its pressure would lift water" if isinstance(
                 _source(sheet), Tap) else "water standing still", "d-mute", "end"),
             svg.line(_along_ground(sheet, view, places), "d-pipe d-pipe-tap"
                      if isinstance(_source(sheet), Tap) else "d-pipe")]
    running = [(places[0][0], view.y(places[0][2]))]
    for x, _, head, _ in places[1:]:
        if head > -50:
            running += [(x, running[-1][1])] if abs(x - running[-1][0]) <= HEAD_STEP else []
            running.append((x, view.y(head)))
    parts.append(svg.line(running, "d-run"))
    for x, z, _, name in places:
        if name:
            y = view.y(z)
            parts.append(svg.rect(x - 5, y - 8, 10, 16, "d-white"))
    names, under = [n for *_, n in places if n], view.y(places[0][1])
    parts += [svg.text(source + 2, under - 14, ", ".join(names), "d-mute d-halo")]
    return parts + _worst(sheet, view, zone, flow, places[-1])


def _along_ground(sheet: Sheet, view: _View, places: list[tuple[float, float, float, str]]
                  ) -> list[tuple[float, float]]:
    """The pipe's course: where it comes down, it drops to the ground and follows its steps."""
    steps = [(view.x(x) if x > -math.inf else x, z) for x, z in _profile(sheet)]
    course = [(places[0][0], view.y(places[0][1]))]
    for (ax, az, _, _), (bx, bz, _, _) in pairwise(places):
        if az - bz > 0.05 and bx > ax:
            start = max((s for s in steps if s[0] <= ax), key=lambda s: s[0])[1]
            level = min(start, az)
            course.append((ax, view.y(level) - 3))
            for x, z in steps:
                if ax < x <= bx and z < level:
                    course += [(x + 3, view.y(level) - 3), (x + 3, view.y(z) - 3)]
                    level = z
        elif abs(az - bz) > 0.05:
            course.append((bx, view.y(az)))
        course.append((bx, view.y(bz)))
    return course


def _worst(sheet: Sheet, view: _View, zone: Zone, flow: ZoneFlow,
           place: tuple[float, float, float, str]) -> list[Markup]:
    x, z, head, _ = place
    top, bottom, still = view.y(head), view.y(z), view.y(flow.water_z_m)
    box_x = min(x + 10, RIGHT - 178)
    box_y = min(max((top + bottom) / 2 - 24, TOP), BOTTOM - 60) if bottom - top > 60 else top - 70
    if box_x + 176 > RIGHT - 116 and still - 60 < box_y < still + 24:
        box_x = x - 188
    short = flow.short_m > 0
    each = flow.worst.flow_l_h / flow.worst.each
    line_two = (f"needs {sheet.show(flow.worst.least_head_m, 'head')}" if short else
                f"worst outlet gives {sheet.show(each, 'flow', 2)}")
    arrows = svg.path(
        f"M{x:.1f} {top + 3:.1f}V{bottom - 3:.1f}M{x - 4:.1f} {top + 9:.1f}l4 -7l4 7"
        f"M{x - 4:.1f} {bottom - 9:.1f}l4 7l4 -7", "d-thin") if abs(bottom - top) > 14 else ""
    return [svg.el("g", arrows, svg.rect(box_x, box_y, 176, 44, "d-panel"),
                   svg.text(box_x + 9, box_y + 18,
                            units.head_and_pressure(flow.worst.head_m, sheet.system), "d-dim"),
                   svg.text(box_x + 9, box_y + 36, line_two, "d-mute")),
            svg.path(f"M{RIGHT - 112:.1f} {still + 14:.1f}h22", "d-run"),
            svg.text(RIGHT, still + 18, "water running", "d-mute", "end")]


def _ghost(before: Assessment, flow: ZoneFlow, view: _View) -> Markup:
    places = _way(before, flow, view)
    return svg.el("g", svg.line([(x, view.y(h)) for x, _, h, _ in places if h > -50], "d-ghost"),
                  svg.text(places[-1][0] - 4, view.y(places[-1][2]) + 14, "before", "ghost-text",
                           "end"))


def _way(a: Assessment, flow: ZoneFlow, view: _View) -> list[tuple[float, float, float, str]]:
    """From the source to the worst outlet: sheet x, level, head above datum, component passed."""
    network, solution = flow.network, flow.solution
    links: list[Pipe | Loss] = [*network.pipes, *network.losses]
    into = {link.end: link for link in links}
    levels = {n.id: n.z_m for n in network.nodes}
    kinds = {f.id: f.kind for f in a.garden.fittings}
    node = f"{flow.worst.emitter}-at"
    way = []
    while node in into:
        way.append(into[node])
        node = into[node].start
    way.reverse()
    nodes = {n.id: n.at.x_m for n in a.garden.nodes}
    lines = {line.id: line for line in a.garden.lines}
    source = way[0].start
    x = view.x(nodes[source]) + 4
    places = [(x, levels[source], solution.head_m[source], "")]
    for link in way:
        name = FITTING_WORDS.get(kinds.get(link.id, ""), "")
        if isinstance(link, Loss):
            x += HEAD_STEP
        elif link.end in nodes:
            x = max(view.x(nodes[link.end]), places[0][0])
        else:
            line = lines[link.id.rsplit(":", 1)[0]]
            share = min(link.length_m / max(line.length_m, 1e-6), 1.0)
            x += (nodes[line.end] - nodes[line.start]) * share * view.x_scale
        places.append((x, levels[link.end], solution.head_m[link.end], name))
    return places
