"""Place: the rain that falls against the thirst of the air."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from euhydra.core.editing.edits import TurnSeasons
from euhydra.core.editing.values import SetValue
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy, StationReport, worst_first
from euhydra.core.weather.eto import day_length, extraterrestrial_radiation
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY
from euhydra.core.weather.hemispheres import across, climate_of

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September",
          "October", "November", "December")
FEW_YEARS = 10


def monthly_eto_mm(r: Results) -> NDArray[np.float64]:
    """Mean ETo by month in mm, over the generated years (12,)."""
    eto = r.weather.eto_mm.mean(axis=0)
    return np.array([eto[MONTH_OF_DAY == m].sum() for m in range(12)])


def dry_months(r: Results) -> list[int]:
    """Months whose rain is less than their ETo."""
    rain = np.array(r.garden.site.climate.rain_mm)
    return [int(m) for m in np.flatnonzero(rain < monthly_eto_mm(r))]


def monthly_means(r: Results) -> dict[str, NDArray[np.float64]]:
    """What the years reckoned with come to by month: rain mm, wet days, low and high °C (12,)."""
    wet = (r.weather.rain_mm > 0).astype(float)
    sums = {"rain_mm": r.weather.rain_mm, "wet_days": wet}
    means = {"tmin_c": r.weather.tmin_c, "tmax_c": r.weather.tmax_c}
    months = [m == MONTH_OF_DAY for m in range(12)]
    return ({key: np.array([x[:, m].sum(axis=1).mean() for m in months])
             for key, x in sums.items()}
            | {key: np.array([x[:, m].mean() for m in months]) for key, x in means.items()})


def sampling_error_mm(r: Results) -> NDArray[np.float64]:
    """Standard error of each month's mean rain over the years (12,): what chance alone does."""
    totals = np.stack([r.weather.rain_mm[:, m == MONTH_OF_DAY].sum(axis=1) for m in range(12)])
    return np.asarray(totals.std(axis=1) / np.sqrt(r.years))


def year_name(r: Results, i: int) -> str:
    """What a water year is called: by its number where it was measured, else by its place."""
    if not (r.measured and r.record):
        return f"generated year {i + 1}"
    year = r.record.first_year + i
    return f"{year}/{(year + 1) % 100:02d}" if r.demand.year_begins else str(year)


def eto_both_mm(r: Results) -> dict[str, NDArray[np.float64]] | None:
    """The record's ETo by month by either method, mm (12,); None without a record of more."""
    if r.record is None or r.record.method == "Hargreaves":
        return None
    site = r.garden.site
    both = {"Penman–Monteith": r.record.penman_monteith(site.latitude_deg, site.altitude_m),
            "Hargreaves": r.record.hargreaves(site.latitude_deg)}
    return {name: np.array([eto[:, m == MONTH_OF_DAY].sum(axis=1).mean() for m in range(12)])
            for name, eto in both.items()}


def report(r: Results) -> StationReport:
    """What Place says."""
    rain, dry = sum(r.garden.site.climate.rain_mm), dry_months(r)
    verdict = (say("{rain} of rain a year, and in {n} months the air takes more than falls.",
                   rain=Amount(rain, "rain"), n=Amount(len(dry), "count")) if dry else
               say("{rain} of rain a year, more in every month than the air takes.",
                   rain=Amount(rain, "rain")))
    return StationReport("place", "Place", verdict, say("{rain}", rain=Amount(rain, "rain")),
                         _figures(r), worst_first([*_dry_gap(r), *_short_record(r),
                                                   *_record_gone(r), *_turned(r),
                                                   *_local_rules(r)]))


