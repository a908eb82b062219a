"""Panes of the stations from Grow to Build."""

from __future__ import annotations

import math

from euhydra.core.garden.model import Bed
from euhydra.core.parts import PartLine, cut_list
from euhydra.core.stations.grow import need_by_month
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.prove import months_of_water
from euhydra.core.stations.push import worst_zone
from euhydra.core.stations.time import rhythm
from euhydra.web import charts
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import grow as draw_grow
from euhydra.web.drawings import plan, push
from euhydra.web.drawings import time as draw_time
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Links, Pane, Table, bar


def plots(sheet: Sheet) -> list[Pane]:
    """The beds and pots."""
    return [Pane(drawing=draw_grow.plots(sheet))]


def thirst(sheet: Sheet) -> list[Pane]:
    """What the plots drink, month by month."""
    plots = sheet.garden.plots
    needs = [sheet.assessment.thirsts[p.id].net_by_month for p in plots]
    whole = need_by_month(sheet.assessment)
    rows = tuple((MONTHS[m], *(sheet.show(float(n[m]), "daily") for n in needs),
                  sheet.show(float(whole[m]), "daily")) for m in range(12))
    return [Pane(chart=charts.thirst_by_month(sheet)), Pane(twin=True, table=Table(
        "Need by month, after rain", ("Month", *(p.name for p in plots), "All"), rows,
        frozenset(range(1, len(plots) + 2))))]


def section(sheet: Sheet) -> list[Pane]:
    """The section, with a zone and a water level to choose."""
    zone = sheet.chosen_zone(worst_zone(sheet.assessment))
    base = f"/g/{sheet.garden.id}/push?view=section"
    zones = Links("Zone open", tuple(
        (f"{base}&zone={z.id}&level={sheet.level}", z.name, z.id == zone.id)
        for z in sheet.garden.zones))
    levels = Links("Water in the barrels", tuple(
        (f"{base}&zone={zone.id}&level={key}", words, key == sheet.level)
        for key, words in (("full", "full"), ("half", "half"), ("low", "the last of it"))))
    tapped = sheet.garden.tap_of(zone.source) is not None
    return [*([] if tapped else [Pane(links=levels)]), Pane(links=zones),
            Pane(drawing=push.section(sheet))]


def outlets(sheet: Sheet) -> list[Pane]:
    """Every plot's outlets."""
    rows = []
    for zone in sheet.garden.zones:
        levels = sheet.assessment.flows[zone.id]
        for plot_id in zone.plots:
            here = {k: [o for o in f.outlets if o.plot == plot_id] for k, f in levels.items()}
            half = [o.flow_l_h / o.each for o in here["half"]]
            rows.append((sheet.garden.plot(plot_id).name, str(sum(o.each for o in here["half"])),
                         sheet.show(min(half), "flow", 2), sheet.show(max(half), "flow", 2),
                         sheet.show(min(o.head_m for o in here["low"]), "head"),
                         sheet.show(here["low"][0].least_head_m, "head"),
                         *(sheet.show(levels[k].plot_flow_l_h(plot_id), "flow")
                           for k in ("full", "half", "low"))))
    return [Pane(table=Table(
        "Every plot's outlets; least and most with the barrels half full",
        ("Plot", "Outlets", "Least", "Most", "Least head, last water", "Needs", "All, full",
         "half", "last water"), tuple(rows), frozenset(range(1, 9))))]


def week(sheet: Sheet) -> list[Pane]:
    """The week of a month."""
    base, month = f"/g/{sheet.garden.id}/time?view=week", draw_time.shown_month(sheet)
    months = Links("Month", tuple((f"{base}&month={m + 1}", MONTHS[m][:3], m == month)
                                  for m in range(12)))
    return [bar(sheet, ("timer", "Time"), ("window_h", "Time")), Pane(links=months),
            Pane(drawing=draw_time.week(sheet))]


