"""Place: the rain that falls against the thirst of the air."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from euhydra.core.advice import Finding, StationReport, worst_first
from euhydra.core.catch import roof_area_m2
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.reckoning import Reckoning
from euhydra.core.weather.eto import day_length, extraterrestrial_radiation
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY

MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September",
          "October", "November", "December")


def monthly_eto_mm(r: Reckoning) -> NDArray[np.float64]:
    """Mean ETo by month in mm, over the generated years (12,)."""
    eto = r.weather.eto_mm.mean(axis=0)
    return np.array([eto[MONTH_OF_DAY == m].sum() for m in range(12)])


def dry_months(r: Reckoning) -> list[int]:
    """Months whose rain is less than their ETo."""
    rain = np.array(r.garden.site.climate.rain_mm)
    return [int(m) for m in np.flatnonzero(rain < monthly_eto_mm(r))]


def report(r: Reckoning) -> StationReport:
    """What Place says."""
    rain, dry = sum(r.garden.site.climate.rain_mm), dry_months(r)
    verdict = (say("{rain} of rain a year, and in {n} months the air takes more than falls.",
                   rain=Amount(rain, "rain"), n=Amount(len(dry), "count")) if dry else
               say("{rain} of rain a year, more in every month than the air takes.",
                   rain=Amount(rain, "rain")))
    return StationReport("place", "Place", verdict, say("{rain}", rain=Amount(rain, "rain")),
                         _figures(r), worst_first([*_dry_gap(r), _local_rules(r)]))


def _figures(r: Reckoning) -> tuple[Figure, ...]:
    site, eto = r.garden.site, monthly_eto_mm(r)
    rain = np.array(site.climate.rain_mm)
    hottest = int(np.argmax(eto / MONTH_LENGTHS))
    middle = int(np.flatnonzero(MONTH_OF_DAY == hottest)[15]) + 1
    ra = float(extraterrestrial_radiation(site.latitude_deg, middle))
    gap = float(np.maximum(eto - rain, 0).sum())
    generated = float(r.weather.rain_mm.sum(axis=1).mean())
    return (
        Figure("rain_year", "Rain in a year", Amount(float(rain.sum()), "rain"), Working(
            "the twelve months added up",
            tuple(Term(MONTHS[m], Amount(float(rain[m]), "rain")) for m in range(12)),
            "the normals of this place, typed or from the archetype picked", "your entry")),
        Figure("eto_peak", f"Thirst of the air, {MONTHS[hottest]}",
               Amount(float(eto[hottest] / MONTH_LENGTHS[hottest]), "et"), Working(
            "ETo = 0.0023 (Tmean + 17.8) √(Tmax − Tmin) Ra ÷ 2.45, each day, then averaged",
            (Term("low", Amount(site.climate.tmin_c[hottest], "temperature")),
             Term("high", Amount(site.climate.tmax_c[hottest], "temperature")),
             Term("Ra at mid-month", Amount(ra, "radiation"), "FAO-56 eq. 21"),
             Term("day length", Amount(float(day_length(site.latitude_deg, middle)), "hours"))),
            "Hargreaves and Samani 1985, as FAO-56 eq. 52, recalled", "published")),
        Figure("eto_year", "Thirst of the air in a year", Amount(float(eto.sum()), "rain"),
               Working("ETo of every day of 30 generated years, averaged",
                       tuple(Term(MONTHS[m], Amount(float(eto[m]), "rain")) for m in range(12)),
                       "FAO-56 eq. 52, recalled", "published")),
        Figure("dry_gap", "Dry gap", Amount(gap, "rain"), Working(
            "ETo less rain, added over the months where rain is the smaller",
            tuple(Term(MONTHS[m], Amount(float(eto[m] - rain[m]), "rain")) for m in dry_months(r)),
            "a month's rain against a month's ETo", "common practice")),
        Figure("generated_rain", "Rain in the generated years", Amount(generated, "rain"), Working(
            "30 years of daily rain from the normals, averaged; chance alone keeps it from them",
            (Term("normals", Amount(float(rain.sum()), "rain")),
             Term("driest year", Amount(float(r.weather.rain_mm.sum(axis=1).min()), "rain")),
             Term("wettest year", Amount(float(r.weather.rain_mm.sum(axis=1).max()), "rain")),
             Term("seed", Amount(site.seed, "count"))),
            "two-state Markov chain with gamma amounts, Geng, Penning de Vries and Supit 1986, "
            "recalled", "published")),
    )


def _dry_gap(r: Reckoning) -> list[Finding]:
    dry = dry_months(r)
    if len(dry) < 2:
        return []
    worst = max(dry, key=lambda m: monthly_eto_mm(r)[m] - r.garden.site.climate.rain_mm[m])
    rain, eto = r.garden.site.climate.rain_mm[worst], float(monthly_eto_mm(r)[worst])
    return [Finding(
        "place.dry-gap", "note",
        say(f"{MONTHS[worst]} lacks " + "{gap}", gap=Amount(eto - rain, "rain")),
        say("{rain} falls and the air takes {eto}. The barrels have to bridge that.",
            rain=Amount(rain, "rain"), eto=Amount(eto, "rain")))]


def _local_rules(r: Reckoning) -> Finding:
    noted = r.garden.site.local_rules
    return Finding(
        "place.local-rules", "note", Phrase("Ask whether you may collect rain here"),
        say("{area} of roof is meant to be collected from. Most places allow it, some limit it or "
            "ask for a permit: your local code decides."
            + (f" Your note: {quoted(noted)}" if noted else ""),
            area=Amount(sum(roof_area_m2(x) for x in r.garden.roofs), "area")),
        caution=True)
