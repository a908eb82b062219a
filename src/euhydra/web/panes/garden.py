"""Panes of the stations from Time to Build."""

from __future__ import annotations

import math

from euhydra.core.parts import PartLine, cut_list
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.prove import months_of_water
from euhydra.core.stations.time import rhythm
from euhydra.web import charts
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import time as draw_time
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Links, Pane, Table, bar


def week(sheet: Sheet) -> list[Pane]:
    """The week of a month."""
    base, month = f"/g/{sheet.garden.id}/time?view=week", draw_time.shown_month(sheet)
    months = Links("Month", tuple((f"{base}&month={m + 1}", MONTHS[m][:3], m == month)
                                  for m in range(12)))
    return [bar(sheet, *((key, "Time") for key in ("timer", "window_h", "rain_hold_mm"))),
            Pane(links=months),
            Pane(drawing=draw_time.week(sheet))]


def season(sheet: Sheet) -> list[Pane]:
    """Every zone and month on the garden's timer and on the other style with the same valve."""
    own, library = sheet.garden.timer, sheet.assessment.library
    other = library.timer_like(
        own, style="weekday" if library.timers[own].style == "dial" else "dial")
    panes = []
    for key in dict.fromkeys((own, other)):
        timer, rows = library.timers[key], []
        for zone in sheet.assessment.timed_zones:
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
