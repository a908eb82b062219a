"""Panes of Time: the week, the zones, month by month, the cards."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from euhydra.core import parsing
from euhydra.core.garden.model import Zone
from euhydra.core.layout.heads import nothing_waits
from euhydra.core.layout.zoning import parted_by
from euhydra.core.schedule import seasonal_adjust
from euhydra.core.schedule.calendar import clock
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Setting
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.shares import shares
from euhydra.web.drawings import time as draw_time
from euhydra.web.drawings import zones as draw_zones
from euhydra.web.panes.base import Form, Links, Pane, Table, bar, kinds_of_timers
from euhydra.web.sheet import Sheet

RAINS_MM = (5.0, 10.0, 20.0)
MOST_RAIN_MM = 300.0
HOLD_H = 12.0  # not worth a walk to the timer under this, from memory


def week(sheet: Sheet) -> list[Pane]:
    """The week of a month."""
    base, month = f"/g/{sheet.garden.id}/time?view=week", sheet.shown_month
    months = Links("Month", tuple((f"{base}&month={m + 1}", MONTHS[m][:3], m == month)
                                  for m in range(12)))
    whole = ((key, "Time") for key in ("every_days", "longer", "rain_hold_mm"))
    return [Pane(links=months), bar(sheet, *kinds_of_timers(sheet.garden), *whole),
            Pane(drawing=draw_time.week(sheet)), Pane(twin=True, table=_week(sheet, month))]


def _week(sheet: Sheet, month: int) -> Table:
    """When each zone opens in a week of a month, and for how long."""
    schedule, rows = sheet.assessment.schedule, []
    for zone in sheet.assessment.garden.timed_zones:
        setting = schedule.setting_in(zone.id, month)
        rows.append((zone.name, *((rhythm(setting), clock(
            schedule.first_hours[zone.id, month]), sheet.show(setting.minutes, "minutes"))
            if setting else ("no water this month", "–", "–"))))
    return Table(f"A week in {MONTHS[month]}", ("Zone", "Opens", "First", "For"), tuple(rows),
                 frozenset({2, 3}))


def zones(sheet: Sheet) -> list[Pane]:
    """Zones on the plan, why each stands apart, and what each plot gets of its wish."""
    a, garden = sheet.assessment, sheet.garden
    month = sheet.shown_month
    rows, given = [], []
    for i, zone in enumerate(garden.zones, start=1):
        flow = sheet.show(a.flows[zone.id]["half"].flow_l_h, "flow")
        rows.append((zone.name, flow, _apart(sheet, zone)))
        of_wish = shares(a, zone, month) if zone.timed else {}
        given += [(garden.plot(p).name, str(i), f"{100 * of_wish[p]:.0f} %" if p in of_wish
                   else "–", *_own(sheet, p, month)) for p in zone.plots]
    return [Pane(drawing=draw_zones.plan(sheet)),
            Pane(words="Drag a plot to another to open with it; what that costs shows beside. Drag "
                 "it to free ground and it is watered with plots like it."),
            Pane(bar=tuple(sheet.fields.at(f"plots/{p.id}/opens_with", "", f"{p.name} with")
                           for p in garden.plots[:24])),
            Pane(words="Catch what an outlet gives, or read the meter, and type each zone's flow: "
                 "runs then go by it, and Time says how far off the reckoning was. 0 is not read."),
            Pane(bar=tuple(sheet.fields.at(f"zones/{z.id}/read_l_h", "", f"{i} gives")
                           for i, z in enumerate(garden.zones[:24], start=1))),
            Pane(table=Table("Why each zone opens by itself", (
                "Zone", "Flow", "Parted by"), tuple(rows), frozenset({1}))),
            Pane(table=Table(f"What each plot gets of its wish, {MONTHS[month]}", (
                "Plot", "Zone", "Gets", "Wants", "You say you give"), tuple(given),
                frozenset({1, 2, 3, 4})))]


def _own(sheet: Sheet, plot: str, month: int) -> tuple[str, str]:
    """What a plot wants a day, and what its gardener says they give, as a check."""
    need = sheet.assessment.demand.thirsts[plot]
    own = sheet.assessment.own_l_day(sheet.garden.plot(plot))
    return (sheet.show(float(need.net_by_month[month]), "daily"),
            sheet.show(own, "daily") if own > 0 else "–")


def _apart(sheet: Sheet, zone: Zone) -> str:
    """What parts a zone from each other one, the like together."""
    garden, library = sheet.garden, sheet.assessment.library
    first = garden.plot(zone.plots[0])
    found: dict[str, list[str]] = {}
    for i, other in enumerate(garden.zones, start=1):
        if other.id != zone.id:
            why = parted_by(garden, library, first, garden.plot(other.plots[0]))
            found.setdefault(" and ".join(why), []).append(str(i))
    return "; ".join(f"{why} (from {', '.join(others)})" for why, others in found.items()) or "–"


def season(sheet: Sheet) -> list[Pane]:
    """Every zone and month on its own timer and on the other style with the same valve."""
    a, library = sheet.assessment, sheet.assessment.library
    if not a.garden.timed_zones:
        return [Pane(words=nothing_waits(a.garden))]
    panes = [_spells(sheet), *_after_rain(sheet)]
    for kind in dict.fromkeys(a.garden.timer_kind(z) for z in a.garden.timed_zones):
        mine = [z for z in a.garden.timed_zones if a.garden.timer_kind(z) == kind]
        panes.append(_by_month(sheet, f"{library.timers[kind].name} (yours)",
                               {z: a.schedule.settings[z.id] for z in mine}))
        other = library.timer_like(
            kind, style="weekday" if library.timers[kind].style == "dial" else "dial")
        if other != kind:
            row = library.timers[other]
            panes.append(_by_month(sheet, f"{row.name} (for comparison)",
                                   {z: a.schedule.on(z, row) for z in mine}))
    return panes


def _by_month(sheet: Sheet, caption: str, settings: Mapping[Zone, Sequence[Setting]]) -> Pane:
    rows = []
    for zone, those in settings.items():
        for s in those:
            exact = sheet.show(s.exact_min, "minutes") if math.isfinite(s.exact_min) else "–"
            over = (f"{'+' if s.left_over_l_week > 0 else ''}"
                    f"{sheet.show(s.left_over_l_week, 'drop')}"
                    if math.isfinite(s.left_over_l_week) else "no flow")
            rows.append((MONTHS[s.month], zone.name, rhythm(s), exact,
                         sheet.show(s.minutes, "minutes") + ("" if s.fits else ", too short"),
                         over))
    rows.sort(key=lambda r: MONTHS.index(r[0]))
    return Pane(table=Table(caption, ("Month", "Zone", "Rhythm", "Wanted", "Set to",
                                      "Left over a week"), tuple(rows), frozenset({3, 4, 5})))


def _spells(sheet: Sheet) -> Pane:
    """What to do when it is not the month's mean."""
    a, month = sheet.assessment, sheet.shown_month
    rows = []
    for zone in a.garden.timed_zones:
        setting = a.schedule.setting_in(zone.id, month)
        if setting is None:
            rows.append((zone.name, "off", *"–" * (2 + len(RAINS_MM))))
            continue
        first = seasonal_adjust.first_weeks_min(a.schedule, zone, month)
        held = [seasonal_adjust.hold_after_rain_h(a.demand, zone, mm, month) for mm in RAINS_MM]
        rows.append((zone.name, rhythm(setting),
                     sheet.show(first, "minutes") if math.isfinite(first) else "no flow",
                     sheet.show(seasonal_adjust.heat_wave_min(a.demand, zone, setting), "minutes"),
                     *(f"{delay} h" if delay else "no hold"
                       for delay in map(seasonal_adjust.delay_h, held))))
    return Pane(table=Table(f"When it is not the mean, {MONTHS[month]}", (
        "Zone", "Rhythm", "First two weeks, daily", "Heat wave, a run",
        *(f"Hold after {sheet.show(mm, 'rain')}" for mm in RAINS_MM)), tuple(rows),
        frozenset(range(2, 7))))


