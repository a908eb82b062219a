"""Push's section, its source: roof, barrels with their handle, tap."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.garden.model import Roof, Standpipe, Store, Well
from euhydra.core.hydraulics import surfaces
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.web import svg
from euhydra.web.drawings.push_sheet import BOTTOM, HEAD_STEP, LEFT, SOURCE_X, TOP, WAY_X
from euhydra.web.sheet import Sheet

SHAFT_PX = 44.0
MOST_OVER_M = 4.0  # heads that reach farther over the garden than this leave the sheet


@dataclass(frozen=True)
class SectionView:
    """From metres along the pipe and metres up to the sheet, each with a scale of its own."""

    x_scale: float
    z0: float
    z_scale: float
    head_px: float

    def x(self, along_m: float) -> float:
        """Past the head assembly, which takes room of its own."""
        return WAY_X + (self.head_px if along_m > 0 else 0.0) + along_m * self.x_scale

    def y(self, up_m: float) -> float:
        """No higher than the sheet."""
        return max(BOTTOM - (up_m - self.z0) * self.z_scale, TOP - 24)


def roofs_of(sheet: Sheet, source: Store | Standpipe) -> list[Roof]:
    """The first roof that is led to that store, if any."""
    return [roof for roof in sheet.garden.roofs
            if any(spout.to == source.id for spout in roof.downspouts)][:1]


def draw_roof(sheet: Sheet, view: SectionView, source: Store | Standpipe) -> list[Markup]:
    """The roofs that are led to a source, at their eaves."""
    parts: list[Markup] = []
    for roof in roofs_of(sheet, source):
        ground, eave = source.ground_m, view.y(source.ground_m + roof.eave_m)
        ridge, floor = view.y(ground + roof.eave_m + 0.3), view.y(ground)
        top = view.y(source.ground_m + source.height_m
                     + (source.stand_m if isinstance(source, Store) else 0)) - 3
        parts += [svg.path(f"M68 {floor:.1f}V{ridge:.1f}L150 {eave:.1f}V{floor:.1f}Z", "d-wall"),
                  svg.path(f"M62 {ridge - 2:.1f}L158 {eave - 2:.1f}", "d-ink", stroke_width=5),
                  svg.path(f"M158 {eave:.1f}v10H{SOURCE_X - 14:.1f}V{max(top, eave + 10):.1f}",
                           "d-pipe"),
                  svg.text(74, (eave + floor) / 2 - 14, svg.clipped(roof.name, 13), "d-mute")]
    return parts


def draw_barrels(sheet: Sheet, view: SectionView, store: Store, flow: ZoneFlow, *,
                 still: bool) -> list[Markup]:
    """A store's vessels with their water, and its handle unless the drawing is ``still``."""
    base_z = storage.base_z_m(store)
    base, top, ground = view.y(base_z), view.y(base_z + store.height_m), view.y(store.ground_m)
    water, outlet = view.y(flow.water_z_m), view.y(storage.outlet_z_m(store))
    drawn = min(store.count, 3)
    wide = 66.0 / max(drawn, 2)
    left = SOURCE_X - drawn * (wide + 3)
    parts: list[Markup] = []
    fill = "d-grey-fill" if sheet.garden.drum_of(store.id) else "d-water"
    for i in range(drawn):
        x = left + i * (wide + 3)
        parts += [svg.rect(x, top, wide, base - top, "d-barrel", rx=4),
                  svg.rect(x + 1, water, wide - 2, base - water - 1, fill, rx=3),
                  svg.path(f"M{x + 1:.1f} {outlet:.1f}h{wide - 2:.1f}", "d-dead")]
    if store.stand_m > 0:
        parts.append(svg.path(f"M{left:.1f} {ground:.1f}V{base:.1f}H{SOURCE_X:.1f}V{ground:.1f}",
                              "d-ink", stroke_width=3))
    said = min(top, water - 46)  # over the lines of standing and running water
    parts += [svg.text(_told_x(sheet, store), said + 2,
                       f"{store.count} × {sheet.show(store.volume_l, 'volume')}",
                       "d-lab d-halo"), svg.upright(left - 8, base, ground)]
    middle = (base + ground) / 2
    if still:
        parts.append(svg.text(left - 14, middle + 4, sheet.show(store.stand_m, "length"), "d-dim",
                              "end"))
        return parts
    stand = sheet.fields.at(f"{sheet.garden.source_path(store.id)}/stand_m", store.name)
    return [*parts, svg.field(max(left - 96, LEFT + 4), middle - 13, stand),
            _handle(sheet, view, store, flow, left, said, water)]


def _told_x(sheet: Sheet, store: Store) -> float:
    """Where the words beside a store begin: clear of the line that climbs at a pump."""
    lift = sheet.garden.lift_on(store.id)
    if lift is None:
        return SOURCE_X + 7
    sunk = sheet.assessment.library.pumps[lift.kind].family == "submersible"
    return WAY_X + HEAD_STEP * (1 if sunk else 2) + 4


def _handle(sheet: Sheet, view: SectionView, store: Store, flow: ZoneFlow, left: float, said: float,
            water: float) -> Markup:
    """The water's surface on a handle: drawn down or up, the zone's flow follows."""
    full, low = (surfaces.level_at(sheet.garden, store.id, share) for share in (1.0, 0.0))
    usable = storage.bank_of(sheet.garden, store.id).usable_l
    share = round(100 * sheet.water_share)
    words = (f"{sheet.show(usable * sheet.water_share, 'volume')} of "
             f"{sheet.show(usable, 'volume')} usable")
    return svg.el(
        "g", svg.path(f"M{left - 8:.1f} {water:.1f}H{SOURCE_X + 8:.1f}", "d-surface"),
        svg.el("circle", cx=left - 14, cy=water, r=20, class_="d-grip"),
        svg.el("circle", cx=left - 14, cy=water, r=8, class_="d-handle"),
        svg.text(_told_x(sheet, store), said + 19, words, "d-dim d-halo"),
        svg.text(_told_x(sheet, store), said + 36, f"gives {sheet.show(flow.flow_l_h, 'flow')}",
                 "d-lab d-halo d-gives"),
        class_="water-handle", data_water="1", data_full=f"{view.y(full):.1f}",
        data_low=f"{view.y(low):.1f}", tabindex="0", role="slider",
        aria_label=f"Water in {store.name}", aria_valuemin="0", aria_valuemax="100",
        aria_valuenow=str(share), aria_valuetext=words)


def draw_tap(view: SectionView, tap: Standpipe) -> list[Markup]:
    """A tap on its post; that of a well on its shaft, with the water that its pump draws."""
    ground, top = view.y(tap.ground_m), view.y(tap.ground_m + tap.height_m)
    if isinstance(tap, Well):
        shaft = SOURCE_X - 12
        return [svg.rect(shaft - 22, ground, 44, SHAFT_PX, "d-barrel"),
                svg.rect(shaft - 21, ground + SHAFT_PX / 2, 42, SHAFT_PX / 2 - 1, "d-water"),
                svg.path(f"M{shaft:.1f} {ground + SHAFT_PX - 6:.1f}V{top:.1f}H{WAY_X:.1f}",
                         "d-pipe d-pipe-well"),
                svg.text(SOURCE_X - 20, top - 8, f"W {tap.name}", "d-lab d-halo", "end")]
    return [svg.path(f"M{SOURCE_X - 12:.1f} {ground:.1f}V{top:.1f}H{WAY_X:.1f}",
                     "d-pipe d-pipe-tap"),
            svg.text(SOURCE_X - 20, top - 8, f"T {tap.name}", "d-lab d-halo", "end")]
