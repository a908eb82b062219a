"""Store: where a shower's overflow goes, and the section through wet ground with its plan."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.garden.model import RainGarden, WetArea
from euhydra.core.hydraulics import drainage
from euhydra.core.stations.overflows import spills_out
from euhydra.core.storage.storm import Spill
from euhydra.web import svg
from euhydra.web.sheet import Sheet

WIDTH, ROW = 850.0, 190.0
GOALS = {"nowhere": "nowhere yet", "border": "a border or lawn",
         "drain": "a storm drain, with leave", "neighbour": "a neighbour's ground",
         "rain-garden": "the rain garden"}


def courses(sheet: Sheet) -> Markup:
    """One row for each store that spills out of the stores, and one for each wet area."""
    rows = [_course(sheet, spill, 30 + i * ROW)
            for i, spill in enumerate(spills_out(sheet.assessment))]
    y = 30 + ROW * len(rows)
    for wet in sheet.garden.wet_areas:
        rows.append(_wet(sheet, wet, y))
        y += ROW + 30
    return svg.svg(WIDTH, max(y, 60), "Where the overflow goes", rows)


def _course(sheet: Sheet, spill: Spill, y: float) -> Markup:
    """The store, its overflow pipe, and what takes a shower."""
    store, area = spill.store, spill.area_m2
    ground = y + 130
    parts = [svg.rect(0, ground, WIDTH, 36, "", fill="url(#earth)"),
             svg.path(f"M0 {ground}H{WIDTH}", "d-ground"),
             svg.rect(60, ground - 96, 62, 96, "d-barrel", rx=4),
             svg.rect(61, ground - 86, 60, 85, "d-water"),
             svg.path(f"M122 {ground - 86}h26v78H400", "d-over"),
             svg.text(60, ground - 106, store.name, "d-name"),
             svg.text(170, ground - 92, f"a shower of {sheet.show(drainage.SHOWER_MM, 'rain')} "
                      f"in an hour, all full: {sheet.show(drainage.shower_l(area), 'volume')}",
                      "d-lab"),
             svg.text(170, ground - 74, "runs out at up to "
                      f"{sheet.show(drainage.outflow_m_s(store), 'speed')}: end it on stones",
                      "d-mute"),
             *(svg.el("circle", cx=406 + 9 * i, cy=ground - 4, r=4.5, class_="d-white")
               for i in range(5))]
    hollow = next(iter(sheet.garden.rain_gardens), None)
    if store.overflow_to == "rain-garden" and hollow:
        parts += _hollow(sheet, hollow, area, ground)
    else:
        parts.append(svg.text(470, ground - 14, f"to {GOALS[store.overflow_to]}", "d-name"))
    return svg.el("g", *parts)


def _hollow(sheet: Sheet, hollow: RainGarden, area: float, ground: float) -> list[Markup]:
    """The hollow in section, its length to scale with the length it needs."""
    soil = sheet.assessment.library.soils[hollow.soil]
    need = drainage.rain_garden_m2(drainage.shower_l(area), hollow.depth_m, soil.soaks_mm_h)
    there = sum(g.length_m * g.width_m for g in sheet.garden.rain_gardens)
    scale = 330 / max(there, need, 0.1)
    x, wide, deep = 470.0, there * scale, 26.0
    dry = drainage.soaks_away_h(hollow, sheet.assessment.library)
    takes = f"{hollow.name}: {sheet.show(there, 'area')}, needs {sheet.show(need, 'area')}"
    return [svg.path(f"M{x} {ground}c8 0 8 {deep} 20 {deep}h{max(wide - 40, 4):.1f}"
                     f"c12 0 12 {-deep} 20 {-deep}Z", "d-water"),
            svg.path(f"M{x} {ground + deep + 8}h{need * scale:.1f}m0 -6v12"
                     f"M{x} {ground + deep + 2}v12", "d-run" if need > there else "d-thin"),
            svg.text(x, ground - 46, takes, "d-name"),
            svg.text(x, ground - 29, f"dry again after {sheet.show(dry, 'hours', 0)}", "d-mute"),
            *(svg.leaf(x + 30 + i * 34, ground + 4, 20) for i in range(min(int(wide / 40), 10)))]


def _wet(sheet: Sheet, wet: WetArea, y: float) -> Markup:
    """Wet ground in section: the flood, then a drain that falls or gravel, a sump and a pump."""
    plan = drainage.wet_plan(wet, sheet.assessment.library)
    ground, x0, x1 = y + 90, 60.0, 400.0
    fall = 0.0 if plan.way == "pump" else 26.0
    parts = [svg.text(x0, y + 10, f"{wet.name}: {sheet.show(plan.stands_l, 'volume')} stand there",
                      "d-name"),
             svg.path(f"M0 {ground}H{x1 + 60}L{WIDTH} {ground + fall}V{ground + 86}H0Z", "",
                      fill="url(#earth)"),
             svg.rect(x0, ground - 12, x1 - x0, 12, "d-water", opacity=0.5),
             svg.path(f"M0 {ground}H{x1 + 60}L{WIDTH} {ground + fall}", "d-ground"),
             svg.across(x0, x1, ground - 26),
             svg.text((x0 + x1) / 2, ground - 32, f"{sheet.show(wet.length_m, 'length')} × "
                      f"{sheet.show(wet.width_m, 'length')}, "
                      f"{sheet.show(wet.flood_m, 'small')} deep", "d-dim", "middle")]
    way = sheet.show(wet.outfall_m, "length", 0)
    if plan.way == "soaks":
        soaks = sheet.show(plan.soaks_h, "hours", 0)
        parts.append(svg.text(x0, ground + 40, f"soaks away in {soaks}", "d-lab d-halo-earth"))
    elif plan.way == "drain":
        parts += [svg.path(f"M{x0} {ground + 22}H{x1}L{WIDTH - 30} {ground + 22 + fall}", "d-over",
                           stroke_width=5),
                  svg.text(x1 + 20, ground + 72, "perforated drain "
                           f"{sheet.show(plan.drain_mm, 'bore', 0)}, falls "
                           f"{sheet.show(wet.fall_m, 'length')} over {way}",
                           "d-lab d-halo-earth")]
    else:
        parts += _pumped(sheet, plan, ground, x0, x1, way)
    return svg.el("g", *parts)


def _pumped(sheet: Sheet, plan: drainage.WetPlan, ground: float, x0: float, x1: float, way: str
            ) -> list[Markup]:
    return [svg.rect(x0, ground, x1 - x0, 14, "d-mulch"),
            svg.rect(x1, ground, 44, 66, "d-barrel"),
            svg.rect(x1 + 1, ground + 30, 42, 35, "d-water"),
            svg.el("circle", cx=x1 + 22, cy=ground + 54, r=8, class_="d-white"),
            svg.path(f"M{x1 + 22} {ground + 46}V{ground - 18}H{WIDTH - 30}v12", "d-pipe"),
            svg.text(x0 + 8, ground + 32, f"gravel, {sheet.show(1000 * plan.gravel_m3, 'yearly')}",
                     "d-lab d-halo-earth"),
            svg.text(x1 + 54, ground + 40, f"sump of {sheet.show(plan.sump_l, 'volume')} between "
                     "starts, shut with a lid", "d-lab d-halo-earth"),
            svg.text(x1 + 54, ground - 26, f"pump {sheet.show(plan.flow_l_h, 'flow', 0)} at "
                     f"{sheet.show(plan.head_m, 'length', 1)}, {way} to the outfall", "d-lab")]
