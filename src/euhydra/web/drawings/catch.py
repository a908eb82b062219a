"""Catch: each roof in plan, the flow that narrows, and the storm strip."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core.catch import roof_area_m2
from euhydra.core.garden.model import Roof
from euhydra.core.stations.catch import storm_minutes, yearly_losses
from euhydra.web import svg
from euhydra.web.drawings.sheet import Sheet

WIDTH = 850


def roofs(sheet: Sheet) -> Markup:
    """The roofs side by side, then what is lost on the way, then the storm strip."""
    garden = sheet.garden
    widest = max(r.width_m for r in garden.roofs)
    deepest = max(r.depth_m for r in garden.roofs)
    scale = min(360 / widest, 180 / deepest)
    children, x = [], 150.0
    for roof in garden.roofs:
        children.append(_roof(sheet, roof, x, 50, scale))
        x += roof.width_m * scale + 330
    children += [_narrowing(sheet, 356), _storm(sheet, 548)]
    return svg.svg(max(WIDTH, x - 100), 680, "Roofs in plan, losses on the way, and a storm",
                   children, interactive=True)


def _roof(sheet: Sheet, roof: Roof, x: float, y: float, scale: float) -> Markup:
    w, h = roof.width_m * scale, roof.depth_m * scale
    path = f"roofs/{roof.id}"
    ribs = "".join(f"M{x + i * 14:.1f} {y:.1f}v{h:.1f}" for i in range(1, int(w / 14) + 1))
    at = sheet.fields.at
    return svg.el(
        "g", svg.rect(x, y, w, h, "d-wall"), svg.path(ribs, "d-rule"),
        svg.path(f"M{x - 4:.1f} {y + h + 5:.1f}H{x + w + 6:.1f}v26", "d-pipe"),
        svg.text(x + 8, y + 20, roof.name, "d-name"),
        svg.text(x + 8, y + 37, sheet.show(roof_area_m2(roof), "area") + " in plan", "d-lab"),
        svg.across(x, x + w, y + h + 24),
        svg.field(x + w / 2 - 41, y + h + 44, at(f"{path}/width_m", roof.name)),
        svg.upright(x - 16, y, y + h),
        svg.field(x - 112, y + h / 2 - 4, at(f"{path}/depth_m", roof.name)),
        svg.text(x + w + 12, y + h + 26, "R to the barrels", "d-mute"),
        svg.field(x + w + 40, y + 12, at(f"{path}/material", roof.name), width=215),
        svg.field(x + w + 40, y + 62, at(f"{path}/first_flush_mm", roof.name)),
        svg.field(x + w + 40, y + 112, at(
            f"{path}/downspouts/{roof.downspouts[0].id}/share", roof.name)))


def _narrowing(sheet: Sheet, y: float) -> Markup:
    loss = yearly_losses(sheet.assessment)
    total = max(loss["fell_l"], 1e-9)
    steps = [("fell on the roof", loss["fell_l"], 0.0),
             ("ran off", loss["fell_l"] - loss["lost_l"], loss["lost_l"]),
             ("after first flush", loss["fell_l"] - loss["lost_l"] - loss["flushed_l"],
              loss["flushed_l"]),
             ("reaches the barrels", loss["caught_l"], loss["astray_l"])]
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


def _storm(sheet: Sheet, y: float) -> Markup:
    minutes = storm_minutes(sheet.assessment)
    parts = [svg.text(40, y - 4, "In a storm the empty barrels are full after", "d-title")]
    longest = max(minutes.values())
    for i, (rate, took) in enumerate(minutes.items()):
        top = y + 8 + i * 28
        length = 480 * took / longest if math.isfinite(longest) else 0
        parts += [svg.text(130, top + 15, f"{sheet.show(rate, 'rain')} an hour", "d-lab", "end"),
                  svg.rect(140, top + 3, length, 16, "d-rain"),
                  svg.text(148 + length, top + 16, _duration(sheet, took), "d-dim")]
    return svg.el("g", *parts)


def _duration(sheet: Sheet, minutes: float) -> str:
    return (sheet.show(minutes, "minutes") if minutes < 120
            else sheet.show(minutes / 60, "hours"))
