"""Place's panes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from markupsafe import Markup

from euhydra.core.daily.year import named_years
from euhydra.core.stations.place import (
    MONTHS,
    eto_both_mm,
    monthly_eto_mm,
    monthly_means,
    sampling_error_mm,
    year_name,
)
from euhydra.core.weather.columns import UNITS
from euhydra.core.weather.gaps import RULE
from euhydra.core.weather.water_year import in_water_years
from euhydra.web import charts
from euhydra.web.drawings import place
from euhydra.web.panes.base import Form, Pane, Paste, Table, bar
from euhydra.web.sheet import Sheet

NEAR_CLIMATES = 6  # of which one is likely to fit


def year(sheet: Sheet) -> list[Pane]:
    """Rain against thirst by month."""
    site = sheet.garden.name
    fields = ("latitude_deg", "altitude_m", "soil", "last_frost", "first_frost")
    return [bar(sheet, *((f"site/{key}", site) for key in fields)),
            Pane(chart=charts.rain_and_thirst(sheet)), Pane(twin=True, table=_climate_table(sheet))]


def _climate_table(sheet: Sheet) -> Table:
    climate, eto = sheet.garden.site.climate, monthly_eto_mm(sheet.assessment)
    both = eto_both_mm(sheet.assessment)
    heads = ("Month", "Rain", "Wet days", "Low", "High", "Air takes", *(both or ()))
    return Table("Rain and thirst by month", heads, tuple(
        (MONTHS[m], sheet.show(climate.rain_mm[m], "rain"), f"{climate.wet_days[m]:g}",
         sheet.show(climate.tmin_c[m], "temperature"),
         sheet.show(climate.tmax_c[m], "temperature"), sheet.show(float(eto[m]), "rain"),
         *(sheet.show(float(x[m]), "rain") for x in (both or {}).values())) for m in range(12)),
                 frozenset(range(1, len(heads))))


@dataclass(frozen=True)
class ClimateCard:
    """A climate to pick."""

    key: str
    name: str
    chosen: bool
    latitude: str
    rain: str
    drawing: Markup


@dataclass(frozen=True)
class Climates(Form):
    """The climates to pick from, the nearest by latitude first."""

    template = "_climates.html"
    cards: Sequence[ClimateCard]
    farther: Sequence[ClimateCard]


@dataclass(frozen=True)
class WeatherFile(Form):
    """A file of daily weather: its units to choose, the rule for gaps, how the last was read."""

    template = "_weather.html"
    units: Sequence[tuple[str, list[str]]]
    rule: str
    reading: Mapping[str, Any] | None


def climates(sheet: Sheet) -> list[Pane]:
    """The archetypes, each a small chart of its rain and warmth, to pick from."""
    site = sheet.garden.site
    now = site.climate.archetype
    near = sorted(sheet.assessment.library.climates.values(), key=lambda row: (
        row.key != now, abs(row.latitude_deg - site.latitude_deg)))
    cards = [ClimateCard(
        row.key, row.name, row.key == now, sheet.show(row.latitude_deg, "latitude", 0),
        sheet.show(sum(row.rain_mm), "rain"), place.small_climate(row)) for row in near]
    return [Pane(form=Climates(cards[:NEAR_CLIMATES], cards[NEAR_CLIMATES:]))]


def months(sheet: Sheet) -> list[Pane]:
    """The twelve months as fields, and a place to paste a table of them."""
    names = (("rain", "rain_mm"), ("wet days", "wet_days"), ("low", "tmin_c"), ("high", "tmax_c"))
    rows = tuple((MONTHS[m], tuple(
        sheet.fields.at(f"site/climate/{key}/{m}", MONTHS[m], word) for word, key in names))
        for m in range(12))
    units = "mm and °C" if sheet.system == "metric" else "inches and °F"
    return [Pane(chart=charts.rain_and_thirst(sheet)),
            Pane(grid=rows, heads=("", "Rain", "Wet days", "Low", "High"), stays=True),
            Pane(twin=True, table=_climate_table(sheet)),
            Pane(form=Paste(
                "months", "Paste a table of months", "Rain, wet days, lows and highs: a line a "
                "month, or a line for each with twelve numbers. Without units in the heads it is "
                f"read in {units}.", "Put these months in"))]


def years(sheet: Sheet) -> list[Pane]:
    """A dry, a typical and a wet year, and whether the years return the normals."""
    a, site = sheet.assessment, sheet.garden.site
    means, error = monthly_means(a), sampling_error_mm(a)
    rows = tuple((
        MONTHS[m], sheet.show(site.climate.rain_mm[m], "rain"),
        sheet.show(float(means["rain_mm"][m]), "rain"), "± " + sheet.show(float(error[m]), "rain"),
        f"{site.climate.wet_days[m]:.1f}", f"{means['wet_days'][m]:.1f}",
        sheet.show(site.climate.tmin_c[m], "temperature"),
        sheet.show(float(means["tmin_c"][m]), "temperature"),
        sheet.show(site.climate.tmax_c[m], "temperature"),
        sheet.show(float(means["tmax_c"][m]), "temperature")) for m in range(12))
    picked = {name: named_years(a)[name] for name in ("dry", "typical", "wet")}
    rain, eto = (in_water_years(x, a.demand.year_begins)
                 for x in (a.weather.rain_mm, a.weather.eto_mm))
    apart = tuple((name, year_name(a, i), *(sheet.show(float(x[i].sum()), "rain") for x in (
        rain, eto)), sheet.show(int(a.season.short_days[i]), "days"))
        for name, i in picked.items())
    fields = [("site/years", sheet.garden.name), ("site/seed", sheet.garden.name)]
    if site.record:
        fields.insert(0, ("site/reckon_with", sheet.garden.name))
    return [bar(sheet, *fields), Pane(chart=charts.years_apart(sheet)),
            Pane(table=Table("A dry, a typical and a wet year", (
                "Year", "Which", "Rain", "Air takes", "Days short of water"), apart,
                frozenset({2, 3, 4}))),
            Pane(table=Table(
                "Normals, and the means of the years reckoned with", (
                    "Month", "Rain", "in the years", "by chance", "Wet days", "in the years",
                    "Low", "in the years", "High", "in the years"), rows,
                frozenset(range(1, 10))))]


def file(sheet: Sheet) -> list[Pane]:
    """A daily weather file: bring one in, and how the last one was read."""
    units = [(group, list(UNITS[group][1])) for group in ("rain", "tmin", "wind")]
    return [Pane(form=WeatherFile(units, RULE, sheet.reading))]


def levels(sheet: Sheet) -> list[Pane]:
    """The site in plan with its spot heights, and the level of each thing on it."""
    a = sheet.assessment
    things = [(s.name, f"stores/{s.id}") for s in sheet.garden.stores]
    things += [(t.name, sheet.garden.source_path(t.id)) for t in sheet.garden.under_pressure]
    things += [(p.name, f"plots/{p.id}") for p in sheet.garden.plots]
    grid = tuple((name, tuple(sheet.fields.at(f"{path}/{key}", name) for key in
                              ("level_from", "ground_m"))) for name, path in things)
    add = (("spot", "Add a spot height"),)
    spots = tuple((s.name, tuple(sheet.fields.at(f"site/spots/{s.id}/{key}", s.name) for key in
                                 ("at/x_m", "at/y_m", "level_m")))
                  for s in a.garden.site.spots)
    return [Pane(add=add), bar(sheet, ("site/lie", sheet.garden.name)),
            Pane(drawing=place.levels(sheet)),
            *([Pane(grid=spots, heads=("Spot", "East", "North", "Level"))] if spots else []),
            Pane(grid=grid, heads=("What stands there", "Level from", "Ground level"))]
