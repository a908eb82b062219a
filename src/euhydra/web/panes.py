"""What stands on the left of each station: its ways of looking, each a list of panes."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from markupsafe import Markup

from euhydra.core.garden.model import Bed
from euhydra.core.parts import PartLine, cut_list
from euhydra.core.stations.grow import need_by_month
from euhydra.core.stations.place import MONTHS, monthly_eto_mm
from euhydra.core.stations.prove import months_of_water
from euhydra.core.stations.push import worst_zone
from euhydra.core.stations.time import rhythm
from euhydra.web import charts
from euhydra.web.drawings import build, catch, grow, plan, push, store, time
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.fields import Field


@dataclass(frozen=True)
class Table:
    """A table: caption, heads, rows. Text cells stand left, cells in ``numbers`` right."""

    caption: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    numbers: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Links:
    """A row of choices for what the drawing shows: (address, label, chosen)."""

    label: str
    items: tuple[tuple[str, str, bool], ...]


@dataclass(frozen=True)
class Pane:
    """One thing on the left: a drawing, a chart with its table twin, a table, links, or fields."""

    drawing: Markup | None = None
    zoom: bool = False
    chart: Mapping[str, Any] | None = None
    table: Table | None = None
    twin: bool = False
    links: Links | None = None
    grid: tuple[tuple[str, tuple[Field, ...]], ...] = field(default=())
    heads: tuple[str, ...] = ()
    bar: tuple[Field, ...] = ()


@dataclass(frozen=True)
class View:
    """A way of looking at a station."""

    key: str
    label: str
    panes: Callable[[Sheet], list[Pane]]


def _bar(sheet: Sheet, *paths: tuple[str, str]) -> Pane:
    """Fields in a row over a drawing that has no place of its own for them."""
    return Pane(bar=tuple(sheet.fields.at(path, head) for path, head in paths))


def _place(sheet: Sheet) -> list[Pane]:
    site = sheet.garden.name
    return [_bar(sheet, ("site/climate/archetype", site), ("site/latitude_deg", site),
                 ("site/last_frost", site), ("site/first_frost", site)),
            Pane(chart=charts.rain_and_thirst(sheet)), Pane(twin=True, table=_climate_table(sheet))]


def _climate_table(sheet: Sheet) -> Table:
    climate, eto = sheet.garden.site.climate, monthly_eto_mm(sheet.assessment)
    return Table("Rain and thirst by month", ("Month", "Rain", "Wet days", "Low", "High",
                                              "Air takes"),
                 tuple((MONTHS[m], sheet.show(climate.rain_mm[m], "rain"),
                        f"{climate.wet_days[m]:g}", sheet.show(climate.tmin_c[m], "temperature"),
                        sheet.show(climate.tmax_c[m], "temperature"),
                        sheet.show(float(eto[m]), "rain")) for m in range(12)),
                 frozenset({1, 2, 3, 4, 5}))


def _months(sheet: Sheet) -> list[Pane]:
    names = (("rain", "rain_mm"), ("wet days", "wet_days"), ("low", "tmin_c"), ("high", "tmax_c"))
    rows = tuple((MONTHS[m], tuple(
        sheet.fields.at(f"site/climate/{key}/{m}", MONTHS[m], word) for word, key in names))
        for m in range(12))
    return [Pane(grid=rows, heads=("", "Rain", "Wet days", "Low", "High"))]


def _sizing(sheet: Sheet) -> list[Pane]:
    a, sizing = sheet.assessment, sheet.assessment.sizing
    rows = tuple((
        f"{n}{' (yours)' if i == a.own else ''}",
        sheet.show(float(sizing.size_l[:, i].sum()), "volume"),
        sheet.show(float(sizing.reliability[i]), "share"),
        sheet.show(float(sizing.day_reliability[i]), "share"),
        sheet.show(float(sizing.unmet_l[i]) / a.years, "yearly"),
        sheet.show(float(sizing.overflow_share[i]), "share"),
        sheet.show(int(sizing.longest_dry_run[i]), "days")) for i, n in enumerate(a.counts))
    rules = tuple((RULES[rule.key], sheet.show(rule.size_l, "volume"),
                   f"{rule.barrels:.1f}", sheet.show(rule.reliability, "share"))
                  for rule in a.rules)
    lacking = "Tap a year" if sheet.garden.taps else "Lacking a year"
    return [Pane(chart=charts.sizing_curve(sheet)), Pane(table=Table(
        "What each barrel buys", ("Barrels", "Usable", "Given by rain", "Days met", lacking,
                                  "Spills", "Longest dry run"), rows,
        frozenset(range(1, 7)))), Pane(table=Table(
            "What rules of thumb would have you buy", ("Rule", "Usable", "Barrels like these",
                                                       "Given by rain"), rules,
            frozenset({1, 2, 3})))]


RULES = {"five-percent": "5 % of a year's yield or need, whichever is less (EN 16941-1, recalled)",
         "dry-spell": "Bridge the usual longest dry spell at the thirstiest month's pace",
         "never-fails": "Never fail in these thirty years (sequent peak)"}


def _thirst(sheet: Sheet) -> list[Pane]:
    plots = sheet.garden.plots
    needs = [sheet.assessment.thirsts[p.id].net_by_month for p in plots]
    whole = need_by_month(sheet.assessment)
    rows = tuple((MONTHS[m], *(sheet.show(float(n[m]), "daily") for n in needs),
                  sheet.show(float(whole[m]), "daily")) for m in range(12))
    return [Pane(chart=charts.thirst_by_month(sheet)), Pane(twin=True, table=Table(
        "Need by month, after rain", ("Month", *(p.name for p in plots), "All"), rows,
        frozenset(range(1, len(plots) + 2))))]


def _section(sheet: Sheet) -> list[Pane]:
    zone = sheet.chosen_zone(worst_zone(sheet.assessment))
    base = f"/g/{sheet.garden.id}/push?view=section"
    zones = Links("Zone open", tuple(
        (f"{base}&zone={z.id}&level={sheet.level}", z.name, z.id == zone.id)
        for z in sheet.garden.zones))
    levels = Links("Water in the barrels", tuple(
        (f"{base}&zone={zone.id}&level={key}", words, key == sheet.level)
        for key, words in (("full", "full"), ("half", "half"), ("low", "the last of it"))))
    return [Pane(links=levels), Pane(links=zones), Pane(drawing=push.section(sheet))]


def _outlets(sheet: Sheet) -> list[Pane]:
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


def _week(sheet: Sheet) -> list[Pane]:
    base, month = f"/g/{sheet.garden.id}/time?view=week", time.shown_month(sheet)
    months = Links("Month", tuple((f"{base}&month={m + 1}", MONTHS[m][:3], m == month)
                                  for m in range(12)))
    return [_bar(sheet, ("timer", "Time"), ("window_h", "Time")), Pane(links=months),
            Pane(drawing=time.week(sheet))]


def _season(sheet: Sheet) -> list[Pane]:
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


def _lay(sheet: Sheet) -> list[Pane]:
    beds = [(f"plots/{p.id}/method", p.name) for p in sheet.garden.plots if isinstance(p, Bed)]
    return [_bar(sheet, *beds), Pane(drawing=plan.lay(sheet), zoom=True)]


def _tank(sheet: Sheet) -> list[Pane]:
    a = sheet.assessment
    usable = sheet.show(a.usable_l, "volume")
    rows = tuple((MONTHS[m], sheet.show(month.level_l, "volume"),
                  sheet.show(month.inflow_l, "volume"), sheet.show(month.wanted_l, "volume"),
                  sheet.show(month.unmet_l, "volume"), f"{month.short_days:.1f}")
                 for m, month in enumerate(months_of_water(a)))
    store = sheet.garden.store
    barrels = [(f"stores/{store.id}/{key}", store.name) for key in ("count", "volume_l")]
    roofs = [(f"roofs/{roof.id}/{key}", roof.name) for roof in sheet.garden.roofs[:1]
             for key in ("width_m", "depth_m")]
    return [_bar(sheet, *barrels, *roofs), Pane(chart=charts.tank_year(sheet)), Pane(table=Table(
        f"Month by month, mean of 30 years, {usable} usable",
        ("Month", "Level", "Comes in", "Wanted", "From the tap" if sheet.garden.taps
         else "Lacking", "Days short"), rows, frozenset(range(1, 6))))]


def _build(sheet: Sheet) -> list[Pane]:
    return [Pane(drawing=build.heads(sheet)), *_parts(sheet)]


def _parts(sheet: Sheet) -> list[Pane]:
    def rows(need: str) -> tuple[tuple[str, ...], ...]:
        return tuple((p.name, _quantity(sheet, p), p.reason)
                     for p in sheet.assessment.parts if p.need == need)

    heads = ("Part", "How many", "Why")
    return [Pane(table=Table("Must have", heads, rows("must"), frozenset({1}))),
            Pane(table=Table("Optional", heads, rows("optional"), frozenset({1})))]


def _cuts(sheet: Sheet) -> list[Pane]:
    rows = tuple((cut.tube, sheet.show(cut.length_m, "length"), str(cut.pieces), cut.where)
                 for cut in cut_list(sheet.garden, sheet.assessment.library))
    return [Pane(table=Table("Cut list, true lengths", ("Pipe", "Length", "Pieces", "For"), rows,
                             frozenset({1, 2})))]


def _quantity(sheet: Sheet, part: PartLine) -> str:
    if part.sold_by == "metre":
        return sheet.show(part.quantity, "length", 0)
    return f"{part.quantity:g}"


VIEWS: dict[str, tuple[View, ...]] = {
    "place": (View("year", "Rain against thirst", _place), View("months", "Twelve months",
                                                                _months)),
    "catch": (View("roofs", "Roofs and storm",
                   lambda s: [Pane(drawing=catch.roofs(s))]),),
    "store": (View("bank", "The barrels", lambda s: [Pane(drawing=store.elevation(s))]),
              View("sizing", "One barrel to many", _sizing)),
    "grow": (View("plots", "Beds and pots", lambda s: [Pane(drawing=grow.plots(s))]),
             View("thirst", "Thirst through the year", _thirst)),
    "lay": (View("plan", "Ground plan", _lay),),
    "push": (View("section", "Section", _section), View("outlets", "Every outlet", _outlets)),
    "time": (View("week", "The week", _week), View("season", "Month by month", _season)),
    "prove": (View("tank", "The barrels through the year", _tank),),
    "build": (View("parts", "Heads and parts", _build), View("cuts", "Cut list", _cuts)),
}
