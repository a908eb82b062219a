"""Lay: the ground plan to scale, on which the whole garden is drawn and changed."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.editing import placement
from euhydra.core.editing.additions import drawn
from euhydra.core.editing.placement import Placed
from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Building,
    Garden,
    Roof,
    Store,
    Tree,
)
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY
from euhydra.web import svg
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import MARGIN, WIDTH, Frame, frame_of, scale_bar
from euhydra.web.sheet import Sheet
from euhydra.web.words import KIND_WORDS, held

LEAST_NAME_PX = 26.0
MOST_LETTERS = 24
GRIP_PX, TURN_PX = 22, 34.0  # a grip is as large as a fingertip
MEASURED: dict[type, tuple[str, str]] = {
    Bed: ("length_m", "width_m"), Building: ("length_m", "width_m"), Roof: ("width_m", "depth_m"),
    Tree: ("canopy_m", "")}


def lay(sheet: Sheet, under: str = "") -> Markup:
    """The plan with every thing, line and outlet; what is picked has its measures and handles.

    ``under`` is the address of the gardener's own picture that lies under it.
    """
    frame = frame_of(sheet.garden)
    picked = frozenset(sheet.picked)
    things_ = placement.placed(sheet.garden)
    wet = pieces.wet(sheet.assessment, frame) if sheet.shows("wet") else []
    inner = [*_picture(sheet, frame, under), _grid(sheet, frame),
             *(_thing(sheet, frame, t, picked) for t in things_),
             svg.el("g", *wet, class_="layer-wet"),
             svg.el("g", pieces.layer(sheet.assessment, frame, picked=picked),
                    *pieces.pins(sheet.assessment, frame), data_lines="1"),
             *_names(sheet, frame, things_),
             *[mark for t in things_ if t.path in picked for mark in _handles(frame, t, sheet)],
             svg.el("g", data_rubber="1")]
    if len(picked) == 1:
        inner += [mark for t in things_ if t.path in picked
                  for mark in _measures(sheet, frame, t)]
    unit = units.unit_label("length", sheet.system)
    return svg.svg(
        WIDTH, frame.height + 28, "Ground plan with the lines as laid", [
            svg.el("g", *inner, class_="zoomable"), scale_bar(sheet, frame), _key(sheet, frame)],
        interactive=True, data_plan="1", data_scale=f"{frame.scale:.4f}",
        data_x0=f"{frame.x0:.4f}", data_y1=f"{frame.y1:.4f}", data_margin=f"{MARGIN:g}",
        data_unit=unit, data_per_m=f"{units.convert(1.0, 'length', sheet.system):.5f}",
        data_picked=",".join(sheet.picked), data_tall=f"{frame.height + 28:.0f}")


def _picture(sheet: Sheet, frame: Frame, address: str) -> list[Markup]:
    """The gardener's own picture, turned about its middle, cut and faded."""
    sketch = sheet.garden.sketch
    if sketch is None or not address:
        return []
    x, y = frame.at(sketch.at)
    wide, tall = sketch.wide_m * frame.scale, sketch.tall_m * frame.scale
    left, top = sketch.cut_left * wide - wide / 2, sketch.cut_top * tall - tall / 2
    kept = svg.rect(left, top, wide * (1 - sketch.cut_left - sketch.cut_right),
                    tall * (1 - sketch.cut_top - sketch.cut_bottom), "d-cut")
    return [svg.el(
        "g", svg.el("clipPath", kept, id="picture-cut"),
        svg.el("image", href=address, x=-wide / 2, y=-tall / 2, width=wide, height=tall,
               preserveAspectRatio="none", clip_path="url(#picture-cut)"),
        class_="d-picture", opacity=f"{1 - sketch.faded:.2f}", data_picture="1",
        transform=f"translate({x:.1f} {y:.1f}) rotate({-sketch.turn_deg:g})")]