def _figures(r: Results) -> tuple[Figure, ...]:
    site, eto = r.garden.site, monthly_eto_mm(r)
    rain = np.array(site.climate.rain_mm)
    hottest = int(np.argmax(eto / MONTH_LENGTHS))
    middle = int(np.flatnonzero(MONTH_OF_DAY == hottest)[15]) + 1
    ra = float(extraterrestrial_radiation(site.latitude_deg, middle))
    gap = float(np.maximum(eto - rain, 0).sum())
    generated = float(r.weather.rain_mm.sum(axis=1).mean())
    method, formula, source = _method(r)
    soil = r.library.soils[site.soil]
    figures = [
        Figure("rain_year", "Rain in a year", Amount(float(rain.sum()), "rain"), Working(
            "the twelve months added up",
            tuple(Term(MONTHS[m], Amount(float(rain[m]), "rain")) for m in range(12)),
            "the normals of this place, typed or from the archetype picked", "your entry")),
        Figure("eto_peak", f"Thirst of the air, {MONTHS[hottest]}",
               Amount(float(eto[hottest] / MONTH_LENGTHS[hottest]), "et"), Working(
            formula,
            (Term("low", Amount(site.climate.tmin_c[hottest], "temperature")),
             Term("high", Amount(site.climate.tmax_c[hottest], "temperature")),
             Term("Ra at mid-month", Amount(ra, "radiation"), "FAO-56 eq. 21"),
             Term("day length", Amount(float(day_length(site.latitude_deg, middle)), "hours"))),
            source, "published")),
        Figure("eto_year", "Thirst of the air in a year", Amount(float(eto.sum()), "rain"),
               Working(f"ETo of every day of {r.years} years by {method}, averaged",
                       tuple(Term(MONTHS[m], Amount(float(eto[m]), "rain")) for m in range(12)),
                       source, "published")),
        Figure("dry_gap", "Dry gap", Amount(gap, "rain"), Working(
            "ETo less rain, added over the months where rain is the smaller",
            tuple(Term(MONTHS[m], Amount(float(eto[m] - rain[m]), "rain")) for m in dry_months(r)),
            "a month's rain against a month's ETo", "common practice")),
        Figure("soil_holds", f"{soil.name} holds for plants",
               Amount(1000 * soil.available, "rain"), Working(
            "(water at field capacity − water at wilting point) × depth",
            (Term("depth", Amount(1.0, "length")),
             Term("field capacity", Amount(soil.field_capacity, "share")),
             Term("wilting point", Amount(soil.wilting_point, "share")),
             Term("soaks in an hour", Amount(soil.soaks_mm_h, "rain"))),
            soil.source, soil.standing)),
        _years_rain(r, generated)]
    if both := eto_both_mm(r):
        one, other = both["Penman–Monteith"].sum(), both["Hargreaves"].sum()
        figures.insert(2, Figure(
            "eto_other", "The same by Hargreaves", Amount(float(other), "rain"), Working(
                "from the temperatures alone, beside Penman–Monteith from all that was measured",
                (Term("Penman–Monteith", Amount(float(one), "rain")),
                 Term("Hargreaves", Amount(float(other), "rain"))),
                "FAO-56 eq. 6 and eq. 52, recalled", "published")))
    return tuple(figures)


def _method(r: Results) -> tuple[str, str, str]:
    """Name, formula and source of the ETo reckoned with."""
    if r.measured and r.record and r.record.method != "Hargreaves":
        return ("Penman–Monteith", "ETo = (0.408 Δ (Rn − G) + γ 900 ÷ (T + 273) u₂ (es − ea)) ÷ "
                "(Δ + γ (1 + 0.34 u₂)), each day, then averaged", "FAO-56 eq. 6, recalled; what "
                "was not measured is estimated as its chapter 3 says")
    return ("Hargreaves",
            "ETo = 0.0023 (Tmean + 17.8) √(Tmax − Tmin) Ra ÷ 2.45, each day, then averaged",
            "Hargreaves and Samani 1985, as FAO-56 eq. 52, recalled")