@dataclass(frozen=True)
class Rained(Form):
    """What was typed as fallen, and why it cannot be; ``month`` from 1."""

    template = "_rained.html"
    typed: str
    why: str
    month: int


def _after_rain(sheet: Sheet) -> list[Pane]:
    """How long each zone can stay shut after the rain that fell; asked for in its own words."""
    a, month, why, fell = sheet.assessment, sheet.shown_month, "", 0.0
    if sheet.rained:
        try:
            fell = parsing.parse(sheet.rained, "rain", sheet.system)
        except parsing.BadEntry as error:
            why = error.why
        if not why and not 0 <= fell <= MOST_RAIN_MM:
            why = (f"“{sheet.rained}” is out of reach. Type from 0 to "
                   f"{sheet.show(MOST_RAIN_MM, 'rain')}.")
    panes = [Pane(form=Rained(sheet.rained, why, month + 1))]
    if not sheet.rained or why:
        return panes
    rows = []
    for zone in a.garden.timed_zones:
        dial = a.schedule.row(zone).style == "dial"
        hours = seasonal_adjust.hold_after_rain_h(a.demand, zone, fell, month)
        if a.schedule.setting_in(zone.id, month) is None:
            rows.append((zone.name, "–", "off this month"))
            continue
        delay = seasonal_adjust.delay_h(hours)
        rows.append((zone.name, sheet.show(hours, "hours") if hours else "not at all",
                     (f"delay {delay} h" if delay else "no delay: leave it on") if dial else
                     "shut until then" if hours >= HOLD_H
                     else "leave it on"))
    return [*panes, Pane(table=Table(
        f"After {sheet.show(fell, 'rain')} of rain, {MONTHS[month]}",
        ("Zone", "Roots can wait", "On your timer"), tuple(rows), frozenset({1})))]