def _grid(sheet: Sheet, frame: Frame) -> Markup:
    """A hairline every metre, or every five feet."""
    step = 1.0 if sheet.system == "metric" else 1.524
    while step * frame.scale < 14:
        step *= 5
    left, top, right, bottom = 4.0, 4.0, WIDTH - 4, frame.height - 30
    x_m = math.ceil(((left - MARGIN) / frame.scale + frame.x0) / step) * step
    y_m = math.floor((frame.y1 - (top - MARGIN) / frame.scale) / step) * step
    d = ""
    while (x := frame.xy(x_m, 0)[0]) < right:
        d, x_m = d + f"M{x:.1f} {top}V{bottom:.1f}", x_m + step
    while (y := frame.xy(0, y_m)[1]) < bottom:
        d, y_m = d + f"M{left} {y:.1f}H{right:.1f}", y_m - step
    return svg.path(d, "d-grid", data_ground="1")


def _thing(sheet: Sheet, frame: Frame, thing: Placed, picked: frozenset[str]) -> Markup:
    """One thing, ready to be picked by hand, by finger or by key."""
    west, south, east, north = thing.bounds
    words = KIND_WORDS.get(thing.kind, thing.kind)
    label = (f"{thing.name}, {words}, {sheet.show(east - west, 'length')} by "
             f"{sheet.show(north - south, 'length')}, at {sheet.show(west, 'length')} east, "
             f"{sheet.show(south, 'length')} north")
    return svg.el(
        "g", *things.drawn(frame, sheet.assessment.library, thing),
        class_="thing picked" if thing.path in picked else "thing", data_thing=thing.path,
        data_box=f"{west:.4f},{south:.4f},{east:.4f},{north:.4f}", tabindex="0", role="button",
        aria_pressed="true" if thing.path in picked else "false", aria_label=label)


def _names(sheet: Sheet, frame: Frame, all_things: tuple[Placed, ...]) -> list[Markup]:
    """A name at each thing that has room for one; stores in three rows, to part them."""
    parts, row = [], 0
    for thing in all_things:
        if thing.kind == "spot":
            x, y = frame.xy(*thing.shape.centroid.coords[0])
            level = sheet.show(thing.thing.level_m, "length")  # type: ignore[attr-defined]
            parts.append(svg.text(x + 7, y + 4, level, "d-mute d-halo"))
            continue
        if thing.kind in ("path", "wall") and thing.path not in sheet.picked:
            continue
        x, y = frame.xy(thing.bounds[0], thing.bounds[3])
        wide = (thing.bounds[2] - thing.bounds[0]) * frame.scale
        name = svg.clipped(thing.name, MOST_LETTERS)
        if isinstance(thing.thing, Store):
            stores = [thing.thing]
            cx, cy = frame.xy((thing.bounds[0] + thing.bounds[2]) / 2, thing.bounds[1])
            parts.append(svg.text(cx, cy + 15 + 15 * (row % 3), f"{held(stores)} {name}",
                                  "d-lab d-halo", "middle"))
            row += 1
        elif thing.kind in ("tap", "well", "drain"):
            cx, cy = frame.xy(*thing.shape.centroid.coords[0])
            parts.append(svg.text(cx + max(wide / 2, 8) + 8, cy + 5, name, "d-lab d-halo"))
        elif thing.kind == "roof":
            parts.append(svg.text(x + 8, y + 19, name, "d-lab d-halo-wall"))
        elif wide >= LEAST_NAME_PX:
            small = thing.kind in ("basin", "rain-garden", "wet-area", "building")
            parts.append(svg.text(x + 2, y - 4, svg.clipped(name, max(14, int(wide / 6.5))),
                                  "d-mute d-halo" if small else "d-name d-halo"))
    return [svg.el("g", *parts, class_="names", aria_hidden="true")]