def season(sheet: Sheet) -> list[Pane]:
    """Every zone and month on the garden's timer and on the other style with the same valve."""
    own, library = sheet.garden.timer, sheet.assessment.library
    other = library.timer_like(
        own, style="weekday" if library.timers[own].style == "dial" else "dial")
    panes = []
    for key in (own, other):
        timer, rows = library.timers[key], []
        for zone in sheet.garden.zones:
            for s in sheet.assessment.settings_on(key)[zone.id]:
                exact = sheet.show(s.exact_min, "minutes") if math.isfinite(s.exact_min) else "–"
                over = (f"{'+' if s.left_over_l_week > 0 else ''}"
                        f"{sheet.show(s.left_over_l_week, 'drop')}"
                        if math.isfinite(s.left_over_l_week) else "no flow")
                rows.append((MONTHS[s.month], zone.name, rhythm(s), exact,
                             sheet.show(s.minutes, "minutes") + ("" if s.fits else ", too short"),
                             over))
        rows.sort(key=lambda r: MONTHS.index(r[0]))
        yours = "yours" if key == own else "for comparison"
        panes.append(Pane(table=Table(
            f"{timer.name} ({yours})", ("Month", "Zone", "Rhythm", "Wanted", "Set to",
                                        "Left over a week"), tuple(rows), frozenset({3, 4, 5}))))
    return panes


def lay(sheet: Sheet) -> list[Pane]:
    """The ground plan."""
    beds = [(f"plots/{p.id}/method", p.name) for p in sheet.garden.plots if isinstance(p, Bed)]
    return [bar(sheet, *beds), Pane(drawing=plan.lay(sheet), zoom=True)]


def tank(sheet: Sheet) -> list[Pane]:
    """The stores through the year."""
    a = sheet.assessment
    usable = sheet.show(a.usable_l, "volume")
    rows = tuple((MONTHS[m], sheet.show(month.level_l, "volume"),
                  sheet.show(month.inflow_l, "volume"), sheet.show(month.wanted_l, "volume"),
                  sheet.show(month.unmet_l, "volume"), f"{month.short_days:.1f}")
                 for m, month in enumerate(months_of_water(a)))
    fields = [sheet.fields.at(f"stores/{s.id}/{key}", s.name, f"{s.name}: {word}")
              for s in sheet.garden.stores[:2] for key, word in (("count", "how many"),
                                                                 ("volume_l", "volume"))]
    fields += [sheet.fields.at(f"roofs/{roof.id}/{key}", roof.name)
               for roof in sheet.garden.roofs[:1] for key in ("width_m", "depth_m")]
    return [Pane(bar=tuple(fields)), Pane(chart=charts.tank_year(sheet)), Pane(table=Table(
        f"Month by month, mean of {a.years} years, {usable} usable",
        ("Month", "Level", "Comes in", "Wanted", "From the tap" if sheet.garden.taps
         else "Lacking", "Days short"), rows, frozenset(range(1, 6))))]


def build(sheet: Sheet) -> list[Pane]:
    """Head assemblies and parts."""
    return [Pane(drawing=draw_build.heads(sheet)), *_parts(sheet)]


def _parts(sheet: Sheet) -> list[Pane]:
    def rows(need: str) -> tuple[tuple[str, ...], ...]:
        return tuple((p.name, _quantity(sheet, p), p.reason)
                     for p in sheet.assessment.parts if p.need == need)

    heads = ("Part", "How many", "Why")
    return [Pane(table=Table("Must have", heads, rows("must"), frozenset({1}))),
            Pane(table=Table("Optional", heads, rows("optional"), frozenset({1})))]


def cuts(sheet: Sheet) -> list[Pane]:
    """The cut list."""
    rows = tuple((cut.tube, sheet.show(cut.length_m, "length"), str(cut.pieces), cut.where)
                 for cut in cut_list(sheet.garden, sheet.assessment.library))
    return [Pane(table=Table("Cut list, true lengths", ("Pipe", "Length", "Pieces", "For"), rows,
                             frozenset({1, 2})))]


def _quantity(sheet: Sheet, part: PartLine) -> str:
    if part.sold_by == "metre":
        return sheet.show(part.quantity, "length", 0)
    return f"{part.quantity:g}"
