"""Catch: each roof in plan with its gutter and downspouts, and the flow that narrows."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.garden.model import Roof
from euhydra.core.stations.catch import yearly_losses
from euhydra.core.supply.runoff import flush_l, roof_box
from euhydra.web import svg
from euhydra.web.sheet import Sheet

WIDTH = 850
ROW = 290.0


def roofs(sheet: Sheet) -> Markup:
    """The roofs one under another, to one scale, then what is lost on the way."""
    garden = sheet.garden
    boxes = [roof_box(r) for r in garden.roofs]
    widest = max((east - west for west, _, east, _ in boxes), default=1.0)
    deepest = max((north - south for _, south, _, north in boxes), default=1.0)
    scale = min(330 / widest, 170 / deepest)
    children, y = [], 34.0
    for roof in garden.roofs:
        children.append(_roof(sheet, roof, 150, y, scale))
        _, south, _, north = roof_box(roof)
        y += max((north - south) * scale + 110, 190)
    if not garden.roofs:
        children.append(svg.text(WIDTH / 2, y, "No roof yet: add one to catch rain.", "d-name",
                                 "middle"))
    children.append(_narrowing(sheet, y + 24))
    return svg.svg(WIDTH, y + 200, "Roofs in plan, and losses on the way", children,
                   interactive=True)


def _roof(sheet: Sheet, roof: Roof, x: float, y: float, scale: float) -> Markup:
    west, south, east, north = roof_box(roof)
    w, h = (east - west) * scale, (north - south) * scale
    path, at = f"roofs/{roof.id}", sheet.fields.at
    ribs = "".join(f"M{x + i * 14:.1f} {y:.1f}v{h:.1f}" for i in range(1, int(w / 14) + 1))
    name = roof.name if len(roof.name) * 8 < w else roof.name[:max(int(w / 8) - 1, 3)] + "…"
    drawn = [*_shape(roof, x, y, w, h, scale, ribs),
             svg.path(f"M{x - 4:.1f} {y + h + 5:.1f}H{x + w + 4:.1f}", "d-pipe"),
             svg.text(x + 8, y + 20, name, "d-name d-halo"),
             svg.text(x + 8, y + 37, sheet.show(roof.area_m2, "area") + " in plan",
                      "d-lab d-halo"), *_spouts(sheet, roof, x, y + h + 5, w, scale)]
    if roof.id != sheet.chosen("roofs"):
        return svg.el("g", *drawn, *_told(sheet, roof, y), svg.to_pick(
            f"/g/{sheet.garden.id}/catch?view=roofs&sel={path}", f"{roof.name}: its measures",
            x - 12, y - 12, WIDTH - x - 12, h + 24))
    return svg.el(
        "g", *drawn, *_sizes(sheet, roof, x, y, w, h, scale),
        svg.field(560, y + 6, at(f"{path}/material", roof.name), width=215),
        svg.field(560, y + 56, at(f"{path}/guard", roof.name), width=140),
        svg.field(710, y + 56, at(f"{path}/gutter_mm", roof.name), width=100),
        svg.field(560, y + 106, at(f"{path}/first_flush_mm", roof.name, "first flush, "
                                   + sheet.show(flush_l(roof), "drop")),
                  width=100),
        svg.field(710, y + 106, at(f"{path}/flush_days", roof.name, "dry days to full flush"),
                  width=100))


def _told(sheet: Sheet, roof: Roof, y: float) -> list[Markup]:
    """What a roof that is not picked is like, in words."""
    at = sheet.fields.at
    size = (f"{sheet.show(roof.width_m, 'length')} × {sheet.show(roof.depth_m, 'length')}, "
            if not roof.outline else "")
    return [svg.text(560, y + 20, size + at(f"roofs/{roof.id}/material").said[:30], "d-lab"),
            svg.text(560, y + 38, at(f"roofs/{roof.id}/guard").said, "d-mute")]


def _shape(roof: Roof, x: float, y: float, w: float, h: float, scale: float, ribs: str
           ) -> list[Markup]:
    """The roof as a rectangle with its ribs, or as its outline."""
    if not roof.outline:
        return [svg.rect(x, y, w, h, "d-wall"), svg.path(ribs, "d-rule")]
    west, _, _, north = roof_box(roof)
    return [svg.el("polygon", class_="d-wall", points=" ".join(
        f"{x + (p.x_m - west) * scale:.1f},{y + (north - p.y_m) * scale:.1f}"
        for p in roof.outline))]


def _sizes(sheet: Sheet, roof: Roof, x: float, y: float, w: float, h: float, scale: float
           ) -> list[Markup]:
    """Length and width as fields on their dimension lines, and edges that can be dragged."""
    path, at = f"roofs/{roof.id}", sheet.fields.at
    if roof.outline:
        return [svg.text(x, y - 8, "drawn by its outline; empty that in the list for a rectangle",
                         "d-mute")]
    handles = [svg.el("g", svg.el("circle", cx=hx, cy=hy, r=13, class_="d-grip"),
                      svg.rect(hx - 5, hy - 13, 10, 26, "d-handle", rx=3) if axis == "x" else
                      svg.rect(hx - 13, hy - 5, 26, 10, "d-handle", rx=3),
                      class_=f"drag drag-{axis}", data_drag=f"{path}/{key}", data_axis=axis,
                      data_scale=f"{scale:.4f}", data_metres=f"{metres:.4f}")
               for axis, key, metres, hx, hy in (
                   ("x", "width_m", roof.width_m, x + w, y + h / 2),
                   ("y", "depth_m", roof.depth_m, x + w / 2, y))]
    return [svg.across(x, x + w, y - 16),
            svg.field(x + 8, y - 30, at(f"{path}/width_m", roof.name), label=""),
            svg.upright(x - 16, y, y + h),
            svg.field(x - 112, y + h / 2 - 4, at(f"{path}/depth_m", roof.name)), *handles]


def _spouts(sheet: Sheet, roof: Roof, x: float, y: float, w: float, scale: float) -> list[Markup]:
    """Each downspout at its place along the gutter, with where it leads and its share."""
    parts = []
    for i, spout in enumerate(roof.downspouts):
        px = x + min(spout.along_m * scale, w)
        led = sheet.garden.store_of(spout.to).name if spout.to else "elsewhere"
        y1 = y + 22 + 22 * (i % 3)
        anchor = "end" if px > x + w / 2 else None
        parts += [svg.path(f"M{px:.1f} {y:.1f}V{y1:.1f}",
                           "d-pipe" if spout.to else "d-over"),
                  svg.el("circle", cx=px, cy=y, r=4.5, class_="d-white"),
                  svg.text(px + (-8 if anchor else 8), y1 + 2,
                           f"R {sheet.show(spout.share, 'share')} to {led}"[:40],
                           "d-lab d-halo", anchor)]
        if spout.restrictor_l_h > 0:
            parts.append(svg.path(f"M{px - 7:.1f} {y1 - 8:.1f}h14", "d-ink", stroke_width=2))
    return parts


def _narrowing(sheet: Sheet, y: float) -> Markup:
    loss = yearly_losses(sheet.assessment)
    total = max(loss["fell_l"], 1e-9)
    steps = [("fell on the roofs", loss["fell_l"], 0.0),
             ("ran off, past guards", loss["fell_l"] - loss["lost_l"], loss["lost_l"]),
             ("after first flush", loss["fell_l"] - loss["lost_l"] - loss["flushed_l"],
              loss["flushed_l"]),
             ("reaches the stores", loss["caught_l"],
              loss["astray_l"] + loss["over_l"] + loss["winter_l"])]
    tall, left, step = 86.0, 40.0, 205.0
    parts = [svg.text(left, y - 8, "A year's rain on its way", "d-title")]
    before = tall
    for i, (name, litres, lost) in enumerate(steps):
        x, thick = left + i * step, tall * litres / total
        parts.append(svg.path(
            f"M{x:.1f} {y + 10:.1f}v{before:.1f}L{x + 60:.1f} {y + 10 + thick:.1f}H{x + step:.1f}"
            f"V{y + 10:.1f}Z", "d-water"))
        parts.append(svg.text(x, y + 114, name, "d-lab"))
        parts.append(svg.text(x, y + 131, sheet.show(litres, "yearly"), "d-dim"))
        if lost > total * 0.0005:
            parts.append(svg.text(x, y + 148, f"−{sheet.show(lost, 'yearly')} lost", "d-mute"))
        before = thick
    return svg.el("g", *parts)
