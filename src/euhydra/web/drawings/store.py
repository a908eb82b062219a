"""Store: the bank of barrels in elevation, with its levels, stand and load."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core import storage
from euhydra.web import svg
from euhydra.web.drawings.sheet import Sheet

MOST_DRAWN = 8


def elevation(sheet: Sheet) -> Markup:
    """Barrels on their stand, to scale: full and dead water, outlet, overflow, footing."""
    store = sheet.garden.store
    drawn = min(store.count, MOST_DRAWN)
    wide = storage.width_m(store)
    scale = min(330 / (store.stand_m + store.height_m + 0.25),
                470 / (drawn * (wide + 0.06)), 330)
    ground, left = 470.0, 210.0
    base = ground - store.stand_m * scale
    top = base - store.height_m * scale
    outlet = base - store.outlet_m * scale
    pitch = (wide + 0.06) * scale
    right = left + drawn * pitch
    parts = [svg.rect(0, ground, 850, 90, "", fill="url(#earth)"),
             svg.path(f"M0 {ground}H850", "d-ground")]
    if store.stand_m > 0:
        parts.append(svg.path(
            f"M{left - 4:.1f} {ground}V{base:.1f}H{right:.1f}V{ground}"
            + "".join(f"M{left + i * pitch:.1f} {base:.1f}V{ground}" for i in range(1, drawn)),
            "d-ink", stroke_width=3))
    for i in range(drawn):
        parts.append(_barrel(left + i * pitch, top, wide * scale, base, outlet))
    if drawn > 1:
        parts.append(svg.path(f"M{left + 8:.1f} {base - 5:.1f}H{right - 12:.1f}", "d-pipe"))
    parts += [svg.path(f"M{left - 20:.1f} {top - 40:.1f}v28h24v14", "d-pipe"),
              svg.text(left - 26, top - 46, "R from the roof", "d-mute", "end"),
              svg.path(f"M{right - 8:.1f} {top + 14:.1f}h26v{ground - top - 26:.1f}h16", "d-pipe"),
              svg.text(right + 28, top + 18, "overflow,", "d-mute"),
              svg.text(right + 28, top + 33, "to a harmless place", "d-mute"),
              svg.path(f"M{right - 10:.1f} {outlet:.1f}h44", "d-pipe"),
              svg.text(right + 40, outlet + 4, "to the beds", "d-mute")]
    parts += _dimensions(sheet, left, right, top, base, outlet, ground)
    parts += _words(sheet, left, right, ground, drawn)
    if sheet.before:
        parts += _ghost(sheet, left, right, ground, scale)
    return svg.svg(850, 560, "The barrels in elevation, to scale", parts, interactive=True)


def _ghost(sheet: Sheet, left: float, right: float, ground: float, scale: float) -> list[Markup]:
    """How the bank stood before a remedy was tried on, at the same scale."""
    old = sheet.before.garden.store if sheet.before else sheet.garden.store
    base = ground - old.stand_m * scale
    top, wide = base - old.height_m * scale, (storage.width_m(old) + 0.06) * scale
    end = min(left + min(old.count, MOST_DRAWN) * wide, right + 200)
    words = (f"before: {old.count} × {sheet.show(old.volume_l, 'volume')} on a stand of "
             f"{sheet.show(old.stand_m, 'length')}")
    return [svg.path(f"M{left - 6:.1f} {base:.1f}H{end:.1f}V{top - 6:.1f}H{left - 6:.1f}Z",
                     "d-ghost"), svg.text(244, 78, words, "ghost-text")]


def _barrel(x: float, top: float, wide: float, base: float, outlet: float) -> Markup:
    return svg.el(
        "g", svg.rect(x, top, wide, base - top, "d-barrel", rx=5),
        svg.rect(x + 2, top + 10, wide - 4, outlet - top - 10, "d-water"),
        svg.rect(x + 2, outlet, wide - 4, base - outlet - 2, "d-water", opacity=0.4),
        svg.path(f"M{x + 2:.1f} {outlet:.1f}h{wide - 4:.1f}", "d-dead"),
        svg.path(f"M{x - 2:.1f} {top:.1f}h{wide + 4:.1f}", "d-ink", stroke_width=4))


def _dimensions(sheet: Sheet, left: float, right: float, top: float, base: float, outlet: float,
                ground: float) -> list[Markup]:
    store, at = sheet.garden.store, sheet.fields.at
    path, group = f"stores/{store.id}", store.name
    middle = (base + ground) / 2
    return [
        svg.upright(left - 26, top, base),
        svg.field(left - 134, (top + base) / 2 - 30, at(f"{path}/height_m", group)),
        svg.upright(left - 26, base, ground),
        svg.field(left - 134, max(middle - 12, base + 16), at(f"{path}/stand_m", group)),
        svg.field(right + 40, outlet + 26, at(f"{path}/outlet_m", group,
                                              "outlet above base")),
        svg.path(f"M{left + 4:.1f} {ground + 26}h{right - left - 10:.1f}", "d-thin")]


def _words(sheet: Sheet, left: float, right: float, ground: float, drawn: int) -> list[Markup]:
    store, at = sheet.garden.store, sheet.fields.at
    path, group = f"stores/{store.id}", store.name
    more = f" ({drawn} drawn)" if drawn < store.count else ""
    return [
        svg.field(40, 40, at(f"{path}/count", group), width=64),
        svg.text(112, 58, "×", "d-title"),
        svg.field(130, 40, at(f"{path}/volume_l", group), width=92),
        svg.text(244, 58, f"= {sheet.show(storage.total_l(store), 'volume')}{more}, "
                 f"{sheet.show(storage.usable_l(store), 'volume')} usable", "d-name"),
        svg.text((left + right) / 2, ground + 46,
                 f"{sheet.show(storage.full_mass_kg(store), 'mass')} when full, "
                 f"{sheet.show(storage.bearing_kpa(store), 'pressure')} on the ground",
                 "d-name", "middle"),
        svg.text((left + right) / 2, ground + 66,
                 "pale water lies under the outlet and never comes out", "d-mute", "middle")]