def _years_rain(r: Results, mean: float) -> Figure:
    site, totals = r.garden.site, r.weather.rain_mm.sum(axis=1)
    spread = (Term("driest year", Amount(float(totals.min()), "rain")),
              Term("wettest year", Amount(float(totals.max()), "rain")))
    if r.measured:
        return Figure("generated_rain", "Rain in the measured years", Amount(mean, "rain"), Working(
            f"{r.years} years as measured, averaged", spread, "the daily file you gave",
            "your entry"))
    return Figure("generated_rain", "Rain in the generated years", Amount(mean, "rain"), Working(
        f"{r.years} years of daily rain from the normals, averaged; chance alone keeps it from "
        "them", (Term("normals", Amount(float(sum(site.climate.rain_mm)), "rain")), *spread,
                 Term("seed", Amount(site.seed, "count"))),
        "two-state Markov chain with gamma amounts, Geng, Penning de Vries and Supit 1986, "
        "recalled", "published"))


def _short_record(r: Results) -> list[Finding]:
    if not r.measured or r.years >= FEW_YEARS:
        return []
    edit = SetValue("site/reckon_with", "normals")
    return [Finding(
        "place.short-record", "care",
        say("{n:measured year|measured years} are few to judge by", n=Amount(r.years, "count"))
        if r.years > 1 else Phrase("One measured year is little to judge by"),
        say("A dry year in ten may not be among them; {few} years or more tell more (from memory). "
            "The generator makes any number of years with the same monthly means.",
            few=Amount(FEW_YEARS, "count")),
        (Remedy("generate", say("Reckon with {n} generated years",
                                n=Amount(r.garden.site.years, "count")),
                say("given by rain {s}", s=Amount(
                    r.after(edit).season.rain_share, "share")), edit),))]


def _record_gone(r: Results) -> list[Finding]:
    site = r.garden.site
    if not site.record or r.record is not None:
        return []
    return [Finding(
        "place.record-gone", "care", Phrase("The daily weather of this garden is not here"),
        say("It was reckoned with a file that did not come along. {n} years from its monthly means "
            "stand in; read the file again to have it back.", n=Amount(r.years, "count")))]


def _turned(r: Results) -> list[Finding]:
    """A climate that was picked from the other half of the world."""
    site = r.garden.site
    row = r.library.climates.get(site.climate.archetype)
    if row is None or not across(row.latitude_deg, site.latitude_deg):
        return []
    half = "north" if row.latitude_deg > 0 else "south"
    if site.climate != climate_of(row):
        return [Finding(
            "place.turned", "note", Phrase(f"{quoted(row.name)} is turned by six months"),
            Phrase(f"It lies {half} of the equator and this garden does not: its months, frosts "
                   "and planting dates stand half a year on."))]
    edit = TurnSeasons()
    return [Finding(
        "place.wrong-half", "stop", Phrase(f"The months are those {half} of the equator"),
        Phrase(f"This garden lies in the other half of the world, and {quoted(row.name)} has its "
               "summer when winter is here."),
        (Remedy("turn", Phrase("Turn the year by six months"),
                Phrase("months, frosts and planting dates"), edit),))]


def _dry_gap(r: Results) -> list[Finding]:
    dry = dry_months(r)
    if len(dry) < 2:
        return []
    worst = max(dry, key=lambda m: monthly_eto_mm(r)[m] - r.garden.site.climate.rain_mm[m])
    rain, eto = r.garden.site.climate.rain_mm[worst], float(monthly_eto_mm(r)[worst])
    return [Finding(
        "place.dry-gap", "note",
        say(f"{MONTHS[worst]} lacks " + "{gap}", gap=Amount(eto - rain, "rain")),
        say("{rain} falls and the air takes {eto}. "
            + (f"The {r.garden.vessel}s have" if r.garden.stores else "Watering has")
            + " to bridge that.",
            rain=Amount(rain, "rain"), eto=Amount(eto, "rain")))]


def _local_rules(r: Results) -> list[Finding]:
    noted = r.garden.site.local_rules
    if not r.garden.roofs:
        return []
    return [Finding(
        "place.local-rules", "note", Phrase("Ask whether you may collect rain here"),
        say("{area} of roof is meant to be collected from. Most places allow it, some limit it or "
            "ask for a permit: your local code decides."
            + (f" Your note: {quoted(noted)}" if noted else ""),
            area=Amount(sum(x.area_m2 for x in r.garden.roofs), "area")),
        caution=True)]