def _handles(frame: Frame, thing: Placed, sheet: Sheet) -> list[Markup]:
    """The outline of what is picked, a handle at each corner that can be drawn out, a turning grip.

    The handles of a turned thing stand at its own corners.
    """
    west, south, east, north = thing.bounds
    (x0, y0), (x1, y1) = frame.xy(west, north), frame.xy(east, south)
    parts = [svg.rect(x0 - 3, y0 - 3, x1 - x0 + 6, y1 - y0 + 6, "d-picked")]
    owner = thing.thing
    if len(sheet.picked) != 1:
        return parts
    if isinstance(owner, Roof) and not owner.outline:
        parts += _corners(frame, thing, [(west, south), (east, south), (east, north),
                                         (west, north)], 0.0)
    elif isinstance(owner, (Bed, Building)) or (isinstance(owner, Tree) and owner.count == 1):
        parts += _corners(frame, thing, geometry.corners(owner), owner.turn_deg)
    if isinstance(owner, AnyPlot | Building):
        parts.append(_turn_grip(frame, thing, owner))
    return parts


def _corners(frame: Frame, thing: Placed, around: list[XY], turn: float) -> list[Markup]:
    """A handle at each corner; it knows the corner across, which stays where it is."""
    parts = []
    for i, (sx, sy) in enumerate(((-1, -1), (1, -1), (1, 1), (-1, 1))):
        (x, y), across = frame.xy(*around[i]), around[(i + 2) % 4]
        slant = "nesw" if sx * sy > 0 else "nwse"
        parts.append(svg.el(
            "g", svg.el("circle", cx=x, cy=y, r=GRIP_PX, class_="d-grip"),
            svg.rect(x - 6, y - 6, 12, 12, "d-handle"), class_=f"handle handle-{slant}",
            data_handle=str(i), data_of=thing.path, data_fx=f"{across[0]:.4f}",
            data_fy=f"{across[1]:.4f}", data_sx=str(sx), data_sy=str(sy), data_turn=f"{turn:g}"))
    return parts


def _turn_grip(frame: Frame, thing: Placed, owner: AnyPlot | Building) -> Markup:
    """A round grip off the north side; dragged about the middle it turns the thing."""
    cx, cy = geometry.middle(owner)
    turn, (x, y) = math.radians(owner.turn_deg), frame.xy(cx, cy)
    edge = owner.breadth_m / 2 * frame.scale
    away = (-math.sin(turn), -math.cos(turn))
    (ex, ey), (gx, gy) = ((x + d * away[0], y + d * away[1]) for d in (edge, edge + TURN_PX))
    return svg.el(
        "g", svg.line([(ex, ey), (gx, gy)], "d-guide"),
        svg.el("circle", cx=gx, cy=gy, r=GRIP_PX, class_="d-grip"),
        svg.el("circle", cx=gx, cy=gy, r=8, class_="d-handle"),
        svg.path(f"M{gx - 3.4:.1f} {gy + 1:.1f}a3.6 3.6 0 1 1 2.4 2.6", "d-thin"),
        class_="handle handle-turn", data_turn_of=thing.path, data_cx=f"{cx:.4f}",
        data_cy=f"{cy:.4f}")


def on_plan(thing: Placed) -> tuple[str, ...]:
    """The measures of a thing that stand on dimension lines beside it when it is picked."""
    if isinstance(thing.thing, Roof) and thing.thing.outline:
        return ()
    return MEASURED.get(type(thing.thing), ())


def _measures(sheet: Sheet, frame: Frame, thing: Placed) -> list[Markup]:
    """Length and width as fields on their dimension lines, for what has them."""
    keys = on_plan(thing)
    if not keys:
        return []
    west, south, east, north = thing.bounds
    (x0, y0), (x1, y1) = frame.xy(west, north), frame.xy(east, south)
    below = y1 + 46 < frame.height - 20
    y = y1 + 14 if below else y0 - 14
    parts = [svg.across(x0, x1, y),
             svg.field((x0 + x1) / 2 - 41, y + 8 if below else y - 34,
                       sheet.fields.at(f"{thing.path}/{keys[0]}", thing.name), label="")]
    if keys[1]:
        right = x1 + 112 < WIDTH
        x = x1 + 14 if right else x0 - 14
        parts += [svg.upright(x, y0, y1),
                  svg.field(x + 8 if right else x - 90, (y0 + y1) / 2 - 14,
                            sheet.fields.at(f"{thing.path}/{keys[1]}", thing.name), label="")]
    return [svg.el("g", *parts, class_="dims")]


