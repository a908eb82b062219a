"""Store: where to mark and drill, for this barrel on this stand."""

from __future__ import annotations

from collections.abc import Callable

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.construction.setting_out import Mark, marks, roof_ground_m, spouts_into
from euhydra.web import svg
from euhydra.web.sheet import Sheet

BOTTOM, TOP = 500.0, 70.0
SPOUT_X, BARREL_X = 330.0, 400.0
APART = 21.0


def marking_out(sheet: Sheet) -> Markup:
    """Downspout and barrel side by side, every mark with its height over the ground there."""
    store = sheet.chosen_store
    spouts = spouts_into(sheet.garden, store)
    eave = max((roof_ground_m(sheet.garden, roof, store) + roof.eave_m for roof, _ in spouts),
               default=0.0)
    top = max(storage.base_z_m(store) + store.height_m, eave)
    low = min([store.ground_m, *(roof_ground_m(sheet.garden, roof, store)
                                 for roof, _ in spouts)])
    scale = min((BOTTOM - TOP) / max(top - low, 0.3), 230)

    def y(z: float) -> float:
        return BOTTOM - (z - low) * scale

    wide = min(storage.length_m(store) * scale, 150)
    base = storage.base_z_m(store)
    parts = [svg.rect(0, y(store.ground_m), 850, 560 - y(store.ground_m), "", fill="url(#earth)"),
             svg.path(f"M0 {y(store.ground_m):.1f}H850", "d-ground"),
             svg.rect(BARREL_X, y(base + store.height_m), wide, store.height_m * scale, "d-barrel",
                      rx=min(max(storage.SHAPES[store.shape].corner_px, 4.0),
                        store.height_m * scale / 2)),
             svg.text(BARREL_X + wide / 2, y(base + store.height_m / 2), store.name, "d-name",
                      "middle")]
    if store.stand_m > 0:
        parts.append(svg.path(f"M{BARREL_X} {y(store.ground_m):.1f}V{y(base):.1f}"
                              f"h{wide:.1f}V{y(store.ground_m):.1f}", "d-ink", stroke_width=3))
    for roof, _ in spouts[:1]:
        ground = roof_ground_m(sheet.garden, roof, store)
        parts += [svg.rect(SPOUT_X - 9, y(eave), 18, y(ground) - y(eave), "d-barrel"),
                  svg.path(f"M120 {y(eave):.1f}H{SPOUT_X + 14}", "d-ink", stroke_width=5),
                  svg.text(124, y(eave) - 10, f"gutter of {roof.name}"[:34], "d-mute")]
    parts += _ticks(sheet, marks(sheet.garden, store), y, wide)
    return svg.svg(850, 560, f"Marking out {store.name}", parts)


def _ticks(sheet: Sheet, found: tuple[Mark, ...], y: Callable[[float], float], wide: float
           ) -> list[Markup]:
    """The marks' lines with their words, pushed apart where they would overlap."""
    store = sheet.chosen_store
    parts = []
    for spout in (True, False):
        mine = sorted((m for m in found if (m.over_base_m is None) == spout),
                      key=lambda m: -m.over_ground_m)
        grounds = ([roof_ground_m(sheet.garden, roof, store)
                    for roof, _ in spouts_into(sheet.garden, store)] or [store.ground_m])
        ground = grounds[0] if spout else store.ground_m
        last = 0.0
        for mark in mine[:2] if spout else mine:
            at = y(ground + mark.over_ground_m)
            line = max(at, last + APART)
            last = line
            x0, x1 = ((SPOUT_X + 12, SPOUT_X - 30) if spout else
                      (BARREL_X + wide - 14, BARREL_X + wide + 24))
            turn, end = (14, "end") if spout else (-14, None)
            gap = -5 if spout else 5
            hole = f", hole {sheet.show(mark.drill_mm, 'bore', 0)}" if mark.drill_mm else ""
            parts += [
                svg.path(f"M{x0:.1f} {at:.1f}H{x1 + turn:.1f}L{x1:.1f} {line:.1f}",
                         "d-run" if mark.drill_mm else "d-still"),
                svg.text(x1 + gap, line + 4, sheet.show(mark.over_ground_m, "length"),
                         "d-dim d-halo", end),
                svg.text(x1 + 13 * gap, line + 4, (mark.what + hole)[:42], "d-lab d-halo", end)]
    return parts
