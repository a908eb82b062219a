"""Catch: what the roofs bring."""

from __future__ import annotations

import numpy as np

from euhydra.core import catch
from euhydra.core.advice import Finding, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.reckoning import Reckoning
from euhydra.core.weather.generator import MONTH_OF_DAY

STORM_RATES_MM_H = (10.0, 25.0, 50.0, 75.0)


def yearly_losses(r: Reckoning) -> dict[str, float]:
    """Litres a year: fell, lost on the roof, first flush, led elsewhere, caught."""
    names = ("fell_l", "lost_l", "flushed_l", "astray_l", "caught_l")
    return {name: float(sum(getattr(y, name).sum() for y in r.yields.values())) / r.years
            for name in names}


def monthly_catch_l(r: Reckoning) -> list[float]:
    """Mean litres caught in each month."""
    daily = r.inflow_l.mean(axis=0)
    return [float(daily[MONTH_OF_DAY == m].sum()) for m in range(12)]


def storm_minutes(r: Reckoning) -> dict[float, float]:
    """Minutes to fill the empty barrels at each steady rain rate, mm/h."""
    runoff = sum(catch.roof_area_m2(x) * catch.runoff_share(x, r.library)
                 * sum(d.share for d in x.downspouts if d.to) for x in r.garden.roofs)
    whole = sum(bank.capacity_l for bank in r.banks.banks)
    return {rate: catch.minutes_to_fill(whole, runoff, 1.0, rate)
            for rate in STORM_RATES_MM_H}


def report(r: Reckoning) -> StationReport:
    """What Catch says."""
    caught = yearly_losses(r)["caught_l"]
    wanted = float(r.demand_l.sum()) / r.years
    verdict = (say("The roof brings {caught} a year, {times} times what the garden drinks.",
                   caught=Amount(caught, "yearly"),
                   times=Amount(caught / wanted if wanted else 0, "ratio", 1))
               if wanted and caught >= wanted else
               say("The roof brings {caught} a year; the garden drinks {wanted}.",
                   caught=Amount(caught, "yearly"), wanted=Amount(wanted, "yearly")))
    return StationReport("catch", "Catch", verdict, say("{v}", v=Amount(caught, "yearly")),
                         _figures(r, wanted), worst_first([
                             *_too_little(r, caught, wanted), *_material(r), _drilling()]))


def _figures(r: Reckoning, wanted: float) -> tuple[Figure, ...]:
    loss, storm = yearly_losses(r), storm_minutes(r)
    area = sum(catch.roof_area_m2(x) for x in r.garden.roofs)
    roof_terms = tuple(t for x in r.garden.roofs for t in (
        Term(x.name, Amount(catch.roof_area_m2(x), "area"), "plan area"),
        Term("runoff coefficient",
             Amount(r.library.roof_materials[x.material].runoff, "ratio"),
             r.library.roof_materials[x.material].source),
        Term("first flush", Amount(x.first_flush_mm, "depth"), "each event")))
    driest = int(np.argmin(monthly_catch_l(r)))
    return (
        Figure("caught_year", "Reaches the barrels in a year", Amount(loss["caught_l"], "yearly"),
               Working("plan area × rain × runoff coefficient, less first flush per event",
                       (*roof_terms, Term("fell on the roof", Amount(loss["fell_l"], "yearly")),
                        Term("lost on the roof", Amount(-loss["lost_l"], "yearly")),
                        Term("first flush", Amount(-loss["flushed_l"], "yearly")),
                        Term("led elsewhere", Amount(-loss["astray_l"], "yearly"))),
                       "rainwater manuals, recalled; 1 mm on 1 m² is 1 L", "published")),
        Figure("wanted_year", "The garden drinks in a year", Amount(wanted, "yearly"), Working(
            "each plot's need after rain ÷ its zone's efficiency, day by day",
            (Term("plots' need", Amount(float(sum(t.net_l.sum() for t in r.thirsts.values()))
                                        / r.years, "yearly")),),
            "root-zone balance by day, FAO-56 eq. 85, recalled", "published")),
        Figure("roof_area", "Roof in plan", Amount(area, "area"),
               Working("length × width as seen from above, whatever the slope", roof_terms[::3],
                       "your entry", "your entry")),
        Figure("driest_month", "Caught in the driest month",
               Amount(monthly_catch_l(r)[driest], "volume"),
               Working("mean of that month over 30 generated years", (),
                       "behaviour of the roof by day", "published")),
        Figure("storm_fill_25", "Heavy rain fills the barrels in", Amount(storm[25.0], "minutes"),
               Working("volume ÷ (runoff coefficient × rain rate × area): Q = C·i·A",
                       (Term("barrels", Amount(sum(b.capacity_l for b in r.banks.banks), "volume")),
                        Term("rain rate an hour", Amount(25, "rain")), Term("roof",
                                                                    Amount(area, "area"))),
                       "rational method, recalled", "published")),
    )


def _too_little(r: Reckoning, caught: float, wanted: float) -> list[Finding]:
    if caught >= wanted:
        return []
    return [Finding(
        "catch.too-little", "care", Phrase("The roof cannot feed this garden, whatever the store"),
        say("It brings {caught} a year and the garden drinks {wanted}. Collect from more roof, "
            "water less ground, or count on the tap.",
            caught=Amount(caught, "yearly"), wanted=Amount(wanted, "yearly")))]


def _material(r: Reckoning) -> list[Finding]:
    return [Finding(
        "catch.material", "note", Phrase(f"{quoted(roof.name)}: mind what the roof gives off"),
        say(material.caution.replace("{", "").replace("}", "")
            + " {area} of it drains to the barrels.",
            area=Amount(catch.roof_area_m2(roof), "area")), caution=True)
        for roof in r.garden.roofs
        if (material := r.library.roof_materials[roof.material]).caution]


def _drilling() -> Finding:
    return Finding(
        "catch.drilling", "note", Phrase("Cutting the downspout: eyes, edges, ladder"),
        say("The diverter's hole is drilled {below} under the mark level with the barrel's top, "
            "in the middle of the downspout. Wear glasses and gloves; the edges are sharp. Foot "
            "the ladder on firm ground.", below=Amount(0.05, "small")), caution=True)