def _key(sheet: Sheet, frame: Frame) -> Markup:
    """The kinds of line that are in this garden, each drawn as on the plan."""
    roles = [line.role for line in sheet.garden.lines]
    words = [(("supply", "blank", "header"), "d-row d-row-blank", "pipe without outlets"),
             (("dripline",), "d-row", "dripline"), (("lateral",), "d-row", "pipe with drippers"),
             (("soaker",), "d-row d-row-soaker", "soaker hose"),
             (("drilled",), "d-row d-row-drilled", "drilled pipe"),
             (("quarter-inch",), "d-row d-row-quarter", "quarter-inch tube")]
    y, x, parts = frame.height + 12, MARGIN, []
    if sheet.garden.sketch:
        parts.append(svg.rect(0, frame.height - 4, WIDTH, 32, "d-legend"))
    waters = {pieces.kind_of_water(sheet.garden, zone.source) for zone in sheet.garden.zones}
    only = next(iter(waters)) if len(waters) == 1 else ""
    marked = f" d-row-{only}" if only else ""
    for kinds, class_, label in words:
        if set(kinds) & set(roles):
            parts += [svg.path(f"M{x:.1f} {y:.1f}h26", class_ + marked),
                      svg.text(x + 32, y + 4, label)]
            if class_ == "d-row" or kinds == ("quarter-inch",):
                parts.append(svg.path(f"M{x + 7:.1f} {y:.1f}h0M{x + 19:.1f} {y:.1f}h0", "d-dots",
                                      stroke_width=4.5))
            x += 46 + 6.7 * len(label)
    parts += [svg.rect(x, y - 4, 8, 8, "d-white"), svg.text(x + 14, y + 4, "valve")]
    x += 58
    if sheet.shows("wet"):
        parts += [svg.rect(x, y - 6, 30, 12, "d-wet"),
                  svg.rect(x + 18, y - 6, 12, 12, "d-wet-twice"),
                  svg.text(x + 36, y + 4, "wetted, twice")]
    return svg.el("g", *parts)


def glyph(kind: str, sheet: Sheet) -> Markup:
    """A small drawing of a kind of thing, by the same hand as on the plan; drawn once."""
    if kind not in GLYPHS:
        GLYPHS[kind] = _small(kind, sheet.garden, sheet.assessment.library)
    return GLYPHS[kind]


def _small(kind: str, garden: Garden, tables: Library) -> Markup:
    table, thing = drawn(garden, kind, 0.0, 0.0, *GLYPH_M.get(kind, (1.6, 0.9)))
    placed, = (t for t in placement.placed(garden.model_copy(update={table: (thing,)}))
               if t.path == f"{table}/{thing.id}")
    west, south, east, north = placed.bounds
    scale = min(34 / max(east - west, 0.3), 18 / max(north - south, 0.3))
    frame = Frame(west - (40 / scale - (east - west)) / 2 + MARGIN / scale,
                  north + (22 / scale - (north - south)) / 2 - MARGIN / scale, scale, 0)
    marks = things.drawn(frame, tables, placed)
    return Markup('<svg width="40" height="22" viewBox="0 0 40 22" aria-hidden="true">{}</svg>'
                  ).format(Markup("").join(marks))


GLYPHS: dict[str, Markup] = {}
GLYPH_M = {"path": (1.8, 0.5), "wall": (1.8, 0.2), "store": (0.6, 0.6), "tap": (0.3, 0.3)} | {
    key: kind.drawn_m for key, kind in PLOT_KINDS.items()}
